# frozen_string_literal: true

module Vumbral
  module Geometry
    # A front that runs over a prop's surface, as plain data: where it begins, how evenly it runs, and when. What it
    # comes to is a time of arrival for each point, so that its age at any frame is one subtraction.
    module Front
      DIALS = %i[starts places faces box_position box_size sweep_position sweep_way uneven uneven_size octaves seed
        reversed].freeze
      # So many surfaces are kept with how far everything is.
      KEPT = 16

      module_function

      # @param document [Shot::Document]; @param node [Shot::Node] a front
      # @return [Hash, nil] plain data for {.arrival}; nil where it has no prop
      def row(document, node, frame)
        first, path = start(document, node)
        prop = path && document.nodes[path[:prop]]
        return unless prop

        frame = [frame, node[:freeze]].min unless node[:freeze].zero?
        row = DIALS.to_h { |dial| [dial.to_s, path[dial]] }
        rest = document.operations(prop.id).any? { |operation| Operations.changes?(operation) }
        row.merge(
          "name" => node.name, "behind" => node[:behind], "first" => first, "frame" => frame, "rate" => document.rate,
          "scale" => prop[:scale, document.first_frame], "travel" => travel(document, node, first, frame),
          **pace(document, path, prop)
        ).merge(rest ? {"rest" => Shapes.outline(prop, document: document, frame: document.first_frame)} : {})
      end

      # What a texture makes of its pace, by places of the prop.
      def pace(document, path, prop)
        texture = document.nodes[path[:paced_by]]
        return {} if texture.nil? || texture.off? || path[:paced].zero? || Textures::READ.include?(texture[:what])

        {"pace" => Textures.on(document, texture, prop, document.first_frame), "paced" => path[:paced]}
      end

      # @return [String, nil] the prop that it runs over
      def prop(document, node) = start(document, node)&.last&.then { |path| path[:prop] }

      # A front that follows another begins where that did, later.
      # @return [Array(Integer, Shot::Node)] its first frame, and the node that says where it runs
      def start(document, node, seen = [])
        return [node[:first], node] unless node[:starts] == "after"

        other = document.nodes[node[:after]]
        return if other.nil? || seen.include?(other)

        first, path = start(document, other, seen + [node])
        path && [first + node[:delay], path]
      end

      # Metres that it has run by each frame from its first on, in this one's pace; one number where that stays.
      def travel(document, node, first, frame)
        return node[:speed] unless node.curves.key?(:speed)

        sum = 0.0
        [0.0] + (first...frame).map { |at| sum += node[:speed, at] / document.rate }
      end

      # @param mesh [Mesh] as it stands now; @param outline [Hash] the shape that it is of
      # @return [Array<Float>] for each point in its place the frame on which the front comes to it,
      #   {FrontKernels::NEVER} where it has not yet by the frame asked for; and which place each of the mesh's points
      #   has
      # @raise [Refused]
      def arrival(row, outline, mesh, meshes)
        field = field(row, outline, mesh, meshes)
        out = Kernel::Buffer.new(:f32, field.numbers.size)
        table = row["travel"].is_a?(Array) ? row["travel"] : []
        per = table.empty? ? row["travel"] / row["rate"] : 0.0
        FrontKernels.arrive(
          out, field.distance, field.numbers, Kernel::Buffer.of(:f32, table.empty? ? [0.0] : table), per,
          row["first"].to_f, row["behind"].to_f
        )
        out
      end

      # How far each place is, and which place each point has; kept, for it stays the same while the front runs.
      Field = Struct.new(:distance, :numbers)

      # @return [Field]
      def field(row, outline, mesh, meshes)
        return piece(row, outline, mesh, meshes) if outline["shape"] == "piece"

        rest = row["rest"] ? Shapes.build(row["rest"], meshes) : mesh
        unless Clip.alike?(rest, mesh)
          raise Refused.new(
            "The triangles of the prop that #{row["name"]} runs over change from frame to frame; let what is " \
              "done to its shape move points only, or bake the prop.",
            code: "not_alike"
          )
        end
        @fields ||= {}
        key = [row["rest"] || outline, row.slice(*DIALS.map(&:to_s), "scale", "pace", "paced")]
        found = @fields.delete(key)
        @fields.delete(@fields.keys.first) if @fields.size >= KEPT
        @fields[key] = found || measured(row, rest)
      end

      # A piece of a broken prop has what the whole had there.
      def piece(row, outline, mesh, meshes)
        whole = Shapes.build(outline["of"], meshes)
        field = field(row.except("rest"), outline["of"], whole, meshes)
        middle = Breaking.cut(outline["of"], outline["cut"], meshes)[outline["n"]].middle
        nearest = Kernel::Buffer.new(:i32, mesh.points.dim(0))
        FrontKernels.nearest(nearest, mesh.points, whole.points, Kernel::Buffer.of(:f32, middle))
        FrontKernels.pick(numbers = Kernel::Buffer.new(:i32, nearest.size), field.numbers, nearest)
        Field.new(field.distance, numbers)
      end

      def measured(row, mesh)
        mesh = mesh.transformed(Transform.place(scale: row["scale"]))
        if mesh.area < 1e-12
          raise Refused.new("The prop that #{row["name"]} runs over has no area; take another shape.", code: "no_area")
        end

        numbers, places = Welding.weld(mesh.points)
        distance =
          (row["starts"] == "sweep") ? FrontRun.swept(row, places) : FrontRun.new(row, mesh, numbers, places).distance
        FrontKernels.turn_back(distance) if row["reversed"]
        Field.new(distance, numbers)
      end
      private_class_method :start, :travel, :pace, :measured, :piece
    end
  end
end
