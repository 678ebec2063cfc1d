# frozen_string_literal: true

module Vumbral
  module Geometry
    # Where a prop stands on what is under it: once, or at each frame anew.
    module Resting
      module_function

      # @param document [Shot::Document]; @param prop [Shot::Node]; @param meshes [#mesh]
      # @return [Float, nil] metres that it must rise (below 0: sink) at a frame to stand; nothing where nothing is
      #   under it
      def rise(document, prop, frame, meshes)
        mine = world([prop], document, frame, meshes)
        others =
          document
            .of(:prop)
            .select do |node|
              node.id != prop.id && document.shown?(node, frame) && !Hanging.leaders(document, node).include?(prop)
            end
        under = world(others, document, frame, meshes)
        point = place(document, prop, frame)
        return if under.nil? || (mine.nil? && point.nil?)

        met(mine, point, BVH.new(under), 1e-3)
      end

      # The same of one that stands on what is below for good: on what does not, and on those of its kind that are lower
      # by their own places, so that none stands on another that stands on it. Surfaces of sculpts and liquids and what
      # is in pieces carry nothing.
      # @return [Float, nil]
      def lasting(document, prop, frame, meshes)
        free = document.put(prop.set(:rests, false))
        own = free.node(prop.id)
        mine = Shapes.world(standing(free, own, frame), meshes)
        mine = nil if mine.empty?
        point = place(free, own, frame)
        return unless mine || point

        tree = tree(carrying(document, prop, frame).map { |node| standing(document, node, frame) }, meshes)
        return unless tree

        met(mine, point, tree, prop[:rests_reach] + 1e-3)
      end

      # Whole, at this frame alone: what was before asks for the frame before, and so on.
      def standing(document, node, frame) =
        Shapes.outline(node, document: document, frame: frame).merge(Bodies.pose(node, frame, document))

      # Where a mark is, which has no corners. @return [Array<Float>, nil]
      def place(document, prop, frame) = (prop[:shape] == "mark") ? Hanging.pose(document, prop, frame).position : nil

      # @param mine [Mesh, nil] without it, `point` stands; @param under [BVH]; @param above [Float] so far above them
      #   things count as under them
      def met(mine, point, under, above)
        top = (mine ? mine.bounds[1][1] : point[1]) + above
        rise =
          RestKernels.rise(mine ? mine.corners : Kernel::Buffer.of(:f32, point, 1, 3), under.corners, under.boxes, top)
        if mine
          tree = BVH.new(mine)
          rise = [rise, RestKernels.lift(under.mesh.points, tree.corners, tree.boxes, mine.bounds[0][1] - 1.0, top)].max
        end
        rise unless rise <= RestKernels::NOTHING / 2
      end

      # What a prop may stand on. @return [Array<Shot::Node>]
      def carrying(document, prop, frame)
        mine = height(document, prop, frame)
        document.of(:prop).each_with_index.select { |node, n|
          node.id != prop.id && !%w[sculpt liquid mark].include?(node[:shape]) && document.shown?(node, frame) &&
            !Breaking.broken?(node, frame) && !Hanging.leaders(document, node).include?(prop) &&
            (!rests?(document, node) ||
              ([height(document, node, frame), n] <=> [mine, document.of(:prop).index(prop)]) == -1)
        }.map(&:first)
      end

      def rests?(document, node) = [node, *Hanging.leaders(document, node)].any? { |one| one[:rests] }

      # Of its own place, before it stands on anything.
      def height(document, node, frame) =
        [node, *Hanging.leaders(document, node)].sum { |one| one[:position, frame][1] }

      # Of all that something may stand on; the last one is kept, for mostly it stays as it is.
      # @param rows [Array<Hash>] outlines as they stand; @return [BVH, nil]
      def tree(rows, meshes)
        kept = @tree
        return kept[1] if kept && kept[0] == rows

        worlds = rows.map { |row| Shapes.world(row, meshes) }.select { |mesh| mesh.count.positive? }
        tree = BVH.new(Mesh.joined(worlds)) if worlds.any?
        @tree = [rows, tree]
        tree
      end

      def world(props, document, frame, meshes)
        bodies = props.map { |node| Bodies.of(document, node, frame) }
        worlds = Bodies.parts(bodies, meshes).map { |body| Shapes.world(body["outline"].merge(body["to"]), meshes) }
        worlds = worlds.select { |world| world.count.positive? }
        Mesh.joined(worlds) if worlds.any?
      end
      private_class_method :world, :carrying, :rests?, :height, :standing, :place, :met, :tree
    end
  end
end
