# frozen_string_literal: true

module Vumbral
  module Sculpt
    # What a formula comes to wherever a value is the same, if that depends neither on the place nor on other
    # channels: nothing times something is nothing.
    class Emptiness
      # Words of a program that stand for a place.
      PLACES = %w[x y z u v w].map { |name| Shot::Formula::VARIABLES.keys.index(name) }.freeze
      MULTIPLY, DIVIDE, BOTH = %w[multiply divide both].map { |name| Shot::Formula::FUNCTIONS.keys.index(name) }

      # @param program [Kernel::Buffer] f32 [steps, 2]; @param setting [Kernel::Buffer]
      def initialize(program, setting)
        @steps, @setting = program.to_a.each_slice(2).to_a, setting
      end

      # @return [Float, nil] nil where it depends on the place
      def of(value)
        stack = []
        @steps.each do |kind, what|
          stack << case kind.to_i
          when Shot::Formula::NUMBER
            what
          when Shot::Formula::VARIABLE
            if PLACES.include?(what.to_i) || what.to_i >= Shot::Formula::VARIABLES.size
              nil
            else
              Shot::FormulaKernels.pick(what.to_i, @setting, 0.0, 0.0, 0.0, value)
            end
          else
            work(kind.to_i - Shot::Formula::FUNCTION, stack)
          end
        end
        stack[0]
      end

      private

      def work(f, stack)
        given = stack.pop(Shot::FormulaKernels.count(f))
        return 0.0 if ([MULTIPLY, BOTH].include?(f) && given.include?(0.0)) || (f == DIVIDE && given[0] == 0.0)
        return if given.include?(nil)

        Shot::FormulaKernels.work(f, *given, *[0.0] * (3 - given.size), @setting[Shot::FormulaKernels::SEED])
      end
    end
  end
end
