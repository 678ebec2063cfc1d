# frozen_string_literal: true

module Vumbral
  # Nothing may step, crawl or flicker.
  RSpec.describe Picture::Renderer do
    def lamp(kind, **dials)
      {"do" => "add", "kind" => kind, "name" => "Light", "dials" => dials.transform_keys(&:to_s)}
    end

    def settings(*edits) = described_class.settings(Shot::Edits.apply(Shot::Document.blank("Test"), edits)[0], 1)

    def picture(medium, *edits, width: 64, height: 36) =
      described_class.new(settings(*edits), nil).image(medium, width, height)

    def row(image, y, xs) = xs.map { |x| image[y, x, 0] }

    # Even smoke, two metres wide.
    def haze(n, density = 0.3)
      Light::Medium.new(field(n, n, n) { density }, 2.0 / n, [-1.0 + 1.0 / n, -1.0 + 1.0 / n, -1.0 + 1.0 / n])
    end

    # A smooth, uneven ball of smoke.
    def puff(n)
      Light::Medium.new(field(n, n, n) { |k, j, i|
        x, y, z = [i, j, k].map { |c| 2.0 * (c + 0.5) / n - 1.0 }
        [
          1.0 - 1.6 * Math.sqrt(x * x + y * y + z * z) + 0.2 * Math.sin(6 * x + 2 * y) * Math.sin(5 * y - 3 * z), 0.0
        ].max
      }, 2.0 / n, [-1.0 + 1.0 / n, -1.0 + 1.0 / n, -1.0 + 1.0 / n])
    end

    it "lets a prop's shadow fall through smoke aslant without steps" do
      # A sheet above throws its edge through the smoke, aslant to the voxels.
      sheet = lamp("prop", shape: "box", size: [4.0, 0.02, 4.0], position: [-2.0, 1.6, 0.0], turn: [0.0, 0.0, 0.0])
      view = [set("camera", :position, [0.0, 0.0, 6.0]), set("camera", :target, [0.0, 0.0, 0.0]),
        set("sky", :strength, 0.0), set("look", :thickness, 1.0), set("look", :shadow, 0.1), set("look", :bounces, 0.0),
        lamp("sun", strength: 4.0, around: -90.0, height: 62.0)]
      image = picture(haze(24), sheet, *view, width: 160, height: 90)
      # Where the edge lies on each row, between full light and none.
      edges = (36..51).map { |y|
        line = row(image, y, 92..114)
        middle = 0.5 * (line.max + line.min)
        at = line.each_cons(2).find_index { |a, b| a < middle && b >= middle }
        92 + at + (middle - line[at]) / (line[at + 1] - line[at])
      }
      # The straight line nearest to them.
      middle = (edges.size - 1) / 2.0
      slope = edges.each_with_index.sum { |edge, n| (n - middle) * edge } / edges.each_index.sum { |n| (n - middle)**2 }
      mean = edges.sum / edges.size
      off = edges.each_with_index.map { |edge, n| (edge - mean - (n - middle) * slope).abs }
      # A voxel is two pixels wide there.
      expect(off.max).to be < 0.5
      expect(slope.abs).to be > 0.2
    end

    it "changes no more from picture to picture than the camera's turn says" do
      # A still medium under a camera that goes around it in even steps.
      medium = puff(32)
      look = [set("look", :thickness, 30.0), lamp("sun", strength: 4.0)]
      images = (0..4).map { |n|
        turn = 0.3 + 0.004 * n
        picture(medium, *look, set("camera", :position, [4.0 * Math.sin(turn), 0.4, 4.0 * Math.cos(turn)]),
          set("camera", :target, [0.0, 0.0, 0.0]))
      }
      values = images.map { |image| image.to_a.each_slice(4).map { |rgba| rgba[1] } }
      bright = values[0].max
      # Evenly going on, each picture is the mean of its neighbours; what is left over is flicker.
      flicker =
        values.each_cons(3).flat_map { |a, b, c| a.zip(b, c).map { |x, y, z| (y - 0.5 * (x + z)).abs / bright } }
      expect(flicker.sum / flicker.size).to be < 0.002
      expect(flicker.max).to be < 0.03
    end

    it "still gives a picture at the ends of every dial, from within the smoke as from outside" do
      [{density: 1000.0, thickness: 10_000.0, fire: 1000.0}, {density: 1e-6, thickness: 0.0, fire: 0.0},
        {density: 1.0, thickness: 30.0, fire: 1000.0, position: [0.1, 0.0, 0.2]}].each do |given|
        medium = haze(12, given[:density])
        medium = Light::Medium.new(medium.smoke, medium.voxel, medium.corner, heat: field(12, 12, 12) { 6000.0 })
        image = picture(medium, set("look", :thickness, given[:thickness]), set("look", :fire, given[:fire]),
          set("look", :colour, [1.0, 1.0, 1.0]), set("look", :fire_rise, 8.0), lamp("sun", strength: 1000.0),
          set("camera", :position, given[:position] || [0.0, 0.0, 6.0]), set("camera", :target, [0.0, 0.0, 0.0]))
        expect(image.to_a).to all(be_finite.and(be >= 0.0))
        [-10.0, 10.0].each do |stops|
          film = Picture::Film.new(settings(set("picture", :exposure, stops), set("picture", :contrast, 4.0))["film"])
          expect(film.develop(image).to_a).to all(be_between(0, 255))
        end
      end
    end

    it "gives the same picture of the same, to the bit, whichever pass of a moving shot it is" do
      medium = puff(24)
      first, second = Array.new(2) { picture(medium, lamp("sun", strength: 4.0), set("look", :thickness, 30.0)) }
      expect(second.bytes).to eq(first.bytes)
    end
  end
end
