# frozen_string_literal: true

module Vumbral
  module Shot
    # What props are made of, ready to take: dials of a prop that differ from the defaults, and the textures that they
    # ask for.
    module Materials
      # @!attribute label [String]; @!attribute help [String]; @!attribute dials [Hash]
      # @!attribute textures [Hash] by the dial that asks for one: its name and its dials
      Ready = Struct.new(:label, :help, :dials, :textures)

      # Dials that a material says; those that it does not say get their defaults.
      DIALS = %i[colour second uneven uneven_size stones stone_size mixed_by mixed_much shine rough roughened
        roughened_much metal bumps bump_height light light_colour].freeze

      ALL = {
        "raw-clay" => Ready.new("Raw clay", "Fired once, dull and a little uneven.",
          {"colour" => [0.42, 0.2, 0.11], "uneven" => 0.25, "uneven_size" => 0.08}, {}),
        "glazed-clay" => Ready.new("Glazed clay", "Blue-green glaze that runs thin at its edges.",
          {"colour" => [0.035, 0.15, 0.16], "second" => [0.2, 0.14, 0.07], "mixed_much" => 0.6, "shine" => 0.55,
           "rough" => 0.1},
          {"mixed_by" => ["Glaze", {"what" => "noise", "size" => 0.35, "octaves" => 4, "contrast" => 3.0,
                                    "brightness" => -0.15}]}),
        "wood" => Ready.new("Wood", "Sawn boards with their grain.",
          {"colour" => [0.33, 0.19, 0.09], "second" => [0.17, 0.085, 0.04], "mixed_much" => 0.8, "shine" => 0.25,
           "rough" => 0.55},
          {"mixed_by" => ["Wood grain", {"what" => "bands", "folds" => 7.0, "size" => 0.3, "stretch" => [0.5, 6.0, 0.5],
                                         "octaves" => 2, "edge" => 0.8}]}),
        "paper" => Ready.new("Paper", "Off-white and dull.",
          {"colour" => [0.76, 0.72, 0.63], "uneven" => 0.04, "uneven_size" => 0.02}, {}),
        "plaster" => Ready.new("Plaster", "Rough and white, as a trowel leaves it.",
          {"colour" => [0.68, 0.66, 0.62], "uneven" => 0.5, "uneven_size" => 0.12}, {}),
        "metal" => Ready.new("Brass", "Warm metal, worn here and polished there.",
          {"colour" => [0.86, 0.6, 0.28], "metal" => 1.0, "rough" => 0.22, "roughened_much" => 0.35},
          {"roughened" => ["Wear", {"what" => "noise", "size" => 0.25, "octaves" => 4, "contrast" => 1.8}]}),
        "char" => Ready.new("Char", "Black and cracked into small fields.",
          {"colour" => [0.022, 0.02, 0.019], "shine" => 0.25, "rough" => 0.45, "bump_height" => 0.012},
          {"bumps" => ["Cracks", {"what" => "cells", "measure" => "edges", "gap" => 0.14, "size" => 0.07,
                                  "octaves" => 2}]})
      }.freeze

      # @return [Ready] @raise [Refused] for a name that is none, with those that are
      def self.fetch(name)
        ALL[name] ||
          raise(
            Refused.new(
              "There is no material #{name.to_s[0, 40].inspect}; there are: #{ALL.keys.join(", ")}.",
              code: "unknown_material"
            )
          )
      end

      # @return [Array<Hash>] as plain data, for whoever shows them
      def self.to_a = ALL.map { |name, ready| {name: name, label: ready.label, help: ready.help} }

      # @param document [Document]; @param node [Node] a prop
      # @return [Array<Hash>] edits that make it of this; a texture of the same name that is there already is used again
      def self.edits(document, node, name)
        ready = fetch(name)
        known = document.all_of(:texture).to_h { |texture| [texture.name, texture.id] }
        missing = ready.textures.values.reject { |label, _| known.key?(label) }
        ids = missing.to_h { |label, _| [label, free(document, label)] }
        adds =
          missing.map do |label, dials|
            {
              "do" => "add", "kind" => "texture", "id" => ids[label], "name" => label,
              "dials" => dials.merge("follows" => node.id)
            }
          end
        told = ready.dials.merge(ready.textures.transform_values { |label, _| known[label] || ids[label] })
        adds +
          DIALS.map do |dial|
            {
              "do" => "set", "node" => node.id, "dial" => dial.to_s,
              "value" => told.fetch(dial.to_s) { node.kind.dials[dial].default }
            }
          end
      end

      def self.free(document, label)
        base = label.downcase.tr(" ", "-")
        [base, *(2..99).map { |n| "#{base}-#{n}" }].find { |id| !document.nodes.key?(id) }
      end
      private_class_method :free
    end
  end
end
