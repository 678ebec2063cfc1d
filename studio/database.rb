# frozen_string_literal: true

require "sequel"

Sequel.extension :migration

module Vumbral
  module Studio
    # Opens the data folder's SQLite file and brings it to the present shape.
    module Database
      # What is raised when the data cannot be read or written.
      Error = Sequel::DatabaseError
      # Milliseconds to wait for another writer.
      PATIENCE = 10_000

      # Tells whether anybody wrote anything, a hundred times as quickly as one finds out what: for those who ask again
      # and again.
      class Changes
        # @param path [String] of the file, which is open elsewhere in this process
        def initialize(path)
          @version_now = SQLite3::Database.new(path, readonly: true).prepare("PRAGMA data_version")
        end

        # @return [Boolean] whether there is anything since it was last asked; also the first time, and where it cannot
        #   be told
        def any?
          before = @version
          (@version = @version_now.step[0]) != before
        rescue SQLite3::Exception
          true
        ensure
          @version_now.reset!
        end
      end

      module_function

      # @param path [String]
      # @return [Sequel::Database]
      def open(path)
        db = Sequel.sqlite(path, max_connections: 16, after_connect: method(:prepare))
        # Several processes start together; one of them migrates, the others wait for it.
        File.open("#{path}.lock", File::CREAT | File::RDWR) do |lock|
          lock.flock(File::LOCK_EX)
          Sequel::Migrator.run(db, File.join(__dir__, "migrations"))
        end
        db
      rescue Sequel::Migrator::Error
        raise Refused.new(
          "The data in #{File.dirname(path)} was written by a newer Vumbral; update Vumbral to open it.",
          code: "newer_version"
        )
      rescue Sequel::DatabaseError => error
        raise Refused.new(
          "The data file #{path} cannot be opened (#{error.message.lines.first.strip}); move it away to begin " \
            "anew.",
          code: "bad_database"
        )
      end

      # Whether an error says that there is no room left.
      def full?(error) = error.is_a?(Error) && error.message.include?("full")

      # SQLite's own waiting would hold Ruby's lock, which the writer waited for may need.
      def prepare(connection)
        connection.busy_handler_timeout = PATIENCE
        ["PRAGMA journal_mode=WAL", "PRAGMA synchronous=NORMAL",
          "PRAGMA foreign_keys=ON"].each { |line| connection.execute(line) }
      end
      private_class_method :prepare
    end
  end
end
