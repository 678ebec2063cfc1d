# frozen_string_literal: true

module Vumbral
  RSpec.describe Studio::Following do
    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    def add(kind, id, **dials) =
      {"do" => "add", "kind" => kind, "id" => id, "name" => id.capitalize, "dials" => dials.transform_keys(&:to_s)}

    let(:id) do
      @workshop.shots.import(
        small_shot(
          edits: [
            {"do" => "remove", "node" => "source-1"}, add("sculpt", "cloud", prop: "prop-1", voxel: 0.05),
            add("step", "soft", sculpt: "cloud", what: "density", inside: 0.1)
          ]
        ).to_json
      )[
        :id
      ]
    end

    def follow(*edits, key: nil, frame: 1) = @workshop.following.volume(id, frame, "full", key, edits)

    # @return [Array(Hash, Array<Integer>)] its head, and the smoke of each voxel
    def told(bytes)
      size = bytes.unpack1("L<")
      head = JSON.parse(bytes.byteslice(4, size))
      [head, bytes.byteslice(4 + size, 4 * head["size"].reduce(:*)).bytes.each_slice(4).map(&:last)]
    end

    # What there is of it in all.
    def held(bytes)
      head, smoke = told(bytes)
      head["smoke"] * smoke.sum { |value| (value / 255.0)**2 } * head["voxel"]**3
    end

    it "shows a sculpt as a dial of it would have it, and leaves the shot as it was" do
      before = @workshop.shots.fetch(id)[:head]
      thick, thin = [0.1, 0.6].map { |inside| follow(set("soft", :inside, inside)) }
      expect(told(thick)[0]).to include("voxel" => 0.05, "smoke" => 1.0)
      expect(held(thick)).to be > 2.0 * held(thin)
      expect(@workshop.shots.fetch(id)[:head]).to eq(before)
    end

    it "is coarser where there are many voxels, and still the same shape" do
      @workshop.shots.edit(id, [set("cloud", :voxel, 0.008)])
      head, smoke = told(follow(set("soft", :inside, 0.1)))
      expect(head["voxel"]).to be > 0.008
      expect(head["size"].reduce(:*)).to be < 2 * described_class::MOST
      expect(smoke.max).to eq(255)
      expect(held(follow(set("soft", :inside, 0.1)))).to be_within(5).percent_of(
        held(follow(set("cloud", :voxel, 0.03), set("soft", :inside, 0.1)))
      )
    end

    it "shows the gas that is seen under another light, and with sculpts what a run has beside them" do
      @workshop.shots.edit(
        id, [{"do" => "add", "kind" => "source", "id" => "feed", "name" => "Feed", "dials" => {"prop" => "prop-1"}}]
      )
      expect(follow(set("look", :thickness, 3.0))).to be_nil
      work(@workshop, @workshop.runs.start(id, "draft")[:job_id])
      row = @workshop.runs.state(id, "draft")[:rows][1]
      dark, bright =
        [0.5, 8.0].map do |strength|
          told(follow(set("sun-1", :strength, strength), key: row[:key], frame: row[:frame]))[0]["light"]
        end
      expect(bright).to be > 2.0 * dark
      alone, both = [0.0, 1.0].map { |whole| held(follow(set("soft", :whole, whole), frame: row[:frame])) }
      expect([alone, both]).to match([be > 0, be > alone])
    end

    it "follows no dial that asks for a run, nothing that is no dial, and no frame that is not there; wrong values " \
      "are refused" do
      expect(
        [
          follow(set("chamber", :voxel, 0.2)), follow({"do" => "remove", "node" => "cloud"}),
          follow(set("nobody", :voxel, 1)), follow(nil), follow(set("soft", :inside, 0.2), frame: 900)
        ]
      ).to eq([nil] * 5)
      expect { follow(set("soft", :inside, -4.0)) }.to raise_error(Refused)
    end
  end
end
