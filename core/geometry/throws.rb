# frozen_string_literal: true

module Vumbral
  module Geometry
    # What an emitter throws frame by frame, as plain data: all that {Particles::Swarm} goes by.
    class Throws
      DIALS = %i[position start_size rate life direction speed spread drag fall stir stir_size].freeze

      attr_reader :first, :seed, :rate

      # @param document [Shot::Document]; @param id [String] of the emitter
      def initialize(document, id)
        @document, @id = document, id
        @first, @rate = document.first_frame, document.rate
        @seed = document.the(:general)[:seed] * 131 + id.sum
      end

      # @return [Hash, nil] at a frame; nil where it is off
      def at(frame)
        node = @document.nodes[@id]
        return unless node && @document.on?(node) && node.acting?(frame)
        return if node[:prop] && !@document.on?(@document.node(node[:prop]))

        maps = MapRows.of(@document, node, frame)
        DIALS
          .to_h { |dial| [dial.to_s, led(node, dial, frame)] }
          .merge("bodies" => bodies(node[:prop], frame))
          .merge(maps.empty? ? {} : {"maps" => maps})
      end

      # @return [Hash] all of it up to a frame
      def to_h(frame) =
        {"first" => @first, "rate" => @rate, "seed" => @seed, "rows" => (@first..frame.ceil).map { |n| at(n) }}

      # The same from what {#to_h} came to.
      Kept = Struct.new(:first, :rate, :seed, :rows) do
        def self.of(data) = new(*data.values_at("first", "rate", "seed", "rows"))

        def at(frame) = rows[frame - first]
      end

      private

      # Places and ways of what goes with a prop are as that has them.
      def led(node, dial, frame)
        case dial
        when :position then Hanging.point(@document, node, dial, frame)
        when :direction then Hanging.way(@document, node, dial, frame)
        else node[dial, frame]
        end
      end

      def bodies(id, frame)
        prop = id && @document.nodes[id]
        prop ? [Bodies.of(@document, prop, frame)] : []
      end
    end
  end
end
