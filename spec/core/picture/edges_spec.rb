# frozen_string_literal: true

module Vumbral
  RSpec.describe Picture::EdgeKernels do
    # A ball over white ground with its shadow, from above.
    def edits(**ball)
      [
        set("prop-1", :shape, "sphere"), set("prop-1", :divisions, 3), set("prop-1", :radius, 0.4),
        set("prop-1", :position, [0.0, 0.4, 0.0]), set("prop-1", :shown, true), set("ground", :uneven, 0.0),
        set("ground", :stones, 0.0), set("ground", :colour, [0.5] * 3), set("sun-1", :height, 30.0),
        set("camera", :position, [0.0, 5.0, 0.01]), set("camera", :target, [0.0, 0.0, 0.0]),
        set("picture", :exposure, 0.0), *ball.map { |dial, value| set("prop-1", dial, value) }
      ]
    end

    def renderer(edits) = Picture::Renderer.new(Picture::Renderer.settings(small_shot(edits: edits), 1), nil)

    def picture(edits, width, height) = renderer(edits).image(nil, width, height)

    # How a picture differs in the mean from one of twenty-five times as many pixels.
    def off(image, fine)
      sum = image.dim(0).times.sum do |y|
        image.dim(1).times.sum do |x|
          all = Array.new(25) { |n| fine[5 * y + n / 5, 5 * x + n % 5, 1] }
          (all.sum / 25.0 - image[y, x, 1]).abs
        end
      end
      sum / (image.dim(0) * image.dim(1))
    end

    it "makes edges of shadows as soft as a finer picture has them, and looks closely only there" do
      fine = picture(edits, 480, 270)
      image = picture(edits, 96, 54)
      marked = nil
      allow(described_class).to receive(:mark_again).and_wrap_original do |real, again, *others|
        real.call(again, *others)
        marked = again.to_a.count(1)
        again.dim(0).times { |y| again.dim(1).times { |x| again[y, x] = 2 } }
      end
      plain = picture(edits, 96, 54)
      expect(off(image, fine)).to be < 0.6 * off(plain, fine)
      expect(marked).to be_between(20, 96 * 54 * 0.15)
    end

    it "finds the same edges in a part of a picture as in the whole, up to the part's own" do
      sharp = edits + [set("sun-1", :size, 0.0)]
      whole = picture(sharp, 96, 54)
      settings = Picture::Renderer.settings(small_shot(edits: sharp), 1)
      # Its left edge cuts the ball's shadow, its lower one the ball.
      cut = settings.merge("camera" => settings["camera"].merge("crop" => [0.25, 1 / 3.0, 0.5, 0.5]))
      part = Picture::Renderer.new(cut, nil).image(nil, 24, 9)
      off = 24.times.to_a.product(9.times.to_a).map { |x, y| (part[y, x, 1] - whole[18 + y, 24 + x, 1]).abs }
      expect(off.max).to be < 1e-4
    end

    it "lets a part of a pixel that is far too bright not hide how small it is" do
      hits = Kernel::Buffer.new(:f32, 1, 2, 16)
      [[40.0, 0.1, 0.1, 0.1], [0.8, 0.1, 0.1, 0.1]].each_with_index do |lights, x|
        lights.each_with_index do |light, s|
          [1.0, light, light, light].each_with_index { |value, c| hits[0, x, 4 * s + c] = value }
        end
      end
      mean = ->(x) { 4.times.sum { |s| 0.25 * hits[0, x, 4 * s + 2] } }
      described_class.soften(hits, 1.0)
      # As bright as film shows, for a quarter, and what is not too bright stays as it is.
      expect(mean.call(0)).to be_within(0.01).of((1.0 + 0.3) / (0.025 + 3.0))
      expect(mean.call(1)).to be_within(1e-6).of(1.1 / 4)
    end

    it "has light end softly on what is round, however coarse its triangles are" do
      # A ball of 320 triangles and one of 20,480, lit from the side, along a line over the lamp's horizon.
      rows = [2, 5].map do |fine|
        scene = edits(divisions: fine) + [set("ground", :shown, false), set("sun-1", :height, 8.0),
          set("sun-1", :around, 90.0), set("camera", :position, [0.0, 0.4, 4.0]), set("camera", :focal, 120.0),
          set("camera", :target, [0.0, 0.4, 0.0]), set("sky", :strength, 0.0)]
        image = picture(scene, 80, 45)
        (10...70).map { |x| image[22, x, 1] }
      end
      steps = rows.map { |row| row.each_cons(2).map { |a, b| (b - a).abs }.sort[-3] / row.max }
      apart = rows[0].zip(rows[1]).map { |a, b| (a - b).abs }.sort[0...-4].max / rows[1].max
      expect(steps[0]).to be < 1.6 * steps[1]
      expect(apart).to be < 0.12
    end
  end

  RSpec.describe Picture::FacetKernels do
    # One triangle of a ball of radius 2, or of a plane.
    def scene(round)
      corners =
        [[0.2, 0.0], [-0.1, 0.17], [-0.1, -0.17]].map { |x, y| [x, y, round ? Math.sqrt(4.0 - x * x - y * y) : 2.0] }
      normals = corners.map { |corner| round ? corner.map { |value| value / 2.0 } : [0.0, 0.0, 1.0] }
      none = Kernel::Buffer.new(:f32, 1, 1)
      flat = Kernel::Buffer.new(:f32, 1)
      Picture::Scene.new(
        Kernel::Buffer.of(:f32, corners.flatten).reshape(1, 9), none,
        Kernel::Buffer.of(:f32, normals.flatten).reshape(1, 9), none, Kernel::Buffer.new(:i32, 1),
        Kernel::Buffer.new(:u8, 1, 1), none, none, Kernel::Buffer.new(:f32, 1, 1, 1), none, none, none, none, none, flat
      )
    end

    def spot(far) = Picture::Spot.new(far, 0, 0.3333333, 0.3333333, 0.0)

    it "lifts a place onto the ball that its triangle stands for, and leaves what is flat" do
      at = scene(true).corners.to_a.each_slice(3).sum { |corner| corner[2] } / 3.0
      ray = Geometry::Ray.new(0.0, 0.0, 3.0, 0.0, 0.0, -1.0)
      expect(at).to be < 1.9905
      expect(described_class.lifted(scene(true), spot(3.0 - at), ray)[2]).to be_between(1.9999, 2.0 + (2.0 - at))
      # From within, a hollow needs nothing.
      inside = Geometry::Ray.new(0.0, 0.0, 0.0, 0.0, 0.0, 1.0)
      expect(described_class.lifted(scene(true), spot(at), inside)[2]).to be_within(1e-6).of(at)
      expect(described_class.lifted(scene(false), spot(1.0), ray))
        .to match([be_within(1e-6).of(0.0), be_within(1e-6).of(0.0), be_within(1e-6).of(2.0)])
    end

    it "makes what is round within a pixel rougher by as much as it turns there" do
      expect(described_class.rounded(scene(false), 0, 0.1, 0.05)).to be_within(1e-5).of(0.1)
      # A turn of 0.02 on a ball of radius 2, on top of facets of 0.01 squared.
      expect(described_class.rounded(scene(true), 0, 0.1, 0.04)**4).to be_within(4e-5).of(0.01**2 + 0.02**2)
    end
  end
end
