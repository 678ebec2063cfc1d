# frozen_string_literal: true

module Vumbral
  module Shot
    # Looks that ship: whole looks by name, each of them dials that differ from the defaults.
    module Looks
      # What is applied by a name. @!attribute label [String]; @!attribute help [String]; @!attribute dials [Hash]
      Ready = Struct.new(:label, :help, :dials)

      # What does not glow.
      COLD = {"fire" => 0.0}.freeze
      GAS = {"colours" => [[600.0, [0.02, 0.1, 1.0]], [1250.0, [0.12, 0.34, 1.0]], [1500.0, [0.6, 0.55, 0.9]],
        [1750.0, [1.0, 0.62, 0.25]]],
             "strength" => [[500.0, 0.0], [900.0, 0.35], [1350.0, 0.5], [1750.0, 3.0]]}.transform_values { |rows|
        rows.map { |at, value| {"at" => at, "value" => value, "pass" => "smooth"} }
      }.freeze

      # Soot beside fire is darker than what has cooled.
      SOOT = [[420.0, 1.0], [800.0, 0.28]]
        .map { |at, value| {"at" => at, "value" => [value] * 3, "pass" => "smooth"} }.freeze

      ALL = {
        "oil-smoke" => Ready.new("Thick oil smoke", "Black, dense and folded; what burns in it shows only in gaps.",
          {"thickness" => 70.0, "colour" => [0.13, 0.122, 0.115], "shadow" => 1.0, "forward" => 0.4, "edge" => 0.4,
           "fire" => 30.0, "fire_from" => 900.0, "fire_offset" => 400.0, "fire_rise" => 5.0, "glow" => 0.2}),
        "wood-smoke" => Ready.new("Wood smoke", "Blue-grey and light, as from a chimney or a camp fire.",
          {"thickness" => 24.0, "colour" => [0.72, 0.745, 0.78], "shadow" => 0.9, "forward" => 0.4, "fire" => 14.0,
           "fire_from" => 850.0, "fire_offset" => 400.0, "fire_rise" => 5.0, "glow" => 0.5}),
        "steam" => Ready.new("Steam", "White and soft; it glows against the light.",
          {"thickness" => 16.0, "colour" => [0.985, 0.985, 0.985], "shadow" => 0.8, "forward" => 0.6,
           "back" => -0.15, "back_share" => 0.25, "edge" => -0.2}.merge(COLD)),
        "dust" => Ready.new("Dust", "Dry earth thrown up, warm and dull.",
          {"thickness" => 30.0, "colour" => [0.74, 0.58, 0.41], "shadow" => 1.0, "forward" => 0.25,
           "edge" => 0.2}.merge(COLD)),
        "gas-flame" => Ready.new("Gas flame", "Blue where it is lean, with a yellow heart, and next to no smoke.",
          {"thickness" => 2.0, "colour" => [0.6, 0.6, 0.62], "fire_by" => "heat_ramp", "fire" => 7.0,
           "fire_heat_colours" => GAS["colours"], "fire_heat_strength" => GAS["strength"], "glow" => 0.5}),
        "wood-fire" => Ready.new("Wood fire", "Yellow tongues with orange tips over thin grey smoke.",
          {"thickness" => 20.0, "colour" => [0.3, 0.29, 0.28], "fire" => 14.0, "fire_from" => 850.0,
           "fire_offset" => 400.0, "fire_rise" => 5.0, "glow" => 0.5}),
        "fireball" => Ready.new("Fuel fireball", "White-hot folds between lobes of black soot.",
          {"thickness" => 115.0, "colour" => [0.36, 0.34, 0.32], "coloured_by" => "heat", "heat_ramp" => SOOT,
           "shadow" => 0.6, "fire" => 720.0, "fire_from" => 1020.0, "fire_offset" => 450.0, "fire_rise" => 4.0,
           "glow" => 0.04}),
        "haze" => Ready.new("Haze", "So thin that only beams of light show it.",
          {"thickness" => 1.2, "colour" => [0.95, 0.955, 0.96], "shadow" => 0.6, "forward" => 0.5,
           "edge" => -0.5}.merge(COLD)),
        "cold-mist" => Ready.new("Cold mist", "Low, pale and even, with soft edges.",
          {"thickness" => 5.0, "colour" => [0.93, 0.94, 0.96], "shadow" => 0.6, "forward" => 0.45,
           "edge" => -0.3}.merge(COLD)),
        "cloud" => Ready.new("Cloud", "White, dense and crisp, bright on one side and blue on the other.",
          {"thickness" => 80.0, "colour" => [0.995, 0.995, 0.995], "shadow" => 1.0, "forward" => 0.65,
           "back" => -0.3, "back_share" => 0.3, "edge" => 0.6}.merge(COLD))
      }.freeze

      # @return [Ready] @raise [Refused] for a name that is none, with those that are
      def self.fetch(name)
        ALL[name] ||
          raise(
            Refused.new(
              "There is no look #{name.to_s[0, 40].inspect}; there are: #{ALL.keys.join(", ")}.", code: "unknown_look"
            )
          )
      end

      # @return [Array<Hash>] as plain data, for whoever shows them
      def self.to_a = ALL.map { |name, look| {name: name, label: look.label, help: look.help} }
    end
  end
end
