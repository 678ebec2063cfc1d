# frozen_string_literal: true

module Vumbral
  module Formats
    # One grid's tree: a root, nodes of 32³ and 16³ children, leaves of 8³ voxels.
    class VDBTree
      EMPTY = ("\0" * 64).b.freeze
      ALL_VALUES = "\x06".b.freeze

      def initialize(grid)
        @grid = grid
        @background = grid.background.pack("e*")
        # Of nodes within, as values are written.
        @empty = grid.half ? Kernel::Buffer.of(:f16, grid.background).bytes : @background
        @leaf_bytes = 512 * (grid.half ? 2 : 4) * grid.components
        bytes = grid.values.bytes
        masks = grid.masks.bytes
        # Index of leaf by its lowest voxel; leaves without an active voxel are left out.
        @leaves = grid.places.each_with_index.filter_map do |place, n|
          mask = masks.byteslice(64 * n, 64)
          [place, mask, bytes.byteslice(@leaf_bytes * n, @leaf_bytes)] unless mask == EMPTY
        end
      end

      # @return [Array(String, String)] topology and buffers
      def parts
        tops = grouped(@leaves, 4096)
        topology = [1].pack("l<") + @background + [0, tops.size].pack("L<2")
        buffers = +""
        tops.each do |place, leaves|
          topology << place.pack("l<3") << inner(leaves, 5, 128) do |middle|
            inner(middle, 4, 8) { |leaf| leaf[0][1] }
          end
          order(leaves, 5, 128).each { |middle| order(middle, 4, 8).each { |leaf| buffers << buffer(*leaf[0]) } }
        end
        [topology, buffers]
      end

      private

      # By the lowest corner of the node that holds them, in the file's order.
      def grouped(leaves, edge)
        leaves.group_by { |place, _, _| place.map { |c| c.div(edge) * edge } }.sort_by(&:first)
      end

      # Children of a node in the order of their offsets: x slowest, z fastest.
      def children(leaves, bits, edge)
        side = 1 << bits
        leaves
          .group_by do |(x, y, z), _, _|
            ((x / edge % side) << 2 * bits) + ((y / edge % side) << bits) + z / edge % side
          end
          .sort_by(&:first)
      end

      def order(leaves, bits, edge) = children(leaves, bits, edge).map(&:last)

      # An inner node: which children there are, no active tiles, background elsewhere.
      def inner(leaves, bits, edge)
        count = 1 << 3 * bits
        mask = ("\0" * (count / 8)).b
        below = children(leaves, bits, edge).map do |offset, members|
          mask.setbyte(offset / 8, mask.getbyte(offset / 8) | 1 << offset % 8)
          yield members
        end
        tiles = (@tiles ||= {})[bits] ||= VDB.zipped(@empty * count)
        mask + ("\0" * (count / 8)).b + ALL_VALUES + tiles + below.join
      end

      def buffer(_place, mask, values) = mask + ALL_VALUES + VDB.zipped(values)
    end
  end
end
