# frozen_string_literal: true

module Vumbral
  RSpec.describe Studio::Surfaces do
    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    def add(kind, id, **dials) =
      {"do" => "add", "kind" => kind, "id" => id, "name" => id.capitalize, "dials" => dials.transform_keys(&:to_s)}

    def key(node, dial, frame, value) =
      {"do" => "key", "node" => node, "dial" => dial, "frame" => frame, "value" => value, "ease" => "linear"}

    def shelved(*edits)
      @workshop.shots.import(
        small_shot(
          edits: [
            {"do" => "remove", "node" => "source-1"}, set("general", :last, 6),
            add("prop", "ball", shape: "sphere", radius: 0.4, divisions: 3),
            add("sculpt", "cloud", prop: "ball", voxel: 0.05, draft: 1.0),
            add("step", "soft", sculpt: "cloud", what: "density", inside: 0.2), *edits,
            add("prop", "skin", shape: "sculpt", surface_of: "cloud", threshold: 0.5)
          ]
        ).to_json
      )[
        :id
      ]
    end

    def document(id) = @workshop.shots.document(id)

    def codes(id) = @workshop.preflights.of(id).map { |finding| finding[:code] }

    it "makes each frame's surface once, those that are alike once for all, and tells the view which is which" do
      id = shelved(key("soft", "inside", 1, 0.2), key("soft", "inside", 3, 0.3))
      row = @workshop.bodies.known(document(id)).find { |body| body["prop"] == "skin" }
      expect(row["outline"]["shape"]).to eq("sculpt")
      expect(row["poses"].map(&:last)).to eq([0, 1, 2, 2, 2, 2])
      name = row["outline"]["surface"]
      expect(@workshop.surfaces.known(name, 1)).to be_nil
      work(@workshop, @workshop.jobs.add("surface", nil, {key: name, number: 1}))
      corners = File.binread(@workshop.surfaces.known(name, 1))
      expect(corners.bytesize % 108).to eq(0)
      expect(corners.unpack("e*").each_slice(9).map { |x, y, z, *| Math.sqrt(x * x + y * y + z * z) }.minmax).to match(
        [be > 0.2, be < 0.4]
      )
      old = Time.now - Studio::Sculpts::UNWANTED - 60
      @workshop.surfaces.known(name, 1).tap { |path| File.utime(old, old, path) }
      @workshop.sculpts.tidy
      expect(@workshop.surfaces.known(name, 1)).to be_nil
      expect(refusal { @workshop.surfaces.known("../../etc", 0) }).to match(["bad_path", /not the surface of a sculpt/])
    end

    it "finds surfaces that come and go at once, with a remedy, and none in one that moves evenly" do
      flashing =
        shelved(
          add("step", "pulse", sculpt: "cloud", order: 1, what: "number", amount: 1.0),
          *[1, 0, 1, 0, 1, 0].each_with_index.map { |value, n| key("pulse", "amount", n + 1, value) }
        )
      even = shelved(key("soft", "inside", 1, 0.2), key("soft", "inside", 6, 0.26))
      [flashing, even].each do |id|
        name, numbers = @workshop.surfaces.of(document(id), document(id).node("skin"))
        numbers.uniq.each { |number| @workshop.surfaces.note(name, number, @workshop.surfaces.make(name, number)) }
      end
      expect(codes(even)).not_to include("surface_flashes")
      finding = @workshop.preflights.of(flashing).find { |row| row[:code] == "surface_flashes" }
      expect(finding[:text]).to match(/Skin comes and goes at once at frames 2-6/)
      @workshop.shots.edit(flashing, finding[:remedy][:edits])
      expect(document(flashing).node("skin")[:threshold]).to eq(0.3)
    end

    it "finds surfaces that nothing comes to, and strokes that were painted where the sculpt does not reach" do
      stroke = {
        "way" => "add", "radius" => 0.1, "strength" => 1.0, "hard" => 0.5, "frame" => 1,
        "places" => [[2.0, 0.0, 0.0, 1.0]]
      }
      id =
        shelved(
          add(
            "step", "hand", sculpt: "cloud", order: 1, what: "brush",
            strokes: [stroke, stroke.merge("places" => [[0.3, 0.0, 0.0, 1.0]])]
          )
        )
      @workshop.shots.edit(id, [set("skin", :threshold, 5.0)])
      name, = @workshop.surfaces.of(document(id), document(id).node("skin"))
      expect(codes(id)).not_to include("surface_empty")
      @workshop.surfaces.note(name, 0, @workshop.surfaces.make(name, 0))
      found = @workshop.preflights.of(id).group_by { |row| row[:code] }
      expect(found["surface_empty"][0][:text]).to eq("Skin is empty: nothing of Cloud is as dense as its threshold.")
      expect(found["stroke_outside"][0][:text]).to eq(
        "1 stroke of Hand lies beyond what Cloud reaches and changes nothing; leave more room around it."
      )
      @workshop.shots.edit(id, found["stroke_outside"][0][:remedy][:edits])
      expect(document(id).node("cloud")[:room]).to eq(0.4)
    end

    it "finds sculpts of which nothing is left and those that fill their box, once their frames are made, and loops " \
      "that jump" do
      gone = shelved(add("step", "gone", sculpt: "cloud", order: 1, what: "number", amount: 0.0))
      full = shelved(add("step", "more", sculpt: "cloud", order: 1, what: "number", sum: "add", amount: 0.5))
      fine = shelved(add("texture", "drift", drift: [0.1, 0.0, 0.0], loops: 4))
      [gone, full, fine].each { |id| @workshop.frames.read(@workshop.runs.state(id, "draft")[:rows][0][:key]) }
      expect(codes(gone)).to include("sculpt_unseen")
      expect(codes(full)).to include("sculpt_full")
      expect(codes(fine) & %w[sculpt_unseen sculpt_full]).to eq([])
      jump = @workshop.preflights.of(fine).find { |row| row[:code] == "loop_that_jumps" }
      expect(jump[:text]).to eq(
        "Drift loops over 4 frames, but the shot has 6, so it jumps where the shot begins again."
      )
      @workshop.shots.edit(fine, jump[:remedy][:edits])
      expect(codes(fine)).not_to include("loop_that_jumps")
    end
  end
end
