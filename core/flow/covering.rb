# frozen_string_literal: true

module Vumbral
  module Flow
    # What a source covers on a grid at a moment of a frame, and which way it blows there.
    class Covering
      # Voxels around a surface in which distances are wanted.
      BAND = 1.5

      # @param plan [#voxel, #corner, #size, #ground] of the whole chamber
      # @param props [Props]; @param nearby [Nearby] on the cells of the grid
      # @param origin [Array<Integer>] its first cell; @param size [Array<Integer>]; @param lattice [Grid::Lattice]
      def initialize(plan, props, nearby, origin, size, lattice)
        @plan, @props, @nearby, @origin, @size, @lattice = plan, props, nearby, origin, size, lattice
        @voxel = plan.voxel
        @kept = {}
      end

      # @param source [Hash] its dials, and "bodies" or an "emitter"; @param n [Integer] which of the shot's it is
      # @param part [Float] how much of the frame has gone; @param seconds [Float] length of the frame
      # @return [Array(Kernel::Buffer, Grid::VectorField)] how much of each cell, 0 to 1, and m/s; no velocity where it
      #   blows nowhere. Not to be changed.
      def cover(source, n, part, seconds, time)
        kept = still?(source) && @kept[[n, source]]
        cover, velocity =
          kept || fill(source, Kernel::Buffer.new(:f32, *@size), Grid::VectorField.still(@size), part, seconds, time, n)
        @kept = (@kept.size > 60) ? {} : @kept
        @kept[[n, source]] = [cover, velocity] if still?(source) && source["rough"].zero?
        if source["map"] == "formula"
          cover = cover.copy
          calculate(source, cover, time)
        end
        [cover, velocity]
      end

      private

      def still?(source) = source["bodies"]&.none? { |body| Geometry::Bodies.moves?(body) }

      def fill(source, cover, velocity, part, seconds, time, n)
        if %w[points particles].include?(source["from"])
          points = @props.points(source, part)
          if points.dim(0).positive?
            ShapeKernels.dot(cover, velocity, points, 1.0 / (seconds * points_span(source)), source["along"], @lattice)
          end
        else
          source["bodies"].each { |body| fill_body(source, body, cover, velocity, part, seconds, time, n) }
        end
        [cover, blows?(source) ? velocity : nil]
      end

      # @raise [Refused] for a body without an inside
      def hollow(body)
        return if @props.body(body["outline"], Geometry::Pose.of(body["to"])).inside?

        raise Refused.new(
          "A source feeds from the inside of a prop that has none (it is an open sheet); let it come from the " \
            "surface, or close the mesh.",
          code: "no_inside"
        )
      end

      # Where a source is strong, from what lies on its body.
      def thin(source, body, cover, part, band, region)
        return unless source["maps"] || %w[picture paint].include?(source["map"])

        pose = @nearby.pose(body, part)
        # The inside is as strong as the surface nearest to it.
        most = band + @voxel * @size.max
        thinned = @props.body(body["outline"], pose)
        if source["maps"]
          thinned.thin_by(
            cover, @props.strengths(source["maps"], body["outline"], pose), pose.rigid, @lattice, most, region
          )
        end
        return unless %w[picture paint].include?(source["map"])

        picture = (source["map"] == "picture") ? @props.picture(source["picture"]) : nil
        thinned.thin(cover, picture, pose.rigid, first, @voxel, most, region)
      end

      def first = [@lattice.x, @lattice.y, @lattice.z]

      # A formula multiplies what is covered.
      def calculate(source, cover, time)
        formula = @props.formula(source["formula"])
        weight = cover.copy.fill(1.0)
        Shot::FormulaKernels.evaluate(weight, formula.program, setting(time))
        ShapeKernels.multiply(cover, weight)
      end

      def setting(time)
        Shot::Formula.setting(frame: @props.frame, time: time, seed: @plan.ground["seed"], first: first,
          voxel: @voxel, low: @plan.corner, size: @plan.size.reverse.map { |n| n * @voxel })
      end

      # Particles report where they were a tenth of a frame before; a mesh's points a whole one.
      def points_span(source) = (source["from"] == "particles") ? Props::SPAN : 1.0

      def fill_body(source, body, cover, velocity, part, seconds, time, n)
        skin = (source["from"] == "surface") ? [source["skin"], @voxel].max : 0.0
        hollow(body) if skin.zero?
        band = [skin, @voxel].max + source["fade"] + BAND * @voxel
        @nearby.to(body, part, band) do |distance, region|
          ShapeKernels.cover(cover, distance, skin, source["fade"], 1.0 / @voxel, region)
          thin(source, body, cover, part, band, region)
          next unless blows?(source)

          motion = carried(body, part, seconds, 0.01 * source["carried"])
          ShapeKernels.blow(velocity, distance, motion, band, blast(source, time, n), Kernel::Buffer.of(:i32, @origin),
            @lattice, region)
          @nearby.flow(body, part, seconds, region) do |field|
            ShapeKernels.blow_flow(velocity, distance, band, field, 0.01 * source["carried"], region)
          end
        end
      end

      def blast(source, time, n)
        Blast.new(source["along"], *source["velocity"], source["rough"], source["breakup_size"] / @voxel,
          time * source["breakup_speed"], @plan.ground["seed"] * 97 + n)
      end

      def blows?(source)
        source["along"] != 0.0 || source["rough"].positive? || source["velocity"].any? { |c| c != 0.0 } ||
          source["from"] == "particles" || (source["carried"] != 0.0 && !still?(source))
      end

      def carried(body, part, seconds, share)
        return Kernel::Buffer.new(:f32, 12) unless Geometry::Bodies.moves?(body) && seconds.positive?

        Kernel::Buffer.of(:f32, @nearby.motion(body, part, seconds).map { |x| x * share })
      end
    end
  end
end
