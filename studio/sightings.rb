# frozen_string_literal: true

module Vumbral
  module Studio
    # Spots that are found by themselves, and the camera that is taken from spots.
    class Sightings
      MOST = 200

      def initialize(workshop)
        @workshop = workshop
      end

      # Finds spots in a layer's picture and follows them over the shot.
      # @param count [Integer] at most so many
      # @param by [String, nil] who asks, whose step it becomes
      # @return [Integer] the job's id
      # @raise [Refused]
      def find(shot_id, layer_id, frame, count, by: nil)
        document = @workshop.shots.document(shot_id)
        layer = document.node(layer_id)
        raise Refused.new("#{layer.name} is no layer.", code: "bad_edit") unless layer.kind.name == :layer
        unless %w[plate shot other].include?(layer[:what])
          raise Refused.new(
            "#{layer.name} shows nothing that moves; spots are found in a plate or in the shot's own picture.",
            code: "bad_value"
          )
        end
        unless count.is_a?(Integer) && count.between?(1, MOST)
          raise Refused.new("Between 1 and #{MOST} spots are found at once.", code: "out_of_range")
        end

        inside(document, frame)
        frames = (document.first_frame..document.last_frame).to_a
        @workshop.jobs.add(
          "spots",
          shot_id,
          {
            document: document.to_json, layer: layer_id, frame: frame, count: count, by: by,
            rushes: Rushes.of(@workshop, shot_id, document, frames, quiet: true).to_job
          }
        )
      end

      # Takes the camera from spots that were followed: free where places of enough of them are known, turning on a
      # tripod otherwise.
      # @param from [Integer] a frame on which the camera is set: on a tripod just so, a free one near enough
      # @param how [String] "free" or "tripod"
      # @param zooms [Boolean] whether its focal length is sought too
      # @return [Integer] the job's id
      # @raise [Refused]
      def solve(shot_id, from, how, zooms: false, by: nil)
        document = @workshop.shots.document(shot_id)
        inside(document, from)
        raise Refused.new("A camera is free or on a tripod.", code: "bad_value") unless %w[free tripod].include?(how)

        alone(document)
        free = how == "free"
        found, = spots(document, free)
        least = Finish::Sighting::LEAST[free ? :free : :tripod] + (zooms ? 1 : 0)
        frames =
          (document.first_frame..document.last_frame).select do |frame|
            found.count { |_, seen| seen.key?(frame) } >= least
          end
        lacking(free, least, found.size) if frames.empty? || (!free && !frames.include?(from))

        @workshop.jobs.add(
          "sighting", shot_id,
          {document: document.to_json, from: from, free: free, zooms: zooms, frames: frames, by: by}
        )
      end

      # Spots that say something of the camera.
      # @return [Array(Hash, Hash)] where each was found, 0 to 1 across and down, by its id and by frame; and known
      #   places by id
      def spots(document, free)
        tracks = document.of(:track).select { |spot| spot.keyed(:x) && spot.keyed(:y) && !spot.off? }
        known = tracks.filter_map { |spot| place(document, spot)&.then { |place| [spot.id, place] } }.to_h
        found = tracks.to_h { |spot| [spot.id, seen(document, spot)] }
        # Of a thing that moves a spot says nothing of the camera.
        still = tracks.reject { |spot| spot[:prop] && !known.key?(spot.id) }.map(&:id)
        [found.slice(*(free ? known.keys : still)), known]
      end

      private

      def inside(document, frame)
        return if frame.is_a?(Integer) && frame.between?(document.first_frame, document.last_frame)

        raise Refused.new(
          "Frame #{frame.inspect[0, 20]} is not in the shot; it goes from #{document.first_frame} to " \
            "#{document.last_frame}.",
          code: "out_of_range"
        )
      end

      def alone(document)
        camera = document.the(:camera)
        shakes = Geometry::Shake.shakes?(camera)
        return unless camera[:leader] || camera[:aim] || shakes

        raise Refused.new(
          "The camera #{shakes ? "shakes" : "goes with a prop or follows one with its eye"}; let it stand by " \
            "itself, then take it from spots.",
          code: "bad_edit"
        )
      end

      def lacking(free, least, there)
        words = if free
          "A free camera is taken from #{least} spots or more whose places are known, better from 6: give each the " \
            "prop it is on, or say that its place is known"
        else
          "A camera on a tripod is taken from #{least} spots or more, followed from the frame that is looked at: " \
            "find some in the plate, or follow your own"
        end
        raise Refused.new("#{words}. There #{(there == 1) ? "is" : "are"} #{there}.", code: "few_spots")
      end

      # In the shot, metres. @return [Array<Float>, nil] nothing where it is not known or goes about
      def place(document, spot)
        prop = document.nodes[spot[:prop]] or return (spot[:known] ? spot[:place] : nil)
        poses =
          [document.first_frame, document.last_frame].map do |frame|
            Geometry::Pose.of(Geometry::Bodies.pose(prop, frame, document))
          end
        return if poses.uniq { |pose| [pose.position, pose.turn, pose.scale] }.size > 1

        poses[0].transform.apply(spot[:place])
      end

      def seen(document, spot)
        shape = document.the(:picture).then { |picture| picture[:width].fdiv(picture[:height]) }
        frames = [spot.keyed(:x), spot.keyed(:y)].map { |curve| curve.to_a.map { |key| key[:frame] } }.reduce(:&)
        frames.to_h do |frame|
          [
            frame,
            Finish::Spots.straight(
              [spot[:x, frame] / 100.0, spot[:y, frame] / 100.0], Finish::Spots.bend(document, frame), shape
            )
          ]
        end
      end
    end
  end
end
