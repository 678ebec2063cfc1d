# frozen_string_literal: true

module Vumbral
  module Finish
    # What a lens does with bright light: pictures of it on the other side of the middle, and lines through it.
    class Flare
      # How wide the pictures are on which streaks and ghosts are made, pixels: both are soft.
      WIDE, SOFT = 480, 240
      # Ghosts of a lens: how large each is seen through the middle (below 0 upside down), its disc's radius in parts of
      # the frame's height, how bright, how much brighter its rim, and its colour.
      GHOSTS = [[-0.42, 0.030, 0.50, 0.6, [1.0, 0.86, 0.62]], [-1.25, 0.075, 0.26, 1.4, [0.62, 0.86, 1.0]],
        [0.55, 0.022, 0.42, 0.3, [0.72, 1.0, 0.8]], [-0.75, 0.012, 0.70, 0.0, [1.0, 0.7, 0.5]],
        [1.7, 0.11, 0.16, 2.0, [0.9, 0.7, 1.0]], [-1.9, 0.15, 0.12, 2.4, [0.6, 0.75, 1.0]],
        [-0.24, 0.010, 0.60, 0.0, [1.0, 0.95, 0.85]], [0.3, 0.045, 0.24, 0.9, [1.0, 0.8, 0.75]],
        [-2.6, 0.20, 0.08, 2.6, [0.8, 1.0, 0.85]], [2.4, 0.06, 0.14, 1.0, [1.0, 0.75, 0.6]],
        [-0.95, 0.035, 0.22, 1.2, [0.75, 0.8, 1.0]], [0.85, 0.016, 0.3, 0.2, [0.85, 1.0, 0.9]]].freeze
      # Places looked at for a ghost's disc; before that its light is blurred by this part of the disc.
      TAPS, DULL = 32, 0.3
      # A lamp's own light in a flare, and how wide it is, parts of the frame's height.
      DOT, DOT_WIDE = 40.0, 0.006

      # @param work [Work]
      def initialize(work)
        @work = work
      end

      # Adds it to the picture.
      def add
        light = (@work["source"] == "lamp") ? lamp : bright
        return unless light

        out = @work.blank(3)
        gains = Kernel::Buffer.of(:f32, @work["colour"].map { |c| c * @work["amount"] })
        [ghosts(light), streaks(light)].compact.each do |part|
          SoftKernels.spread(out, part, part.dim(1) / out.dim(1).to_f, 1.0, gains)
        end
        LightKernels.add(@work.image, out)
      end

      private

      def small(image, width) = Soft.new(image).halved([Math.log2(image.dim(1) / width.to_f).ceil, 0].max)

      def bright
        light = @work.blank(3)
        LightKernels.bright(light, @work.image, @work["from"])
        small(light, WIDE)
      end

      # A lamp as a spot of light, as far as it is seen.
      def lamp
        spot = @work["spot"] or return
        return unless spot[0].between?(0.0, 1.0) && spot[1].between?(0.0, 1.0)

        open = (1.0 - @work.sources.cover(@work.layer, spot)).clamp(0.0, 1.0)
        return if open <= 0.0

        width = [@work.width, WIDE].min
        flat = Kernel::Buffer.new(:f32, [(width * @work.height / @work.width.to_f).round, 4].max, width, 4)
        dot =
          Kernel::Buffer.of(
            :f32, [spot[0] * width, spot[1] * flat.dim(0), [DOT_WIDE * flat.dim(0), 1.0].max, DOT * open], 1, 4
          )
        LensKernels.dust(flat, dot, Kernel::Buffer.of(:f32, [1.0] * 3))
        Kernel::Buffer.new(:f32, flat.dim(0), width, 3).tap { |light| LightKernels.bright(light, flat, 0.0) }
      end

      def ghosts(light)
        return if @work["ghosts"].zero?

        soft = Soft.new(small(light, SOFT))
        out = Kernel::Buffer.new(:f32, *soft.blurred(0.1).shape)
        GHOSTS.first(@work["ghosts"]).each do |row|
          numbers = numbers(row, out.dim(0))
          dulled = soft.blurred([DULL * numbers[3], 0.1].max)
          box = box(dulled, numbers[0, 3], numbers[3])
          LightKernels.ghost(out, dulled, Kernel::Buffer.of(:f32, numbers), box, TAPS) if box
        end
        out
      end

      def numbers(row, height)
        size, disc, bright, rim, colour = row
        size *= [@work["spread"], 1e-3].max
        parts = [1.0 + 0.12 * @work["parting"], 1.0, 1.0 - 0.12 * @work["parting"]].map { |part| size * part }
        parts + [disc * height] + colour.map { |c| 0.12 * bright * c } + [rim]
      end

      def streaks(light)
        length = @work["streak"] / 100.0 * light.dim(0)
        return unless length >= 1.0 && @work["arms"].positive?

        out = Kernel::Buffer.new(:f32, *light.shape)
        @work["arms"].times do |n|
          angle = (@work["angle"] + 180.0 * n / @work["arms"]) * Math::PI / 180.0
          way = [Math.cos(angle), -Math.sin(angle)]
          box = box(light, [1.0], nil, way.map { |part| part.abs * (length + 2.0) })
          LightKernels.streak(out, light, Kernel::Buffer.of(:f32, way + [length, 2.0 / length]), box) if box
        end
        out
      end

      # Where a ghost or a streak comes to lie. @return [Kernel::Buffer, nil] i32 [4]; nil where there is no light
      def box(light, sizes, disc, wider = [disc + 2.0] * 2)
        rows = Kernel::Buffer.new(:f32, light.dim(0), 2)
        LightKernels.bounds(rows, light, 1e-4)
        found = rows.to_a.each_slice(2).each_with_index.reject { |(first, _), _| first.negative? }
        return if found.empty?

        ends = [
          [found.map { |(first, _), _| first }.min, found.map { |(_, last), _| last }.max],
          [found.map(&:last).min, found.map(&:last).max]
        ]
        low, high = ends.each_with_index.map { |(from, to), axis|
          middle = 0.5 * light.dim(1 - axis) - 0.5
          all = (sizes == [1.0]) ? [from, to] : sizes.flat_map { |size| [from, to].map { |at| middle + (at - middle) * size } }
          [
            (all.min - wider[axis]).floor.clamp(0, light.dim(1 - axis)),
            (all.max + wider[axis]).ceil.clamp(0, light.dim(1 - axis) - 1) + 1
          ]
        }.transpose
        return if low[0] >= high[0] || low[1] >= high[1]

        Kernel::Buffer.of(:i32, [low[0], low[1], high[0], high[1]])
      end
    end
  end
end
