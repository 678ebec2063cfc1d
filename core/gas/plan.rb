# frozen_string_literal: true

require "digest"
require "json"

module Vumbral
  module Gas
    # What a run of a shot will do, as plain numbers: the grid, and the settings at each frame.
    # From these come the keys under which frames are stored.
    class Plan
      SIDES = %i[x0 x1 y0 y1 z0 z1].freeze
      LEAST_CELLS = 8
      # Working memory of a step, measured: fields, displacements, spare and scratch arrays.
      BYTES_PER_CELL = 190

      attr_reader :document, :quality, :size, :voxel, :corner, :open

      # @param document [Shot::Document]
      # @param quality [Symbol] :draft or :full
      def initialize(document, quality)
        @document = document
        @quality = quality
        chamber = document.the(:chamber)
        @voxel = chamber[:voxel] * ((quality == :draft) ? chamber[:draft] : 1.0)
        width, height, depth = chamber[:size]
        @size = [depth, height, width].map { |length| [(length / @voxel).round, LEAST_CELLS].max }
        x, y, z = chamber[:position]
        @corner = [x - 0.5 * @size[2] * @voxel, y, z - 0.5 * @size[0] * @voxel]
        @open = SIDES.to_h { |side| [side, chamber[:"open_#{side}"]] }
      end

      # Whether a source is on at a frame. @param node [Shot::Node]
      def self.feeds?(node, frame) = frame >= node[:first] && (node[:last].zero? || frame <= node[:last])

      def cells = @size.reduce(:*)

      # @return [Integer] bytes that a run will take at most
      def memory = cells * BYTES_PER_CELL

      def frames = @document.first_frame..@document.last_frame

      # What holds for the whole run.
      # @return [Hash] plain data
      def ground
        @ground ||= {"solver" => Solver::VERSION, "size" => @size, "voxel" => @voxel, "corner" => @corner, "open" => @open.transform_keys(&:to_s),
                     "seed" => @document.the(:general)[:seed], "solids" => solids}
      end

      # Props that stand in the way.
      def solids = @document.of(:prop).select { |node| node[:collider] }.map { |node| Geometry::Shapes.placed(node) }

      # Settings evaluated at a frame.
      # @return [Hash] plain data
      def at(frame)
        {"seconds" => 1.0 / @document.rate, "gas" => gas(frame), "sources" => sources(frame)}
      end

      # @return [Hash{Integer => String}] the key of each frame: a hash of the key before it and
      #   of the settings at it, so that runs which begin alike share their frames
      def keys
        @keys ||= begin
          key = digest(ground)
          frames.to_h { |frame| [frame, key = digest([key, at(frame)])] }
        end
      end

      private

      def digest(data) = Digest::SHA256.hexdigest(JSON.generate(data))[0, 32]

      def gas(frame)
        chamber = @document.the(:chamber)
        numbers = %i[ambient lift weight curl_boost stir stir_size stir_speed accuracy cells substeps_least substeps_most].to_h { |dial| [dial.to_s, chamber[dial, frame]] }
        numbers.merge("smoke_half" => chamber[:smoke_half, frame], "heat_half" => chamber[:heat_half, frame], "transport" => chamber[:transport])
      end

      def sources(frame)
        @document.of(:source).filter_map do |node|
          prop = node[:prop] && @document.nodes[node[:prop]]
          next unless prop && Plan.feeds?(node, frame)

          dials = %i[from skin smoke heats temperature breakup breakup_size breakup_speed strength]
          dials.to_h { |dial| [dial.to_s, node[dial, frame]] }.merge("prop" => Geometry::Shapes.placed(prop))
        end
      end
    end
  end
end
