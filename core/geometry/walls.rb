# frozen_string_literal: true

module Vumbral
  module Geometry
    # What stands in the way of pieces: closed props, each as a field of distances in its own space.
    class Walls
      # Cells along the longest side of each.
      CELLS = 40
      # What is larger is a ground, for which there is the floor.
      LARGEST = 40.0

      # @param walls [Array<Hash>] "id", "outline", "scale"
      def initialize(walls, meshes)
        @walls = walls.filter_map { |wall| made(wall, meshes) }
        size = [@walls.map { |wall| wall[:field].size }.max || 1, 1].max
        @fields = Kernel::Buffer.new(:f32, @walls.size, size)
        @walls.each_with_index { |wall, c| wall[:field].to_a.each_with_index { |value, n| @fields[c, n] = value } }
      end

      # @param poses [Hash] by prop, from one frame before the first on; @param n [Integer] which of them
      # @return [Array(Kernel::Buffer, Kernel::Buffer)] as {PileKernels#advance} takes them
      def at(poses, n)
        rows = @walls.flat_map do |wall|
          list = poses.fetch(wall[:id])
          rigid = Pose.of(list[[n, list.size - 1].min]).rigid
          [
            *wall[:low], wall[:cell], *wall[:counts].map(&:to_f), 0.0, *rigid.inverse.rows.flatten,
            *rigid.rows.flat_map { |row| row.first(3) }
          ]
        end
        [Kernel::Buffer.of(:f64, rows, @walls.size, 29), @fields]
      end

      private

      def made(wall, meshes)
        body = Body.new(wall["outline"], wall["scale"], meshes, wall["at"])
        low, high = body.mesh.bounds
        long = low.zip(high).map { |a, b| b - a }.max
        return if !body.closed || long > LARGEST

        cell = long / CELLS
        low = low.map { |c| c - 2.0 * cell }
        counts = low.zip(high).map { |a, b| ((b - a) / cell).ceil + 3 }
        field = Kernel::Buffer.new(:f32, *counts.reverse).fill(long)
        body.distance(field, Transform.identity, low, cell, long)
        {id: wall["id"], low: low, cell: cell, counts: counts, field: field}
      end
    end
  end
end
