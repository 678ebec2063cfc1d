# frozen_string_literal: true

require "sidekiq/embedded"

module Vumbral
  module Away
    # Waits for calls through Redis, and does the work that they call to. Sidekiq takes them, tries those again whose
    # server could not be reached, and lays aside those that came to nothing.
    class Called
      # Between two looks whether all is well, seconds; told to stop, what is in hand has so long.
      LOOK, GRACE = 0.5, 2
      # It is asked so often whether the server knows this machine still, seconds.
      GREET = 10.0

      # @param url [String] of Redis; @param home [String] the server's data folder; @param lanes [Array<String>];
      #   @param hand [Hand]
      # @yield [sentence] what is in the way; nothing when it is over
      def initialize(url, home, lanes, hand, &told)
        @hand, @told, @url = hand, told, url
        @tickets = Studio::Farm::Tickets.new(url, home)
        Studio::Farm::Ticket.hand = hand
        config = Studio::Farm::Tickets.config(url, timeout: nil)
        config.concurrency = 1
        config.queues = lanes.map { |lane| Studio::Farm::Tickets.queue(home, lane) }
        config[:timeout] = GRACE
        @engine = Sidekiq::Embedded.new(config)
      end

      # @yield whether it is enough
      # @raise [Refused] where Redis is not there at first, or the server wants none of this machine
      def call
        @tickets.check
        @engine.run
        seen = clock
        until yield
          sleep LOOK
          raise @hand.refusal if @hand.refusal

          @told.call(@tickets.trouble)
          next unless clock - seen > GREET

          seen = clock
          look_in
        end
        @engine.stop
      end

      private

      def clock = Process.clock_gettime(Process::CLOCK_MONOTONIC)

      # A sign of life while nothing is to be done; and work is asked for where calls have gone astray.
      def look_in
        @hand.take if @hand.idle?
      rescue Link::Lost => error
        @told.call(error.message)
      end
    end
  end
end
