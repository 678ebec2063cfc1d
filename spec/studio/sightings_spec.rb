# frozen_string_literal: true

module Vumbral
  # Spots that are found by themselves, and the camera that is taken from them.
  RSpec.describe Studio::Sightings do
    include FinishHelp

    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    let(:shape) { 96 / 54.0 }
    let(:marks) do
      [[-1.2, 0.2, 0.0], [1.3, 0.1, -0.4], [0.9, 1.9, 0.2], [-1.0, 2.1, -0.6], [0.1, 1.0, 1.0], [0.3, 0.4, -1.2]]
    end

    def sway(frame, place: [0.0, 1.6, 6.0]) =
      {
        "position" => place, "target" => [0.1 * frame - 0.2, 1.3 - 0.03 * frame, 0.0], "focal" => 40.0,
        "aperture" => 0.0, "roll" => 1.5 * frame - 3.0
      }

    def tracks(known:, &camera)
      marks.each_with_index.map do |mark, n|
        seen = (1..4).map { |frame| [frame, Finish::Spots.seen(camera[frame], mark, shape)] }
        keys =
          {"x" => 0, "y" => 1}.transform_values do |axis|
            seen.map { |frame, spot| {"frame" => frame, "value" => 100 * spot[axis]} }
          end
        {
          "do" => "add", "kind" => "track", "id" => "spot-#{n}", "name" => "Spot #{n}",
          "dials" => known ? {"known" => true, "place" => mark} : {}, "keys" => keys
        }
      end
    end

    def shot(edits, first)
      start =
        first
          .except("aperture")
          .map { |dial, value| {"do" => "set", "node" => "camera", "dial" => dial, "value" => value} }
      shelve(@workshop, small_shot(edits: [set("general", :last, 4), *start, *edits]))
    end

    # How far spots are from where they were found, of the frame's height.
    def off(id)
      document = @workshop.shots.document(id)
      (1..4)
        .flat_map do |frame|
          marks.each_with_index.map do |mark, n|
            (seen(document, frame, mark)[1] - document.node("spot-#{n}")[:y, frame] / 100.0).abs
          end
        end
        .max
    end

    def seen(document, frame, mark) = Finish::Spots.seen(Picture::Camera.settings(document, frame), mark, shape)

    it "takes a free camera from known places, as one step" do
      id = shot(tracks(known: true) { |frame| sway(frame, place: [0.2 * frame, 1.6, 6.0 - 0.1 * frame]) }, sway(1))
      row = work(@workshop, @workshop.sightings.solve(id, 1, "free", by: "me"))
      expect(JSON.parse(row[:result])).to include("frames" => 4, "off" => be < 0.01, "wrong" => [])
      expect(off(id)).to be < 1e-4
      expect(@workshop.shots.document(id).the(:camera)[:position, 3]).to all_be_near([0.6, 1.6, 5.7], 1e-3)
      @workshop.shots.undo(id, by: "me", others: false)
      expect(@workshop.shots.document(id).the(:camera).curves).to be_empty
    end

    it "turns one on a tripod by spots of which nothing is known, and leaves it where it stands" do
      id = shot(tracks(known: false) { |frame| sway(frame) }, sway(2))
      work(@workshop, @workshop.sightings.solve(id, 2, "tripod"))
      camera = @workshop.shots.document(id).the(:camera)
      expect(camera.curves.keys).to match_array(%i[target roll])
      expect((1..4).map { |frame| camera[:roll, frame].round(3) }).to eq([-1.5, 0.0, 1.5, 3.0])
      expect(off(id)).to be < 1e-4
    end

    it "finds spots in a plate, follows them and makes keys of them, away from what is masked for tracking" do
      rng = Random.new(5)
      specks = Array.new(14) { [10 + 76 * rng.rand, 6 + 42 * rng.rand, 1.5 + rng.rand] }
      files = (1..4).to_h do |frame|
        image =
          painted(96, 54) do |x, y|
            [0.1 + specks.sum { |sx, sy, size| 0.6 * Math.exp(-((x - sx - frame)**2 + (y - sy)**2) / size) }] * 3 +
              [1.0]
          end
        path = File.join(@workshop.home.path, "wall.#{frame}.png")
        Vips::Image
          .new_from_memory(
            image
              .to_a
              .each_slice(4)
              .flat_map { |pixel| pixel.first(3).map { |c| (255 * c).clamp(0, 255).round } }
              .pack("C*"),
            96,
            54,
            3,
            :uchar
          )
          .copy(interpretation: :srgb)
          .pngsave(path)
        [File.basename(path), path]
      end
      plate = @workshop.plates.bring(files)
      edits = [
        set("general", :last, 4), set("picture", :width, 96), set("picture", :height, 54),
        layer("wall", what: "plate", plate: plate[:digest], fit: "stretch"),
        mask("wall", "box", use: "tracking", x: 25.0, y: 50.0, width: 90.0, height: 200.0, soft: 0.0)
      ]
      id = shelve(@workshop, small_shot(edits: edits))
      result = JSON.parse(work(@workshop, @workshop.sightings.find(id, "wall", 2, 8, by: "me"))[:result])
      found = @workshop.shots.document(id).of(:track)
      expect(found.size).to eq(result["kept"]).and be >= 3
      found.each do |spot|
        expect(spot[:x, 1]).to be > 49
        expect(0.96 * (spot[:x, 4] - spot[:x, 1])).to be_within(0.3).of(3.0)
        expect(spot[:y, 4]).to be_within(0.6).of(spot[:y, 1])
      end
      work(@workshop, @workshop.sightings.find(id, "wall", 2, 8))
      expect(@workshop.shots.document(id).of(:track).map(&:name).uniq.size).to eq(
        @workshop.shots.document(id).of(:track).size
      )
    end

    it "says what it lacks" do
      id = shot(tracks(known: false) { |frame| sway(frame) }, sway(2))
      expect(refusal { @workshop.sightings.solve(id, 2, "free") }[1]).to match(
        /3 spots or more whose places are known.*There are 0\./
      )
      expect(refusal { @workshop.sightings.solve(id, 9, "tripod") }[1]).to match(/Frame 9 is not in the shot/)
      expect(refusal { @workshop.sightings.solve(id, 2, "crane") }[1]).to match(/free or on a tripod/)
      expect(refusal { @workshop.sightings.find(id, "camera", 1, 8) }[1]).to match(/is no layer/)
      @workshop.shots.edit(id, [layer("one", what: "colour")])
      expect(refusal { @workshop.sightings.find(id, "one", 1, 8) }[1]).to match(/shows nothing that moves/)
      expect(refusal { @workshop.sightings.find(id, "one", 1, 900) }[0]).to eq("bad_value").or eq("out_of_range")
      @workshop.shots.edit(id, [set("camera", :aim, "prop-1")])
      expect(refusal { @workshop.sightings.solve(id, 2, "tripod") }[1]).to match(/let it stand by itself/)
    end
  end
end
