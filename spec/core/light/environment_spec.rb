# frozen_string_literal: true

module Vumbral
  RSpec.describe Light::Environment do
    # A sky that is blue above and brown below, with a sun that is a thousand times as bright and a broad window.
    let(:picture) do
      rows = Array.new(256) do |j|
        Array.new(512) do |i|
          up, turn = Math::PI * (0.5 - (j + 0.5) / 256), 2 * Math::PI * ((i + 0.5) / 512 - 0.5)
          sun = Math.hypot(up - 0.7, (turn - 1.0) * Math.cos(up)) < 0.03
          window = (up - 0.2).abs < 0.2 && (turn + 2.0).abs < 0.3
          colour = (up > 0) ? [0.2, 0.4, 0.9] : [0.25, 0.18, 0.1]
          colour = [600.0, 500.0, 350.0] if sun
          colour = [14.0, 15.0, 16.0] if window
          colour + [1.0]
        end
      end
      Kernel::Buffer.of(:f32, rows.flatten, 256, 512, 4)
    end

    let(:shelf) { Struct.new(:picture) { def coloured(_digest) = picture }.new(picture) }

    let(:settings) do
      {
        "model" => "picture", "picture" => picture.object_id.to_s, "around" => 30.0, "strength" => 2.0,
        "colour" => [1.0, 1.0, 1.0], "below" => [0.0] * 3, "fade" => 0.0, "background" => [0.0] * 3, "sun" => nil,
        "haze" => 3.0
      }
    end

    def dot(a, b) = a.zip(b).sum { |x, y| x * y }

    # What falls on a surface, over pi, from every pixel.
    def brute(sky, normal)
      sums = [0.0] * 3
      128.times do |j|
        256.times do |i|
          up, turn = Math::PI * (0.5 - (j + 0.5) / 128), 2 * Math::PI * ((i + 0.5) / 256)
          way = [Math.sin(turn) * Math.cos(up), Math.sin(up), Math.cos(turn) * Math.cos(up)]
          facing = dot(way, normal)
          next unless facing.positive?

          part = facing * Math.cos(up) * (Math::PI / 128) * (2 * Math::PI / 256) / Math::PI
          Light::SkyKernels.radiance(sky, *way).each_with_index { |value, c| sums[c] += value * part }
        end
      end
      sums
    end

    it "lights a surface as the sum over all of its pixels does, however that lies" do
      sky = Light::Sky.of(settings, shelf)
      suns = Light::Sky.suns(settings, described_class.of(settings["picture"], shelf))
      off =
        [
          [0, 1, 0], [0, -1, 0], [1, 0, 0], [-1, 0, 0], [0, 0, 1], [0, 0, -1], [0.6, 0.8, 0], [0, 0.6, -0.8],
          [-0.48, 0.6, 0.64]
        ].map do |normal|
          exact = brute(sky, normal)
          found =
            Light::SkyKernels
              .ambient(sky, *normal, 1.0)
              .zip(
                suns.reduce([0.0] * 3) do |sum, (_, way, light)|
                  sum.zip(light).map { |a, b| a + b * [dot(way, normal), 0.0].max / Math::PI }
                end
              )
              .map(&:sum)
          found.zip(exact).map { |a, b| a - b }
        end
      # On the mean of all, and at worst.
      scale = 2.0 / Math::PI
      expect(off.flatten.sum.abs / off.flatten.size).to be < 0.02 * scale
      expect(off.flatten.map(&:abs).max).to be < 0.06 * scale
    end

    it "gives a level sheet what the strength says, and finds the sun and the window" do
      sky = Light::Sky.of(settings, shelf)
      level = brute(sky, [0, 1, 0]).zip([0.2126, 0.7152, 0.0722]).sum { |a, b| a * b } * Math::PI
      expect(level).to be_within(0.03).of(2.0)
      environment = described_class.of(settings["picture"], shelf)
      expect(environment.suns.size).to be_between(2, 6)
      sun = environment.suns[0]
      expect(Math.asin(sun.way[1])).to be_within(0.01).of(0.7)
      expect(Math.atan2(sun.way[0], -sun.way[2])).to be_within(0.02).of(1.0)
      # Half of its width.
      expect(sun.size).to be_within(0.012).of(0.03)
    end

    it "turns, and is even where there is no picture" do
      still, turned = [0.0, 90.0].map { |around| Light::Sky.of(settings.merge("around" => around), shelf) }
      expect(Light::SkyKernels.radiance(turned, 0.3, 0.4, -0.5)).to match(
        Light::SkyKernels.radiance(still, 0.5, 0.4, 0.3).map { |c| be_within(1e-3 * (1.0 + c)).of(c) }
      )
      none = Light::Sky.of(settings.merge("picture" => nil), shelf)
      expect(none[7]).to eq(0.0)
    end

    it "is seen behind everything, mirrored, and lights smoke and props in a picture" do
      edits = [
        set("sky", :model, "picture"), set("sky", :picture, "abcdef0123"), set("sky", :strength, 2.0),
        set("picture", :behind, "sky"), set("ground", :shown, false), {"do" => "remove", "node" => "source-1"}
      ]
      document = small_shot(edits: edits)
      document = Shot::Edits.apply(document, document.of(:sun).map { |sun| {"do" => "remove", "node" => sun.id} })[0]
      renderer = Picture::Renderer.new(Picture::Renderer.settings(document, 1), shelf)
      light = renderer.light(renderer.image(nil, 48, 27)).to_a
      expect(light.each_slice(3).map { |_, g, _| g }.max).to be > 0.2
      expect(light).to all(be_finite)
      scene = Picture::Renderer.scene(document, 1, shelf)
      expect([scene["sky"].size, scene["rig"]["lamps"].size]).to match([67 + 3 * 32 * 64, be_between(2, 6)])
    end
  end
end
