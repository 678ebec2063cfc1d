# frozen_string_literal: true

module Vumbral
  module Sculpt
    # What sculpts are made by, as plain data.
    module Recipe
      module_function

      # @param document [Shot::Document]; @param frame [Numeric]
      # @return [Array<Hash>] one for each sculpt that has something to begin with
      def of(document, frame) = document.of(:sculpt).filter_map { |node| one(document, node, frame) }

      # @return [Hash, nil]
      def one(document, node, frame)
        props = [node[:prop], *node[:also]].compact.uniq.filter_map { |id| document.nodes[id] }.select { |prop| document.on?(prop) }
        return if props.empty?

        {"voxel" => node[:voxel], "room" => node[:room], "bodies" => props.map { |prop| Geometry::Bodies.of(document, prop, frame) },
         "steps" => steps(document, node).filter_map { |step| step(document, step, frame) }}
      end

      # @return [Array<Shot::Node>] of a sculpt, in their order
      def steps(document, node) = document.of(:step).select { |step| step[:sculpt] == node.id }.sort_by.with_index { |step, n| [step[:order], n] }

      # Those that do nothing are left out.
      def step(document, node, frame)
        row = {"what" => node[:what], "strength" => node[:strength, frame]}
        return if row["strength"].zero?

        case node[:what]
        when "combine"
          other = document.nodes[node[:other]]
          other && row.merge(numbers(node, frame, :blend)).merge("how" => node[:how], "body" => Geometry::Bodies.of(document, other, frame))
        when "texture"
          texture = document.nodes[node[:texture]]
          texture && row.merge(numbers(node, frame, :factor, :offset)).merge("sum" => node[:sum], "row" => Geometry::Textures.row(document, texture, frame))
        else row.merge(plain(document, node, frame))
        end
      end

      # Steps that need nothing besides their own dials.
      def plain(document, node, frame)
        seconds = (frame - document.first_frame) / document.rate
        case node[:what]
        when "density" then numbers(node, frame, :inside, :outside, :whole)
        when "grow" then numbers(node, frame, :by)
        when "shell" then numbers(node, frame, :wall)
        when "number" then numbers(node, frame, :amount).merge("sum" => node[:sum])
        when "formula" then {"formula" => node[:formula], "frame" => frame, "time" => seconds, "seed" => document.the(:general)[:seed]}
        when "warp" then numbers(node, frame, :size, :far).merge("seed" => node[:seed], "time" => seconds * node[:change])
        when "blur" then numbers(node, frame, :radius)
        when "median" then {"cells" => node[:cells]}
        else numbers(node, frame, :low, :high)
        end
      end

      def numbers(node, frame, *dials) = dials.to_h { |dial| [dial.to_s, node[dial, frame]] }
      private_class_method :one, :step, :plain, :numbers
    end
  end
end
