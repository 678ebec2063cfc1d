# frozen_string_literal: true

module Vumbral
  module Finish
    # Where a thing stands in the world, from where points of it are seen: the pose whose points, through the camera, lie nearest
    # to the spots, by damped steps (Levenberg 1944; Marquardt 1963).
    class Pinning
      LEAST = 3
      STEPS = 40
      # Ends once steps are as small, metres and radians.
      FINE = 1e-7
      # For slopes.
      SMALL = 1e-5

      # @param points [Array<Array<Float>>] places on the thing, in its own measure, metres
      # @param shape [Float] width of the frame over its height
      def initialize(points, shape)
        @points, @shape = points, shape
        raise Refused.new("A prop is pinned by #{LEAST} tracked spots or more, and better by 4; there are #{points.size}.", code: "few_spots") if points.size < LEAST
      end

      # @param camera [Hash] from {Picture::Camera.settings}
      # @param spots [Array<Array<Float>>] where each point is seen, 0 to 1 across and down
      # @param from [Geometry::Pose] where it may be: where it was a frame before
      # @return [Array(Geometry::Pose, Float)] and how far its points lie from the spots, parts of the frame's height, in the mean
      def pose(camera, spots, from)
        rigid = Geometry::Transform.place(turn: from.turn)
        place = from.position
        damping = 1e-3
        error = squares(off = offs(camera, spots, rigid, place, from.scale))
        STEPS.times do
          slopes = slopes(camera, spots, rigid, place, from.scale, off)
          step = solved(slopes, off, damping) or break
          turned, moved = turned(rigid, step.last(3)), place.zip(step).map(&:sum)
          after = squares(now = offs(camera, spots, turned, moved, from.scale))
          if after < error
            rigid, place, off, error, damping = turned, moved, now, after, damping * 0.3
            break if step.map(&:abs).max < FINE
          else
            damping *= 10.0
            break if damping > 1e9
          end
        end
        [Geometry::Pose.new(place, Geometry::Transform.near(from.turn, rigid.angles), from.scale), Math.sqrt(error / @points.size)]
      end

      private

      # How far each point lies beside its spot, parts of the frame's height.
      def offs(camera, spots, rigid, place, scale)
        @points.zip(spots).flat_map do |point, (u, v)|
          turned = rigid.apply(point.zip(scale).map { |a, b| a * b })
          seen = Spots.seen(camera, turned.zip(place).map(&:sum), @shape) || [9.0, 9.0]
          [(seen[0] - u) * @shape, seen[1] - v]
        end
      end

      def squares(offs) = offs.sum { |off| off * off }

      def slopes(camera, spots, rigid, place, scale, off)
        Array.new(6) do |n|
          by = Array.new(6) { |m| (m == n) ? SMALL : 0.0 }
          offs(camera, spots, turned(rigid, by.last(3)), place.zip(by).map(&:sum), scale).zip(off).map { |a, b| (a - b) / SMALL }
        end
      end

      def solved(slopes, off, damping)
        rows = slopes.each_with_index.map do |one, n|
          slopes.each_with_index.map { |other, m| one.zip(other).sum { |a, b| a * b } * ((n == m) ? 1.0 + damping : 1.0) } + [-one.zip(off).sum { |a, b| a * b }]
        end
        Equations.solve(rows)
      end

      # Turned about the world's axes by a small vector of radians.
      def turned(rigid, by)
        angle = Math.sqrt(by.sum { |c| c * c })
        return rigid if angle < 1e-15

        x, y, z = by.map { |c| c / angle }
        c, s = Math.cos(angle), Math.sin(angle)
        d = 1.0 - c
        Geometry::Transform.new([[c + x * x * d, x * y * d - z * s, x * z * d + y * s, 0.0], [y * x * d + z * s, c + y * y * d, y * z * d - x * s, 0.0],
          [z * x * d - y * s, z * y * d + x * s, c + z * z * d, 0.0]]) * rigid
      end
    end
  end
end
