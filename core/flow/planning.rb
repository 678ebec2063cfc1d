# frozen_string_literal: true

require "digest"
require "json"

module Vumbral
  module Flow
    # What plans of gas and of liquid have in common: the settings of a shot at a frame as plain data, and the keys
    # under which frames are stored. Who includes it has `document`, `ground` (plain data that holds for the whole run),
    # `at` (the settings at a frame), `feeding` (the kind of node that feeds it) and `acts_on`.
    module Planning
      SIDES = %i[x0 x1 y0 y1 z0 z1].freeze
      FORCE = %i[what strength grip direction size speed octaves mask falloff position line_end extent reach soft
        uneven uneven_size].freeze

      def frames = @document.first_frame..@document.last_frame

      # @return [Hash{Integer => String}] the key of each frame: a hash of the key before it and
      #   of the settings at it, so that runs which begin alike share their frames
      def keys = @keys ||= chain

      # @return [Array<Hash>] of one prop, empty where there is none or it is switched off
      def bodies(id, frame)
        prop = id && @document.nodes[id]
        (prop && there?(prop)) ? [Geometry::Bodies.of(@document, prop, frame)] : []
      end

      # The texture that a force, or finer detail, is strong by.
      # @return [Hash] "texture", or nothing
      def pattern(node, frame)
        texture = @document.nodes[node[:texture]]
        (texture && there?(texture)) ? {"texture" => Geometry::Textures.row(@document, texture, frame)} : {}
      end

      private

      def chain
        key = digest(ground)
        frames.to_h { |frame| [frame, key = hash_of("[\"#{key}\",#{text_at(frame)}]")] }
      end

      # Places and ways of what goes with a prop are as that has them.
      def led(node, dial, frame)
        case dial
        when :position, :line_end then Geometry::Hanging.point(@document, node, dial, frame)
        when :direction then Geometry::Hanging.way(@document, node, dial, frame)
        else node[dial, frame]
        end
      end

      def open_of(node) = SIDES.to_h { |side| [side, node[:"open_#{side}"]] }

      # Asked for every source on every frame.
      def there?(node) = (@there ||= {}).fetch(node.id) { |id| @there[id] = @document.on?(node) }

      def digest(data) = hash_of(JSON.generate(data))

      def hash_of(text) = Digest::SHA256.hexdigest(text)[0, 32]

      # The settings at a frame as text. In a shot where nothing moves they differ only by what is on.
      def text_at(frame)
        return JSON.generate(at(frame)) unless still?

        (@texts ||= {})[acting(frame)] ||= JSON.generate(at(frame))
      end

      def still?
        return @still unless @still.nil?

        @still = @document.nodes.each_value.none? { |node| Geometry::Bodies.changes?(node) }
      end

      # Which sources (with their copies), forces and emitters are on at a frame.
      def acting(frame)
        @timed ||= [feeding, :force, :emitter, :kick].flat_map { |kind| @document.of(kind) }
        @timed.map do |node|
          next Shot::Timing.on?(node, frame) unless node.kind.name == feeding

          (0...node[:copies]).map { |n| Shot::Timing.on?(node, Shot::Timing.own_frame(node, n, frame)) }
        end
      end

      def solids(frame)
        @document.of(:prop).select { |node| node[:collider] }.map do |node|
          Geometry::Bodies.of(@document, node, frame).merge(standing(node, frame))
        end
      end

      # How a prop stands in the way.
      def standing(node, _frame) =
        {"shell" => (node[:body] == "shell") ? node[:shell] : 0.0, "friction" => node[:friction]}

      def forces(frame)
        @document.of(:force).select { |node| Shot::Timing.on?(node, frame) && acts?(node) }.map do |node|
          FORCE
            .to_h { |dial| [dial.to_s, led(node, dial, frame)] }
            .merge("bodies" => (node[:what] == "cling") ? bodies(node[:prop], frame) : [])
            .merge(pattern(node, frame), (node[:what] == "spray") ? {"spray" => @document.made(frame)} : {})
        end
      end

      # What goes along with a liquid's spray is gas.
      def acts?(node) = ["all", acts_on].include?(node[:acts_on]) && (node[:what] != "spray" || acts_on == "gas")

      def emitters(frame)
        used =
          @document.of(feeding).select { |node| node[:from] == "particles" }.filter_map { |node| node[:emitter] }.uniq
        used.to_h { |id| [id, Geometry::Throws.new(@document, id).at(frame)] }
      end
    end
  end
end
