# frozen_string_literal: true

module Vumbral
  module Finish
    # Where in the frame things are: 0 to 1 from the left and from the top.
    module Spots
      module_function

      # @param node [Shot::Node] a prop, a lamp or a tracked spot
      # @param shape [Float] width of the frame over its height
      # @return [Array(Float, Float, Float), nil] where the camera sees it and how far along the ray, metres (nil for a
      #   tracked spot); nothing behind the camera
      def of(document, node, frame, shape)
        return [node[:x, frame] / 100.0, node[:y, frame] / 100.0, nil] if node.kind.name == :track

        seen(Picture::Camera.settings(document, frame), place(document, node, frame), shape)
      end

      # @return [Array<Float>] metres
      def place(document, node, frame)
        return Geometry::Bodies.pose(node, frame, document)["position"] if node.kind.name == :prop

        Geometry::Hanging.point(document, node, :position, frame)
      end

      # @param camera [Hash] from {Picture::Camera.settings}; @param place [Array<Float>] metres
      # @return [Array(Float, Float, Float), nil] across, down, and how far away, metres
      def seen(camera, place, shape)
        view = Picture::Camera.new(camera).view(shape, 1.0).to_a
        off = place.zip(view[0, 3]).map { |a, b| a - b }
        ahead, right, up = [view[3, 3], view[6, 3], view[9, 3]].map { |axis| [axis, dot(axis, axis)] }
        # The picture's plane lies `ahead` before the eye; it need not be one metre away, nor straight ahead.
        normal = cross(right[0], up[0])
        scale = dot(normal, ahead[0])
        depth = dot(normal, off) / scale
        return if depth <= 1e-6

        on = off.zip(ahead[0]).map { |a, b| a / depth - b }
        [0.5 + 0.5 * dot(on, right[0]) / right[1], 0.5 - 0.5 * dot(on, up[0]) / up[1], Math.sqrt(dot(off, off))]
      end

      # Where a spot of a plate would be if its lens had not bent it (Brown 1966; Newton's steps).
      # @param place [Array(Float, Float)] across and down, 0 to 1; @param bend [Array(Float, Float)] as the camera has
      #   it
      # @return [Array(Float, Float)]
      def straight(place, bend, shape)
        return place if bend.all?(&:zero?)

        x, y = (place[0] - 0.5) * shape, place[1] - 0.5
        far = Math.hypot(x, y) / (0.5 * Math.hypot(shape, 1.0))
        return place if far < 1e-9

        r = far
        8.times do
          r -=
            (r * WarpKernels.bulge(r, *bend) - far) / [1.0 + r * r * (3.0 * bend[0] + 5.0 * r * r * bend[1]), 0.1].max
        end
        [0.5 + (place[0] - 0.5) * r / far, 0.5 + (place[1] - 0.5) * r / far]
      end

      # How the camera's lens bends at a frame. @return [Array(Float, Float)]
      def bend(document, frame) =
        document.the(:camera).then { |camera| [camera[:bend, frame], camera[:bend_far, frame]] }

      def dot(a, b) = a.zip(b).sum { |x, y| x * y }

      def cross(a, b) = [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]]
    end
  end
end
