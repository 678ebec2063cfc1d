# frozen_string_literal: true

module Vumbral
  module Picture
    # What props are made of, as rows of numbers that {GlossKernels} reads.
    module Materials
      WIDTH = 12

      module_function

      # @param document [Shot::Document]; @param node [Shot::Node] a prop
      # @param textures [Array<String>] ids of the textures, in the order of their rows
      # @return [Array<Float>]
      def row(document, node, frame, textures)
        place = ->(dial) { (textures.index(node[dial]) || -1).to_f }
        [node[:shine, frame], node[:rough, frame], node[:metal, frame], *node[:light_colour, frame].map { |c| c * node[:light, frame] },
          place.call(:mixed_by), node[:mixed_much, frame], place.call(:bumps), node[:bump_height, frame], place.call(:roughened), node[:roughened_much, frame]]
      end
    end
  end
end
