# frozen_string_literal: true

module Vumbral
  module Geometry
    # Moves the bodies of a {Pile}: in small steps positions are put right first and speeds follow from them (Müller
    # et al. 2020, Detailed rigid body simulation with extended position based dynamics).
    module PileKernels
      extend Kernel::Library

      X, Q, V, W, BEFORE, TURNED, LIGHT, GRAVITY, FLOOR, RADIUS, GONE, TOUCHED = 0, 3, 7, 10, 13, 16, 20, 23, 24, 25, 26, 27

      # How often contacts are gone through in a step.
      ROUNDS = 8

      # One frame. `pairs` i32 [k, 2], bodies that may meet, with `slack` f64 [k], how deep they may be in each other;
      # `touching` f64 [m, 12] room for what touches; `walls` f64 [c, 29] and `fields` f32 [c, cells] as {Walls} has
      # them. @return how many contacts there was no room for
      kernel pile: Geometry::Pile, pairs: I32[2], slack: F64[1], touching: F64[2], walls: F64[2], fields: F32[2],
        seconds: F64, steps: I32, returns: I32
      def advance(pile, pairs, slack, touching, walls, fields, seconds, steps)
        h = seconds / steps
        lost = 0
        steps.times do |_step|
          before = CalmKernels.energy(pile)
          pile.bodies.dim(0).times { |n| fly(pile, n, h) if free?(pile, n) }
          count = 0
          pairs
            .dim(0)
            .times do |k|
              count = meet(pile, pairs[k, 0], pairs[k, 1], slack[k], touching, count) if near?(
                pile, pairs[k, 0], pairs[k, 1]
              )
            end
          pile.bodies.dim(0).times do |n|
            if free?(pile, n)
              count = land(pile, n, touching, count)
              walls.dim(0).times { |c| count = wall(pile, n, c, walls, fields, touching, count) }
            end
          end
          lost = [lost, count - touching.dim(0)].max
          count = [count, touching.dim(0)].min
          # There and back again, so that no body is favoured.
          ROUNDS.times { |r| count.times { |k| TouchKernels.press(pile, touching, r % 2 == 0 ? k : count - 1 - k) } }
          pile.bodies.dim(0).times { |n| follow(pile, n, h) if free?(pile, n) }
          count.times { |k| TouchKernels.slow(pile, k, touching, h) }
          CalmKernels.tame(pile, CalmKernels.energy(pile) - before)
          pile.bodies.dim(0).times { |n| CalmKernels.rest(pile, n) if free?(pile, n) }
        end
        lost
      end

      kernel pile: Geometry::Pile, n: I32, returns: BOOL
      def free?(pile, n)
        pile.bodies[n, LIGHT] > 0.0 && pile.bodies[n, GONE] == 0.0
      end

      kernel pile: Geometry::Pile, n: I32, h: F64
      def fly(pile, n, h)
        3.times { |c| pile.bodies[n, BEFORE + c] = pile.bodies[n, X + c] + 0.0 }
        4.times { |c| pile.bodies[n, TURNED + c] = pile.bodies[n, Q + c] + 0.0 }
        pile.bodies[n, TOUCHED] = 0.0
        pile.bodies[n, V + 1] -= 9.81 * pile.bodies[n, GRAVITY] * h
        3.times { |c| pile.bodies[n, X + c] += h * pile.bodies[n, V + c] }
        TouchKernels.turn(pile.bodies, n, h * pile.bodies[n, W], h * pile.bodies[n, W + 1], h * pile.bodies[n, W + 2])
      end

      kernel pile: Geometry::Pile, a: I32, b: I32, returns: BOOL
      def near?(pile, a, b)
        free =
          (pile.bodies[a, LIGHT] > 0.0 || pile.bodies[b, LIGHT] > 0.0) && pile.bodies[a, GONE] == 0.0 &&
          pile.bodies[b, GONE] == 0.0
        x = pile.bodies[a, 0] - pile.bodies[b, 0]
        y = pile.bodies[a, 1] - pile.bodies[b, 1]
        z = pile.bodies[a, 2] - pile.bodies[b, 2]
        reach = pile.bodies[a, RADIUS] + pile.bodies[b, RADIUS]
        free && x * x + y * y + z * z < reach * reach
      end

      # By which plane of a body another is least deep in it, and how far its nearest point stands off that (below 0:
      # inside). What stands off any plane is outside.
      kernel pile: Geometry::Pile, a: I32, b: I32, returns: [F64, I32]
      def parted(pile, a, b)
        most = f64(-1e30)
        which = -1
        k = pile.plane_starts[a]
        while k < pile.plane_starts[a + 1]
          least = f64(1e30)
          x, y, z = TouchKernels.turned(pile.bodies, a, pile.planes[k, 0], pile.planes[k, 1], pile.planes[k, 2])
          offset =
            pile.planes[k, 3] + x * (pile.bodies[a, 0] - pile.bodies[b, 0]) +
            y * (pile.bodies[a, 1] - pile.bodies[b, 1]) + z * (pile.bodies[a, 2] - pile.bodies[b, 2])
          u, v, w = TouchKernels.returned(pile.bodies, b, x, y, z)
          (pile.point_starts[b]...pile.point_starts[b + 1]).each do |p|
            least = [least, u * pile.points[p, 0] + v * pile.points[p, 1] + w * pile.points[p, 2]].min
          end
          if least - offset > most
            most = least - offset
            which = k
          end
          k = most > 0.0 ? pile.plane_starts[a + 1] : k + 1
        end
        return most, which
      end

      # Finds where two bodies touch: points of one behind the plane of the other by which both are least deep in each
      # other (separating axes, Gottschalk et al. 1996, of faces alone).
      kernel pile: Geometry::Pile, a: I32, b: I32, slack: F64, touching: F64[2], from: I32, returns: I32
      def meet(pile, a, b, slack, touching, from)
        count = from
        far, plane = parted(pile, a, b)
        if far <= 0.0
          other, its = parted(pile, b, a)
          if other <= 0.0
            # The first one where both are as deep, so that it does not change to and fro.
            count = far >= other - 1e-7 ? behind(pile, a, b, plane, slack, touching, count) : behind(pile, b, a, its, slack, touching, count)
          end
        end
        count
      end

      # Points of a body behind a plane of another, and not far aside of it.
      kernel pile: Geometry::Pile, a: I32, b: I32, plane: I32, slack: F64, touching: F64[2], from: I32, returns: I32
      def behind(pile, a, b, plane, slack, touching, from)
        count = from
        aside = 0.02 * pile.bodies[a, RADIUS]
        (pile.point_starts[b]...pile.point_starts[b + 1]).each do |k|
          x, y, z = TouchKernels.turned(pile.bodies, b, pile.points[k, 0], pile.points[k, 1], pile.points[k, 2])
          u, v, w =
            TouchKernels.returned(
              pile.bodies, a, x + pile.bodies[b, 0] - pile.bodies[a, 0], y + pile.bodies[b, 1] - pile.bodies[a, 1],
              z + pile.bodies[b, 2] - pile.bodies[a, 2]
            )
          s = pile.planes[plane, 0] * u + pile.planes[plane, 1] * v + pile.planes[plane, 2] * w - pile.planes[plane, 3]
          if s < -slack
            inside = true
            (pile.plane_starts[a]...pile.plane_starts[a + 1]).each do |p|
              inside = false if pile.planes[p, 0] * u + pile.planes[p, 1] * v + pile.planes[p, 2] * w - pile.planes[p, 3] > aside
            end
            if inside
              TouchKernels.note(pile, touching, count, b, a, k, slack)
              TouchKernels.plane(
                pile,
                touching,
                count,
                Geometry::Arms.new(
                  pile.planes[plane, 0], pile.planes[plane, 1], pile.planes[plane, 2], pile.planes[plane, 3], 0.0, 0.0
                )
              )
              count += 1
            end
          end
        end
        count
      end

      # Finds where a body touches the floor.
      kernel pile: Geometry::Pile, n: I32, touching: F64[2], from: I32, returns: I32
      def land(pile, n, touching, from)
        count = from
        floor = pile.bodies[n, FLOOR]
        if pile.bodies[n, 1] - pile.bodies[n, RADIUS] < floor
          (pile.point_starts[n]...pile.point_starts[n + 1]).each do |k|
            _, y, _ = TouchKernels.turned(pile.bodies, n, pile.points[k, 0], pile.points[k, 1], pile.points[k, 2])
            if y + pile.bodies[n, 1] < floor
              TouchKernels.note(pile, touching, count, n, -1, k, 0.0)
              TouchKernels.plane(pile, touching, count, Geometry::Arms.new(0.0, 1.0, 0.0, floor, 0.0, 0.0))
              count += 1
            end
          end
        end
        count
      end

      # Finds where a body touches something that stands in the way: `walls` its lowest corner, cell, cells along x, y,
      # z, a share of it that is blank, its rows from the world and back.
      kernel pile: Geometry::Pile, n: I32, c: I32, walls: F64[2], fields: F32[2], touching: F64[2], from: I32,
        returns: I32
      def wall(pile, n, c, walls, fields, touching, from)
        count = from
        u, v, w = through(walls, c, 8, pile.bodies[n, 0], pile.bodies[n, 1], pile.bodies[n, 2])
        if distance(walls, fields, c, u, v, w) < pile.bodies[n, RADIUS] + 2.0 * walls[c, 3]
          (pile.point_starts[n]...pile.point_starts[n + 1]).each do |k|
            x, y, z = TouchKernels.turned(pile.bodies, n, pile.points[k, 0], pile.points[k, 1], pile.points[k, 2])
            x += pile.bodies[n, 0]
            y += pile.bodies[n, 1]
            z += pile.bodies[n, 2]
            u, v, w = through(walls, c, 8, x, y, z)
            far = distance(walls, fields, c, u, v, w)
            if far < 0.0
              e = walls[c, 3]
              gx = distance(walls, fields, c, u + e, v, w) - distance(walls, fields, c, u - e, v, w)
              gy = distance(walls, fields, c, u, v + e, w) - distance(walls, fields, c, u, v - e, w)
              gz = distance(walls, fields, c, u, v, w + e) - distance(walls, fields, c, u, v, w - e)
              # Back into the world, where only turns count.
              nx = walls[c, 20] * gx + walls[c, 21] * gy + walls[c, 22] * gz
              ny = walls[c, 23] * gx + walls[c, 24] * gy + walls[c, 25] * gz
              nz = walls[c, 26] * gx + walls[c, 27] * gy + walls[c, 28] * gz
              steep = Math.sqrt(nx * nx + ny * ny + nz * nz)
              if steep > 1e-9
                nx /= steep
                ny /= steep
                nz /= steep
                TouchKernels.note(pile, touching, count, n, -1, k, 0.0)
                TouchKernels.plane(
                  pile, touching, count, Geometry::Arms.new(nx, ny, nz, nx * x + ny * y + nz * z - far, 0.0, 0.0)
                )
                count += 1
              end
            end
          end
        end
        count
      end

      kernel walls: F64[2], c: I32, at: I32, x: F64, y: F64, z: F64, returns: [F64, F64, F64]
      def through(walls, c, at, x, y, z)
        return walls[c, at] * x + walls[c, at + 1] * y + walls[c, at + 2] * z + walls[c, at + 3],
          walls[c, at + 4] * x + walls[c, at + 5] * y + walls[c, at + 6] * z + walls[c, at + 7],
          walls[c, at + 8] * x + walls[c, at + 9] * y + walls[c, at + 10] * z + walls[c, at + 11]
      end

      # How far a place of a wall's own is from its surface, less than 0 inside.
      kernel walls: F64[2], fields: F32[2], c: I32, x: F64, y: F64, z: F64, returns: F64
      def distance(walls, fields, c, x, y, z)
        nx = walls[c, 4].to_i
        ny = walls[c, 5].to_i
        nz = walls[c, 6].to_i
        a = (x - walls[c, 0]) / walls[c, 3]
        b = (y - walls[c, 1]) / walls[c, 3]
        d = (z - walls[c, 2]) / walls[c, 3]
        far = [[-a, a - (nx - 1), -b, b - (ny - 1), -d].max, d - (nz - 1), 0.0].max * walls[c, 3]
        a = a.clamp(0.0, nx - 1.001)
        b = b.clamp(0.0, ny - 1.001)
        d = d.clamp(0.0, nz - 1.001)
        i = a.floor
        j = b.floor
        k = d.floor
        sum = f64(0.0)
        8.times do |n|
          e = n % 2
          f = n / 2 % 2
          g = n / 4
          share = (e == 1 ? a - i : 1.0 - (a - i)) * (f == 1 ? b - j : 1.0 - (b - j)) * (g == 1 ? d - k : 1.0 - (d - k))
          sum += share * fields[c, ((k + g) * ny + j + f) * nx + i + e]
        end
        sum + far
      end

      # Speeds from where a body has come to.
      kernel pile: Geometry::Pile, n: I32, h: F64
      def follow(pile, n, h)
        3.times { |c| pile.bodies[n, V + c] = (pile.bodies[n, X + c] - pile.bodies[n, BEFORE + c]) / h }
        w = pile.bodies[n, TURNED]
        a = -pile.bodies[n, TURNED + 1]
        b = -pile.bodies[n, TURNED + 2]
        c = -pile.bodies[n, TURNED + 3]
        p = pile.bodies[n, 3] * w - pile.bodies[n, 4] * a - pile.bodies[n, 5] * b - pile.bodies[n, 6] * c
        q = pile.bodies[n, 3] * a + pile.bodies[n, 4] * w + pile.bodies[n, 5] * c - pile.bodies[n, 6] * b
        r = pile.bodies[n, 3] * b - pile.bodies[n, 4] * c + pile.bodies[n, 5] * w + pile.bodies[n, 6] * a
        s = pile.bodies[n, 3] * c + pile.bodies[n, 4] * b - pile.bodies[n, 5] * a + pile.bodies[n, 6] * w
        side = p < 0.0 ? -2.0 / h : 2.0 / h
        pile.bodies[n, W] = side * q
        pile.bodies[n, W + 1] = side * r
        pile.bodies[n, W + 2] = side * s
      end

      # Bodies that may meet within a frame: `pairs` i32 [k, 2] takes as many as it has room for.
      # @return how many there are
      kernel pairs: I32[2], bodies: F64[2], seconds: F64, returns: I32
      def sort(pairs, bodies, seconds)
        count = 0
        bodies.dim(0).times do |a|
          (a + 1...bodies.dim(0)).each do |b|
            x = bodies[a, 0] - bodies[b, 0]
            y = bodies[a, 1] - bodies[b, 1]
            z = bodies[a, 2] - bodies[b, 2]
            u = bodies[a, 7] - bodies[b, 7]
            v = bodies[a, 8] - bodies[b, 8]
            w = bodies[a, 9] - bodies[b, 9]
            reach = bodies[a, RADIUS] + bodies[b, RADIUS] + seconds * (Math.sqrt(u * u + v * v + w * w) + 0.5)
            if (bodies[a, LIGHT] > 0.0 || bodies[b, LIGHT] > 0.0) && x * x + y * y + z * z < reach * reach
              if count < pairs.dim(0)
                pairs[count, 0] = a
                pairs[count, 1] = b
              end
              count += 1
            end
          end
        end
        count
      end

      # How deep two bodies are in each other.
      kernel pile: Geometry::Pile, a: I32, b: I32, returns: F64
      def overlap(pile, a, b)
        far, _plane = parted(pile, a, b)
        other, _its = parted(pile, b, a)
        [-[far, other].max, 0.0].max
      end
    end
  end
end
