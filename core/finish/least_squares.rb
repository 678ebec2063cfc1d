# frozen_string_literal: true

module Vumbral
  module Finish
    # The state that leaves least over, by damped steps (Levenberg 1944; Marquardt 1963) and slopes by small
    # differences.
    class LeastSquares
      STEPS = 40
      # Ends once steps are as small.
      FINE = 1e-7
      # For slopes.
      SMALL = 1e-5

      # @param unknowns [Integer] how many numbers say a step
      # @param offs [#call] state -> what is left over, numbers
      # @param moved [#call] state, step -> the state after a step
      def initialize(unknowns, offs:, moved:)
        @unknowns, @offs, @moved = unknowns, offs, moved
      end

      # @param state where to begin
      # @return [Array(Object, Float)] the best state, and the sum of the squares of what is left over
      def from(state)
        error = squares(off = @offs.call(state))
        damping = 1e-3
        STEPS.times do
          slopes = slopes(state, off)
          step = solved(slopes, off, damping) or break
          after = squares(now = @offs.call(there = @moved.call(state, step)))
          if after < error
            state, off, error, damping = there, now, after, damping * 0.3
            break if step.map(&:abs).max < FINE
          else
            damping *= 10.0
            break if damping > 1e9
          end
        end
        [state, error]
      end

      private

      def squares(offs) = offs.sum { |off| off * off }

      def slopes(state, off)
        Array.new(@unknowns) do |n|
          by = Array.new(@unknowns) { |m| (m == n) ? SMALL : 0.0 }
          @offs.call(@moved.call(state, by)).zip(off).map { |a, b| (a - b) / SMALL }
        end
      end

      def solved(slopes, off, damping)
        rows = slopes.each_with_index.map do |one, n|
          slopes.each_with_index.map do |other, m|
            one.zip(other).sum { |a, b| a * b } * ((n == m) ? 1.0 + damping : 1.0)
          end + [-one.zip(off).sum { |a, b| a * b }]
        end
        Equations.solve(rows)
      end
    end
  end
end
