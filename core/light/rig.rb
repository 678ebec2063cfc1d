# frozen_string_literal: true

module Vumbral
  module Light
    # All that gives light in a shot, as the numbers that kernels take, and how smoke takes it up.
    class Rig
      attr_reader :lamps, :sky, :albedo, :thickness, :shadow, :fire

      # @param settings [Hash] from {.settings}
      def initialize(settings)
        rows = settings["lamps"]
        @lamps = Kernel::Buffer.of(:f32, rows.flatten, rows.size, 8)
        @sky = Kernel::Buffer.of(:f32, settings["sky"])
        @albedo = Kernel::Buffer.of(:f32, settings["albedo"])
        @thickness = settings["thickness"]
        @shadow = settings["shadow"]
        @fire = settings["fire"]
      end

      # @param document [Shot::Document]
      # @return [Hash] plain data: everything that lights the smoke at a frame
      def self.settings(document, frame)
        look, sky = document.the(:look), document.the(:sky)
        {
          "lamps" => document.of(:sun).map { |sun| sun_row(sun, frame) } + document.of(:lamp).map { |lamp| lamp_row(lamp, frame) },
          # Even light of radiance 1/4π from everywhere lights a white sheet like a strength of 1.
          "sky" => sky[:colour].map { |c| c * sky[:strength] / (4 * Math::PI) * 2.0 },
          "albedo" => look[:colour], "thickness" => look[:thickness], "shadow" => look[:shadow],
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
