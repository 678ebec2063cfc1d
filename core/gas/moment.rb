# frozen_string_literal: true

module Vumbral
  module Gas
    # A crop of the chamber at one moment of a frame: turns props and particles into grids there.
    class Moment
      attr_reader :size

      # @param props [Flow::Props] bodies by their shape
      # @param origin [Array<Integer>] first cell of the crop; @param size [Array<Integer>]
      def initialize(plan, props, origin, size)
        @plan = plan
        @props = props
        @origin = origin
        @size = size
        @voxel = plan.voxel
        @corner = origin.reverse.zip(plan.corner).map { |cell, c| c + cell * @voxel }
      end

      # The lowest corner, metres.
      attr_reader :corner

      # @param sources [Array<Hash>]; @param part [Float] how much of the frame has gone; @param seconds
      #   [Float] length of the frame
      # @return [Array<Feed>]
      def feeds(sources, gas, part, seconds, time)
        sources.each_with_index.map { |source, n| feed(source, n, gas, part, seconds, time) }
      end

      # @return [Array(Kernel::Buffer, Flow::Faces)] what colliders fill, and their velocity
      #   where any moves; nil where there are none
      def solids(bodies, part, seconds)
        return if bodies.empty?

        moving, still = bodies.partition { |body| Geometry::Bodies.moves?(body) && seconds.positive? }
        base = standing(still)
        return [base, nil] if moving.empty?

        mark_moving(base.copy, moving, part, seconds)
      end

      # Signed distance to what a force clings to.
      def distance_to(force, part) = nearby.to_force(force, part)

      private

      def first = @first ||= @corner.map { |c| c + 0.5 * @voxel }

      def lattice = @lattice ||= Grid::Lattice.new(*first, @voxel)

      def feed(source, n, gas, part, seconds, time)
        cover, velocity = covering.cover(source, n, part, seconds, time)
        Feed.new(
          cover: cover, smoke: source["smoke"], fuel: source["fuel"],
          heat: source["heats"] ? source["temperature"] - gas["ambient"] : nil, warm: source["warm_as"] == "add",
          push: source["push"], colour: source["colour"], velocity: velocity,
          velocity_hold: source["speed_as"] == "hold", hold: source["as"] == "hold", strength: source["strength"],
          breakup: source["breakup"], breakup_cells: source["breakup_size"] / @voxel,
          breakup_octaves: source["breakup_octaves"], breakup_speed: source["breakup_speed"],
          seed: @plan.ground["seed"] * 97 + n
        )
      end

      def covering = @covering ||= Flow::Covering.new(@plan, @props, nearby, @origin, @size, lattice)

      # What stands still is marked once.
      def standing(bodies)
        return @standing[1] if @standing && @standing[0] == bodies

        solid = Kernel::Buffer.new(:u8, *@size)
        bodies.each { |body| mark(solid, body, 0.0) }
        @standing = [bodies, solid]
        solid
      end

      def mark(solid, body, part)
        shell = body["shell"] * @voxel
        near(body, part, shell + Flow::Covering::BAND * @voxel) do |distance, region|
          Flow::ShapeKernels.mark(solid, distance, shell, 1 + (body["friction"] * 254).round, region)
          yield distance, region, shell if block_given?
        end
      end

      def mark_moving(solid, bodies, part, seconds)
        moved = Flow::Faces.still(@size)
        bodies.each do |body|
          mark(solid, body, part) do |distance, region, shell|
            Flow::ShapeKernels.carry(moved, distance, shell,
              Kernel::Buffer.of(:f32, nearby.motion(body, part, seconds)), lattice, region)
            nearby.flow(body, part, seconds, region) do |field|
              Flow::ShapeKernels.carry_flow(moved, distance, shell, field, region)
            end
          end
        end
        [solid, moved]
      end

      def near(...) = nearby.to(...)

      def nearby = @nearby ||= Flow::Nearby.new(@props, @size, lattice)
    end
  end
end
