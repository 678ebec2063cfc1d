# frozen_string_literal: true

module Vumbral
  module Grid
    # A sparse copy of a frame: only the bricks of 16³ cells that hold something, in half
    # precision. `places` i32 [n, 3] (brick along z, y, x), `values` f16 [n, channels, 4096].
    class Bricks
      EDGE = 16
      CHANNELS = %i[smoke heat x y z].freeze

      attr_reader :size, :places, :values

      def initialize(size, places, values)
        @size = size
        @places = places
        @values = values
      end

      # @param state [Gas::State] smoke, heat and its velocity brought to centres are kept
      def self.pack(state)
        size = state.size
        counts = size.map { |n| (n + EDGE - 1) / EDGE }
        filled = Kernel::Buffer.new(:u8, *counts)
        BrickKernels.find(filled, state.smoke, state.heat)
        marks = filled.bytes.bytes
        places = marks.each_index.select { |n| marks[n] == 1 }.map { |n| [n / (counts[1] * counts[2]), n / counts[2] % counts[1], n % counts[2]] }
        list = Kernel::Buffer.of(:i32, places.flatten, places.size, 3)
        values = Kernel::Buffer.new(:f16, places.size, CHANNELS.size, EDGE**3)
        BrickKernels.fill(values, list, state.smoke, state.heat, state.u, state.v, state.w) unless places.empty?
        new(size, list, values)
      end

      def count = @places.dim(0)

      # @param channel [Symbol] :smoke, :heat, or the velocity's :x, :y, :z
      # @return [Kernel::Buffer] f32 [z, y, x]
      def field(channel)
        out = Kernel::Buffer.new(:f32, *@size)
        BrickKernels.spread(out, @values, @places, CHANNELS.index(channel)) unless count.zero?
        out
      end
    end
  end
end
