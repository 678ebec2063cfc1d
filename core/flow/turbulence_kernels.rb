# frozen_string_literal: true

module Vumbral
  module Flow
    # Turbulence as the curl of a noise potential, where there is something to stir.
    module TurbulenceKernels
      extend Kernel::Library

      # How far each cell takes part, 0 to 1: `everywhere`, or by smoke, heat or speed, times a
      # falloff. Cells that take no part stay out of everything that follows.
      kernel share: F32[3], smoke: F32[3], heat: F32[3], u: F32[3], v: F32[3], w: F32[3], falloff: F32[3], fallen: BOOL,
        everywhere: F32, by_smoke: F32, by_heat: F32, by_speed: F32
      def shares(share, smoke, heat, u, v, w, falloff, fallen, everywhere, by_smoke, by_heat, by_speed)
        parallel(share.dim(0)) do |k|
          share.dim(1).times do |j|
            share.dim(2).times do |i|
              speed = 0.0
              if by_speed > 0.0
                speed = (u[k, j,
                  i] + u[k, j, i + 1]).abs + (v[k, j, i] + v[k, j + 1, i]).abs + (w[k, j, i] + w[k + 1, j, i]).abs
              end
              value = (everywhere + by_smoke * smoke[k, j, i] + by_heat * heat[k, j, i].abs + 0.5 * by_speed * speed).clamp(
                0.0, 1.0
              )
              share[k, j, i] = fallen ? value * falloff[k, j, i] : value
            end
          end
        end
      end

      # Does a cell or one beside it take part?
      kernel share: F32[3], k: I32, j: I32, i: I32, returns: BOOL
      def wanted(share, k, j, i)
        a = [k - 1, 0].max
        b = [k + 1, share.dim(0) - 1].min
        c = [j - 1, 0].max
        d = [j + 1, share.dim(1) - 1].min
        e = [i - 1, 0].max
        f = [i + 1, share.dim(2) - 1].min
        share[k, j,
          i] + share[a, j, i] + share[b, j, i] + share[k, c, i] + share[k, d, i] + share[k, j, e] + share[k, j, f] > 0.0
      end

      # Three noises at the points of a lattice, `table` f32 [3, z, y, x], at a time that counts
      # changes; the first point is `oz oy ox`. The values of {Grid::Noise.value}, made once for the
      # many cells between the points.
      kernel table: F32[4], oz: I32, oy: I32, ox: I32, time: F32, seed: I32
      def lattice(table, oz, oy, ox, time, seed)
        parallel(table.dim(1)) do |k|
          l = time.floor
          f = Grid::Noise.fade(time - l)
          3.times do |c|
            table.dim(2).times do |j|
              table.dim(3).times { |i| table[c, k, j, i] = 2.0 * Grid::Noise.lattice_at(ox + i, oy + j, oz + k, l, f, seed + c) - 1.0 }
            end
          end
        end
      end

      # Adds one octave of noise, times `gain`, to a potential at cell centres, where it is wanted;
      # `per` is lattice steps a cell, `sz sy sx` where the first cell stands in the lattice.
      # With `first` the potential begins with it.
      kernel px: F32[3], py: F32[3], pz: F32[3], share: F32[3], table: F32[4], per: F32, sz: F32, sy: F32, sx: F32,
        gain: F32, first: BOOL
      def octave(px, py, pz, share, table, per, sz, sy, sx, gain, first)
        parallel(px.dim(0), uneven: true) do |k|
          z = k * per + sz
          c = z.to_i
          fz = Grid::Noise.fade(z - c)
          px.dim(1).times do |j|
            y = j * per + sy
            b = y.to_i
            fy = Grid::Noise.fade(y - b)
            px.dim(2).times do |i|
              if wanted(share, k, j, i)
                x = i * per + sx
                a = x.to_i
                fx = Grid::Noise.fade(x - a)
                u = first ? 0.0 : px[k, j, i]
                v = first ? 0.0 : py[k, j, i]
                w = first ? 0.0 : pz[k, j, i]
                px[k, j, i] = u + gain * between(table, 0, c, b, a, fz, fy, fx)
                py[k, j, i] = v + gain * between(table, 1, c, b, a, fz, fy, fx)
                pz[k, j, i] = w + gain * between(table, 2, c, b, a, fz, fy, fx)
              end
            end
          end
        end
      end

      kernel table: F32[4], n: I32, c: I32, b: I32, a: I32, fz: F32, fy: F32, fx: F32, returns: F32
      def between(table, n, c, b, a, fz, fy, fx)
        p = table[n, c, b, a] + fx * (table[n, c, b, a + 1] - table[n, c, b, a])
        q = table[n, c, b + 1, a] + fx * (table[n, c, b + 1, a + 1] - table[n, c, b + 1, a])
        r = table[n, c + 1, b, a] + fx * (table[n, c + 1, b, a + 1] - table[n, c + 1, b, a])
        s = table[n, c + 1, b + 1, a] + fx * (table[n, c + 1, b + 1, a + 1] - table[n, c + 1, b + 1, a])
        front = p + fy * (q - p)
        back = r + fy * (s - r)
        front + fz * (back - front)
      end

      # The potential's curl where it is wanted: times the velocity and times itself, summed over the
      # cells; and how many cells take part.
      kernel px: F32[3], py: F32[3], pz: F32[3], share: F32[3], u: F32[3], v: F32[3], w: F32[3],
        returns: [F64, F64, F64]
      def work(px, py, pz, share, u, v, w)
        along = parallel_sum(px.dim(0) - 2) do |n|
          k = n + 1
          row = f64(0.0)
          (1...(px.dim(1) - 1)).each do |j|
            (1...(px.dim(2) - 1)).each do |i|
              if share[k, j, i] > 0.0
                a, b, c = curl_at(px, py, pz, k, j, i)
                row += 0.5 * share[k, j, i] * (a * (u[k, j, i] + u[k, j, i + 1]) + b * (v[k, j, i] + v[k, j + 1, i]) +
                  c * (w[k, j, i] + w[k + 1, j, i]))
              end
            end
          end
          row
        end
        square = parallel_sum(px.dim(0) - 2) do |n|
          k = n + 1
          row = f64(0.0)
          (1...(px.dim(1) - 1)).each do |j|
            (1...(px.dim(2) - 1)).each do |i|
              if share[k, j, i] > 0.0
                a, b, c = curl_at(px, py, pz, k, j, i)
                row += share[k, j, i] * share[k, j, i] * (a * a + b * b + c * c)
              end
            end
          end
          row
        end
        whole = parallel_sum(px.dim(0)) do |k|
          row = f64(0.0)
          px.dim(1).times { |j| px.dim(2).times { |i| row += share[k, j, i] } }
          row
        end
        return along, square, whole
      end

      # The curl of a potential at a cell, for a cell's size of 1.
      kernel px: F32[3], py: F32[3], pz: F32[3], k: I32, j: I32, i: I32, returns: [F32, F32, F32]
      def curl_at(px, py, pz, k, j, i)
        a = 0.5 * (pz[k, j + 1, i] - pz[k, j - 1, i] - py[k + 1, j, i] + py[k - 1, j, i])
        b = 0.5 * (px[k + 1, j, i] - px[k - 1, j, i] - pz[k, j, i + 1] + pz[k, j, i - 1])
        c = 0.5 * (py[k, j, i + 1] - py[k, j, i - 1] - px[k, j + 1, i] + px[k, j - 1, i])
        return a, b, c
      end

      # Adds the potential's curl, times `gain`, to an acceleration; the outermost cells are left.
      kernel ax: F32[3], ay: F32[3], az: F32[3], px: F32[3], py: F32[3], pz: F32[3], share: F32[3], gain: F32
      def stir(ax, ay, az, px, py, pz, share, gain)
        parallel(ax.dim(0) - 2) do |n|
          k = n + 1
          (1...(ax.dim(1) - 1)).each do |j|
            (1...(ax.dim(2) - 1)).each do |i|
              amount = share[k, j, i]
              if amount > 0.0
                a, b, c = curl_at(px, py, pz, k, j, i)
                ax[k, j, i] += gain * amount * a
                ay[k, j, i] += gain * amount * b
                az[k, j, i] += gain * amount * c
              end
            end
          end
        end
      end
    end
  end
end
