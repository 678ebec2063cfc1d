# frozen_string_literal: true

module Vumbral
  module Liquid
    # Loops of {Band}. `deep` u8 [z, y, x] is 1 in cells that the grid alone carries, as far as there is room in them.
    module BandKernels
      extend Kernel::Library

      # So little room has a cell that is a wall's, and of liquid or air no more than its neighbours are.
      WALL = 0.35

      # Where there is liquid, or a wall: 1 or 0.
      kernel out: U8[3], deep: U8[3], first: I32[1], room: F32[3]
      def wet(out, deep, first, room)
        each_cell(out) do |k, j, i|
          n = (k * out.dim(1) + j) * out.dim(2) + i
          out[k, j, i] = deep[k, j, i] == 1 || first[n + 1] > first[n] || room[k, j, i] < WALL ? 1 : 0
        end
      end

      # Where liquid is to be, or a wall: 1 or 0. `far` by cells' centres, negative inside.
      kernel out: U8[3], far: F32[3], room: F32[3]
      def shape(out, far, room)
        each_cell(out) { |k, j, i| out[k, j, i] = far[k, j, i] < 0.0 || room[k, j, i] < WALL ? 1 : 0 }
      end

      # Deep cells lie outside of it from here on.
      kernel far: F32[3], deep: U8[3]
      def leave_out(far, deep)
        each_cell(far) { |k, j, i| far[k, j, i] = deep[k, j, i] == 1 ? 1.0 : far[k, j, i] }
      end

      # Marks cells within a distance of something, and cells that are covered.
      kernel marks: U8[3], distance: F32[3], reach: F32, region: Grid::Region
      def near(marks, distance, reach, region)
        parallel(region.k1 - region.k0) do |n|
          k = region.k0 + n
          (region.j0...region.j1).each do |j|
            (region.i0...region.i1).each { |i| marks[k, j, i] = 1 if distance[k, j, i] <= reach }
          end
        end
      end

      kernel marks: U8[3], cover: F32[3]
      def covered(marks, cover)
        each_cell(marks) { |k, j, i| marks[k, j, i] = 1 if cover[k, j, i] > 0.0 }
      end

      # The least of so many cells to both sides along one axis (0 x, 1 y, 2 z); past an open side there is air.
      # @param sides x0 x1 y0 y1 z0 z1, 1 for open ones
      kernel out: U8[3], from: U8[3], axis: I32, cells: I32, sides: F32[1]
      def erode(out, from, axis, cells, sides)
        nz = from.dim(0)
        ny = from.dim(1)
        nx = from.dim(2)
        count = axis == 0 ? nx : axis == 1 ? ny : nz
        parallel(nz) do |k|
          ny.times do |j|
            at = axis == 1 ? j : k
            open =
              axis > 0 && ((at < cells && sides[2 * axis] > 0.0) || (at >= count - cells && sides[2 * axis + 1] > 0.0))
            nx.times { |i| out[k, j, i] = open ? 0 : 1 }
            (-cells..cells).each do |d|
              if axis == 0
                ([-d, 0].max...[nx - d, nx].min).each { |i| out[k, j, i] = out[k, j, i] & from[k, j, i + d] }
              elsif at + d >= 0 && at + d < count
                z = axis == 1 ? k : k + d
                y = axis == 1 ? j + d : j
                nx.times { |i| out[k, j, i] = out[k, j, i] & from[z, y, i] }
              end
            end
            if axis == 0
              [cells, nx].min.times do |i|
                out[k, j, i] = sides[0] > 0.0 ? 0 : out[k, j, i]
                out[k, j, nx - 1 - i] = sides[1] > 0.0 ? 0 : out[k, j, nx - 1 - i]
              end
            end
          end
        end
      end

      # Which cells are deep from here on: those that lie deep enough, and of those that were so such as still lie
      # nearly so deep; never those that are wanted with particles. `given` takes those that no longer are, 1.
      kernel deep: U8[3], given: U8[3], deeper: U8[3], nearly: U8[3], wanted: U8[3]
      def choose(deep, given, deeper, nearly, wanted)
        each_cell(deep) do |k, j, i|
          was = deep[k, j, i] == 1
          is = wanted[k, j, i] == 0 && (deeper[k, j, i] == 1 || (was && nearly[k, j, i] == 1))
          deep[k, j, i] = is ? 1 : 0
          given[k, j, i] = was && !is ? 1 : 0
        end
      end

      # Cells that are within the one and not within the other, where there is any room. Gives how many.
      kernel cells: I32[1], within: U8[3], without: U8[3], room: F32[3], returns: I32
      def list(cells, within, without, room)
        count = 0
        n = 0
        within.dim(0).times do |k|
          within.dim(1).times do |j|
            within.dim(2).times do |i|
              if within[k, j, i] == 1 && without[k, j, i] == 0 && room[k, j, i] > 0.0
                cells[count] = n
                count += 1
              end
              n += 1
            end
          end
        end
        count
      end

      # How much room deep cells have.
      kernel out: F32[3], deep: U8[3], room: F32[3]
      def rooms(out, deep, room)
        each_cell(out) { |k, j, i| out[k, j, i] = deep[k, j, i] == 1 ? room[k, j, i] : 0.0 }
      end

      # Adds up, as particles would be.
      kernel given: F32[3], about: F32[3]
      def fill(given, about)
        each_cell(given) { |k, j, i| given[k, j, i] += about[k, j, i] }
      end

      # Takes particles out of deep cells: they are put outside of everything. Gives how many.
      kernel drops: Liquid::Drops, deep: U8[3], returns: F64
      def swallow(drops, deep)
        total = parallel_sum(drops.at.dim(0)) do |p|
          x = drops.at[p, 0]
          y = drops.at[p, 1]
          z = drops.at[p, 2]
          gone = f64(0.0)
          if x >= 0.0 && y >= 0.0 && z >= 0.0 && x < deep.dim(2).to_f && y < deep.dim(1).to_f && z < deep.dim(0).to_f
            if deep[z.to_i, y.to_i, x.to_i] == 1
              drops.at[p, 0] = -1000.0
              gone = f64(1.0)
            end
          end
          gone
        end
        total
      end
    end
  end
end
