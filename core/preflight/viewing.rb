# frozen_string_literal: true

module Vumbral
  module Preflight
    # Whether the picture would show what is there: where the camera stands, what the film takes, what a look says.
    class Viewing
      # From so many stops on a picture is white or black whatever the light.
      STOPS = 6.0
      # A voxel so thick, in optical depths at the density of a usual source, is a wall.
      WALL = 60.0

      def initialize(survey)
        @survey = survey
        @document = survey.document
      end

      # @return [Array<Finding>]
      def findings = [nowhere, inside, hidden, exposure, wall, *single_stops].compact

      private

      def camera = @document.the(:camera)

      def picture = @document.the(:picture)

      def look = @document.look

      def nowhere
        return unless camera[:position] == camera[:target]

        Finding.new(code: "camera_nowhere", node: camera.id, dial: :target,
          text: "The camera looks at the very point where it stands, so it looks straight ahead along -z.",
          remedy: Finding.remedy("Look a metre ahead", camera.id,
            target: camera[:position].zip([0.0, 0.0, -1.0]).map(&:sum)))
      end

      def inside
        eye = camera[:position, @document.first_frame]
        prop = @document.of(:prop).find { |node| @document.shown?(node, @document.first_frame) && within?(node, eye) }
        return unless prop

        Finding.new(code: "camera_inside", node: camera.id, dial: :position,
          text: "The camera stands inside #{prop.name}, so the picture shows nothing but its inside.",
          remedy: Finding.remedy("Move the camera out of it", camera.id, position: back(prop, eye)))
      end

      def within?(prop, eye)
        low, high = @survey.bounds(prop, @document.first_frame)
        return false unless eye.each_index.all? { |axis| eye[axis].between?(low[axis], high[axis]) }

        world =
          @survey.shape(prop).transformed(
            Geometry::Pose.of(Geometry::Bodies.pose(prop, @document.first_frame, @document)).transform
          )
        tree = Geometry::BVH.new(world)
        Geometry::BVHKernels.winding(tree.corners, tree.boxes, tree.far, *eye).abs > 0.5
      end

      # A chamber that an opaque prop stands all around, looked at from outside.
      def hidden
        return if @document.of(:source).empty?

        eye = camera[:position, frame]
        prop =
          @document
            .of(:prop)
            .find do |node|
              @document.shown?(node, frame) && node[:clear, frame] < 0.5 &&
                corners.all? { |corner| within?(node, corner) } && !within?(node, eye)
            end
        return unless prop

        Finding.new(
          code: "gas_hidden", node: prop.id, dial: :shown,
          text: "#{prop.name} is opaque and stands all around the chamber, so that nothing of the gas is seen.",
          remedy: Finding.remedy("Hide #{prop.name}", prop.id, shown: false)
        )
      end

      def frame = @document.first_frame

      # Of the chamber's box.
      def corners
        box = @survey.plan.boxes[0]
        high = box[:corner].zip(box[:size]).map { |low, cells| low + cells * @survey.plan.voxel }
        8.times.map { |n| 3.times.map { |axis| (n >> axis & 1).zero? ? box[:corner][axis] : high[axis] } }
      end

      # Away from what it looks at until it is out of the prop's box, and a little more.
      def back(prop, eye)
        low, high = @survey.bounds(prop, @document.first_frame)
        way = eye.zip(camera[:target, @document.first_frame]).map { |a, b| a - b }
        way = [0.0, 0.0, 1.0] if way.all?(&:zero?)
        steps = 3.times.reject { |axis| way[axis].abs < 1e-6 }.map { |axis|
          ((way[axis].positive? ? high[axis] : low[axis]) - eye[axis]) / way[axis]
        }
        eye.zip(way).map { |at, along| (at + 1.2 * steps.min * along).round(3) }
      end

      def exposure
        return if picture.curves.key?(:exposure) || picture[:exposure].abs <= STOPS

        Finding.new(code: "exposure", node: picture.id, dial: :exposure,
          text: "An exposure of #{picture[:exposure].round(1)} stops leaves the picture all but " \
            "#{picture[:exposure].positive? ? "white" : "black"}.",
          remedy: Finding.remedy("Set the exposure to 0", picture.id, exposure: 0.0))
      end

      def wall
        voxel = @survey.plan.voxel
        return if look.curves.key?(:thickness) || look[:thickness] * voxel <= WALL

        Finding.new(code: "wall", node: look.id, dial: :thickness,
          text: "The smoke is so thick that light gets #{(1000.0 / look[:thickness]).round(2)} mm into it, and a " \
            "voxel is #{(1000.0 * voxel).round} mm wide: it looks like a solid with the voxels' steps.",
          remedy: Finding.remedy("Make it thinner", look.id, thickness: (5.0 / voxel).round(1)))
      end

      # Ramps that count and hold one stop only.
      def single_stops
        look.kind.dials.values.select { |dial|
          dial.type == :ramp && look[dial.name].size == 1 && dial.counts?(look)
        }.map { |dial|
          Finding.new(
            code: "one_stop",
            node: look.id,
            dial: dial.name,
            text:
              "#{dial.label} of #{look.name} has one stop, so it is the same everywhere; a second one makes it change."
          )
        }
      end
    end
  end
end
