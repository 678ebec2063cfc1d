# frozen_string_literal: true

require "json"

module Vumbral
  module Light
    # A frame as the browser's view takes it: eight bits for light (red, green, blue), smoke and
    # heat in each voxel. Square roots are stored, which keeps faint smoke smooth.
    #
    # Bytes: length of the head (u32), the head as JSON (cells along x, y, z, voxel and corner in
    # metres, the largest smoke, heat and light), then red, green, blue and smoke (4 for each voxel),
    # then heat (1 for each), x fastest.
    module ViewVolume
      module_function

      # @param smoke [Kernel::Buffer] f32 [z, y, x]; @param heat [Kernel::Buffer] likewise
      # @param light [Kernel::Buffer] f32 [3, z, y, x]
      # @return [String]
      def encode(smoke, heat, light, voxel:, corner:)
        peaks = Kernel::Buffer.new(:f32, 3)
        ViewKernels.peaks(peaks, smoke, heat, light)
        lit = Kernel::Buffer.new(:u8, *smoke.shape, 4)
        hot = Kernel::Buffer.new(:u8, *smoke.shape)
        ViewKernels.encode(lit, hot, smoke, heat, light, peaks)
        top = peaks.to_a
        head = JSON.generate(size: smoke.shape.reverse, voxel: voxel, corner: corner, smoke: top[0], heat: top[1], light: top[2])
        head = head.ljust((head.bytesize + 3) / 4 * 4, " ")
        [head.bytesize].pack("L<") + head + lit.bytes + hot.bytes
      end
    end
  end
end
