# frozen_string_literal: true

module Vumbral
  module Sculpt
    # Steps that take each value from another place.
    module Moves
      # How far octaves of noise lead at most, for each metre of the first.
      FARTHEST = 2.0
      # Along a flow, a step is at most so many of its rolls.
      PACE = 0.2

      private

      def warp(field, step) = bent(field, step, 3, 0.0)

      def fray(field, step) = bent(field, step, step["octaves"], step["curl"])

      def bent(field, step, octaves, curl)
        setting = Kernel::Buffer.of(:f32, [*step.values_at("size", "far"), octaves, step["time"], curl, step["loop"]])
        field.replaced(field.near((FARTHEST * step["far"] / field.voxel).ceil + 1)) do |out, full|
          MoveKernels.warp(out, full.places, full.cells, full.lattice, setting, step["seed"])
        end
      end

      def flow(field, step)
        return carried(field, step) if step.key?("run")

        setting = Kernel::Buffer.of(:f32, step.values_at("size", "far", "time"))
        steps = (step["far"] / step["size"] / PACE).ceil.clamp(1, 64)
        field.replaced(field.near((4.0 * step["far"] / field.voxel).ceil + 1)) do |out, full|
          MoveKernels.flow(out, full.places, full.cells, full.lattice, setting, steps, step["seed"])
        end
      end

      # Along the gas of a run's frame, back along the way in steps of at most two cells.
      def carried(field, step)
        # Where nothing was run yet, there is nothing to go along.
        return field unless step["run"].is_a?(String)

        gas = @meshes.frame(step["run"])
        flow = gas.flow or return field
        far = flow.map { |part| Flow::FlowKernels.peak(part) }.max * step["seconds"].abs
        steps = (far / field.voxel / 2.0).ceil.clamp(1, 64)
        field.replaced(field.near((far / field.voxel).ceil + 1)) do |out, full|
          MoveKernels.carried(out, full.places, full.cells, full.lattice, flow, gas.lattice, step["seconds"], steps)
        end
      end

      def mirror(field, step) = again(field, step, 0.0)

      def repeat(field, step) = again(field, step, step["period"])

      def again(field, step, period)
        field.replaced(field.everywhere) do |out, full|
          MoveKernels.again(
            out, full.places, full.cells, full.lattice, %w[x y z].index(step["axis"]), step["at"], period
          )
        end
      end
    end
  end
end
