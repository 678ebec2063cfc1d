# frozen_string_literal: true

module Vumbral
  # Effects of light, lens, film and heat.
  RSpec.describe Finish::Composite do
    include FinishHelp

    def spot(width, height, x, y, light = 5.0) =
      painted(width, height) { |px, py| (px == x && py == y) ? [light, light, light, 1.0] : [0.0, 0.0, 0.0, 1.0] }

    def shown(image, what, width: image.dim(1), height: image.dim(0), stand: {}, **dials) =
      composite(
        [layer("one"), effect("one", what, **dials)], FinishHelp::Stand.new(shots: image, **stand), width: width,
        height: height
      )

    def sum(image) = image.to_a.each_slice(4).sum { |pixel| pixel[0] }

    it "blurs to a bell of the asked width at every width, and keeps the light" do
      [1.0, 3.0, 9.0].each do |sigma|
        image = Finish::Soft.new(spot(129, 129, 64, 64)).blurred(sigma)
        expect(sum(image)).to be_within(0.02).of(5.0)
        spread = image.to_a.each_slice(4).each_with_index.sum { |pixel, n| pixel[0] * (n % 129 - 64)**2 } / sum(image)
        expect(Math.sqrt(spread)).to be_within(0.06 * sigma).of(sigma)
        exact = 5.0 / (2 * Math::PI * sigma * sigma)
        expect(image[64, 64, 0]).to be_within(0.1 * exact).of(exact)
      end
    end

    it "adds a glow of what is brighter than asked, in sizes that a larger picture shares" do
      dark = shown(plain(0.4, 0.4, 0.4, 1.0), "glow", from: 1.0)
      expect(pixel(dark, 4, 4)).to all_be_near([0.4, 0.4, 0.4, 1.0], 1e-6)
      small, large =
        [64, 128].map do |edge|
          shown(
            painted(edge, edge) do |x, y|
              if Math.hypot(x + 0.5 - edge / 2, y + 0.5 - edge / 2) < edge / 16.0
                [9.0, 9.0, 9.0, 1.0]
              else
                [0.0, 0.0, 0.0, 1.0]
              end
            end,
            "glow",
            from: 1.0,
            size: 4.0
          )
        end
      four = ->(x, y) { [0, 1].product([0, 1]).sum { |dx, dy| large[2 * y + dy, 2 * x + dx, 0] } / 4.0 }
      [[40, 32], [48, 40], [60, 32]].each do |x, y|
        expect(four[x, y]).to be_within(0.02 * small[y, x, 0]).of(small[y, x, 0])
      end
      expect(small[32, 44, 0]).to be > small[32, 56, 0]
    end

    it "puts a flare's ghosts on the other side of the middle, and a streak through the light" do
      image = shown(spot(240, 120, 40, 60, 400.0), "flare", from: 1.0, amount: 1.0, streak: 30.0)
      expect(image[60, 70, 0]).to be > 20 * image[20, 70, 0]
      across = (130...230).sum { |x| image[60, x, 1] }
      expect(across).to be > 1e-3
      none = shown(spot(240, 120, 40, 60, 400.0), "flare", from: 1.0, amount: 1.0, streak: 0.0, ghosts: 0)
      expect(none.to_a).to eq(spot(240, 120, 40, 60, 400.0).to_a)
    end

    it "lets a lamp's flare go as far as something stands before it, and out of the frame" do
      lamp = ->(cover, x) do
        edits = [
          {
            "do" => "add",
            "kind" => "lamp",
            "id" => "lamp",
            "name" => "Lamp",
            "dials" => {
              "position" => [x, 1.3, 0.0]
            }
          },
          layer("one"),
          effect("one", "flare", source: "lamp", lamp: "lamp", amount: 1.0)
        ]
        sum(
          composite(
            edits, FinishHelp::Stand.new(shots: plain(0.0, 0.0, 0.0, 1.0, width: 160, height: 90), cover: cover),
            width: 160, height: 90
          )
        )
      end
      open = lamp[0.0, 0.5]
      expect(open).to be > 1.0
      expect(lamp[0.5, 0.5]).to be_within(0.02 * open).of(0.5 * open)
      expect([lamp[1.0, 0.5], lamp[0.0, 50.0]]).to eq([0.0, 0.0])
    end

    it "lights what lies below by the fire's own light, less far away, frame by frame" do
      wall = plain(0.1, 0.1, 0.1, 1.0, width: 100, height: 60)
      fire = ->(light) do
        painted(100, 60) { |x, y| (Math.hypot(x - 20, y - 30) < 5) ? [light, 0.5 * light, 0.0, 0.0] : [0.0] * 4 }
      end
      lit =
        [4.0, 8.0].map do |light|
          composite(
            [layer("low"), layer("high", 1), effect("high", "flash", from: 0.0, amount: 1.0)],
            FinishHelp::Stand.new(shots: {"low" => wall, "high" => fire[light]}), width: 100, height: 60
          )
        end
      near, far = [32, 95].map { |x| lit[0][30, x, 0] }
      expect(near).to be > far
      expect(far).to be > 0.1
      expect(lit[1][30, 95, 0] - 0.1).to be_within(1e-4).of(2 * (far - 0.1))
      expect(lit[0][30, 95, 2]).to be_within(1e-6).of(0.1)
    end

    it "bends only what lies below, only where it is hot, and as far as asked" do
      stripes = painted(120, 80) { |x, _| (x / 4).even? ? [1.0, 1.0, 1.0, 1.0] : [0.0, 0.0, 0.0, 1.0] }
      hot = Kernel::Buffer.of(:f32, (0...80).flat_map { |_| (0...120).map { |x| (x < 60) ? 500.0 : 0.0 } }, 80, 120, 1)
      clear = plain(0.0, 0.0, 0.0, 0.0, width: 120, height: 80)
      edits = [layer("low"), layer("high", 1), effect("high", "shimmer", far: 3.0, amount: 1.0)]
      image =
        composite(
          edits, FinishHelp::Stand.new(shots: {"low" => stripes, "high" => clear}, passes: {"heat" => hot}),
          width: 120, height: 80
        )
      changed = ->(xs) { xs.count { |x| (image[40, x, 0] - stripes[40, x, 0]).abs > 0.02 } }
      expect(changed[10...50]).to be > 10
      expect(changed[70...120]).to eq(0)
    end

    it "blurs along a line, away from a point and along motion" do
      smeared = shown(spot(61, 41, 30, 20), "smear", angle: 0.0, length: 20.0)
      expect([smeared[20, 33, 0], smeared[20, 27, 0]].min).to be > 0.3
      expect(smeared[23, 30, 0]).to eq(0.0)
      expect(shown(spot(61, 41, 30, 20), "zoom", length: 40.0)[20, 30, 0]).to be_within(0.01).of(5.0)
      motion = Kernel::Buffer.of(:f32, [0.0, 12.0] * (61 * 41), 41, 61, 2)
      moved = shown(spot(61, 41, 30, 20), "motion", shutter: 180.0, stand: {passes: {"motion" => motion}})
      expect([moved[18, 30, 0] > 0.3, moved[26, 30, 0], moved[20, 33, 0]]).to eq([true, 0.0, 0.0])
    end

    it "blurs by distance, and keeps what is sharp from running into what lies behind" do
      depth = Kernel::Buffer.of(:f32, (0...60).flat_map { |_| (0...80).map { |x| (x < 40) ? 5.0 : 50.0 } }, 60, 80, 1)
      halves = painted(80, 60) { |x, _|
        if x < 40
          [1.0, 0.0, 0.0, 1.0]
        else
          [0.0, (x % 8 < 4) ? 1.0 : 0.0, 0.0, 1.0]
        end
      }
      image = shown(halves, "defocus", sharp_at: 5.0, size: 10.0, stand: {passes: {"depth" => depth}})
      expect(pixel(image, 20, 30)).to all_be_near([1.0, 0.0, 0.0, 1.0], 1e-6)
      expect((60...76).map { |x| image[30, x, 1] }.minmax).to satisfy { |low, high| low > 0.3 && high < 0.7 }
      expect(image[30, 42, 0]).to be < 0.1
    end

    it "sharpens edges, takes noise away and keeps edges" do
      edge = painted(40, 20) { |x, _| [(x < 20) ? 0.2 : 0.6] * 3 + [1.0] }
      sharp = shown(edge, "sharpen", size: 10.0, amount: 1.0)
      expect([sharp[10, 19, 0] < 0.2, sharp[10, 20, 0] > 0.6]).to eq([true, true])
      random = Random.new(5)
      noisy = painted(40, 20) { |x, _| [((x < 20) ? 0.2 : 0.6) + 0.03 * (random.rand - 0.5)] * 3 + [1.0] }
      calm = shown(noisy, "denoise", amount: 1.0)
      spread = ->(image) {
        values = (2...16).flat_map { |x| (2...18).map { |y| image[y, x, 0] } }
        values.sum { |v| (v - values.sum / values.size)**2 }
      }
      expect(spread[calm]).to be < 0.3 * spread[noisy]
      expect(calm[10, 21, 0] - calm[10, 18, 0]).to be > 0.35
    end

    it "grains every frame otherwise and the same frame alike, about the same brightness, less on what is white" do
      grey = plain(0.2, 0.2, 0.2, 1.0, width: 96, height: 64)
      one, same, other =
        [3, 3, 4].map do |frame|
          composite(
            [layer("one"), effect("one", "grain", amount: 1.0, grain_size: 2.0)], FinishHelp::Stand.new(shots: grey),
            width: 96, height: 64, frame: frame
          )
        end
      expect(one.bytes).to eq(same.bytes)
      expect(one.bytes).not_to eq(other.bytes)
      values = one.to_a.each_slice(4).map(&:first)
      expect(values.sum / values.size).to be_within(0.01).of(0.2)
      rough = ->(level) {
        row =
          shown(plain(level, level, level, 1.0, width: 96, height: 64), "grain", amount: 1.0, grain_size: 2.0)
            .to_a
            .each_slice(4)
            .map { |p| p[0] / level }
        Math.sqrt(row.sum { |v| (v - 1.0)**2 } / row.size)
      }
      expect(rough[2.0]).to be < 0.7 * rough[0.05]
    end

    it "darkens corners, parts colours towards the edges, and sets bars" do
      white = plain(1.0, 1.0, 1.0, 1.0, width: 90, height: 60)
      corners = shown(white, "vignette", amount: 0.6)
      expect([corners[30, 45, 0], corners[0, 0, 0].round(1)]).to eq([1.0, 0.4])
      cross = painted(90, 60) { |x, _| [(x == 80) ? 1.0 : 0.0] * 3 + [1.0] }
      parted = shown(cross, "fringes", amount: 3.0)
      peak = ->(c) { (60...90).max_by { |x| parted[30, x, c] } }
      expect([peak[0] > peak[1], peak[2] < peak[1]]).to eq([true, true])
      barred = shown(white, "bars", shape: 3.0)
      expect([barred[10, 45, 0], barred[30, 45, 0], barred[14, 45, 0], barred[15, 45, 0]]).to eq([0.0, 1.0, 0.0, 1.0])
    end

    it "lets specks drift on without a jump, as many as asked" do
      dust = ->(frame) do
        composite(
          [layer("one"), effect("one", "dust", count: 40, size: 4.0, amount: 1.0)],
          FinishHelp::Stand.new(shots: plain(0.0, 0.0, 0.0, 1.0, width: 160, height: 90)), width: 160, height: 90,
          frame: frame
        )
      end
      expect(sum(dust[1])).to be > 1.0
      specks = Finish::Specks.new(40, 1)
      here, next_one =
        [1.0, 1.0 + 1.0 / 24].map { |at| specks.at(at, size: 1.0, drift: 5.0, sink: 2.0, shape: 16 / 9.0) }
      far = here.zip(next_one).map { |a, b| Math.hypot(a[0] - b[0], a[1] - b[1]) }.sort
      expect(far[-3]).to be < 0.02
    end

    it "wraps light from below about the edges of what is before it, not into its middle" do
      bright = plain(3.0, 3.0, 3.0, 1.0, width: 100, height: 60)
      pot = painted(100, 60) { |x, _| x.between?(30, 69) ? [0.1, 0.1, 0.1, 1.0] : [0.0] * 4 }
      image =
        composite(
          [layer("low"), layer("high", 1), effect("high", "wrap", size: 4.0, amount: 1.0)],
          FinishHelp::Stand.new(shots: {"low" => bright, "high" => pot}), width: 100, height: 60
        )
      expect(image[30, 31, 0]).to be > 0.6
      expect(image[30, 50, 0]).to be_within(0.01).of(0.1)
    end

    it "does an effect in part, and only where its mask says" do
      white = plain(1.0, 1.0, 1.0, 1.0, width: 80, height: 40)
      edits = [
        layer("one"), effect("one", "exposure", stops: -1.0, strength: 50.0),
        mask("one-exposure", "box", x: 25.0, y: 50.0, width: 100.0, height: 100.0, soft: 0.0)
      ]
      image = composite(edits, FinishHelp::Stand.new(shots: white), width: 80, height: 40)
      expect([image[20, 10, 0], image[20, 70, 0]]).to eq([0.75, 1.0])
    end
  end
end
