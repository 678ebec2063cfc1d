# frozen_string_literal: true

require "json"

module Vumbral
  module Formats
    # One part of {GLTF}.
    module GLTF
      # Writes meshes, still or moving, as one .glb.
      class Writer
        FLOAT, UNSIGNED, VERTICES, INDICES = 5126, 5125, 34_962, 34_963

        # @param rate [Float] frames a second
        def initialize(rate = 24.0)
          @rate = rate
          @bytes = +"".b
          @json = {
            "asset" => {
              "version" => "2.0", "generator" => "Vumbral"
            },
            "scene" => 0,
            "scenes" => [{"nodes" => []}],
            "nodes" => [],
            "meshes" => [],
            "materials" => [],
            "accessors" => [],
            "bufferViews" => []
          }
          @samplers = []
          @channels = []
        end

        # @param name [String]; @param mesh [Geometry::Mesh] as it is at the first frame
        # @param colour [Array<Float>] linear red, green, blue
        # @param poses [Array<Geometry::Pose>] where it stands at each frame; one for a still thing
        # @param shapes [Array<Kernel::Buffer>] its points at each further frame, where it deforms
        # @return [self]
        def add(name, mesh, colour: Geometry::Colours::PLAIN, poses: [], shapes: [])
          vertices = Vertices.new(mesh)
          node = {"name" => name, "mesh" => @json["meshes"].size}.merge(poses.empty? ? {} : place(poses[0]))
          shapes = shapes.map { |points| vertices.moved(points) }
          @json["meshes"] << surface(name, vertices, colour, shapes)
          @json["nodes"] << node
          number = @json["nodes"].size - 1
          @json["scenes"][0]["nodes"] << number
          move(number, poses) if poses.uniq.size > 1
          deform(number, shapes.size) if shapes.any?
          self
        end

        # @return [String] the file
        def bytes
          json = @json.merge("buffers" => [{"byteLength" => @bytes.bytesize}])
          if @channels.any?
            json["animations"] = [
              {"name" => "frames", "samplers" => @samplers, "channels" => @channels}
            ]
          end
          text = JSON.generate(json)
          text += " " * (-text.bytesize % 4)
          body =
            [text.bytesize, Container::JSON_CHUNK].pack("L<2") + text.b +
            [@bytes.bytesize, Container::BINARY_CHUNK].pack("L<2") + @bytes
          [Container::MAGIC, 2, 12 + body.bytesize].pack("L<3") + body
        end

        private

        # @return [Integer] number of the accessor
        def keep(bytes, type, width, target: nil, ends: false)
          view = {"buffer" => 0, "byteOffset" => @bytes.bytesize, "byteLength" => bytes.bytesize}
          view["target"] = target if target
          @json["bufferViews"] << view
          @bytes << bytes << "\0" * (-bytes.bytesize % 4)
          row = {
            "bufferView" => @json["bufferViews"].size - 1, "componentType" => type,
            "count" => bytes.bytesize / 4 / width, "type" => (width == 1) ? "SCALAR" : "VEC#{width}"
          }
          row.merge!(ends_of(bytes, width)) if ends
          @json["accessors"] << row
          @json["accessors"].size - 1
        end

        def ends_of(bytes, width)
          columns = bytes.unpack("e*").each_slice(width).to_a.transpose
          {"min" => columns.map(&:min), "max" => columns.map(&:max)}
        end

        def surface(name, vertices, colour, shapes)
          attributes = {"POSITION" => keep(vertices.points.bytes, FLOAT, 3, target: VERTICES, ends: true)}
          attributes["COLOR_0"] = keep(vertices.tints.flatten.pack("e*"), FLOAT, 3, target: VERTICES) if vertices.tints
          if vertices.places
            attributes["TEXCOORD_0"] = keep(
              vertices.places.flat_map { |u, v| [u, 1.0 - v] }.pack("e*"), FLOAT, 2, target: VERTICES
            )
          end
          primitive = {
            "attributes" => attributes, "indices" => keep(vertices.triangles.bytes, UNSIGNED, 1, target: INDICES),
            "material" => material(name, vertices.tints ? [1.0] * 3 : colour)
          }
          return {"name" => name, "primitives" => [primitive]} if shapes.empty?

          first = vertices.points.to_a
          primitive["targets"] = shapes.map do |points|
            {
              "POSITION" =>
                keep(points.to_a.zip(first).map { |a, b| a - b }.pack("e*"), FLOAT, 3, target: VERTICES, ends: true)
            }
          end
          {"name" => name, "primitives" => [primitive], "weights" => [0.0] * shapes.size}
        end

        def material(name, colour)
          @json["materials"] << {
            "name" => name,
            "pbrMetallicRoughness" => {
              "baseColorFactor" => colour + [1.0], "metallicFactor" => 0.0, "roughnessFactor" => 0.8
            }
          }
          @json["materials"].size - 1
        end

        def place(pose)
          {"translation" => pose.position, "rotation" => quaternion(pose), "scale" => pose.scale}
        end

        def times(count) =
          (@times ||= {})[count] ||= keep(Array.new(count) { |n| n / @rate.to_f }.pack("e*"), FLOAT, 1, ends: true)

        def move(node, poses)
          turns = poses.map { |pose| quaternion(pose) }
          # Each turn the short way from the one before.
          turns.each_cons(2) { |a, b| b.map!(&:-@) if a.zip(b).sum { |x, y| x * y }.negative? }
          {
            "translation" => poses.map(&:position), "rotation" => turns, "scale" => poses.map(&:scale)
          }.each do |path, rows|
            channel(node, path, rows.flatten.pack("e*"), rows[0].size, poses.size) if rows.uniq.size > 1
          end
        end

        # One shape after the other: each alone at its own frame.
        def deform(node, count)
          rows = Array.new(count + 1) { |frame| Array.new(count) { |shape| (shape == frame - 1) ? 1.0 : 0.0 } }
          channel(node, "weights", rows.flatten.pack("e*"), 1, count + 1)
        end

        def channel(node, path, bytes, width, count)
          @samplers << {"input" => times(count), "output" => keep(bytes, FLOAT, width), "interpolation" => "LINEAR"}
          @channels << {"sampler" => @samplers.size - 1, "target" => {"node" => node, "path" => path}}
        end

        # Half angles about z, then y, then x, one after the other.
        def quaternion(pose)
          (cx, sx), (cy, sy), (cz, sz) =
            pose.turn.map { |degrees| [Math.cos(degrees * Math::PI / 360), Math.sin(degrees * Math::PI / 360)] }
          q = [
            sx * cy * cz - cx * sy * sz, cx * sy * cz + sx * cy * sz, cx * cy * sz - sx * sy * cz,
            cx * cy * cz + sx * sy * sz
          ]
          length = Math.sqrt(q.sum { |c| c * c })
          q.map { |c| c / length }
        end
      end
    end
  end
end
