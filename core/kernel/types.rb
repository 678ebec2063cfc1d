# frozen_string_literal: true

module Vumbral
  module Kernel
    # The types that a kernel's arguments may have, as constants to write beside the method:
    # `F32` is a number, `F32[3]` a three-dimensional array of them, indexed `[z, y, x]`.
    module Types
      # A number type. `store` is what an array of it holds in C, `compute` what one element
      # becomes once it is read.
      Scalar = Struct.new(:name, :store, :compute, :bytes, :pack) do
        def [](rank) = ArrayType.new(self, rank)

        def float? = compute == :f32 || compute == :f64

        def to_s = name.to_s
      end

      # An array argument: element type and number of dimensions.
      ArrayType = Struct.new(:element, :rank) do
        def to_s = "#{element}[#{rank}]"
      end

      F32 = Scalar.new(:f32, "float", :f32, 4, "e")
      F64 = Scalar.new(:f64, "double", :f64, 8, "E")
      F16 = Scalar.new(:f16, "_Float16", :f32, 2, "S<")
      I64 = Scalar.new(:i64, "int64_t", :i64, 8, "q<")
      I32 = Scalar.new(:i32, "int32_t", :i32, 4, "l<")
      U16 = Scalar.new(:u16, "uint16_t", :i32, 2, "S<")
      U8 = Scalar.new(:u8, "uint8_t", :i32, 1, "C")
      BOOL = Scalar.new(:bool, "int32_t", :bool, 4, "l<")

      ALL = [F32, F64, F16, I64, I32, U16, U8, BOOL].to_h { |type| [type.name, type] }.freeze
      C_NAMES = {f32: "float", f64: "double", i32: "int32_t", i64: "int64_t", bool: "int32_t"}.freeze
    end
  end
end
