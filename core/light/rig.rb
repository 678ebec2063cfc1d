# frozen_string_literal: true

module Vumbral
  module Light
    # All that gives light in a shot, as the numbers that kernels take, and how smoke takes it up.
    class Rig
      attr_reader :lamps, :sky, :albedo, :thickness, :shadow, :fire, :forward, :back, :back_share

      # @param settings [Hash] from {.settings}
      def initialize(settings)
        rows = settings["lamps"]
        @lamps = Kernel::Buffer.of(:f32, rows.flatten, rows.size, 8)
        @sky = Sky.of(settings["sky"])
        @albedo = settings["albedo"]
        @thickness, @shadow, @forward, @back, @back_share = settings.values_at("thickness", "shadow", "forward", "back", "back_share")
        @fire = settings["fire"]
      end

      # @return [Kernel::Buffer] f32 [4]: how much light goes on, and the thickness for shadows
      def scatter = Kernel::Buffer.of(:f32, @albedo + [@thickness * @shadow])

      # @param document [Shot::Document]
      # @return [Hash] plain data: everything that lights the smoke at a frame
      def self.settings(document, frame)
        look, sky = document.the(:look), document.the(:sky)
        suns = document.of(:sun).map { |sun| sun_row(sun, frame) }
        {
          "lamps" => suns + document.of(:lamp).map { |lamp| lamp_row(lamp, frame) },
          "sky" => {"model" => sky[:model], "strength" => sky[:strength], "colour" => sky[:colour], "below" => sky[:below], "haze" => sky[:haze], "fade" => sky[:fade],
                    "background" => document.the(:picture)[:background], "sun" => suns[0] && suns[0][1, 3]},
          "albedo" => look[:colour], "thickness" => look[:thickness], "shadow" => look[:shadow],
          "forward" => look[:forward], "back" => look[:back], "back_share" => look[:back_share],
          "fire" => {"gain" => look[:fire, frame], "from" => look[:fire_from, frame], "offset" => look[:fire_offset, frame], "rise" => look[:fire_rise, frame],
                     "glow" => look[:glow, frame], "ambient" => document.the(:chamber)[:ambient]}
        }
      end

      def self.sun_row(sun, frame)
        around, height = [sun[:around, frame], sun[:height, frame]].map { |degrees| degrees * Math::PI / 180 }
        [0.0, Math.sin(around) * Math.cos(height), Math.sin(height),
          Math.cos(around) * Math.cos(height)] + light(sun, frame)
      end

      def self.lamp_row(lamp, frame) = [1.0, *lamp[:position, frame]] + light(lamp, frame)

      def self.light(node, frame)
        node[:colour, frame].map { |c| c * node[:strength, frame] } + [node[:shadows] ? 1.0 : 0.0]
      end
      private_class_method :sun_row, :lamp_row, :light
    end
  end
end
