# frozen_string_literal: true

module Vumbral
  module Studio
    # Follows one spot.
    class TrackWork
      def initialize(task)
        @task = task
        @workshop = task.workshop
      end

      # @return [Hash] how many frames it was found on, of how many, and the frame on which it slipped
      def call
        document = @workshop.shots.read(@task.payload["document"])
        node = document.node(@task.payload["node"])
        frames = @task.payload["frames"]
        found = follow(document, node, frames)
        if found.size < 2 && frames.size > 1
          raise Refused.new(
            "There is nothing to be seen where #{node.name} is at frame #{frames[0]}; move it onto a spot " \
              "with an edge or a corner.",
            code: "no_spot"
          )
        end

        slipped = frames[frames.index(found.last.frame) + 1]
        words = "#{node.name} followed over #{found.size} frames"
        @workshop.shots.step(
          @task.shot, @workshop.tracking.edits(node.id, found, size(document)), words, by: @task.payload["by"]
        )
        {found: found.size, of: frames.size, slipped: slipped, name: node.name}
      end

      private

      def size(document) = document.the(:picture).then { |picture| [picture[:width], picture[:height]] }

      def follow(document, node, frames)
        size = size(document)
        rushes = Rushes.from(@workshop, document, @task.payload["rushes"])
        pixels = ->(dial) { (node[dial] / 100.0 * size[1]).round }
        tracker =
          Finish::Tracker.new(
            size: pixels[:pattern], search: pixels[:search], adapts: node[:adapts], least: node[:least]
          )
        tracker.follow(frames, node[:x, frames[0]] / 100.0 * size[0], node[:y, frames[0]] / 100.0 * size[1]) do |frame|
          @task.progress(frames.index(frame), frames.size, "following #{node.name}")
          @workshop.finishing.followed(rushes, frame, node[:layer], size)
        end
      end
    end
  end
end
