# frozen_string_literal: true

module Vumbral
  module Studio
    # Pins a prop to its tracked spots.
    class PinWork
      def initialize(task)
        @task = task
        @workshop = task.workshop
      end

      # @return [Hash] name, how many frames, and how many pixels its places lie off their spots in the mean
      def call
        document = @workshop.shots.read(@task.payload["document"])
        prop = document.node(@task.payload["prop"])
        frames = @workshop.tracking.known(document, prop)
        found = poses(document, prop, frames)
        edits = frames.zip(found).flat_map do |frame, (pose, _)|
          {"position" => pose.position, "turn" => pose.turn}.map do |dial, value|
            {
              "do" => "key", "node" => prop.id, "dial" => dial, "frame" => frame,
              "value" => value.map { |c| c.round(6) }, "ease" => "linear"
            }
          end
        end
        @workshop.shots.step(@task.shot, edits, "#{prop.name} pinned on #{frames.size} frames", by: @task.payload["by"])
        {
          name: prop.name, frames: frames.size,
          off: (found.sum(&:last) / found.size * document.the(:picture)[:height]).round(2)
        }
      end

      private

      # Each frame begins where the one before has ended.
      def poses(document, prop, frames)
        spots = @workshop.tracking.spots(document, prop)
        picture = document.the(:picture)
        shape = picture[:width].fdiv(picture[:height])
        pinning = Finish::Pinning.new(spots.map { |spot| spot[:place] }, shape)
        from = Geometry::Pose.of(Geometry::Bodies.pose(prop, frames[0], document))
        frames.each_with_index.map do |frame, n|
          @task.progress(n, frames.size, "pinning #{prop.name}")
          seen =
            spots.map do |spot|
              Finish::Spots.straight(
                Finish::Spots.of(document, spot, frame, shape).first(2), Finish::Spots.bend(document, frame), shape
              )
            end
          pinning.pose(Picture::Camera.settings(document, frame), seen, from).tap { |pose, _| from = pose }
        end
      end
    end
  end
end
