# frozen_string_literal: true

module Vumbral
  module Flow
    # How far bodies are from the points of a grid, and how they move there, at a moment of a frame. The buffers serve
    # all in turn; what stands there already is not worked out again, as where a collider feeds too.
    class Nearby
      # Voxels around what moves by itself, so that its collider and its source may have them together.
      SHARED = 3.0

      # @param props [Props]; @param size [Array<Integer>] points along z, y, x; @param lattice [Grid::Lattice]
      def initialize(props, size, lattice)
        @props = props
        @size = size
        @lattice = lattice
      end

      # @param body [Hash] as {Geometry::Bodies.of}; @param part [Float] how much of the frame has gone
      # @param band [Float] metres around its surface within which the distance is exact
      # @yield [distance, region] unless the body is nowhere near
      def to(body, part, band)
        pose = pose(body, part)
        band = [band, SHARED * @lattice.voxel].max if pose.at
        unless @held && @held[0] == [body["outline"], pose] && @held[1] >= band
          @distance ||= Kernel::Buffer.new(:f32, *@size)
          @nearest ||= Kernel::Buffer.new(:i32, *@size)
          @held = [
            [body["outline"], pose], band,
            @props.body(body["outline"], pose).distance(@distance, pose.rigid, first, @lattice.voxel, band, @nearest)
          ]
        end
        yield @distance, @held[2] if @held[2]
      end

      # @param force [Hash] one that clings: its "bodies" and "reach"
      # @return [Kernel::Buffer] f32 [z, y, x], signed distance to the nearest of its bodies
      def to_force(force, part)
        band = force["reach"] + 2 * @lattice.voxel
        nearest = Kernel::Buffer.new(:f32, *@size).fill(band)
        force["bodies"].each do |body|
          to(body, part, band) { |distance, region| ShapeKernels.nearer(nearest, distance, region) }
        end
        nearest
      end

      # How a body that {#to} was asked for moves by itself near its surface.
      # @yieldparam field [Grid::VectorField] m/s; unless it does not, or has other triangles than before
      def flow(body, part, seconds, region)
        from, to = %w[from to].map { |moment| Geometry::Pose.of(body[moment]) }
        return unless from.at && seconds.positive? && (ends = @props.ends(body["outline"], from, to))

        pose = from.towards(to, part)
        @flow ||= Grid::VectorField.still(@size)
        @props.body(body["outline"], pose).speeds(@flow, @nearest, ends, seconds, pose.rigid, @lattice, region)
        yield @flow
      end

      # @return [Array<Float>] twelve numbers that make the velocity of a body from a place; see
      #   {Geometry::Transform.motion}
      def motion(body, part, seconds)
        from, to = Geometry::Pose.of(body["from"]), Geometry::Pose.of(body["to"])
        Geometry::Transform.motion(from.transform, from.towards(to, part).transform, to.transform, seconds).rows.flatten
      end

      # @return [Geometry::Pose]
      def pose(body, part) = Geometry::Pose.of(body["from"]).towards(Geometry::Pose.of(body["to"]), part)

      private

      def first = [@lattice.x, @lattice.y, @lattice.z]
    end
  end
end
