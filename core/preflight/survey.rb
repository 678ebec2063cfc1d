# frozen_string_literal: true

module Vumbral
  module Preflight
    # Looks a shot over before it is run. Cheap enough to be asked for after every change: nothing is
    # simulated, and moving things are looked at on some frames only.
    class Survey
      CHECKS = [Feeding, Pouring, Placing, Moving, Building, Breaking, Joining, Resting, Lighting, Fogs, Sculpting,
        Viewing, Formulas, Fronts, Timing, Finishing].freeze
      # On so many frames things that move are looked at.
      LOOKS = 24

      attr_reader :document, :plan, :meshes

      # @param document [Shot::Document]
      # @param meshes [#mesh] gives the mesh of a digest
      def initialize(document, meshes)
        @document = document
        @meshes = meshes
        @plan = Gas::Plan.new(document, :draft)
      end

      # @return [Array<Finding>] what weighs most first
      def findings = CHECKS.flat_map { |check| check.new(self).findings }

      # @return [Array<Integer>] frames spread over the shot, the first and last among them
      def frames
        @frames ||= begin
          first, last = document.first_frame, document.last_frame
          count = [LOOKS, last - first + 1].min
          (0...count).map { |n| (count > 1) ? first + (n * (last - first) / (count - 1)) : first }.uniq
        end
      end

      # @return [Array<Shot::Node>] sources that have something to come from
      def feeding = document.of(:source).select { |source| origin?(source) }

      # @return [Boolean] whether a source has a prop or an emitter that counts
      def origin?(source) = origins(source).any? { |node| document.on?(node) }

      # @return [Array<Shot::Node>] what is chosen for a source, switched off or not
      def origins(source)
        ids = (source[:from] == "particles") ? [source[:emitter]] : [source[:prop], *source[:also]]
        ids.compact.uniq.map { |id| document.node(id) }
      end

      # @return [Array<Shot::Node>] what a source feeds from
      def props_of(source) = [source[:prop], *source[:also]].compact.uniq.map { |id| document.node(id) }
        .select { |node| document.on?(node) }

      # @return [Array<Integer>] frames of the shot on which a source feeds
      def active(source)
        @active ||= {}
        @active[source.id] ||= (document.first_frame..document.last_frame).select do |frame|
          Shot::Timing.strength(source, frame).positive?
        end
      end

      # @return [Array(Array<Float>, Array<Float>)] lowest and highest corner of a prop at a frame, metres
      def bounds(prop, frame)
        low, high = own_bounds(prop, frame)
        place = Geometry::Pose.of(Geometry::Bodies.pose(prop, frame, document)).transform
        corners = 8.times.map { |n| place.apply(3.times.map { |a| (n >> a & 1).zero? ? low[a] : high[a] }) }
        [corners.transpose.map(&:min), corners.transpose.map(&:max)]
      end

      # The shot's liquid may come to anywhere in its box, of which nothing is known before it was run.
      def own_bounds(prop, frame)
        pool = (prop[:shape] == "liquid" && !prop[:kept]) ? Liquid::Plan.of(document, :draft) : nil
        if pool
          pool.box(1.0).then { |box| [box[:corner], box[:corner].zip(box[:size]).map(&:sum)] }
        else
          shape(prop, frame).bounds
        end
      end
      private :own_bounds

      # @return [Geometry::Mesh] a prop's own shape, as it is at a frame
      def shape(prop, frame = nil)
        @shapes ||= {}
        at = Geometry::Shapes.plays?(prop) ? Geometry::Bodies.at(prop, frame || document.first_frame) : nil
        @shapes[[prop.id, at]] ||= Geometry::Shapes.build(plain(prop), meshes, at)
      end

      # What is done to a shape changes little of where it is, and may take long.
      def plain(prop) =
        Geometry::Shapes
          .outline(prop)
          .then { |outline| outline["plays"] ? outline.merge("plays" => [document.rate, prop[:plays_after]]) : outline }
      private :plain

      # @return [Array<Array(Array<Float>, Array<Float>)>] lowest and highest corner of each chamber
      def boxes
        plan.boxes.map { |box| [box[:corner], box[:corner].zip(box[:size]).map { |c, n| c + n * plan.voxel }] }
      end
    end
  end
end
