# frozen_string_literal: true

module Vumbral
  module Liquid
    # The liquid's chamber at one moment of a frame: turns props and particles into walls, and into what pours and
    # kicks.
    class Moment
      # How fast distances are wanted around what forces cling to, kicks and walls, voxels.
      BAND = 3.0

      # @param plan [Plan]; @param props [Flow::Props]
      def initialize(plan, props)
        @plan = plan
        @props = props
        @voxel = plan.voxel
        @size = plan.size
        centre = plan.corner.map { |c| c + 0.5 * @voxel }
        @lattice = Grid::Lattice.new(*centre, @voxel)
        @cells = Flow::Nearby.new(props, @size, @lattice)
        @corners = Flow::Nearby.new(props, @size.map { |n| n + 1 }, Grid::Lattice.new(*plan.corner, @voxel))
        @covering = Flow::Covering.new(plan, props, @cells, [0, 0, 0], @size, @lattice)
        @forces = Flow::Forces.new(@size, @voxel)
        @nothing = Kernel::Buffer.new(:f32, *@size)
      end

      # @param settings [Hash] of the frame; @param part [Float] how much of it has gone
      # @return [Array(Walls, Boolean)] and whether any of them moves; the same ones as before where none does
      def walls(settings, part)
        bodies = settings["solids"].map { |body| [body, false] } + settings["tank"].map { |body| [body, true] }
        moving, still = bodies.partition { |body, _| Geometry::Bodies.moves?(body) && settings["seconds"].positive? }
        base = standing(still)
        return [base, false] if moving.empty?

        walls = Walls.new(*base.to_a.map(&:copy))
        moving.each { |body, tank| stand(walls, body, tank, part, settings["seconds"]) }
        [walls, true]
      end

      # Speed of the fastest wall or inflow, m/s.
      def fastest(settings)
        moved = (settings["solids"] + settings["tank"] + settings["inflows"].flat_map { |row| row["bodies"] || [] })
          .map { |body| way(body) * @plan.document.rate }
        poured =
          settings["inflows"].map do |row|
            row["along"].abs + Math.sqrt(row["velocity"].sum { |c| c * c }) + row["rough"]
          end
        kicked =
          settings["kicks"].map do |row|
            (row["along"].abs + Math.sqrt(row["velocity"].sum { |c| c * c })) * row["strength"].abs
          end
        [*moved, *poured, *kicked, 0.0].max
      end

      # Still liquid up to a line above the floor.
      # @param first [Kernel::Buffer] where each cell's particles begin
      # @yieldparam far [Kernel::Buffer] how far cells' centres lie above it, cells, before it is filled
      # @return [Drops]
      def pool(state, first, walls, line)
        level = line / @voxel
        layers = [(2.0 * level).round, 1].max
        far = Kernel::Buffer.new(:f32, *@size)
        FullKernels.beneath(far, 0.5 * layers)
        yield far if block_given?
        # So many layers of particles as come nearest, spread so that they end at the line.
        pour(state, first, walls, far, nil, Slots.new(2.0 * level / layers, 0.0, 1.0, @plan.ground["dye"]))
      end

      # Where an inflow pours or drains, and how fast: f32 [z, y, x], which part of each cell, and the speed or nothing.
      def cover(inflow, n, part, time) = @covering.cover(inflow, n, part, 1.0 / @plan.document.rate, time)

      # Which cells shall have particles however deep they lie: those that pour, drain or are kicked.
      # @param covers [Array] of {#cover} @return [Kernel::Buffer, nil] u8 [z, y, x]
      def wanted(kicks, covers, part)
        return if kicks.empty? && covers.empty?

        marks = Kernel::Buffer.new(:u8, *@size)
        covers.each { |cover, _| BandKernels.covered(marks, cover) }
        kicks.each do |kick|
          shape(kick, part) do |distance, region|
            BandKernels.near(marks, distance, kick["soft"] + 2.0 * @voxel, region)
          end
        end
        marks
      end

      # Lets an inflow pour, or drain.
      # @param covered [Array] from {#cover}
      # @yield [count] particles that came
      # @return [Integer] particles that were taken away
      def feed(state, inflow, n, first, walls, covered)
        cover, velocity = covered
        far = Kernel::Buffer.new(:f32, *@size)
        seed = @plan.ground["seed"] * 97 + n
        FullKernels.edge(
          far, cover, inflow["breakup"], inflow["breakup_size"] / @voxel, state.time * inflow["breakup_speed"], seed
        )
        return FullKernels.drain(state.drops, far).to_i if inflow["does"] == "drain"

        FullKernels.hold(state.drops, far, velocity) if velocity && inflow["does"] == "pour"
        yield(
          pour(
            state, first, walls, far, velocity, Slots.new(1.0, LOOSE, inflow["strength"].clamp(0.0, 1.0), inflow["dye"])
          ).count
        )
        0
      end

      # Gives what lies within kicks their speeds. @param share [Float] how much of the frame this step is
      def kick(state, kicks, part, share)
        kicks.each_with_index do |kick, n|
          weight = Kernel::Buffer.new(:f32, *@size)
          velocity = Grid::VectorField.still(@size)
          shape(kick, part) do |distance, region|
            KickKernels.kick(
              weight, velocity, distance, kick["soft"],
              Kernel::Buffer.of(:f32, kick["velocity"] + [kick["along"], kick["strength"]]), region, @voxel
            )
          end
          formulas(velocity, kick) if kick["formulas"]
          Flow::ForceKernels.unevenly(weight, kick["uneven"], kick["uneven_size"], @lattice) if kick["uneven"].positive?
          add = kick["how"] == "add"
          KickKernels.give(state.drops, weight, velocity, add ? share / kick["lasts"] : 1.0, add)
        end
      end

      # How much more spray than elsewhere is thrown at each cell, as the frame ends.
      # @return [Kernel::Buffer, nil] f32 [z, y, x]; nil where it is the same everywhere
      def throwing(solids)
        told = solids.select { |body| body["throws"] }
        return if told.empty?

        rate = Kernel::Buffer.new(:f32, *@size).fill(1.0)
        told.each do |body|
          @cells.to(body, 1.0, BAND * @voxel) do |distance, region|
            SprayKernels.more(rate, distance, body["throws"], BAND * @voxel, region)
          end
        end
        rate
      end

      # @return [Integer] how many particles a kick would catch, with those that deep cells stand for
      def caught(state, kick)
        weight = Kernel::Buffer.new(:f32, *@size)
        shape(kick, 0.5) do |distance, region|
          Flow::ShapeKernels.cover(weight, distance, 0.0, kick["soft"], 1.0 / @voxel, region)
        end
        (KickKernels.caught(state.drops, weight) + KickKernels.caught_deep(state.deep, weight)).to_i
      end

      # What forces do to the liquid.
      # @param push [Grid::VectorField] added to; @param dt [Float] seconds of the step
      def push(push, faces, full, forces, part, time, dt)
        return if forces.empty?

        state = Flowing.new(full, @nothing, faces, [0, 0, 0])
        forces.each_with_index do |force, n|
          swirl = ->(f, falloff) do
            turbulence.stir(push, state, Flow::Stirring.placed(f, n, falloff, time, @voxel, @plan.ground["seed"]), dt)
          end
          @forces.accelerate(
            state, push, force, @plan.corner, dt, turbulence: swirl, distance: ->(one) { @cells.to_force(one, part) }
          )
        end
      end

      private

      # How particles are put: heights times `stretch`, how far off the middle of their place, what share of them, and
      # in which colour.
      Slots = Struct.new(:stretch, :loose, :share, :dye)
      # What forces ask of what they push.
      Flowing = Struct.new(:smoke, :heat, :faces, :origin)
      LOOSE = 0.8
      private_constant :Slots, :Flowing, :LOOSE

      def pour(state, first, walls, far, velocity, slots)
        marks = Kernel::Buffer.new(:u8, @size.reduce(:*), 8)
        count = FullKernels.free(marks, far, state.drops, first, walls.far, slots.stretch, slots.share, state.made)
        drops = Drops.of(count)
        FullKernels.put(drops, marks, velocity || still, slots.stretch, slots.loose, state.made, state.time)
        FullKernels.dye(drops.dye, Kernel::Buffer.of(:f32, slots.dye)) if slots.dye && count.positive?
        state.pour(drops)
      end

      def still = @still ||= Grid::VectorField.still(@size)

      def turbulence = @turbulence ||= Flow::Turbulence.new(@size)

      # @yield [distance, region] of what a kick acts within
      def shape(kick, part)
        if kick["boxed"]
          distance = Kernel::Buffer.new(:f32, *@size)
          KickKernels.box(
            distance, Kernel::Buffer.of(:f32, kick["position"] + kick["extent"].map { |c| 0.5 * c }), @lattice
          )
          return yield distance, Grid::Region.new(0, @size[0], 0, @size[1], 0, @size[2])
        end
        kick["bodies"].each do |body|
          @cells.to(body, part, kick["soft"] + 2.0 * @voxel) { |distance, region| yield distance, region }
        end
      end

      def formulas(velocity, kick)
        setting =
          Shot::Formula.setting(
            frame: kick["frame"], time: kick["time"], seed: @plan.ground["seed"],
            first: [@lattice.x, @lattice.y, @lattice.z], voxel: @voxel, low: @plan.corner,
            size: @size.reverse.map { |n| n * @voxel }
          )
        kick["formulas"].zip(velocity.to_a) do |text, field|
          found = Kernel::Buffer.new(:f32, *@size)
          Shot::FormulaKernels.evaluate(found, @props.formula(text).program, setting)
          KickKernels.add(field, found, kick["strength"])
        end
      end

      # What stands still is worked out once.
      def standing(bodies)
        return @standing[1] if @standing && @standing[0] == bodies

        walls = Walls.none(@size)
        bodies.each { |body, tank| stand(walls, body, tank, 0.0, 0.0) }
        @standing = [bodies, walls]
        walls
      end

      def stand(walls, body, tank, part, seconds)
        thick = (body["shell"] || 0.0) * @voxel
        met = false
        @corners.to(body, part, thick + BAND * @voxel) do |distance, region|
          met = true
          WallKernels.hollow(walls.far, region) if tank
          motion =
            (Geometry::Bodies.moves?(body) && seconds.positive?) ? @corners.motion(body, part, seconds) : [0.0] * 12
          lattice = Grid::Lattice.new(*@plan.corner, @voxel)
          WallKernels.stand(
            walls, distance, thick, Kernel::Buffer.of(:f32, motion + [body["friction"] || 0.0, tank ? 1.0 : 0.0]),
            lattice, region
          )
          @corners.flow(body, part, seconds, region) do |field|
            WallKernels.stir(walls, distance, thick, tank, field, region, @voxel)
          end
        end
        walls.far.fill(-Walls::OPEN) if tank && !met
      end

      # How far a body goes within a frame, metres.
      def way(body) = Math.sqrt(body["from"]["position"].zip(body["to"]["position"]).sum { |a, b| (a - b)**2 })
    end
  end
end
