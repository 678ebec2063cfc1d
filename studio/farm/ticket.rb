# frozen_string_literal: true

require "sidekiq"

module Vumbral
  module Studio
    module Farm
      # There is work of a lane: the hand of this process asks for it.
      class Ticket
        include Sidekiq::Job

        class << self
          # What does the work here: takes lanes, and is told what was refused.
          attr_accessor :hand
        end

        # What a ticket of another version says besides is nothing to go by; the server compares versions.
        # @param lane [String]
        def perform(_version = nil, lane = nil, *)
          Ticket.hand&.take(Tickets::LANES.include?(lane) ? [lane] : Tickets::LANES)
        rescue Refused => error
          # Nothing that another try would change.
          Ticket.hand.refused(error)
        end
      end
    end
  end
end
