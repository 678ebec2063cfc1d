# frozen_string_literal: true

module Vumbral
  module Gas
    # One gas in its chamber, or the part of it that holds something. A step is a pure function of
    # the state and the settings; the solver itself only holds working memory and what its shape
    # fixes.
    class Solver
      # Part of what names a stored frame: raise it when the numbers change.
      VERSION = "gas 2"
      GRAVITY = 9.81
      # How fast a source draws the gas to what it holds it at.
      HOLD_HALF_LIFE = 0.02
      LEAST = {smoke: 1e-5, heat: 1e-3, fuel: 1e-6, red: 1e-6, green: 1e-6, blue: 1e-6}.freeze
      # A cell may at most grow by this share in a substep; more would empty its neighbours.
      MOST_SWELL = 1.5
      # Settings of a gas in which nothing goes on. Units: ambient K; weight m/s² for each unit of
      # smoke; curl_boost per s; stir m/s², stir_cells cells a swirl, stir_speed changes a second;
      # half-lives s or nil; viscosity m²/s; burning: ignite K, burn_rate and flame (length), burn_heat
      # K, burn_smoke and burn_swell (1) for each unit of fuel, cooling K/s at 1000 K above.
      CALM = {
        ambient: 293.0, lift: 0.0, weight: 0.0, curl_boost: 0.0, curl_mask: "everywhere", stir: 0.0, stir_cells: 8.0, stir_speed: 1.0, stir_octaves: 2, stir_mask: "content", seed: 1,
        smoke_half_life: nil, heat_half_life: nil, fuel_half_life: nil, viscosity: 0.0, ignite: 600.0, burn_rate: 0.0, flame: 1.0, burn_heat: 0.0, burn_smoke: 0.0,
        burn_swell: 0.0, soot: nil, cooling: 0.0, accuracy: 1e-4, substeps_least: 1, substeps_most: 1, cells_a_substep: 4.0, sharp: true
      }.freeze

      # A source at one moment: cover (f32 [z, y, x], 0 to 1); smoke and fuel a second, or what they
      # are held at with `hold`; heat: kelvin above the surroundings or nil, held unless `warm` (then
      # added each second); push: outward pressure (1/s); colour [r, g, b] or nil; velocity: three
      # buffers (m/s) or nil, drawn to with `hold`, added each second otherwise; strength multiplies
      # all; break-up noise: amount, cells a feature, features a second.
      Feed = Struct.new(:cover, :smoke, :fuel, :heat, :warm, :push, :colour, :velocity, :velocity_hold, :hold,
        :strength, :breakup, :breakup_cells, :breakup_speed, :seed, keyword_init: true)

      attr_reader :size, :voxel, :solid

      # @param size [Array<Integer>] cells along z, y, x
      # @param voxel [Float] metres
      # @param open [Hash{Symbol => Boolean}] sides x0 x1 y0 y1 z0 z1
      # @param solid [Kernel::Buffer, nil] u8 [z, y, x], 0 in gas; inside colliders 1 for full slip to
      #   255 for none
      def initialize(size:, voxel:, open:, solid: nil)
        @size = size
        @voxel = voxel
        @still = Kernel::Buffer.new(:u8, *size)
        @projection = Projection.new(size, open)
        @transport = Transport.new(size, voxel, open)
        @turbulence = Turbulence.new(size)
        @viscosity = Viscosity.new(size, open)
        @forces = Forces.new(size, voxel)
        @curl, @push = Array.new(2) { Array.new(3) { Kernel::Buffer.new(:f32, *size) } }
        @length, @cover, @swell, @burnt = Array.new(4) { Kernel::Buffer.new(:f32, *size) }
        block(solid)
      end

      # Colliders from here on. @param moving [Array<Kernel::Buffer>, nil] velocity of faces inside
      #   and on them, m/s
      def block(solid, moving = nil)
        blocked = solid&.bytes&.match?(/[^\0]/n)
        @solid = blocked ? solid : @still
        @projection.block(blocked ? solid : nil, moving)
        @transport.solid = blocked ? solid : nil
        @moving = moving
        @rubs = blocked && solid.bytes.match?(/[^\0\x01]/n)
      end

      # Carries the state on by one frame with everything standing still.
      # @param state [State] taken over: use only the state that comes back
      # @param seconds [Float] length of the frame
      # @param gas [Hash] what differs from {CALM}
      # @param feeds [Array<Feed>]
      # @return [Array(State, Report)]
      def step(state, seconds:, gas:, feeds:)
        gas = CALM.merge(gas)
        count, limited = Solver.substeps(state.speed, seconds, @voxel, gas)
        tally = Tally.nothing
        tally.limited = limited
        count.times { substep(state, seconds / count, gas, feeds, tally) }
        [state, Report.of(state, tally, @voxel)]
      end

      # How often a frame is divided. @return [Array(Integer, Boolean)] and whether more was wanted
      def self.substeps(speed, seconds, voxel, gas)
        cells = speed * seconds / voxel
        wanted = cells.finite? ? (cells / gas[:cells_a_substep]).ceil : gas[:substeps_least]
        count = wanted.clamp(gas[:substeps_least], [gas[:substeps_most], gas[:substeps_least]].max)
        [count, wanted > count]
      end

      # One substep: sources, burning, forces, projection, transport, fading.
      # @param forces [Array<Hash>] placed forces; @param corner [Array<Float>] lowest corner, metres
      # @param distance [#call] signed distance to a force's prop
      def substep(state, dt, gas, feeds, tally, forces: [], corner: [0.0, 0.0, 0.0], distance: nil)
        swelling = swell(state, feeds, gas, dt, tally)
        feeds.each { |feed| feed_in(state, feed, dt) }
        accelerate(state, dt, gas, forces, corner, distance)
        @viscosity.call(state, gas[:viscosity] * dt / @voxel**2) if gas[:viscosity].positive?
        tally.iterations += @projection.call(state, gas[:accuracy], swelling && @swell, @voxel)
        speed = state.speed
        tally.residual = @projection.leftover(state, swelling && @swell, @voxel) / ((speed > 1e-3) ? speed : 1e-3)
        rub(state)
        tally.left += CropKernels.outflow(state.smoke, state.u, state.v, state.w) * dt * @voxel**2
        (state.scalars - %i[heat]).each { |name| MatterKernels.dilute(state[name], @swell, dt) } if swelling
        @transport.call(state, dt, sharp: gas[:sharp])
        forces.each { |force| @forces.wipe(state, force, corner, dt) if force["what"] == "wipe" }
        fade(state, dt, gas)
        state.time += dt
        tally.substeps += 1
      end

      private

      # Burns, and gathers what makes the gas expand. @return [Boolean] whether anything does
      def swell(state, feeds, gas, dt, tally)
        pushing = feeds.select { |feed| feed.push.to_f.positive? && feed.strength.positive? }
        burning = state.fuel && gas[:burn_rate].positive?
        return false if pushing.empty? && !burning

        @swell.fill(0.0)
        most = MOST_SWELL / dt
        pushing.each { |feed| MatterKernels.add_held(@swell, feed.cover, feed.push * feed.strength, most) }
        burn(state, gas, dt, most, tally) if burning
        tally.swell_limited ||= FlowKernels.peak(@swell) >= 0.999 * most
        true
      end

      def burn(state, gas, dt, most, tally)
        MatterKernels.burn(@burnt, state.smoke, state.heat, state.fuel, gas[:ignite] - gas[:ambient],
          gas[:burn_rate] / gas[:flame] * dt, gas[:burn_heat], gas[:burn_smoke])
        tally.burnt += MatterKernels.total(@burnt) * @voxel**3
        MatterKernels.add_held(@swell, @burnt, gas[:burn_swell] / dt, most)
        return unless state.red

        [state.red, state.green, state.blue].zip(gas[:soot] || [1.0, 1.0, 1.0]) { |field, part| MatterKernels.add(field, @burnt, gas[:burn_smoke] * part) }
      end

      def feed_in(state, feed, dt)
        return unless feed.strength.positive?

        cover = broken_up(state, feed)
        pull = 1.0 - kept(dt, HOLD_HALF_LIFE)
        {smoke: feed.smoke, fuel: feed.fuel}.each do |name, amount|
          give(state[name], cover, amount * feed.strength, feed.hold, pull, dt) if amount.to_f.positive? && state[name]
        end
        colour(state, feed, cover, pull, dt) if state.red && feed.smoke.to_f.positive?
        warm(state, feed, cover, pull, dt) if feed.heat
        return unless feed.velocity

        MatterKernels.drive(state.u, state.v, state.w, cover, *feed.velocity, feed.velocity_hold ? pull : 0.0,
          feed.velocity_hold ? 0.0 : dt)
      end

      def broken_up(state, feed)
        return feed.cover unless feed.breakup.to_f.positive?

        MatterKernels.thin(@cover, feed.cover, feed.breakup, feed.breakup_cells, state.time * feed.breakup_speed,
          feed.seed, *state.origin)
        @cover
      end

      def give(field, cover, amount, hold, pull, dt)
        hold ? MatterKernels.hold(field, cover, amount, pull) : MatterKernels.add(field, cover, amount * dt)
      end

      def colour(state, feed, cover, pull, dt)
        [state.red, state.green, state.blue].zip(feed.colour || [1.0, 1.0, 1.0]) { |field, part| give(field, cover, feed.smoke * feed.strength * part, feed.hold, pull, dt) }
      end

      def warm(state, feed, cover, pull, dt)
        return MatterKernels.add(state.heat, cover, feed.heat * feed.strength * dt) if feed.warm

        MatterKernels.hold(state.heat, cover, feed.heat * feed.strength, pull)
      end

      def accelerate(state, dt, gas, forces, corner, distance)
        FlowKernels.curl(*@curl, @length, state.u, state.v, state.w) if gas[:curl_boost].positive?
        FlowKernels.accelerate(*@push, state.smoke, state.heat, *@curl, @length,
          GRAVITY * gas[:lift] / gas[:ambient], gas[:weight], gas[:curl_boost], *Turbulence::MASKS.fetch(gas[:curl_mask]))
        # The curl's arrays are free again here.
        if gas[:stir].positive?
          stir(state, gas[:stir], gas[:stir_cells], state.time * gas[:stir_speed], gas[:seed], gas[:stir_octaves],
            gas[:stir_mask], nil)
        end
        forces.each_with_index do |force, n|
          swirl = lambda do |f, weight|
            stir(state, f["strength"], f["size"] / @voxel, state.time * f["speed"], gas[:seed] + 31 * (n + 1),
              f["octaves"], f["mask"], weight)
          end
          @forces.accelerate(state, @push, force, corner, turbulence: swirl, distance: distance)
        end
        FlowKernels.push(state.u, state.v, state.w, *@push, dt)
      end

      def stir(state, strength, cells, time, seed, octaves, mask, weight)
        @turbulence.call(@push, @curl, state, strength: strength, cells: cells, time: time, seed: seed,
          octaves: octaves, mask: mask, weight: weight)
      end

      def rub(state)
        return unless @rubs

        {u: [1, 0, 0], v: [0, 1, 0], w: [0, 0, 1]}.each_with_index do |(name, axis), n|
          ColliderKernels.rub(state[name], @solid, @moving ? @moving[n] : @length, !@moving.nil?, *axis)
        end
      end

      def fade(state, dt, gas)
        MatterKernels.radiate(state.heat, 3.0 * gas[:cooling] / gas[:flame] / 1e12 * dt) if gas[:cooling].positive?
        lives = {smoke: gas[:smoke_half_life], heat: gas[:heat_half_life], fuel: gas[:fuel_half_life]}
        lives[:red] = lives[:green] = lives[:blue] = lives[:smoke]
        state.scalars.each { |name| MatterKernels.fade(state[name], @solid, kept(dt, lives[name]), LEAST[name]) }
      end

      # Exact for any length of step: what is left after dt of a half-life.
      def kept(dt, half_life) = half_life ? 0.5**(dt / half_life) : 1.0
    end
  end
end
