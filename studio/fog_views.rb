# frozen_string_literal: true

require "digest"
require "json"
require "zlib"

module Vumbral
  module Studio
    # Fogs and beams made ready for the browser, each under the key of all that they depend on. Compressed as HTTP sends
    # them.
    class FogViews
      KEPT = 40

      def initialize(workshop)
        @workshop = workshop
      end

      # Asks for those of a frame; what was asked for before and has not begun is not wanted any more.
      # @return [String, Integer, nil] the name of what is there, or the job that makes it; nothing where there is no
      #   fog
      # @raise [Refused]
      def ask(shot_id, frame)
        document = @workshop.shots.document(shot_id)
        frame = frame.clamp(document.first_frame, document.last_frame)
        settings = Picture::HazeView.needs(Picture::Renderer.settings(document, frame))
        return if settings["haze"]["veils"].empty?

        name = Digest::SHA256.hexdigest(JSON.generate([Views::VERSION, settings]))[0, 24]
        return name if File.exist?(path(name))

        @workshop.jobs.cancel_of(shot_id, kind: "fog")
        @workshop.jobs.add("fog", shot_id, {name: name, frame: frame, document: document.to_json})
      end

      # @return [String] where the file stands
      def path(name)
        unless name.to_s.match?(/\A[0-9a-f]{24}\z/)
          raise Refused.new("That is not the name of a fog.", code: "bad_path")
        end

        @workshop.home.within("fogs", "#{name}.gz")
      end

      # Makes one. @param asked [Hash] as {#ask} put it in the queue
      # @return [String] its name
      def make(asked)
        settings = Picture::Renderer.settings(@workshop.shots.read(asked["document"]), asked["frame"])
        @workshop.home.write(
          path(asked["name"]), Zlib.gzip(Picture::HazeView.encode(settings, @workshop.assets), level: 1)
        )
        @workshop.home.thin(@workshop.home.within("fogs", "*.gz"), KEPT)
        asked["name"]
      end
    end
  end
end
