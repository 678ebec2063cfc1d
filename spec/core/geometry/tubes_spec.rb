# frozen_string_literal: true

RSpec.describe Vumbral::Geometry::Tubes do
  it "is a coil of the length and thickness that it is told, closed, its middle at the origin" do
    coil = described_class.coil([0.5, 0.5], 1.0, 4.0, 0.08, sides: 96, around: 48)
    long = Math.sqrt((2.0 * Math::PI * 0.5 * 4.0)**2 + 1.0)
    expect(coil).to be_closed
    # A ball of its radius is shared by its two ends.
    expect(coil.volume).to be_within(0.6).percent_of(Math::PI * 0.08**2 * long + 4.0 / 3.0 * Math::PI * 0.08**3)
    low, high = coil.bounds
    expect([low, high].transpose.map { |a, b| 0.5 * (a + b) }.map(&:abs).max).to be < 0.02
    expect(high[1] - low[1]).to be_within(0.02).of(1.16)
  end

  it "narrows upwards and grows uneven, and stays closed" do
    cone = described_class.coil([0.6, 0.1], 1.0, 5.0, 0.05, uneven: 0.3)
    top, bottom = cone.points.to_a.each_slice(3).partition { |_, y, _| y > 0.4 }
    expect(top.map { |x, _, z| Math.hypot(x, z) }.max).to be < bottom.map { |x, _, z| Math.hypot(x, z) }.max / 2
    expect([cone.closed?, cone.volume > 0.0]).to eq([true, true])
  end

  it "goes through its places, as thick everywhere, around corners and straight on" do
    places = [[0.0, 0.0, 0.0], [1.0, 0.0, 0.0], [1.0, 1.0, 0.0], [1.0, 1.0, 1.0], [1.0, 1.0, 2.0]]
    tube = described_class.through(places, 0.05, around: 32)
    expect(tube).to be_closed
    body =
      Vumbral::Geometry::Body.new(
        Vumbral::Sculpt::Skin.body(tube)["outline"], [1.0] * 3, Vumbral::Sculpt::Skin::Only.new(tube)
      )
    found = places.map do |x, y, z|
      field = Vumbral::Kernel::Buffer.new(:f32, 1, 1, 1)
      body.distance(field, Vumbral::Geometry::Transform.place(position: [0.0] * 3), [x, y, z], 0.01, 1.0)
      field.to_a[0]
    end
    expect(found).to all(be_within(0.004).of(-0.05))
    straight = described_class.through([[0.0, 0.0, 0.0], [0.0, 2.0, 0.0]], 0.1, around: 64)
    expect(straight.volume).to be_within(0.8).percent_of(Math::PI * 0.01 * 2.0 + 4.0 / 3.0 * Math::PI * 0.001)
  end

  it "is a ball at one place, and nothing at none; the same place twice counts once" do
    expect(described_class.through([[1.0, 2.0, 3.0]], 0.2).bounds.flatten).to match(
      [0.8, 1.8, 2.8, 1.2, 2.2, 3.2].map { |c| be_within(0.01).of(c) }
    )
    expect(described_class.through([], 0.2).count).to eq(0)
    twice = described_class.through([[0.0, 0.0, 0.0], [0.0, 0.0, 0.0], [0.0, 1.0, 0.0]], 0.1)
    expect(twice.points.to_a).to eq(described_class.through([[0.0, 0.0, 0.0], [0.0, 1.0, 0.0]], 0.1).points.to_a)
  end
end
