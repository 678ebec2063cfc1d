# frozen_string_literal: true

module Vumbral
  RSpec.describe Flow::CubicKernels do
    def padded(field)
      described_class.pad(flat = Kernel::Buffer.new(:f32, field.shape.map { |n| n + 2 }.reduce(:*)), field)
      flat
    end

    # @return what is read at places [x, y, z]
    def read(field, *places)
      weights = Kernel::Buffer.new(:f32, described_class::WEIGHTS)
      flat = padded(field)
      row = field.shape[2] + 2
      firsts = places.each_with_index.map { |place, m| described_class.place(weights, m, *place, field) }
      firsts.each_with_index.map do |first, m|
        described_class.read(flat, first, weights, m, row, row * (field.shape[1] + 2))
      end
    end

    # The same as it is written down: 64 values with a weight each, the outermost going on.
    def written(field, place)
      at = place.zip(field.shape.reverse).map { |x, n| x.clamp(0.0, n - 1.0) }
      first = at.zip(field.shape.reverse).map { |x, n| x.to_i.clamp(0, n - 2) }
      by = at.zip(first).map { |x, i| described_class.cubic(x - i) }
      indices([4, 4, 4]).sum do |c, b, a|
        i, j, k = [a, b, c].zip(first, field.shape.reverse).map { |m, f, n| (f + m - 1).clamp(0, n - 1) }
        by[0][a] * by[1][b] * by[2][c] * field[k, j, i]
      end
    end

    it "reads what the 64 values around a place come to, inside, at the sides and beyond" do
      field = random_field(5, 6, 9)
      random = Random.new(4)
      places = Array.new(40) { [random.rand(-2.0..10.0), random.rand(-2.0..8.0), random.rand(-2.0..7.0)] }
      read(field, *places).zip(places) do |(value, low, high), place|
        expect(value).to be_within(1e-5).of(written(field, place))
        expect(low).to be <= high
      end
    end

    it "takes points as they are, and a slope as it is" do
      field = field(6, 6, 6) { |k, j, i| 0.5 * i - 0.25 * j + k }
      inside = read(field, [2.0, 3.0, 1.0], [2.5, 2.25, 2.75])
      expect(inside[0][0]).to be_within(1e-6).of(0.5 * 2 - 0.25 * 3 + 1)
      # A slope a little steeper than Catmull and Rom's is off by no more than that.
      expect(inside[1]).to all_be_near([0.5 * 2.5 - 0.25 * 2.25 + 2.75, 1.0 - 0.75 + 2, 1.5 - 0.5 + 3], 0.01)
    end

    it "reads somewhere inside where a place is no number" do
      value, low, high = read(random_field(4, 4, 4), [Float::NAN, 1.0, 1.0])[0]
      expect([low, high].map(&:finite?)).to eq([true, true])
      expect(value).to be_nan
    end
  end
end
