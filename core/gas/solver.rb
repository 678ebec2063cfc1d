# frozen_string_literal: true

module Vumbral
  module Gas
    # One gas in its chamber, or the part of it that holds something. A step is a pure function of
    # the state and the settings; the solver itself only holds working memory and what its shape
    # fixes.
    class Solver
      # Part of what names a stored frame: raise it when the numbers change.
      VERSION = "gas 9"
      LEAST = {smoke: 1e-5, heat: 1e-3, fuel: 1e-6, thinned: 1e-3, spent: 1e-3, red: 1e-6, green: 1e-6,
               blue: 1e-6, aged: 1e-8}.freeze
      AXES = [[1, 0, 0], [0, 1, 0], [0, 0, 1]].freeze
      # Carried softly even in a sharp step.
      UNSEEN = %i[thinned spent].freeze
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
        @projection = Flow::Projection.new(size, open)
        @transport = Flow::Transport.new(size, voxel, open)
        @turbulence = Flow::Turbulence.new(size)
        @viscosity = Flow::Viscosity.new(size, open)
        @forces = Flow::Forces.new(size, voxel)
        @burning = Burning.new(size, voxel)
        @feeding = Feeding.new(size)
        @boost = Flow::CurlBoost.new(size)
        @push = Grid::VectorField.still(size)
        @half, @mirror = Array.new(2) { Flow::Faces.still(size).to_a }
        @slid = {}
        @length = Kernel::Buffer.new(:f32, *size)
        block(solid)
      end

      # Colliders from here on. @param moving [Array<Kernel::Buffer>, nil] velocity of faces inside
      #   and on them, m/s
      def block(solid, moving = nil)
        @blocked = solid&.bytes&.match?(/[^\0]/n)
        @solid = @blocked ? solid : @still
        @projection.block(@blocked ? solid : nil, moving)
        @transport.solid = @blocked ? solid : nil
        @moving = moving
        @rubs = @blocked && solid.bytes.match?(/[^\0\x01]/n)
      end

      # Carries the state on by one frame with everything standing still.
      # @param state [State] taken over: use only the state that comes back
      # @param seconds [Float] length of the frame
      # @param gas [Settings]
      # @param feeds [Array<Feed>]
      # @return [Array(State, Report)]
      def step(state, seconds:, gas:, feeds:)
        around = Surroundings.plain(gas, feeds)
        around.tally.speed = state.speed
        count, around.tally.limited = Solver.substeps(state, around.tally.speed, seconds, @voxel, gas)
        count.times { substep(state, seconds / count, around) }
        [state, Report.of(state, around.tally, @voxel)]
      end

      # How often a frame is divided. @param speed [Float] of the fastest gas or source
      # @return [Array(Integer, Boolean)] and whether more was wanted
      def self.substeps(state, speed, seconds, voxel, gas)
        cells = speed * seconds / voxel
        wanted = cells.finite? ? (cells / gas.cells_a_substep).ceil : gas.substeps_least
        wanted = [wanted, Burning.substeps(state, seconds, gas)].max
        count = wanted.clamp(gas.substeps_least, [gas.substeps_most, gas.substeps_least].max)
        [count, wanted > count]
      end

      # One substep: sources and burning; half a step of motion, projection, reflection; what the
      # gas carries; the other half, projection (Zehnder, Narain & Thomaszewski 2018). The state
      # that it leaves has a projected velocity.
      # @param around [Surroundings]
      def substep(state, dt, around)
        around.feeds.each { |feed| @feeding.feed(state, feed, dt) }
        around.swell = @burning.burn(state, around, dt)
        whole = velocity(state)
        move(state, whole, @half, 0.5 * dt, around, along: whole)
        @half.zip(@mirror) { |from, to| Grid::PoissonKernels.copy(to, from) }
        project(state, around)
        @mirror.zip(@half) { |before, now| Flow::FlowKernels.reflect(before, now) }
        carry(state, dt, around)
        # The first half went along the velocity of the step's beginning; this goes along that of its end.
        whole.zip(@half) { |before, now| Flow::FlowKernels.reflect(before, now) }
        move(state, @mirror, whole, 0.5 * dt, around, along: whole)
        project(state, around)
        tally = around.tally
        speed = tally.speed = state.speed
        tally.residual = @projection.leftover(state, around.swell, @voxel) / ((speed > 1e-3) ? speed : 1e-3)
        state.time += dt
        tally.substeps += 1
      end

      private

      def velocity(state) = [state.u, state.v, state.w]

      # Half a step of motion; the state takes on what comes of it, not yet projected.
      # @param moved [Array<Kernel::Buffer>] what is carried
      # @param along [Array<Kernel::Buffer>] the velocity that carries it: itself in a step's first half
      def move(state, moved, into, dt, around, along:)
        ways = slid(along, :along)
        @transport.follow(ways, dt, sharp: around.gas.sharp)
        from = moved.equal?(along) ? ways : slid(moved, :moved)
        boost = around.gas.curl_boost
        @boost.before(from) if boost.positive?
        @transport.carry_velocity(from, into, sharp: around.gas.sharp)
        state.u, state.v, state.w = into
        @boost.after(into, @transport.ways, @turbulence.shares(state, around.gas.curl_mask), boost) if boost.positive?
        accelerate(state, dt, around, behind: moved.equal?(along))
        around.feeds.each { |feed| @feeding.drive(state, feed, dt) }
        @viscosity.diffuse(state, around.gas.viscosity * dt / @voxel**2) if around.gas.viscosity.positive?
        rub(state)
      end

      # Faces inside colliders take on what lies beside them, so that gas slides along walls.
      def slid(faces, role)
        return faces unless @blocked

        into = @slid[role] ||= faces.map { |field| Kernel::Buffer.new(:f32, *field.shape) }
        faces.each_with_index { |field, axis| Flow::ColliderKernels.slide(into[axis], field, @solid, *AXES[axis]) }
        into
      end

      def project(state, around)
        around.tally.iterations += @projection.project(state, around.gas.accuracy, around.swell, @voxel)
      end

      # What the gas carries, along the velocity of the step's middle.
      def carry(state, dt, around)
        held = amounts(state, around)
        @burning.swell(state, dt) if around.swell
        @transport.follow(slid(velocity(state), :along), dt, sharp: around.gas.sharp)
        state.scalars.each do |name|
          state[name], left = @transport.carry(state[name], sharp: around.gas.sharp && !UNSEEN.include?(name),
            held: held[name])
          around.tally.left += left * @voxel**3 if name == :smoke
        end
        around.forces.each { |force| @forces.wipe(state, force, around.corner, dt) if force["what"] == "wipe" }
        spread(state, dt, around.gas)
        fade(state, dt, around.gas)
      end

      # The amounts that carrying must keep: of all that is carried, but of what belongs to the mass only
      # while no volume is made.
      def amounts(state, around)
        kept = around.swell ? state.scalars - State::BY_MASS : state.scalars
        kept.to_h { |name| [name, @transport.amounts(state[name])] }
      end

      # Diffusion of what the gas carries, exact like viscosity; no side lets any through.
      def spread(state, dt, gas)
        {smoke: gas.smoke_spread, heat: gas.heat_spread}.each do |name, amount|
          next unless amount.positive?

          @diffusion ||= Grid::Diffusion.new(@size, nil, {})
          [name, *(%i[red green blue aged].select { |field| state[field] } if name == :smoke)].each { |field|
            @diffusion.diffuse(state[field], amount * dt / @voxel**2)
          }
        end
      end

      # @param behind [Boolean] whether what the gas carries has not been moved yet, as the velocity has
      def accelerate(state, dt, around, behind: false)
        gas = around.gas
        Flow::FlowKernels.lift(behind ? @push[0] : @push[1], state.smoke, state.heat, state.fuel || state.smoke,
          gas.buoyancy, gas.ambient, gas.weight, state.fuel ? gas.fuel_weight : 0.0)
        # Lift stays with the gas that has it: where it was half a step before, it would hold back every front.
        Flow::CarryKernels.soft(@push[1], @push[0], @transport.ways) if behind
        @push[0].fill(0.0)
        @push[2].fill(0.0)
        @turbulence.stir(@push, state, gas.stirring(state.time), dt) if gas.stir.positive?
        # Folds the front where the gas swells, which is smoothest otherwise.
        tears = around.swell && gas.front.positive?
        @turbulence.stir(@push, state, gas.tearing(state.time, @burning.front), dt) if tears
        around.forces.each_with_index do |force, n|
          swirl = ->(f, falloff) do
            @turbulence.stir(@push, state, Flow::Stirring.placed(f, n, falloff, state.time, @voxel, gas.seed), dt)
          end
          @forces.accelerate(state, @push, force, around.corner, dt, turbulence: swirl, distance: around.distance)
        end
        Flow::FlowKernels.push(state.u, state.v, state.w, *@push, dt)
      end

      def rub(state)
        return unless @rubs

        velocity(state).each_with_index do |faces, n|
          Flow::ColliderKernels.rub(faces, @solid, @moving ? @moving[n] : @length, !@moving.nil?, *AXES[n])
        end
      end

      def fade(state, dt, gas)
        @burning.cool(state, gas, dt)
        rates = {smoke: gas.smoke_fade, heat: gas.heat_fade, fuel: gas.fuel_fade, thinned: 0.0, spent: 0.0}
        rates[:red] = rates[:green] = rates[:blue] = rates[:aged] = rates[:smoke]
        state.scalars.each { |name|
          Flow::MatterKernels.fade(state[name], @solid, Math.exp(-rates[name] * dt),
            LEAST[name])
        }
        Flow::MatterKernels.grow_older(state.aged, state.smoke, dt) if state.aged
      end
    end
  end
end
