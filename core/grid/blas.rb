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

      class << self
        # c = a · b for row-major blocks inside buffers. Offsets count elements.
        # @param rows [Integer] of c; columns of c; inner, the shared length
        # @param turn_a [Boolean] a is stored transposed (likewise turn_b)
        def product(a, b, c, rows:, columns:, inner:, turn_a: false, turn_b: false, at_b: 0, at_c: 0, at_a: 0)
          sgemm.call(ROW_MAJOR, turn_a ? TURNED : PLAIN, turn_b ? TURNED : PLAIN, rows, columns, inner, 1.0,
            a.address + 4 * at_a, turn_a ? rows : inner, b.address + 4 * at_b, turn_b ? inner : columns, 0.0,
            c.address + 4 * at_c, columns)
        end

        private

        def sgemm
          @sgemm ||= begin
            library = open
            set = Fiddle::Function.new(library["openblas_set_num_threads"], [Fiddle::TYPE_INT], Fiddle::TYPE_VOID)
            set.call(Kernel.threads)
            int, pointer, float = Fiddle::TYPE_INT, Fiddle::TYPE_VOIDP, Fiddle::TYPE_FLOAT
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
