# frozen_string_literal: true

module Vumbral
  module Picture
    # How far a ray through smoke may go at once.
    module PaceKernels
      extend Kernel::Library

      # No step is thicker than this, or light at its middle says too little of it.
      THICKEST = 0.3

      # How thick a step may be where so much of what it sends still comes through the smoke before it.
      kernel through: F32, returns: F32
      def thickest(through)
        THICKEST * (through > 0.25 ? 1.0 : (through > 0.0625 ? 1.5 : 2.0))
      end

      # How far a ray goes along an axis until it leaves a block of four cells, in cells of its own length.
      kernel x: F32, d: F32, block: I32, returns: F32
      def leaving(x, d, block)
        edge = MarchKernels::BLOCK * block - 0.5 + (d > 0.0 ? MarchKernels::BLOCK : 0.0)
        d.abs > 0.000001 ? [(edge - x) / d, 0.0].max : 1000000.0
      end
    end
  end
end
