# frozen_string_literal: true

module Vumbral
  module Maps
    # The textures of a shot as rows of numbers, as {TextureKernels} reads them.
    module Textures
      # Numbers of a row; from {RAMP} on {STOPS} values of its ramp.
      WIDTH, RAMP, STOPS = 64, 32, 32
      KINDS = %w[noise cells bands stripes fall].freeze
      BASES = %w[soft billows ridges].freeze
      MEASURES = %w[nearest second edges].freeze
      SHAPES = %w[plane point line].freeze
      COURSES = %w[straight square soft].freeze

      module_function

      # @param document [Shot::Document]; @param frame [Numeric]
      # @return [Hash{String => Array<Float>}] rows by the textures' ids
      def rows(document, frame) = document.of(:texture).to_h { |node| [node.id, row(document, node, frame)] }

      # @return [Array<Float>]
      def row(document, node, frame)
        seconds = (frame - document.first_frame) / document.rate
        numbers = [KINDS.index(node[:what]).to_f, *space(document, node, frame, seconds), node[:seed].to_f, seconds * node[:change], node[:octaves].to_f, which(node), *shape(node),
          node[:brightness, frame], node[:gamma, frame], node[:contrast, frame], node[:inverted] ? 1.0 : 0.0, node[:factor, frame], node[:cell_value], node[:gap_value], node[:ramp].empty? ? 0.0 : 1.0]
        numbers.fill(0.0, numbers.size...RAMP) + ramp(node)
      end

      # From the world to where its features are one wide: three rows of four.
      def space(document, node, frame, seconds)
        place = node[:offset, frame].zip(node[:drift]).map { |from, speed| from + seconds * speed }
        scale = node[:stretch, frame].map { |factor| factor * node[:size, frame] }
        own = Geometry::Transform.place(position: place, turn: node[:turn, frame], scale: scale)
        prop = document.nodes[node[:follows]]
        whole = prop ? Geometry::Hanging.pose(document, prop, frame).rigid * own : own
        whole.inverse.rows.flatten.first(12)
      end

      def which(node)
        case node[:what]
        when "cells" then MEASURES.index(node[:measure]).to_f
        when "stripes" then node[:round] ? 1.0 : 0.0
        when "fall" then SHAPES.index(node[:shape]).to_f
        else BASES.index(node[:basis]).to_f
        end
      end

      def shape(node)
        case node[:what]
        when "cells" then [node[:gap], 0.0, 0.0]
        when "bands" then [node[:folds], node[:band], node[:edge]]
        when "stripes" then [node[:bend], node[:band], node[:edge]]
        when "fall" then [COURSES.index(node[:course]).to_f, 0.0, 0.0]
        else [0.0, 0.0, 0.0]
        end
      end

      def ramp(node)
        return [0.0] * STOPS if node[:ramp].empty?

        ramp = Shot::Ramp.new(node[:ramp])
        Array.new(STOPS) { |n| ramp.at(n / (STOPS - 1.0))[0] }
      end
      private_class_method :space, :which, :shape, :ramp
    end
  end
end
