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

      # Where each fine cell looks (in cells of the run's part), drawn aside by the rolls of a tile at the texture
      # coordinates: Two sets of coordinates are mixed. Nothing is done in cells of the run that are not `near` matter.
      kernel at: Grid::VectorField, near: U8[3], energy: F32[3], one: Grid::VectorField, two: Grid::VectorField,
        tile: F32[4], drawing: Gas::Drawing
      def look(at, near, energy, one, two, tile, drawing)
        parallel(at.x.dim(0), uneven: true) do |k|
          z = (k + 0.5) / drawing.finer - 0.5
          places = local_f32(6)
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
              if near[z.to_i, y.to_i, x.to_i] > 0
                # Held to a cell, so that nothing tears.
                far = [drawing.reach * Grid::Sampling.linear(energy, x, y, z), 1.2].min
                2.times do |octave|
                  gain = far * (octave == 0 ? 1.0 : 0.5)
                  per = (octave == 0 ? 1.0 : 2.0) / drawing.size
                  coordinates(places, one, two, px, py, pz)
                  u, v, w =
                    SwirlKernels.swirl(tile, per * places[0], per * places[1], per * places[2], 2 * octave)
                  p, q, r =
                    SwirlKernels.swirl(tile, per * places[3], per * places[4], per * places[5], 2 * octave + 1)
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

      # Both sets of coordinates at a place, read as by {Grid::Sampling.linear}.
      kernel out: F32[1], one: Grid::VectorField, two: Grid::VectorField, x: F32, y: F32, z: F32
      def coordinates(out, one, two, x, y, z)
        cx = x.clamp(0.0, (one.x.dim(2) - 1).to_f)
        cy = y.clamp(0.0, (one.x.dim(1) - 1).to_f)
        cz = z.clamp(0.0, (one.x.dim(0) - 1).to_f)
        i = cx.to_i.clamp(0, one.x.dim(2) - 2)
        j = cy.to_i.clamp(0, one.x.dim(1) - 2)
        k = cz.to_i.clamp(0, one.x.dim(0) - 2)
        6.times { |n| out[n] = 0.0 }
        8.times do |c|
          a = c & 1
          b = (c >> 1) & 1
          d = c >> 2
          weight = (a > 0 ? cx - i : 1.0 - cx + i) * (b > 0 ? cy - j : 1.0 - cy + j) * (d > 0 ? cz - k : 1.0 - cz + k)
          out[0] += weight * one.x[k + d, j + b, i + a]
          out[1] += weight * one.y[k + d, j + b, i + a]
          out[2] += weight * one.z[k + d, j + b, i + a]
          out[3] += weight * two.x[k + d, j + b, i + a]
          out[4] += weight * two.y[k + d, j + b, i + a]
          out[5] += weight * two.z[k + d, j + b, i + a]
        end
      end

      # 1 where there is matter.
      kernel near: U8[3], matter: F32[3]
      def mark(near, matter)
        each_cell(near) { |k, j, i| near[k, j, i] = matter[k, j, i].abs > 0.0005 ? 1 : 0 }
      end

      # What is marked from two cells before to three cells after each one, along an axis (0 x, 1 y, 2 z).
      kernel out: U8[3], near: U8[3], axis: I32
      def widen(out, near, axis)
        each_cell(out) do |k, j, i|
          found = 0
          ((-2)..3).each do |n|
            c = (axis == 2 ? k + n : k).clamp(0, near.dim(0) - 1)
            b = (axis == 1 ? j + n : j).clamp(0, near.dim(1) - 1)
            a = (axis == 0 ? i + n : i).clamp(0, near.dim(2) - 1)
            found = 1 if near[c, b, a] > 0
          end
          out[k, j, i] = found
        end
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
