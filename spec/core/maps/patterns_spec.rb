# frozen_string_literal: true

module Vumbral
  RSpec.describe Maps::Patterns do
    # Four pixels: dark and half above, full and a quarter below.
    let(:shelf) { Class.new { def picture(_digest) = Kernel::Buffer.of(:f32, [0.0, 0.5, 1.0, 0.25], 2, 2) }.new }

    def texture(**dials) = {"do" => "add", "kind" => "texture", "id" => "t", "dials" => dials.transform_keys(&:to_s)}

    def at(document, frame, *place)
      rows = described_class.buffer(Geometry::Textures.rows(document, frame).values, shelf)
      Geometry::TextureKernels.value(rows, 0, *place, 0.0)
    end

    it "reads a picture upright about where it begins, as wide as its size, again beside itself or not" do
      document =
        small_shot(edits: [texture(what: "picture", picture: "four pixels", size: 2.0, offset: [1.0, 0.0, 0.0])])
      values = [[0.5, 0.5], [1.5, 0.5], [0.5, -0.5], [1.5, -0.5]].map { |x, y| at(document, 1, x, y, 0.7) }
      expect(values).to match([0.0, 0.5, 1.0, 0.25].map { |value| be_within(1e-5).of(value) })
      expect(at(document, 1, 3.5, 0.5, 0.0)).to be_within(1e-5).of(0.5)
      once = small_shot(edits: [texture(what: "picture", picture: "four pixels", size: 2.0, repeats: false)])
      expect([at(once, 1, 1.01, 0.5, 0.0), at(once, 1, 0.5, 0.5, 0.0)]).to match([0.0, be_within(1e-5).of(0.5)])
    end

    it "reads a large picture as the mean of what it covers" do
      large =
        Class
          .new do
            def picture(_digest) =
              Kernel::Buffer.of(:f32, Array.new(1024 * 2) { |n| (n % 1024 < 512) ? 0.25 : 0.75 }, 2, 1024)
          end
          .new
      rows =
        described_class.buffer(
          Geometry::Textures.rows(small_shot(edits: [texture(what: "picture", picture: "wide", size: 1.0)]), 1).values,
          large
        )
      expect(rows[0, Geometry::TextureKernels::SECOND]).to eq(512.0)
      expect([-0.2, 0.2].map { |x| Geometry::TextureKernels.value(rows, 0, x, 0.0, 0.0, 0.0) }).to match(
        [be_within(1e-5).of(0.25), be_within(1e-5).of(0.75)]
      )
    end

    it "is even where no picture was brought" do
      expect(at(small_shot(edits: [texture(what: "picture")]), 1, 0.1, 0.2, 0.3)).to eq(1.0)
    end

    it "carries out a formula in a box of its size, at its own time, and stays beyond as at the edge" do
      document = small_shot(edits: [texture(what: "formula", formula: "0.5 + x * y + 0.1 * t", size: 2.0)])
      expect(at(document, 1, 0.5, 0.4, 0.0)).to be_within(2e-3).of(0.5 + 0.25 * 0.2)
      expect(at(document, 7, 0.5, 0.4, 0.0)).to be_within(2e-3).of(0.5 + 0.25 * 0.2 + 0.1 * 6 / 24.0)
      expect(at(document, 1, 9.0, 9.0, 0.0)).to be_within(0.02).of(0.75)
    end

    it "is whole where a front has just come, and gone where it has not" do
      front = {
        "do" => "add",
        "kind" => "front",
        "id" => "front",
        "dials" => {
          "prop" => "prop-1", "places" => [[0.0, 0.0, 0.3]], "speed" => 1.0, "uneven" => 0.0
        }
      }
      document =
        small_shot(
          edits: [
            set("prop-1", :radius, 0.3), set("prop-1", :position, [1.0, 1.0, 0.0]), front,
            texture(what: "front", front: "front", rise: 0.0)
          ]
        )
      near, far = [0.3, -0.3].map { |z| at(document, 8, 1.0, 1.0, z) }
      expect(near).to be > 0.9
      expect(far).to be < 0.1
    end
  end
end
