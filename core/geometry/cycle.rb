# frozen_string_literal: true

module Vumbral
  module Geometry
    # What goes on evenly with time, and begins again after some frames where it loops: then it goes through a whole
    # number of turns in them, the nearest to what its rate says, so that the frame after the last is the first.
    class Cycle
      # @param document [Shot::Document]; @param frames [Integer] it loops over; 0 where it does not
      def initialize(document, frames)
        @document, @frames = document, frames
      end

      def loops? = @frames.positive?

      # @return [Float] seconds that a loop takes
      def seconds = @frames / @document.rate

      # @return [Float] how much of the loop has gone by, 0 to 1
      def part(frame) = ((frame - @document.first_frame) % @frames) / @frames.to_f

      # @param rate [Float] turns a second
      # @return [Array(Float, Integer)] turns gone by, and after how many it is the same again, 0 for never
      def of(rate, frame)
        return [rate * (frame - @document.first_frame) / @document.rate, 0] unless loops?

        turns = turns(rate * seconds)
        [part(frame) * turns, turns.abs]
      end

      # The whole number nearest to one; what moves at all moves by one at least.
      # @return [Integer]
      def turns(much) = if much.abs < 1e-9
                          0
                        else
                          [much.abs.round, 1].max * (much.negative? ? -1 : 1)
                        end
    end
  end
end
