# frozen_string_literal: true

require "sidekiq"

module Vumbral
  module Away
    # There is work of a lane: the hand of this process asks for it.
    class Ticket
      include Sidekiq::Job

      class << self
        attr_accessor :hand
      end

      # What a ticket of another version says besides is nothing to go by; the server compares versions.
      # @param lane [String]
      def perform(_version = nil, lane = nil, *)
        Ticket.hand&.take(Studio::Farm::Tickets::LANES.include?(lane) ? [lane] : Studio::Farm::Tickets::LANES)
      rescue Refused => error
        # Nothing that another try would change.
        Ticket.hand.refused(error)
      end
    end
  end
end
