# frozen_string_literal: true

module Vumbral
  module Away
    # What a worker elsewhere keeps of the server's data folder: files come when they are asked for, and the longest
    # unused go.
    class Home < Studio::Home
      FETCHED = (Studio::Farm::Outputs::READ - %w[views elements surfaces]).freeze
      # What surfaces are made of.
      OUTLINES = %r{\Asurfaces/.*\.json\z}
      # What was asked for in vain is asked for again after so many seconds.
      GONE = 5.0

      attr_accessor :outbox

      # @param link [Link]; @param room [Integer] bytes that files may take
      def initialize(path, link, room)
        super(path)
        @link, @room = link, room
        @gone = {}
      end

      def within(*parts)
        super.tap { |path| bring(path) }
      end

      def like(folder, pattern)
        super ||
          @link
            .ask("/api/farm/like?folder=#{name(folder)}&start=#{pattern.delete("*")}")
            &.then { |found| within(found["name"]) }
      end

      def write(path, bytes)
        super.tap { |made| @outbox&.put(name(made)) }
      end

      # @return [Boolean] whether a file was asked for in vain
      def missed?(name) = @gone.key?(name)

      # Asks again for what was not there a moment ago.
      def forget = @gone.clear

      # Lets the longest unused files go where there is too much.
      def thin_out
        files =
          Studio::Farm::Outputs::READ
            .flat_map { |folder| Dir[File.join(path, folder, "**", "*")] }
            .select { |file| File.file?(file) }
            .map { |file| [File.atime(file), File.size(file), file] }
        over = files.sum { |row| row[1] } - @room
        files.sort.each do |_, size, file|
          break if over <= 0

          FileUtils.rm_f(file)
          over -= size
        end
      end

      # @return [String] of a file in the folder
      def name(file) = file.delete_prefix("#{path}/")

      private

      def bring(path)
        return if File.exist?(path) || !File.extname(path).match?(/\A\.[a-z]+\z/) || path.include?("*")

        name = name(path)
        now = Process.clock_gettime(Process::CLOCK_MONOTONIC)
        return unless FETCHED.include?(name[%r{\A[^/]+}]) || name.match?(OUTLINES)
        return if now - @gone.fetch(name, -GONE) < GONE

        @gone[name] = now unless @link.fetch(name, path)
      end
    end
  end
end
