# frozen_string_literal: true

module Vumbral
  module Gas
    # Loops for finer detail.
    module DetailKernels
      extend Kernel::Library

      # Texture coordinates as they begin: each cell's own place, in cells of the chamber, of which the
      # first is `oz oy ox`.
      kernel a: F32[3], b: F32[3], c: F32[3], oz: I32, oy: I32, ox: I32
      def lay(a, b, c, oz, oy, ox)
        parallel(a.dim(0)) do |k|
          a.dim(1).times do |j|
            a.dim(2).times do |i|
              a[k, j, i] = (i + ox).to_f
              b[k, j, i] = (j + oy).to_f
              c[k, j, i] = (k + oz).to_f
            end
          end
        end
      end

      # Carries a field along a velocity at centres, to second order; `step` is seconds divided by metres a
      # cell.
      kernel dst: F32[3], src: F32[3], x: F32[3], y: F32[3], z: F32[3], step: F32
      def carry(dst, src, x, y, z, step)
        parallel(dst.dim(0)) do |k|
          dst.dim(1).times do |j|
            dst.dim(2).times do |i|
              value = src[k, j, i]
              dx = 0.5 * step * x[k, j, i]
              dy = 0.5 * step * y[k, j, i]
              dz = 0.5 * step * z[k, j, i]
              if dx != 0.0 || dy != 0.0 || dz != 0.0
                u = step * Grid::Sampling.linear(x, i - dx, j - dy, k - dz)
                v = step * Grid::Sampling.linear(y, i - dx, j - dy, k - dz)
                w = step * Grid::Sampling.linear(z, i - dx, j - dy, k - dz)
                value = Grid::Sampling.linear(src, i - u, j - v, k - w)
              end
              dst[k, j, i] = value
            end
          end
        end
      end

      # How lively the flow is at the smallest scale the run knows: what differs from the mean of the
      # six neighbours, metres a second.
      kernel energy: F32[3], x: F32[3], y: F32[3], z: F32[3]
      def energy(energy, x, y, z)
        parallel(energy.dim(0) - 2) do |n|
          k = n + 1
          (1...(energy.dim(1) - 1)).each do |j|
            (1...(energy.dim(2) - 1)).each do |i|
              a = x[k, j,
                i] - 0.16666667 * (x[k, j, i + 1] + x[k, j, i - 1] + x[k, j + 1, i] + x[k, j - 1, i] + x[k + 1, j, i] + x[k - 1, j, i])
              b = y[k, j,
                i] - 0.16666667 * (y[k, j, i + 1] + y[k, j, i - 1] + y[k, j + 1, i] + y[k, j - 1, i] + y[k + 1, j, i] + y[k - 1, j, i])
              c = z[k, j,
                i] - 0.16666667 * (z[k, j, i + 1] + z[k, j, i - 1] + z[k, j + 1, i] + z[k, j - 1, i] + z[k + 1, j, i] + z[k - 1, j, i])
              energy[k, j, i] = Math.sqrt(a * a + b * b + c * c)
            end
          end
        end
      end

      # Curl of three noises at a place in noise units.
      kernel x: F32, y: F32, z: F32, seed: I32, returns: [F32, F32, F32]
      def swirl(x, y, z, seed)
        e = 0.15
        a = Grid::Noise.value(x, y + e, z, 0.5, seed + 2) - Grid::Noise.value(x, y - e, z, 0.5, seed + 2) -
          Grid::Noise.value(x, y, z + e, 0.5, seed + 1) + Grid::Noise.value(x, y, z - e, 0.5, seed + 1)
        b = Grid::Noise.value(x, y, z + e, 0.5, seed) - Grid::Noise.value(x, y, z - e, 0.5, seed) -
          Grid::Noise.value(x + e, y, z, 0.5, seed + 2) + Grid::Noise.value(x - e, y, z, 0.5, seed + 2)
        c = Grid::Noise.value(x + e, y, z, 0.5, seed + 1) - Grid::Noise.value(x - e, y, z, 0.5, seed + 1) -
          Grid::Noise.value(x, y + e, z, 0.5, seed) + Grid::Noise.value(x, y - e, z, 0.5, seed)
        return a / (2.0 * e), b / (2.0 * e), c / (2.0 * e)
      end

      # Where each fine cell looks (in cells of the run's part), drawn aside by noise at the texture
      # coordinates: three fields `wx wy wz`. Two sets of coordinates are mixed by `part`; `finer` fine
      # cells lie across one of the run. `reach` is seconds the smallest rolls would act, over metres a
      # cell; `size` cells across the largest roll. Nothing is done where there is no `matter` near.
      kernel wx: F32[3], wy: F32[3], wz: F32[3], matter: F32[3], energy: F32[3], a: F32[3], b: F32[3], c: F32[3], d: F32[3], e: F32[3], f: F32[3],
        part: F32, finer: F32, reach: F32, size: F32, seed: I32
      def look(wx, wy, wz, matter, energy, a, b, c, d, e, f, part, finer, reach, size, seed)
        parallel(wx.dim(0), uneven: true) do |k|
          z = (k + 0.5) / finer - 0.5
          # Two sets that differ in chance keep their strength when mixed like this.
          one = Math.sqrt(part)
          two = Math.sqrt(1.0 - part)
          wx.dim(1).times do |j|
            y = (j + 0.5) / finer - 0.5
            wx.dim(2).times do |i|
              x = (i + 0.5) / finer - 0.5
              px = x
              py = y
              pz = z
              if near(matter, x, y, z)
                # Held to a cell, so that nothing tears.
                far = [reach * Grid::Sampling.linear(energy, x, y, z), 1.2].min
                2.times do |octave|
                  fine = octave == 0 ? 1.0 : 2.0
                  gain = far * (octave == 0 ? 1.0 : 0.5)
                  per = fine / size
                  u, v, w = swirl(per * Grid::Sampling.linear(a, px, py, pz), per * Grid::Sampling.linear(b, px, py, pz),
                    per * Grid::Sampling.linear(c, px, py, pz), seed + 10 * octave)
                  p, q, r = swirl(per * Grid::Sampling.linear(d, px, py, pz), per * Grid::Sampling.linear(e, px, py, pz),
                    per * Grid::Sampling.linear(f, px, py, pz), seed + 100 + 10 * octave)
                  px += gain * (one * u + two * p)
                  py += gain * (one * v + two * q)
                  pz += gain * (one * w + two * r)
                end
              end
              wx[k, j, i] = px
              wy[k, j, i] = py
              wz[k, j, i] = pz
            end
          end
        end
      end

      # Is there matter within two cells?
      kernel matter: F32[3], x: F32, y: F32, z: F32, returns: BOOL
      def near(matter, x, y, z)
        found = false
        (([z.to_i - 2, 0].max)..([z.to_i + 3, matter.dim(0) - 1].min)).each do |k|
          (([y.to_i - 2, 0].max)..([y.to_i + 3, matter.dim(1) - 1].min)).each do |j|
            (([x.to_i - 2, 0].max)..([x.to_i + 3, matter.dim(2) - 1].min)).each { |i|
              found = true if matter[k, j, i].abs > 0.0005
            }
          end
        end
        found
      end

      # Velocity on lower faces across an axis (0 x, 1 y, 2 z), between those of the run.
      kernel out: F32[3], faces: F32[3], axis: I32, finer: F32
      def read_faces(out, faces, axis, finer)
        parallel(out.dim(0)) do |k|
          z = axis == 2 ? k / finer : (k + 0.5) / finer - 0.5
          out.dim(1).times do |j|
            y = axis == 1 ? j / finer : (j + 0.5) / finer - 0.5
            out.dim(2).times do |i|
              x = axis == 0 ? i / finer : (i + 0.5) / finer - 0.5
              out[k, j, i] = Grid::Sampling.linear(faces, x, y, z)
            end
          end
        end
      end

      # Reads a field of the run at the places looked at.
      kernel out: F32[3], field: F32[3], wx: F32[3], wy: F32[3], wz: F32[3]
      def read(out, field, wx, wy, wz)
        parallel(out.dim(0)) do |k|
          out.dim(1).times do |j|
            out.dim(2).times { |i| out[k, j, i] = Grid::Sampling.linear(field, wx[k, j, i], wy[k, j, i], wz[k, j, i]) }
          end
        end
      end

      # Lifts a field from the mean of its neighbours, never past what is around it.
      kernel out: F32[3], field: F32[3], amount: F32
      def sharpen(out, field, amount)
        parallel(field.dim(0)) do |k|
          field.dim(1).times do |j|
            field.dim(2).times do |i|
              value = field[k, j, i]
              if k > 0 && j > 0 && i > 0 && k < field.dim(0) - 1 && j < field.dim(1) - 1 && i < field.dim(2) - 1
                p = field[k, j, i + 1]
                q = field[k, j, i - 1]
                r = field[k, j + 1, i]
                s = field[k, j - 1, i]
                t = field[k + 1, j, i]
                u = field[k - 1, j, i]
                low = [p, q, r, s, t, u, value].min
                high = [p, q, r, s, t, u, value].max
                value = (value + amount * (value - 0.16666667 * (p + q + r + s + t + u))).clamp(low, high)
              end
              out[k, j, i] = value
            end
          end
        end
      end
    end
  end
end
