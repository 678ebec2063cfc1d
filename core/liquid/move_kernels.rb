# frozen_string_literal: true

module Vumbral
  module Liquid
    # What particles take from the grid, and how they go on with it, up to walls.
    module MoveKernels
      extend Kernel::Library

      # Cells that particles keep from walls.
      APART = 0.08
      # And steps along which one looks for them, cells.
      LOOK = 0.4

      # The number before a place along one axis of so many numbers, and how far past it that is.
      kernel x: F32, count: I32, returns: [I32, F32]
      def spot(x, count)
        c = x.clamp(0.0, (count - 1).to_f)
        i = c.to_i.clamp(0, count - 2)
        return i, c - i
      end

      # One part of the grid's speed at a place, and how it changes along x, y and z (by the cell).
      kernel field: F32[3], k: I32, j: I32, i: I32, fz: F32, fy: F32, fx: F32, returns: [F32, F32, F32, F32]
      def taken(field, k, j, i, fz, fy, fx)
        a = field[k, j, i]
        b = field[k, j, i + 1]
        c = field[k, j + 1, i]
        d = field[k, j + 1, i + 1]
        e = field[k + 1, j, i]
        f = field[k + 1, j, i + 1]
        g = field[k + 1, j + 1, i]
        h = field[k + 1, j + 1, i + 1]
        ab = a + fx * (b - a)
        cd = c + fx * (d - c)
        ef = e + fx * (f - e)
        gh = g + fx * (h - g)
        near = ab + fy * (cd - ab)
        away = ef + fy * (gh - ef)
        sx = (1.0 - fz) * ((1.0 - fy) * (b - a) + fy * (d - c)) + fz * ((1.0 - fy) * (f - e) + fy * (h - g))
        sy = (1.0 - fz) * (cd - ab) + fz * (gh - ef)
        return near + fz * (away - near), sx, sy, away - near
      end

      # The grid's speed at a place.
      kernel faces: Flow::Faces, x: F32, y: F32, z: F32, returns: [F32, F32, F32]
      def speed_at(faces, x, y, z)
        i, fx = spot(x - 0.5, faces.v.dim(2))
        j, fy = spot(y - 0.5, faces.u.dim(1))
        k, fz = spot(z - 0.5, faces.u.dim(0))
        i1, fx1 = spot(x, faces.v.dim(2) + 1)
        j1, fy1 = spot(y, faces.u.dim(1) + 1)
        k1, fz1 = spot(z, faces.u.dim(0) + 1)
        u, _a, _b, _c = taken(faces.u, k, j, i1, fz, fy, fx1)
        v, _d, _e, _f = taken(faces.v, k, j1, i, fz, fy1, fx)
        w, _g, _h, _o = taken(faces.w, k1, j, i, fz1, fy, fx)
        return u, v, w
      end

      # The grid's speed at a particle, which takes over how that changes there, times `scale`.
      kernel drops: Liquid::Drops, p: I32, faces: Flow::Faces, scale: F32, returns: [F32, F32, F32]
      def turned(drops, p, faces, scale)
        i, fx = spot(drops.at[p, 0] - 0.5, faces.v.dim(2))
        j, fy = spot(drops.at[p, 1] - 0.5, faces.u.dim(1))
        k, fz = spot(drops.at[p, 2] - 0.5, faces.u.dim(0))
        i1, fx1 = spot(drops.at[p, 0], faces.v.dim(2) + 1)
        j1, fy1 = spot(drops.at[p, 1], faces.u.dim(1) + 1)
        k1, fz1 = spot(drops.at[p, 2], faces.u.dim(0) + 1)
        u, ux, uy, uz = taken(faces.u, k, j, i1, fz, fy, fx1)
        v, vx, vy, vz = taken(faces.v, k, j1, i, fz, fy1, fx)
        w, wx, wy, wz = taken(faces.w, k1, j, i, fz1, fy, fx)
        drops.turn[p, 0] = scale * ux
        drops.turn[p, 1] = scale * uy
        drops.turn[p, 2] = scale * uz
        drops.turn[p, 3] = scale * vx
        drops.turn[p, 4] = scale * vy
        drops.turn[p, 5] = scale * vz
        drops.turn[p, 6] = scale * wx
        drops.turn[p, 7] = scale * wy
        drops.turn[p, 8] = scale * wz
        return u, v, w
      end

      # Gives particles their speeds and carries them on. Speeds are those of the grid, and that share of what the grid
      # has gained that keeps the particle's own (Zhu & Bridson 2005). They go along the grid's speed to second order;
      # what falls freely goes by the mean of its speeds at both ends of the step, as it does (that of all would feed
      # waves). A particle that would enter a wall stops before it; where walls move, on the side it came from.
      # @param before the grid's speeds before anything acted on them
      # @param going f32 [4]: which share stays the particle's own, how much of the change of speed over space it
      #   carries (by the metre and cell), how many cells 1 m/s leads in the step, and what gravity gives in it, m/s
      kernel drops: Liquid::Drops, faces: Flow::Faces, before: Flow::Faces, walls: Liquid::Walls, sides: F32[1],
        going: F32[1]
      def carry(drops, faces, before, walls, sides, going)
        own = going[0]
        swirl = going[1]
        step = going[2]
        gained = going[3]
        parallel((drops.at.dim(0) + 511) / 512) do |block|
          (512 * block...[512 * block + 512, drops.at.dim(0)].min).each do |p|
            x = drops.at[p, 0]
            y = drops.at[p, 1]
            z = drops.at[p, 2]
            su, sv, sw = turned(drops, p, faces, swirl)
            nu = su
            nv = sv
            nw = sw
            if own > 0.0
              u0, v0, w0 = speed_at(before, x, y, z)
              nu = su + own * (drops.speed[p, 0] - u0)
              nv = sv + own * (drops.speed[p, 1] - v0)
              nw = sw + own * (drops.speed[p, 2] - w0)
            end
            free = falling(nu - drops.speed[p, 0], nv - drops.speed[p, 1] - gained, nw - drops.speed[p, 2], gained)
            drops.speed[p, 0] = nu
            drops.speed[p, 1] = nv
            drops.speed[p, 2] = nw
            half = 0.5 * step
            u, v, w = speed_at(faces, x + half * su, y + half * sv, z + half * sw)
            ex = x + step * u
            ey = y + step * (v - 0.5 * gained * free)
            ez = z + step * w
            far = corner(walls.far, ex, ey, ez)
            way = Math.sqrt((ex - x) * (ex - x) + (ey - y) * (ey - y) + (ez - z) * (ez - z))
            if far < way + 2.0
              gx = corner(walls.x, x, y, z)
              gy = corner(walls.y, x, y, z)
              gz = corner(walls.z, x, y, z)
              # Beside where the wall was it stood here.
              ax = x + step * gx
              ay = y + step * gy
              az = z + step * gz
              length = Math.sqrt((ex - ax) * (ex - ax) + (ey - ay) * (ey - ay) + (ez - az) * (ez - az))
              steps = (length / LOOK).ceil.to_i.clamp(1, 40)
              n = 0
              met = false
              while n < steps && !met
                n += 1
                t = n.to_f / steps
                cx = ax + t * (ex - ax)
                cy = ay + t * (ey - ay)
                cz = az + t * (ez - az)
                here = corner(walls.far, cx, cy, cz)
                if here < APART
                  met = true
                  nx, ny, nz = outward(walls.far, cx, cy, cz)
                  ex = cx + (APART - here) * nx
                  ey = cy + (APART - here) * ny
                  ez = cz + (APART - here) * nz
                  speed = nx * (drops.speed[p, 0] - gx) + ny * (drops.speed[p, 1] - gy) + nz * (drops.speed[p, 2] - gz)
                  into = [speed, 0.0].min
                  drops.speed[p, 0] -= into * nx
                  drops.speed[p, 1] -= into * ny
                  drops.speed[p, 2] -= into * nz
                end
              end
            end
            drops.at[p, 0] = held(ex, (walls.far.dim(2) - 1).to_f, sides[0], sides[1])
            drops.at[p, 1] = held(ey, (walls.far.dim(1) - 1).to_f, sides[2], sides[3])
            drops.at[p, 2] = held(ez, (walls.far.dim(0) - 1).to_f, sides[4], sides[5])
          end
        end
      end

      # How freely a particle falls, 1 where gravity alone has acted on it; by what else its speed has gained.
      kernel a: F32, b: F32, c: F32, gained: F32, returns: F32
      def falling(a, b, c, gained)
        off = Math.sqrt(a * a + b * b + c * c) / [gained.abs, 1e-9].max
        (1.0 - 4.0 * off).clamp(0.0, 1.0)
      end

      # Within closed sides.
      kernel x: F32, count: F32, low: F32, high: F32, returns: F32
      def held(x, count, low, high)
        a = low > 0.0 ? x : [x, 0.01].max
        high > 0.0 ? a : [a, count - 0.01].min
      end

      # A field at the corners of cells, linearly between them.
      kernel field: F32[3], x: F32, y: F32, z: F32, returns: F32
      def corner(field, x, y, z)
        Grid::Sampling.linear(field, x, y, z)
      end

      # Which way leads out of a wall.
      kernel far: F32[3], x: F32, y: F32, z: F32, returns: [F32, F32, F32]
      def outward(far, x, y, z)
        a = corner(far, x + 0.25, y, z) - corner(far, x - 0.25, y, z)
        b = corner(far, x, y + 0.25, z) - corner(far, x, y - 0.25, z)
        c = corner(far, x, y, z + 0.25) - corner(far, x, y, z - 0.25)
        length = [Math.sqrt(a * a + b * b + c * c), 1e-6].max
        return a / length, b / length, c / length
      end

      # Moves particles a little to where there is room (cells): those in cells that are crowded.
      kernel drops: Liquid::Drops, faces: Flow::Faces, crowded: F32[3], walls: Liquid::Walls, most: F32
      def nudge(drops, faces, crowded, walls, most)
        parallel((drops.at.dim(0) + 511) / 512) do |block|
          (512 * block...[512 * block + 512, drops.at.dim(0)].min).each do |p|
            x = drops.at[p, 0]
            y = drops.at[p, 1]
            z = drops.at[p, 2]
            if crowded[z.to_i.clamp(0, crowded.dim(0) - 1), y.to_i.clamp(0, crowded.dim(1) - 1), x.to_i.clamp(0, crowded.dim(2) - 1)] > 0.0
              u, v, w = Grid::Sampling.velocity(faces.u, faces.v, faces.w, x, y, z)
              ex = (x + u.clamp(-most, most)).clamp(0.01, walls.far.dim(2) - 1.01)
              ey = (y + v.clamp(-most, most)).clamp(0.01, walls.far.dim(1) - 1.01)
              ez = (z + w.clamp(-most, most)).clamp(0.01, walls.far.dim(0) - 1.01)
              if corner(walls.far, ex, ey, ez) > APART
                drops.at[p, 0] = ex
                drops.at[p, 1] = ey
                drops.at[p, 2] = ez
              end
            end
          end
        end
      end

      # Within walls, as far in as speeds are known, the speed along them only, less what they hold back; `src` are the
      # speeds before.
      kernel faces: Flow::Faces, src: Flow::Faces, known: Liquid::Marks, open: Flow::Faces, walls: Liquid::Walls,
        busy: U8[2]
      def constrain(faces, src, known, open, walls, busy)
        nz = open.u.dim(0)
        ny = open.u.dim(1)
        nx = open.v.dim(2)
        parallel(nz + 1, uneven: true) do |k|
          (ny + 1).times do |j|
            # Most rows have no closed face.
            if k < nz && j < ny && busy[k, j] != 0
              if closed(open.u, k, j)
                (nx + 1).times do |i|
                  faces.u[k, j, i] = along(src, walls, i.to_f, j + 0.5, k + 0.5, 0) if open.u[k, j, i] <= 0.0 &&
                    known.u[k, j, i] > 0
                end
              end
            end
            if k < nz && busy[k, j] != 0
              if closed(open.v, k, j)
                nx.times do |i|
                  faces.v[k, j, i] = along(src, walls, i + 0.5, j.to_f, k + 0.5, 1) if open.v[k, j, i] <= 0.0 &&
                    known.v[k, j, i] > 0
                end
              end
            end
            if j < ny && busy[k, j] != 0
              if closed(open.w, k, j)
                nx.times do |i|
                  faces.w[k, j, i] = along(src, walls, i + 0.5, j + 0.5, k.to_f, 2) if open.w[k, j, i] <= 0.0 &&
                    known.w[k, j, i] > 0
                end
              end
            end
          end
        end
      end

      # Whether any face of a row is closed.
      kernel open: F32[3], k: I32, j: I32, returns: BOOL
      def closed(open, k, j)
        least = 1.0
        open.dim(2).times { |i| least = [least, open[k, j, i]].min }
        least <= 0.0
      end

      kernel src: Flow::Faces, walls: Liquid::Walls, x: F32, y: F32, z: F32, axis: I32, returns: F32
      def along(src, walls, x, y, z, axis)
        going = axis == 0 ? corner(walls.x, x, y, z) : (axis == 1 ? corner(walls.y, x, y, z) : corner(walls.z, x, y, z))
        out = going
        at = axis == 0 ? x : (axis == 1 ? y : z)
        last = axis == 0 ? walls.far.dim(2) : (axis == 1 ? walls.far.dim(1) : walls.far.dim(0))
        if at <= 0.0 || at >= last - 1
          # The chamber's own sides stand still; away from walls there is nothing else that closes a face.
          out = 0.0
        elsif corner(walls.far, x, y, z) < 2.0
          u, v, w = Grid::Sampling.velocity(src.u, src.v, src.w, x, y, z)
          a = u - corner(walls.x, x, y, z)
          b = v - corner(walls.y, x, y, z)
          c = w - corner(walls.z, x, y, z)
          nx, ny, nz = outward(walls.far, x, y, z)
          into = nx * a + ny * b + nz * c
          own = axis == 0 ? a - into * nx : (axis == 1 ? b - into * ny : c - into * nz)
          out = going + own * (1.0 - corner(walls.grip, x, y, z).clamp(0.0, 1.0))
        end
        out
      end
    end
  end
end
