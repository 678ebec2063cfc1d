# frozen_string_literal: true

module Vumbral
  module Picture
    # Gathers the pictures that one with blur is made of, until their noise is small enough, and smooths what is left of
    # it.
    class Sampler
      # So many pictures follow each other that are spread evenly by themselves; after twice as many, and then after
      # each of these groups, it is looked whether a square of pixels, so wide, needs others.
      GROUP, SQUARE = 8, 8
      # Wavelets of 5 pixels each way, these far apart.
      STEPS = [1, 2, 4].freeze

      # Which pixels are wanted, u8 [height, width].
      attr_reader :wanted

      # @param settings [Hash] "samples", "noise" (what may be left, percent of white), "denoise", "fireflies"
      # @param gain [Float] of the film
      def initialize(height, width, settings, gain: 1.0)
        @settings, @gain = settings, gain
        @group = (settings["samples"] / 2).clamp(1, GROUP)
        @sum, @half = Array.new(2) { Kernel::Buffer.new(:f32, height, width, 4) }
        @squares = Kernel::Buffer.new(:f32, height, width)
        @counts = Kernel::Buffer.new(:i32, height, width)
        @wanted = Kernel::Buffer.new(:u8, height, width).tap { |all| all.fill(1) }
        @guides = Kernel::Buffer.new(:f32, height, width, 2 * SampleKernels::GUIDES)
        @done = 0
      end

      # What surfaces of the next picture tell of themselves.
      def guide(glance, view, scene)
        SampleKernels.guide(@guides, glance, view, scene, @wanted)
      end

      # @param image [Kernel::Buffer] f32 [height, width, 4]
      # @param all [Boolean] whether every pixel shall have as many
      # @return [Boolean] whether more are wanted
      def add(image, all: false)
        SampleKernels.gather(@sum, @half, @squares, @counts, image, @wanted, (@done / @group).odd?)
        @done += 1
        return true if all || @settings["noise"].zero? || @done < 2 * @group || @done % @group != 0

        SampleKernels.settle(@wanted, @sum, @half, @counts, @settings["noise"] / 100.0, @gain, @group, SQUARE).positive?
      end

      # @return [Kernel::Buffer] f32 [height, width, 4]
      def picture
        image = Kernel::Buffer.new(:f32, *@sum.shape).tap { |out| SampleKernels.mean(out, @sum, @counts) }
        return image if @done < 2 * @group || !(@settings["denoise"] || @settings["fireflies"])

        SampleKernels.tell(@guides, @counts)
        doubt = doubt()
        image = image.copy.tap { |tamed| DenoiseKernels.fireflies(tamed, image, doubt) } if @settings["fireflies"]
        @settings["denoise"] ? denoised(image, doubt) : image
      end

      private

      def doubt
        apart = Kernel::Buffer.new(:f32, *@counts.shape, 2)
        SampleKernels.doubt(apart, @sum, @half, @squares, @counts, @group)
        Kernel::Buffer.new(:f32, *@counts.shape).tap { |out| DenoiseKernels.calm(out, apart, @guides) }
      end

      def denoised(image, doubt)
        other, less = image.copy, doubt.copy
        STEPS.each do |step|
          DenoiseKernels.smooth(other, less, image, doubt, @guides, step)
          image, other, doubt, less = other, image, less, doubt
        end
        image
      end
    end
  end
end
