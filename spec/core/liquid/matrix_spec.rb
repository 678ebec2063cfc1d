# frozen_string_literal: true

module Vumbral
  RSpec.describe Liquid::Matrix do
    # A lake with an uneven bottom, with ties as uneven where it touches the air, and air above: plain cells, others and
    # none.
    def lake(*size)
      draw = Random.new(7)
      ny = size[1]
      wet = ->(k, j, i) do
        [k, j, i].zip(size).all? { |at, all| at.between?(0, all - 1) } &&
          j.between?((k + i) % 3 / 2, ny / 2 + (k * i) % 3)
      end
      described_class.none(size).tap do |m|
        m.x.replace(field(*size) { |k, j, i| (wet[k, j, i] && wet[k, j, i + 1]) ? 1.0 : 0.0 })
        m.y.replace(field(*size) { |k, j, i| (wet[k, j, i] && wet[k, j + 1, i]) ? 1.0 : 0.0 })
        m.z.replace(field(*size) { |k, j, i| (wet[k, j, i] && wet[k + 1, j, i]) ? 1.0 : 0.0 })
        m.own.replace(field(*size) do |k, j, i|
          near =
            [[1, 0, 0], [-1, 0, 0], [0, 1, 0], [0, -1, 0], [0, 0, 1], [0, 0, -1]].count do |c, b, a|
              wet[k + c, j + b, i + a]
            end
          top = (near < 6 && !wet[k, j + 1, i]) ? draw.rand(1.0..3.0) : 0.0
          wet[k, j, i] ? near + top : 0.0
        end)
        m.sorted
      end
    end

    def numbers(size, m, seed)
      draw = Random.new(seed)
      own = m.own.to_a
      Kernel::Buffer.of(:f32, own.map { |o| o.positive? ? draw.rand(-1.0..1.0) : 0.0 }, *size)
    end

    # Its product, written out.
    def product(m, p)
      nz, ny, nx = p.shape
      own, x, y, z, at = [m.own, m.x, m.y, m.z, p].map { |buffer| buffer.to_a.each_slice(nx).each_slice(ny).to_a }
      (0...nz).flat_map do |k|
        (0...ny).flat_map do |j|
          (0...nx).map do |i|
            next 0.0 unless own[k][j][i].positive?

            sum = own[k][j][i] * at[k][j][i]
            sum -= x[k][j][i] * at[k][j][i + 1] if i < nx - 1
            sum -= x[k][j][i - 1] * at[k][j][i - 1] if i.positive?
            sum -= y[k][j][i] * at[k][j + 1][i] if j < ny - 1
            sum -= y[k][j - 1][i] * at[k][j - 1][i] if j.positive?
            sum -= z[k][j][i] * at[k + 1][j][i] if k < nz - 1
            sum -= z[k - 1][j][i] * at[k - 1][j][i] if k.positive?
            sum
          end
        end
      end
    end

    [[9, 14, 21], [17, 10, 70], [3, 6, 5]].each do |size|
      it "is multiplied as it stands, and what is left over is told, with #{size.join(" by ")} cells" do
        m = lake(*size)
        p, b = numbers(size, m, 1), numbers(size, m, 2)
        q, r = Array.new(2) { Kernel::Buffer.of(:f32, Array.new(p.size, 5.0), *size) }
        expected = product(m, p)
        dot = Liquid::MatrixKernels.apply(q, p, m)
        expect(q.to_a.zip(expected).map { |got, want| (got - want).abs }.max).to be < 1e-5
        expect(dot).to be_within(1e-4).of(expected.zip(p.to_a).sum { |one, other| one * other })
        Liquid::MatrixKernels.rest(r, b, p, m)
        expect(r.to_a.zip(b.to_a, expected).map { |got, right, left| (got - (right - left)).abs }.max).to be < 1e-5
        expect(Liquid::MatrixKernels.dot(p, b, m)).to be_within(1e-4).of(
          p.to_a.zip(b.to_a).sum { |one, other| one * other }
        )
      end

      it "is smoothed in blocks of planes as turn after turn, with #{size.join(" by ")} cells" do
        m = lake(*size)
        b, x = numbers(size, m, 3), numbers(size, m, 4)
        turns = x.copy
        [1, 0, 1, 0].each { |odd| size[0].times { |k| Liquid::MultigridKernels.smooth_plane(turns, b, m, odd, k) } }
        Liquid::MultigridKernels.smooth(x, b, m, 1)
        expect(x.to_a).to eq turns.to_a
      end

      it "takes to cells twice as large what it would bring back from them, with #{size.join(" by ")} cells" do
        m = lake(*size)
        half = size.map { |n| (n + 1) / 2 }
        c = described_class.none(half, 2.0).tap { |coarse| Liquid::MultigridKernels.coarsen(coarse, m) }.sorted
        fine, coarse = numbers(size, m, 5), numbers(half, c, 6)
        up, down = Kernel::Buffer.new(:f32, *size), Kernel::Buffer.new(:f32, *half)
        Liquid::MultigridKernels.restrict(down, fine, c)
        Liquid::MultigridKernels.prolong(up, coarse, m)
        expect(Liquid::MatrixKernels.dot(up, fine, m)).to be_within(1e-4).of(Liquid::MatrixKernels.dot(down, coarse, c))
      end
    end

    it "lists again what is not plain when there is more of it" do
      m = lake(6, 8, 10)
      room = m.places.shape[0]
      m.own.replace(field(6, 8, 10) { 7.0 })
      p, q = field(6, 8, 10) { |k, j, i| k - 0.5 * j + 0.1 * i }, Kernel::Buffer.new(:f32, 6, 8, 10)
      Liquid::MatrixKernels.apply(q, p, m.sorted)
      expect(m.places.shape[0]).to be > room
      expect(q.to_a.zip(product(m, p)).map { |got, want| (got - want).abs }.max).to be < 1e-4
    end
  end
end
