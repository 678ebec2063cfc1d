# frozen_string_literal: true

module Vumbral
  module Gas
    # Burns fuel, lets gas swell by what burns and by what sources push, and lets it cool.
    class Burning
      # A cell may at most grow by this share in a substep; more would empty its neighbours.
      MOST_SWELL = 1.0
      # Soot in hot air is gone by this a second.
      BURN_OFF = 2.0
      # Where the gas swells so fast (1/s), its front is torn with full power.
      FRONT = 4.0
      # A frame is divided so finely that no substep wants to swell a cell by more than this.
      WANTED_SWELL = 0.5
      NO_COLOUR = [1.0, 1.0, 1.0].freeze

      # How many substeps a frame needs so that what burns in it may swell freely.
      # @param state [State]; @param seconds [Float] length of the frame
      def self.substeps(state, seconds, gas)
        return 0 unless state.fuel && gas.burn_rate.positive? && gas.burn_swell.positive?

        there = Flow::FlowKernels.peak(state.fuel)
        return 0 unless there.finite?

        ([gas.burn_rate / gas.flame * seconds, there].min * gas.burn_swell / WANTED_SWELL).ceil
      end

      # @param size [Array<Integer>] cells along z, y, x; @param voxel [Float] metres
      def initialize(size, voxel)
        @voxel = voxel
        @swell, @burnt = Array.new(2) { Kernel::Buffer.new(:f32, *size) }
        @none = Kernel::Buffer.new(:f32, *size)
        @radiation = Radiation.new(size, voxel)
      end

      # Burns, and gathers what makes the gas expand.
      # @return [Kernel::Buffer, nil] expansion (1/s), where there is any
      def burn(state, around, dt)
        gas, tally = around.gas, around.tally
        state.burning&.fill(0.0)
        pushing = around.feeds.select { |feed| feed.push.to_f.positive? && feed.strength.positive? }
        burning = state.fuel && gas.burn_rate.positive?
        return if pushing.empty? && !burning && gas.outward.zero?

        @swell.fill(0.0)
        most = MOST_SWELL / dt
        pushing.each { |feed| Flow::MatterKernels.add_held(@swell, feed.cover, feed.push * feed.strength, most) }
        consume(state, gas, dt, most, tally) if burning
        FireKernels.spread_out(@swell, state.smoke, gas.outward / @voxel**2, 0.5 * most) unless gas.outward.zero?
        tally.swell_limited ||= Flow::FlowKernels.peak(@swell) >= 0.999 * most
        @swell
      end

      # Thins amounts by as much as the gas will swell in the step; moving it makes up the volume.
      def swell(state, dt)
        FireKernels.grow(state.thinned, @swell, dt) if state.thinned
        (state.scalars - State::BY_MASS).each { |name| FireKernels.dilute(state[name], @swell, dt) }
      end

      # Lets hot gas radiate, and all of it lose heat to its surroundings by its half-life.
      def cool(state, gas, dt)
        @radiation.cool(state, gas.cooling / gas.flame, gas.shield, dt) if gas.cooling.positive?
      end

      # @return [Kernel::Buffer] where the gas swells, 0 to 1
      def front
        FireKernels.front(@burnt, @swell, FRONT)
        @burnt
      end

      private

      def burn_off(state, gap, dt)
        [state.smoke, state.red, state.green, state.blue, state.aged].compact.each { |field|
          FireKernels.burn_off(field, state.heat, state.spent, gap, BURN_OFF * dt)
        }
      end

      def consume(state, gas, dt, most, tally)
        gap, air = gas.ignite - gas.ambient, state.spent ? gas.air : 0.0
        fire = Kernel::Buffer.of(:f32, [gap, gas.burn_rate / gas.flame * dt, gas.burn_heat, gas.burn_smoke, air])
        FireKernels.burn(@burnt, state.smoke, state.heat, state.fuel, state.thinned, state.spent || @none, fire)
        burn_off(state, gap, dt) if air.positive?
        Flow::MatterKernels.add(state.burning, @burnt, 1.0 / dt) if state.burning
        tally.burnt += Flow::MatterKernels.total(@burnt) * @voxel**3
        Flow::MatterKernels.add_held(@swell, @burnt, gas.burn_swell / dt, most)
        return unless state.red

        [state.red, state.green, state.blue].zip(gas.soot || NO_COLOUR) do |field, part|
          Flow::MatterKernels.add(field, @burnt, gas.burn_smoke * part)
        end
      end
    end
  end
end
