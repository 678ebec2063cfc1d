# frozen_string_literal: true

require "json"

module Vumbral
  module Studio
    # What a new shot begins with.
    module Starters
      ALL = {
        "plume" => "Smoke that rises and rolls from an object",
        "fire" => "A fire that burns on an object",
        "burst" => "A charge that goes off on the ground",
        "jet" => "Hot gas thrown sideways from a nozzle",
        "fog" => "Cold mist that creeps over the ground",
        "plunge" => "A ball that falls into a trough of water",
        "kick" => "Water thrown up in the shape of a ring",
        "pour" => "A stream that fills a bowl and runs over",
        "fill" => "A closed vase that fills from inside",
        "beam" => "A lamp's beam on an object in the dark; nothing to run",
        "empty" => "A chamber on a ground in the sun, and nothing in it"
      }.freeze
      # Those that need no run, for nothing feeds in them.
      STILL = %w[beam empty].freeze
      # A mesh that is brought along is made this large, metres; a small fire flickers fast.
      FITS = Hash.new(0.9).merge("fire" => 0.22).freeze

      HABITS = File.join(__dir__, "starter_habits.json")

      module_function

      # @return [Hash{String => Array(Float, Float)}] what starters use of their chamber and how many substeps they
      #   take, as `bin/starter-pictures` has measured
      def habits = @habits ||= JSON.parse(File.read(HABITS))

      # @param mesh [Array(String, Hash, String), nil] digest, facts and file name of what becomes the source
      # @return [Shot::Document]
      def build(starter, name, mesh = nil)
        unless ALL.key?(starter)
          raise Refused.new("There is no starter #{starter.to_s[0, 40].inspect}; there are: #{ALL.keys.join(", ")}.",
            code: "unknown_starter")
        end

        Shot::Edits.apply(bare(name), edits(starter, mesh))[0]
      end

      # A chamber and a sun, to build anything on.
      # @return [Shot::Document]
      def bare(name) = Shot::Edits.apply(Shot::Document.blank(name), [add("sun", "Sun")])[0]

      def edits(starter, mesh)
        own, brought = OWN[starter], mesh && fitted(*mesh, FITS[starter])
        return ground_and_day + Waters.edits(starter, brought) if Waters::ALL.include?(starter)

        prop = [brought || (own && add("prop", *own))].compact
        prop + ground_and_day + ((starter == "empty") ? [] : send(starter, mesh))
      end

      def ground_and_day = [ground] + day

      def ground
        add(
          "prop", "Ground", "ground", "shape" => "plane", "size" => [4000.0, 1.0, 4000.0],
          "colour" => [0.13, 0.112, 0.092], "uneven" => 0.75, "uneven_size" => 0.9, "stones" => 0.5,
          "stone_size" => 0.07
        ).merge("locked" => true)
      end

      # The object that each starter brings itself.
      OWN = {
        "beam" => ["Pot", "prop-1", {"shape" => "torus", "radius" => 0.28, "tube" => 0.16,
                                     "position" => [0.0, 0.16, 0.0]}],
        "plume" => ["Ember bowl", "prop-1", {"shape" => "sphere", "radius" => 0.22, "position" => [0.0, 0.22, 0.0]}],
        "fire" => ["Fire bed", "prop-1", {
          "shape" => "cylinder", "radius" => 0.085, "tall" => 0.03, "position" => [0.0, 0.005, 0.0],
          "colour" => [0.1, 0.08, 0.07]
        }],
        "burst" => ["Charge", "prop-1", {
          "shape" => "sphere", "radius" => 0.3, "position" => [0.0, 0.35, 0.0], "shown" => false
        }],
        "jet" => ["Nozzle", "prop-1", {
          "shape" => "cylinder", "radius" => 0.11, "tall" => 0.3, "position" => [-1.3, 0.75, 0.0],
          "turn" => [0.0, 0.0, -90.0], "colour" => [0.06, 0.06, 0.065]
        }],
        "fog" => ["Mist bed", "prop-1", {
          "shape" => "box", "size" => [1.2, 0.16, 3.4], "position" => [-1.75, 0.1, -0.1], "shown" => false
        }]
      }.freeze

      def plume(mesh)
        [source("Plume", "from" => mesh ? "surface" : "inside", "temperature" => 640.0, "breakup" => 0.7,
          "breakup_size" => 0.12, "breakup_speed" => 3.0)] +
          set("chamber", "size" => [3.0, 3.8, 3.0], "voxel" => 0.024, "draft" => 2.2, "weight" => 0.08,
            "stir" => 0.15) +
          finer(1.6, 6.0, "both") + set("detail", "sharpen" => 1.0) +
          set("look", "thickness" => 110.0, "colour" => [0.84, 0.83, 0.82], "shadow" => 1.0) +
          set("camera", "position" => [0.0, 1.1, 7.4], "target" => [0.0, 1.55, 0.0])
      end

      # A bed of a sixth of a metre puffs three and a half times a second (1.5 over the root of its width: Cetegen &
      # Ahmed 1993), and its gas goes 2.2 times as fast.
      def fire(mesh)
        [source("Fire", "from" => mesh ? "surface" : "inside", "smoke" => 0.0, "fuel" => 14.0,
          "temperature" => 1150.0, "breakup" => 0.9, "breakup_size" => 0.05, "breakup_speed" => 10.0)] +
          set("chamber", "size" => [0.5, 0.8, 0.5], "voxel" => 0.005, "draft" => 2.2, "time_scale" => 2.2,
            "curl_boost" => 0.5, "stir" => 1.2, "stir_size" => 0.08, "stir_speed" => 10.0, "burn_rate" => 10.0,
            "burn_heat" => 1350.0, "burn_smoke" => 0.2, "burn_swell" => 1.6, "cooling" => 2400.0,
            "smoke_fade" => 0.14, "heat_fade" => 0.38, "substeps_most" => 4) +
          finer(0.9, 4.0) + dusk + set("sky", "strength" => 0.07) + set("picture", "exposure" => 1.0) +
          set("look", "thickness" => 60.0, "colour" => [0.08, 0.075, 0.07], "fire" => 14.0, "fire_from" => 850.0,
            "fire_offset" => 400.0, "fire_rise" => 4.0, "glow" => 14.0) +
          set("ground", "uneven_size" => 0.35, "stone_size" => 0.03) +
          set("camera", "position" => [0.0, 0.29, 1.42], "target" => [0.0, 0.3, 0.0])
      end

      def burst(_mesh)
        [source("Charge", "from" => "inside", "smoke" => 4.0, "fuel" => 42.0, "temperature" => 1600.0,
          "push" => 10.0, "breakup" => 0.8, "breakup_size" => 0.2, "along" => 4.0, "rough" => 9.0, "first" => 4,
          "last" => 9, "copies" => 4, "step_frames" => 1.0, "step_place" => [0.17, 0.05, -0.08], "vary" => 0.5)] +
          set("general", "last" => 90) + set("prop-1", "position" => [-0.25, 0.3, 0.1]) +
          set("chamber", "size" => [5.0, 5.6, 5.0], "voxel" => 0.042, "draft" => 2.0, "front" => 60.0,
            "curl_boost" => 0.5, "stir" => 1.5, "stir_size" => 0.55, "stir_octaves" => 3, "burn_rate" => 9.0,
            "burn_heat" => 1150.0, "burn_smoke" => 2.4, "burn_swell" => 2.2, "cooling" => 2200.0, "shield" => 10.0,
            "heat_fade" => 0.25, "weight" => 0.15, "substeps_least" => 2, "substeps_most" => 6) +
          finer(2.5, 3.0, "both") + set("look", Shot::Looks.fetch("fireball").dials) +
          # What is left of it has form on its shadow side too.
          set("look", "colour" => [0.42, 0.4, 0.38]) + set("picture", "contrast" => 1.15) +
          set("camera", "position" => [0.0, 1.3, 10.6], "target" => [0.0, 1.95, 0.0])
      end

      def jet(mesh)
        # What leaves the nozzle leaves it at its mouth.
        mouth = mesh ? [] : [add("prop", "Mouth", "mouth", "shape" => "cylinder", "radius" => 0.1, "tall" => 0.24,
          "position" => [-1.06, 0.75, 0.0], "turn" => [0.0, 0.0, -90.0], "shown" => false)]
        mouth + [source("Jet", "prop" => mesh ? "prop-1" : "mouth", "from" => "inside", "smoke" => 0.6,
          "fuel" => 46.0, "temperature" => 1500.0, "velocity" => [17.0, 0.3, 0.0], "rough" => 4.0, "breakup" => 0.85,
          "breakup_size" => 0.12, "breakup_speed" => 12.0)] +
          set("chamber", "position" => [0.4, 0.0, 0.0], "size" => [4.0, 2.2, 1.7], "voxel" => 0.02, "draft" => 2.2,
            "lift" => 0.4, "curl_boost" => 0.5, "stir" => 2.4, "stir_size" => 0.3, "stir_speed" => 4.0,
            "burn_rate" => 12.0, "burn_heat" => 1500.0, "burn_smoke" => 0.25, "burn_swell" => 1.5,
            "cooling" => 700.0, "air" => 0.3, "smoke_fade" => 0.58, "heat_fade" => 0.99, "substeps_least" => 2,
            "substeps_most" => 8) +
          finer(1.8, 4.0) + dusk + set("look", "thickness" => 12.0, "colour" => [0.08, 0.075, 0.07], "fire" => 26.0,
            "fire_from" => 850.0, "fire_offset" => 400.0, "fire_rise" => 5.0, "glow" => 2.5) +
          set("camera", "position" => [0.5, 1.0, 5.4], "target" => [0.45, 0.85, 0.0])
      end

      def fog(_mesh)
        [source("Mist", "from" => "inside", "smoke" => 1.6, "temperature" => 262.0, "breakup" => 0.95,
          "breakup_size" => 0.45, "breakup_speed" => 0.8, "velocity" => [1.1, 0.0, 0.0], "speed_as" => "add"),
          add("force", "Air from the left", "force-1", "what" => "wind", "strength" => 0.55,
            "direction" => [1.0, 0.0, 0.1], "grip" => 0.8),
          stone("Tall stone", "stone", 0.17, 0.95, [0.35, -0.45], 9.0),
          stone("Leaning stone", "stone-2", 0.13, 0.7, [-0.5, -0.15], -13.0),
          stone("Low stone", "stone-3", 0.2, 0.42, [1.05, 0.2], 4.0)] +
          set("general", "last" => 120) +
          set("chamber", "size" => [5.0, 1.2, 3.8], "voxel" => 0.022, "draft" => 2.0, "weight" => 1.3, "stir" => 0.12,
            "stir_size" => 0.4, "curl_boost" => 0.25, "smoke_fade" => 0.06, "heat_fade" => 0.12) +
          morning +
          set("look", "thickness" => 4.0, "colour" => [0.97, 0.97, 0.97], "forward" => 0.55, "shadow" => 1.0) +
          set("camera", "position" => [0.1, 0.62, 3.4], "target" => [0.1, 0.42, 0.0])
      end

      def beam(mesh)
        made = mesh ? [] : [{"do" => "take_material", "node" => "prop-1", "material" => "glazed-clay"}]
        made +
          [
            {"do" => "take_material", "node" => "ground", "material" => "plaster"},
            add(
              "lamp", "Spot", "spot", "as" => "spot", "position" => [-0.85, 2.2, 0.55], "target" => [0.0, 0.16, 0.0],
              "cone" => 32.0, "soft" => 0.3, "strength" => 60.0, "kelvin" => "kelvin", "temperature" => 3500.0,
              "radius" => 0.07, "beam" => 0.07, "beam_soft" => 0.6
            ),
            add(
              "prop", "Lamp's hood", "hood", "shape" => "cylinder", "radius" => 0.09, "tall" => 0.26,
              "position" => [-0.9, 2.31, 0.58], "turn" => [14.5, 0.0, 23.6], "colour" => [0.25, 0.25, 0.26],
              "metal" => 0.9, "shine" => 0.6
            ),
            add(
              "lamp", "Rim", "rim", "as" => "area", "position" => [2.4, 2.2, -1.9], "target" => [0.0, 0.2, 0.0],
              "wide" => 1.4, "high" => 1.2, "strength" => 14.0, "lights" => "props", "colour" => [0.45, 0.65, 1.0]
            ),
            add(
              "texture", "Drifting dust", "dust", "what" => "noise", "size" => 0.45, "octaves" => 2, "contrast" => 2.6,
              "stretch" => [1.6, 1.0, 1.6], "drift" => [0.09, 0.03, 0.04], "change" => 0.12
            ),
            add(
              "fog", "Haze", "haze", "thickness" => 0.14, "course" => "low", "level" => 1.4, "thins" => 1.2,
              "reach" => 30.0, "forward" => 0.1, "texture" => "dust", "textured" => 0.85
            )
          ] + set("ground", "colour" => [0.13, 0.12, 0.115]) + set("sun-1", "strength" => 0.0) +
          set("sky", "model" => "even", "strength" => 0.09, "colour" => [0.45, 0.65, 1.0], "fade" => 0.0, "hills" => 0.0) +
          set("picture", "behind" => "colour", "background" => [0.0012, 0.0014, 0.002], "exposure" => 0.7) +
          set("camera", "position" => [0.3, 1.5, 5.3], "target" => [-0.22, 1.17, 0.0])
      end

      def stone(name, id, radius, tall, (x, z), lean)
        add("prop", name, id, "shape" => "cylinder", "radius" => radius, "tall" => tall,
          "position" => [x, 0.5 * tall - 0.04, z], "turn" => [0.5 * lean, 0.0, lean], "collider" => true,
          "colour" => [0.17, 0.16, 0.15], "uneven" => 1.0, "uneven_size" => 0.22)
      end

      # An open field in the sun.
      def day
        set("sun-1", "strength" => 8.0, "colour" => [1.0, 0.96, 0.91], "around" => 108.0, "height" => 24.0) +
          set("sky", "model" => "clear", "strength" => 0.5, "colour" => [1.0, 1.0, 1.0], "haze" => 1.8,
            "fade" => 90.0, "hills" => 4.0) +
          set("picture", "behind" => "sky", "exposure" => 0.15, "contrast" => 1.25)
      end

      # The sun low behind, all things in its light.
      def morning
        set("sun-1", "strength" => 4.2, "colour" => [1.0, 1.0, 1.0], "aired" => true, "around" => 140.0,
          "height" => 7.0) +
          set("sky", "strength" => 0.6, "haze" => 2.6, "fade" => 200.0) +
          set("picture", "exposure" => -0.25, "contrast" => 1.1, "warmth" => 6800.0)
      end

      # Drafts alone then show about what a full run does.
      def finer(strength, scale, runs = "draft")
        set("detail", "on" => true, "runs" => runs, "strength" => strength, "scale" => scale)
      end

      # The sun has just set, and a fire shows, on ground that shows its light.
      def dusk
        set("sun-1", "aired" => true, "around" => 165.0, "height" => -5.0) +
          set("sky", "strength" => 0.14, "haze" => 2.2, "fade" => 120.0) + set("picture", "exposure" => 0.0) +
          set("ground", "colour" => [0.2, 0.17, 0.14])
      end

      def source(name, dials) = add("source", name, "source-1", {"prop" => "prop-1"}.merge(dials))

      def add(kind, name, id = nil, dials = {})
        {"do" => "add", "kind" => kind, "name" => name, "dials" => dials}.merge(id ? {"id" => id} : {})
      end

      def set(node, dials)
        dials.map { |dial, value| {"do" => "set", "node" => node, "dial" => dial, "value" => value} }
      end

      # The mesh scaled to fit and standing on the ground in the middle.
      def fitted(digest, facts, file, size)
        low, high = facts.values_at("low", "high")
        span = low.zip(high).map { |a, b| b - a }.max
        scale = size / span
        middle = low.zip(high).map { |a, b| 0.5 * (a + b) }
        dials = {
          "shape" => "mesh", "mesh" => digest, "scale" => [scale] * 3,
          "position" => [-middle[0] * scale, -low[1] * scale, -middle[2] * scale]
        }
        dials["plays"] = true if facts["frames"].to_i > 1
        add("prop", File.basename(file, ".*").tr("_", " ").capitalize[0, 80], "prop-1", dials)
      end
      private_class_method :edits,
        :ground,
        :ground_and_day,
        :plume,
        :fire,
        :burst,
        :jet,
        :fog,
        :beam,
        :stone,
        :day,
        :morning,
        :dusk,
        :source,
        :add,
        :set,
        :fitted
    end
  end
end
