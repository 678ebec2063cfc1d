# frozen_string_literal: true

module Vumbral
  module Finish
    # What of the shot a layer shows, as settings of the renderer.
    module Shown
      HOLE = Picture::Materials::AS.index("hole").to_f

      module_function

      # @param settings [Hash] from {Picture::Renderer.settings}
      # @param layer [Hash] from {Stack#at}
      # @return [Hash] the same with only what the layer shows
      def of(settings, layer)
        props = settings["props"].map { |prop| prop(prop, layer) }
        settings = settings.merge("props" => props)
        settings = Picture::Parts.lit_by(settings, layer["lit"]) if layer["lit"]
        (layer["part"] == "props") ? settings.merge("haze" => {"veils" => []}) : settings
      end

      # @return [Boolean] whether gas is among it
      def gas?(layer) = layer["part"] != "props"

      # @return [Hash] what of a layer says which of the shot it shows
      def told(layer) = (layer["what"] == "shot") ? layer.slice("seen", "held", "part", "lit") : {}

      def prop(prop, layer)
        return prop.merge("seen" => false) if layer["without"] && layer["without"] == prop["prop"]
        return held(prop) if layer["part"] == "volumes" || layer.fetch("held", []).include?(prop["prop"])

        seen = layer.fetch("seen", [])
        (seen.empty? || seen.include?(prop["prop"])) ? prop : prop.merge("seen" => false)
      end

      # What is seen through holds nothing out.
      def held(prop)
        return prop.merge("seen" => false) if prop["sheer"]

        prop.merge("made" => prop["made"].each_with_index.map { |n, at| (at == Picture::GlossKernels::AS) ? HOLE : n })
      end
      private_class_method :prop, :held
    end
  end
end
