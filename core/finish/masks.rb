# frozen_string_literal: true

module Vumbral
  module Finish
    # Masks of a layer or an effect, joined to one.
    class Masks
      JOINED = {"and" => 0, "without" => 1, "within" => 2}.freeze
      # Outlines are drawn so much smaller and made large again, for they are smooth.
      COARSE = 3
      # Points that stand for a curve between two of an outline's.
      BETWEEN = 8
      # Where nothing is masked.
      EVERYWHERE = Kernel::Buffer.new(:f32, 1, 1)

      # @param masks [Array<Hash>] from {Stack}; @param image [Kernel::Buffer] f32 [h, w, 4], what those go by that go
      #   by a picture
      # @param sources [#matte, nil] matte(prop) f32 [h, w, 4], whose alpha is the prop's shape
      def initialize(masks, image, sources = nil)
        @masks = masks
        @sources = sources
        @image = image
        @height, @width, = image.shape
      end

      # @return [Kernel::Buffer] f32 [h, w], or {EVERYWHERE}
      def field
        return EVERYWHERE if @masks.empty?

        out = Kernel::Buffer.new(:f32, @height, @width)
        # The first one begins with all where it takes away or both must count.
        MaskKernels.join(out, out.copy, 0, 1.0, true) if JOINED.fetch(@masks[0]["joined"]).positive?
        @masks.each do |mask|
          MaskKernels.join(out, drawn(mask), JOINED.fetch(mask["joined"]), mask["opacity"] / 100.0, mask["inverted"])
        end
        out
      end

      private

      def drawn(mask)
        out = Kernel::Buffer.new(:f32, @height, @width)
        case mask["what"]
        when "oval"
          MaskKernels.oval(out, place(mask))
        when "box"
          MaskKernels.box(out, place(mask))
        when "ramp"
          MaskKernels.ramp(out, place(mask))
        when "outline"
          out = outline(mask)
        when "bright"
          MaskKernels.bright(out, @image, mask["low"], mask["high"])
        when "covered"
          MaskKernels.covered(out, @image)
        when "differs"
          mask["clean"] && MaskKernels.differs(out, @image, @sources.clean(mask), mask["near"], mask["fall"])
        when "texture"
          texture(out, mask)
        when "prop"
          mask["prop"] && MaskKernels.covered(out, @sources.matte(mask["prop"]))
        when "coloured"
          MaskKernels.coloured(out, @image, Kernel::Buffer.of(:f32, mask["colour"]), mask["near"], mask["fall"])
        end
        softened(out, mask)
      end

      # A texture on an upright sheet, from its own low value to its high one.
      def texture(out, mask)
        row = mask["row"] or return
        high = mask["high_as"]
        wide = high * @width / @height
        sheet = [
          row[:offset][0] - 0.5 * wide, row[:offset][1] + 0.5 * high, row[:offset][2], wide, 0.0, 0.0, 0.0, -high, 0.0
        ]
        values = Kernel::Buffer.new(:f32, @height, @width)
        Geometry::TextureKernels.look(values, @sources.texture(row), 0, Kernel::Buffer.of(:f32, sheet))
        MaskKernels.between(out, values, *mask.values_at("low", "high"))
      end

      # What goes by the picture is made soft afterwards.
      def softened(out, mask)
        unless %w[bright covered coloured prop differs texture].include?(mask["what"]) && mask["soft"].positive?
          return out
        end

        Soft.new(out.reshape(@height, @width, 1)).blurred(length(mask["soft"]) / 4.0).reshape(@height, @width)
      end

      def length(percent) = percent / 100.0 * @height

      def soft(mask) = [length(mask["soft"]), 1.0].max

      def drift(mask) = (mask["drift"] || [0.0, 0.0]).zip([@width, @height]).map { |part, edge| part * edge }

      def place(mask)
        dx, dy = drift(mask)
        turn = mask["turn"] * Math::PI / 180.0
        Kernel::Buffer.of(
          :f32,
          [
            mask["x"] / 100.0 * @width + dx, mask["y"] / 100.0 * @height + dy, length(mask.fetch("width", 0.0)) / 2.0,
            length(mask.fetch("height", 0.0)) / 2.0, Math.cos(turn), Math.sin(turn), length(mask.fetch("grown", 0.0)),
            soft(mask)
          ]
        )
      end

      def outline(mask)
        return Kernel::Buffer.new(:f32, @height, @width) if mask["points"].size < 3

        shift = drift(mask).zip([mask["across"] * @width, mask["along"] * @height]).map { |a, b| a + b / 100.0 }
        points =
          mask["points"].map do |x, y, more|
            [x / 100.0 * @width + shift[0], y / 100.0 * @height + shift[1], [length(more), 0.0].max]
          end
        rows = curve(points)
        small = Kernel::Buffer.new(:f32, (@height + COARSE - 1) / COARSE, (@width + COARSE - 1) / COARSE)
        MaskKernels.outline(
          small, Kernel::Buffer.of(:f32, rows.flatten, rows.size, 3), length(mask["grown"]),
          [soft(mask), 2.0 * COARSE].max, COARSE.to_f
        )
        full = Kernel::Buffer.new(:f32, @height, @width, 1)
        SoftKernels.spread(full, small.reshape(*small.shape, 1), 1.0 / COARSE, 0.0, Kernel::Buffer.of(:f32, [1.0]))
        full.reshape(@height, @width)
      end

      # A closed curve through all points (Catmull & Rom 1974).
      def curve(points)
        count = points.size
        (0...count).flat_map do |n|
          a, b, c, d = [n - 1, n, (n + 1) % count, (n + 2) % count].map { |at| points[at] }
          (0...BETWEEN).map do |part|
            t = part / BETWEEN.to_f
            [0, 1].map do |axis|
              WarpKernels.cubic(t, 0) * a[axis] + WarpKernels.cubic(t, 1) * b[axis] +
                WarpKernels.cubic(t, 2) * c[axis] + WarpKernels.cubic(t, 3) * d[axis]
            end + [b[2] + t * (c[2] - b[2])]
          end
        end
      end
    end
  end
end
