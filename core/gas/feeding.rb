# frozen_string_literal: true

module Vumbral
  module Gas
    # Lets sources give what they have.
    class Feeding
      # How fast a source draws the gas to what it holds it at.
      HOLD_HALF_LIFE = 0.02
      WHITE = [1.0, 1.0, 1.0].freeze

      # @param size [Array<Integer>] cells along z, y, x
      def initialize(size)
        @cover = Kernel::Buffer.new(:f32, *size)
      end

      # Smoke, fuel, heat and colour of a step. @param source [Feed]
      def feed(state, source, dt)
        return unless source.strength.positive?

        cover = broken_up(state, source)
        pull = drawn(dt)
        {smoke: source.smoke, fuel: source.fuel}.each do |name, amount|
          if amount.to_f.positive? && state[name]
            give(state[name], cover, amount * source.strength, source.hold, pull,
              dt)
          end
        end
        renew(state, source, cover, pull, dt)
        # What is held is always fresh.
        if state.aged && source.hold && source.smoke.to_f.positive?
          Flow::MatterKernels.hold(state.aged, cover, 0.0, pull)
        end
        colour(state, source, cover, pull, dt) if state.red && source.smoke.to_f.positive?
        warm(state, source, cover, pull, dt) if source.heat
      end

      # Draws the velocity to the source's own, or adds to it.
      def drive(state, source, dt)
        return unless source.velocity && source.strength.positive?

        pull = drawn(dt)
        Flow::MatterKernels.drive(
          state.faces, broken_up(state, source), source.velocity, source.velocity_hold ? pull : 0.0,
          source.velocity_hold ? 0.0 : dt
        )
      end

      private

      # Fuel comes with gas of its own, which has not swollen yet and holds no air.
      def renew(state, source, cover, pull, dt)
        return unless state.thinned && source.fuel.to_f.positive?

        pull = source.fuel * source.strength * dt unless source.hold
        Flow::MatterKernels.hold(state.thinned, cover, 0.0, pull)
        Flow::MatterKernels.hold(state.spent, cover, 1.0, pull) if state.spent
      end

      def broken_up(state, source)
        return source.cover unless source.breakup.to_f.positive?
        # The same in all of a step.
        return @cover if @broken && @broken[0].equal?(source) && @broken[1..] == [state.time, state.origin]

        @broken = [source, state.time, state.origin]
        Flow::MatterKernels.thin(
          @cover, source.cover, source.breakup, source.breakup_cells, state.time * source.breakup_speed,
          Kernel::Buffer.of(:i32, [source.seed, source.breakup_octaves || 2, *state.origin])
        )
        @cover
      end

      def give(field, cover, amount, hold, pull, dt)
        hold ? Flow::MatterKernels.hold(field, cover, amount, pull) : Flow::MatterKernels.add(field, cover, amount * dt)
      end

      def colour(state, source, cover, pull, dt)
        [state.red, state.green, state.blue].zip(source.colour || WHITE) { |field, part|
          give(field, cover, source.smoke * source.strength * part, source.hold, pull, dt)
        }
      end

      def warm(state, source, cover, pull, dt)
        return Flow::MatterKernels.add(state.heat, cover, source.heat * source.strength * dt) if source.warm

        Flow::MatterKernels.hold(state.heat, cover, source.heat * source.strength, pull)
      end

      # How much a source that holds draws the gas within dt.
      def drawn(dt) = Math.log(2.0) * dt / HOLD_HALF_LIFE
    end
  end
end
