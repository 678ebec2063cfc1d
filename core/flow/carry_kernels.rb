# frozen_string_literal: true

module Vumbral
  module Flow
    # Loops that take values along ways (see {WayKernels}): each place takes what was where it
    # has come from (Stam 1999).
    module CarryKernels
      extend Kernel::Library

      # How much of a value read at a place comes from inside: past an open side (1) there is
      # a layer of nothing, past a closed one (0) the edge value goes on.
      kernel x: F32, count: I32, low: F32, high: F32, returns: F32
      def kept(x, count, low, high)
        (1.0 - low * (1.0 - (x + 1.0).clamp(0.0, 1.0))) * (1.0 - high * (1.0 - (count - x).clamp(0.0, 1.0)))
      end

      # How much of a value comes from inside the box. `open` holds x0 x1 y0 y1 z0 z1.
      kernel src: F32[3], x: F32, y: F32, z: F32, open: F32[1], returns: F32
      def inside(src, x, y, z, open)
        kept(x, src.dim(2), open[0],
          open[1]) * kept(y, src.dim(1), open[2], open[3]) * kept(z, src.dim(0), open[4], open[5])
      end

      # How far a place lies between the grid's points, 0 (on one) to 1.
      kernel x: F32, y: F32, z: F32, returns: F32
      def mixed(x, y, z)
        f = x - x.floor
        g = y - y.floor
        h = z - z.floor
        [4.0 * (f * (1.0 - f) + g * (1.0 - g) + h * (1.0 - h)), 1.0].min
      end

      # Carries one part of the velocity, on the faces across an axis (0 x, 1 y, 2 z). Past an open
      # side (1) stands still air. `padded` is the field as {CubicKernels.pad} leaves it.
      kernel dst: F32[3], padded: F32[1], ways: F32[4], axis: I32, open: F32[1]
      def sharp_faces(dst, padded, ways, axis, open)
        fx = axis == 0 ? 1 : 0
        fy = axis == 1 ? 1 : 0
        fz = axis == 2 ? 1 : 0
        row = dst.dim(2) + 2
        layer = (dst.dim(1) + 2) * row
        parallel(dst.dim(0)) do |k|
          weights = local_f32(CubicKernels::WEIGHTS)
          first = local_i32(CubicKernels::PIECE)
          part = local_f32(CubicKernels::PIECE)
          dst.dim(1).times do |j|
            start = 0
            while start < dst.dim(2)
              count = [CubicKernels::PIECE, dst.dim(2) - start].min
              count.times do |m|
                i = start + m
                x = i - 0.5 * (ways[0, k + 1, j + 1, i + 1] + ways[0, k + 1 - fz, j + 1 - fy, i + 1 - fx])
                y = j - 0.5 * (ways[1, k + 1, j + 1, i + 1] + ways[1, k + 1 - fz, j + 1 - fy, i + 1 - fx])
                z = k - 0.5 * (ways[2, k + 1, j + 1, i + 1] + ways[2, k + 1 - fz, j + 1 - fy, i + 1 - fx])
                first[m] = CubicKernels.place(weights, m, x, y, z, dst)
                part[m] = inside(dst, x, y, z, open)
              end
              count.times do |m|
                value, low, high = CubicKernels.read(padded, first[m], weights, m, row, layer)
                dst[k, j, start + m] = value.clamp(low, high) * part[m]
              end
              start += CubicKernels::PIECE
            end
          end
        end
      end

      # The same by linear interpolation, for drafts.
      kernel dst: F32[3], src: F32[3], ways: F32[4], axis: I32, open: F32[1]
      def soft_faces(dst, src, ways, axis, open)
        fx = axis == 0 ? 1 : 0
        fy = axis == 1 ? 1 : 0
        fz = axis == 2 ? 1 : 0
        each_cell(dst) do |k, j, i|
          x = i - 0.5 * (ways[0, k + 1, j + 1, i + 1] + ways[0, k + 1 - fz, j + 1 - fy, i + 1 - fx])
          y = j - 0.5 * (ways[1, k + 1, j + 1, i + 1] + ways[1, k + 1 - fz, j + 1 - fy, i + 1 - fx])
          z = k - 0.5 * (ways[2, k + 1, j + 1, i + 1] + ways[2, k + 1 - fz, j + 1 - fy, i + 1 - fx])
          value = Grid::Sampling.linear(src, x, y, z)
          dst[k, j, i] = value * inside(src, x, y, z, open)
        end
      end

      # Carries what is at centres. `room` says by how much each value may still be changed without
      # making a new extreme: most half way between the neighbours' bounds, nothing where the gas
      # moved by whole cells.
      kernel dst: F32[3], padded: F32[1], room: F32[3], ways: F32[4], open: F32[1], solid: U8[3]
      def sharp_matter(dst, padded, room, ways, open, solid)
        row = dst.dim(2) + 2
        layer = (dst.dim(1) + 2) * row
        parallel(dst.dim(0)) do |k|
          weights = local_f32(CubicKernels::WEIGHTS)
          first = local_i32(CubicKernels::PIECE)
          part = local_f32(CubicKernels::PIECE)
          between = local_f32(CubicKernels::PIECE)
          dst.dim(1).times do |j|
            start = 0
            while start < dst.dim(2)
              count = [CubicKernels::PIECE, dst.dim(2) - start].min
              count.times do |m|
                i = start + m
                x = i - ways[0, k + 1, j + 1, i + 1]
                y = j - ways[1, k + 1, j + 1, i + 1]
                z = k - ways[2, k + 1, j + 1, i + 1]
                first[m] = CubicKernels.place(weights, m, x, y, z, dst)
                part[m] = inside(dst, x, y, z, open) * (solid[k, j, i] == 0 ? 1.0 : 0.0)
                between[m] = part[m] * mixed(x, y, z)
              end
              count.times do |m|
                found, low, high = CubicKernels.read(padded, first[m], weights, m, row, layer)
                value = found.clamp(low, high)
                up = high - value
                down = value - low
                dst[k, j, start + m] = value * part[m]
                room[k, j, start + m] = between[m] * (up < down ? up : down)
              end
              start += CubicKernels::PIECE
            end
          end
        end
      end

      # The same by linear interpolation.
      kernel dst: F32[3], src: F32[3], room: F32[3], ways: F32[4], open: F32[1], solid: U8[3]
      def soft_matter(dst, src, room, ways, open, solid)
        parallel(dst.dim(0)) do |k|
          dst.dim(1).times do |j|
            dst.dim(2).times do |i|
              x = i - ways[0, k + 1, j + 1, i + 1]
              y = j - ways[1, k + 1, j + 1, i + 1]
              z = k - ways[2, k + 1, j + 1, i + 1]
              value = Grid::Sampling.linear(src, x, y, z)
              low, high = Grid::Sampling.bounds(src, x, y, z)
              part = inside(src, x, y, z, open) * (solid[k, j, i] == 0 ? 1.0 : 0.0)
              up = high - value
              down = value - low
              dst[k, j, i] = value * part
              room[k, j, i] = part * mixed(x, y, z) * (up < down ? up : down)
            end
          end
        end
      end

      # A field at centres as it is further on, by linear interpolation and whatever the sides are.
      kernel dst: F32[3], src: F32[3], ways: F32[4]
      def soft(dst, src, ways)
        each_cell(dst) do |k, j, i|
          dst[k, j, i] = Grid::Sampling.linear(src, i - ways[0, k + 1, j + 1, i + 1], j - ways[1, k + 1, j + 1, i + 1],
            k - ways[2, k + 1, j + 1, i + 1])
        end
      end

      # Changes values by a share of their room, -1 to 1.
      kernel field: F32[3], room: F32[3], share: F32
      def settle(field, room, share)
        each_cell(field) { |k, j, i| field[k, j, i] += share * room[k, j, i] }
      end

      kernel field: F32[3], factor: F32
      def scale(field, factor)
        each_cell(field) { |k, j, i| field[k, j, i] *= factor }
      end
    end
  end
end
