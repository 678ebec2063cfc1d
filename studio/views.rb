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
      VERSION = 13
      # The browser's textures are held to so many voxels, and to so many along an edge.
      MOST = 3_000_000
      LARGEST = 512

      def initialize(workshop)
        @workshop = workshop
      end

      # @return [String] a name for all that lights the smoke at a frame
      def light_key(document, frame)
        # Asked for every frame in turn; most lights stay as they are throughout.
        frame = document.first_frame unless moves?(document)
        return @light_key[2] if @light_key && @light_key[0].equal?(document) && @light_key[1] == frame

        key = Digest::SHA256.hexdigest(JSON.generate([VERSION, lighting(document, frame),
          Picture::PropScene.settings(document, frame)]))[0, 16]
        @light_key = [document, frame, key]
        key
      end

      # Does anything that lights or shapes the smoke change over time?
      def moves?(document)
        nodes = [document.look, *%i[sun lamp sky prop operation].flat_map { |kind| document.of(kind) }]
        nodes.any? { |node| Geometry::Bodies.changes?(node) } ||
          Light::Shaping.moves?(document, document.look)
      end

      # What lights the smoke; what stands behind everything and how far one sees does not.
      def lighting(document, frame)
        Light::Rig.settings(document, frame).then { |rig| rig.merge("sky" => Light::Sky.lighting(rig["sky"])) }
      end

      # @return [String] the name of the same light as it is reckoned in a hurry
      def quick_key(document, frame) = Digest::SHA256.hexdigest("quick #{light_key(document, frame)}")[0, 16]

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
      # @param head [Hash] "voxel" and "corner" of the frame
      # @param quick [Boolean] coarsely and at once; what is seen once is not packed either
      def make(key, light, bricks, head, painter, quick: false)
        medium = painter.rig.shaping.call(Light::Medium.of(bricks, head))
        medium = medium.halved while too_large?(medium.smoke.shape)
        fire = medium.fire(painter.rig)
        lit =
          quick ? medium.quick_light(painter.rig, painter.scene, fire) : medium.light(painter.rig, painter.scene, fire)
        bytes = Light::ViewVolume.encode(medium, lit, fire)
        packed = Zlib.gzip(bytes, level: quick ? 0 : 1)
        # The time of day would make other bytes of the same.
        packed[4, 4] = "\0" * 4
        @workshop.home.write(path(key, light), packed)
      end

      # Lights a frame of a shot.
      def light(document, frame, key, light) = make(key, light, *@workshop.frames.read(key), painter(document, frame))

      # One quantity of a frame for the view, see {Light::ViewVolume.channel}.
      def channel(key, name, ambient)
        unless Light::ViewVolume::SEEN.key?(name)
          raise Refused.new(
            "There is no quantity #{name.inspect[0, 40]}; there are: #{Light::ViewVolume::SEEN.keys.join(", ")}.",
            code: "bad_value"
          )
        end
        Light::ViewVolume.channel(*@workshop.frames.read(key), name, ambient)
      end

      # How often each value of a quantity is met in a frame, see {Light::Histogram.of}.
      def histogram(key, name, ambient) = Light::Histogram.of(@workshop.frames.read(key)[0], name, ambient)

      # The lamps and props that light a shot; kept while they stay the same.
      Painter = Struct.new(:rig, :scene)

      # @return [Painter]
      def painter(document, frame)
        key = light_key(document, frame)
        return @painter[1] if @painter && @painter[0] == key

        # Surfaces of sculpts shade the view as coarsely as it shows them.
        props =
          Geometry::Recipes.at(
            Picture::PropScene.those(Picture::PropScene.settings(document, frame), "casts"), draft: true
          )
        painter =
          Painter.new(
            Light::Rig.new(Light::Rig.settings(document, frame), @workshop.assets),
            Picture::PropScene.new(props, @workshop.assets, before: @painter && @painter[1].scene)
          )
        @painter = [key, painter]
        painter
      end

      private

      def too_large?(shape) = shape.max > LARGEST || shape.inject(:*) > MOST
    end
  end
end
