# frozen_string_literal: true

module Vumbral
  module Studio
    # Takes the camera from tracked spots.
    class SightingWork
      def initialize(task)
        @task = task
        @workshop = task.workshop
      end

      # @return [Hash] frames, how many pixels its spots lie off in the mean, and the names of spots that were left out
      #   somewhere
      def call
        document = @workshop.shots.read(@task.payload["document"])
        asked = @task.payload
        spots, known = @workshop.sightings.spots(document, asked["free"])
        shape = document.the(:picture).then { |picture| picture[:width].fdiv(picture[:height]) }
        eye = Finish::Sighting::Eye.of(Picture::Camera.settings(document, asked["from"]))
        found =
          Finish::Sighting
            .new(shape, free: asked["free"], zooms: asked["zooms"])
            .solve(spots, known, asked["from"], eye, asked["frames"]) do |n, all|
              @task.progress(n, all, "taking the camera from its spots")
            end
        @workshop.shots.step(
          @task.shot, edits(document, found, asked), "The camera taken from #{spots.size} spots", by: asked["by"]
        )
        off = found.off * document.the(:picture)[:height]
        {
          frames: found.eyes.size, off: off.round(2),
          wrong: found.wrong.map { |id, frames| "#{document.node(id).name} (#{frames.size})" }
        }
      end

      private

      def edits(document, found, asked)
        camera = document.the(:camera)
        far =
          Math.sqrt(
            camera[:position, asked["from"]].zip(camera[:target, asked["from"]]).sum { |a, b| (a - b)**2 }
          ).clamp(0.1, 1000.0)
        roll = camera[:roll, asked["from"]]
        found.eyes.flat_map do |frame, eye|
          target, leans = eye.look(far)
          # Full turns stay what they were.
          roll = leans + 360.0 * ((roll - leans) / 360.0).round
          values = {"target" => target.map { |c| c.round(6) }, "roll" => roll.round(5)}
          values["position"] = eye.place.map { |c| c.round(6) } if asked["free"]
          values["focal"] = (eye.focal * camera[:film] / Picture::Camera::SENSOR).round(4) if asked["zooms"]
          values.map do |dial, value|
            {
              "do" => "key", "node" => camera.id, "dial" => dial, "frame" => frame, "value" => value, "ease" => "linear"
            }
          end
        end
      end
    end
  end
end
