# frozen_string_literal: true

module Vumbral
  module Studio
    module Farm
      # The same engine, with workers on other machines that are called through Redis. What work there is stays written
      # down in the data folder: Redis may be emptied or gone, and nothing is lost.
      class TicketJobs < Jobs
        # It is counted so often whether there are enough tickets, seconds.
        COUNTED = 2.0

        # @param tickets [Tickets]
        def initialize(workshop, tickets)
          super(workshop)
          @tickets = tickets
        end

        def offer(kind) = PORTABLE.include?(kind) && @tickets.issue(LANES.fetch(kind))

        def claim(lanes, machine: nil, **how)
          super.tap { |job| @tickets.take(job[:lane]) if job && machine.nil? && PORTABLE.include?(job[:kind]) }
        end

        def revive
          super
          now = Process.clock_gettime(Process::CLOCK_MONOTONIC)
          return if @counted && now - @counted < COUNTED

          @counted = now
          call_again
        end

        private

        # Tickets that were lost with Redis, or with a worker.
        def call_again
          waiting =
            table
              .where(state: "queued", cancel: false, held: false, kind: PORTABLE)
              .group_and_count(:lane)
              .as_hash(:lane, :count)
          waiting.each do |lane, count|
            @tickets.size(lane)&.then { |there| @tickets.issue(lane, count - there) if there < count }
          end
        end

        def trouble(job) =
          super || ((job[:state] == "queued" && PORTABLE.include?(job[:kind])) ? @tickets.trouble : nil)
      end
    end
  end
end
