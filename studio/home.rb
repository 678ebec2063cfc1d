# frozen_string_literal: true

require "fileutils"
require "securerandom"

module Vumbral
  module Studio
    # The data folder: where everything that must last is kept.
    class Home
      attr_reader :path

      # @param path [String] made if it is not there
      def initialize(path)
        @path = File.expand_path(path)
        FileUtils.mkdir_p(@path)
        unless File.writable?(@path)
          raise Refused.new("The data folder #{@path} cannot be written; choose another with --home.",
            code: "home_not_writable")
        end
      rescue SystemCallError => error
        raise Refused.new(
          "The data folder #{@path} cannot be made (#{error.message.split(" @").first}); choose another with " \
            "--home.",
          code: "home_not_writable"
        )
      end

      # @return [String] a name of its own, by which others know the folder
      def id
        path = within("id")
        write(path, SecureRandom.hex(6)) unless File.exist?(path)
        File.read(path)[/\A\h{12}/] ||
          raise(Refused.new("The file #{path} is damaged; take it away, and start again.", code: "damaged"))
      end

      # @return [String, nil] the first file of a folder that a pattern fits
      def like(folder, pattern) = Dir[File.join(folder, pattern)].min

      def database = File.join(@path, "vumbral.sqlite3")

      # A place inside the folder, and never outside it.
      # @raise [Refused] for a name that leads elsewhere
      def within(*parts)
        if parts.none? { |part| part.to_s.include?("\0") || part.to_s.split("/").include?("..") }
          full = File.expand_path(File.join(@path, *parts.map(&:to_s)))
          return full if full.start_with?("#{@path}/")
        end
        raise Refused.new("#{parts.last.to_s[0, 60].inspect} is no name for a file in the data folder.",
          code: "bad_path")
      end

      # Writes whole or not at all: to a temporary name first, then renamed.
      # @raise [Refused] when the disk is full
      def write(path, bytes)
        folder = File.dirname(path)
        FileUtils.mkdir_p(folder) unless Dir.exist?(folder)
        temporary = "#{path}.#{Process.pid}-#{rand(1 << 32).to_s(36)}.part"
        File.binwrite(temporary, bytes)
        File.rename(temporary, path)
        path
      rescue Errno::ENOSPC, Errno::EDQUOT
        FileUtils.rm_f(temporary) if temporary
        spend_reserve
        raise Refused.new(
          "The disk is full: #{bytes.bytesize / 1024} KB could not be written. #{REMEDY}", code: "disk_full"
        )
      end

      REMEDY = "What was finished is kept; free some space and start again."
      # So much is held back, so that on a full disk it can still be written down what happened.
      RESERVE = 4 * 1024 * 1024

      # Lays the reserve aside, unless it is there. @return [Boolean] whether there is room for it
      def reserve
        return true if File.size?(reserve_path) == RESERVE

        # There has to be as much room again, or the reserve would be laid aside out of itself.
        File.binwrite(reserve_path, Random.bytes(2 * RESERVE))
        File.truncate(reserve_path, RESERVE)
        true
      rescue Errno::ENOSPC, Errno::EDQUOT
        spend_reserve
        false
      end

      # Gives the reserve back to the disk.
      def spend_reserve
        @looked = nil
        FileUtils.rm_f(reserve_path)
      end

      FULL = "The disk with the data folder is full; free some space, and work goes on by itself."
      # Looked at anew after so many seconds.
      LOOK = 2.0

      # @param now [Float] seconds
      # @return [String, nil] a sentence while the disk is full
      def trouble(now)
        @looked, @room = now, reserve unless @looked && (now - @looked).abs < LOOK
        @room ? nil : FULL
      end

      # Lets the oldest files of a folder go. @param kept [Integer] how many stay
      def thin(pattern, kept)
        files = Dir[pattern].sort_by { |file| File.mtime(file) }
        FileUtils.rm_f(files[0...-kept] || [])
      end

      # Takes away what writers that were stopped left half done.
      def sweep
        Dir[File.join(@path, "**", "*.part")].each { |part| FileUtils.rm_f(part) if Time.now - File.mtime(part) > 60 }
      end

      private

      def reserve_path = File.join(@path, "reserve")
    end
  end
end
