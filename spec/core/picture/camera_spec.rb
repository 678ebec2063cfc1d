# frozen_string_literal: true

module Vumbral
  RSpec.describe Picture::Camera do
    def shot(*edits)
      Shot::Edits.apply(Shot::Document.blank("Test"),
        [set("camera", :position, [0.0, 0.0, 10.0]), set("camera", :target, [0.0, 0.0, 0.0]), set("sky", :strength,
          0.0), *edits])[0]
    end

    def camera(*edits) = described_class.new(described_class.settings(shot(*edits), 1))

    def box(name, place, size, *more)
      [
        {
          "do" => "add",
          "kind" => "prop",
          "id" => name,
          "name" => name,
          "dials" => {
            "shape" => "box", "size" => size, "position" => place, "colour" => [1.0, 1.0, 1.0]
          }
        },
        *more
      ]
    end

    def lit = set("sky", :strength, 1.0)

    def image(*edits, medium: nil, frame: 1, width: 64, height: 36)
      Picture::Renderer.new(Picture::Renderer.settings(shot(*edits), frame), nil).image(medium, width, height)
    end

    # Along the middle row, as a share of the brightest.
    def row(image) = (0...image.dim(1)).map { |x|
      image[image.dim(0) / 2, x,
        0]
    }.then { |all| all.map { |v| v / all.max } }

    # Pixels from nearly dark to nearly bright.
    def edge(image) = row(image).count { |value| value.between?(0.05, 0.95) }

    it "makes one picture where nothing blurs, and as many as it is told otherwise" do
      expect(camera.passes).to eq([described_class::STILL])
      blurred = camera(set("camera", :shutter, 180.0), set("camera", :samples, 16)).passes
      expect(blurred.size).to eq(16)
      expect(blurred.map(&:moment)).to all(be_between(-0.5, 0.0))
      expect(blurred.sum(&:moment) / 16).to be_within(1e-9).of(-0.25)
      lens = blurred.map(&:lens)
      # Every ring of the lens has as many, all around.
      expect(lens.map { |out, _| out * out }.sort.each_cons(2).map { |a, b| b - a }).to all(
        be_within(1e-9).of(1.0 / 16)
      )
      expect(lens.sum { |out, turn| out * Math.cos(2 * Math::PI * turn) }).to be_within(1.0).of(0.0)
      # The first half of them is spread as evenly.
      expect(blurred.first(8).sum(&:moment) / 8).to be_within(0.03).of(-0.25)
    end

    it "keeps what stands at its distance sharp, and blurs the rest as the opening says" do
      open = [set("camera", :aperture, 1.4), set("camera", :focal, 85.0), set("camera", :samples, 64)]
      at = ->(z) {
        image(lit, *box("wall", [-2.0, 0.0, z], [4.0, 4.0, 0.1]), *open, set("camera", :focus, 9.95),
          width: 160, height: 90)
      }
      expect(edge(at.call(0.0))).to be <= 2
      # Diameter of the blur: opening times how far it is off, over both distances; 85 mm over 1.4 is 61 mm.
      near = 0.0607 * (9.95 - 4.95) / 4.95 / 9.95 * 85.0 / 36.0 * 160
      expect(edge(at.call(5.0))).to be_within(0.3 * near).of(0.85 * near)
    end

    it "lets a prop stay sharp wherever it goes" do
      ball = box("ball", [0.0, 0.0, 4.0], [1.0, 1.0, 1.0])
      expect(camera(*ball, set("camera", :aperture, 2.0), set("camera", :focus_on,
        "ball")).sharp[1]).to be_within(1e-9).of(6.0)
      expect(camera(*ball, set("camera", :focus, 3.0)).sharp).to eq([0.0, 3.0, nil])
      near, sharp, far = camera(set("camera", :aperture, 2.0), set("camera", :focus, 5.0), set("camera", :focal,
        50.0)).sharp
      expect([near, sharp, far]).to match([be_within(0.2).of(4.37), 5.0, be_within(0.3).of(5.85)])
      expect(camera(set("camera", :aperture, 16.0), set("camera", :focal, 20.0), set("camera", :focus,
        20.0)).sharp[2]).to be_nil
    end

    it "sees as wide as its film is, and blurs by how long its lens really is" do
      wide = ->(*edits) {
        view = camera(*edits).view(36, 18).to_a
        Math.sqrt(view[6, 3].sum { |c| c * c }) / Math.sqrt(view[3, 3].sum { |c| c * c })
      }
      expect(wide.call(set("camera", :focal, 50.0))).to be_within(1e-6).of(18.0 / 50.0)
      expect(wide.call(set("camera", :focal, 50.0), set("camera", :film, 24.0))).to be_within(1e-6).of(12.0 / 50.0)
      # The same angle through half the lens has half the opening, so more is sharp.
      ends =
        [[36.0, 50.0], [18.0, 25.0]].map do |film, focal|
          camera(
            set("camera", :film, film), set("camera", :focal, focal), set("camera", :aperture, 2.0),
            set("camera", :focus, 5.0)
          ).sharp
        end
      expect(ends.map { |near, _, _| 5.0 - near }).to match([be_within(0.05).of(0.63), be_within(0.1).of(1.12)])
      # As wide as usual says nothing more than before.
      expect(described_class.settings(shot, 1)).not_to have_key("film")
    end

    it "blurs a prop along its way for as long as the shutter is open" do
      moving = box("wall", [-6.0, 0.0, 0.0], [12.0, 4.0, 0.1]) +
        [[1, [-7.0, 0.0, 0.0]], [3, [-5.0, 0.0, 0.0]]].map { |frame, place|
          {"do" => "key", "node" => "wall",
           "dial" => "position", "frame" => frame, "value" => place, "ease" => "linear"}
        }
      frozen, half, whole = [0.0, 180.0, 360.0].map { |open|
        edge(image(lit, *moving, set("camera", :shutter, open),
          set("camera", :samples, 48), frame: 2))
      }
      # A metre a frame, seen at ten metres with 40 mm on 36: 7.1 pixels.
      expect([frozen, half, whole]).to match([be <= 1, be_within(1).of(3), be_within(1).of(6)])
    end

    it "blurs smoke along its way, back from where it stands" do
      smoke = field(20, 20, 60) { |_, _, i| (i < 30) ? 5.0 : 0.0 }
      flow = Grid::VectorField.still([20, 20, 60]).tap { |all| all.x.fill(24.0 * 1.2) }
      medium = Light::Medium.new(smoke, 0.1, [-3.0, -1.0, -1.0], flow: flow)
      seen = [0.0, 360.0].map { |open|
        image(set("camera", :shutter, open), set("camera", :samples, 32),
          medium: medium).then { |all| (0...64).map { |x| all[18, x, 3] } }
      }
      # It was 1.2 m further left a frame ago: 8.5 pixels; half of that in the mean.
      expect(seen[0].sum - seen[1].sum).to be_within(1.0).of(0.5 * 8.5)
      expect(seen[1].each_cons(2).map { |a, b| b - a }.count { |d| d < -0.02 }).to be >= 7
    end

    it "softens shadows as wide as the sun looks, and hardens them for none" do
      sun = lambda { |size|
        {"do" => "add", "kind" => "sun", "name" => "Sun", "dials" => {"size" => size, "height" => 45.0,
                                                                      "around" => 90.0}}
      }
      ground = {"do" => "add", "kind" => "prop", "name" => "Ground", "dials" => {"shape" => "plane", "size" => [40.0,
        1.0, 40.0], "colour" => [1.0, 1.0, 1.0]}}
      hard, own, veiled = [0.0, 0.53, 8.0].map do |size|
        edge(image(ground, sun.call(size), *box("wall", [1.0, 1.0, 0.0], [0.1, 2.0, 20.0]), set("camera", :position,
          [-1.0, 12.0, 0.01]), set("camera", :target, [-1.0, 0.0, 0.0]), width: 320, height: 180))
      end
      # The wall's top throws its edge over 2.8 m: 0.37 m wide on flat ground for eight degrees, on 10.8 m for 320
      # pixels.
      expect([hard, own]).to match([be <= 3, be <= 4])
      expect(veiled).to be_between(8, 26)
    end
  end

  RSpec.describe Picture::Meter do
    def light(*values) = Kernel::Buffer.of(:f32, values.flat_map { |value| [value] * 3 }, 1, values.size, 3)

    it "puts middle tones at a middle grey" do
      expect(described_class.stops(light(*[0.045] * 50))).to be_within(0.03).of(2.0)
      expect(described_class.stops(light(*[1.44] * 50))).to be_within(0.03).of(-3.0)
    end

    it "keeps what is bright from burning out, and says nothing of a black picture" do
      expect(described_class.stops(light(*[0.01] * 90, *[3.2] * 10))).to be_within(0.03).of(-1.0)
      expect(described_class.stops(light(0.0, 0.0))).to eq(0.0)
    end

    it "sees of a part of the picture what the whole has there" do
      settings = Picture::Camera.settings(small_shot, 1)
      whole, part =
        [settings, settings.merge("crop" => [0.25, 0.5, 0.75, 1.0])].zip([[64, 36], [32, 18]])
          .map { |numbers, size| Picture::Camera.new(numbers).view(*size) }
      [[3.5, 2.5], [31.5, 17.5], [0.5, 9.5]].each do |x, y|
        expect(Picture::EyeKernels.direction(part, x, y)).to match(
          Picture::EyeKernels.direction(whole, 16.0 + x, 18.0 + y).map { |c| be_within(1e-5).of(c) }
        )
      end
    end
  end
end
