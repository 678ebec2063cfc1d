# frozen_string_literal: true

module Vumbral
  module Gas
    # A crop of the chamber at one moment of a frame: turns props and particles into grids there.
    class Moment
      # Voxels around a surface in which distances are wanted.
      BAND = 1.5
      # And around what moves by itself, so that its collider and its source may have them together.
      SHARED = 3.0

      attr_reader :size

      # @param props [Props] bodies by their shape
      # @param origin [Array<Integer>] first cell of the crop; @param size [Array<Integer>]
      def initialize(plan, props, origin, size)
        @plan = plan
        @props = props
        @origin = origin
        @size = size
        @voxel = plan.voxel
        @corner = origin.reverse.zip(plan.corner).map { |cell, c| c + cell * @voxel }
        @kept = {}
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
      def distance_to(force, part)
        band = force["reach"] + 2 * @voxel
        nearest = Kernel::Buffer.new(:f32, *@size).fill(band)
        force["bodies"].each do |body|
          near(body, part, band) { |distance, region| ShapeKernels.nearer(nearest, distance, region) }
        end
        nearest
      end

      private

      def first = @first ||= @corner.map { |c| c + 0.5 * @voxel }

      def lattice = @lattice ||= Grid::Lattice.new(*first, @voxel)

      def feed(source, n, gas, part, seconds, time)
        blank = -> { Kernel::Buffer.new(:f32, *@size) }
        kept = still?(source) && @kept[[n, source]]
        cover, velocity = kept || fill(source, blank.call, Grid::VectorField.still(@size), part, seconds, time, n)
        @kept = (@kept.size > 60) ? {} : @kept
        @kept[[n, source]] = [cover, velocity] if still?(source) && source["rough"].zero?
        if source["map"] == "formula"
          cover = cover.copy
          calculate(source, cover, time)
        end
        Feed.new(cover: cover, smoke: source["smoke"], fuel: source["fuel"], heat: source["heats"] ? source["temperature"] - gas["ambient"] : nil,
          warm: source["warm_as"] == "add", push: source["push"], colour: source["colour"], velocity: velocity, velocity_hold: source["speed_as"] == "hold",
          hold: source["as"] == "hold", strength: source["strength"], breakup: source["breakup"], breakup_cells: source["breakup_size"] / @voxel, breakup_octaves: source["breakup_octaves"],
          breakup_speed: source["breakup_speed"], seed: @plan.ground["seed"] * 97 + n)
      end

      def still?(source) = source["bodies"]&.none? { |body| Geometry::Bodies.moves?(body) }

      def fill(source, cover, velocity, part, seconds, time, n)
        if %w[points particles].include?(source["from"])
          points = @props.points(source, part)
          if points.dim(0).positive?
            ShapeKernels.dot(cover, velocity, points, 1.0 / (seconds * points_span(source)), source["along"], lattice)
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
          "A source feeds from the inside of a prop that has none (it is an open sheet); let it come from the surface, or close the mesh.", code: "no_inside"
        )
      end

      # Where a source is strong, from what lies on its body.
      def thin(source, body, cover, part, band, region)
        return unless source["maps"] || %w[picture paint].include?(source["map"])

        pose = Geometry::Pose.of(body["from"]).towards(Geometry::Pose.of(body["to"]), part)
        # The inside is as strong as the surface nearest to it.
        most = band + @voxel * @size.max
        thinned = @props.body(body["outline"], pose)
        thinned.thin_by(cover, @props.strengths(source["maps"], body["outline"], pose), pose.rigid, lattice, most, region) if source["maps"]
        return unless %w[picture paint].include?(source["map"])

        picture = (source["map"] == "picture") ? @props.picture(source["picture"]) : nil
        thinned.thin(cover, picture, pose.rigid, first, @voxel, most, region)
      end

      # A formula multiplies what is covered.
      def calculate(source, cover, time)
        formula = @props.formula(source["formula"])
        weight = cover.copy.fill(1.0)
        setting = Shot::Formula.setting(frame: @props.frame, time: time, seed: @plan.ground["seed"], first: first,
          voxel: @voxel, low: @plan.corner, size: @plan.size.reverse.map { |n| n * @voxel })
        Shot::FormulaKernels.evaluate(weight, formula.program, setting)
        ShapeKernels.multiply(cover, weight)
      end

      # Particles report where they were a tenth of a frame before; a mesh's points a whole one.
      def points_span(source) = (source["from"] == "particles") ? Props::SPAN : 1.0

      def fill_body(source, body, cover, velocity, part, seconds, time, n)
        skin = (source["from"] == "surface") ? [source["skin"], @voxel].max : 0.0
        hollow(body) if skin.zero?
        band = [skin, @voxel].max + source["fade"] + BAND * @voxel
        near(body, part, band) do |distance, region|
          ShapeKernels.cover(cover, distance, skin, source["fade"], 1.0 / @voxel, region)
          thin(source, body, cover, part, band, region)
          next unless blows?(source)

          motion = carried(body, part, seconds, 0.01 * source["carried"])
          ShapeKernels.blow(velocity, distance, motion, band, blast(source, time, n), Kernel::Buffer.of(:i32, @origin),
            lattice, region)
          flow(body, part, seconds, region) { |field| ShapeKernels.blow_flow(velocity, distance, band, field, 0.01 * source["carried"], region) }
        end
      end

      def blast(source, time, n)
        Blast.new(source["along"], *source["velocity"], source["rough"], source["breakup_size"] / @voxel,
          time * source["breakup_speed"], @plan.ground["seed"] * 97 + n)
      end

      def blows?(source)
        source["along"] != 0.0 || source["rough"].positive? || source["velocity"].any? { |c|
          c != 0.0
        } || source["from"] == "particles" ||
          (source["carried"] != 0.0 && !still?(source))
      end

      def carried(body, part, seconds, share)
        return Kernel::Buffer.new(:f32, 12) unless Geometry::Bodies.moves?(body) && seconds.positive?

        Kernel::Buffer.of(:f32, motion(body, part, seconds).rows.flatten.map { |x| x * share })
      end

      def motion(body, part, seconds)
        from, to = Geometry::Pose.of(body["from"]), Geometry::Pose.of(body["to"])
        Geometry::Transform.motion(from.transform, from.towards(to, part).transform, to.transform, seconds)
      end

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
        near(body, part, shell + BAND * @voxel) do |distance, region|
          ShapeKernels.mark(solid, distance, shell, 1 + (body["friction"] * 254).round, region)
          yield distance, region, shell if block_given?
        end
      end

      def mark_moving(solid, bodies, part, seconds)
        moved = Flow::Faces.still(@size)
        bodies.each do |body|
          mark(solid, body, part) do |distance, region, shell|
            ShapeKernels.carry(moved, distance, shell,
              Kernel::Buffer.of(:f32, motion(body, part, seconds).rows.flatten), lattice, region)
            flow(body, part, seconds, region) { |field| ShapeKernels.carry_flow(moved, distance, shell, field, region) }
          end
        end
        [solid, moved]
      end

      # How a body that moves by itself does so near its surface.
      # @yieldparam field [Grid::VectorField] unless it does not, or has other triangles than before
      def flow(body, part, seconds, region)
        from, to = %w[from to].map { |moment| Geometry::Pose.of(body[moment]) }
        return unless from.at && seconds.positive? && (ends = @props.ends(body["outline"], from, to))

        pose = from.towards(to, part)
        @flow ||= Grid::VectorField.still(@size)
        @props.body(body["outline"], pose).speeds(@flow, @nearest, ends, seconds, pose.rigid, lattice, region)
        yield @flow
      end

      # The distance near a body, and which triangle is nearest. The buffers serve all in turn; what stands there
      # already is not worked out again, as where a collider feeds too.
      # @yield [distance, region] unless the body is nowhere near
      def near(body, part, band)
        pose = Geometry::Pose.of(body["from"]).towards(Geometry::Pose.of(body["to"]), part)
        band = [band, SHARED * @voxel].max if pose.at
        unless @held && @held[0] == [body["outline"], pose] && @held[1] >= band
          @distance ||= Kernel::Buffer.new(:f32, *@size)
          @nearest ||= Kernel::Buffer.new(:i32, *@size)
          @held = [[body["outline"], pose], band, @props.body(body["outline"], pose).distance(@distance, pose.rigid, first, @voxel, band, @nearest)]
        end
        yield @distance, @held[2] if @held[2]
      end
    end
  end
end
