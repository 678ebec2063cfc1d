# frozen_string_literal: true

module Vumbral
  module Light
    # How much of the sky and of the ground each cell sees, on a grid half as fine as the
    # smoke's: `up` and `down` are parts of the whole sphere (a half each where nothing stands).
    Skylight = Kernel::Record.of(up: Kernel::Types::F32[3], down: Kernel::Types::F32[3]) do
      # Six beams are swept through the smoke, each a cone that widens as it goes.
      # @param smoke [Kernel::Buffer] f32 [z, y, x]; @param thickness [Float] per metre; @param voxel [Float]
      # @return [Skylight]
      def self.of(smoke, thickness, voxel)
        coarse = Grid::Coarsening.half(smoke)
        beams = Kernel::Buffer.new(:f32, 6, *coarse.shape)
        SkylightKernels.pass(beams, coarse, 2.0 * voxel * thickness)
        new(*Array.new(2) { Kernel::Buffer.new(:f32, *coarse.shape) }).tap do |light|
          SkylightKernels.gather(light, beams)
        end
      end
    end
  end
end
