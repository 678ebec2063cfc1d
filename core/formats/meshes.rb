# frozen_string_literal: true

module Vumbral
  module Formats
    # Mesh files of every kind that can be read.
    module Meshes
      MOST_TRIANGLES = 4_000_000
      ENDINGS = %w[.obj .stl .ply .gltf .glb].freeze

      module_function

      # @param bytes [String] the file's content
      # @param name [String] its name; the ending tells the format
      # @param beside [Hash{String => String}] the content of files that came with it, by their names
      # @param rate [Float] frames a second in which motion is taken
      # @return [Model]
      # @raise [Refused]
      def model(bytes, name:, beside: {}, rate: 24.0)
        ending = File.extname(name).downcase
        unless ENDINGS.include?(ending)
          raise Refused.new("#{name} cannot be read as a mesh; bring it as #{words}.", code: "unknown_format")
        end
        raise Refused.new("#{name} is empty.", code: "empty_mesh") if bytes.empty?

        model = case ending
        when ".obj" then obj(bytes, name, beside)
        when ".stl" then Model.new([STL.read(bytes, name: name)])
        when ".ply" then Model.new([PLY.read(bytes, name: name)])
        else GLTF.read(bytes, name: name, beside: beside, rate: rate)
        end
        check(model.mesh, name)
        outwards(model)
      end

      # @return [Geometry::Mesh] the first frame of it
      def read(bytes, name:) = model(bytes, name: name).mesh

      # @return [Boolean] whether a file of this name holds a mesh
      def mesh?(name) = ENDINGS.include?(File.extname(name).downcase)

      # @return [String] the kinds of file there are, as a sentence has them
      def words =
        ENDINGS.map { |ending| ending.delete(".").upcase }.then { |all| "#{all[..-2].join(", ")} or #{all[-1]}" }

      # With the colours of the materials that came with it; says what did not.
      def obj(bytes, name, beside)
        libraries, missing = OBJ.libraries(bytes).partition { |file| beside.key?(file) }
        materials = libraries.reduce({}) { |all, file| all.merge(MTL.read(beside[file], name: file)) }
        pictures = libraries.flat_map { |file| MTL.pictures(beside[file]) }.uniq
        left_out =
          missing.map do |file|
            "The colours in #{Text.excerpt(file, 80)} were left out, for it did not come with the mesh; bring both " \
              "together."
          end
        left_out << "Its textures were left out; what is seen are its materials' colours." if pictures.any?
        Model.new([OBJ.read(bytes, name: name, materials: materials)], left_out: left_out)
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

      # A closed mesh whose faces look inwards would hold everything but what it is the shape of.
      def outwards(model)
        first = model.mesh
        return model unless first.volume.negative? && first.closed?

        turned = first.flipped
        frames =
          model.frames.map { |mesh| mesh.triangles.equal?(first.triangles) ? turned.with(mesh.points) : mesh.flipped }
        Model.new(
          frames, rate: model.rate, others: model.others,
          left_out: model.left_out + ["Its faces looked inwards, so they were turned over."]
        )
      end
      private_class_method :check, :obj, :outwards
    end
  end
end
