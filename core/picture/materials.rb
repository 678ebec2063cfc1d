# frozen_string_literal: true

module Vumbral
  module Picture
    # What props are made of, as rows of numbers that {GlossKernels} reads.
    module Materials
      WIDTH = 28
      AS = %w[whole catcher hole].freeze

      module_function

      # @param document [Shot::Document]; @param node [Shot::Node] a prop
      # @param textures [Array<String>] ids of the textures, in the order of their rows
      # @return [Array<Float>] without its picture, which {PropScene} puts in
      def row(document, node, frame, textures)
        place = ->(dial) { (textures.index(node[dial]) || -1).to_f }
        [
          node[:shine, frame], node[:rough, frame], node[:metal, frame],
          *node[:light_colour, frame].map { |c| c * node[:light, frame] }, place.call(:mixed_by),
          node[:mixed_much, frame], place.call(:bumps), node[:bump_height, frame], place.call(:roughened),
          node[:roughened_much, frame], -1.0, 0.0, 0.0, node[:opacity, frame], node[:even_lit] ? 1.0 : 0.0,
          node[:clear, frame], node[:bends, frame], *takes(node, frame), AS.index(node[:shown_as]).to_f,
          node[:receives] ? 1.0 : 0.0, place.call(:lit_by), node[:lit_much, frame], node[:stones], node[:stone_size]
        ]
      end

      # Of light that goes through a metre of it, how much is taken, as a rate.
      def takes(node, frame)
        return [0.0] * 3 if node[:clear, frame].zero?

        node[:clear_colour, frame].map { |c| -Math.log([c, 1e-4].max) / node[:clear_depth, frame] }
      end

      # @return [Boolean] whether one sees what is behind it, so that it is laid over that ({PaneKernels})
      def sheer?(node, frame) =
        node[:shown_as] == "catcher" || node[:opacity, frame] < 1.0 || (!node[:picture].nil? && node[:cut])
      private_class_method :takes
    end
  end
end
