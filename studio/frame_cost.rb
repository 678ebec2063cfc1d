# frozen_string_literal: true

module Vumbral
  module Studio
    # What a frame costs on this machine, by how much there is to compute: a power of it, as frames that were run here
    # tell. What does not grow with the cells (files, light of what lies deep) makes the power less than one.
    class FrameCost
      # Until anything was run here: cells and substeps a second.
      SPEED = 1.0e6
      # The power that is taken where frames tell none, and how many frames of other sizes weigh as much as that.
      POWER, WEIGHT = 0.7, 4.0
      POWERS = (0.2..1.2)

      class << self
        # @return [Float] cells that a frame computed; frames of before tell their size alone
        def used(facts) = facts["used"] || facts["size"].reduce(:*)

        # @param rows [Array<Hash>] facts of frames
        # @param pace [Float] how much longer a frame takes than the solver does, for frames that tell the latter alone
        # @return [FrameCost] by least squares of the logarithms
        def of(rows, pace)
          return new(pace / SPEED, 1.0) if rows.empty?

          told =
            rows.map do |facts|
              [[used(facts) * facts["substeps"].to_f, 1.0].max, [facts["paced"] || facts["seconds"] * pace, 1e-4].max]
            end
          power = power(told.map { |work, seconds| [Math.log(work), Math.log(seconds)] })
          new(told.sum(&:last) / told.sum { |work, _| work**power }, power)
        end

        private

        def power(logs)
          middle = logs.transpose.map { |all| all.sum / all.size }
          apart = logs.map { |point| point.zip(middle).map { |a, b| a - b } }
          ((apart.sum { |x, y| x * y } + WEIGHT * POWER) / (apart.sum { |x, _| x * x } + WEIGHT)).clamp(
            POWERS.begin, POWERS.end
          )
        end
      end

      # @param each [Float] seconds of a frame with one cell; @param power [Float]
      def initialize(each, power)
        @each, @power = each, power
      end

      # @param works [Array<Float>] cells times substeps of each frame
      # @return [Array<Float>] seconds of each
      def seconds(works) = works.map { |work| @each * work**@power }
    end
  end
end
