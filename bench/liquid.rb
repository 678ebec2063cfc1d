# frozen_string_literal: true

require_relative "support"

module Vumbral
  module Bench
    # A pool with a column that breaks down, at several sizes: a substep with all that belongs to it, parts of it, its
    # surface, and how much of a plain copy of its particles that is.
    class LiquidRun
      STEPS = 6

      def initialize(edge, fill)
        @edge = edge
        size = [edge] * 3
        @solver = Liquid::Solver.new(size: size, voxel: 1.0 / edge)
        @state = Liquid::State.empty(size)
        @solver.sort(@state)
        # A layer at the bottom, and a column in a corner.
        far = Kernel::Buffer.of(:f32, edge.times.flat_map { edge.times.flat_map { |j| edge.times.map { |i| (j < fill * edge || (i < 0.3 * edge && j < 3 * fill * edge)) ? -1.0 : 1.0 } } }, *size)
        slots = Kernel::Buffer.new(:u8, edge**3, 8)
        count = Liquid::FullKernels.free(slots, far, @state.drops, @solver.first, Liquid::Walls.none(size).far, 1.0, 1.0, 1)
        drops = Liquid::Drops.of(count)
        Liquid::FullKernels.put(drops, slots, Grid::VectorField.still(size), 1.0, 0.5, 1, 0.0)
        @state.pour(drops)
      end

      def call
        liquid = Liquid::Settings.still
        8.times { @solver.substep(@state, 1.0 / 96, liquid) }
        iterations = 0
        seconds = Bench.seconds { STEPS.times { iterations += @solver.substep(@state, 1.0 / 96, liquid)[:iterations] } } / STEPS
        copy = Bench.seconds { 3.times { @state.drops.to_a.each(&:copy) } } / 3
        @solver.sort(@state)
        skin = nil
        packed = Bench.seconds { skin = Liquid::Skin.of(@state.drops, @solver.first, @solver.size) }
        surface, held = [0.0, 3.0].map { |sheets| surfaces(sheets).then { |made| made.mesh(skin) && Bench.seconds { made.mesh(skin) } } }
        puts format("%3d³ %9d particles  substep %.3f s (%.2f iterations)  %.0f copies of the particles  %d near the surface, packed in %.3f s  surface %.2f s, with thin parts held %.2f s  %.2f M particles/s", @edge, @state.drops.count, seconds, iterations.fdiv(STEPS), seconds / copy, skin.count, packed, surface, held, @state.drops.count / seconds / 1e6)
      end

      private

      def surfaces(sheets) = Liquid::Surface.new(1.0 / @edge, [0.0] * 3, {"grain" => 1.0, "round" => 0.5, "smooth" => 2, "sheets" => sheets})
    end
  end
end

[[32, 0.12], [64, 0.12], [128, 0.06]].each { |edge, fill| Vumbral::Bench::LiquidRun.new(edge, fill).call }
