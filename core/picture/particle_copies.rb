# frozen_string_literal: true

module Vumbral
  module Picture
    # Particles that are seen as copies of a prop: where each stands, how it has turned and how large it is.
    class ParticleCopies
      # More at once are not shown, the youngest first.
      MOST = 3000

      # @param document [Shot::Document]; @param meshes [#mesh] gives the mesh of a digest
      def initialize(document, meshes)
        @document = document
        @meshes = meshes
        @swarms = {}
      end

      # @return [Boolean] whether any emitter, or the liquid's spray, has them
      def any? = emitters.any? || !beaded.nil?

      # @param frame [Integer]
      # @return [Array<Hash>] as {PropScene.settings} has props
      def at(frame)
        emitters.flat_map do |node|
          base = shown(node[:shows], frame) or next []
          swarm = @swarms[node.id] ||= Particles::Swarm.new(Geometry::Throws.new(@document, node.id), @meshes)
          swarm.alive(frame, frame - 1).sort_by { |row| row[6] }.first(MOST).map { |row| copy(base, node, row, frame) }
        end + beads(frame)
      end

      private

      def emitters = @document.of(:emitter).select { |node| node[:shows] }

      # The liquid whose spray is seen as copies.
      def beaded = @document.of(:liquid).find { |node| node[:spray] && node[:beads] }

      # Sizes of spray, foam and bubbles, by the number of their kind.
      SIZES = [nil, :bead_spray, :bead_foam, :bead_bubble].freeze
      private_constant :SIZES

      def beads(frame)
        node, key = beaded, @document.made(frame)
        kept = node && key && @meshes.sprayed(key)
        base = kept && shown(node[:beads], frame) or return []
        ages, gone, kinds, ids = kept.ages.to_a, kept.gone.to_a, kept.kinds.to_a, kept.ids.to_a
        places, speeds = kept.places.to_a.each_slice(3).to_a, kept.speeds.to_a.each_slice(3).to_a
        curve = node[:bead_life].any? && node.ramp(:bead_life)
        kept.count.times.sort_by { |n| ages[n] }.first(MOST).filter_map { |n|
          size = node[SIZES[kinds[n]]] * life(curve, gone[n])
          bead(base, node, size, places[n], speeds[n], ids[n]) if size.positive?
        }
      end

      def life(curve, gone) = curve ? curve.at(gone)[0] : ((1.0 - gone) / 0.3).clamp(0.001, 1.0)

      # Each always has the same size and stands turned the same way.
      def bead(base, node, size, place, speed, id)
        random = (id * 0.618034) % 1.0
        scale = base["body"]["to"]["scale"].map { |c| c * size * (1.0 + node[:bead_vary] * (2.0 * random - 1.0)) }
        turned = turn(random, 0.0, 0.0)
        before = place.zip(speed).map { |c, v| c - v / @document.rate }
        base.merge(
          "body" => {
            "outline" => base["body"]["outline"], "to" => pose(place, turned, scale, base),
            "from" => pose(before, turned, scale, base)
          }
        )
      end

      # The prop as it is, whether or not it is shown itself.
      def shown(id, frame)
        node = @document.nodes[id]
        return unless node&.kind&.name == :prop

        document = @document.with_on(id, :shown)
        PropScene.settings(document, frame).find { |prop| prop["prop"] == id }
      end

      def copy(base, node, row, frame)
        gone, random = row[6], row[7]
        # It comes within a tenth of its life, and goes in the end.
        whole = [gone / 0.1, (1.0 - gone) / [node[:copy_fade], 1e-3].max, 1.0].min.clamp(0.001, 1.0)
        size = node[:copy_size] * (1.0 + node[:copy_vary] * (2.0 * random - 1.0)) * whole
        scale = base["body"]["to"]["scale"].map { |c| c * size }
        seconds = gone * node[:life]
        step = 1.0 / @document.rate
        now, before = [seconds, seconds - step].map { |time| turn(random, node[:tumble], time) }
        base.merge(
          "body" => {
            "outline" => base["body"]["outline"], "to" => pose(row[0, 3], now, scale, base),
            "from" => pose(row[3, 3], before, scale, base)
          }
        )
      end

      # Each begins turned some way and tumbles about all three axes, faster about some.
      def turn(random, tumble, seconds) =
        [1.0, 7.3, 31.7].map do |times|
          360.0 * ((random * times) % 1.0) + tumble * seconds * (0.4 + 1.2 * ((random * times * 3.1) % 1.0))
        end

      def pose(place, turn, scale, base) =
        base["body"]["to"].merge("position" => place, "turn" => turn, "scale" => scale)
    end
  end
end
