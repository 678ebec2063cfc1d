# frozen_string_literal: true

require "json"

module Vumbral
  module Demo
    # The crate in the plate burns: four of its nails were followed, a stand-in was pinned to them, and fire is fed from
    # there. In the finish heat bends what is behind, the fire lights the yard, and glow, tint, a table and grain make
    # one picture of it.
    module CarriedTorch
      ID = "carried-torch"
      NAME = "Carried torch"
      PRINT = 34
      # What was found in the plate, by `bin/demo-plate`.
      FOUND = File.join(ROOT, "demo", "plates", "carried-box.json")
      # Nails of the crate, and where they are seen on the first frame, %.
      SPOTS = {"spot-a" => [17.2, 58.15], "spot-b" => [22.7, 57.95], "spot-c" => [22.35, 49.6], "spot-d" => [16.85, 50.0]}.each_with_index.to_h { |(id, seen), n| [id, [CarriedBox::NAILS[n], seen]] }.freeze

      module_function

      def meshes = {}

      def plates = {plate: CarriedBox::PLATE}

      def tables = {dusk: dusk.write}

      # Warm lights and cool darks, as a print of film has them.
      def dusk
        edge = 17
        rows = (0...edge**3).map do |n|
          rgb = [n % edge, n / edge % edge, n / edge / edge].map { |c| c / (edge - 1.0) }
          grey = 0.2126 * rgb[0] + 0.7152 * rgb[1] + 0.0722 * rgb[2]
          lean = [0.035, 0.004, -0.045].map { |c| c * (2.0 * grey - 0.75) }
          rgb.zip(lean).map { |c, by| (grey + 1.06 * (c - grey) + by * (1.0 - (2.0 * grey - 1.0)**2)).clamp(0.0, 1.0) }
        end
        Formats::Cube.new(Kernel::Buffer.of(:f32, rows.flatten, edge, edge, edge, 3), title: "Ash Hollow dusk")
      end

      # @param mesh [Hash{Symbol => String}] digests of the plate and the table
      # @param found [Hash{String => Hash}] keys by node and dial
      # @return [Array<Hash>]
      def edits(mesh, found = JSON.parse(File.read(FOUND)))
        stand_in + plate(mesh) + fire + finish(mesh) + keys(found) +
          Scene.set(
            "chamber", "position" => [-0.15, 0.85, 0.25], "size" => [3.5, 2.3, 1.3], "voxel" => 0.02, "draft" => 1.6,
            "curl_boost" => 0.55, "stir" => 0.4, "stir_size" => 0.14, "burn_rate" => 4.2, "burn_heat" => 1400.0,
            "burn_smoke" => 0.16, "burn_swell" => 1.5, "cooling" => 950.0, "smoke_fade" => 0.9, "heat_fade" => 0.9,
            "lift" => 1.6, "substeps_most" => 4
          ) + Scene.finer(1.4, 4.0) +
          Scene.set(
            "look", "thickness" => 16.0, "colour" => [0.5, 0.46, 0.42], "fire" => 6.5, "fire_from" => 960.0,
            "fire_offset" => 200.0, "fire_rise" => 5.0, "glow" => 0.7
          ) + Scene.set("sun-1", "strength" => 0.9, "around" => -62.0, "height" => 13.0) +
          Scene.set("sky", "strength" => 0.25) +
          Scene.set(
            "camera", "position" => [0.0, 1.45, 5.4], "target" => [0.0, 1.2, 0.0], "focal" => 36.0, "shutter" => 150.0,
            "samples" => 6
          ) + Scene.set("picture", "tone" => "soft", "contrast" => 1.0, "bloom" => 0.0)
      end

      def stand_in
        Scene.set("general", "last" => CarriedBox::LAST) +
          [Scene.add("prop", "stand-in", "Stand-in", "shape" => "box", "size" => CarriedBox::SIZE,
            "position" => [-1.3, 1.1, 0.5], "turn" => [0.0, -25.0, 0.0], "collider" => true),
            # On its top, a little smaller than it.
            Scene.add("prop", "coals", "Coals", "shape" => "box", "size" => [0.34, 0.06, 0.3], "leader" => "stand-in",
              "position" => [0.0, 0.2, 0.0], "shown" => false)]
      end

      def plate(mesh)
        [Scene.add("layer", "footage", "Footage", "what" => "plate", "plate" => mesh[:plate], "order" => -1)] +
          SPOTS.map do |id, (place, (x, y))|
            Scene.add(
              "track", id, "Nail #{id[-1].upcase}", "layer" => "footage", "prop" => "stand-in", "place" => place,
              "x" => x, "y" => y, "pattern" => 5.0, "search" => 5.0, "adapts" => 0.2
            )
          end
      end

      def fire
        [
          Scene.add(
            "source", "torch", "Torch", "prop" => "coals", "smoke" => 0.0, "fuel" => 34.0, "temperature" => 1250.0,
            "carried" => 60.0, "breakup" => 0.85, "breakup_size" => 0.1, "breakup_speed" => 6.0
          ),
          Scene.add(
            "emitter", "sparks", "Sparks", "prop" => "coals", "rate" => 40.0, "life" => 0.7, "speed" => 1.2,
            "spread" => 35.0, "drag" => 0.9, "fall" => -0.2, "stir" => 5.0, "stir_size" => 0.25, "glow" => 7.0,
            "width" => 0.006
          )
        ]
      end

      def finish(mesh)
        [Scene.add("layer", "fire", "Fire", "part" => "volumes", "order" => 0),
          # Red flames before a blue sky turn pink, as no fire is.
          effect("fire", -1, "saturation", "Colour of the fire", "hue" => 14.0, "saturation" => 1.1),
          effect("fire", 0, "shimmer", "Heat", "by" => "heat", "far" => 0.5, "waves" => 4.5, "rise" => 45.0,
            "kelvins" => 40.0, "amount" => 1.0),
          effect("fire", 1, "flash", "Light of the fire", "from" => 0.4, "amount" => 0.8, "reach" => 45.0,
            "colour" => [1.0, 0.62, 0.32]),
          Scene.add("layer", "whole", "One picture", "what" => "change", "order" => 1),
          effect("whole", 0, "glow", "Glow", "from" => 1.0, "size" => 1.6, "amount" => 0.35,
            "colour" => [1.0, 0.75, 0.5]),
          effect("whole", 1, "tint", "Tint", "darks" => [0.47, 0.5, 0.56], "lights" => [0.53, 0.5, 0.46]),
          effect("whole", 2, "vignette", "Darker corners", "amount" => 0.35),
          effect("whole", 3, "grain", "Grain", "amount" => 0.22, "grain_size" => 0.25),
          effect("whole", 4, "table", "Dusk", "table" => mesh[:dusk], "strength" => 80.0)]
      end

      def effect(layer, order, what, name, dials) =
        Scene.add("effect", "torch-#{what}", name, dials.merge("layer" => layer, "what" => what, "order" => order))

      def keys(found)
        found.flat_map do |node, dials|
          dials.flat_map do |dial, rows|
            rows.map do |frame, value|
              {"do" => "key", "node" => node, "dial" => dial, "frame" => frame, "value" => value, "ease" => "linear"}
            end
          end
        end
      end
      private_class_method :stand_in, :plate, :fire, :finish, :effect, :keys
    end
  end
end
