# frozen_string_literal: true

require_relative "support"

module Vumbral
  module Bench
    # A pool with a column that breaks down, at several sizes: a substep with all that belongs to it, spray included,
    # parts of it, its surface, and how much of a plain copy of its particles that is.
    class LiquidRun
      STEPS = 6
      SPRAY = {"trapped" => 9000.0, "trapped_from" => 0.0, "trapped_to" => 4.0, "crest" => 9000.0, "crest_from" => 0.0, "crest_to" => 1.0, "energy_from" => 0.0, "energy_to" => 1.0, "foam_life" => 3.0,
               "spray_drag" => 1.0, "bubble_rise" => 2.0, "bubble_drag" => 0.7, "most" => 0.5, "seconds" => 1.0 / 48}.freeze

      # @param fill [Float] how high the pool stands, of the chamber; @param band [Integer] see {Liquid::Band}
      def initialize(edge, fill, band: 0)
        @edge, @band = edge, band
        size = [edge] * 3
        @solver = Liquid::Solver.new(size: size, voxel: 1.0 / edge, band: band)
        @state = Liquid::State.empty(size)
        @solver.sort(@state)
        # A layer at the bottom, and a column in a corner.
        top = [3 * fill, fill + 0.25].min * edge
        far =
          Kernel::Buffer.of(
            :f32,
            edge.times.flat_map do
              edge.times.flat_map do |j|
                edge.times.map { |i| (j < fill * edge || (i < 0.3 * edge && j < top)) ? -1.0 : 1.0 }
              end
            end,
            *size
          )
        @solver.deepen(@state, far)
        slots = Kernel::Buffer.new(:u8, edge**3, 8)
        count =
          Liquid::FullKernels.free(slots, far, @state.drops, @solver.first, Liquid::Walls.none(size).far, 1.0, 1.0, 1)
        drops = Liquid::Drops.of(count)
        Liquid::FullKernels.put(drops, slots, Grid::VectorField.still(size), 1.0, 0.5, 1, 0.0)
        @state.pour(drops)
        @spraying = Liquid::Spraying.new(size, 1.0 / edge, 1)
      end

      def call
        8.times { step }
        iterations = 0
        @solver.sort(@state)
        @spraying.throw(@state, @solver.first, @solver.full, SPRAY, 1)
        seconds = Bench.seconds { STEPS.times { iterations += step } } / STEPS
        copy = Bench.seconds { 3.times { @state.drops.to_a.each(&:copy) } } / 3
        @solver.sort(@state)
        skin = nil
        packed = Bench.seconds { skin = Liquid::Skin.of(@state, @solver.first) }
        surface, held =
          [0.0, 3.0].map do |sheets|
            surfaces(sheets).then { |made| made.mesh(skin) && Bench.seconds { made.mesh(skin) } }
          end
        puts format(
          "%3d³ %9d particles%s, %d of spray  substep %.3f s (%.2f iterations)  %.0f copies of the particles  " \
            "%d near the surface, packed in %.3f s  surface %.2f s, with thin parts held %.2f s  %.2f M " \
            "particles/s",
          @edge, @state.drops.count,
          (@band.positive? ? format(" in a band of %d, %d deep cells", @band, @state.deep.to_a.sum) : ""),
          @state.spray.count, seconds, iterations.fdiv(STEPS), seconds / copy, skin.count, packed, surface, held,
          @state.drops.count / seconds / 1e6
        )
      end

      private

      def step
        @solver.renew(@state)
        @solver.substep(@state, 1.0 / 96, Liquid::Settings.still)[:iterations].tap do
          @spraying.carry(
            @state, @solver.full, @walls ||= Liquid::Walls.none(@solver.size), [0.0] * 6, SPRAY, 1.0 / 96, 9.81
          )
        end
      end

      def surfaces(sheets) =
        Liquid::Surface.new(
          1.0 / @edge, [0.0] * 3, {"grain" => 1.0, "round" => 0.5, "smooth" => 2, "sheets" => sheets}
        )
    end
  end
end

[[32, 0.12, 0], [64, 0.12, 0], [128, 0.06, 0], [128, 0.3, 6], [128, 0.3, 9]].each do |edge, fill, band|
  Vumbral::Bench::LiquidRun.new(edge, fill, band: band).call
end
