# frozen_string_literal: true

require "fileutils"

module Vumbral
  module Studio
    # The data folder: where everything that must last is kept.
    class Home
      attr_reader :path

      # @param path [String] made if it is not there
      def initialize(path)
        @path = File.expand_path(path)
        FileUtils.mkdir_p(@path)
        raise Refused.new("The data folder #{@path} cannot be written; choose another with --home.", code: "home_not_writable") unless File.writable?(@path)
      rescue SystemCallError => error
        raise Refused.new("The data folder #{@path} cannot be made (#{error.message.split(" @").first}); choose another with --home.", code: "home_not_writable")
      end

      def database = File.join(@path, "vumbral.sqlite3")

      # A place inside the folder, and never outside it.
      # @raise [Refused] for a name that leads elsewhere
      def within(*parts)
        if parts.none? { |part| part.to_s.include?("\0") || part.to_s.split("/").include?("..") }
          full = File.expand_path(File.join(@path, *parts.map(&:to_s)))
          return full if full.start_with?("#{@path}/")
        end
        raise Refused.new("#{parts.last.to_s[0, 60].inspect} is no name for a file in the data folder.", code: "bad_path")
      end

      # Writes whole or not at all: to a temporary name first, then renamed.
      # @raise [Refused] when the disk is full
      def write(path, bytes)
        FileUtils.mkdir_p(File.dirname(path))
        temporary = "#{path}.#{Process.pid}-#{rand(1 << 32).to_s(36)}.part"
        File.binwrite(temporary, bytes)
        File.rename(temporary, path)
        path
      rescue Errno::ENOSPC, Errno::EDQUOT
        FileUtils.rm_f(temporary) if temporary
        raise Refused.new("The disk is full: #{bytes.bytesize / 1024} KB could not be written. What was finished is kept; free some space and start again.", code: "disk_full")
      end
    end
  end
end
