# frozen_string_literal: true

module Vumbral
  module Geometry
    # What bodies of a {Pile} do to each other where they touch: they are moved apart, turned, slowed and thrown back.
    module TouchKernels
      extend Kernel::Library

      V, W, LIGHT, FRICTION, BOUNCE, TOUCHED = 7, 10, 20, 21, 22, 27
      # What touches more slowly than this (m/s) does not bounce.
      SLOW = 0.25
      # So much of how deep things are is put right at a time, for what touches in many places is moved by all of them.
      PART = 0.3

      # Where a point of a body's own is in the world.
      kernel bodies: F64[2], n: I32, x: F64, y: F64, z: F64, returns: [F64, F64, F64]
      def turned(bodies, n, x, y, z)
        w = bodies[n, 3]
        a = bodies[n, 4]
        b = bodies[n, 5]
        c = bodies[n, 6]
        tx = 2.0 * (b * z - c * y)
        ty = 2.0 * (c * x - a * z)
        tz = 2.0 * (a * y - b * x)
        return x + w * tx + b * tz - c * ty, y + w * ty + c * tx - a * tz, z + w * tz + a * ty - b * tx
      end

      # The other way: a direction of the world as the body has it.
      kernel bodies: F64[2], n: I32, x: F64, y: F64, z: F64, returns: [F64, F64, F64]
      def returned(bodies, n, x, y, z)
        w = -bodies[n, 3]
        a = bodies[n, 4]
        b = bodies[n, 5]
        c = bodies[n, 6]
        tx = 2.0 * (b * z - c * y)
        ty = 2.0 * (c * x - a * z)
        tz = 2.0 * (a * y - b * x)
        return x + w * tx + b * tz - c * ty, y + w * ty + c * tx - a * tz, z + w * tz + a * ty - b * tx
      end

      # What a push that turns a body changes of its spin.
      kernel pile: Geometry::Pile, n: I32, x: F64, y: F64, z: F64, returns: [F64, F64, F64]
      def yields(pile, n, x, y, z)
        a, b, c = returned(pile.bodies, n, x, y, z)
        u = pile.inertia[n, 0] * a + pile.inertia[n, 1] * b + pile.inertia[n, 2] * c
        v = pile.inertia[n, 3] * a + pile.inertia[n, 4] * b + pile.inertia[n, 5] * c
        w = pile.inertia[n, 6] * a + pile.inertia[n, 7] * b + pile.inertia[n, 8] * c
        p, q, r = turned(pile.bodies, n, u, v, w)
        return p, q, r
      end

      # Turns a body by a small angle about an axis of the world.
      kernel bodies: F64[2], n: I32, x: F64, y: F64, z: F64
      def turn(bodies, n, x, y, z)
        w = bodies[n, 3]
        a = bodies[n, 4]
        b = bodies[n, 5]
        c = bodies[n, 6]
        p = w - 0.5 * (x * a + y * b + z * c)
        q = a + 0.5 * (x * w + y * c - z * b)
        r = b + 0.5 * (y * w + z * a - x * c)
        s = c + 0.5 * (z * w + x * b - y * a)
        per = 1.0 / Math.sqrt(p * p + q * q + r * r + s * s)
        bodies[n, 3] = p * per
        bodies[n, 4] = q * per
        bodies[n, 5] = r * per
        bodies[n, 6] = s * per
      end

      # Keeps a contact: a point of a body (its number), and the body (-1: nothing that yields) whose plane it is
      # behind. `touching` has: both bodies, the point as the first has it, the plane as the second (or the world) has
      # it, how fast they came apart before, how hard they were pushed, how deep they may be.
      kernel pile: Geometry::Pile, touching: F64[2], count: I32, a: I32, b: I32, point: I32, slack: F64
      def note(pile, touching, count, a, b, point, slack)
        if count < touching.dim(0)
          touching[count, 0] = a + 0.0
          touching[count, 1] = b + 0.0
          3.times { |c| touching[count, 2 + c] = pile.points[point, c] + 0.0 }
          touching[count, 10] = 0.0
          touching[count, 11] = slack
        end
      end

      # With the plane, `at` (its normal and offset).
      kernel pile: Geometry::Pile, touching: F64[2], count: I32, at: Geometry::Arms
      def plane(pile, touching, count, at)
        if count < touching.dim(0)
          touching[count, 5] = at.ox
          touching[count, 6] = at.oy
          touching[count, 7] = at.oz
          touching[count, 8] = at.dx
          a = touching[count, 0].to_i
          b = touching[count, 1].to_i
          x, y, z = turned(pile.bodies, a, touching[count, 2], touching[count, 3], touching[count, 4])
          nx, ny, nz = normal(pile.bodies, touching, count)
          p, q, r = reached(pile.bodies, a, b, x, y, z)
          touching[count, 9] = approach(pile.bodies, a, b, Geometry::Arms.new(x, y, z, p, q, r), nx, ny, nz)
        end
      end

      # The way in which the bodies of a contact come apart.
      kernel bodies: F64[2], touching: F64[2], k: I32, returns: [F64, F64, F64]
      def normal(bodies, touching, k)
        b = touching[k, 1].to_i
        x = touching[k, 5] + 0.0
        y = touching[k, 6] + 0.0
        z = touching[k, 7] + 0.0
        x, y, z = turned(bodies, b, x, y, z) if b >= 0
        return x, y, z
      end

      # Where a place at one body is as seen from the middle of the other.
      kernel bodies: F64[2], a: I32, b: I32, x: F64, y: F64, z: F64, returns: [F64, F64, F64]
      def reached(bodies, a, b, x, y, z)
        p = f64(0.0)
        q = f64(0.0)
        r = f64(0.0)
        if b >= 0
          p = x + bodies[a, 0] - bodies[b, 0]
          q = y + bodies[a, 1] - bodies[b, 1]
          r = z + bodies[a, 2] - bodies[b, 2]
        end
        return p, q, r
      end

      # Moves the bodies of a contact apart, and back as far as friction holds them.
      kernel pile: Geometry::Pile, touching: F64[2], k: I32
      def press(pile, touching, k)
        a = touching[k, 0].to_i
        b = touching[k, 1].to_i
        x, y, z = turned(pile.bodies, a, touching[k, 2], touching[k, 3], touching[k, 4])
        nx, ny, nz = normal(pile.bodies, touching, k)
        p, q, r = reached(pile.bodies, a, b, x, y, z)
        off = b >= 0 ? nx * p + ny * q + nz * r : nx * (x + pile.bodies[a, 0]) + ny * (y + pile.bodies[a, 1]) + nz * (z + pile.bodies[a, 2])
        deep = touching[k, 8] - off - touching[k, 11]
        if deep > 0.0
          weight = gives(pile, a, x, y, z, nx, ny, nz)
          weight += gives(pile, b, p, q, r, nx, ny, nz) if b >= 0
          push = weight > 0.0 ? PART * deep / weight : 0.0
          shove(pile, a, x, y, z, push * nx, push * ny, push * nz)
          shove(pile, b, p, q, r, -push * nx, -push * ny, -push * nz) if b >= 0
          touching[k, 10] += push
          pile.bodies[a, TOUCHED] = 1.0
          pile.bodies[b, TOUCHED] = 1.0 if b >= 0
          grip(pile, a, b, Geometry::Arms.new(x, y, z, p, q, r), Geometry::Arms.new(nx, ny, nz, push, 0.0, 0.0))
        end
      end

      # Takes back how far two bodies have slid on each other within a step, as far as friction holds them.
      kernel pile: Geometry::Pile, a: I32, b: I32, arms: Geometry::Arms, touch: Geometry::Arms
      def grip(pile, a, b, arms, touch)
        x, y, z = gone(pile.bodies, a, arms.ox, arms.oy, arms.oz)
        if b >= 0
          p, q, r = gone(pile.bodies, b, arms.dx, arms.dy, arms.dz)
          x -= p
          y -= q
          z -= r
        end
        x, y, z, slide = sliding(x, y, z, touch.ox, touch.oy, touch.oz)
        if slide > 1e-12
          weight = gives(pile, a, arms.ox, arms.oy, arms.oz, x, y, z)
          weight += gives(pile, b, arms.dx, arms.dy, arms.dz, x, y, z) if b >= 0
          push = [friction(pile.bodies, a, b) * touch.dx, weight > 0.0 ? slide / weight : 0.0].min
          shove(pile, a, arms.ox, arms.oy, arms.oz, -push * x, -push * y, -push * z)
          shove(pile, b, arms.dx, arms.dy, arms.dz, push * x, push * y, push * z) if b >= 0
        end
      end

      # What of a motion runs along a surface: which way, and how far.
      kernel x: F64, y: F64, z: F64, nx: F64, ny: F64, nz: F64, returns: [F64, F64, F64, F64]
      def sliding(x, y, z, nx, ny, nz)
        straight = x * nx + y * ny + z * nz
        u = x - straight * nx
        v = y - straight * ny
        w = z - straight * nz
        slide = Math.sqrt(u * u + v * v + w * w)
        per = slide > 0.0 ? 1.0 / slide : f64(0.0)
        return per * u, per * v, per * w, slide
      end

      kernel bodies: F64[2], a: I32, b: I32, returns: F64
      def friction(bodies, a, b)
        b < 0 ? bodies[a, FRICTION] + 0.0 : Math.sqrt(bodies[a, FRICTION] * bodies[b, FRICTION])
      end

      # How far a place on a body has come since the step began.
      kernel bodies: F64[2], n: I32, x: F64, y: F64, z: F64, returns: [F64, F64, F64]
      def gone(bodies, n, x, y, z)
        u, v, w = returned(bodies, n, x, y, z)
        s = bodies[n, 16]
        a = bodies[n, 17]
        b = bodies[n, 18]
        c = bodies[n, 19]
        tx = 2.0 * (b * w - c * v)
        ty = 2.0 * (c * u - a * w)
        tz = 2.0 * (a * v - b * u)
        return bodies[n, 0] + x - bodies[n, 13] - (u + s * tx + b * tz - c * ty),
          bodies[n, 1] + y - bodies[n, 14] - (v + s * ty + c * tx - a * tz),
          bodies[n, 2] + z - bodies[n, 15] - (w + s * tz + a * ty - b * tx)
      end

      # How fast two bodies come apart where they touch, along a way; `arms` lead from their middles there.
      kernel bodies: F64[2], a: I32, b: I32, arms: Geometry::Arms, nx: F64, ny: F64, nz: F64, returns: F64
      def approach(bodies, a, b, arms, nx, ny, nz)
        speed = along(bodies, a, arms.ox, arms.oy, arms.oz, nx, ny, nz)
        speed -= along(bodies, b, arms.dx, arms.dy, arms.dz, nx, ny, nz) if b >= 0
        speed
      end

      kernel bodies: F64[2], n: I32, x: F64, y: F64, z: F64, nx: F64, ny: F64, nz: F64, returns: F64
      def along(bodies, n, x, y, z, nx, ny, nz)
        u = bodies[n, V] + bodies[n, W + 1] * z - bodies[n, W + 2] * y
        v = bodies[n, V + 1] + bodies[n, W + 2] * x - bodies[n, W] * z
        w = bodies[n, V + 2] + bodies[n, W] * y - bodies[n, W + 1] * x
        u * nx + v * ny + w * nz
      end

      # How easily a body gives way at a place along a way.
      kernel pile: Geometry::Pile, n: I32, x: F64, y: F64, z: F64, nx: F64, ny: F64, nz: F64, returns: F64
      def gives(pile, n, x, y, z, nx, ny, nz)
        light = pile.bodies[n, LIGHT]
        if light > 0.0
          a = y * nz - z * ny
          b = z * nx - x * nz
          c = x * ny - y * nx
          p, q, r = yields(pile, n, a, b, c)
          light += a * p + b * q + c * r
        end
        light
      end

      # Moves and turns a body by a push at a place.
      kernel pile: Geometry::Pile, n: I32, x: F64, y: F64, z: F64, px: F64, py: F64, pz: F64
      def shove(pile, n, x, y, z, px, py, pz)
        light = pile.bodies[n, LIGHT]
        if light > 0.0
          pile.bodies[n, 0] += light * px
          pile.bodies[n, 1] += light * py
          pile.bodies[n, 2] += light * pz
          u, v, w = yields(pile, n, y * pz - z * py, z * px - x * pz, x * py - y * px)
          turn(pile.bodies, n, u, v, w)
        end
      end

      # The same of its speeds.
      kernel pile: Geometry::Pile, n: I32, x: F64, y: F64, z: F64, px: F64, py: F64, pz: F64
      def kick(pile, n, x, y, z, px, py, pz)
        light = pile.bodies[n, LIGHT]
        if light > 0.0
          pile.bodies[n, V] += light * px
          pile.bodies[n, V + 1] += light * py
          pile.bodies[n, V + 2] += light * pz
          u, v, w = yields(pile, n, y * pz - z * py, z * px - x * pz, x * py - y * px)
          pile.bodies[n, W] += u
          pile.bodies[n, W + 1] += v
          pile.bodies[n, W + 2] += w
        end
      end

      # Friction and bounce where bodies touched: they come apart as fast as they bounce and no faster.
      kernel pile: Geometry::Pile, k: I32, touching: F64[2], h: F64
      def slow(pile, k, touching, h)
        a = touching[k, 0].to_i
        b = touching[k, 1].to_i
        ax, ay, az = turned(pile.bodies, a, touching[k, 2], touching[k, 3], touching[k, 4])
        nx, ny, nz = normal(pile.bodies, touching, k)
        bx, by, bz = reached(pile.bodies, a, b, ax, ay, az)
        hard = touching[k, 10] + 0.0
        speed = approach(pile.bodies, a, b, Geometry::Arms.new(ax, ay, az, bx, by, bz), nx, ny, nz)
        before = touching[k, 9] + 0.0
        bounce = b < 0 ? pile.bodies[a, BOUNCE] : [pile.bodies[a, BOUNCE], pile.bodies[b, BOUNCE]].min
        bounce = 0.0 if before > -SLOW
        wanted = [-bounce * before, 0.0].max
        weight = gives(pile, a, ax, ay, az, nx, ny, nz)
        weight += gives(pile, b, bx, by, bz, nx, ny, nz) if b >= 0
        # Only what is too fast is slowed: what already comes apart slowly was pushed by no one.
        change = wanted - speed
        change = [change, 0.0].max if speed < 0.0
        push = weight > 0.0 ? change / weight : 0.0
        push = 0.0 if hard == 0.0 || (before > 0.0 && speed > 0.0 && speed <= before)
        kick(pile, a, ax, ay, az, push * nx, push * ny, push * nz)
        kick(pile, b, bx, by, bz, -push * nx, -push * ny, -push * nz) if b >= 0
        rub(pile, a, b, Geometry::Arms.new(ax, ay, az, bx, by, bz), Geometry::Arms.new(nx, ny, nz, hard / h, 0.0, 0.0))
      end

      # Slows what slides, at most to rest: `touch` is the way apart and how hard they are pressed together.
      kernel pile: Geometry::Pile, a: I32, b: I32, arms: Geometry::Arms, touch: Geometry::Arms
      def rub(pile, a, b, arms, touch)
        x = approach(pile.bodies, a, b, arms, 1.0, 0.0, 0.0)
        y = approach(pile.bodies, a, b, arms, 0.0, 1.0, 0.0)
        z = approach(pile.bodies, a, b, arms, 0.0, 0.0, 1.0)
        x, y, z, slide = sliding(x, y, z, touch.ox, touch.oy, touch.oz)
        if slide > 1e-9
          weight = gives(pile, a, arms.ox, arms.oy, arms.oz, x, y, z)
          weight += gives(pile, b, arms.dx, arms.dy, arms.dz, x, y, z) if b >= 0
          push = [friction(pile.bodies, a, b) * touch.dx, weight > 0.0 ? slide / weight : 0.0].min
          kick(pile, a, arms.ox, arms.oy, arms.oz, -push * x, -push * y, -push * z)
          kick(pile, b, arms.dx, arms.dy, arms.dz, push * x, push * y, push * z) if b >= 0
        end
      end
    end
  end
end
