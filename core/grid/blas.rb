# frozen_string_literal: true

require "fiddle"

module Vumbral
  module Grid
    # Matrix products in single precision by the system's OpenBLAS, straight on kernel buffers.
    module Blas
      ROW_MAJOR = 101
      PLAIN = 111
      TURNED = 112
      NAMES = %w[libopenblas.so.0 libopenblas.so libcblas.so.3].freeze

      # A matrix in a buffer.
      class Part
        # Where it is, whether it is stored transposed, and what says so.
        attr_reader :address, :turned, :order

        # @param buffer [Kernel::Buffer] f32; @param turned [Boolean] whether it is stored transposed
        def initialize(buffer, turned)
          # Its memory is not to go meanwhile.
          @buffer = buffer
          @address = buffer.address
          @turned = turned
          @order = turned ? TURNED : PLAIN
        end
      end

      class << self
        # c = a · b for row-major matrices.
        # @param a [Part]; @param b [Part]; @param c [Part] written
        # @param rows [Integer] of c; @param columns [Integer] of c; @param inner [Integer] the shared length
        def product(a, b, c, rows:, columns:, inner:)
          sgemm.call(ROW_MAJOR, a.order, b.order, rows, columns, inner, 1.0, a.address, a.turned ? rows : inner,
            b.address, b.turned ? inner : columns, 0.0, c.address, columns)
        end

        private

        def sgemm
          @sgemm ||= begin
            library = open
            set = Fiddle::Function.new(library["openblas_set_num_threads"], [Fiddle::TYPE_INT], Fiddle::TYPE_VOID)
            set.call(Kernel.threads)
            int, pointer, float = Fiddle::TYPE_INT, Fiddle::TYPE_INTPTR_T, Fiddle::TYPE_FLOAT
            Fiddle::Function.new(library["cblas_sgemm"],
              [int, int, int, int, int, int, float, pointer, int, pointer, int, float, pointer, int], Fiddle::TYPE_VOID)
          end
        end

        def open
          NAMES.each do |name|
            return Fiddle.dlopen(name)
          rescue Fiddle::DLError
            next
          end
          raise Refused.new("OpenBLAS is not installed; run bin/setup, or: apt-get install libopenblas0-openmp",
            code: "no_blas")
        end
      end
    end
  end
end
