# frozen_string_literal: true

module Vumbral
  module Grid
    # Loops of the pressure solve.
    module PoissonKernels
      extend Kernel::Library

      # Each wave falls by exp(-amount·(lz + ly + lx)): diffusion, exact in time for any step.
      kernel f: F32[3], lz: F32[1], ly: F32[1], lx: F32[1], amount: F32
      def damp(f, lz, ly, lx, amount)
        parallel(f.dim(0)) do |k|
          f.dim(1).times do |j|
            base = amount * (lz[k] + ly[j])
            f.dim(2).times { |i| f[k, j, i] = f[k, j, i] * Math.exp(-base - amount * lx[i]) }
          end
        end
      end

      # Divides each wave by the sum of its three eigenvalues; the constant wave goes.
      kernel f: F32[3], lz: F32[1], ly: F32[1], lx: F32[1]
      def divide(f, lz, ly, lx)
        each_cell(f) do |k, j, i|
          sum = lz[k] + ly[j] + lx[i]
          f[k, j, i] = sum > 1e-7 ? f[k, j, i] / sum : 0.0
        end
      end

      # What one cell's operator sees across one face: nothing through solids and closed walls.
      kernel p: F32[3], solid: U8[3], here: F32, k: I32, j: I32, i: I32, returns: F32
      def across(p, solid, here, k, j, i)
        solid[k, j, i] != 0 ? 0.0 : here - p[k, j, i]
      end

      # q = A·p on the fluid cells; gives p·q. `open` holds six numbers x0 x1 y0 y1 z0 z1,
      # 2 for an open side (its value is zero on the face, half a cell away), 0 for a closed one.
      kernel q: F32[3], p: F32[3], solid: U8[3], open: F32[1], returns: F64
      def apply(q, p, solid, open)
        nz = p.dim(0)
        ny = p.dim(1)
        nx = p.dim(2)
        total = parallel_sum(nz) do |k|
          sum = f64(0.0)
          ny.times do |j|
            nx.times do |i|
              value = 0.0
              if solid[k, j, i] == 0
                here = p[k, j, i]
                value = i > 0 ? across(p, solid, here, k, j, i - 1) : open[0] * here
                value += i < nx - 1 ? across(p, solid, here, k, j, i + 1) : open[1] * here
                value += j > 0 ? across(p, solid, here, k, j - 1, i) : open[2] * here
                value += j < ny - 1 ? across(p, solid, here, k, j + 1, i) : open[3] * here
                value += k > 0 ? across(p, solid, here, k - 1, j, i) : open[4] * here
                value += k < nz - 1 ? across(p, solid, here, k + 1, j, i) : open[5] * here
                sum += f64(here) * value
              end
              q[k, j, i] = value
            end
          end
          sum
        end
        total
      end

      # x += a·p and r -= a·q; gives the largest |r|.
      kernel x: F32[3], r: F32[3], p: F32[3], q: F32[3], a: F32, returns: F64
      def advance(x, r, p, q, a)
        largest = parallel_max(x.dim(0)) do |k|
          peak = 0.0
          x.dim(1).times do |j|
            x.dim(2).times do |i|
              x[k, j, i] += a * p[k, j, i]
              rest = r[k, j, i] - a * q[k, j, i]
              r[k, j, i] = rest
              peak = rest.abs > peak || rest != rest ? rest.abs : peak
            end
          end
          peak
        end
        largest
      end

      # p = z + b·p
      kernel p: F32[3], z: F32[3], b: F32
      def turn(p, z, b)
        each_cell(p) { |k, j, i| p[k, j, i] = z[k, j, i] + b * p[k, j, i] }
      end

      kernel a: F32[3], b: F32[3], returns: F64
      def dot(a, b)
        total = parallel_sum(a.dim(0)) do |k|
          sum = f64(0.0)
          a.dim(1).times { |j| a.dim(2).times { |i| sum += f64(a[k, j, i]) * b[k, j, i] } }
          sum
        end
        total
      end

      # Nothing where the mask is set.
      kernel a: F32[3], solid: U8[3]
      def blank(a, solid)
        each_cell(a) { |k, j, i| a[k, j, i] = solid[k, j, i] != 0 ? 0.0 : a[k, j, i] }
      end

      # Puts rows that lie along z, then y into an order along y, then z, or `back`; both have the same shape.
      kernel to: F32[3], from: F32[3], back: BOOL
      def swap(to, from, back)
        nz = from.dim(0)
        ny = from.dim(1)
        parallel(nz) do |k|
          ny.times do |j|
            row = j * nz + k
            c = row / ny
            b = row % ny
            if back
              from.dim(2).times { |i| to[k, j, i] = from[c, b, i] }
            else
              from.dim(2).times { |i| to[c, b, i] = from[k, j, i] }
            end
          end
        end
      end

      kernel dst: F32[3], src: F32[3]
      def copy(dst, src)
        each_cell(dst) { |k, j, i| dst[k, j, i] = src[k, j, i] }
      end

      # Numbers the pockets of fluid that nothing connects (1, 2, …; solids 0), by flooding.
      # `stack` holds as many numbers as there are cells. Gives the count.
      kernel labels: I32[3], solid: U8[3], stack: I32[1], returns: I32
      def pockets(labels, solid, stack)
        nz = labels.dim(0)
        ny = labels.dim(1)
        nx = labels.dim(2)
        count = 0
        nz.times do |k|
          ny.times do |j|
            nx.times do |i|
              if solid[k, j, i] == 0 && labels[k, j, i] == 0
                count += 1
                labels[k, j, i] = count
                stack[0] = (k * ny + j) * nx + i
                top = 1
                while top > 0
                  top -= 1
                  at = stack[top]
                  cx = at % nx
                  cy = (at / nx) % ny
                  cz = at / (nx * ny)
                  6.times do |side|
                    x = cx + (side == 0 ? 1 : (side == 1 ? -1 : 0))
                    y = cy + (side == 2 ? 1 : (side == 3 ? -1 : 0))
                    z = cz + (side == 4 ? 1 : (side == 5 ? -1 : 0))
                    if x >= 0 && y >= 0 && z >= 0 && x < nx && y < ny && z < nz
                      if solid[z, y, x] == 0 && labels[z, y, x] == 0
                        labels[z, y, x] = count
                        stack[top] = (z * ny + y) * nx + x
                        top += 1
                      end
                    end
                  end
                end
              end
            end
          end
        end
        count
      end

      # Marks the pockets that touch an open side: `reached` i32 [pockets + 1]. `open` as in {#apply}.
      kernel reached: I32[1], labels: I32[3], open: F32[1]
      def reach(reached, labels, open)
        nz = labels.dim(0)
        ny = labels.dim(1)
        nx = labels.dim(2)
        nz.times do |k|
          ny.times do |j|
            reached[labels[k, j, 0]] = 1 if open[0] > 0.0
            reached[labels[k, j, nx - 1]] = 1 if open[1] > 0.0
          end
          nx.times do |i|
            reached[labels[k, 0, i]] = 1 if open[2] > 0.0
            reached[labels[k, ny - 1, i]] = 1 if open[3] > 0.0
          end
        end
        ny.times do |j|
          nx.times do |i|
            reached[labels[0, j, i]] = 1 if open[4] > 0.0
            reached[labels[nz - 1, j, i]] = 1 if open[5] > 0.0
          end
        end
      end

      # Sum and number of the values in one pocket.
      kernel b: F32[3], labels: I32[3], label: I32, returns: F64
      def pocket_sum(b, labels, label)
        total = parallel_sum(b.dim(0)) do |k|
          sum = f64(0.0)
          b.dim(1).times { |j| b.dim(2).times { |i| sum += labels[k, j, i] == label ? f64(b[k, j, i]) : f64(0.0) } }
          sum
        end
        total
      end

      kernel labels: I32[3], label: I32, returns: F64
      def pocket_size(labels, label)
        total = parallel_sum(labels.dim(0)) do |k|
          sum = f64(0.0)
          labels.dim(1).times { |j| labels.dim(2).times { |i| sum += labels[k, j, i] == label ? f64(1.0) : f64(0.0) } }
          sum
        end
        total
      end

      kernel b: F32[3], labels: I32[3], label: I32, mean: F32
      def pocket_shift(b, labels, label, mean)
        each_cell(b) { |k, j, i| b[k, j, i] -= labels[k, j, i] == label ? mean : 0.0 }
      end
    end
  end
end
