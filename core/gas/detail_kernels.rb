# frozen_string_literal: true

module Vumbral
  module Gas
    # Loops for finer detail.
    module DetailKernels
      extend Kernel::Library

      # Texture coordinates as they begin: each cell's own place, in cells of the chamber, of which the
      # first is `oz oy ox`.
      kernel set: Grid::VectorField, oz: I32, oy: I32, ox: I32
      def lay(set, oz, oy, ox)
        each_cell(set.x) do |k, j, i|
          set.x[k, j, i] = (i + ox).to_f
          set.y[k, j, i] = (j + oy).to_f
          set.z[k, j, i] = (k + oz).to_f
        end
      end

      # Carries a field along a velocity at centres, to second order; `step` is seconds divided by metres a
      # cell.
      kernel dst: F32[3], src: F32[3], flow: Grid::VectorField, step: F32
      def carry(dst, src, flow, step)
        each_cell(dst) do |k, j, i|
          value = src[k, j, i]
          dx = 0.5 * step * flow.x[k, j, i]
          dy = 0.5 * step * flow.y[k, j, i]
          dz = 0.5 * step * flow.z[k, j, i]
          if dx != 0.0 || dy != 0.0 || dz != 0.0
            u = step * Grid::Sampling.linear(flow.x, i - dx, j - dy, k - dz)
            v = step * Grid::Sampling.linear(flow.y, i - dx, j - dy, k - dz)
            w = step * Grid::Sampling.linear(flow.z, i - dx, j - dy, k - dz)
            value = Grid::Sampling.linear(src, i - u, j - v, k - w)
          end
          dst[k, j, i] = value
        end
      end

      # How lively the flow is at the smallest scale the run knows: what differs from the mean of the
      # six neighbours, metres a second.
      kernel energy: F32[3], flow: Grid::VectorField
      def energy(energy, flow)
        parallel(energy.dim(0) - 2) do |n|
          k = n + 1
          (1...(energy.dim(1) - 1)).each do |j|
            (1...(energy.dim(2) - 1)).each do |i|
              a = flow.x[k, j,
                i] - 0.16666667 * (flow.x[k, j, i + 1] + flow.x[k, j, i - 1] + flow.x[k, j + 1, i] + flow.x[k, j - 1, i] + flow.x[k + 1, j, i] + flow.x[k - 1, j, i])
              b = flow.y[k, j,
                i] - 0.16666667 * (flow.y[k, j, i + 1] + flow.y[k, j, i - 1] + flow.y[k, j + 1, i] + flow.y[k, j - 1, i] + flow.y[k + 1, j, i] + flow.y[k - 1, j, i])
              c = flow.z[k, j,
                i] - 0.16666667 * (flow.z[k, j, i + 1] + flow.z[k, j, i - 1] + flow.z[k, j + 1, i] + flow.z[k, j - 1, i] + flow.z[k + 1, j, i] + flow.z[k - 1, j, i])
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
      # coordinates: Two sets of coordinates are mixed. Nothing is done where there is no `matter` near.
      kernel at: Grid::VectorField, matter: F32[3], energy: F32[3], one: Grid::VectorField, two: Grid::VectorField,
        drawing: Gas::Drawing
      def look(at, matter, energy, one, two, drawing)
        parallel(at.x.dim(0), uneven: true) do |k|
          z = (k + 0.5) / drawing.finer - 0.5
          # Two sets that differ in chance keep their strength when mixed like this.
          first = Math.sqrt(drawing.part)
          second = Math.sqrt(1.0 - drawing.part)
          at.x.dim(1).times do |j|
            y = (j + 0.5) / drawing.finer - 0.5
            at.x.dim(2).times do |i|
              x = (i + 0.5) / drawing.finer - 0.5
              px = x
              py = y
              pz = z
              if near(matter, x, y, z)
                # Held to a cell, so that nothing tears.
                far = [drawing.reach * Grid::Sampling.linear(energy, x, y, z), 1.2].min
                2.times do |octave|
                  fine = octave == 0 ? 1.0 : 2.0
                  gain = far * (octave == 0 ? 1.0 : 0.5)
                  per = fine / drawing.size
                  u, v, w =
                    swirl(
                      per * Grid::Sampling.linear(one.x, px, py, pz), per * Grid::Sampling.linear(one.y, px, py, pz),
                      per * Grid::Sampling.linear(one.z, px, py, pz), drawing.seed + 10 * octave
                    )
                  p, q, r =
                    swirl(
                      per * Grid::Sampling.linear(two.x, px, py, pz), per * Grid::Sampling.linear(two.y, px, py, pz),
                      per * Grid::Sampling.linear(two.z, px, py, pz), drawing.seed + 100 + 10 * octave
                    )
                  px += gain * (first * u + second * p)
                  py += gain * (first * v + second * q)
                  pz += gain * (first * w + second * r)
                end
              end
              at.x[k, j, i] = px
              at.y[k, j, i] = py
              at.z[k, j, i] = pz
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
      kernel out: F32[3], field: F32[3], at: Grid::VectorField
      def read(out, field, at)
        each_cell(out) do |k, j, i|
          out[k, j, i] = Grid::Sampling.linear(field, at.x[k, j, i], at.y[k, j, i], at.z[k, j, i])
        end
      end

      # Lifts a field from the mean of its neighbours, never past what is around it.
      kernel out: F32[3], field: F32[3], amount: F32
      def sharpen(out, field, amount)
        each_cell(field) do |k, j, i|
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
