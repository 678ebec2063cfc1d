# frozen_string_literal: true

module Vumbral
  module Light
    # Smoke in its chamber, with the light that each voxel passes on.
    class Medium
      attr_reader :smoke, :voxel, :corner

      # @param smoke [Kernel::Buffer] f32 [z, y, x]
      # @param corner [Array<Float>] the grid's lowest corner, metres
      def initialize(smoke, voxel, corner)
        @smoke = smoke
        @voxel = voxel
        @corner = corner
      end

      # @param rig [Rig]
      # @param scene [PropScene] props throw shadows into the smoke
      # @return [Kernel::Buffer] f32 [3, z, y, x], before the smoke's own colour
      def light(rig, scene)
        rgb = Kernel::Buffer.new(:f32, 3, *@smoke.shape)
        VolumeKernels.light(rgb, @smoke, rig.lamps, rig.sky, scene.corners, scene.boxes, @voxel, *@corner, rig.thickness * rig.shadow)
        rgb
      end

      # @return [Array<Float>, nil] lowest and highest corner (metres) of what holds smoke
      def bounds
        rows = Kernel::Buffer.new(:i32, @smoke.dim(0), 4)
        PictureKernels.content(rows, @smoke)
        filled = rows.to_a.each_slice(4).each_with_index.select { |(low, high), _| high >= low }
        return if filled.empty?

        ks = filled.map(&:last)
        low = [filled.map { |row, _| row[0] }.min, filled.map { |row, _| row[2] }.min, ks.min]
        high = [filled.map { |row, _| row[1] }.max, filled.map { |row, _| row[3] }.max, ks.max]
        # A value reaches half a cell beyond its own, for it is read between centres; none
        # reaches out of the grid.
        counts = @smoke.shape.reverse
        low.each_with_index.map { |n, axis| @corner[axis] + [n - 0.5, 0].max * @voxel } +
          high.each_with_index.map { |n, axis| @corner[axis] + [n + 1.5, counts[axis]].min * @voxel }
      end
    end
  end
end
