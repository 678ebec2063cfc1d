# frozen_string_literal: true

module Vumbral
  module Geometry
    # Where things stand that go with a prop, which may go with another itself. They take over its place, its turn
    # and how large it is on the whole; that it is stretched one way does not bend them.
    module Hanging
      module_function

      # @param document [Shot::Document]; @param node [Shot::Node] a prop; @param frame [Numeric, nil]
      # @return [Pose] in the world
      def pose(document, node, frame)
        own = own(document, node, frame)
        leader = leader(document, node)
        world = leader ? on(pose(document, leader, frame), own) : own
        aim = aim(document, node)
        world = facing(world, own, pose(document, aim, frame).position) if aim
        world = facing(world, own, document.the(:camera)[:position, frame]) if aim.nil? && node.kind.name == :prop &&
          node[:to_camera]
        rise = (node.kind.name == :prop) && document.rise(node, frame)
        if rise
          Pose.new([world.position[0], world.position[1] + rise, world.position[2]], world.turn, world.scale, world.at)
        else
          world
        end
      end

      # What its front turns to: not one that goes with it, nor one that turns to it.
      # @return [Shot::Node, nil]
      def aim(document, node)
        other = node.kind.name == :prop && document.nodes[node[:aim]]
        other if other && other.id != node.id && other[:aim].nil? && !leaders(document, other).include?(node)
      end

      # Turned so that its z leads to a place, with its own turn on top.
      def facing(world, own, place)
        way = place.zip(world.position).map { |a, b| a - b }
        length = Math.sqrt(way.sum { |c| c * c })
        return world if length < 1e-9

        x, y, z = way.map { |c| c / length }
        look =
          Transform.place(
            turn: [-Math.asin(y.clamp(-1.0, 1.0)), Math.atan2(x, z), 0.0].map { |angle| angle * 180 / Math::PI }
          )
        Pose.new(world.position, (look * Transform.place(turn: own.turn)).angles, world.scale, world.at)
      end

      # A place among the dials of something that may go with a prop. @return [Array<Float>] in the world
      def point(document, node, dial, frame)
        leader = leader(document, node)
        own = node[dial, frame].zip(Shake.offset(document, node, dial, frame)).map(&:sum)
        return own unless leader

        pose = pose(document, leader, frame)
        pose.rigid.apply(own.map { |c| c * size(pose) })
      end

      # Where a box stands that does not move: as what it goes with has it on the first frame.
      # @return [Array<Float>] metres
      def stood(document, node) = point(document, node, :position, document.first_frame)

      # Where everything but props that goes with one, or shakes, is at each frame of the shot.
      # @return [Hash{String => Array<Array<Float>>}] by id
      def places(document)
        led =
          document.nodes.each_value.select do |node|
            node.kind.name != :prop && (leader(document, node) || Shake.shakes?(node))
          end
        led.to_h do |node|
          [
            node.id,
            (document.first_frame..document.last_frame).map do |frame|
              point(document, node, :position, frame).map { |c| c.round(4) }
            end
          ]
        end
      end

      # A way, which only turns along.
      def way(document, node, dial, frame)
        leader = leader(document, node)
        return node[dial, frame] unless leader

        turn = Transform.place(turn: pose(document, leader, frame).turn)
        turn.apply(node[dial, frame])
      end

      # @return [Array<Shot::Node>] the prop that it goes with, the one which that goes with, and so on
      def leaders(document, node)
        all = []
        while (node = leader(document, node)) && !all.include?(node)
          all << node
        end
        all
      end

      # What leads from where a thing's own dials are told into the world: what it goes with, as that stands at a frame.
      # @return [Transform]
      def ground(document, node, frame)
        leader = leader(document, node) or return Transform.identity
        pose = pose(document, leader, frame)
        Transform.place(position: pose.position, turn: pose.turn, scale: [size(pose)] * 3)
      end

      # Where it has to stand among its own dials to be at a place of the world.
      # @param world [Pose]; @return [Pose]
      def inside(document, node, world, frame)
        leader = leader(document, node)
        return steady(document, node, world, frame) unless leader

        pose = pose(document, leader, frame)
        back = pose.rigid.inverse
        size = size(pose)
        found =
          Pose.new(
            back.apply(world.position).map { |c| c / size }, (back * world.rigid).angles,
            world.scale.map { |c| c / size }
          )
        steady(document, node, found, frame)
      end

      # Where it stands by its dials, without its shake.
      def steady(document, node, pose, frame)
        position, turn =
          %i[position turn].map do |dial|
            pose[dial].zip(Shake.offset(document, node, dial, frame)).map { |a, b| a - b }
          end
        Pose.new(position, turn, pose.scale)
      end

      # @return [Shot::Node, nil] what it goes with
      def leader(document, node)
        id = node.kind.dials.key?(:leader) ? node[:leader] : nil
        id && document.nodes[id]
      end

      # One pose as seen from another, in the world.
      def on(pose, own)
        size = size(pose)
        Pose.new(
          pose.rigid.apply(own.position.map { |c| c * size }), (pose.rigid * own.rigid).angles,
          own.scale.map { |c| c * size }, own.at
        )
      end

      def own(document, node, frame)
        Pose.new(*%i[position turn scale].map { |dial|
          next (dial == :scale) ? [1.0] * 3 : [0.0] * 3 unless node.kind.dials.key?(dial)

          node[dial, frame].zip(Shake.offset(document, node, dial, frame)).map(&:sum)
        })
      end

      def size(pose) = Math.cbrt(pose.scale.reduce(:*).abs)
      private_class_method :on, :own, :size, :facing, :steady
    end
  end
end
