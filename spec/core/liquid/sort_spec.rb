# frozen_string_literal: true

module Vumbral
  RSpec.describe Liquid::SortKernels do
    let(:size) { [3, 4, 5] }

    def buffer(numbers) = Kernel::Buffer.of(:i32, numbers)

    it "tells the cell of each place, and one past the last of those outside" do
      places = [
        [0.0, 0.0, 0.0], [4.9, 3.9, 2.9], [1.5, 2.2, 1.1], [5.0, 1.0, 1.0], [1.0, -0.01, 1.0], [-1000.0, 2.0, 2.0]
      ]
      cells = buffer([7] * 7)
      described_class.cells(cells, Kernel::Buffer.of(:f32, places.flatten, 6, 3), buffer(size), 1)
      expect(cells.to_a).to eq([7, 0, 59, 31, 60, 60, 60])
    end

    it "orders particles by cells, those of one cell as they came, and says where each cell's begin" do
      random = Random.new(4)
      [0, 1, 2, 997].each do |count|
        cells = Array.new(count) { random.rand(61) }
        order, first, second, counted = [count, 62, 62, 62].map { |n| buffer([9] * n) }
        inside = described_class.order(order, first, second, buffer(cells))
        expect(order.to_a).to eq(cells.each_with_index.sort.map(&:last))
        expect(first.to_a).to eq((0..61).map { |cell| cells.count { |one| one < cell } })
        expect(inside).to eq(cells.count { |cell| cell < 60 })
        described_class.count(counted, second, buffer(cells))
        expect(counted.to_a).to eq(first.to_a)
      end
    end
  end
end
