# frozen_string_literal: true

module Vumbral
  module Away
    # The studio of a worker elsewhere: it has in its folder what it fetched, and writes down what came with its jobs.
    class Workshop < Studio::Workshop
      # Frames of runs, of which the server knows whether they are there.
      class Frames < Studio::FrameStore
        def frame?(key) = super || there_too?(key)

        def there(keys) = super | keys.select { |key| there_too?(key) }

        # It is there, if it can be fetched; a whole run is not fetched to look at that.
        def mend(key, told = nil) = frame?(key)

        def write(key, frame, bricks, plan, facts, **how)
          super.tap do
            if @workshop.sends?(key)
              @workshop.outbox&.tell("/api/farm/jobs/#{@workshop.job}/frames", {key: key, facts: facts})
            end
          end
        end

        private

        def there_too?(key) = @workshop.known?("frames/#{key[0, 2]}/#{key}.frame")
      end

      # Frames as the view takes them.
      class Views < Studio::Views
        def made?(key, light) = super || @workshop.known?("views/#{key[0, 2]}/#{key}-#{light}.gz")
      end

      # What somebody brought, and what is known of it.
      class Assets < Studio::Assets
        def fetch(digest)
          super
        rescue Refused
          raise unless @workshop.row("assets", digest)

          super
        end
      end

      # What is told of frames is passed on; the rest is nobody's here.
      class Events < Studio::Events
        def tell(kind, _shot, **data)
          return 0 unless @workshop.outbox && Studio::Farm::Foreman::TOLD.include?(kind)

          @workshop.outbox.tell("/api/farm/jobs/#{@workshop.job}/events", {kind: kind, data: data})
          0
        end
      end

      # Work is not divided any further here.
      class Alone
        def any? = false

        def working = []
      end

      attr_reader :link, :outbox, :job

      # @param path [String] of the folder; @param room [Integer] bytes that fetched files may take
      def initialize(path, link, room: 20 << 30)
        super(path, redis: nil)
        @link = link
        @home = Home.new(path, link, room)
        @known = {}
      end

      def frames = @frames ||= Frames.new(self)

      def views = @views ||= Views.new(self)

      def assets = @assets ||= Assets.new(self)

      def events = @events ||= Events.new(self)

      def jobs = @jobs ||= Jobs.new(self)

      def machines = @machines ||= Alone.new

      def elsewhere? = true

      # Makes ready for a job.
      # @param parcel [Hash] see {Studio::Farm::Parcel#to_h}
      def open(parcel)
        @job = parcel["job"]["id"]
        @home.forget
        @known = parcel["known"].transform_keys { |key| "frames/#{key[0, 2]}/#{key}.frame" }
        @makes = parcel["known"].keys.to_set
        parcel["rows"].each { |table, rows| rows.each { |row| put(table, row) } }
        %i[@caches @strips @runs @shots @sculpts @liquids @plates].each do |memo|
          remove_instance_variable(memo) if instance_variable_defined?(memo)
        end
        @outbox = @home.outbox = Outbox.new(@link, @home, @job, parcel["outputs"], @makes.any?)
        jobs.take(parcel["job"])
      end

      # Ends a job.
      def close
        @outbox&.drop
        @outbox = @home.outbox = nil
        @home.thin_out
      end

      # @return [Boolean] whether a frame that is written is one of the job's
      def sends?(key) = @makes&.include?(key)

      # @param name [String] of a file; @return [Boolean] whether the server has it
      def known?(name)
        @known[name] = @link.there?(name) unless @known.key?(name)
        @known[name] && !@home.missed?(name)
      end

      # A row that did not come along. @return [Boolean] whether the server has it
      def row(table, digest)
        found = @link.ask("/api/farm/rows/#{table}/#{digest}") or return false
        put(table, found)
        true
      rescue Refused
        false
      end

      private

      def put(table, row)
        columns = @db[table.to_sym].columns.map(&:to_s)
        @db[table.to_sym].insert_conflict(:replace).insert(row.slice(*columns).transform_keys(&:to_sym))
      end
    end
  end
end
