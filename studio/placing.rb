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
        @workshop.shots.step(shot_id, [edit(document, prop, frame, rise(document, prop, frame))], "#{prop.name} put down", by: by)
      end

      private

      def rise(document, prop, frame)
        raise Refused.new("#{prop.name} is no prop to put down.", code: "bad_value") if prop.kind.name != :prop
        raise Refused.new("The place of #{prop.name} goes by a formula; take it out first.", code: "by_formula") if prop.curves[:position].is_a?(Shot::Rule)

        Geometry::Resting.rise(document, prop, frame, @workshop.assets) || raise(Refused.new("Nothing is under #{prop.name} that it could stand on.", code: "nothing_under"))
      end

      # A place with keys has one more.
      def edit(document, prop, frame, rise)
        world = Geometry::Hanging.pose(document, prop, frame)
        x, y, z = world.position
        place = Geometry::Hanging.inside(document, prop, Geometry::Pose.new([x, y + rise, z], world.turn, world.scale), frame).position.map { |c| c.round(5) }
        row = {"node" => prop.id, "dial" => "position", "value" => place}
        prop.curves[:position] ? row.merge("do" => "key", "frame" => frame) : row.merge("do" => "set")
      end
    end
  end
end
