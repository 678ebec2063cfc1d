# frozen_string_literal: true

module Vumbral
  module Studio
    # Finds spots of a layer by itself and follows them over the shot.
    class SpotsWork
      # Of what is sought of each, in % of the frame's height.
      PATTERN, SEARCH = 3.5, 5.0
      # One that is seen on fewer frames is left out, if the shot has as many.
      FEWEST = 8

      def initialize(task)
        @task = task
        @workshop = task.workshop
      end

      # @return [Hash] how many were kept, and how many were found at first
      def call
        document = @workshop.shots.read(@task.payload["document"])
        layer, frame, count = @task.payload.values_at("layer", "frame", "count")
        @size = document.the(:picture).then { |picture| [picture[:width], picture[:height]] }
        @rushes = Rushes.from(@workshop, document, @task.payload["rushes"])
        places =
          Finish::Corners.new(*@workshop.finishing.followed(@rushes, frame, layer, @size)).best(
            count, besides: taken(document, layer, frame)
          )
        if places.empty?
          raise Refused.new(
            "There is nothing in that picture that could be followed: no corner and no speck.", code: "no_spot"
          )
        end

        found = followed(document, layer, frame, places)
        if found.empty?
          raise Refused.new(
            "#{places.size} spots were found, but none of them could be followed far enough.", code: "no_spot"
          )
        end

        @workshop.shots.step(
          @task.shot, edits(document, layer, found), "#{found.size} spots found and followed", by: @task.payload["by"]
        )
        {kept: found.size, found: places.size}
      end

      private

      def taken(document, layer, frame)
        document
          .of(:track)
          .select { |spot| spot[:layer] == layer }
          .map { |spot| [spot[:x, frame], spot[:y, frame]].zip(@size).map { |part, edge| part / 100.0 * edge } }
      end

      # On to the last frame and back to the first. @return [Array<Array<Finish::Trail::Found>>]
      def followed(document, layer, frame, places)
        all = (document.first_frame..document.last_frame).to_a
        tracker = Finish::Tracker.new(size: length(PATTERN), search: length(SEARCH), adapts: 0.2, least: 0.7)
        done = 0
        ways = [all.select { |at| at >= frame }, all.select { |at| at <= frame }.reverse].map do |frames|
          tracker.follow_all(frames, places) do |at|
            @task.progress(done, all.size + 1, "following #{places.size} spots")
            done += 1
            @workshop.finishing.followed(@rushes, at, layer, @size)
          end
        end
        ways
          .transpose
          .map { |on, back| back.drop(1).reverse + on }
          .select { |found| found.size >= [FEWEST, all.size].min }
      end

      def length(percent) = (percent / 100.0 * @size[1]).round

      def edits(document, layer, found)
        names =
          (1..).lazy.map { |n| "Found #{n}" }.reject { |name| document.of(:track).any? { |spot| spot.name == name } }
        found.zip(names.first(found.size)).map do |spots, name|
          keys = @workshop.tracking.keys(spots, @size)
          {
            "do" => "add",
            "kind" => "track",
            "name" => name,
            "keys" => keys,
            "dials" => {
              "layer" => layer, "pattern" => PATTERN, "search" => SEARCH, "adapts" => 0.2, "least" => 0.7
            }
          }
        end
      end
    end
  end
end
