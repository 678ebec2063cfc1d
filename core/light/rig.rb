# frozen_string_literal: true

module Vumbral
  module Light
    # All that gives light in a shot, as the numbers that kernels take, and how smoke takes it up.
    class Rig
      # How much of the sun's light comes through the air when it begins to fail.
      SETTING = 0.02

      attr_reader :lamps, :sky, :albedo, :thickness, :shadow, :bounces, :fire, :forward, :back, :back_share, :shaping

      # @param settings [Hash] from {.settings}
      def initialize(settings)
        rows = settings["lamps"]
        @lamps = Kernel::Buffer.of(:f32, rows.flatten, rows.size, 8)
        @sky = Sky.of(settings["sky"])
        @albedo = settings["albedo"]
        @thickness, @shadow, @forward, @back, @back_share = settings.values_at("thickness", "shadow", "forward",
          "back", "back_share")
        @bounces, @lamplight, @fire = settings.values_at("bounces", "lamplight", "fire")
        @shaping = Shaping.new(settings["shape"], @fire["ambient"])
      end

      # @return [Kernel::Buffer] the lamps as smoke shows them, by the look's own strength for them
      def smoke_lamps
        @smoke_lamps ||= @lamps.copy.tap { |lamps|
          lamps.dim(0).times { |n| (4..6).each { |c| lamps[n, c] *= @lamplight } }
        }
      end

      # @return [Kernel::Buffer] the sky as smoke shows it
      def smoke_sky = @smoke_sky ||= @sky.copy.tap { |sky| 6.times { |c| sky[c] *= @lamplight } }

      # As kernels take it: how much light goes on (red, green, blue), thickness for shadows, and how much
      # of that thickness light that was scattered sees.
      # @return [Kernel::Buffer] f32 [5]
      def scatter = @scatter ||= Kernel::Buffer.of(:f32, @albedo + [@thickness * @shadow, thinner])

      # @return [Float] the mean cosine of the way light goes on, -1 to 1
      def ahead = (1.0 - @back_share) * @forward + @back_share * @back

      # @return [Float] how much of its thickness smoke has for light that was scattered
      def thinner = 1.0 - @albedo.sum / 3.0 * ahead

      # @return [Float] thickness of the smoke's shadows, for light that was scattered
      def soft_thickness = @thickness * @shadow * thinner

      # @return [Array<Float>] how much of light that was scattered goes on in that thinner smoke
      def soft_albedo = @albedo.map { |a| a * (1.0 - ahead) / (1.0 - a * ahead) }

      # @param document [Shot::Document]
      # @return [Hash] plain data: everything that lights the smoke at a frame
      def self.settings(document, frame)
        look, sky = document.look, document.the(:sky)
        suns = document.of(:sun).map { |sun| sun_row(sun, frame, sky[:haze]) }
        ambient = document.the(:chamber)[:ambient]
        {
          "lamps" => suns + document.of(:lamp).map { |lamp| lamp_row(document, lamp, frame) },
          "sky" => {"model" => sky[:model], "strength" => sky[:strength], "colour" => sky[:colour],
                    "below" => sky[:below], "haze" => sky[:haze], "fade" => sky[:fade],
                    "background" => document.the(:picture)[:background], "sun" => suns[0] && suns[0][1, 3]},
          "albedo" => look[:colour], "fire" => Fire.settings(look, frame, ambient),
          "shape" => Shaping.settings(document, look, frame),
          **%i[thickness shadow lamplight bounces forward back back_share].to_h { |dial|
            [dial.to_s, look[dial,
              frame]]
          }
        }
      end

      def self.sun_row(sun, frame, haze)
        around, height = [sun[:around, frame], sun[:height, frame]].map { |degrees| degrees * Math::PI / 180 }
        # Half of its width, as the tangent; below nothing, so that nobody takes it for a lamp's.
        [-Math.tan(sun[:size, frame] * Math::PI / 360), Math.sin(around) * Math.cos(height), Math.sin(height),
          Math.cos(around) * Math.cos(height)] + aired(light(sun, frame), sun[:aired] && Math.sin(height), haze)
      end

      # A sun's light as the air colours it, as strong as before but where it sets.
      def self.aired(light, height, haze)
        return light unless height

        left = Atmosphere.sunlight(haze, height)
        full = [left.zip([0.2126, 0.7152, 0.0722]).sum { |c, share| c * share }, SETTING].max
        light.zip(left + [full]).map { |c, part| c * part / full }
      end

      def self.lamp_row(document, lamp, frame) = [1.0, *Geometry::Hanging.point(document, lamp, :position, frame)] + light(lamp, frame)

      def self.light(node, frame)
        node[:colour, frame].map { |c| c * node[:strength, frame] } + [node[:shadows] ? 1.0 : 0.0]
      end
      private_class_method :sun_row, :aired, :lamp_row, :light
    end
  end
end
