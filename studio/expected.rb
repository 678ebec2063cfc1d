# frozen_string_literal: true

module Vumbral
  module Studio
    # How much there will be to compute: what the shot's last run was like, at the size that it would have now.
    class Expected
      # So many cells of what is in use lie around the gas, along an edge, whatever their size.
      AROUND = 12.0
      # Frames beyond those of the last run are like the last part of it.
      LAST = 0.25

      # @param plan [Gas::Plan] what would be run; @param rows [Array<Hash>] facts of the frames of the last run, in
      #   order
      # @param share [Float] part of the chamber in use, and @param substeps [Float] of a frame, where none was run
      def initialize(plan, rows, share, substeps)
        @plan, @share, @substeps = plan, share, substeps
        @rows = rows
        @chamber = plan.document.the(:chamber)
      end

      # @return [Float] cells in use, of all frames together
      def used = sizes.sum

      # @param finer [Numeric] what is refined for each cell in use, in substeps
      # @return [Array<Float>] cells in use times substeps, of each frame
      def works(finer = 0) = frames.map { |facts| cells(facts) * (substeps(facts) + finer) }

      # @return [Array<Float>] cells in use, of each frame
      def sizes = frames.map { |facts| cells(facts) }

      private

      # For each frame of the plan what is known of it.
      def frames
        @frames ||= if @rows.empty? then Array.new(@plan.frames.size)
        else
          last = @rows.last([(LAST * @rows.size).ceil, 1].max)
          Array.new(@plan.frames.size) { |n| @rows[n] || last[n % last.size] }
        end
      end

      # Cells in use, by how far the gas reached.
      def cells(facts)
        return @share * @plan.cells unless facts

        edge = FrameCost.used(facts)**(1.0 / 3.0)
        around = [AROUND, 0.5 * edge].min
        [((edge - around) * finer(facts) + around)**3, @plan.cells.to_f].min
      end

      # How many times finer the voxels are than they were.
      def finer(facts) = (@plan.cells.to_f / facts["whole"])**(1.0 / 3.0)

      def substeps(facts)
        return [@substeps, @chamber[:substeps_least]].max unless facts

        # Finer voxels are crossed sooner. What was divided for another reason stays so.
        before, now = [1.0 / finer(facts), 1.0].map { |scale| crossed(facts, scale) }
        ((facts["substeps"] > before) ? [facts["substeps"], now].max : now).clamp(
          @chamber[:substeps_least], [@chamber[:substeps_most], @chamber[:substeps_least]].max
        )
      end

      # Substeps that the fastest gas asks for. @param scale [Float] of the voxels, to those of the plan's
      def crossed(facts, scale)
        seconds = @chamber[:time_scale, @plan.frames.first] / @plan.document.rate
        [(facts["speed"].to_f * seconds * scale / @plan.voxel / @chamber[:cells]).ceil, 1].max
      end
    end
  end
end
