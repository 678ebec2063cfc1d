# frozen_string_literal: true

require "json"

module Vumbral
  module Studio
    # What the data folder holds, and how much of it there may be.
    class Room
      # What takes room, by folder: what it is, and whether it can be made again from the shots.
      PARTS = {"frames" => ["Frames of runs and sculpts", false], "views" => ["Frames as the view takes them", true],
               "bodies" => ["Props as the view takes them", true], "fogs" => ["Fog as the view takes it", true],
               "glances" => ["First looks", true], "proxies" => ["Smaller pictures of plates", true],
               "elements" => ["Pictures that layers lie over each other", true],
               "strips" => ["Pictures of test strips", true],
               "sketches" => ["Small pictures of steps", true], "reels" => ["Moving pictures of the shelf", true],
               "runs" => ["Small pictures of runs", true], "clips" => ["Movies of the view", true],
               "prints" => ["Prints", false], "sheets" => ["Contact sheets", false],
               "exports" => ["Exports in the data folder", false],
               "meshes" => ["Meshes that were brought", false], "pictures" => ["Pictures that were brought", false],
               "plates" => ["Plates that were brought", false], "volumes" => ["Volumes that were brought", false],
               "tables" => ["Look-up tables", false]}.freeze
      LEAST = 1 << 28

      def initialize(workshop)
        @workshop = workshop
      end

      # @return [Hash] :parts (name, label, bytes, whether it can be made again), :limit (bytes or nil), :free on the
      #   disk, :stale (frames that no shot needs as it stands, and their bytes)
      def of
        parts =
          PARTS
            .map { |name, (label, again)| {name: name, label: label, bytes: bytes(name), again: again} }
            .select { |part| part[:bytes].positive? }
        spare = spare()
        {parts: parts, limit: limit, free: free, stale: {frames: spare.size, bytes: spare.sum { |_, size, _| size }}}
      end

      # @return [Integer, nil] how much frames may take, bytes; nil for as much as there is
      def limit = File.exist?(path) ? JSON.parse(File.read(path))["limit"] : nil

      # @param bytes [Integer, nil] see {#limit}
      # @return [Integer] how many bytes were given back at once
      # @raise [Refused] for less than is of use
      def limit=(bytes)
        if bytes && bytes < LEAST
          raise Refused.new("Frames need at least #{LEAST >> 20} MB; give more, or no limit.", code: "out_of_range")
        end

        @workshop.home.write(path, JSON.generate(limit: bytes))
      end

      # Lets frames go that no shot needs as it stands, the oldest first, until there is less than the limit.
      # @return [Integer] bytes that were given back
      def keep_within
        most = limit or return 0
        over = bytes("frames") - most
        return 0 if over <= 0

        gone = spare.each_with_object([]) { |row, taken| taken << row if taken.sum { |_, size, _| size } < over }
        @workshop.holdings.let_go(gone.map(&:first))
        gone.sum { |_, size, _| size }
      end

      # Gives room back.
      # @param what [String] a name of {PARTS} that can be made again, or "stale": frames that no shot needs as it
      #   stands
      # @return [Integer] bytes
      # @raise [Refused] for what cannot be made again
      def clear(what)
        if what == "stale"
          return spare.tap { |rows| @workshop.holdings.let_go(rows.map(&:first)) }.sum { |_, size, _| size }
        end
        unless PARTS.dig(what, 1)
          raise Refused.new(
            "#{PARTS.dig(what, 0) || what.to_s[0, 40].inspect} cannot be made again, so it is not thrown away " \
              "from here.",
            code: "bad_value"
          )
        end

        bytes(what).tap { FileUtils.rm_rf(Dir[@workshop.home.within(what, "*")]) }
      end

      private

      def path = @workshop.home.within("room.json")

      def bytes(name) =
        Dir[@workshop.home.within(name, "**", "*")].sum { |file| File.file?(file) ? File.size(file) : 0 }

      # As the disk has it.
      def free
        line = IO.popen(["df", "-Pk", @workshop.home.path], err: File::NULL, &:read).lines.last.to_s.split
        line[3].to_i * 1024
      rescue SystemCallError
        nil
      end

      # Frames that no shot has as it stands. @return [Array<Array(String, Integer, Time)>] key, bytes and when it was
      # made, the oldest first
      def spare
        # What work that waits or goes on was asked of stays as well.
        asked = @workshop.jobs.active.flat_map { |job| job[:payload].scan(/[0-9a-f]{16,}/) }
        needed = (@workshop.holdings.needed + asked).to_set
        kept =
          Dir[@workshop.home.within("frames", "**", "*")]
            .select { |file| File.file?(file) }
            .group_by { |file| File.basename(file)[/\A[0-9a-f]+/].to_s }
        kept
          .reject { |key, _| key.empty? || needed.include?(key) }
          .map { |key, files| [key, files.sum { |file| File.size(file) }, files.map { |file| File.mtime(file) }.min] }
          .sort_by(&:last)
      rescue Errno::ENOENT
        # A run that goes on has taken one away meanwhile.
        retry
      end
    end
  end
end
