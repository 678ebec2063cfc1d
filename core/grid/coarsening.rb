# frozen_string_literal: true

module Vumbral
  module Grid
    # Fields at half the resolution.
    module Coarsening
      extend Kernel::Library

      # Each value is the mean of eight (fewer at an odd edge).
      kernel dst: F32[3], src: F32[3]
      def mean(dst, src)
        parallel(dst.dim(0)) do |k|
          dst.dim(1).times do |j|
            dst.dim(2).times do |i|
              sum = 0.0
              (2 * k..[2 * k + 1, src.dim(0) - 1].min).each do |c|
                (2 * j..[2 * j + 1, src.dim(1) - 1].min).each do |b|
                  (2 * i..[2 * i + 1, src.dim(2) - 1].min).each { |a| sum += src[c, b, a] }
                end
              end
              dst[k, j, i] = 0.125 * sum
            end
          end
        end
      end

      # @param field [Kernel::Buffer] f32 [z, y, x]
      # @return [Kernel::Buffer] half as many cells along each axis, rounded up
      def self.half(field)
        out = Kernel::Buffer.new(:f32, *field.shape.map { |n| [(n + 1) / 2, 2].max })
        mean(out, field)
        out
      end
    end
  end
end
