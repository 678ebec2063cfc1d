# frozen_string_literal: true

module Vumbral
  module Away
    # Does jobs for a server elsewhere, one at a time.
    class Hand < Studio::Worker
      # Between two looks whether there is work, seconds; without Redis nobody calls.
      LOOK = 0.25
      # Others have the job by now, or nobody wants it any more.
      GONE = %w[not_yours unknown_job].freeze

      # @param workshop [Workshop]; @param facts [Hash] of this machine, see {Studio::Farm::Machines#welcome}
      # @param lanes [Array<String>]
      def initialize(workshop, facts, lanes: Studio::Farm::Tickets::LANES)
        super(workshop, lanes: lanes)
        @facts = facts
        @one = Mutex.new
      end

      # Says who it is. @return [Hash] what the server says of itself
      # @raise [Refused]
      def greet = @workshop.link.ask("/api/farm/machines", @facts.merge(version: Studio::Farm::Version.own))

      # Asks for a job of some lanes, and does it.
      # @return [Boolean] whether there was one
      # @raise [Refused, Link::Lost]
      def take(lanes = @lanes)
        @one.synchronize do
          parcel = @workshop.link.ask("/api/farm/claim", {version: Studio::Farm::Version.own, lanes: lanes}) or
            return false
          do_parcel(parcel)
          true
        end
      end

      # Works until told to stop, looking for work by itself.
      # @yield [sentence] what is in the way, and when it is over
      def run_alone
        until stopping?
          begin
            took = take
            yield nil if block_given?
            sleep LOOK unless took
          rescue Link::Lost => error
            yield error.message if block_given?
            sleep 1.0
          end
        end
      end

      # @return [Boolean] whether it has nothing in hand
      def idle? = !@one.locked?

      # @return [Refused, nil] what only people can do something about
      attr_reader :refusal

      # @param error [Refused]
      def refused(error) = @refusal = error

      private

      def do_parcel(parcel)
        @workshop.open(parcel)
        # Asked for by symbols, as a row is.
        work(parcel["job"].transform_keys(&:to_sym).merge(sums: nil))
      rescue Refused => error
        raise unless GONE.include?(error.code)
      ensure
        @workshop.close
      end

      # The server does the rest.
      def settle(_task, _work, result) = result

      # A line that is gone is nothing that went wrong with the work.
      def fail_with(job, error)
        raise error if error.is_a?(Link::Lost)

        super
      end
    end
  end
end
