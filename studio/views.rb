# frozen_string_literal: true

require "digest"
require "json"
require "zlib"

module Vumbral
  module Studio
    # Frames made ready for the browser: lit by the shot's lamps and reduced to eight bits, each
    # under the keys of the frame and of the light. Compressed as HTTP sends them.
    class Views
      # Part of every file's name: raise it when what is in them changes.
      VERSION = 2
      # The browser's textures are held to this many voxels along an edge.
      LARGEST = 128

      def initialize(workshop)
        @workshop = workshop
      end

      # @return [String] a name for all that lights the smoke at a frame
      def light_key(document, frame)
        # Asked for every frame in turn; most lights stay as they are throughout.
        frame = document.first_frame unless %i[sun lamp look sky].any? { |kind| document.of(kind).any? { |node| node.notches.any? } }
        return @light_key[2] if @light_key && @light_key[0].equal?(document) && @light_key[1] == frame

        key = Digest::SHA256.hexdigest(JSON.generate([VERSION, Light::Rig.settings(document, frame), Light::PropScene.settings(document)]))[0, 16]
        @light_key = [document, frame, key]
        key
      end

      def made?(key, light) = File.exist?(path(key, light))

      # @return [String] where the file stands
      # @raise [Refused]
      def path(key, light)
        unless key.to_s.match?(/\A[0-9a-f]{32}\z/) && light.to_s.match?(/\A[0-9a-f]{16}\z/)
          raise Refused.new("That is not the key of a frame.", code: "bad_path")
        end
        @workshop.home.within("views", key[0, 2], "#{key}-#{light}.gz")
      end

      # Lights one frame and keeps it.
      # @param painter [Painter] what lights it
      def make(key, light, bricks, voxel, corner, painter)
        smoke, heat = bricks.field(:smoke), bricks.field(:heat)
        while smoke.shape.max > LARGEST
          smoke, heat = [smoke, heat].map { |field| Grid::Coarsening.half(field) }
          voxel *= 2.0
        end
        glow = Light::Medium.new(smoke, voxel, corner).light(painter.rig, painter.scene)
        bytes = Light::ViewVolume.encode(smoke, heat, glow, voxel: voxel, corner: corner)
        @workshop.home.write(path(key, light), Zlib.gzip(bytes, level: 1))
      end

      # The lamps and props that light a shot; kept while they stay the same.
      Painter = Struct.new(:rig, :scene)

      # @return [Painter]
      def painter(document, frame)
        key = light_key(document, frame)
        return @painter[1] if @painter && @painter[0] == key

        painter = Painter.new(Light::Rig.new(Light::Rig.settings(document, frame)),
          Light::PropScene.new(Light::PropScene.settings(document), @workshop.assets))
        @painter = [key, painter]
        painter
      end
    end
  end
end
