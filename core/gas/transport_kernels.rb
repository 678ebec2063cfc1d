# frozen_string_literal: true

module Vumbral
  module Gas
    # Loops that carry fields along the velocity.
    #
    # Displacements (in cells) are found once at cell centres and averaged for faces. Their
    # arrays have a layer of one cell all around, so element `[k + 1, j + 1, i + 1]` belongs to
    # cell `[k, j, i]`. An array is on faces across an axis where that axis's flag `fx, fy, fz`
    # is 1, and at centres where all three are 0.
    module TransportKernels
      extend Kernel::Library

      # How far what is in each cell has come during the step: second-order Runge-Kutta
      # (midpoint) against the flow. `step` is seconds divided by metres a cell.
      kernel dx: F32[3], dy: F32[3], dz: F32[3], u: F32[3], v: F32[3], w: F32[3], step: F32
      def trace(dx, dy, dz, u, v, w, step)
        half = 0.25 * step
        parallel(w.dim(0) - 1) do |k|
          (v.dim(1) - 1).times do |j|
            (u.dim(2) - 1).times do |i|
              x = i + 0.5 - half * (u[k, j, i] + u[k, j, i + 1])
              y = j + 0.5 - half * (v[k, j, i] + v[k, j + 1, i])
              z = k + 0.5 - half * (w[k, j, i] + w[k + 1, j, i])
              a, b, c = Grid::Sampling.velocity(u, v, w, x, y, z)
              dx[k + 1, j + 1, i + 1] = step * a
              dy[k + 1, j + 1, i + 1] = step * b
              dz[k + 1, j + 1, i + 1] = step * c
            end
          end
        end
      end

      # Repeats the outermost cells of a displacement in the layer around them.
      kernel d: F32[3]
      def pad(d)
        nz = d.dim(0)
        ny = d.dim(1)
        nx = d.dim(2)
        (1...(nz - 1)).each do |k|
          (1...(ny - 1)).each do |j|
            d[k, j, 0] = d[k, j, 1]
            d[k, j, nx - 1] = d[k, j, nx - 2]
          end
          nx.times do |i|
            d[k, 0, i] = d[k, 1, i]
            d[k, ny - 1, i] = d[k, ny - 2, i]
          end
        end
        ny.times do |j|
          nx.times do |i|
            d[0, j, i] = d[1, j, i]
            d[nz - 1, j, i] = d[nz - 2, j, i]
          end
        end
      end

      # Where each cell's content goes, told from where it came: `e(x) = d(x + e)`, to first
      # order `d + (d·∇)d`, which saves a second trace. The correction is held to one cell.
      kernel ex: F32[3], ey: F32[3], ez: F32[3], dx: F32[3], dy: F32[3], dz: F32[3]
      def arrive(ex, ey, ez, dx, dy, dz)
        parallel(dx.dim(0) - 2) do |n|
          k = n + 1
          (1...(dx.dim(1) - 1)).each do |j|
            (1...(dx.dim(2) - 1)).each do |i|
              a = 0.5 * dx[k, j, i]
              b = 0.5 * dy[k, j, i]
              c = 0.5 * dz[k, j, i]
              ex[k, j, i] = dx[k, j, i] + (a * (dx[k, j, i + 1] - dx[k, j, i - 1]) + b * (dx[k, j + 1, i] - dx[k, j - 1, i]) + c * (dx[k + 1, j, i] - dx[k - 1, j, i])).clamp(-1.0, 1.0)
              ey[k, j, i] = dy[k, j, i] + (a * (dy[k, j, i + 1] - dy[k, j, i - 1]) + b * (dy[k, j + 1, i] - dy[k, j - 1, i]) + c * (dy[k + 1, j, i] - dy[k - 1, j, i])).clamp(-1.0, 1.0)
              ez[k, j, i] = dz[k, j, i] + (a * (dz[k, j, i + 1] - dz[k, j, i - 1]) + b * (dz[k, j + 1, i] - dz[k, j - 1, i]) + c * (dz[k + 1, j, i] - dz[k - 1, j, i])).clamp(-1.0, 1.0)
            end
          end
        end
      end

      # How much of a value read at a place comes from inside: past an open side (1) there is
      # a layer of nothing, past a closed one (0) the edge value goes on.
      kernel x: F32, count: I32, low: F32, high: F32, returns: F32
      def kept(x, count, low, high)
        (1.0 - low * (1.0 - (x + 1.0).clamp(0.0, 1.0))) * (1.0 - high * (1.0 - (count - x).clamp(0.0, 1.0)))
      end

      # Semi-Lagrangian transport (Stam 1999): each point takes the value of its place of origin.
      # `x0 .. z1` say which sides are open to nothing.
      kernel dst: F32[3], src: F32[3], dx: F32[3], dy: F32[3], dz: F32[3], fx: I32, fy: I32, fz: I32,
        x0: F32, x1: F32, y0: F32, y1: F32, z0: F32, z1: F32
      def carry(dst, src, dx, dy, dz, fx, fy, fz, x0, x1, y0, y1, z0, z1)
        parallel(dst.dim(0)) do |k|
          dst.dim(1).times do |j|
            dst.dim(2).times do |i|
              x = i - 0.5 * (dx[k + 1, j + 1, i + 1] + dx[k + 1 - fz, j + 1 - fy, i + 1 - fx])
              y = j - 0.5 * (dy[k + 1, j + 1, i + 1] + dy[k + 1 - fz, j + 1 - fy, i + 1 - fx])
              z = k - 0.5 * (dz[k + 1, j + 1, i + 1] + dz[k + 1 - fz, j + 1 - fy, i + 1 - fx])
              inside = kept(x, src.dim(2), x0, x1) * kept(y, src.dim(1), y0, y1) * kept(z, src.dim(0), z0, z1)
              dst[k, j, i] = inside * Grid::Sampling.linear(src, x, y, z)
            end
          end
        end
      end

      # MacCormack correction (Selle et al. 2008): half of what a step there and back loses is
      # given back, within the bounds of what the point was mixed from. `there` is the plain
      # result, `ex, ey, ez` lead forward again.
      kernel dst: F32[3], src: F32[3], there: F32[3], dx: F32[3], dy: F32[3], dz: F32[3],
        ex: F32[3], ey: F32[3], ez: F32[3], fx: I32, fy: I32, fz: I32
      def correct(dst, src, there, dx, dy, dz, ex, ey, ez, fx, fy, fz)
        parallel(dst.dim(0)) do |k|
          dst.dim(1).times do |j|
            dst.dim(2).times do |i|
              x = i - 0.5 * (dx[k + 1, j + 1, i + 1] + dx[k + 1 - fz, j + 1 - fy, i + 1 - fx])
              y = j - 0.5 * (dy[k + 1, j + 1, i + 1] + dy[k + 1 - fz, j + 1 - fy, i + 1 - fx])
              z = k - 0.5 * (dz[k + 1, j + 1, i + 1] + dz[k + 1 - fz, j + 1 - fy, i + 1 - fx])
              qx = i + 0.5 * (ex[k + 1, j + 1, i + 1] + ex[k + 1 - fz, j + 1 - fy, i + 1 - fx])
              qy = j + 0.5 * (ey[k + 1, j + 1, i + 1] + ey[k + 1 - fz, j + 1 - fy, i + 1 - fx])
              qz = k + 0.5 * (ez[k + 1, j + 1, i + 1] + ez[k + 1 - fz, j + 1 - fy, i + 1 - fx])
              back = Grid::Sampling.linear(there, qx, qy, qz)
              low, high = Grid::Sampling.bounds(src, x, y, z)
              better = (there[k, j, i] + 0.5 * (src[k, j, i] - back)).clamp(low, high)
              left = [x, y, z, src.dim(2) - 1 - x, src.dim(1) - 1 - y, src.dim(0) - 1 - z].min
              dst[k, j, i] = left < 0.0 ? there[k, j, i] : better
            end
          end
        end
      end
    end
  end
end
