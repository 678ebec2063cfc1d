# frozen_string_literal: true

module Vumbral
  module Picture
    # The particles of a shot's emitters as glowing streaks.
    class Sparks
      # @param document [Shot::Document]
      # @param meshes [#mesh] gives the mesh of a digest
      def initialize(document, meshes)
        @document = document
        @meshes = meshes
        @swarms = {}
      end

      # @return [Boolean] whether any emitter ever glows
      def any? = emitters.any?

      # @param frame [Integer]
      # @return [Kernel::Buffer] f32 [n, 10]: where each is, where its streak begins, its light red,
      #   green, blue, and its width (m)
      def at(frame)
        rows = emitters.flat_map do |node|
          swarm = @swarms[node.id] ||= Particles::Swarm.new(Geometry::Throws.new(@document, node.id), @meshes)
          glow, width, colour = node[:glow, frame], node[:width], node[:colour]
          swarm.alive(frame, frame - shutter(frame)).map { |row| streak(row, glow, width, colour) }
        end
        Kernel::Buffer.of(:f32, rows.flatten, rows.size, 10)
      end

      private

      # The streak is what the shutter sees; where there is to be no blur, one open for half of the frame.
      def shutter(frame)
        part = @document.the(:camera)[:shutter, frame] / 360.0
        part.positive? ? part : 0.5
      end

      def emitters = @document.of(:emitter).select { |node| node[:glow].positive? || node.curves.key?(:glow) }

      # Each dies away, and some are brighter than others.
      def streak(row, glow, width, colour)
        light = glow * (1.0 - row[6])**1.5 * (0.3 + 1.4 * row[7]**2)
        # What cools turns red.
        cool = [1.0, 1.0 - 0.5 * row[6], 1.0 - 0.8 * row[6]]
        row[0, 3] + row[3, 3] + colour.zip(cool).map { |a, b| a * b * light } + [width * (0.6 + 0.8 * row[7])]
      end
    end
  end
end
