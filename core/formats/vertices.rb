# frozen_string_literal: true

module Vumbral
  module Formats
    # A mesh as files have it where all that belongs to a corner belongs to its point: points whose corners
    # differ in colour or texture place stand there several times. Points that need not stay where they were.
    class Vertices
      # `points` f32 [n, 3]; `triangles` i32 [m, 3]; `tints` and `places` for each point, or nil.
      attr_reader :points, :triangles, :tints, :places, :origins

      # @param mesh [Geometry::Mesh]
      def initialize(mesh)
        @mesh = mesh
        @count = mesh.points.dim(0)
        (mesh.colours || mesh.places) ? split : keep
      end

      # Points of the same mesh at another moment, as often as these. @return [Kernel::Buffer] f32 [n, 3]
      def moved(points)
        return points unless @origins

        rows = points.to_a.each_slice(3).to_a
        Kernel::Buffer.of(:f32, @origins.flat_map { |n| rows[n] }, @origins.size, 3)
      end

      private

      def keep
        @points, @triangles = @mesh.points, @mesh.triangles
      end

      def split
        colours, laid = @mesh.colours&.to_a&.each_slice(3)&.to_a, @mesh.places&.to_a&.each_slice(2)&.to_a
        found = {}
        held = Array.new(@count)
        @origins = (0...@count).to_a
        corners = @mesh.triangles.to_a.each_with_index.map do |point, n|
          found[[point, colours && colours[n], laid && laid[n]]] ||= place(point, n, held)
        end
        @tints = colours && held.map { |n| n ? colours[n] : Geometry::Colours::PLAIN }
        @places = laid && held.map { |n| n ? laid[n] : [0.0, 0.0] }
        @points = moved(@mesh.points)
        @triangles = Kernel::Buffer.of(:i32, corners, @mesh.count, 3)
      end

      # The first that is met of a point has its number. @return [Integer]
      def place(point, corner, held)
        return point.tap { held[point] = corner } unless held[point]

        held << corner
        @origins << point
        held.size - 1
      end
    end
  end
end
