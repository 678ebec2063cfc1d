# frozen_string_literal: true

module Vumbral
  module Gas
    # How a gas behaves, at one moment. Units: ambient K; lift 1; weight m/s² for each unit of smoke, of
    # fuel; outward, spread and viscosity m²/s; curl_boost 1; stir m²/s³, stir_cells cells a swirl,
    # stir_speed changes a second; fading per s; burning: ignite K, burn_rate and flame (length), burn_heat
    # K, burn_smoke and burn_swell (1) for each unit of fuel, cooling K/s at 1000 K above, shield per metre
    # of smoke of density 1; air: volumes that a unit of fuel needs, 0 for the simple way; front m²/s³,
    # front_cells cells a fold.
    CALM = {
      ambient: 293.0, lift: 0.0, weight: 0.0, fuel_weight: 0.0, outward: 0.0, smoke_spread: 0.0,
      heat_spread: 0.0, curl_boost: 0.0, curl_mask: "everywhere", stir: 0.0, stir_cells: 8.0,
      stir_speed: 1.0, stir_octaves: 2, stir_mask: "content", seed: 1, smoke_fade: 0.0, heat_fade: 0.0,
      fuel_fade: 0.0, viscosity: 0.0, ignite: 600.0, burn_rate: 0.0, flame: 1.0, burn_heat: 0.0,
      burn_smoke: 0.0, burn_swell: 0.0, soot: nil, cooling: 0.0, shield: 0.0, air: 0.0, front: 0.0,
      front_cells: 6.0, accuracy: 1e-4, substeps_least: 1, substeps_most: 1, cells_a_substep: 4.0,
      sharp: true
    }.freeze

    Settings = Struct.new(*CALM.keys, keyword_init: true) do
      # A gas in which nothing goes on, but for what is given.
      # @return [Settings]
      def self.calm(**changes) = new(**CALM, **changes)

      # @return [Settings] with some changed
      def with(**changes) = Settings.new(**to_h, **changes)

      # Upward acceleration of gas that weighs nothing, m/s².
      def buoyancy = Settings::GRAVITY * lift

      # @param time [Float] seconds that the gas has gone
      # @return [Flow::Stirring] its turbulence
      def stirring(time)
        Flow::Stirring.new(power: stir, cells: stir_cells, time: time * stir_speed, seed: seed, octaves: stir_octaves,
          mask: stir_mask)
      end

      # @param front [Kernel::Buffer] where the gas swells, 0 to 1
      # @return [Flow::Stirring] what breaks up that front
      def tearing(time, front)
        Flow::Stirring.new(power: self.front, cells: front_cells, time: time * stir_speed, seed: seed + 17, octaves: 2,
          mask: "everywhere", falloff: front)
      end
    end
    Settings::GRAVITY = 9.81
  end
end
