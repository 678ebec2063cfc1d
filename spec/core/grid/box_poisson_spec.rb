# frozen_string_literal: true

module Vumbral
  RSpec.describe Grid::BoxPoisson do
    MIXES = {"all open" => true, "all closed" => false, "an open ceiling" => [:y1], "mixed" => %i[x0 y1 z0 z1]}.freeze # rubocop:disable Lint/ConstantDefinitionInBlock

    def applied(pressure, open)
      q = Kernel::Buffer.new(:f32, *pressure.shape)
      gates = Kernel::Buffer.of(:f32, Gas::Plan::SIDES.map { |side| open[side] ? 2.0 : 0.0 })
      Grid::PoissonKernels.apply(q, pressure, Kernel::Buffer.new(:u8, *pressure.shape), gates)
      q
    end

    MIXES.each do |what, mix|
      it "solves exactly with #{what}" do
        open = sides(mix)
        wanted = random_field(11, 14, 9, seed: 5)
        unless open.values.any?
          mean = wanted.to_a.sum / wanted.size
          wanted = wanted.then { |f| Kernel::Buffer.of(:f32, f.to_a.map { |x| x - mean }, *f.shape) }
        end
        found = Kernel::Buffer.new(:f32, 11, 14, 9)
        solver = described_class.new([11, 14, 9], open)
        solver.solve(found, applied(wanted, open))
        expect(largest_difference(found, wanted)).to be < 2e-4
        expect(solver.floating?).to be(open.values.none?)
      end
    end

    # A made-up pressure whose second differences are known: the error must fall with the square
    # of the cell's size.
    it "converges at second order on a manufactured solution" do
      errors = [12, 24, 48].map do |n|
        h = 1.0 / n
        exact =
          field(n, n, n) do |k, j, i|
            Math.sin(Math::PI * (i + 0.5) * h) * Math.sin(2 * Math::PI * (j + 0.5) * h) *
              Math.cos(Math::PI * (k + 0.5) * h)
          end
        right = Kernel::Buffer.of(:f32, exact.to_a.map { |x| x * (1 + 4 + 1) * Math::PI**2 * h * h }, n, n, n)
        found = Kernel::Buffer.new(:f32, n, n, n)
        described_class.new([n, n, n], sides(%i[x0 x1 y0 y1])).solve(found, right)
        largest_difference(found, exact)
      end
      rates = errors.each_cons(2).map { |a, b| Math.log2(a / b) }
      expect(rates).to all(be_between(1.8, 2.2))
    end
  end

  RSpec.describe Flow::Projection do
    def shell(n, open_top: false)
      field(n, n, n, type: :u8) do |k, j, i|
        low, high = n / 4, 3 * n / 4
        inside = [k, j, i].all? { |x| x.between?(low, high) }
        hollow = [k, j, i].all? { |x| x.between?(low + 2, high - 2) }
        hollow ||= open_top && [k, i].all? { |x| x.between?(low + 2, high - 2) } && j > low + 1
        (inside && !hollow) ? 1 : 0
      end
    end

    {
      "open" => [true, nil], "closed" => [false, nil], "mixed" => [%i[y1 x0], nil],
      "open with a block" => [true, :block], "closed with a shell" => [false, :shell],
      "mixed with a shell open at the top" => [%i[y1], :cup]
    }.each do |what, (mix, body)|
      it "leaves no divergence: #{what}" do
        n = 20
        solid =
          case body
          when :block
            field(n, n, n, type: :u8) { |k, j, i| ([k, j, i].all? { |x| x.between?(6, 12) }) ? 1 : 0 }
          when :shell
            shell(n)
          when :cup
            shell(n, open_top: true)
          else
            Kernel::Buffer.new(:u8, n, n, n)
          end
        state = Gas::State.still([n, n, n])
        state.u.replace(random_field(n, n, n + 1, seed: 2))
        state.v.replace(random_field(n, n + 1, n, seed: 3))
        state.w.replace(random_field(n + 1, n, n, seed: 4))
        described_class.new([n, n, n], sides(mix), solid).project(state, 1e-5)
        expect(relative_divergence(state, solid)).to be < 1e-4
      end
    end

    it "stops at the asked accuracy, and takes fewer steps from the last pressure" do
      n = 24
      solid = shell(n, open_top: true)
      projection = described_class.new([n, n, n], sides(true), solid)
      state = Gas::State.still([n, n, n])
      state.v.replace(random_field(n, n + 1, n, seed: 9))
      again = state.copy
      first = projection.project(state, 1e-4)
      rough = described_class.new([n, n, n], sides(true), solid).project(again.copy, 1e-2)
      again.pressure.replace(state.pressure)
      expect(rough).to be < first
      expect(projection.project(again, 1e-4)).to be < first
      expect(first).to be < 40
    end
  end
end
