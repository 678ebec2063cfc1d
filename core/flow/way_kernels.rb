# frozen_string_literal: true

module Vumbral
  module Flow
    # Loops that find where what is in a cell has come from.
    #
    # Ways are displacements in cells, `[axis (x, y, z), z, y, x]`, with a layer of one cell all
    # around: element `[a, k + 1, j + 1, i + 1]` belongs to cell `[k, j, i]`.
    module WayKernels
      extend Kernel::Library

      # Follows the flow back from every cell's centre, to third order (Ralston 1962). `step` is
      # seconds divided by metres a cell.
      kernel ways: F32[4], u: F32[3], v: F32[3], w: F32[3], step: F32
      def trace(ways, u, v, w, step)
        parallel(w.dim(0) - 1) do |k|
          (v.dim(1) - 1).times do |j|
            (u.dim(2) - 1).times do |i|
              a1 = 0.5 * step * (u[k, j, i] + u[k, j, i + 1])
              b1 = 0.5 * step * (v[k, j, i] + v[k, j + 1, i])
              c1 = 0.5 * step * (w[k, j, i] + w[k + 1, j, i])
              a2, b2, c2 = Grid::Sampling.velocity(u, v, w, i + 0.5 - 0.5 * a1, j + 0.5 - 0.5 * b1, k + 0.5 - 0.5 * c1)
              a3, b3, c3 = Grid::Sampling.velocity(u, v, w, i + 0.5 - 0.75 * step * a2, j + 0.5 - 0.75 * step * b2,
                k + 0.5 - 0.75 * step * c2)
              ways[0, k + 1, j + 1, i + 1] = (2.0 * a1 + step * (3.0 * a2 + 4.0 * a3)) / 9.0
              ways[1, k + 1, j + 1, i + 1] = (2.0 * b1 + step * (3.0 * b2 + 4.0 * b3)) / 9.0
              ways[2, k + 1, j + 1, i + 1] = (2.0 * c1 + step * (3.0 * c2 + 4.0 * c3)) / 9.0
            end
          end
        end
      end

      # The same to second order, for drafts.
      kernel ways: F32[4], u: F32[3], v: F32[3], w: F32[3], step: F32
      def soft_trace(ways, u, v, w, step)
        parallel(w.dim(0) - 1) do |k|
          (v.dim(1) - 1).times do |j|
            (u.dim(2) - 1).times do |i|
              a, b, c = Grid::Sampling.velocity(u, v, w, i + 0.5 - 0.25 * step * (u[k, j, i] + u[k, j, i + 1]),
                j + 0.5 - 0.25 * step * (v[k, j, i] + v[k, j + 1, i]),
                k + 0.5 - 0.25 * step * (w[k, j, i] + w[k + 1, j, i]))
              ways[0, k + 1, j + 1, i + 1] = step * a
              ways[1, k + 1, j + 1, i + 1] = step * b
              ways[2, k + 1, j + 1, i + 1] = step * c
            end
          end
        end
      end

      # Repeats the outermost cells in the layer around them.
      kernel ways: F32[4]
      def pad(ways)
        nz = ways.dim(1)
        ny = ways.dim(2)
        nx = ways.dim(3)
        parallel(nz - 2) do |n|
          k = n + 1
          3.times do |a|
            (1...(ny - 1)).each do |j|
              ways[a, k, j, 0] = ways[a, k, j, 1]
              ways[a, k, j, nx - 1] = ways[a, k, j, nx - 2]
            end
            nx.times do |i|
              ways[a, k, 0, i] = ways[a, k, 1, i]
              ways[a, k, ny - 1, i] = ways[a, k, ny - 2, i]
            end
          end
        end
        parallel(ny) do |j|
          3.times do |a|
            nx.times do |i|
              ways[a, 0, j, i] = ways[a, 1, j, i]
              ways[a, nz - 1, j, i] = ways[a, nz - 2, j, i]
            end
          end
        end
      end

      # Is the cell at a place (in cells from the corner) solid? Nothing outside the box is.
      kernel solid: U8[3], x: F32, y: F32, z: F32, returns: BOOL
      def blocked?(solid, x, y, z)
        i = x.floor
        j = y.floor
        k = z.floor
        found = false
        if i >= 0 && j >= 0 && k >= 0 && i < solid.dim(2) && j < solid.dim(1) && k < solid.dim(0)
          found = solid[k, j, i] != 0
        end
        found
      end

      # Shortens ways that would pass through a solid, so that nothing leaks through a wall however
      # fast it moves.
      kernel ways: F32[4], solid: U8[3]
      def halt(ways, solid)
        parallel(solid.dim(0), uneven: true) do |k|
          solid.dim(1).times do |j|
            solid.dim(2).times do |i|
              a = ways[0, k + 1, j + 1, i + 1]
              b = ways[1, k + 1, j + 1, i + 1]
              c = ways[2, k + 1, j + 1, i + 1]
              pieces = (2.0 * [a.abs, b.abs, c.abs].max).ceil.clamp(1, 256)
              kept = 1.0
              if solid[k, j, i] != 0
                kept = 0.0
              else
                n = 1
                while n <= pieces
                  part = n.to_f / pieces
                  if blocked?(solid, i + 0.5 - part * a, j + 0.5 - part * b, k + 0.5 - part * c)
                    kept = (n - 1.0) / pieces
                    n = pieces
                  end
                  n += 1
                end
              end
              ways[0, k + 1, j + 1, i + 1] = kept * a
              ways[1, k + 1, j + 1, i + 1] = kept * b
              ways[2, k + 1, j + 1, i + 1] = kept * c
            end
          end
        end
      end
    end
  end
end
