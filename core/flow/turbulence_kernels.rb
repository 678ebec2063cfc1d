# frozen_string_literal: true

module Vumbral
  module Flow
    # Turbulence as the curl of a noise potential, where there is something to stir.
    module TurbulenceKernels
      extend Kernel::Library

      # How far each cell takes part, 0 to 1: `everywhere`, or by smoke, heat or speed, times a
      # falloff. Cells that take no part stay out of everything that follows.
      kernel share: F32[3], smoke: F32[3], heat: F32[3], faces: Flow::Faces, falloff: F32[3], fallen: BOOL,
        mask: Flow::Mask
      def shares(share, smoke, heat, faces, falloff, fallen, mask)
        each_cell(share) do |k, j, i|
          speed = 0.0
          if mask.speed > 0.0
            speed =
              (faces.u[k, j, i] + faces.u[k, j, i + 1]).abs + (faces.v[k, j, i] + faces.v[k, j + 1, i]).abs +
              (faces.w[k, j, i] + faces.w[k + 1, j, i]).abs
          end
          value = (mask.everywhere + mask.smoke * smoke[k, j, i] + mask.heat * heat[k, j, i].abs + 0.5 * mask.speed * speed).clamp(
            0.0, 1.0
          )
          share[k, j, i] = fallen ? value * falloff[k, j, i] : value
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
              table
                .dim(3)
                .times do |i|
                  table[c, k, j, i] = 2.0 * Grid::Noise.lattice_at(ox + i, oy + j, oz + k, l, f, seed + c) - 1.0
                end
            end
          end
        end
      end

      # Adds one octave of noise to a potential at cell centres, where it is wanted.
      kernel potential: Grid::VectorField, share: F32[3], table: F32[4], octave: Flow::Octave
      def octave(potential, share, table, octave)
        parallel(potential.x.dim(0), uneven: true) do |k|
          z = k * octave.per + octave.z
          c = z.to_i
          fz = Grid::Noise.fade(z - c)
          potential.x.dim(1).times do |j|
            y = j * octave.per + octave.y
            b = y.to_i
            fy = Grid::Noise.fade(y - b)
            # From one point of the lattice to the next: what its corners come to across is the same for all between.
            first = 0
            while first < potential.x.dim(2)
              a = (first * octave.per + octave.x).to_i
              last = first + 1
              last += 1 while last < potential.x.dim(2) && (last * octave.per + octave.x).to_i == a
              u0, v0, w0 = across(table, c, b, a, fz, fy)
              u1, v1, w1 = across(table, c, b, a + 1, fz, fy)
              (first...last).each do |i|
                if wanted(share, k, j, i)
                  fx = Grid::Noise.fade(i * octave.per + octave.x - a)
                  u = octave.first ? 0.0 : potential.x[k, j, i]
                  v = octave.first ? 0.0 : potential.y[k, j, i]
                  w = octave.first ? 0.0 : potential.z[k, j, i]
                  potential.x[k, j, i] = u + octave.gain * (u0 + fx * (u1 - u0))
                  potential.y[k, j, i] = v + octave.gain * (v0 + fx * (v1 - v0))
                  potential.z[k, j, i] = w + octave.gain * (w0 + fx * (w1 - w0))
                end
              end
              first = last
            end
          end
        end
      end

      # The three noises across a row at one point of the lattice along it.
      kernel table: F32[4], c: I32, b: I32, a: I32, fz: F32, fy: F32, returns: [F32, F32, F32]
      def across(table, c, b, a, fz, fy)
        return between(table, 0, c, b, a, fz, fy), between(table, 1, c, b, a, fz, fy),
          between(table, 2, c, b, a, fz, fy)
      end

      kernel table: F32[4], n: I32, c: I32, b: I32, a: I32, fz: F32, fy: F32, returns: F32
      def between(table, n, c, b, a, fz, fy)
        front = table[n, c, b, a] + fy * (table[n, c, b + 1, a] - table[n, c, b, a])
        back = table[n, c + 1, b, a] + fy * (table[n, c + 1, b + 1, a] - table[n, c + 1, b, a])
        front + fz * (back - front)
      end

      # The potential's curl where it is wanted: times the velocity and times itself, summed over the
      # cells; and how many cells take part. `rows` f64 [z, 3] is what each layer comes to.
      kernel rows: F64[2], potential: Grid::VectorField, share: F32[3], faces: Flow::Faces, returns: [F64, F64, F64]
      def work(rows, potential, share, faces)
        parallel(potential.x.dim(0)) do |k|
          along = f64(0.0)
          square = f64(0.0)
          whole = f64(0.0)
          edge = k == 0 || k == potential.x.dim(0) - 1
          potential.x.dim(1).times do |j|
            potential.x.dim(2).times { |i| whole += share[k, j, i] }
            if !edge && j > 0 && j < potential.x.dim(1) - 1
              (1...(potential.x.dim(2) - 1)).each do |i|
                part = share[k, j, i]
                if part > 0.0
                  a, b, c = curl_at(potential, k, j, i)
                  along += 0.5 * part * (a * (faces.u[k, j, i] + faces.u[k, j, i + 1]) +
                    b * (faces.v[k, j, i] + faces.v[k, j + 1, i]) + c * (faces.w[k, j, i] + faces.w[k + 1, j, i]))
                  square += part * part * (a * a + b * b + c * c)
                end
              end
            end
          end
          rows[k, 0] = along
          rows[k, 1] = square
          rows[k, 2] = whole
        end
        along = f64(0.0)
        square = f64(0.0)
        whole = f64(0.0)
        rows.dim(0).times do |k|
          along += rows[k, 0]
          square += rows[k, 1]
          whole += rows[k, 2]
        end
        return along, square, whole
      end

      # The curl of a potential at a cell, for a cell's size of 1.
      kernel potential: Grid::VectorField, k: I32, j: I32, i: I32, returns: [F32, F32, F32]
      def curl_at(potential, k, j, i)
        a =
          0.5 *
          (potential.z[k, j + 1, i] - potential.z[k, j - 1, i] - potential.y[k + 1, j, i] + potential.y[k - 1, j, i])
        b =
          0.5 *
          (potential.x[k + 1, j, i] - potential.x[k - 1, j, i] - potential.z[k, j, i + 1] + potential.z[k, j, i - 1])
        c =
          0.5 *
          (potential.y[k, j, i + 1] - potential.y[k, j, i - 1] - potential.x[k, j + 1, i] + potential.x[k, j - 1, i])
        return a, b, c
      end

      # Adds the potential's curl, times `gain`, to an acceleration; the outermost cells are left.
      kernel push: Grid::VectorField, potential: Grid::VectorField, share: F32[3], gain: F32
      def stir(push, potential, share, gain)
        parallel(push.x.dim(0) - 2) do |n|
          k = n + 1
          (1...(push.x.dim(1) - 1)).each do |j|
            (1...(push.x.dim(2) - 1)).each do |i|
              amount = share[k, j, i]
              if amount > 0.0
                a, b, c = curl_at(potential, k, j, i)
                push.x[k, j, i] += gain * amount * a
                push.y[k, j, i] += gain * amount * b
                push.z[k, j, i] += gain * amount * c
              end
            end
          end
        end
      end
    end
  end
end
