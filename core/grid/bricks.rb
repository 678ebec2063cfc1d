# frozen_string_literal: true

module Vumbral
  module Grid
    # A sparse copy of a frame: only the bricks of 16³ cells that hold something, in half
    # precision. `places` i32 [n, 3] (brick along z, y, x), `values` f16 [n, channels, 4096]. The
    # grid is the part of the chamber that was computed; it begins at cell `origin`.
    class Bricks
      EDGE = 16
      # Every frame has these; fuel and colour (smoke times colour) are there where the gas has them.
      ALWAYS = %i[smoke heat x y z pressure].freeze
      # Velocity stays on faces, so that it makes no gas here either: each cell keeps its lower ones.
      FACES = {x: :u, y: :v, z: :w}.freeze
      # What is nearer to nothing is not kept.
      LEAST = {smoke: 2e-4, heat: 0.5, fuel: 2e-4}.freeze

      attr_reader :size, :places, :values, :channels, :origin

      def initialize(size, places, values, channels: ALWAYS, origin: [0, 0, 0])
        @size = size
        @places = places
        @values = values
        @channels = channels
        @origin = origin
      end

      # @param state [Gas::State]; @param padding [Integer] cells around the content that are kept too
      def self.pack(state, padding: 0)
        channels = ALWAYS + %i[fuel red green blue burning].select { |name| state[name] }
        fields = channels.to_h { |name| [name, state[FACES[name] || name]] }
        fields[:age] = age(state) if state.aged
        gather(state.size, state.origin, fields, padding: padding)
      end

      # @param states [Array<Gas::State>] that have no cell in common
      # @return [Bricks] of all, on the grid around them
      def self.pack_all(states, padding: 0)
        return pack(states[0], padding: padding) if states.size == 1

        parts = states.map { |state| pack(aligned(state), padding: padding) }
        low = parts.map(&:origin).transpose.map(&:min)
        high = parts.map { |part| part.origin.zip(part.size).map(&:sum) }.transpose.map(&:max)
        rows =
          parts.map do |part|
            part
              .places
              .to_a
              .each_slice(3)
              .map { |place| place.zip(part.origin, low).map { |b, o, l| b + (o - l) / EDGE } }
          end
        places = rows.flatten(1).uniq.sort
        number = places.each_with_index.to_h
        values = Kernel::Buffer.new(:f16, places.size, parts[0].channels.size, EDGE**3)
        parts.zip(rows) do |part, list|
          if list.any?
            BrickKernels.add(values, part.values, Kernel::Buffer.of(:i32, list.map { |place| number[place] }))
          end
        end
        new(
          high.zip(low).map { |b, a| b - a }, Kernel::Buffer.of(:i32, places.flatten, places.size, 3), values,
          channels: parts[0].channels, origin: low
        )
      end

      # How long ago the smoke came, s; around it that of what is nearest.
      def self.age(state) =
        Kernel::Buffer.new(:f32, *state.size).tap { |age| BrickKernels.age(age, state.aged, state.smoke, state.time) }

      # The same gas on a grid of whole bricks.
      def self.aligned(state)
        low = state.origin.map { |c| c.div(EDGE) * EDGE }
        size = state.origin.zip(state.size, low).map { |o, n, l| (o + n - l + EDGE - 1) / EDGE * EDGE }
        state.moved_to(low, size)
      end
      private_class_method :aligned, :age

      # @param fields [Hash{Symbol => Kernel::Buffer}] by channel; at centres, or on faces one longer
      #   along their own axis
      def self.gather(size, origin, fields, padding: 0)
        counts = size.map { |n| (n + EDGE - 1) / EDGE }
        filled = Kernel::Buffer.new(:u8, *counts)
        LEAST.each { |name, least| BrickKernels.find(filled, fields[name], least, padding) if fields[name] }
        marked(filled, size, fields.keys, origin).tap do |bricks|
          if bricks.count.positive?
            fields.each_value.with_index { |field, n| BrickKernels.fill(bricks.values, bricks.places, n, field) }
          end
        end
      end

      # Empty bricks, to be filled.
      # @yieldparam marks [Kernel::Buffer] u8 [bricks along z, y, x], to be set to 1 where there shall be any
      # @return [Bricks]
      def self.sparse(size, channels)
        marks = Kernel::Buffer.new(:u8, *size.map { |n| (n + EDGE - 1) / EDGE })
        yield marks
        marked(marks, size, channels, [0, 0, 0])
      end

      def self.marked(filled, size, channels, origin)
        marks = filled.bytes.bytes
        _, rows, across = filled.shape
        places =
          marks.each_index.select { |n| marks[n] == 1 }.map { |n| [n / (rows * across), n / across % rows, n % across] }
        new(
          size, Kernel::Buffer.of(:i32, places.flatten, places.size, 3),
          Kernel::Buffer.new(:f16, places.size, channels.size, EDGE**3), channels: channels, origin: origin
        )
      end
      private_class_method :marked

      def count = @places.dim(0)

      # @return [Kernel::Buffer] i32 [bricks along z, y, x], the number of each, -1 where there is none
      def numbers
        Kernel::Buffer
          .new(:i32, *@size.map { |n| (n + EDGE - 1) / EDGE })
          .fill(-1)
          .tap { |out| BrickKernels.number(out, @places) if count.positive? }
      end

      # @return [Bricks] the same ones, on the smallest grid of whole bricks that holds them; none as they are
      def cropped
        return self if count.zero?

        low, high = places.to_a.each_slice(3).to_a.transpose.map(&:minmax).transpose
        moved = places.to_a.each_slice(3).flat_map { |place| place.zip(low).map { |b, a| b - a } }
        Bricks.new(
          low.zip(high).map { |a, b| EDGE * (b - a + 1) }, Kernel::Buffer.of(:i32, moved, count, 3), values,
          channels: channels, origin: origin.zip(low).map { |o, a| o + EDGE * a }
        )
      end

      # The lowest corner of what was computed, metres.
      # @param corner [Array<Float>] the chamber's; @param voxel [Float]
      def corner(corner, voxel) = @origin.reverse.zip(corner).map { |cell, c| c + cell * voxel }

      def channel?(name) = @channels.include?(name)

      # @return [VectorField] velocity at centres (m/s)
      def velocity
        VectorField.still(@size).tap do |out|
          FACES.keys.each_with_index { |name, axis| BrickKernels.centre(out[axis], field(name), filled, axis) }
        end
      end

      # @return [Kernel::Buffer] f32, what flows out of each cell (1/s)
      def divergence(voxel)
        BrickKernels.divergence(
          out = Kernel::Buffer.new(:f32, *@size), *FACES.keys.map { |name| field(name) }, filled, 1.0 / voxel
        )
        out
      end

      # @param channel [Symbol] one of {#channels}; `x y z` are the velocity (m/s) on each cell's lower faces
      # @return [Kernel::Buffer] f32 [z, y, x]; nothing anywhere for a channel that is not there
      def field(channel)
        out = Kernel::Buffer.new(:f32, *@size)
        BrickKernels.spread(out, @values, @places, @channels.index(channel)) if count.positive? && channel?(channel)
        out
      end

      private

      # u8 for each brick, 1 where it is kept.
      def filled
        @filled ||=
          Kernel::Buffer
            .new(:u8, *@size.map { |n| (n + EDGE - 1) / EDGE })
            .tap { |marks| BrickKernels.mark(marks, @places) if count.positive? }
      end
    end
  end
end
