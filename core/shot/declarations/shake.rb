# frozen_string_literal: true

module Vumbral
  module Shot
    module Declarations
      # What makes a thing tremble or sway about where it stands.
      module Shake
        # @param kind [Kind] in the making; @param turns [Boolean] whether its turn shakes too
        def self.declare(kind, turns:, touches: :run)
          kind.instance_exec do
            group "Shake", touches: touches do
              vector :shake, "Shakes by", unit: "m", default: [0.0, 0.0, 0.0], range: 0.0..10_000.0, slider: 0.0..0.5,
                keyed: true, help: "How far it strays at most along x, y and z, as noise over time."
              if turns
                vector :shake_turn, "Turns by", unit: "°", default: [0.0, 0.0, 0.0], range: 0.0..3600.0,
                  slider: 0.0..30.0, keyed: true, help: "How far it turns at most about x, y and z."
              end
              number :shake_speed, "Shake speed", unit: "per s", default: 3.0, range: 0.0..240.0, slider: 0.0..24.0,
                help: "How often it changes its way: 1 sways, 12 trembles."
              whole :shake_octaves, "Shake octaves", default: 2, range: 1..6,
                help: "Each further one is twice as fast and half as far."
              whole :shake_seed, "Other shake", default: 1, range: 0..1_000_000, slider: 1..50,
                help: "Another number shakes otherwise."
            end
          end
        end
      end
    end
  end
end
