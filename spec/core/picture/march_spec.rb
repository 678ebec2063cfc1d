# frozen_string_literal: true

module Vumbral
  RSpec.describe Picture::MarchKernels do
    def look(**dials) = dials.map { |dial, value| set("look", dial, value) }

    def sun(**dials)
      {
        "do" => "add", "kind" => "sun", "name" => "Sun",
        "dials" => {"colour" => [1.0, 1.0, 1.0], "strength" => Math::PI}.merge(dials.transform_keys(&:to_s))
      }
    end

    # A picture seen from +z, without props, a sky or a lens.
    def picture(medium, *edits, width: 16, height: 9, settings: {})
      document = Shot::Edits.apply(Shot::Document.blank("Test"),
        [set("camera", :position, [0.0, 0.0, 60.0]), set("camera", :target, [0.0, 0.0, 0.0]), set("camera", :focal,
          300.0), set("sky", :strength, 0.0),
          *look(forward: 0.0, shadow: 1.0, colour: [1.0, 1.0, 1.0]), *edits.flatten])[0]
      Picture::Renderer.new(Picture::Renderer.settings(document, 1).merge(settings), nil).image(medium, width, height)
    end

    # A slab two metres deep that the picture's middle sees from its front, far wider than deep.
    def slab(density, n: [24, 60, 60], voxel: 0.1)
      nz, ny, nx = n
      # Clear air before and behind.
      Light::Medium.new(field(nz, ny, nx) { |k, _, _| k.between?(2, 21) ? density : 0.0 }, voxel, [-0.5 * nx * voxel,
        -0.5 * ny * voxel, -0.5 * nz * voxel])
    end

    def middle(image) = image[4, 8, 0]

    def even_sky(strength = 1.0) = [set("sky", :strength, strength), set("sky", :colour, [1.0, 1.0, 1.0]), set("sky",
      :below, [1.0, 1.0, 1.0])]

    it "shows light scattered once in thin haze within three percent, and but little more" do
      [0.002, 0.004].each do |density|
        depth = 2.0 * density
        # The sun stands behind the camera: in and out along the same way.
        once = 0.25 * 0.5 * (1 - Math.exp(-2 * depth))
        seen = middle(picture(slab(density), sun(around: 0.0, height: 0.0), look(thickness: 1.0)))
        expect(seen).to be_within(0.03 * once).of(once)
      end
    end

    it "keeps white smoke under an even sky as bright as the sky, however thick" do
      [1.0, 10.0, 100.0].each do |thickness|
        image = picture(slab(1.0), even_sky, look(thickness: thickness))
        whole = image[4, 8, 0] + (1.0 - image[4, 8, 3]) / Math::PI
        expect(whole).to be_within(0.03 / Math::PI).of(1.0 / Math::PI)
      end
    end

    it "keeps white props under an even sky as bright as the sky, whichever way they face" do
      ball = {"do" => "add", "kind" => "prop", "name" => "Ball", "dials" => {"shape" => "sphere", "radius" => 2.0,
                                                                             "colour" => [1.0, 1.0, 1.0]}}
      image = picture(nil, even_sky, ball, width: 32, height: 18)
      expect([image[4, 16, 0], image[9, 16, 0], image[13, 18, 0]]).to all(be_within(0.01).of(1.0 / Math::PI))
    end

    # What a deep slab sends straight back (Chandrasekhar 1950): H for scattering alike in all directions.
    def chandrasekhar(albedo, count = 120)
      places = Array.new(count) { |n| (n + 0.5) / count }
      values = Array.new(count, 1.0)
      300.times do
        fresh = places.map { |mu|
          1.0 / (Math.sqrt(1 - albedo) + 0.5 * albedo * places.each_with_index.sum { |m, n|
            m * values[n] / (mu + m)
          } / count)
        }
        values = values.zip(fresh).map { |a, b| 0.5 * (a + b) }
      end
      albedo / 8.0 * values.last**2
    end

    it "lights a deep slab within eight percent of the exact solution, white, grey and dark" do
      [1.0, 0.9, 0.5].each do |albedo|
        seen = middle(picture(slab(1.0), sun(around: 0.0, height: 0.0), look(thickness: 60.0, colour: [albedo] * 3)))
        exact = chandrasekhar(albedo)
        expect(seen).to be_within(0.08 * exact).of(exact), "#{albedo}: #{seen.round(4)} for #{exact.round(4)}"
      end
    end

    it "shows fire in soot within two percent, up to 300 per metre" do
      even = Light::Medium.new(field(20, 60, 60) { 1.0 }, 0.1, [-3.0, -3.0, -1.0], heat: field(20, 60, 60) { 1207.0 })
      [40.0, 100.0, 300.0].each do |thickness|
        image = picture(even, set("camera", :focal, 600.0), look(thickness: thickness, fire: 10.0, fire_from: 800.0,
          fire_rise: 4.0, glow: 0.0))
        # Emission over extinction, for a slab that nothing comes through.
        wanted = 10.0 * Light::BlackBody.rgb(1500)[0] / thickness
        expect(image.to_a.each_slice(4).map(&:first).minmax).to all(be_within(0.02 * wanted).of(wanted))
      end
    end

    # A ball with a soft, dense skin.
    def ball(n = 32)
      Light::Medium.new(field(n, n, n) { |k, j, i|
        Math.exp(-(Math.sqrt([k, j,
          i].sum { |c| (c - 15.5)**2 }) / 8.5)**6)
      }, 0.1, [-1.6, -1.6, -1.6])
    end

    it "differs from a march eight times finer by one percent in the mean and four at the worst pixel" do
      images = [{"smooth" => 0.5}, {"smooth" => 0.0625}].map do |pace|
        stub_const("Vumbral::Picture::Renderer::PACE", pace)
        [10.0, 60.0, 300.0].map { |thickness|
          picture(ball, sun(around: 60.0, height: 40.0),
            look(thickness: thickness), set("camera", :focal, 500.0), width: 40, height: 24)
        }
      end
      images.transpose.each do |plain, fine|
        pairs = plain.to_a.each_slice(4).zip(fine.to_a.each_slice(4))
        top = pairs.map { |_, b| b[0] }.max
        off = pairs.map { |a, b| (a[0] - b[0]).abs / top }
        expect(off.sum / off.size).to be < 0.01
        expect(off.max).to be < 0.04
      end
    end

    it "shows no rings of voxels in a thick even ball" do
      image = picture(ball, sun(around: 0.0, height: 0.0), look(thickness: 200.0), set("camera", :focal, 500.0),
        width: 80, height: 45)
      # Along the middle row towards the rim, brightness must only fall.
      row = (40..66).map { |x| image[22, x, 0] }.take_while { |value| value > 0.02 }
      rises = row.each_cons(2).map { |a, b| b - a }
      expect(rises.max).to be < 0.03 * row.max
    end

    it "sends light on forwards or back, as the look says, and none is made" do
      towards = picture(slab(0.05), sun(around: 180.0, height: 0.0), look(thickness: 1.0, forward: 0.6))
      away = picture(slab(0.05), sun(around: 0.0, height: 0.0), look(thickness: 1.0, forward: 0.6))
      expect(middle(towards)).to be > 10 * middle(away)
      whole = (0...400).sum { |n| 2 * Math::PI * Picture::ScatterKernels.lobe(-1 + (n + 0.5) / 200.0, 0.6) / 200.0 }
      expect(whole).to be_within(1e-3).of(1.0)
    end

    it "lets far ground go over into what stands behind it, sky or colour" do
      ground = {
        "do" => "add",
        "kind" => "prop",
        "name" => "Ground",
        "dials" => {
          "shape" => "plane", "size" => [4000.0, 1.0, 4000.0], "position" => [0.0, -1.0, 0.0]
        }
      }
      dials = [ground, sun(height: 30.0), set("sky", :model, "clear"), set("sky", :strength, 1.0), set("sky", :fade,
        10.0), set("picture", :background, [0.1, 0.2, 0.3])]
      plain, open = %w[colour sky].map { |behind|
        picture(nil, dials, set("picture", :behind, behind), set("camera",
          :position, [0.0, 0.0, 6.0]))
      }
      expect([plain[5, 8, 0], plain[5, 8, 1], plain[5, 8, 2]]).to match([be_within(0.01).of(0.1),
        be_within(0.01).of(0.2), be_within(0.01).of(0.3)])
      expect((open[5, 8, 0] - plain[5, 8, 0]).abs).to be > 0.05
    end
  end
end
