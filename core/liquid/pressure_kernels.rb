# frozen_string_literal: true

module Vumbral
  module Liquid
    # The equations of a liquid's pressure: walls cover faces in part (Batty, Bertails & Bridson 2007), and the surface
    # lies where it does between two cells' centres (Gibou et al. 2002). Pressure is counted in m/s, so that its
    # difference is what it takes from the speed.
    module PressureKernels
      extend Kernel::Library

      # How far above the surface a cell's centre lies, cells, by how much is about it: exact for an even surface.
      kernel full: F32, returns: F32
      def above(full)
        f = full.clamp(0.0, 1.0)
        f < 0.5 ? 1.0 - Math.sqrt(2.0 * f) : Math.sqrt(2.0 * (1.0 - f)) - 1.0
      end

      # Which part of the way from a centre in the liquid to one outside the surface lies at.
      kernel here: F32, there: F32, returns: F32
      def part(here, there)
        a = above(here)
        b = above(there)
        (a / [a - b, -1e-4].min).clamp(0.05, 1.0)
      end

      # How much of each face is open, by the walls at its corners.
      kernel open: Flow::Faces, far: F32[3]
      def uncover(open, far)
        parallel(far.dim(0)) do |k|
          far.dim(1).times do |j|
            far.dim(2).times do |i|
              y = j + 1 < far.dim(1)
              z = k + 1 < far.dim(0)
              x = i + 1 < far.dim(2)
              open.u[k, j, i] = free(far[k, j, i], far[k, j + 1, i], far[k + 1, j, i], far[k + 1, j + 1, i]) if y && z
              open.v[k, j, i] = free(far[k, j, i], far[k, j, i + 1], far[k + 1, j, i], far[k + 1, j, i + 1]) if x && z
              open.w[k, j, i] = free(far[k, j, i], far[k, j, i + 1], far[k, j + 1, i], far[k, j + 1, i + 1]) if x && y
            end
          end
        end
      end

      kernel a: F32, b: F32, c: F32, d: F32, returns: F32
      def free(a, b, c, d)
        out = [a, 0.0].max + [b, 0.0].max + [c, 0.0].max + [d, 0.0].max
        all = a.abs + b.abs + c.abs + d.abs
        share = out / [all, 1e-6].max
        share < 0.1 ? 0.0 : share
      end

      # Closed sides of the chamber let nothing through, and do not move. `sides` x0 x1 y0 y1 z0 z1, 1 for open ones.
      kernel open: Flow::Faces, sides: F32[1]
      def close(open, sides)
        nz = open.u.dim(0)
        ny = open.u.dim(1)
        nx = open.v.dim(2)
        parallel(nz) do |k|
          ny.times do |j|
            open.u[k, j, 0] *= sides[0]
            open.u[k, j, nx] *= sides[1]
          end
          nx.times do |i|
            open.v[k, 0, i] *= sides[2]
            open.v[k, ny, i] *= sides[3]
          end
        end
        parallel(ny) do |j|
          nx.times do |i|
            open.w[0, j, i] *= sides[4]
            open.w[nz, j, i] *= sides[5]
          end
        end
      end

      # Which share of each cell lies outside walls.
      kernel room: F32[3], far: F32[3]
      def room(room, far)
        each_cell(room) do |k, j, i|
          low = free(far[k, j, i], far[k, j, i + 1], far[k, j + 1, i], far[k, j + 1, i + 1])
          high = free(far[k + 1, j, i], far[k + 1, j, i + 1], far[k + 1, j + 1, i], far[k + 1, j + 1, i + 1])
          room[k, j, i] = 0.5 * (low + high)
        end
      end

      # Spread along one axis (0 x, 1 y, 2 z) as particles weigh: an eighth to both sides. Past the chamber's sides
      # there is nothing.
      kernel out: F32[3], from: F32[3], axis: I32
      def spread(out, from, axis)
        z = axis == 2 ? 1 : 0
        y = axis == 1 ? 1 : 0
        parallel(out.dim(0)) do |k|
          out.dim(1).times do |j|
            low = (axis == 2 && k == 0) || (axis == 1 && j == 0) ? 0.0 : 0.125
            high = (axis == 2 && k == out.dim(0) - 1) || (axis == 1 && j == out.dim(1) - 1) ? 0.0 : 0.125
            last = out.dim(2) - 1
            if axis == 0
              out[k, j, 0] = 0.75 * from[k, j, 0] + 0.125 * from[k, j, 1]
              (1...last).each do |i|
                out[k, j, i] = 0.125 * from[k, j, i - 1] + 0.75 * from[k, j, i] + 0.125 * from[k, j, i + 1]
              end
              out[k, j, last] = 0.125 * from[k, j, last - 1] + 0.75 * from[k, j, last]
            else
              b = [j - y, 0].max
              d = [j + y, out.dim(1) - 1].min
              c = [k - z, 0].max
              e = [k + z, out.dim(0) - 1].min
              out.dim(2).times { |i| out[k, j, i] = low * from[c, b, i] + 0.75 * from[k, j, i] + high * from[e, d, i] }
            end
          end
        end
      end

      # How full each cell is of what it can hold; where that is little, as its neighbours are.
      kernel full: F32[3], given: F32[3], about: F32[3]
      def fullness(full, given, about)
        each_cell(full) do |k, j, i|
          room = about[k, j, i]
          if room >= 0.3
            full[k, j, i] = given[k, j, i] / room
          else
            sum = 0.0
            count = 0.0
            3.times do |axis|
              2.times do |side|
                c = k + (axis == 2 ? 2 * side - 1 : 0)
                b = j + (axis == 1 ? 2 * side - 1 : 0)
                a = i + (axis == 0 ? 2 * side - 1 : 0)
                if c >= 0 && b >= 0 && a >= 0 && c < full.dim(0) && b < full.dim(1) && a < full.dim(2)
                  if about[c, b, a] >= 0.3
                    sum += given[c, b, a] / about[c, b, a]
                    count += 1.0
                  end
                end
              end
            end
            full[k, j, i] = sum / [count, 1.0].max
          end
        end
      end

      # The equations and what they are to come to: what flows out of each cell of the liquid, walls moving as they do.
      # @param jump the pressure at the surface near each cell
      kernel m: Liquid::Matrix, b: F32[3], faces: Flow::Faces, open: Flow::Faces, moved: Flow::Faces, full: F32[3],
        jump: F32[3]
      def equations(m, b, faces, open, moved, full, jump)
        nz = full.dim(0)
        ny = full.dim(1)
        nx = full.dim(2)
        parallel(nz) do |k|
          ny.times do |j|
            nx.times do |i|
              own = 0.0
              out = 0.0
              tx = 0.0
              ty = 0.0
              tz = 0.0
              here = full[k, j, i]
              if here >= 0.5
                wa = open.u[k, j, i]
                wb = open.u[k, j, i + 1]
                wc = open.v[k, j, i]
                wd = open.v[k, j + 1, i]
                we = open.w[k, j, i]
                wf = open.w[k + 1, j, i]
                # Open sides end in air.
                a = i > 0 ? full[k, j, i - 1] : 0.0
                c = i < nx - 1 ? full[k, j, i + 1] : 0.0
                d = j > 0 ? full[k, j - 1, i] : 0.0
                e = j < ny - 1 ? full[k, j + 1, i] : 0.0
                f = k > 0 ? full[k - 1, j, i] : 0.0
                g = k < nz - 1 ? full[k + 1, j, i] : 0.0
                own = tie(own, wa, here, a)
                own = tie(own, wb, here, c)
                own = tie(own, wc, here, d)
                own = tie(own, wd, here, e)
                own = tie(own, we, here, f)
                own = tie(own, wf, here, g)
                out -= wa * held(jump, full, k, j, i, k, j, i - 1) if i > 0 && a < 0.5
                out -= wb * held(jump, full, k, j, i, k, j, i + 1) if i < nx - 1 && c < 0.5
                out -= wc * held(jump, full, k, j, i, k, j - 1, i) if j > 0 && d < 0.5
                out -= wd * held(jump, full, k, j, i, k, j + 1, i) if j < ny - 1 && e < 0.5
                out -= we * held(jump, full, k, j, i, k - 1, j, i) if k > 0 && f < 0.5
                out -= wf * held(jump, full, k, j, i, k + 1, j, i) if k < nz - 1 && g < 0.5
                tx = wb if i < nx - 1 && c >= 0.5
                ty = wd if j < ny - 1 && e >= 0.5
                tz = wf if k < nz - 1 && g >= 0.5
                out +=
                  wb * faces.u[k, j, i + 1] - wa * faces.u[k, j, i] + wd * faces.v[k, j + 1, i] -
                  wc * faces.v[k, j, i] + wf * faces.w[k + 1, j, i] - we * faces.w[k, j, i] +
                  (1.0 - wb) * moved.u[k, j, i + 1] - (1.0 - wa) * moved.u[k, j, i] +
                  (1.0 - wd) * moved.v[k, j + 1, i] - (1.0 - wc) * moved.v[k, j, i] +
                  (1.0 - wf) * moved.w[k + 1, j, i] - (1.0 - we) * moved.w[k, j, i]
              end
              m.own[k, j, i] = own
              m.x[k, j, i] = tx
              m.y[k, j, i] = ty
              m.z[k, j, i] = tz
              b[k, j, i] = own > 0.0 ? -out : 0.0
            end
          end
        end
      end

      # What the pressure at the surface between a cell of the liquid and one outside presses back with.
      kernel jump: F32[3], full: F32[3], k: I32, j: I32, i: I32, c: I32, b: I32, a: I32, returns: F32
      def held(jump, full, k, j, i, c, b, a)
        at = part(full[k, j, i], full[c, b, a])
        between(jump[k, j, i], jump[c, b, a], at) / at
      end

      # At the surface, a part of the way from the liquid; where one of the two lies too far from it, the other's.
      kernel here: F32, there: F32, at: F32, returns: F32
      def between(here, there, at)
        (here == 0.0 || there == 0.0) ? here + there : here + at * (there - here)
      end

      # What one face adds to a cell's own part.
      kernel own: F32, w: F32, here: F32, there: F32, returns: F32
      def tie(own, w, here, there)
        own + (there >= 0.5 ? w : w / part(here, there))
      end

      # Takes the pressure's difference from each face's speed. `known` says where that stands: 1 beside the liquid and
      # where there are many particles, 2 where only a few fly.
      kernel faces: Flow::Faces, known: Liquid::Marks, p: F32[3], full: F32[3], open: Flow::Faces, weights: Flow::Faces,
        jump: F32[3], busy: U8[2]
      def press(faces, known, p, full, open, weights, jump, busy)
        nz = full.dim(0)
        ny = full.dim(1)
        nx = full.dim(2)
        parallel(nz + 1, uneven: true) do |k|
          (ny + 1).times do |j|
            (busy[k, j] == 0 ? 0 : nx + 1).times do |i|
              x = i < nx
              y = j < ny
              z = k < nz
              if y && z
                faces.u[k, j, i] -= drop(p, full, jump, k, j, i, 0) if open.u[k, j, i] > 0.0
                known.u[k, j, i] = open.u[k, j, i] > 0.0 ? stands(full, weights.u[k, j, i], k, j, i, 0) : 0
              end
              if x && z
                faces.v[k, j, i] -= drop(p, full, jump, k, j, i, 1) if open.v[k, j, i] > 0.0
                known.v[k, j, i] = open.v[k, j, i] > 0.0 ? stands(full, weights.v[k, j, i], k, j, i, 1) : 0
              end
              if x && y
                faces.w[k, j, i] -= drop(p, full, jump, k, j, i, 2) if open.w[k, j, i] > 0.0
                known.w[k, j, i] = open.w[k, j, i] > 0.0 ? stands(full, weights.w[k, j, i], k, j, i, 2) : 0
              end
            end
          end
        end
      end

      # So few particles at a face that the liquid beside it tells its speed better.
      FEW = 1.0

      kernel full: F32[3], weight: F32, k: I32, j: I32, i: I32, axis: I32, returns: I32
      def stands(full, weight, k, j, i, axis)
        c = k - (axis == 2 ? 1 : 0)
        b = j - (axis == 1 ? 1 : 0)
        a = i - (axis == 0 ? 1 : 0)
        most = 0.0
        most = full[c, b, a] if c >= 0 && b >= 0 && a >= 0
        most = [most, full[k, j, i]].max if k < full.dim(0) && j < full.dim(1) && i < full.dim(2)
        most >= 0.5 || weight >= FEW ? 1 : (weight > 1e-4 ? 2 : 0)
      end

      # The pressure's difference over the lower face of a cell along an axis.
      kernel p: F32[3], full: F32[3], jump: F32[3], k: I32, j: I32, i: I32, axis: I32, returns: F32
      def drop(p, full, jump, k, j, i, axis)
        c = k - (axis == 2 ? 1 : 0)
        b = j - (axis == 1 ? 1 : 0)
        a = i - (axis == 0 ? 1 : 0)
        below = c >= 0 && b >= 0 && a >= 0
        beyond = k < full.dim(0) && j < full.dim(1) && i < full.dim(2)
        before = 0.0
        after = 0.0
        before = full[c, b, a] if below
        after = full[k, j, i] if beyond
        difference = 0.0
        if before >= 0.5 && after >= 0.5
          difference = p[k, j, i] - p[c, b, a]
        elsif before >= 0.5
          at = part(before, after)
          surface = 0.0
          surface = between(jump[c, b, a], jump[k, j, i], at) if beyond
          difference = (surface - p[c, b, a]) / at
        elsif after >= 0.5
          near = part(after, before)
          edge = 0.0
          edge = between(jump[k, j, i], jump[c, b, a], near) if below
          difference = (p[k, j, i] - edge) / near
        end
        difference
      end
    end
  end
end
