# frozen_string_literal: true

module Vumbral
  module Formats
    # Mesh files of every kind that can be read.
    module Meshes
      READERS = {".obj" => OBJ, ".stl" => STL}.freeze
      MOST_TRIANGLES = 4_000_000

      module_function

      # @param bytes [String] the file's content
      # @param name [String] its name; the ending tells the format
      # @return [Geometry::Mesh]
      # @raise [Refused]
      def read(bytes, name:)
        reader = READERS[File.extname(name).downcase]
        unless reader
          raise Refused.new("#{name} cannot be read as a mesh; bring it as #{READERS.keys.map { |e| e.delete(".").upcase }.join(" or ")}.", code: "unknown_format")
        end
        raise Refused.new("#{name} is empty.", code: "empty_mesh") if bytes.empty?

        check(reader.read(bytes, name: name), name)
      end

      def check(mesh, name)
        if mesh.count > MOST_TRIANGLES
          raise Refused.new("#{name} has #{mesh.count} triangles; thin it to at most #{MOST_TRIANGLES}.",
            code: "mesh_too_large")
        end
        low, high = mesh.bounds
        if low.zip(high).map { |a, b| b - a }.max <= 0.0
          raise Refused.new("All points of #{name} are in the same place.", code: "empty_mesh")
        end
        mesh
      end
      private_class_method :check
    end
  end
end
