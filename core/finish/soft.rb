# frozen_string_literal: true

module Vumbral
  module Finish
    # A picture and its halves, from which it is blurred however widely at the same cost.
    class Soft
      # Blurs are made where their width is at least this many pixels, so that nothing of the small picture's grid is
      # seen.
      FINEST = 1.6
      # What halving and going back spread of themselves, squares of pixels of the larger and of the smaller picture.
      HALVED, BACK = 0.75, 1.0 / 6.0

      # @param image [Kernel::Buffer] f32 [h, w, channels], not changed
      def initialize(image)
        @levels = [image]
      end

      # @param sigma [Float] width of the bell, pixels
      # @return [Kernel::Buffer] as large as the picture
      def blurred(sigma)
        out = Kernel::Buffer.new(:f32, *@levels[0].shape)
        out.tap { add(out, sigma, [1.0] * out.dim(2), keep: 0.0) }
      end

      # Adds the blurred picture to another.
      # @param gains [Array<Float>] for each channel
      # @param keep [Float] how much of what was there stays
      def add(out, sigma, gains, keep: 1.0)
        SoftKernels.spread(out, small(sigma), 0.5**level(sigma)[0], keep, Kernel::Buffer.of(:f32, gains))
      end

      # @return [Kernel::Buffer] the blurred picture at the size at which it was made
      def small(sigma)
        n, rest = level(sigma)
        image = halved(n)
        return image if rest < 0.25

        weights = bell(rest)
        Array.new(2) { Kernel::Buffer.new(:f32, *image.shape) }.then do |between, out|
          SoftKernels.down(between, image, weights)
          SoftKernels.across(out, between, weights)
          out
        end
      end

      # @return [Kernel::Buffer] the picture halved so often
      def halved(n)
        @levels[n] ||= halved(n - 1).then do |image|
          Kernel::Buffer
            .new(:f32, *image.shape.first(2).map { |c| (c + 1) / 2 }, image.dim(2))
            .tap { |half| SoftKernels.halve(half, image) }
        end
      end

      private

      # How often it is halved, and what is left to be blurred there, pixels of that size.
      def level(sigma)
        n, spent = 0, 0.0
        n, spent = n + 1, spent + HALVED * 4**n while left(sigma, spent + HALVED * 4**n, n + 1) >= FINEST &&
            halved(n).shape.first(2).min > 4
        [n, left(sigma, spent, n)]
      end

      def left(sigma, spent, n) = Math.sqrt([sigma * sigma - spent - (n.zero? ? 0.0 : BACK * 4**n), 0.0].max) / 2**n

      # The middle's weight and those on one side; all together are one.
      def bell(sigma)
        row = Array.new((3.0 * sigma).ceil + 1) { |n| Math.exp(-0.5 * (n / sigma)**2) }
        whole = 2.0 * row.sum - row[0]
        Kernel::Buffer.of(:f32, row.map { |weight| weight / whole })
      end
    end
  end
end
