# frozen_string_literal: true

module Vumbral
  module Geometry
    # Where a prop stands on what is under it.
    module Resting
      module_function

      # @param document [Shot::Document]; @param prop [Shot::Node]; @param meshes [#mesh]
      # @return [Float, nil] metres that it must rise (below 0: sink) at a frame to stand; nothing where nothing is under it
      def rise(document, prop, frame, meshes)
        mine = world([prop], document, frame, meshes)
        others = document.of(:prop).select { |node| node.id != prop.id && node[:shown, frame] && !Hanging.leaders(document, node).include?(prop) }
        under = world(others, document, frame, meshes)
        return if mine.nil? || under.nil?

        tree = BVH.new(under)
        rise = RestKernels.rise(mine.corners, tree.corners, tree.boxes, mine.bounds[1][1] + 1e-3)
        rise unless rise <= RestKernels::NOTHING / 2
      end

      def world(props, document, frame, meshes)
        bodies = props.map { |node| Bodies.of(document, node, frame) }
        worlds = Bodies.parts(bodies, meshes).map { |body| Shapes.world(body["outline"].merge(body["to"]), meshes) }
        worlds = worlds.select { |world| world.count.positive? }
        Mesh.joined(worlds) if worlds.any?
      end
      private_class_method :world
    end
  end
end
