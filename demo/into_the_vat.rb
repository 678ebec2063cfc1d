# frozen_string_literal: true

module Vumbral
  module Demo
    # A lidded lantern sinks into a vat of glaze: it comes fast and slows, and on its way down the raw one becomes the
    # glazed one. In the finish the two fade into each other, a splash lies over them under a wide soft mask, and all
    # from black: specks, a glow about the lantern alone, a flare on its spot, darker corners.
    module IntoTheVat
      ID = "into-the-vat"
      NAME = "Into the vat"
      PRINT = 36
      LAST = 96
      # Where the lantern is.
      WAY = {1 => [0.0, 2.7, 0.0], 7 => [0.0, 1.95, 0.0], 14 => [-0.02, 1.5, 0.03], 26 => [-0.05, 1.24, 0.07],
             48 => [0.03, 1.1, 0.1], 72 => [0.05, 1.03, 0.08], 96 => [0.0, 0.98, 0.05]}.freeze
      CAMERA = {"position" => [0.75, 0.72, 3.5], "target" => [0.0, 1.12, 0.0], "focal" => 40.0}.freeze
      # The light in it, in its own measure.
      FLAME = [0.0, -0.02, 0.0].freeze

      module_function

      def meshes = {}

      # @return [Array<Hash>]
      def edits(_mesh)
        path + lantern("raw", raw) + lantern("glazed", glazed) + vat + light + layers + flare_spot + effects +
          Scene.set("general", "last" => LAST) + Scene.set("sun-1", "strength" => 0.0) +
          Scene.set("sky", "model" => "even", "strength" => 0.012, "colour" => [0.3, 0.75, 0.8]) +
          Scene.set("camera", CAMERA.merge("aperture" => 2.2, "focus_on" => "way", "samples" => 8)) +
          Scene.set(
            "picture", "behind" => "colour", "background" => [0.0, 0.0, 0.0], "exposure" => 0.35, "contrast" => 1.12,
            "bloom" => 0.0
          )
      end

      # What both lanterns go with.
      def path
        [
          Scene.add("prop", "way", "Way down", "shape" => "sphere", "radius" => 0.02, "shown" => false),
          {
            "do" => "formula", "node" => "way", "dial" => "turn", "part" => "y",
            "text" => "34 * (frame - 1) / 96 + 5 * sin(2.1 * t)"
          },
          {
            "do" => "formula", "node" => "way", "dial" => "turn", "part" => "z",
            "text" => "5 * exp(-0.5 * t) * sin(4 * t)"
          }
        ] + WAY.map { |frame, place| Scene.key("way", "position", frame, place) }
      end

      def raw = {"colour" => [0.4, 0.22, 0.13], "uneven" => 0.35, "uneven_size" => 0.06, "rough" => 0.9}

      def glazed =
        {"colour" => [0.1, 0.42, 0.34], "uneven" => 0.3, "uneven_size" => 0.09, "shine" => 0.85, "rough" => 0.12}

      # Only one of the two throws shadows, for they stand in the same place.
      def lantern(name, made)
        made = made.merge("leader" => "way", "casts" => name == "raw")
        [
          Scene.add(
            "prop", name, name.capitalize,
            made.merge("shape" => "sphere", "radius" => 0.33, "divisions" => 3, "scale" => [1.0, 1.12, 1.0])
          ),
          Scene.add(
            "operation", "#{name}-holes", "Takes faces away", "prop" => name, "what" => "pierce", "share" => 0.14,
            "seed" => 11
          ),
          Scene.add(
            "operation", "#{name}-wall", "Gives it thickness", "prop" => name, "order" => 1, "what" => "thicken",
            "thickness" => 0.02
          ),
          Scene.add(
            "prop",
            "#{name}-lid",
            "#{name.capitalize} lid",
            made.merge(
              "shape" => "cone", "radius" => 0.25, "tall" => 0.17, "sides" => 48, "position" => [0.0, 0.41, 0.0]
            )
          ),
          Scene.add(
            "prop", "#{name}-knob", "#{name.capitalize} knob",
            made.merge("shape" => "sphere", "radius" => 0.05, "position" => [0.0, 0.52, 0.0])
          ),
          Scene.add(
            "prop",
            "#{name}-foot",
            "#{name.capitalize} foot",
            made.merge(
              "shape" => "cylinder", "radius" => 0.19, "tall" => 0.07, "sides" => 48, "position" => [0.0, -0.37, 0.0]
            )
          )
        ]
      end

      def vat =
        [
          Scene.add(
            "fog", "glaze", "Glaze", "thickness" => 0.34, "colour" => [0.5, 0.94, 0.86], "forward" => 0.45,
            "reach" => 9.0, "around" => 0.5
          )
        ]

      # All from black: one behind, one above, and its own.
      def light
        [
          Scene.add(
            "lamp", "behind", "Behind", "as" => "spot", "position" => [-1.5, 3.3, -2.5], "target" => [0.05, 1.0, 0.0],
            "cone" => 40.0, "soft" => 0.6, "strength" => 95.0, "colour" => [0.45, 0.9, 1.0], "radius" => 0.05
          ),
          Scene.add(
            "lamp", "above", "Above", "as" => "spot", "position" => [0.35, 4.4, 0.4], "target" => [0.0, 0.6, 0.0],
            "cone" => 26.0, "soft" => 0.7, "strength" => 150.0, "colour" => [0.75, 1.0, 0.92], "radius" => 0.04
          ),
          Scene.add(
            "lamp", "front", "Before", "as" => "area", "position" => [2.3, 1.7, 2.6], "target" => [0.0, 1.1, 0.0],
            "wide" => 0.9, "high" => 1.4, "strength" => 26.0, "colour" => [0.95, 0.9, 0.8], "lights" => "props"
          ),
          Scene.add(
            "lamp", "own", "Its own light", "as" => "point", "leader" => "way", "position" => FLAME,
            "kelvin" => "kelvin", "temperature" => 2100.0, "radius" => 0.03, "strength" => 10.0
          ),
          Scene.add(
            "prop", "flame", "Flame", "shape" => "sphere", "radius" => 0.045, "scale" => [1.0, 1.8, 1.0],
            "leader" => "way", "position" => FLAME, "colour" => [0.0, 0.0, 0.0], "light_colour" => [1.0, 0.5, 0.17],
            "casts" => false
          )
        ] +
          {1 => 0.0, 10 => 0.4, 40 => 1.0, 96 => 0.85}.flat_map do |frame, much|
            [
              Scene.key("behind", "strength", frame, 95.0 * much), Scene.key("above", "strength", frame, 150.0 * much),
              Scene.key("front", "strength", frame, 26.0 * much)
            ]
          end +
          {1 => 2.0, 16 => 4.0, 30 => 14.0, 60 => 26.0, 96 => 21.0}.flat_map do |frame, much|
            [Scene.key("own", "strength", frame, much), Scene.key("flame", "light", frame, 2.5 * much)]
          end + [{"do" => "formula", "node" => "own", "dial" => "stops", "text" => "0.25 * noise(8 * t, 3, 1)"}]
      end

      def seen(name) = [name, "#{name}-lid", "#{name}-knob", "#{name}-foot", "flame"]

      def layers
        [
          Scene.add("layer", "raw-layer", "Raw", "seen" => seen("raw"), "backdrop" => "always", "order" => 0),
          Scene.add("layer", "glazed-layer", "Glazed", "seen" => seen("glazed"), "backdrop" => "always", "order" => 1),
          Scene.add(
            "layer", "splash", "Splash", "what" => "other", "shot" => VatSplash::ID, "backdrop" => "never",
            "blend" => "screen", "later" => 4, "y" => -20.0, "scale" => 118.0, "order" => 2
          ),
          Scene.add(
            "mask", "splash-mask", "Soft edge", "to" => "splash", "what" => "oval", "x" => 50.0, "y" => 18.0,
            "width" => 90.0, "height" => 30.0, "soft" => 48.0
          ),
          Scene.add("effect", "splash-bright", "Brighter", "layer" => "splash", "what" => "exposure", "stops" => -0.1),
          Scene.add(
            "effect", "splash-hard", "Only what glints", "layer" => "splash", "what" => "contrast", "contrast" => 1.7,
            "pivot" => 0.4, "order" => 1
          ),
          Scene.add("layer", "whole", "Lens and film", "what" => "change", "order" => 3)
        ] + {24 => 0.0, 70 => 100.0}.map { |frame, much| Scene.key("glazed-layer", "opacity", frame, much) } +
          {6 => 0.0, 9 => 90.0, 24 => 75.0, 44 => 0.0}.map do |frame, much|
            Scene.key("splash", "opacity", frame, much)
          end
      end

      def effects
        [
          effect(0, "glow", "Glow", "from" => 0.7, "size" => 1.8, "amount" => 0.8, "colour" => [1.0, 0.8, 0.55]),
          Scene.add(
            "mask", "glow-mask", "About the lantern", "to" => "vat-glow", "what" => "oval", "follows" => "way",
            "x" => 50.0, "y" => -28.0, "width" => 70.0, "height" => 78.0, "soft" => 34.0
          ),
          effect(
            1, "dust", "Drifting specks", "count" => 150, "size" => 0.26, "amount" => 0.6, "drift" => 3.0,
            "sink" => -1.6, "colour" => [0.6, 1.0, 0.9]
          ),
          effect(
            2, "flare", "Flare", "source" => "lamp", "lamp" => "spot", "amount" => 0.42, "ghosts" => 6,
            "streak" => 34.0, "arms" => 1, "angle" => 6.0, "colour" => [1.0, 0.6, 0.3]
          ),
          effect(3, "fringes", "Fringes", "amount" => 0.3),
          effect(4, "vignette", "Darker corners", "amount" => 0.75, "inner" => 26.0),
          effect(5, "grain", "Grain", "amount" => 0.3, "grain_size" => 0.2)
        ] +
          {1 => 0.0, 14 => 0.06, 44 => 0.26, 96 => 0.22}.map do |frame, much|
            Scene.key("vat-flare", "amount", frame, much)
          end
      end

      # A spot where its light is seen, as one that is followed there.
      def flare_spot
        [Scene.add("track", "spot", "Its light", "layer" => "glazed-layer")] + WAY.flat_map { |frame, place|
          seen = Finish::Spots.seen(CAMERA.merge("aperture" => 0.0), place.zip(FLAME).map(&:sum), 16 / 9.0)
          [["x", 100.0 * seen[0]], ["y", 100.0 * seen[1]]].map do |dial, value|
            Scene.key("spot", dial, frame, value.round(3))
          end
        }
      end

      def effect(order, what, name, dials) =
        Scene.add("effect", "vat-#{what}", name, dials.merge("layer" => "whole", "what" => what, "order" => order))
      private_class_method :path, :raw, :glazed, :lantern, :vat, :light, :seen, :layers, :effects, :flare_spot, :effect
    end
  end
end
