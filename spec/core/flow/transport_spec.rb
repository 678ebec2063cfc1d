# frozen_string_literal: true

module Vumbral
  RSpec.describe Flow::Transport do
    SHAPES = { # rubocop:disable Lint/ConstantDefinitionInBlock
      # Zalesak's slotted body (1979).
      slotted: ->(x, y) { (Math.hypot(x, y) < 0.15 && !(x.abs < 0.025 && y < 0.1)) ? 1.0 : 0.0 },
      smooth: ->(x, y) { Math.exp(-(x * x + y * y) / 0.01) }
    }.freeze

    def body(n, shape) = field(4, n, n) { |_, j, i| SHAPES[shape].call((i + 0.5) / n - 0.5, (j + 0.5) / n - 0.75) }

    def still(*size) = Kernel::Buffer.new(:f32, *size)

    # A solid turn about the middle of a sheet, once in a second.
    def turn(layers, n)
      [field(layers, n, n + 1) { |_, j, _| -2 * Math::PI * ((j + 0.5) / n - 0.5) },
        field(layers, n + 1, n) { |_, _, i| 2 * Math::PI * ((i + 0.5) / n - 0.5) }, still(layers + 1, n, n)]
    end

    def wind(layers, n, u, v = 0.0)
      [still(layers, n, n + 1).fill(u), still(layers, n + 1, n).fill(v), still(layers + 1, n, n)]
    end

    # Turned once about the middle of a sheet. @return what differs, relative to the body
    def turned(n, steps, sharp, shape)
      smoke = body(n, shape)
      transport = described_class.new([4, n, n], 1.0 / n, sides(false))
      steps.times do
        transport.follow(turn(4, n), 1.0 / steps)
        smoke, = transport.carry(smoke, sharp: sharp)
      end
      before = body(n, shape).to_a
      smoke.to_a.zip(before).sum { |a, b| (a - b).abs } / before.sum
    end

    # The measure that artists see: a soft blob in one solid turn.
    it "brings a blob round with its peak, its edge and its sum" do
      n = 64
      blob = field(n, n, n) { |k, j, i|
        Math.exp(-[k - 31.5, j - 47.5, i - 31.5].sum { |d|
          (d / n)**2
        } / (2 * 0.05**2))
      }
      way = turn(n, n)
      {25 => [0.96, 0.025], 50 => [0.95, 0.025]}.each do |steps, (peak, off)|
        transport = described_class.new([n, n, n], 1.0 / n, sides(false))
        smoke = blob.copy
        steps.times do
          transport.follow(way, 1.0 / steps)
          smoke, = transport.carry(smoke)
        end
        before, after = blob.to_a, smoke.to_a
        expect(after.max / before.max).to be_between(peak, 1.0)
        expect(after.sum / before.sum).to be_within(0.002).of(1.0)
        expect(before.zip(after).sum { |a, b| (a - b).abs } / before.sum).to be < off
        slope = ->(field) { (1...n - 1).map { |i| (field[31, 47, i + 1] - field[31, 47, i - 1]).abs }.max }
        expect(slope.call(smoke) / slope.call(blob)).to be_between(0.95, 1.03)
      end
    end

    it "loses far less of a turning slotted body when it is sharp" do
      soft, sharp = [false, true].map { |choice| turned(96, 160, choice, :slotted) }
      expect(sharp).to be < 0.5 * soft
    end

    it "is nearly second order on a smooth body when sharp, and first when soft" do
      rates = [false, true].map { |choice|
        Math.log2(turned(32, 80, choice, :smooth) / turned(64, 160, choice, :smooth))
      }
      expect(rates[0]).to be_between(0.3, 1.0)
      expect(rates[1]).to be > 1.4
    end

    it "makes no new extremes" do
      smoke = body(32, :slotted)
      transport = described_class.new([4, 32, 32], 1.0 / 32, sides(true))
      20.times do
        transport.follow(wind(4, 32, 0.31, -0.17), 0.03)
        smoke, = transport.carry(smoke)
      end
      expect(smoke.to_a.minmax).to match([be >= 0.0, be <= 1.0])
    end

    it "carries a uniform wind without a beat: the body arrives where it should" do
      n = 32
      smoke = field(4, n, n) { |_, j, i| Math.exp(-((i - 8)**2 + (j - 16)**2) / 12.0) }
      transport = described_class.new([4, n, n], 1.0 / n, sides(true))
      12.times do
        transport.follow(wind(4, n, 1.0), 1.0 / n)
        smoke, = transport.carry(smoke)
      end
      sum = smoke.to_a.sum
      centre = indices([4, n, n]).zip(smoke.to_a).sum { |(_, _, i), value| i * value } / sum
      expect(centre).to be_within(0.1).of(20.0)
    end

    it "tells what leaves through an open side, and keeps the rest, sharp or soft" do
      n = 32
      [true, false].each do |sharp|
        smoke = field(8, n, n) { |k, j, i| Math.exp(-((i - 24)**2 + (j - 16)**2 + (k - 3.5)**2) / 12.0) }
        whole = smoke.to_a.sum
        transport = described_class.new([8, n, n], 1.0 / n, sides(%i[x1]))
        left = 0.0
        8.times do
          transport.follow(wind(8, n, 2.7), 1.0 / n)
          smoke, gone = transport.carry(smoke, sharp: sharp)
          left += gone
        end
        expect(left).to be > 0.9 * whole
        expect(smoke.to_a.sum + left).to be_within(0.002 * whole).of(whole)
      end
    end

    it "lets in still air past an open side" do
      n = 16
      transport = described_class.new([4, n, n], 1.0 / n, sides(true))
      gust = wind(4, n, 1.0)
      transport.follow(gust, 2.0 / n)
      into = gust.map { |faces| still(*faces.shape) }
      transport.carry_velocity(gust, into)
      expect(into[0][2, 8, 0]).to eq(0.0)
      expect(into[0][2, 8, 8]).to be_within(1e-6).of(1.0)
    end
  end
end
