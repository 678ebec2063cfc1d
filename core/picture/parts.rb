# frozen_string_literal: true

module Vumbral
  module Picture
    # A picture taken apart by what lights it: each lamp alone, the sky alone, and what glows by itself. Light adds up,
    # so the parts come to the whole, and each can be made brighter or of another colour afterwards.
    module Parts
      module_function

      # @param settings [Hash] from {Renderer.settings}
      # @param names [Array<String>] of the suns and lamps, in the order of their rows
      # @return [Hash{String => Hash}] settings of each part, by a name fit for a layer
      def of(settings, names)
        lamps = settings["rig"]["lamps"]
        found = lamps.each_index.to_h { |n| [layer(names[n] || "lamp #{n + 1}"), only(settings, lamp: n)] }
        found.merge("sky" => only(settings, sky: true), "glow" => only(settings, glow: true))
      end

      # The picture with some of its suns and lamps alone; the sky and what glows stay.
      # @param lit [Array<Integer>] numbers of their rows
      def lit_by(settings, lit)
        rig = settings["rig"]
        settings.merge(
          "rig" => rig.merge("lamps" => rig["lamps"].each_with_index.map { |row, n| lit.include?(n) ? row : dark(row) })
        )
      end

      # @return [String] letters, digits and underscores
      def layer(name) =
        name.downcase.gsub(/[^a-z0-9]+/, "_").gsub(/\A_|_\z/, "").then { |word| word.empty? ? "lamp" : word }

      def only(settings, lamp: nil, sky: false, glow: false)
        rig = settings["rig"]
        rows = rig["lamps"].each_with_index.map { |row, n| (n == lamp) ? row : dark(row) }
        rig = rig.merge("lamps" => rows)
        rig = rig.merge("sky" => rig["sky"].merge("strength" => 0.0)) unless sky
        rig = rig.merge("fire" => rig["fire"].merge("gain" => 0.0)) unless glow
        settings = settings.merge("rig" => rig)
        glow ? settings : unlit(settings)
      end

      def dark(row) =
        row.each_with_index.map do |value, n|
          n.between?(Light::LampKernels::RED, Light::LampKernels::RED + 2) ? 0.0 : value
        end

      # Without what gives light of its own.
      def unlit(settings)
        props = settings["props"].map do |prop|
          prop =
            prop.merge(
              "made" =>
                prop["made"].each_with_index.map do |value, n|
                  n.between?(GlossKernels::LIGHT, GlossKernels::LIGHT + 2) ? 0.0 : value
                end
            )
          prop["mix"] ? prop.merge("mix" => prop["mix"].merge("glow" => [0.0] * 3)) : prop
        end
        veils = settings["haze"]["veils"].map { |veil| veil["glow"] ? veil.merge("glow" => [0.0] * 3) : veil }
        settings.merge("props" => props, "haze" => settings["haze"].merge("veils" => veils))
      end
      private_class_method :only, :dark, :unlit
    end
  end
end
