# frozen_string_literal: true

module Vumbral
  module Liquid
    # Carries out a {Plan} from frame to frame: divides each into substeps, places walls, inflows and kicks at the
    # substep's own time, and lets the solver step.
    class Stage
      # More particles than this are refused.
      MOST_DROPS = 40_000_000

      # @param plan [Plan]; @param meshes [#mesh] gives the mesh of a digest
      def initialize(plan, meshes, props: Flow::Props.new(plan, meshes))
        @plan = plan
        @props = props
        @solver = Solver.new(size: plan.size, voxel: plan.voxel, open: plan.open, band: plan.ground["band"].to_i)
        @moment = Moment.new(plan, props)
        @spraying = Spraying.new(plan.size, plan.voxel, plan.ground["seed"])
        @sides = Flow::Planning::SIDES.map { |side| plan.open[side] ? 1.0 : 0.0 }
      end

      # What there is before the first frame: the pool, where there is one.
      # @return [State]
      def still
        state = State.empty(@plan.size)
        line = @plan.ground["pool"]
        return state unless line&.positive?

        settings = @props.parted(@plan.at(@plan.frames.first))
        walls, = @moment.walls(settings, 0.0)
        @solver.block(walls)
        @solver.sort(state)
        @moment.pool(state, @solver.first, walls, line) { |far| @solver.deepen(state, far) }
        state
      end

      # @param state [State]; @param kick [Hash] from {Plan#kick}
      # @return [Integer] how many particles it would catch
      def caught(state, kick) = @moment.caught(state, @props.parted("forces" => [], "kicks" => [kick])["kicks"][0])

      # @return [Integer] particles, with those that deep cells stand for
      def amount(state) = state.drops.count + @solver.deep(state, 0.0)[0].round

      # Where each cell's particles begin in the state that {#advance} gave last.
      def first = @solver.first

      # What stands in its way as the frame that {#advance} gave last ends; nothing where there is nothing.
      # @return [Walls, nil]
      attr_reader :walls

      # How full cells are, as the last substep began.
      def full = @solver.full

      # @param state [State] of the frame before; taken over
      # @return [Array(State, Report)]
      def advance(state, frame)
        settings = @props.parted(@plan.at(frame))
        @props.frame = frame
        seconds = settings["seconds"]
        liquid = liquid(settings["liquid"])
        tally = Tally.new(0, 0, 0.0, 0, 0, false)
        count, tally.limited =
          Solver.substeps([state.pace, @moment.fastest(settings)].max, seconds, @plan.voxel, liquid)
        count.times { |n| substep(state, settings, liquid, [n, count], tally) } if seconds.positive?
        @walls = (settings["solids"] + settings["tank"]).any? ? @moment.walls(settings, 1.0)[0] : nil
        tally.left += @solver.sort(state)
        @solver.relieve(state, liquid.swirl) if state.drops.count.positive?
        if settings["spray"]
          @spraying.throw(
            state, first, full, settings["spray"].merge("seconds" => seconds), frame,
            rate: @moment.throwing(settings["solids"])
          )
        end
        [state, Report.of(state, tally, @solver)]
      end

      private

      # @param step [Array(Integer, Integer)] which of how many
      def substep(state, settings, liquid, step, tally)
        part, dt = (step[0] + 0.5) / step[1], settings["seconds"] / step[1]
        walls, moving = @moment.walls(settings, part)
        @solver.block(walls, moving: moving) unless @blocked.equal?(walls)
        @blocked = walls
        # What fills at once does so on its first step.
        inflows =
          settings["inflows"]
            .each_with_index
            .reject { |inflow, _| inflow["does"] == "fill" && step[0].positive? }
            .map { |inflow, n| [inflow, n, @moment.cover(inflow, n, part, state.time)] }
        if @plan.ground["band"]
          tally.left +=
            @solver.renew(state, @moment.wanted(settings["kicks"], inflows.map(&:last), part))
        end
        feed(state, inflows, walls, tally)
        @moment.kick(state, settings["kicks"], part, 1.0 / step[1])
        found =
          @solver.substep(state, dt, liquid) do |push, faces, full|
            drive(push, faces, full, settings, part, state.time, liquid, dt)
          end
        @spraying.carry(state, @solver.full, walls, @sides, settings["spray"], dt, liquid.gravity) if settings["spray"]
        tally.substeps += 1
        tally.iterations += found[:iterations]
        tally.residual = found[:residual]
        tally.left += found[:left]
      end

      # What forces and sides do to it.
      def drive(push, faces, full, settings, part, time, liquid, dt)
        @moment.push(push, faces, full, settings["forces"], part, time, dt)
        Waves.new(settings["waves"], liquid.gravity, @plan.voxel).push(push, faces, time, dt) if settings["waves"]
      end

      def feed(state, inflows, walls, tally)
        return if inflows.empty?

        @solver.sort(state)
        inflows.each do |inflow, n, cover|
          tally.left += @moment.feed(state, inflow, n, @solver.first, walls, cover) { |count| tally.poured += count }
          @solver.sort(state)
        end
        return if state.drops.count <= MOST_DROPS

        raise Refused.new(
          "The liquid has come to more than #{MOST_DROPS / 1_000_000} million particles; take larger voxels, " \
            "or close an inflow sooner.",
          code: "too_large"
        )
      end

      def liquid(numbers)
        size = numbers["true_size"]
        # What is so many times larger than in truth falls as slowly as its measures say.
        Settings.still(
          gravity: Settings::GRAVITY * numbers["gravity"] / size, viscosity: numbers["viscosity"] / size**2,
          tension: numbers["tension"].to_f / Tension::DENSITY / size**3, own: numbers["own"], swirl: numbers["swirl"],
          even: numbers["even"], accuracy: numbers["accuracy"], cells_a_substep: numbers["cells"],
          substeps_least: numbers["substeps_least"], substeps_most: numbers["substeps_most"]
        )
      end
    end
  end
end
