# frozen_string_literal: true

module Vumbral
  module Picture
    # How much of what comes from all around facets throw back, by roughness and the cosine to the eye: a table, as it
    # has no closed form (the split of Karis 2013: by how much of it is the straight share, and by how much all).
    module Sheen
      # Places along roughness and along the cosine.
      ROUGH, COSINES = 16, 16
      SAMPLES = 512

      module_function

      # @return [Kernel::Buffer] f32 [{ROUGH}, {COSINES}, 2]
      def table
        @table ||=
          Kernel::Buffer.of(
            :f32, ROUGH.times.flat_map { |r| COSINES.times.flat_map { |c| shares(roughness(r), cosine(c)) } }, ROUGH,
            COSINES, 2
          )
      end

      def roughness(n) = [n / (ROUGH - 1.0), 0.02].max

      def cosine(n) = [n / (COSINES - 1.0), 0.02].max

      # By facets as they are seen (Walter et al. 2007), drawn evenly (Hammersley 1960).
      # @return [Array(Float, Float)]
      def shares(rough, cosine)
        a = rough**4
        across = Math.sqrt(1.0 - cosine * cosine)
        sums = [0.0, 0.0]
        SAMPLES.times do |n|
          u, turn = (n + 0.5) / SAMPLES, 2.0 * Math::PI * ((n * 0.6180339887) % 1.0)
          up = Math.sqrt((1.0 - u) / (1.0 + (a - 1.0) * u))
          to = across * Math.sqrt(1.0 - up * up) * Math.cos(turn) + cosine * up
          light = 2.0 * to * up - cosine
          next unless to.positive? && light.positive?

          weight = 4.0 * to / up * light * GlossKernels.shaded(light, cosine, a) / SAMPLES
          rim = (1.0 - to)**5
          sums = [sums[0] + weight * (1.0 - rim), sums[1] + weight * rim]
        end
        sums
      end
      private_class_method :roughness, :cosine
    end
  end
end
