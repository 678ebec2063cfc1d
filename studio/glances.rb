# frozen_string_literal: true

require "digest"
require "json"

module Vumbral
  module Studio
    # Pictures while one looks: as a print would be, but of any size and through the view's own eye, coarse first. They
    # are kept for a while and are no prints.
    class Glances
      KEPT = 80
      SIZES = (16..1920)
      # Narrower ones are there to be quick, pixels.
      COARSE = 200

      def initialize(workshop)
        @workshop = workshop
      end

      # Asks for one; what was asked for before and has not begun is not wanted any more.
      # @param eye [Hash, nil] "position", "target", "focal" (mm) and perhaps "roll" (degrees) instead of the shot's
      #   camera
      # @param crop [Array<Float>, nil] only this part (left, top, right, bottom, 0 to 1), which is as large as `size`
      #   says
      # @param shown [Hash, nil] "key" of the gas that a view shows already, or nothing there; without it what is best
      # @return [String, Integer] the name of one that is there, or the job that makes it
      # @raise [Refused]
      def ask(shot_id, frame, size, eye = nil, crop = nil, shown: nil)
        checked(size, eye)
        Pixels.part(crop)
        document = @workshop.shots.document(shot_id)
        frame = frame.clamp(document.first_frame, document.last_frame)
        key = shown ? held(shown["key"]) : best(shot_id, frame)
        payload = {
          "frame" => frame, "key" => key, "size" => size, "eye" => eye, "crop" => crop, "document" => document.to_json
        }
        name = Digest::SHA256.hexdigest(JSON.generate([Views::VERSION, payload]))[0, 24]
        return name if File.exist?(path(shot_id, name))

        @workshop.jobs.cancel_of(shot_id, kind: "glance")
        @workshop.jobs.add("glance", shot_id, payload.merge("name" => name))
      end

      # @return [String] the PNG's place
      def path(shot_id, name)
        unless name.to_s.match?(/\A[0-9a-f]{24}\z/)
          raise Refused.new("That is not the name of a picture.", code: "bad_path")
        end

        @workshop.home.within("glances", shot_id, "#{name}.png")
      end

      # Makes one. @param asked [Hash] as {#ask} put it in the queue
      # @return [String] its name
      def make(shot_id, asked)
        document = @workshop.shots.read(asked["document"])
        pixels =
          @workshop.painting.glance(
            document, asked["frame"], asked["key"], asked["size"], eye: asked["eye"], crop: asked["crop"],
            coarse: asked["size"][0] < COARSE && !asked["crop"]
          )
        @workshop.home.write(path(shot_id, asked["name"]), Pixels.png(pixels))
        @workshop.home.thin(@workshop.home.within("glances", shot_id, "*.png"), KEPT)
        asked["name"]
      end

      private

      def best(shot_id, frame) =
        @workshop.runs.there(shot_id).include?(frame) ? @workshop.runs.best(shot_id, frame)[1] : nil

      # What a view shows may have been let go meanwhile.
      def held(key) = (key.is_a?(String) && @workshop.frames.frame?(key)) ? key : nil

      def checked(size, eye)
        unless size.is_a?(Array) && size.size == 2 && size.all? { |n| n.is_a?(Integer) && SIZES.cover?(n) }
          raise Refused.new(
            "A picture to look at has #{SIZES.begin} to #{SIZES.end} pixels each way, not " \
              "#{Array(size).join(" × ")[0, 40]}.",
            code: "out_of_range"
          )
        end
        return if eye.nil?

        places = eye.values_at("position", "target") if eye.is_a?(Hash)
        whole =
          places&.all? do |place|
            place.is_a?(Array) && place.size == 3 && place.all? { |c| c.is_a?(Numeric) && c.to_f.finite? }
          end
        if whole && eye["focal"].is_a?(Numeric) && eye["focal"].between?(1.0, 5000.0) &&
            (eye["roll"].nil? || eye["roll"].is_a?(Numeric))
          return
        end

        raise Refused.new(
          "The eye of a picture is told by its position, its target and its focal length.", code: "bad_value"
        )
      end
    end
  end
end
