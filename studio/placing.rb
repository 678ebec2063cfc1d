# frozen_string_literal: true

module Vumbral
  module Studio
    # Puts props where they belong.
    class Placing
      def initialize(workshop)
        @workshop = workshop
      end

      # Lets a prop down, or lifts it, onto what is under it at a frame.
      # @return [Hash] the step, see {Shots#step}
      # @raise [Refused] where nothing is under it, or its place goes by a formula
      def put_down(shot_id, node, frame, by: nil)
        document = @workshop.shots.document(shot_id)
        prop = document.node(node.to_s)
        frame = frame.clamp(document.first_frame, document.last_frame)
        @workshop.shots.step(
          shot_id, [edit(document, prop, frame, rise(document, prop, frame))], "#{prop.name} put down", by: by
        )
      end

      # Brings several things in line at a frame with the first of them, or spaces them evenly, in one step.
      # @param nodes [Array<String>] ids; @param axis [String]; @param way [String] see {Geometry::Aligning}
      # @return [Hash] the step, see {Shots#step}
      # @raise [Refused]
      def align(shot_id, nodes, frame, axis, way, by: nil)
        document = @workshop.shots.document(shot_id)
        things = Shot::Arranging.chosen(document, {"nodes" => nodes}).select { |node| node.kind.dials.key?(:position) }
        raise Refused.new("Choose two things that have a place, or more.", code: "bad_value") if things.size < 2
        unless Geometry::Aligning::AXES.key?(axis)
          raise Refused.new("Things come in line along x, y or z, not #{axis.inspect[0, 40]}.", code: "bad_value")
        end
        unless Geometry::Aligning::WAYS.include?(way)
          raise Refused.new(
            "Things come in line by #{Geometry::Aligning::WAYS.join(", ")}, not #{way.inspect[0, 40]}.",
            code: "bad_value"
          )
        end

        frame = frame.clamp(document.first_frame, document.last_frame)
        free = Shot::Arranging.free(document, things)
        places = Geometry::Aligning.places(document, free, frame, axis, way, @workshop.assets)
        raise Refused.new("They are in line already.", code: "nothing_to_do") if places.empty?

        edits = places.map { |node, place| {"do" => "place", "node" => node.id, "frame" => frame, "position" => place} }
        @workshop.shots.step(
          shot_id, edits, "#{things.size} things #{(way == "apart") ? "spaced" : "aligned"} along #{axis}", by: by
        )
      end

      private

      def rise(document, prop, frame)
        raise Refused.new("#{prop.name} is no prop to put down.", code: "bad_value") if prop.kind.name != :prop
        if prop.curves[:position].is_a?(Shot::Rule)
          raise Refused.new("The place of #{prop.name} goes by a formula; take it out first.", code: "by_formula")
        end

        Geometry::Resting.rise(document, prop, frame, @workshop.assets) ||
          raise(Refused.new("Nothing is under #{prop.name} that it could stand on.", code: "nothing_under"))
      end

      # A place with keys has one more.
      def edit(document, prop, frame, rise)
        world = Geometry::Hanging.pose(document, prop, frame)
        x, y, z = world.position
        place =
          Geometry::Hanging
            .inside(document, prop, Geometry::Pose.new([x, y + rise, z], world.turn, world.scale), frame)
            .position
            .map { |c| c.round(5) }
        row = {"node" => prop.id, "dial" => "position", "value" => place}
        prop.curves[:position] ? row.merge("do" => "key", "frame" => frame) : row.merge("do" => "set")
      end
    end
  end
end
