# frozen_string_literal: true

module Vumbral
  module Flow
    # What turbulence is wanted: `power` put into each part that is stirred wholly (m²/s³), whatever the
    # voxels and the step; cells a swirl; a time that counts changes; a seed; how many octaves; where,
    # by a name of {Mask}, and a falloff (f32 [z, y, x], 0 to 1) on top or nil.
    Stirring = Struct.new(:power, :cells, :time, :seed, :octaves, :mask, :falloff, keyword_init: true) do
      # The turbulence of a placed force. @param force [Hash] its dials; @param n [Integer] which of the shot's it is
      def self.placed(force, n, falloff, time, voxel, seed)
        new(
          power: force["strength"], cells: force["size"] / voxel, time: time * force["speed"],
          seed: seed + 31 * (n + 1), octaves: force["octaves"], mask: force["mask"], falloff: falloff
        )
      end
    end
  end
end
