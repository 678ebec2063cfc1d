# frozen_string_literal: true

module Vumbral
  module Light
    # Makes of what was run what a look shows: density by a formula, through a ramp and with harder or softer
    # edges, and colours through a ramp. The run stays as it is.
    class Shaping
      # Entries of a ramp as kernels read it.
      FINE = 1024

      # @param look [Shot::Node]; @param document [Shot::Document]
      # @return [Hash] plain data; empty where the look shows what was run
      def self.settings(document, look, frame)
        found = {}
        found["ramp"] = look[:density_ramp] unless look[:density_ramp].empty?
        found["edge"] = [look[:edge, frame], look[:edge_at]] unless look[:edge, frame].zero?
        found["formula"] = formula(document, look[:formula], frame) if formula?(look)
        texture = document.nodes[look[:texture]]
        found["texture"] = [Geometry::Textures.row(document, texture, frame), look[:textured, frame]] if texture &&
          document.on?(texture) && look[:textured, frame].positive?
        by = look[:coloured_by]
        found["colours"] = {"over" => by, "ramp" => look[:"#{by}_ramp"]} if by != "one" && look[:"#{by}_ramp"].any?
        found
      end

      # @param look [Shot::Node] @return [Boolean] whether what it shows changes by itself from frame to frame
      def self.moves?(document, look)
        return true if formula?(look) && Shot::Formula.new(look[:formula]).moves?

        texture = document.nodes[look[:texture]]
        first, last = document.first_frame, document.last_frame
        !texture.nil? &&
          [first, first + 1, (first + last) / 2, last].map { |frame| Geometry::Textures.row(document, texture, frame) }
            .uniq
            .size > 1
      end

      def self.formula?(look) = ![nil, "", "value"].include?(look[:formula]&.strip)

      # @return [Hash] a formula with all that it may ask for; what it does not ask for is left out, so that
      #   light is not made again for nothing
      def self.formula(document, text, frame)
        moves = Shot::Formula.new(text).moves?
        chamber = document.the(:chamber)
        width, height, depth = chamber[:size]
        x, y, z = Geometry::Hanging.stood(document, chamber)
        {"text" => text, "frame" => moves ? frame : 0,
         "time" => moves ? (frame - document.first_frame) / document.rate : 0.0,
         "seed" => document.the(:general)[:seed], "low" => [x - 0.5 * width, y, z - 0.5 * depth], "size" => [width,
           height, depth]}
      end
      private_class_method :formula, :formula?

      # @param settings [Hash] from {.settings}; @param ambient [Float] kelvin; @param meshes [#mesh, #picture, nil]
      def initialize(settings, ambient, meshes = nil)
        @settings = settings
        @ambient = ambient
        @meshes = meshes
      end

      # @param medium [Medium] @return [Medium] the same one where nothing is to be done
      def call(medium)
        return medium if @settings.empty?

        medium.with(smoke: smoke(medium), tint: tint(medium))
      end

      private

      def smoke(medium)
        return medium.smoke unless (@settings.keys & %w[ramp edge formula texture]).any?

        smoke = medium.smoke.copy
        calculate(smoke, medium) if @settings["formula"]
        weave(smoke, medium, *@settings["texture"]) if @settings["texture"]
        through(smoke, Shot::Ramp.new(@settings["ramp"])) if @settings["ramp"]
        ShapingKernels.sharpen(smoke, *@settings["edge"]) if @settings["edge"]
        smoke
      end

      def calculate(smoke, medium)
        asked = @settings["formula"]
        setting = Shot::Formula.setting(frame: asked["frame"], time: asked["time"], seed: asked["seed"],
          voxel: medium.voxel,
          first: medium.corner.map { |c| c + 0.5 * medium.voxel }, low: asked["low"], size: asked["size"])
        Shot::FormulaKernels.evaluate(smoke, Shot::Formula.new(asked["text"]).program, setting)
        ShapingKernels.hold(smoke, 0.0, MOST)
      end

      # Multiplies it by a texture.
      def weave(smoke, medium, row, much)
        first = medium.corner.map { |c| c + 0.5 * medium.voxel }
        ShapingKernels.weave(
          smoke, Maps::Patterns.buffer([row], @meshes), much, Grid::Lattice.new(*first, medium.voxel)
        )
      end

      # No density beyond this is shown.
      MOST = 1e4
      private_constant :MOST

      def through(smoke, ramp)
        low, high = spread(ramp)
        ShapingKernels.map(smoke, ramp.table(FINE, low, high), low, (FINE - 1) / (high - low))
      end

      # Where a ramp's table begins and ends; two places even where there is but one stop.
      def spread(ramp)
        low, high = ramp.ends
        [low, [high, low + 1e-6 * [low, 1.0].max].max]
      end

      # The smoke's own colour, times what the ramp says.
      def tint(medium)
        asked = @settings["colours"]
        return medium.tint unless asked

        ramp = Shot::Ramp.new(asked["ramp"])
        low, high = spread(ramp)
        over = {"heat" => medium.heat, "age" => medium.told[:age], "smoke" => medium.smoke}[asked["over"]]
        return medium.tint unless over

        shift = (asked["over"] == "heat") ? @ambient : 0.0
        own = medium.tint
        Kernel::Buffer.new(:f32, 3, *medium.smoke.shape).tap do |rgb|
          ShapingKernels.colour(rgb, over, ramp.table(FINE, low, high), low - shift, (FINE - 1) / (high - low))
          ShapingKernels.multiply(rgb, own) if own
        end
      end
    end
  end
end
