# frozen_string_literal: true

module Vumbral
  module Geometry
    # The maps of a thing as plain data, for {Maps::Layers}.
    module MapRows
      NUMBERS = %i[rise lasts fall position size radius reach soft grain octaves change level hard seed].freeze

      module_function

      # @param document [Shot::Document]; @param node [Shot::Node] what the maps belong to; @param frame [Numeric]
      # @param only [Shot::Node, nil] one map alone
      # @return [Array<Hash>] plain data, in order
      def of(document, node, frame, only: nil)
        return [row(document, only, frame)&.merge("how" => "plus", "opacity" => 1.0)].compact if only

        document
          .of(:map)
          .select { |map| map[:to] == node.id }
          .sort_by
          .with_index { |map, n| [map[:order], n] }
          .filter_map { |map| row(document, map, frame) }
      end

      def row(document, map, frame)
        row = {
          "name" => map.name, "what" => map[:what], "how" => map[:how], "opacity" => map[:opacity, frame],
          "inverted" => map[:inverted]
        }
        return row.merge("picture" => map[:picture]) if map[:what] == "picture"
        return row.merge("formula" => map[:formula], **seconds(document, frame)) if map[:what] == "formula"

        row =
          row.merge(
            NUMBERS.select { |dial| map.kind.dials[dial].counts?(map) }.to_h { |dial| [dial.to_s, map[dial, frame]] },
            seconds(document, frame)
          )
        row["space"] = map[:space] if map.kind.dials[:space].counts?(map)
        return near(document, map, row, frame) if map[:what] == "near"
        return row unless map[:what] == "front"

        front = document.nodes[map[:front]]
        front = nil unless front && document.on?(front)
        found = front && Front.row(document, front, frame)
        # Without its front it says nothing.
        found && row.merge("front" => found)
      end

      # With the prop that it is near to; without one it says nothing.
      def near(document, map, row, frame)
        prop = document.nodes[map[:near]]
        return unless prop && prop.id != map[:to] && document.on?(prop)

        row.merge("body" => Bodies.of(document, prop, frame)).merge(map[:heats] ? {"times" => heat(map, frame)} : {})
      end

      # How much of it there is by how hot that prop is, 0 to 1.
      def heat(map, frame) =
        ((map[:hot, frame] - map[:boils]) / [map[:boils_all] - map[:boils], 1e-6].max).clamp(0.0, 1.0)

      def seconds(document, frame) =
        {
          "frame" => frame, "time" => (frame - document.first_frame) / document.rate,
          "seed_of_shot" => document.the(:general)[:seed]
        }
      private_class_method :row, :near, :heat, :seconds
    end
  end
end
