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

      # @param version [String] of who wrote it; @param lane [String]
      def perform(_version, lane)
        Ticket.hand&.take([lane])
      rescue Refused => error
        # Nothing that another try would change.
        Ticket.hand.refused(error)
      end
    end
  end
end
