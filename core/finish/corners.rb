# frozen_string_literal: true

module Vumbral
  module Finish
    # Spots of a picture that can be followed well: corners and specks, spread over it.
    class Corners
      # How far each way a pixel is judged by its neighbours, pixels.
      REACH = 3
      # What is as weak as this beside the best is none.
      WEAK = 0.01
      # What is weaker is noise: the slope of a tenth of a per cent of white over the square.
      FAINT = 1e-4

      # @param image [Kernel::Buffer] f32 [h, w, 4]; @param ignored [Kernel::Buffer] f32 [h, w], 1 where nothing is
      #   sought, or one by one
      def initialize(image, ignored = Masks::EVERYWHERE)
        grey = Kernel::Buffer.new(:f32, *image.shape.first(2))
        TrackKernels.grey(grey, image)
        @strengths = Kernel::Buffer.new(:f32, *grey.shape)
        TrackKernels.corners(@strengths, grey, ignored, REACH)
      end

      # @param count [Integer] at most so many
      # @param besides [Array<Array(Float, Float)>] places that are taken already, pixels
      # @return [Array<Array(Float, Float)>] from the left and from the top, pixels, the best first; none nearer to
      #   another than if as many were spread evenly over half the picture
      def best(count, besides: [])
        height, width = @strengths.shape
        apart = Math.sqrt(0.5 * height * width / [count, 1].max)
        edge = [(apart / 2.0).floor, 2].max
        cells = Kernel::Buffer.new(:f32, height.fdiv(edge).ceil, width.fdiv(edge).ceil, 3)
        TrackKernels.best(cells, @strengths, edge)
        sorted = cells.to_a.each_slice(3).sort_by { |strength, y, x| [-strength, y, x] }
        least = [WEAK * sorted[0][0], FAINT].max
        sorted.each_with_object([]) do |(strength, y, x), found|
          break found if found.size == count || strength < least

          place = [x + 0.5, y + 0.5]
          if (found + besides).none? { |other| Math.hypot(other[0] - place[0], other[1] - place[1]) < apart }
            found << place
          end
        end
      end
    end
  end
end
