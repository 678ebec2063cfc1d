# frozen_string_literal: true

module Vumbral
  module Gas
    # One gas in its chamber. A step is a pure function of the state and the settings; the
    # solver itself only holds working memory and what the chamber's shape fixes.
    class Solver
      # Part of what names a stored frame: raise it when the numbers change.
      VERSION = "gas 1"
      GRAVITY = 9.81
      # How fast a source draws the gas to its temperature.
      HOLD_HALF_LIFE = 0.02
      LEAST_SMOKE = 1e-5
      LEAST_HEAT = 1e-3

      # A source at one moment: cover (f32 [z, y, x], 0 to 1), smoke a second, kelvin above the
      # surroundings or nil, strength, and break-up noise: amount, cells a feature, features a second.
      Feed = Struct.new(:cover, :smoke, :heat, :strength, :breakup, :breakup_cells, :breakup_speed, :seed, keyword_init: true)

      # What one frame's step found out about itself.
      Report = Struct.new(:substeps, :speed, :residual, :iterations, :smoke, :heat, :limited, keyword_init: true)

      attr_reader :size, :voxel

      # @param size [Array<Integer>] cells along z, y, x
      # @param voxel [Float] metres
      # @param open [Hash{Symbol => Boolean}] sides x0 x1 y0 y1 z0 z1
      # @param solid [Kernel::Buffer, nil] u8 [z, y, x], 1 inside colliders
      def initialize(size:, voxel:, open:, solid: nil)
        @size = size
        @voxel = voxel
        @solid = solid || Kernel::Buffer.new(:u8, *size)
        blocked = @solid.bytes.include?("\1")
        @projection = Projection.new(size, open, @solid)
        @transport = Transport.new(size, voxel, open, blocked ? @solid : nil)
        @turbulence = Turbulence.new(size)
        @curl, @push = Array.new(2) { Array.new(3) { Kernel::Buffer.new(:f32, *size) } }
        @length, @cover = Array.new(2) { Kernel::Buffer.new(:f32, *size) }
      end

      # Carries the state on by one frame.
      # @param state [State] taken over: use only the state that comes back
      # @param seconds [Float] length of the frame
      # @param gas [Hash] :ambient (K), :lift, :weight (m/s² for each unit of smoke), :curl_boost
      #   (1/s), :stir (m/s²), :stir_cells (cells a swirl), :stir_speed (changes a second), :seed, :smoke_half_life, :heat_half_life (s or nil), :accuracy, :substeps_least,
      #   :substeps_most, :cells_a_substep, :sharp
      # @param feeds [Array<Feed>]
      # @return [Array(State, Report)]
      def step(state, seconds:, gas:, feeds:)
        speed = state.speed
        # Lift may speed the gas up within the frame; half of that is seen coming.
        cells = speed * seconds / @voxel
        wanted = cells.finite? ? (cells / gas[:cells_a_substep]).ceil : gas[:substeps_least]
        count = wanted.clamp(gas[:substeps_least], gas[:substeps_most])
        iterations = 0
        @residual = 0.0
        count.times { iterations += substep(state, seconds / count, gas, feeds) }
        [state, report(state, count, iterations, wanted > count)]
      end

      private

      def substep(state, dt, gas, feeds)
        feeds.each { |feed| feed_in(state, feed, dt) }
        accelerate(state, dt, gas)
        iterations = @projection.call(state, gas[:accuracy])
        speed = state.speed
        @residual = @projection.leftover(state) / ((speed > 1e-3) ? speed : 1e-3)
        @transport.call(state, dt, sharp: gas[:sharp])
        MatterKernels.fade(state.smoke, @solid, kept(dt, gas[:smoke_half_life]), LEAST_SMOKE)
        MatterKernels.fade(state.heat, @solid, kept(dt, gas[:heat_half_life]), LEAST_HEAT)
        state.time += dt
        iterations
      end

      def feed_in(state, feed, dt)
        return unless feed.strength.positive?

        cover = feed.cover
        if feed.breakup.positive?
          MatterKernels.thin(@cover, cover, feed.breakup, feed.breakup_cells, state.time * feed.breakup_speed, feed.seed)
          cover = @cover
        end
        MatterKernels.add(state.smoke, cover, feed.smoke * feed.strength * dt) if feed.smoke.positive?
        return unless feed.heat

        MatterKernels.hold(state.heat, cover, feed.heat * feed.strength, 1.0 - kept(dt, HOLD_HALF_LIFE))
      end

      def accelerate(state, dt, gas)
        if gas[:curl_boost].positive?
          FlowKernels.curl(*@curl, @length, state.u, state.v, state.w)
        end
        FlowKernels.accelerate(*@push, state.smoke, state.heat, *@curl, @length,
          GRAVITY * gas[:lift] / gas[:ambient], gas[:weight], gas[:curl_boost])
        # The curl's arrays are free again here.
        if gas[:stir].positive?
          @turbulence.call(@push, @curl, state, strength: gas[:stir], cells: gas[:stir_cells], time: state.time * gas[:stir_speed], seed: gas[:seed])
        end
        FlowKernels.push(state.u, state.v, state.w, *@push, dt)
      end

      # Exact for any length of step: what is left after dt of a half-life.
      def kept(dt, half_life) = half_life ? 0.5**(dt / half_life) : 1.0

      def report(state, count, iterations, limited)
        Report.new(substeps: count, speed: state.speed, residual: @residual, iterations: iterations, limited: limited,
          smoke: MatterKernels.total(state.smoke) * @voxel**3, heat: MatterKernels.total(state.heat) * @voxel**3)
      end
    end
  end
end
