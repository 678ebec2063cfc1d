# frozen_string_literal: true

module Vumbral
  module Geometry
    # A prop's shape as plain numbers, and the mesh that these describe.
    module Shapes
      # The dials that make up each shape.
      DIALS = {"sphere" => %i[radius], "box" => %i[size], "plane" => %i[size], "cylinder" => %i[radius tall],
               "cone" => %i[radius tall], "torus" => %i[radius tube], "mesh" => %i[mesh]}.freeze

      # So many shapes are kept ready.
      KEPT = 24

      module_function

      # @param node [Shot::Node] a prop
      # @return [Hash] what its own geometry depends on: "shape" and its dials
      def outline(node)
        shape = node[:shape]
        {"shape" => shape}.merge(DIALS.fetch(shape).to_h { |dial| [dial.to_s, node[dial]] })
      end

      # @return [Hash] the outline with where the prop stands at a frame
      def placed(node, frame = nil)
        outline(node).merge("position" => node[:position, frame], "turn" => node[:turn, frame],
          "scale" => node[:scale, frame])
      end

      # @param outline [Hash]
      # @param meshes [#mesh] gives the mesh of a digest
      # @return [Mesh] about its own origin
      def build(outline, meshes)
        return from_file(outline, meshes) if outline["shape"] == "mesh"

        @built ||= {}
        found = @built.delete(outline)
        @built.delete(@built.keys.first) if @built.size >= KEPT
        @built[outline] = found || make(outline, meshes)
      end

      def make(outline, meshes)
        case outline["shape"]
        when "piece" then Breaking.cut(outline["of"], outline["pieces"], outline["seed"], meshes)[outline["n"]].mesh
        when "sphere" then Builders.sphere(outline["radius"])
        when "box" then Builders.box(outline["size"])
        when "plane" then Builders.plane(outline["size"])
        when "cylinder" then Builders.cylinder(outline["radius"], outline["tall"])
        when "cone" then Builders.cone(outline["radius"], outline["tall"])
        when "torus" then Builders.torus(outline["radius"], outline["tube"])
        end
      end

      def from_file(outline, meshes)
        unless outline["mesh"]
          raise Refused.new("A prop is set to a mesh from a file, but no file was brought for it.", code: "no_mesh")
        end

        meshes.mesh(outline["mesh"])
      end
      private_class_method :make, :from_file

      # @return [Transform]
      def transform(placed)
        Transform.place(position: placed["position"], turn: placed["turn"], scale: placed["scale"])
      end

      # @return [Mesh] where the prop stands in the world
      def world(placed, meshes) = build(placed, meshes).transformed(transform(placed))
    end
  end
end
