# frozen_string_literal: true

module Vumbral
  module Gas
    # Carries out a {Plan} from frame to frame: divides each into substeps, moves the arrays along
    # with the content, places props and sources at the substep's own time, and lets the solver step.
    class Stage
      SOLVERS = 3

      # @param plan [Plan]
      # @param meshes [#mesh] gives the mesh of a digest
      # @param domain [Domain] the chamber, or the chambers that gas passes between
      # @param props [Flow::Props]
      def initialize(plan, meshes, domain: plan.domains[0], props: Flow::Props.new(plan, meshes))
        @plan = plan
        @domain = domain
        @props = props
        @solvers = {}
      end

      # Nothing yet: the smallest part of the chamber, or all of it.
      def still
        origin, size = @domain.beginning(@plan.ground["follow"])
        State.still(
          size, origin: origin, fuel: @plan.ground["fuel"], colour: @plan.ground["colour"], air: @plan.ground["air"],
          tells: @plan.tells
        )
      end

      # @param state [State] of the frame before; taken over
      # @return [Array(State, Report)]
      def advance(state, frame)
        settings = @props.parted(@plan.at(frame))
        @props.frame = frame
        gas = gas(settings["gas"])
        seconds = settings["seconds"]
        tally = Tally.nothing(state.speed)
        boxes = settings["sources"].filter_map { |source| cells(@props.bounds(source)) }
        count, tally.limited = Solver.substeps(state, [tally.speed, fastest(settings["sources"])].max, seconds,
          @plan.voxel, gas)
        if seconds.positive?
          count.times { |n|
            state = substep(state, settings, gas, seconds / count, (n + 0.5) / count, boxes, tally)
          }
        end
        [state, Report.of(state, tally, @plan.voxel)]
      end

      private

      def substep(state, settings, gas, dt, part, boxes, tally)
        reach = (tally.speed * dt / @plan.voxel).then { |cells| cells.finite? ? cells.ceil.clamp(0, 64) : 0 }
        if crop
          state = state.moved_to(*crop.fit(state, boxes, reach))
          tally.full ||= crop.full?
        end
        solver, moment, mask = at(state)
        solid, moving = moment.solids(settings["solids"], part, settings["seconds"])
        solver.block(walled(solid, mask), moving)
        feeds = moment.feeds(settings["sources"], settings["gas"], part, settings["seconds"], state.time)
        solver.substep(
          state,
          dt,
          Surroundings.new(
            gas: gas, feeds: feeds, forces: settings["forces"], corner: moment.corner,
            distance: ->(force) { moment.distance_to(force, part) }, tally: tally
          )
        )
        let_go(state, mask, tally) if mask
        state
      end

      # Colliders and the walls between several rooms.
      def walled(solid, mask)
        return solid unless mask

        # What a collider fills changes from substep to substep, and may be kept by who marked it.
        (solid ? solid.copy : Kernel::Buffer.new(:u8, *mask.shape)).tap { |all| Flow::CropKernels.wall(all, mask) }
      end

      # What has come out of all rooms is gone.
      def let_go(state, mask, tally)
        before = Flow::MatterKernels.total(state.smoke)
        state.scalars.each { |name| Flow::CropKernels.clear(state[name], mask) }
        tally.left += (before - Flow::MatterKernels.total(state.smoke)) * @plan.voxel**3
      end

      def crop
        return unless @plan.ground["follow"]

        margin, speed = @plan.ground["follow"]
        @crop ||= Flow::Crop.new(@domain.bounds, margin, speed.positive? ? speed : nil, @domain.most)
      end

      # @return [Array(Solver, Moment, Kernel::Buffer)] for the part of the chamber that a state covers
      def at(state)
        place = [state.origin, state.size]
        found = @solvers.delete(place)
        @solvers.delete(@solvers.keys.first) if @solvers.size >= SOLVERS
        @solvers[place] = found || [Solver.new(size: state.size, voxel: @plan.voxel, open: @domain.open_at(*place)),
          Moment.new(@plan, @props, *place), @domain.mask(*place)]
      end

      # A box in metres as cells of the chamber, along z, y, x; nil where it lies outside.
      def cells(box)
        return unless box

        low, high = box.map { |corner| corner.zip(@plan.corner).map { |c, o| ((c - o) / @plan.voxel).floor }.reverse }
        first, past = @domain.bounds
        return if low.zip(past).any? { |c, n| c >= n } || high.zip(first).any? { |c, n| c < n }

        [low, high].map { |corner| corner.zip(first, past).map { |c, a, b| c.clamp(a, b - 1) } }
      end

      # What sources themselves bring along, so that they leave no beads.
      def fastest(sources)
        sources.map do |source|
          moved = (source["bodies"] || []).map { |body|
            Math.sqrt(body["from"]["position"].zip(body["to"]["position"]).sum { |a, b|
              (a - b)**2
            }) * @plan.document.rate
          }.max || 0.0
          [source["along"].abs, source["velocity"].map(&:abs).max, moved].max
        end.max || 0.0
      end

      def gas(numbers)
        Settings.calm(
          ambient: numbers["ambient"], lift: numbers["gravity"] * numbers["lift"],
          weight: numbers["gravity"] * numbers["weight"], fuel_weight: numbers["gravity"] * numbers["fuel_weight"],
          viscosity: numbers["viscosity"], outward: numbers["outward"], smoke_spread: numbers["smoke_spread"],
          heat_spread: numbers["heat_spread"], curl_boost: numbers["curl_boost"], curl_mask: numbers["curl_mask"],
          stir: numbers["stir"], stir_cells: numbers["stir_size"] / @plan.voxel, stir_speed: numbers["stir_speed"],
          stir_octaves: numbers["stir_octaves"], stir_mask: numbers["stir_mask"], seed: @plan.ground["seed"],
          ignite: numbers["ignite"], burn_rate: numbers["burn_rate"], flame: numbers["flame"],
          burn_heat: numbers["burn_heat"], burn_smoke: numbers["burn_smoke"], burn_swell: numbers["burn_swell"],
          soot: numbers["soot"], front: numbers["front"], front_cells: numbers["front_size"] / @plan.voxel,
          air: numbers["air"], cooling: numbers["cooling"], shield: numbers["shield"], accuracy: numbers["accuracy"],
          cells_a_substep: numbers["cells"], substeps_least: numbers["substeps_least"],
          substeps_most: numbers["substeps_most"], sharp: numbers["transport"] == "sharp",
          smoke_fade: numbers["smoke_fade"], heat_fade: numbers["heat_fade"], fuel_fade: numbers["fuel_fade"]
        )
      end
    end
  end
end
