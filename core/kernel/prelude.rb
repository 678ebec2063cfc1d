# frozen_string_literal: true

module Vumbral
  module Kernel
    # What stands at the head of every built library: array access and the arithmetic in
    # which C differs from Ruby.
    module Prelude
      TYPES = {"i32" => "int32_t", "i64" => "int64_t", "f32" => "float", "f64" => "double"}.freeze

      module_function

      # @param checks [Boolean] stop with file and index when an array is left
      def text(checks)
        [HEAD, checks ? CHECKED : PLAIN, *TYPES.map { |name, type| arithmetic(name, type) }, FLOATS].join("\n")
      end

      HEAD = <<~C
        #include <stdint.h>
        #include <stdlib.h>
        #include <stdio.h>
        #include <math.h>
        static int vt_threads = 1;
        void vt_set_threads(int count) { vt_threads = count < 1 ? 1 : count; }
      C

      # Addresses are 32 bits wide, which lets the compiler gather eight at a time; Buffer
      # holds no more elements than that.
      PLAIN = <<~C
        #define VT_AT1(a, i, n0) a[i]
        #define VT_AT2(a, j, i, n0, n1) a[(j) * n1 + (i)]
        #define VT_AT3(a, k, j, i, n0, n1, n2) a[((k) * n1 + (j)) * n2 + (i)]
        #define VT_AT4(a, c, k, j, i, n0, n1, n2, n3) a[(((c) * n1 + (k)) * n2 + (j)) * n3 + (i)]
      C

      CHECKED = <<~C
        static inline int64_t vt_in(int64_t i, int64_t n, const char *name, int line) {
          if (i < 0 || i >= n) { fprintf(stderr, "kernel array %s left: index %ld of %ld\\n", name, (long)i, (long)n); abort(); }
          return i;
        }
        #define VT_AT1(a, i, n0) a[vt_in(i, n0, #a, __LINE__)]
        #define VT_AT2(a, j, i, n0, n1) a[vt_in(j, n0, #a, __LINE__) * n1 + vt_in(i, n1, #a, __LINE__)]
        #define VT_AT3(a, k, j, i, n0, n1, n2) a[(vt_in(k, n0, #a, __LINE__) * n1 + vt_in(j, n1, #a, __LINE__)) * n2 + vt_in(i, n2, #a, __LINE__)]
        #define VT_AT4(a, c, k, j, i, n0, n1, n2, n3) a[((vt_in(c, n0, #a, __LINE__) * n1 + vt_in(k, n1, #a, __LINE__)) * n2 + vt_in(j, n2, #a, __LINE__)) * n3 + vt_in(i, n3, #a, __LINE__)]
      C

      FLOATS = <<~C
        static inline int32_t vt_div_i32(int32_t a, int32_t b) { int32_t q = a / b; return q - ((a % b != 0) && ((a < 0) != (b < 0))); }
        static inline int64_t vt_div_i64(int64_t a, int64_t b) { int64_t q = a / b; return q - ((a % b != 0) && ((a < 0) != (b < 0))); }
        static inline int32_t vt_mod_i32(int32_t a, int32_t b) { int32_t r = a % b; return r + ((r != 0 && ((r < 0) != (b < 0))) ? b : 0); }
        static inline int64_t vt_mod_i64(int64_t a, int64_t b) { int64_t r = a % b; return r + ((r != 0 && ((r < 0) != (b < 0))) ? b : 0); }
        static inline float vt_mod_f32(float a, float b) { return a - b * floorf(a / b); }
        static inline double vt_mod_f64(double a, double b) { return a - b * floor(a / b); }
        static inline int32_t vt_abs_i32(int32_t a) { return a < 0 ? -a : a; }
        static inline int64_t vt_abs_i64(int64_t a) { return a < 0 ? -a : a; }
      C

      def arithmetic(name, type)
        <<~C
          static inline #{type} vt_min_#{name}(#{type} a, #{type} b) { return b < a ? b : a; }
          static inline #{type} vt_max_#{name}(#{type} a, #{type} b) { return b > a ? b : a; }
          static inline #{type} vt_square_#{name}(#{type} a) { return a * a; }
        C
      end
      private_class_method :arithmetic
    end
  end
end
