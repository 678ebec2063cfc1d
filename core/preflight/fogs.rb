# frozen_string_literal: true

module Vumbral
  module Preflight
    # Whether fogs can be seen, and whether lamps are let out of what they stand in.
    class Fogs
      # Ways in which it is looked whether anything lets a lamp's light out, and how many of them may slip between two
      # faces.
      WAYS, SLIPS = 96, 2

      def initialize(survey)
        @survey = survey
        @document = survey.document
      end

      # @return [Array<Finding>]
      def findings =
        [many].compact +
          @document.of(:fog).filter_map { |fog| homeless(fog) || unclosed(fog) || skin(fog) || driven(fog) } +
          @document.of(:lamp).filter_map { |lamp| shut_in(lamp) }

      private

      def frame = @document.first_frame

      def finding(node, code, dial, text, remedy = nil) =
        Finding.new(code: code, node: node.id, dial: dial, text: text, remedy: remedy)

      # More than a picture walks through.
      def many
        most = Light::Haze::MOST
        all =
          @document.of(:fog) + @document.of(:lamp).select { |lamp| lamp[:as] == "spot" && lamp[:beam, frame].positive? }
        return if all.size <= most

        finding(
          all[most], "many_fogs", nil,
          "A picture shows #{most} fogs and beams at most, so #{all.drop(most).map(&:name).join(", ")} cannot be " \
            "seen; let some go."
        )
      end

      def prop(fog) = (fog[:fills] == "prop") ? @document.nodes[fog[:prop]] : nil

      def homeless(fog)
        return if fog[:fills] == "all" || prop(fog)

        remedy = Finding.remedy("Let it fill the whole shot", fog.id, fills: "all")
        finding(fog, "fog_nowhere", :prop, "#{fog.name} fills nothing: choose the prop that it fills.", remedy)
      end

      def unclosed(fog)
        inside = prop(fog) or return
        return if body(inside)&.inside? != false

        finding(
          fog, "fog_open", :prop,
          "#{inside.name} is not closed, so it has no inside that #{fog.name} could fill; close it.",
          Finding.remedy("Let it fill the whole shot", fog.id, fills: "all")
        )
      end

      # An opaque skin around a fog that one looks at from outside.
      def skin(fog)
        around = prop(fog) or return
        return unless @document.shown?(around, frame)

        camera = Geometry::Hanging.point(@document, @document.the(:camera), :position, frame)
        body = body(around)
        return if body.nil? || within?(body, around, camera)

        finding(
          fog, "fog_hidden", :prop, "#{around.name} is opaque and hides #{fog.name} inside it.",
          Finding.remedy("Hide #{around.name}", around.id, shown: false)
        )
      end

      # A fog whose own dial is off, whatever texture drives it.
      def driven(fog)
        return if fog[:thickness].positive? || fog.curves.key?(:thickness)

        finding(
          fog, "fog_clear", :thickness,
          "#{fog.name} cannot be seen: its thickness is 0#{", whatever its texture says" if fog[:texture]}.",
          Finding.remedy("Make it 0.1 per m thick", fog.id, thickness: 0.1)
        )
      end

      # A lamp that a closed prop keeps to itself.
      def shut_in(lamp)
        return unless lamp[:shadows]

        place = Geometry::Hanging.point(@document, lamp, :position, frame)
        around =
          @document
            .of(:prop)
            .find do |prop|
              @document.shown?(prop, frame) && prop[:casts] && prop[:shape] != "plane" && keeps?(prop, place, lamp)
            end
        return unless around

        finding(
          lamp, "lamp_shut_in", :position,
          "#{lamp.name} stands inside #{around.name}, which lets none of its light out.",
          Finding.remedy("Let it cast no shadows", lamp.id, shadows: false)
        )
      end

      def keeps?(prop, place, lamp)
        body = body(prop)
        return false unless body&.closed && within?(body, prop, place)

        # What stands within the lamp's own ball hides nothing.
        own = rigid(prop).inverse.apply(place)
        tree = Geometry::BVH.new(body.mesh)
        out = Array.new(WAYS) { |n| way(n) }.count do |x, y, z|
          ray = Geometry::Ray.new(*own.zip([x, y, z]).map { |at, c| at + lamp[:radius] * c }, x, y, z)
          !Geometry::RayKernels.blocked(tree.corners, tree.boxes, ray, 1e9)
        end
        out <= SLIPS
      end

      # Evenly over all directions (Vogel 1979).
      def way(n)
        up = 1.0 - 2.0 * (n + 0.5) / WAYS
        turn = n * Math::PI * (3.0 - Math.sqrt(5.0))
        flat = Math.sqrt(1.0 - up * up)
        [flat * Math.cos(turn), up, flat * Math.sin(turn)]
      end

      def rigid(prop) = Geometry::Hanging.pose(@document, prop, frame).rigid

      # @return [Geometry::Body, nil] nothing where its shape cannot be made, which is said elsewhere
      def body(prop)
        pose = Geometry::Hanging.pose(@document, prop, frame)
        Geometry::Body.new(
          Geometry::Shapes.outline(prop, document: @document, frame: frame), pose.scale, @survey.meshes,
          Geometry::Bodies.pose(prop, frame, @document)["at"]
        )
      rescue Refused
        nil
      end

      def within?(body, prop, place)
        return false unless body.closed

        low, high = body.mesh.bounds
        own = rigid(prop).inverse.apply(place)
        return false unless 3.times.all? { |c| own[c].between?(low[c], high[c]) }

        field = Kernel::Buffer.new(:f32, 1, 1, 1)
        body.distance(field, Geometry::Transform.identity, own, 1e-3, 1e6)
        field[0, 0, 0].negative?
      end
    end
  end
end
