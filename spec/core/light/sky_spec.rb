# frozen_string_literal: true

module Vumbral
  RSpec.describe Light::Sky do
    def sky(**settings)
      described_class.of({"model" => "clear", "strength" => 1.0, "colour" => [1.0, 1.0, 1.0], "below" => [0.3, 0.3,
        0.3], "haze" => 3.0, "fade" => 0.0,
                          "background" => [0.0, 0.0, 0.0], "sun" => [0.0, Math.sin(0.7),
                            Math.cos(0.7)]}.merge(settings.transform_keys(&:to_s)))
    end

    def seen(sky, x, y, z) = Light::SkyKernels.radiance(sky, *[x, y,
      z].map { |c| c / Math.sqrt(x * x + y * y + z * z) })

    def luminance(rgb) = 0.2126 * rgb[0] + 0.7152 * rgb[1] + 0.0722 * rgb[2]

    it "is brightest about the sun, pale at the horizon and blue above" do
      clear = sky
      near, across, zenith = seen(clear, 0.1, 0.8, 1.0), seen(clear, 0.0, 0.6, -1.0), seen(clear, 0.0, 1.0, -0.2)
      expect(luminance(near)).to be > 2 * luminance(across)
      expect(zenith[2]).to be > 1.5 * zenith[0]
      horizon = seen(clear, 1.0, 0.02, -0.5)
      expect(horizon[2] / horizon[0]).to be < zenith[2] / zenith[0]
      hazy = seen(sky(haze: 8.0), 0.0, 1.0, -0.2)
      expect(hazy[2] / hazy[0]).to be < zenith[2] / zenith[0]
      low = seen(sky(sun: [0.0, 0.05, 1.0]), 0.0, 0.1, 1.0)
      expect(low[0]).to be > low[2]
    end

    it "lights a level sheet as strongly as it is told, of one colour or modelled" do
      [sky(strength: 2.0), sky(model: "even", strength: 2.0), sky(strength: 2.0, sun: [0.0, -0.3, 1.0])].each do |light|
        expect(luminance(light.to_a.first(3)) * Math::PI).to be_within(0.02).of(2.0)
        expect(light.to_a[3]).to be_within(1e-6).of(0.3 * light.to_a[0])
      end
      expect(sky(model: "even", background: [0.1, 0.2, 0.3]).then { |even|
        seen(even, 0.0, 1.0,
          0.0)
      }).to match([be_within(1e-6).of(0.1), be_within(1e-6).of(0.2), be_within(1e-6).of(0.3)])
    end

    it "never has less than nothing, wherever one looks and however low the sun" do
      [-0.5, 0.0, 0.02, 0.3, 1.0].product([1.7, 5.0, 10.0]).each do |height, haze|
        light = sky(haze: haze, sun: [0.0, Math.sin(height), Math.cos(height)])
        values = 40.times.flat_map { |n| seen(light, Math.sin(n), 0.04 * (n - 5), Math.cos(1.3 * n) + 0.01) }
        expect(values).to all(be >= 0.0)
        expect(values).to all(be_finite)
      end
    end
  end

  RSpec.describe Light::Skylight do
    it "is open where nothing stands, and half open above a thick floor" do
      clear = described_class.of(Kernel::Buffer.new(:f32, 16, 16, 16), 10.0, 0.1)
      expect([clear.up[4, 4, 4], clear.down[4, 4, 4]]).to all(be_within(1e-5).of(0.5))
      floor = described_class.of(field(32, 32, 32) { |_, j, _| (j < 8) ? 1.0 : 0.0 }, 40.0, 0.1)
      expect(floor.down[8, 6, 8]).to be < 0.35
      expect(floor.up[8, 6, 8]).to be > 0.4
    end
  end

  RSpec.describe Grid::Spline do
    it "comes near what it goes through, never beyond its neighbours, without a crease" do
      smooth = field(12, 12, 12) { |k, j, i| Math.sin(0.5 * i) * Math.cos(0.4 * j) + 0.3 * Math.sin(0.3 * k) }
      ready = described_class.of(smooth)
      off = (3..8).flat_map { |n|
        [[n, 5, 6], [6, n, 4]].map { |k, j, i|
          (described_class.read(ready, i.to_f, j.to_f,
            k.to_f) - smooth[k, j, i]).abs
        }
      }
      expect(off.max).to be < 0.02
      steps = field(8, 8, 16) { |_, _, i| (i > 7) ? 1.0 : 0.0 }
      read = (0..150).map { |n| described_class.read(described_class.of(steps), 0.1 * n, 4.0, 4.0) }
      expect(read.minmax).to match([be >= 0.0, be <= 1.00001])
      bends = read.each_cons(3).map { |a, b, c| (a - 2 * b + c).abs }
      expect(bends.max).to be < 0.015
      expect((0...10).sum { |n| described_class.weights(0.1 * n).sum } / 10).to be_within(1e-6).of(1.0)
    end
  end
end
