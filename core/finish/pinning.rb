# frozen_string_literal: true

module Vumbral
  module Finish
    # Where a thing stands in the world, from where points of it are seen: the pose whose points, through the camera,
    # lie nearest to the spots.
    class Pinning
      LEAST = 3

      # @param points [Array<Array<Float>>] places on the thing, in its own measure, metres
      # @param shape [Float] width of the frame over its height
      def initialize(points, shape)
        @points, @shape = points, shape
        if points.size < LEAST
          raise Refused.new(
            "A prop is pinned by #{LEAST} tracked spots or more, and better by 4; there are #{points.size}.",
            code: "few_spots"
          )
        end
      end

      # @param camera [Hash] from {Picture::Camera.settings}
      # @param spots [Array<Array<Float>>] where each point is seen, 0 to 1 across and down
      # @param from [Geometry::Pose] where it may be: where it was a frame before
      # @return [Array(Geometry::Pose, Float)] and how far its points lie from the spots, parts of the frame's height,
      #   in the mean
      def pose(camera, spots, from)
        offs = ->((rigid, place)) { offs(camera, spots, rigid, place, from.scale) }
        moved = ->((rigid, place), by) { [rigid.turned(by.last(3)), place.zip(by).map(&:sum)] }
        (rigid, place), error =
          LeastSquares.new(6, offs: offs, moved: moved).from(
            [Geometry::Transform.place(turn: from.turn), from.position]
          )
        [
          Geometry::Pose.new(place, Geometry::Transform.near(from.turn, rigid.angles), from.scale),
          Math.sqrt(error / @points.size)
        ]
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
    end
  end
end
