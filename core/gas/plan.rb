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
      BYTES_PER_CELL = 280
      GAS = %i[ambient gravity lift weight fuel_weight outward smoke_spread heat_spread curl_boost curl_mask stir stir_size stir_speed stir_octaves stir_mask viscosity ignite burn_rate flame burn_heat burn_smoke burn_swell front front_size air
        cooling shield smoke_fade heat_fade fuel_fade transport accuracy cells substeps_least substeps_most].freeze
      FEED = %i[from skin point_size as smoke fuel heats warm_as temperature push coloured colour along velocity
        carried speed_as rough breakup breakup_size breakup_octaves breakup_speed fade map picture formula].freeze
      FORCE = %i[what strength grip direction size speed octaves mask falloff position line_end extent reach soft
        uneven uneven_size].freeze
      EMIT = %i[position start_size rate life direction speed spread drag fall stir stir_size].freeze

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

      # Beyond open sides a chamber that grows ends so many cells on, which is nowhere.
      FAR = 100_000

      # @return [Integer] that a run computes at most
      def cells = grows? ? (@document.the(:chamber)[:most] * 1e6).round : @size.reduce(:*)

      # @return [Boolean] whether the chamber goes past its box with its content
      def grows? = @document.the(:chamber)[:follow] && @document.the(:chamber)[:grow]

      # @return [Array(Array<Integer>, Array<Integer>)] first cell, and the one after the last, that may be
      #   computed, along z, y, x
      def bounds
        [%i[z0 y0 x0].map { |side| past?(side) ? -FAR : 0 }, %i[z1 y1 x1].zip(@size).map { |side, n|
          past?(side) ? n + FAR : n
        }]
      end

      # @return [Integer] bytes that a run will take at most
      def memory = cells * BYTES_PER_CELL

      def frames = @document.first_frame..@document.last_frame

      # @return [Boolean] whether the gas carries fuel; whether it carries colour
      def fuel? = sources_ever.any? { |node| node[:fuel].positive? || node.notches.key?(:fuel) }

      def colour? = sources_ever.any? { |node| node[:coloured] } || (fuel? && @document.the(:chamber)[:sooty])

      # @return [Boolean] whether fuel needs air to burn
      def air?
        chamber = @document.the(:chamber)
        fuel? && (chamber[:air].positive? || chamber.notches.key?(:air))
      end

      # What holds for the whole run.
      # @return [Hash] plain data
      def ground
        @ground ||= begin
          chamber = @document.the(:chamber)
          {"solver" => Solver::VERSION, "size" => @size, "voxel" => @voxel, "corner" => @corner, "open" => @open.transform_keys(&:to_s), "fuel" => fuel?, "colour" => colour?, "air" => air?,
           "seed" => @document.the(:general)[:seed], "follow" => chamber[:follow] && [chamber[:margin], chamber[:follow_speed]],
           "grow" => grows? && cells, "padding" => chamber[:padding]}
        end
      end

      # Settings evaluated at a frame.
      # @return [Hash] plain data
      def at(frame)
        chamber = @document.the(:chamber)
        {"seconds" => chamber[:time_scale, frame] / @document.rate, "gas" => GAS.to_h { |dial|
          [dial.to_s, chamber[dial, frame]]
        }.merge("soot" => chamber[:sooty] ? chamber[:soot, frame] : nil),
         "sources" => Sources.new(self, frame).to_a, "solids" => solids(frame), "forces" => forces(frame), "emitters" => emitters(frame)}
      end

      # @return [Hash{Integer => String}] the key of each frame: a hash of the key before it and
      #   of the settings at it, so that runs which begin alike share their frames
      def keys
        @keys ||= begin
          key = digest(ground)
          frames.to_h { |frame| [frame, key = hash_of("[\"#{key}\",#{text_at(frame)}]")] }
        end
      end

      # @return [Array<Hash>] what an emitter throws at a frame; empty when it is off
      def emission(id, frame)
        node = @document.nodes[id]
        return nil unless node && Shot::Timing.on?(node, frame)

        EMIT.to_h { |dial| [dial.to_s, node[dial, frame]] }.merge("bodies" => bodies(node[:prop], frame))
      end

      # @return [Array<Hash>] of one prop, empty where there is none
      def bodies(id, frame)
        prop = id && @document.nodes[id]
        prop ? [Geometry::Bodies.of(@document, prop, frame)] : []
      end

      private

      def past?(side) = grows? && @open[side]

      def sources_ever = @document.of(:source)

      def digest(data) = hash_of(JSON.generate(data))

      def hash_of(text) = Digest::SHA256.hexdigest(text)[0, 32]

      # The settings at a frame as text. In a shot where nothing moves they differ only by what is on.
      def text_at(frame)
        return JSON.generate(at(frame)) unless still?

        (@texts ||= {})[acting(frame)] ||= JSON.generate(at(frame))
      end

      def still?
        return @still unless @still.nil?

        @still = @document.nodes.each_value.none? { |node| node.notches.any? || Geometry::Breaking.breaks?(node) }
      end

      # Which sources (with their copies), forces and emitters are on at a frame.
      def acting(frame)
        @timed ||= @document.of(:source) + @document.of(:force) + @document.of(:emitter)
        @timed.map do |node|
          next Shot::Timing.on?(node, frame) unless node.kind.name == :source

          (0...node[:copies]).map { |n| Shot::Timing.on?(node, frame - n * node[:step_frames]) }
        end
      end

      def solids(frame)
        @document.of(:prop).select { |node| node[:collider] }.map do |node|
          Geometry::Bodies.of(@document, node, frame).merge("shell" => (node[:body] == "shell") ? node[:shell] : 0.0,
            "friction" => node[:friction])
        end
      end

      def forces(frame)
        @document.of(:force).select { |node| Shot::Timing.on?(node, frame) }.map do |node|
          FORCE.to_h { |dial|
            [dial.to_s, node[dial, frame]]
          }.merge("bodies" => (node[:what] == "cling") ? bodies(node[:prop], frame) : [])
        end
      end

      def emitters(frame)
        used = sources_ever.select { |node| node[:from] == "particles" }.filter_map { |node| node[:emitter] }.uniq
        used.to_h { |id| [id, emission(id, frame)] }
      end
    end
  end
end
