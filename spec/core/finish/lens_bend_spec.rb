# frozen_string_literal: true

module Vumbral
  # A lens's bend taken out and put back, edges cut off, words, and curves over hues.
  RSpec.describe Finish::Lens do
    include FinishHelp

    # A soft wall that a resampling hardly changes.
    def wall(width, height) =
      painted(width, height) { |x, y| [0.5 + 0.3 * Math.sin(0.11 * x), 0.5 + 0.3 * Math.cos(0.13 * y), 0.4, 1.0] }

    def through(image, *effects, camera: {}, frame: 1)
      set = camera.map { |dial, value| set("camera", dial, value) }
      composite(
        [layer("one"), *effects, *set], FinishHelp::Stand.new(shots: image.copy), width: image.dim(1),
        height: image.dim(0), frame: frame
      )
    end

    it "bends as it is published, about the middle" do
      spot = painted(96, 54) { |x, y| [Math.exp(-((x - 78.0)**2 + (y - 40.0)**2) / 4.0)] * 3 + [1.0] }
      bent = through(spot, effect("one", "bent"), camera: {bend: -0.2, bend_far: 0.05})
      sums =
        [0, 1].map do |axis|
          (0...54).sum { |y| (0...96).sum { |x| bent[y, x, 0] * [x, y][axis] } } /
            (0...54).sum { |y| (0...96).sum { |x| bent[y, x, 0] } }
        end
      x, y = 78.5 - 48, 40.5 - 27
      r = Math.hypot(x, y) / (0.5 * Math.hypot(96, 54))
      scale = 1 - 0.2 * r**2 + 0.05 * r**4
      expect(sums).to all_be_near([48 + scale * x - 0.5, 27 + scale * y - 0.5], 0.05)
    end

    it "puts a spot of a bent plate where it would be seen through a straight lens" do
      shape = 16 / 9.0
      [[0.8, 0.9], [0.1, 0.4], [0.5, 0.5]].each do |place|
        x, y = (place[0] - 0.5) * shape, place[1] - 0.5
        r = Math.hypot(x, y) / (0.5 * Math.hypot(shape, 1.0))
        scale = 1 - 0.15 * r**2 + 0.04 * r**4
        expect(Finish::Spots.straight([0.5 + x * scale / shape, 0.5 + y * scale], [-0.15, 0.04], shape)).to all_be_near(
          place, 1e-6
        )
      end
    end

    it "gives back what it took out" do
      image = wall(96, 54)
      both = through(image, effect("one", "bent"), effect("one", "straight", 1), camera: {bend: -0.12, bend_far: 0.03})
      off = (6...48).flat_map { |y| (8...88).map { |x| (both[y, x, 0] - image[y, x, 0]).abs } }
      expect(off.max).to be < 2e-3
      expect(through(image, effect("one", "straight")).to_a).to eq(image.to_a)
    end

    it "cuts the edges off, to a part of a pixel" do
      cut = through(plain(1.0, 1.0, 1.0, 1.0, width: 40, height: 20), effect("one", "crop", left: 25.0, bottom: 12.5))
      expect([cut[5, 9, 3], cut[5, 10, 3], cut[16, 20, 3], cut[17, 20, 3], cut[18, 20, 3]]).to all_be_near(
        [0.0, 1.0, 1.0, 0.5, 0.0], 1e-5
      )
    end

    it "writes words in the frame's middle, as high as asked, with holes in them" do
      found =
        composite(
          [
            layer("title", what: "words", words: "O", letter: 60.0, font: "bold", colour: [1.0, 0.5, 0.25], bright: 2.0)
          ],
          FinishHelp::Stand.new,
          width: 120,
          height: 100
        )
      rows = (0...100).select { |y| (0...120).any? { |x| found[y, x, 3] > 0.5 } }
      expect(rows.size).to be_within(5).of(62)
      expect(rows.sum.fdiv(rows.size)).to be_within(1.5).of(49.5)
      expect(pixel(found, 60, 50)).to all_be_near([0.0] * 4, 1e-6)
      columns = (0...120).select { |x| found[50, x, 3] > 0.9 }
      expect(pixel(found, columns[2], 50)).to all_be_near([2.0, 1.0, 0.5, 1.0], 1e-5)
      expect(composite([layer("title", what: "words", words: " ")], FinishHelp::Stand.new).to_a.max).to eq(0.0)
    end

    it "covers exactly as much of the frame as the outlines enclose" do
      rings = Geometry::Lettering.contours("Rim & 8", tall: 20.0).rings
      area = rings.sum { |ring| Geometry::Contours.area(ring) }.abs
      found =
        Finish::Letters.image(
          {
            "words" => "Rim & 8", "font" => "bold", "letter" => 20.0, "apart" => 0.0, "colour" => [1.0] * 3,
            "bright" => 1.0
          },
          300,
          100
        )
      expect((0...100).sum { |y| (0...300).sum { |x| found[y, x, 3] } }).to be_within(0.01 * area).of(area)
    end

    it "turns, dims and strips one hue alone, and leaves grey" do
      flat = ->(value) do
        [{"at" => 0.0, "value" => value, "pass" => "linear"}, {"at" => 360.0, "value" => value, "pass" => "linear"}]
      end
      only = ->(even, value) do
        [[0.0, even], [90.0, even], [120.0, value], [150.0, even], [360.0, even]].map do |at, given|
          {"at" => at, "value" => given, "pass" => "linear"}
        end
      end
      image = painted(3, 1) { |x, _| [[0.1, 0.8, 0.1], [0.8, 0.1, 0.1], [0.4, 0.4, 0.4]][x] + [1.0] }
      duller = through(image, effect("one", "saturation", by_hue: only[1.0, 0.0]))
      expect(pixel(duller, 0, 0)[0]).to be_within(1e-3).of(pixel(duller, 0, 0)[1])
      expect(pixel(duller, 1, 0)).to all_be_near([0.8, 0.1, 0.1, 1.0], 1e-4)
      expect(pixel(duller, 2, 0)).to all_be_near([0.4, 0.4, 0.4, 1.0], 1e-4)
      bluer = through(image, effect("one", "saturation", hue_by_hue: only[0.0, 40.0]))
      whole = through(image, effect("one", "saturation", hue: 40.0))
      expect(pixel(bluer, 0, 0)).to all_be_near(pixel(whole, 0, 0), 2e-3)
      expect(pixel(bluer, 0, 0)[2]).to be > 0.3
      expect(pixel(bluer, 1, 0)).to all_be_near([0.8, 0.1, 0.1, 1.0], 1e-4)
      dimmer = through(image, effect("one", "saturation", bright_by_hue: flat[0.5]))
      expect(pixel(dimmer, 1, 0)[0]).to be_within(0.03).of(0.8 * (1.0 - 0.5 * 0.875))
      expect(pixel(dimmer, 2, 0)).to all_be_near([0.4, 0.4, 0.4, 1.0], 1e-4)
      paler =
        through(
          image,
          effect(
            "one",
            "saturation",
            by_bright: [
              {"at" => 0.0, "value" => 0.0, "pass" => "linear"}, {"at" => 1.0, "value" => 0.0, "pass" => "linear"}
            ]
          )
        )
      expect(pixel(paler, 1, 0).first(3).uniq.size).to eq(1)
    end
  end
end
