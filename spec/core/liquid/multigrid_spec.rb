# frozen_string_literal: true

module Vumbral
  RSpec.describe Liquid::Multigrid do
    # Pressure in a box of cells whose top is open.
    def grids(size)
      described_class.new(size).tap do |grids|
        m = grids.matrix
        nz, ny, nx = size
        m.x.replace(field(*size) { |_, _, i| (i < nx - 1) ? 1.0 : 0.0 })
        m.y.replace(field(*size) { |_, j, _| (j < ny - 1) ? 1.0 : 0.0 })
        m.z.replace(field(*size) { |k, _, _| (k < nz - 1) ? 1.0 : 0.0 })
        m.own.replace(
          field(*size) do |k, j, i|
            [[i, nx], [j, ny], [k, nz]].sum { |n, all| (n.zero? ? 0.0 : 1.0) + ((n == all - 1) ? 0.0 : 1.0) } +
              ((j == ny - 1) ? 2.0 : 0.0)
          end
        )
      end
    end

    def right(size) = field(*size) { |k, j, i| Math.sin(0.7 * i) * Math.cos(0.3 * j) + 0.2 * (k % 3) }

    def solved(size)
      x = Kernel::Buffer.new(:f32, *size)
      iterations, left = grids(size).solve(x, right(size), 1e-4)
      [x.to_a, iterations, left]
    end

    it "comes to the same whether one core sweeps small grids or all do" do
      one = solved([20, 24, 18])
      stub_const("Vumbral::Liquid::Multigrid::SMALL", 0)
      expect(solved([20, 24, 18])).to eq one
    end

    it "needs about as many steps however fine the grid is" do
      steps = [12, 24, 48].map { |n| solved([n, n, n])[1] }
      expect(steps.max).to be <= 20
      expect(steps[2] - steps[0]).to be <= 6
    end
  end
end
