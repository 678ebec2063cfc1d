# frozen_string_literal: true

module Vumbral
  module Liquid
    # What deep cells hold and give, and how their speed goes along; see {Band}.
    module DeepKernels
      extend Kernel::Library

      # The square of a way in a step, cells: what goes less goes straight.
      STRAIGHT = 0.04

      # What the eight particles of each deep cell would give to its faces (see {TransferKernels}).
      kernel sums: Liquid::Sums, faces: Flow::Faces, deep: U8[3]
      def give(sums, faces, deep)
        nz = deep.dim(0)
        ny = deep.dim(1)
        nx = deep.dim(2)
        parallel(nz + 1) do |k|
          (ny + 1).times do |j|
            (nx + 1).times do |i|
              add(sums.u, faces.u, beside(deep, k, j, i, 0), k, j, i) if k < nz && j < ny
              add(sums.v, faces.v, beside(deep, k, j, i, 1), k, j, i) if k < nz && i < nx
              add(sums.w, faces.w, beside(deep, k, j, i, 2), k, j, i) if j < ny && i < nx
            end
          end
        end
      end

      kernel sums: F32[3], face: F32[3], weight: F32, k: I32, j: I32, i: I32
      def add(sums, face, weight, k, j, i)
        if weight > 0.0
          sums[k, j, 2 * i] += weight * face[k, j, i]
          sums[k, j, 2 * i + 1] += weight
        end
      end

      # Four for each deep cell on both sides of the lower face of a cell along an axis.
      kernel deep: U8[3], k: I32, j: I32, i: I32, axis: I32, returns: F32
      def beside(deep, k, j, i, axis)
        c = k - (axis == 2 ? 1 : 0)
        b = j - (axis == 1 ? 1 : 0)
        a = i - (axis == 0 ? 1 : 0)
        count = 0.0
        count += 4.0 * deep[c, b, a] if c >= 0 && b >= 0 && a >= 0
        count += 4.0 * deep[k, j, i] if k < deep.dim(0) && j < deep.dim(1) && i < deep.dim(2)
        count
      end

      # The speed at faces of cells that are `within`, carried along by itself for so many cells by 1 m/s
      # (semi-Lagrangian); that at others stays.
      kernel out: Flow::Faces, faces: Flow::Faces, within: U8[3], step: F32
      def carry(out, faces, within, step)
        nz = within.dim(0)
        ny = within.dim(1)
        nx = within.dim(2)
        parallel(nz + 1, uneven: true) do |k|
          (ny + 1).times do |j|
            (nx + 1).times do |i|
              if k < nz && j < ny
                if beside(within, k, j, i, 0) > 0.0
                  a, b, c = beside_x(faces, k, j, i)
                  x, y, z = before(faces, i.to_f, j + 0.5, k + 0.5, a * step, b * step, c * step, step)
                  out.u[k, j, i] = Grid::Sampling.linear(faces.u, x, y - 0.5, z - 0.5)
                else
                  out.u[k, j, i] = faces.u[k, j, i]
                end
              end
              if k < nz && i < nx
                if beside(within, k, j, i, 1) > 0.0
                  d, e, f = beside_y(faces, k, j, i)
                  o, p, q = before(faces, i + 0.5, j.to_f, k + 0.5, d * step, e * step, f * step, step)
                  out.v[k, j, i] = Grid::Sampling.linear(faces.v, o - 0.5, p, q - 0.5)
                else
                  out.v[k, j, i] = faces.v[k, j, i]
                end
              end
              if j < ny && i < nx
                if beside(within, k, j, i, 2) > 0.0
                  g, h, l = beside_z(faces, k, j, i)
                  r, s, t = before(faces, i + 0.5, j + 0.5, k.to_f, g * step, h * step, l * step, step)
                  out.w[k, j, i] = Grid::Sampling.linear(faces.w, r - 0.5, s - 0.5, t)
                else
                  out.w[k, j, i] = faces.w[k, j, i]
                end
              end
            end
          end
        end
      end

      # Takes back what {#carry} blurs, as far as carrying its outcome back tells (MacCormack; Selle et al. 2008),
      # within what there was around.
      kernel out: Flow::Faces, carried: Flow::Faces, faces: Flow::Faces, deep: U8[3], step: F32
      def sharpen(out, carried, faces, deep, step)
        nz = deep.dim(0)
        ny = deep.dim(1)
        nx = deep.dim(2)
        parallel(nz + 1, uneven: true) do |k|
          (ny + 1).times do |j|
            (nx + 1).times do |i|
              if k < nz && j < ny
                if beside(deep, k, j, i, 0) > 0.0
                  a, b, c = beside_x(faces, k, j, i)
                  out.u[k, j, i] = sharper(carried.u, faces.u, k, j, i, a * step, b * step, c * step)
                else
                  out.u[k, j, i] = faces.u[k, j, i]
                end
              end
              if k < nz && i < nx
                if beside(deep, k, j, i, 1) > 0.0
                  d, e, f = beside_y(faces, k, j, i)
                  out.v[k, j, i] = sharper(carried.v, faces.v, k, j, i, d * step, e * step, f * step)
                else
                  out.v[k, j, i] = faces.v[k, j, i]
                end
              end
              if j < ny && i < nx
                if beside(deep, k, j, i, 2) > 0.0
                  g, h, l = beside_z(faces, k, j, i)
                  out.w[k, j, i] = sharper(carried.w, faces.w, k, j, i, g * step, h * step, l * step)
                else
                  out.w[k, j, i] = faces.w[k, j, i]
                end
              end
            end
          end
        end
      end

      # One number of a field that was carried along by so many cells.
      kernel carried: F32[3], field: F32[3], k: I32, j: I32, i: I32, x: F32, y: F32, z: F32, returns: F32
      def sharper(carried, field, k, j, i, x, y, z)
        low, high = Grid::Sampling.bounds(field, i - x, j - y, k - z)
        (carried[k, j, i] + 0.5 * (field[k, j, i] - Grid::Sampling.linear(carried, i + x, j + y, k + z))).clamp(
          low, high
        )
      end

      # The speed at the middle of a face across x.
      kernel faces: Flow::Faces, k: I32, j: I32, i: I32, returns: [F32, F32, F32]
      def beside_x(faces, k, j, i)
        a = [i - 1, 0].max
        c = [i, faces.v.dim(2) - 1].min
        v = 0.25 * (faces.v[k, j, a] + faces.v[k, j + 1, a] + faces.v[k, j, c] + faces.v[k, j + 1, c])
        w = 0.25 * (faces.w[k, j, a] + faces.w[k + 1, j, a] + faces.w[k, j, c] + faces.w[k + 1, j, c])
        return faces.u[k, j, i], v, w
      end

      # And across y.
      kernel faces: Flow::Faces, k: I32, j: I32, i: I32, returns: [F32, F32, F32]
      def beside_y(faces, k, j, i)
        a = [j - 1, 0].max
        c = [j, faces.u.dim(1) - 1].min
        u = 0.25 * (faces.u[k, a, i] + faces.u[k, a, i + 1] + faces.u[k, c, i] + faces.u[k, c, i + 1])
        w = 0.25 * (faces.w[k, a, i] + faces.w[k + 1, a, i] + faces.w[k, c, i] + faces.w[k + 1, c, i])
        return u, faces.v[k, j, i], w
      end

      # And across z.
      kernel faces: Flow::Faces, k: I32, j: I32, i: I32, returns: [F32, F32, F32]
      def beside_z(faces, k, j, i)
        a = [k - 1, 0].max
        c = [k, faces.u.dim(0) - 1].min
        u = 0.25 * (faces.u[a, j, i] + faces.u[a, j, i + 1] + faces.u[c, j, i] + faces.u[c, j, i + 1])
        v = 0.25 * (faces.v[a, j, i] + faces.v[a, j + 1, i] + faces.v[c, j, i] + faces.v[c, j + 1, i])
        return u, v, faces.w[k, j, i]
      end

      # Where what is at a place now was before, to second order: (x, y, z) and how far its speed leads, cells.
      kernel faces: Flow::Faces, x: F32, y: F32, z: F32, a: F32, b: F32, c: F32, step: F32, returns: [F32, F32, F32]
      def before(faces, x, y, z, a, b, c, step)
        p = a
        q = b
        r = c
        # What hardly moves moves straight.
        if a * a + b * b + c * c > STRAIGHT
          u, v, w = MoveKernels.speed_at(faces, x - 0.5 * a, y - 0.5 * b, z - 0.5 * c)
          p = step * u
          q = step * v
          r = step * w
        end
        return x - p, y - q, z - r
      end

      # The fastest speed along an axis at a face of a deep cell, m/s.
      kernel faces: Flow::Faces, deep: U8[3], returns: F64
      def fastest(faces, deep)
        most = parallel_max(deep.dim(0)) do |k|
          found = 0.0
          deep.dim(1).times do |j|
            deep.dim(2).times do |i|
              if deep[k, j, i] == 1
                u = [faces.u[k, j, i].abs, faces.u[k, j, i + 1].abs].max
                v = [faces.v[k, j, i].abs, faces.v[k, j + 1, i].abs].max
                w = [faces.w[k, j, i].abs, faces.w[k + 1, j, i].abs].max
                found = [found, u, v, w].max
              end
            end
          end
          found
        end
        most
      end

      # Energy of what deep cells hold, and how much that is, counted in particles. See {FullKernels#energy}.
      # @param out f64 [2]
      kernel out: F64[1], deep: U8[3], room: F32[3], faces: Flow::Faces, gravity: F32, voxel: F32
      def energy(out, deep, room, faces, gravity, voxel)
        total = parallel_sum(deep.dim(0)) do |k|
          sum = f64(0.0)
          deep.dim(1).times do |j|
            deep.dim(2).times do |i|
              if deep[k, j, i] == 1
                u = 0.5 * (faces.u[k, j, i] + faces.u[k, j, i + 1])
                v = 0.5 * (faces.v[k, j, i] + faces.v[k, j + 1, i])
                w = 0.5 * (faces.w[k, j, i] + faces.w[k + 1, j, i])
                sum += f64(8.0) * room[k, j, i] * (0.5 * (u * u + v * v + w * w) + gravity * voxel * (j + 0.5))
              end
            end
          end
          sum
        end
        count = parallel_sum(deep.dim(0)) do |k|
          much = f64(0.0)
          deep
            .dim(1)
            .times { |j| deep.dim(2).times { |i| much += deep[k, j, i] == 1 ? f64(8.0) * room[k, j, i] : f64(0.0) } }
          much
        end
        out[0] = total
        out[1] = count
      end
    end
  end
end
