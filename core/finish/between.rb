# frozen_string_literal: true

module Vumbral
  module Finish
    # A moment between two pictures, along what moves from one to the other: optical flow from coarse to fine (Lucas &
    # Kanade 1981; Bouguet 2001), sought at that very moment, so that it needs no filling where things part.
    class Between
      # Pictures are halved until they are as small, and steps are taken so often at each size.
      SMALLEST, STEPS = 16, 5
      # What about a place goes with it, and how ways are evened, pixels.
      ABOUT, EVEN = 3.2, 1.6
      # The finest size at which ways are sought, in halvings, for large pictures.
      FINEST = 1
      LARGE = 500

      # @param before [Kernel::Buffer] f32 [h, w, 4]; @param after [Kernel::Buffer] the same
      def initialize(before, after)
        @before, @after = before, after
      end

      # @param t [Float] 0 the first, 1 the second
      # @return [Kernel::Buffer] f32 [h, w, 4]
      def at(t)
        Kernel::Buffer.new(:f32, *@before.shape).tap { |out| FlowKernels.between(out, @before, @after, way(t), t) }
      end

      # @return [Kernel::Buffer] f32 [h, w, 2], how far each place goes between the pictures, pixels across and down
      def way(t)
        first, second = [@before, @after].map { |image| Soft.new(grey(image)) }
        coarse = [Math.log2(@before.shape.first(2).min / SMALLEST.to_f).floor, 0].max
        finest = (@before.dim(0) > LARGE) ? FINEST : 0
        way = nil
        coarse.downto([finest, coarse].min) do |n|
          a, b = first.halved(n), second.halved(n)
          way = finer(way, a.shape)
          STEPS.times { way = stepped(way, a, b, t) }
        end
        finer(way, @before.shape)
      end

      private

      def grey(image) =
        Kernel::Buffer
          .new(:f32, *image.shape.first(2))
          .tap { |out| TrackKernels.grey(out, image) }
          .reshape(*image.shape.first(2), 1)

      def finer(way, shape)
        out = Kernel::Buffer.new(:f32, *shape.first(2), 2)
        FlowKernels.finer(out, way) if way
        out
      end

      def stepped(way, first, second, t)
        products = Kernel::Buffer.new(:f32, *way.shape.first(2), 5)
        FlowKernels.products(products, first, second, way, t)
        FlowKernels.step(way, Soft.new(products).blurred(ABOUT))
        Soft.new(way).blurred(EVEN)
      end
    end
  end
end
