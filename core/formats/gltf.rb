# frozen_string_literal: true

module Vumbral
  module Formats
    # glTF 2.0 (ISO/IEC 12113), as .gltf with its files beside it and as .glb: meshes with their materials' colours,
    # moved by nodes, morph targets and skins; cameras and lamps. What it cannot take along it says.
    module GLTF
      # What a file may need and is understood.
      EXTENSIONS = %w[KHR_mesh_quantization KHR_lights_punctual KHR_materials_unlit KHR_texture_transform
        KHR_materials_emissive_strength
        KHR_materials_specular KHR_materials_ior KHR_materials_clearcoat KHR_materials_sheen KHR_materials_transmission KHR_materials_volume].freeze
      COMPRESSED = %w[KHR_draco_mesh_compression EXT_meshopt_compression KHR_meshopt_compression].freeze

      module_function

      # @param bytes [String]
      # @param name [String] for messages
      # @param beside [Hash{String => String}] the content of files that came with it, by their names
      # @param rate [Float] frames a second in which its motion is taken
      # @return [Model]
      # @raise [Refused]
      def read(bytes, name: "the file", beside: {}, rate: 24.0)
        container = Container.new(bytes.b, name, beside)
        understood(container, name)
        Stage.new(container, rate).model
      rescue NoMethodError, TypeError, IndexError, ArgumentError, RangeError, EncodingError => error
        # Objects where numbers should be, and so on: the file breaks the format in a way that nobody foresaw.
        raise Refused.new(
          "#{name} is not a sound glTF file (#{Text.excerpt(error.message, 80)}); export it again.",
          code: "bad_mesh"
        )
      end

      def understood(container, name)
        needed = Array(container.json["extensionsRequired"]) - EXTENSIONS
        return if needed.empty?

        packed = needed & COMPRESSED
        remedy = packed.any? ? "export it again without compression" : "export it again without"
        raise Refused.new(
          "#{name} cannot be read without #{Text.excerpt(needed.join(", "), 80)}, which Vumbral does not " \
            "know; #{remedy}.",
          code: "bad_mesh"
        )
      end
      private_class_method :understood
    end
  end
end
