# frozen_string_literal: true

module Vumbral
  module Finish
    # The layers of a shot at a frame, as plain data.
    class Stack
      # What of a node says nothing about the picture.
      BESIDE = %i[order layer to use parent hidden].freeze

      # @param document [Shot::Document]
      # @param plates [#plate, #shot] facts of a plate by its digest: "frames" and "rate"; and another shot by its id
      def initialize(document, plates)
        @document = document
        @plates = plates
        picture = document.the(:picture)
        @shape = picture[:width].fdiv(picture[:height])
      end

      # @return [Boolean] whether the shot is finished with layers at all
      def self.any?(document) = document.of(:layer).any?

      # @return [Array<Hash>] lowest first: "id", its dials by name, "at" (its own frames with their shares), "spot"
      #   (where its middle goes), "steady", "effects" and "masks"; of the shot's own picture "behind", whether with
      #   what stands behind everything
      def at(frame)
        found = ordered(:layer).filter_map do |node|
          clock = clock(node, frame)
          next if clock && clock.empty?

          dials(node, frame).merge(
            "id" => node.id,
            "at" => clock,
            "spot" => spot(node[:follows], frame)&.first(2),
            "steady" => steady(node, frame),
            "pair" => pair(node, frame),
            "pinned" => pinned(node, frame),
            "lit" => lit(node),
            "frame" => frame,
            "moved_with" => above(node, frame),
            "before" => before(node, frame),
            "masks" => masks(node, frame),
            "effects" =>
              ordered(:effect).select { |effect| effect[:layer] == node.id }.map { |effect| effect(effect, frame) }
          )
        end
        # What stands behind everything comes in with the lowest, unless a layer says otherwise.
        found.each_with_index.map { |layer, n|
          if %w[shot other].include?(layer["what"])
            layer.merge(
              "behind" => (layer["backdrop"] == "below") ? n.zero? : layer["backdrop"] == "always",
              "deep" => found.any? { |other| other["blend"] == "nearer" }
            )
          else
            layer
          end
        }
      end

      # @param layer_id [String]
      # @return [Array<Hash>] masks of what tracking passes over there, as those of {#at}
      def ignored(layer_id, frame)
        ordered(:mask)
          .select { |mask| mask[:to] == layer_id && ignored?(mask, @document.node(layer_id)) }
          .map { |mask| masked(mask, frame) }
      end

      # @return [Array<Float>, nil] how far a thing has gone since the first frame, parts of the frame
      def drift(id, frame)
        now, first = [frame, @document.first_frame].map { |at| spot(id, at)&.first(2) }
        now && first && now.zip(first).map { |a, b| a - b }
      end

      private

      # What is needed to place the layers that it is moved with, the nearest first; one in a circle ends there.
      def above(node, frame, seen = [node.id])
        parent = @document.nodes[node[:parent]]
        return [] if parent.nil? || seen.include?(parent.id)

        told = %i[x y scale turn].to_h { |dial| [dial.to_s, parent[dial, frame]] }
        [
          told.merge(
            "fit" => "stretch", "spot" => spot(parent[:follows], frame)&.first(2), "steady" => steady(parent, frame),
            "pair" => pair(parent, frame), "pinned" => pinned(parent, frame)
          )
        ] + above(parent, frame, seen + [parent.id])
      end

      # How far away what it goes with is, metres, and which prop that is, for others to hide it.
      def before(node, frame)
        far = node[:hidden] && spot(node[:follows], frame)&.last
        far && {"far" => far, "prop" => node[:follows]}
      end

      # Which of the suns and lamps shine for it, as the renderer counts them. @return [Array<Integer>, nil] nil for all
      def lit(node)
        return unless node[:what] == "shot" && node[:lamps].any?

        all = (@document.of(:sun) + @document.of(:lamp)).map(&:id)
        node[:lamps].filter_map { |id| all.index(id) }
      end

      # Where a spot that is held still is now and was on the first frame.
      def steady(node, frame)
        both = [frame, @document.first_frame].map { |at| spot(node[:steadied], at)&.first(2) }
        both if both.all?
      end

      # How much farther apart than on the first frame two spots are, and by how much the way from one to the other has
      # turned.
      # @return [Array(Float, Float), nil] a factor and degrees
      def pair(node, frame)
        ids = [node[:follows] || node[:steadied], node[:also]]
        seen = [frame, @document.first_frame].map { |at| ids.map { |id| spot(id, at) } }
        return unless seen.all?(&:all?)

        now, first = seen.map { |spots| apart(*spots) }
        (first[0] < 1e-6) ? nil : [now[0] / first[0], now[1] - first[1]]
      end

      def apart(one, other)
        x, y = (other[0] - one[0]) * @shape, other[1] - one[1]
        [Math.hypot(x, y), Math.atan2(y, x) * 180.0 / Math::PI]
      end

      def pinned(node, frame)
        spots = node[:corners].filter_map { |id| spot(id, frame)&.first(2) }
        spots if spots.size == 4
      end

      def ordered(kind) =
        (@ordered ||= {})[kind] ||= @document.of(kind).sort_by.with_index { |node, n| [node[:order], n] }

      def dials(node, frame)
        # What does not count is not told, so that it makes nothing anew.
        node.kind.dials.each_value.reject { |dial| BESIDE.include?(dial.name) || !dial.counts?(node) }
          .to_h { |dial| [dial.name.to_s, node[dial.name, frame]] }
      end

      def effect(node, frame)
        moved = {"frame" => frame, "rate" => @document.rate} if %w[grain dust shimmer].include?(node[:what])
        moved = {"bend" => Spots.bend(@document, frame)} if %w[straight bent].include?(node[:what])
        moved = moved.merge(farther(node, frame)) if node[:what] == "shimmer"
        dials(node, frame).merge(moved || {}, "spot" => spot(node[:lamp], frame), "masks" => masks(node, frame))
      end

      def masks(owner, frame)
        ordered(:mask)
          .select { |mask| mask[:to] == owner.id && !ignored?(mask, owner) }
          .map { |mask| masked(mask, frame) }
      end

      def masked(mask, frame)
        dials(mask, frame).merge("drift" => drift(mask[:follows], frame)).merge(
          textured(mask, frame), clean(mask, frame)
        )
      end

      # What a texture is like at a frame.
      def textured(mask, frame)
        node = (mask[:what] == "texture") ? @document.nodes[mask[:texture]] : nil
        node ? {"row" => {offset: node[:offset, frame], texture: Geometry::Textures.row(@document, node, frame)}} : {}
      end

      # Heat that has come nearer has larger waves, which bend farther.
      def farther(node, frame)
        now, first = [frame, @document.first_frame].map { |at| spot(node[:near_as], at)&.last }
        return {} unless now && first

        {"waves" => node[:waves, frame] * first / now, "far" => node[:far, frame] * first / now}
      end

      # The frame of the empty plate that goes with a frame of the shot.
      def clean(mask, frame)
        facts = (mask[:what] == "differs" && mask[:clean]) ? @plates.plate(mask[:clean]) : nil
        facts ? {"clean_at" => (frame - @document.first_frame).clamp(0, facts["frames"] - 1)} : {}
      end

      def ignored?(mask, owner) = mask[:use] == "tracking" && owner.kind.name == :layer

      def spot(id, frame)
        node = id && @document.nodes[id]
        node && Spots.of(@document, node, frame, @shape)
      end

      # @return [Array(Array(Integer, Float)), nil] frames of its own and how much of each is seen; nil for what has
      #   none
      def clock(node, frame)
        case node[:what]
        when "shot"
          frames(node, frame, @document.first_frame, @document.last_frame - @document.first_frame + 1, 1.0)
        when "other"
          other = node[:shot] && @plates.shot(node[:shot])
          if other
            frames(
              node, frame, other.first_frame, other.last_frame - other.first_frame + 1,
              node[:own_rate] ? other.rate / @document.rate.to_f : 1.0
            )
          else
            []
          end
        when "plate"
          facts = node[:plate] && @plates.plate(node[:plate])
          if facts
            frames(
              node, frame, 0, facts["frames"],
              (node[:own_rate] && facts["rate"]) ? facts["rate"] / @document.rate.to_f : 1.0
            )
          else
            []
          end
        end
      end

      def frames(node, frame, first, count, pace)
        begins = @document.first_frame + node[:later]
        gone = Shot::Timing.gone(@document, node, :speed, frame) - Shot::Timing.gone(@document, node, :speed, begins)
        at = within((gone * @document.rate * pace).round(6), count, node[:after]) or return []
        low = node[:between] ? at.floor : at.round
        part = node[:between] ? (at - low).round(4) : 0.0
        high = if low + 1 < count
          low + 1
        else
          ((node[:after] == "loop") ? 0 : low)
        end
        part.zero? ? [[first + [low, count - 1].min, 1.0]] : [[first + low, 1.0 - part], [first + high, part]]
      end

      def within(at, count, after)
        last = count - 1
        case after
        when "loop" then at % count
        when "bounce" then last.zero? ? 0.0 : last - (at % (2.0 * last) - last).abs
        when "nothing" then at.between?(-0.5, last + 0.4999) ? at.clamp(0.0, last) : nil
        else at.clamp(0.0, last)
        end
      end
    end
  end
end
