# frozen_string_literal: true

module Vumbral
  module Geometry
    # Sees to it that bodies of a {Pile} never have more energy than before, and come to rest.
    module CalmKernels
      extend Kernel::Library

      X, V, W, BEFORE, LIGHT, GRAVITY, TOUCHED, CALM = 0, 7, 10, 13, 20, 23, 27, 28
      # What touches something and has moved no faster (m/s, rad/s) for so many steps is at rest.
      STILL, UNTURNED, STEPS = 0.03, 0.1, 24

      # Of all that flies: by speed, spin and height.
      kernel pile: Geometry::Pile, returns: F64
      def energy(pile)
        sum = f64(0.0)
        pile.bodies.dim(0).times do |n|
          sum += moving(pile, n, 0.0, 0.0, 0.0) + 9.81 * pile.bodies[n, GRAVITY] * pile.bodies[n, 1] / pile.bodies[n, LIGHT] if PileKernels.free?(pile, n)
        end
        sum
      end

      # What a body has by its speed past a given one, and by its spin.
      kernel pile: Geometry::Pile, n: I32, x: F64, y: F64, z: F64, returns: F64
      def moving(pile, n, x, y, z)
        u = pile.bodies[n, V] - x
        v = pile.bodies[n, V + 1] - y
        w = pile.bodies[n, V + 2] - z
        a, b, c = TouchKernels.returned(pile.bodies, n, pile.bodies[n, W], pile.bodies[n, W + 1], pile.bodies[n, W + 2])
        p = pile.tensors[n, 0] * a + pile.tensors[n, 1] * b + pile.tensors[n, 2] * c
        q = pile.tensors[n, 3] * a + pile.tensors[n, 4] * b + pile.tensors[n, 5] * c
        r = pile.tensors[n, 6] * a + pile.tensors[n, 7] * b + pile.tensors[n, 8] * c
        0.5 * ((u * u + v * v + w * w) / pile.bodies[n, LIGHT] + a * p + b * q + c * r)
      end

      # Where bodies that met have more energy than before, they lose it again: by what they move past their common
      # speed, so that their momentum stays.
      kernel pile: Geometry::Pile, excess: F64
      def tame(pile, excess)
        mass = f64(0.0)
        x = f64(0.0)
        y = f64(0.0)
        z = f64(0.0)
        pile.bodies.dim(0).times do |n|
          if PileKernels.free?(pile, n) && pile.bodies[n, TOUCHED] > 0.0
            mass += 1.0 / pile.bodies[n, LIGHT]
            x += pile.bodies[n, V] / pile.bodies[n, LIGHT]
            y += pile.bodies[n, V + 1] / pile.bodies[n, LIGHT]
            z += pile.bodies[n, V + 2] / pile.bodies[n, LIGHT]
          end
        end
        if mass > 0.0 && excess > 0.0
          x /= mass
          y /= mass
          z /= mass
          own = f64(0.0)
          pile
            .bodies
            .dim(0)
            .times do |n|
              own += moving(pile, n, x, y, z) if PileKernels.free?(pile, n) && pile.bodies[n, TOUCHED] > 0.0
            end
          left = own > excess ? Math.sqrt(1.0 - excess / own) : f64(0.0)
          pile.bodies.dim(0).times do |n|
            if PileKernels.free?(pile, n) && pile.bodies[n, TOUCHED] > 0.0
              pile.bodies[n, V] = x + left * (pile.bodies[n, V] - x)
              pile.bodies[n, V + 1] = y + left * (pile.bodies[n, V + 1] - y)
              pile.bodies[n, V + 2] = z + left * (pile.bodies[n, V + 2] - z)
              3.times { |c| pile.bodies[n, W + c] *= left }
            end
          end
        end
      end

      # What has been slow for long enough stays where it was, until something moves it.
      kernel pile: Geometry::Pile, n: I32
      def rest(pile, n)
        speed = f64(0.0)
        spin = f64(0.0)
        3.times do |c|
          speed += pile.bodies[n, V + c] * pile.bodies[n, V + c]
          spin += pile.bodies[n, W + c] * pile.bodies[n, W + c]
        end
        calm = pile.bodies[n, TOUCHED] > 0.0 && speed < STILL * STILL && spin < UNTURNED * UNTURNED
        pile.bodies[n, CALM] = calm ? pile.bodies[n, CALM] + 1.0 : 0.0
        if pile.bodies[n, CALM] > STEPS
          7.times { |c| pile.bodies[n, X + c] = pile.bodies[n, BEFORE + c] + 0.0 }
          6.times { |c| pile.bodies[n, V + c] = 0.0 }
        end
      end
    end
  end
end
