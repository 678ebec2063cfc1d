# frozen_string_literal: true

module Vumbral
  RSpec.describe Picture::HazeView do
    def fog(**dials) =
      {
        "do" => "add", "kind" => "fog", "id" => "fog", "name" => "Fog",
        "dials" => {"thickness" => 0.1}.merge(dials.transform_keys(&:to_s))
      }

    def shot(*edits)
      small_shot(
        edits: [
          {"do" => "remove", "node" => "prop-1"}, {"do" => "remove", "node" => "source-1"},
          set("ground", :shown, false), set("sky", :fade, 0.0), *edits
        ]
      )
    end

    def settings(*edits) = Picture::Renderer.settings(shot(*edits), 1)

    # Head, and thickness, light to all sides, light of lamps and the way to them by place (cells along x, y, z).
    def read(bytes)
      length = bytes.unpack1("L<")
      head = JSON.parse(bytes[4, length])
      cells = bytes[4 + length..].unpack("v*").each_slice(4).to_a
      at = ->(i, j, k, part = 0) do
        cells[((part * head["size"][2] + k) * head["size"][1] + j) * head["size"][0] + i].map do |bits|
          sign, rest = (bits > 0x7fff) ? -1.0 : 1.0, bits & 0x7fff
          sign * ((rest < 1024) ? rest * 2.0**-24 : (1 + (rest & 1023) / 1024.0) * 2.0**((rest >> 10) - 15))
        end
      end
      [head, ->(i, j, k) { at[i, j, k][3] }, *3.times.map { |part| ->(i, j, k) { at[i, j, k, part].first(3) } }]
    end

    it "has nothing where there is no fog" do
      expect(described_class.encode(settings, nil)).to be_nil
    end

    it "is as thick as the fog says, without an end where it has none, and sends what falls on it" do
      head, thick, light =
        read(described_class.encode(settings(fog(colour: [0.5, 0.5, 0.5]), set("sky", :strength, 1.0)), nil))
      middle = head["size"].map { |n| n / 2 }
      expect(head["endless"]).to include("thins" => 0.0)
      expect(thick.call(*middle)).to be_within(0.001).of(0.1)
      # Far within a deep one it is dark.
      expect(light.call(*middle)[0]).to be < 0.1 * 0.1 * 0.5 / Math::PI
      expect(head["forward"]).to be_within(1e-6).of(settings(fog)["haze"]["veils"][0]["forward"])
    end

    it "sends on what an even sky sends into it where it takes next to nothing" do
      settings = settings(fog(colour: [0.5, 0.5, 0.5], thickness: 0.0005, reach: 20.0), set("sky", :strength, 1.0))
      head, _, light = read(described_class.encode(settings, nil))
      sky = Light::Rig.new(settings["rig"]).sky
      from_all_around = 0.5 * (sky[0] + sky[3])
      expect(light.call(*head["size"].map { |n| n / 2 })[0]).to be_within(0.03 * 0.0005 * 0.5 * from_all_around).of(
        0.0005 * 0.5 * from_all_around
      )
    end

    it "tells the way to its lamps as long as they agree" do
      lamp = ->(id, x) do
        {"do" => "add", "kind" => "lamp", "id" => id, "name" => id,
         "dials" => {"position" => [x, 1.0, 0.0], "strength" => 5.0, "shadows" => false}}
      end
      dark = [fog(thickness: 0.001), set("sun-1", :strength, 0.0), set("sky", :strength, 0.0)]
      # More of them than a view lights fog with by itself.
      right, left = [3.0, -3.0].map { |x| Array.new(9) { |n| lamp["#{(x > 0) ? "right" : "left"}-#{n}", x] } }
      one, both =
        [right, right + left].map do |lamps|
          head, _, _, straight, ways = read(described_class.encode(settings(*dark, *lamps), nil))
          # The place next to the middle between them.
          at = head["corner"].zip([0.0, 1.0, 0.0]).map { |low, place| ((place - low) / head["voxel"]).floor }
          [straight[*at][0], *ways[*at]]
        end
      expect(one[1]).to be_within(0.02).of(1.0)
      few = read(described_class.encode(settings(*dark, *right.first(2)), nil))
      expect([right.size, few[0]["placed"], few[0]["thick"]]).to match([9, true, be_within(1e-6).of(0.001)])
      expect(few[3].call(*few[0]["size"].map { |n| n / 2 })).to eq([0.0] * 3)
      expect(both[1].abs).to be < 0.35
      expect(both[0]).to be_within(0.2 * both[0]).of(2.0 * one[0])
    end

    it "ends with the prop that it fills" do
      box = {
        "do" => "add",
        "kind" => "prop",
        "id" => "room",
        "name" => "Room",
        "dials" => {
          "shape" => "box", "size" => [2.0, 2.0, 2.0], "position" => [0.0, 1.0, 0.0], "shown" => false
        }
      }
      head, thick, = read(described_class.encode(settings(box, fog(fills: "prop", prop: "room", soft: 0.0)), nil))
      expect(head["endless"]).to be_nil
      expect(head["size"]).to all(be_between(30, 60))
      expect(thick.call(*head["size"].map { |n| n / 2 })).to be_within(0.001).of(0.1)
      expect(head["corner"].zip([-1.0, 0.0, -1.0])).to all(satisfy { |a, b| (a - b).abs < 0.1 })
    end
  end

  RSpec.describe Studio::FogViews do
    it "makes the fog of a frame once for all shots that share what it depends on, and none where there is none" do
      with_workshop do |workshop|
        id =
          workshop.shots.import(
            small_shot(
              edits: [{"do" => "add", "kind" => "fog", "name" => "Fog", "dials" => {"thickness" => 0.1}}]
            ).to_json
          )[
            :id
          ]
        job = workshop.fog_views.ask(id, 1)
        done = work(workshop, job)
        name = JSON.parse(done[:result])["name"]
        expect(Zlib.gunzip(File.binread(workshop.fog_views.path(name))).unpack1("L<")).to be > 50
        expect(workshop.fog_views.ask(id, 2)).to eq(name)
        workshop.shots.edit(id, [set("fog-1", :thickness, 0.2)])
        expect(workshop.fog_views.ask(id, 1)).to be_an(Integer)
        expect(workshop.fog_views.ask(workshop.shots.import(small_shot.to_json)[:id], 1)).to be_nil
        expect { workshop.fog_views.path("../x") }.to raise_error(Refused, "That is not the name of a fog.")
      end
    end
  end
end
