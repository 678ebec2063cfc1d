# frozen_string_literal: true

module Vumbral
  module Finish
    # How grainy a plate is, as dials of the grain effect have it, from where it is most even.
    class GrainMeasure
      # Pixels of a square; and which share of all, from the most even one on, are looked at.
      EDGE = 16
      EVEN = 0.15
      # What is darker or brighter tells little.
      TELLS = 0.01..0.9
      # What grain is made weaker by at amount 1, see {Lens.grain}.
      WEAK = 0.25
      # Sizes, in pixels, that what is measured is compared with.
      SIZES = [1.0, 1.25, 1.5, 2.0, 2.5, 3.0, 4.0].freeze

      # What was measured. @!attribute amount [Float]; @!attribute size [Float] % of the frame's height; @!attribute
      # coloured [Float]
      Found = Struct.new(:amount, :size, :coloured)

      # @param image [Kernel::Buffer] f32 [h, w, 4], linear, pixel for pixel as it was taken
      # @return [Found]
      # @raise [Refused] where nothing of it is even enough to tell
      def self.of(image)
        even = even(image)
        if even.empty?
          raise Refused.new(
            "Nothing of the plate is even enough to tell its grain: no patch that is neither black nor white.",
            code: "nothing_to_do"
          )
        end

        related = related(even)
        common =
          even.sum do |row|
            0.5 * (row[5] / Math.sqrt([row[1] * row[2], 1e-18].max) + row[6] / Math.sqrt([row[2] * row[3], 1e-18].max))
          end / even.size
        coloured = coloured(common.clamp(0.0, 1.0))
        size, vary = likest(related)
        strong = even.sum { |row| strong(row) } / even.size
        Found.new(
          strong / vary / Math.sqrt((1.0 - coloured)**2 + coloured**2) / WEAK, 100.0 * size / image.dim(0), coloured
        )
      end

      class << self
        private

        # The most even squares that tell something. What is chosen so is a little too even; so is what it is compared
        # with.
        def even(image)
          rows, columns = image.shape.first(2).map { |n| n / EDGE }
          return [] if rows.zero? || columns.zero?

          out = Kernel::Buffer.new(:f32, rows, columns, 7)
          GrainKernels.squares(out, image, EDGE)
          found = out.to_a.each_slice(7).select { |row| TELLS.cover?(row[0]) && row[1..3].min.positive? }
          found.sort_by { |row| strong(row) }.first((EVEN * found.size).ceil)
        end

        # How much its green varies, with what brightness makes of it taken out.
        def strong(row) = Math.sqrt(row[2]) / row[0] * (1.0 + 1.6 * Math.sqrt(row[0]))

        # How alike neighbours are, to 1.
        def related(rows) = rows.sum { |row| row[4] / row[0]**2 } / [rows.sum { |row| row[2] / row[0]**2 }, 1e-12].max

        # The share of grain of its own in each colour, from what colours have in common.
        def coloured(common) = (common >= 1.0) ? 0.0 : 1.0 / (1.0 + Math.sqrt(common / (1.0 - common)))

        # @return [Array(Float, Float)] the size whose neighbours are as alike, pixels, and how much such grain varies
        #   in a square
        def likest(related)
          known = compared
          return known[0].drop(1) if related <= known[0][0]

          n = known.index { |one| one[0] > related } or return known[-1].drop(1)
          part = (related - known[n - 1][0]) / (known[n][0] - known[n - 1][0])
          known[n - 1].zip(known[n]).drop(1).map { |a, b| a + part * (b - a) }
        end

        # Grain of known sizes, measured alike: how alike neighbours are, the size, and how much it varies.
        def compared
          @compared ||= SIZES.map do |size|
            image = Kernel::Buffer.of(:f32, [0.2, 0.2, 0.2, 1.0] * (256 * 256), 256, 256, 4)
            LensKernels.grain(image, 0.1, size, 0.0, 1, 1)
            rows = even(image)
            [related(rows), size, rows.sum { |row| strong(row) / 0.1 } / rows.size]
          end
        end
      end
    end
  end
end
