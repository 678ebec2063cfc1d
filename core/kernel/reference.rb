# frozen_string_literal: true

module Vumbral
  module Kernel
    # What the words of the kernel subset mean when a kernel runs as ordinary Ruby.
    module Reference
      def parallel(count, uneven: false, &block) = count.times(&block)

      def parallel_sum(count, &block) = count.times.sum(0.0, &block)

      def parallel_max(count) = count.times.map { |n| yield(n).to_f }.reduce { |a, b| (a.nan? || b <= a) ? a : b }

      def each_cell(array)
        array.dim(0).times { |k| array.dim(1).times { |j| array.dim(2).times { |i| yield k, j, i } } }
      end

      def f64(number) = number.to_f

      def i64(number) = number.to_i

      def local_f32(count) = Array.new(count, 0.0)

      def local_i32(count) = Array.new(count, 0)
    end
  end
end
