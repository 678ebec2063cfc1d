# frozen_string_literal: true

module Vumbral
  # Dials of a thing under a name, for others of its kind.
  RSpec.describe Studio::Presets do
    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    let(:id) do
      shelve(
        @workshop,
        small_shot(
          edits: [
            set("source-1", :smoke, 7.0),
            {
              "do" => "key", "node" => "source-1", "dial" => "temperature", "frame" => 2, "value" => 700.0,
              "ease" => "linear"
            },
            {"do" => "formula", "node" => "source-1", "dial" => "velocity", "part" => "y", "text" => "0.1 * frame"}
          ]
        )
      )
    end

    def source(shot, node = "source-1") = @workshop.shots.document(shot).node(node)

    it "gives another of the kind its dials, keys and formulas, and leaves alone what it refers to" do
      kept = @workshop.presets.keep(id, "source-1", "Strong puff")
      expect(kept).to include(kind: "source", name: "Strong puff", dials: be >= 3)
      other =
        shelve(
          @workshop,
          small_shot(
            "Other",
            edits: [
              set("source-1", :fuel, 3.0),
              {"do" => "key", "node" => "source-1", "dial" => "smoke", "frame" => 1, "value" => 1.0}
            ]
          )
        )
      prop = source(other)[:prop]
      @workshop.presets.apply(other, "source-1", kept[:id], by: "me")
      got = source(other)
      expect([got[:smoke, 3], got[:fuel], got[:temperature, 2], got[:velocity, 5][1], got[:prop]]).to eq(
        [7.0, source(id)[:fuel], 700.0, 0.5, prop]
      )
      expect(got.curves.keys).to match_array(source(id).curves.keys)
      # One step, and what is so already is no edit.
      @workshop.shots.undo(other, by: "me", others: false)
      expect(source(other)[:fuel]).to eq(3.0)
    end

    it "has a picture of what it looks like, which goes along with its file" do
      picture = [Vips::Image.black(16, 10, bands: 3).jpegsave_buffer].pack("m0")
      kept = @workshop.presets.keep(id, "look", "Soot", picture: picture)
      expect(kept[:picture]).to be true
      text = @workshop.presets.text(kept[:id])
      @workshop.presets.let_go(kept[:id])
      again = @workshop.presets.bring(text, "soot.json")
      expect(Vips::Image.new_from_buffer(@workshop.presets.picture(again[:id]), "").width).to eq 16
      expect(
        refusal { @workshop.presets.keep(id, "look", "Soot", picture: ["GIF89a"].pack("m0")) }[1]
      ).to include "small JPEG"
      @workshop.presets.keep(id, "look", "Bare")
      expect(
        refusal { @workshop.presets.picture(@workshop.presets.list.find { |row| row[:name] == "Bare" }[:id]) }[0]
      ).to eq "no_frame"
    end

    it "goes out as a file and comes in again, and replaces one of its name" do
      kept = @workshop.presets.keep(id, "look", "Soot") || raise
      text = @workshop.presets.text(kept[:id])
      @workshop.presets.let_go(kept[:id])
      expect(@workshop.presets.list).to eq([])
      expect(@workshop.presets.bring(text, "Soot.preset.json")).to eq(kept)
      @workshop.presets.keep(id, "look", "Soot")
      expect(@workshop.presets.list("look").size).to eq(1)
      expect(@workshop.presets.list("source")).to eq([])
    end

    it "says what it cannot take" do
      kept = @workshop.presets.keep(id, "source-1", "Puff")
      {
        "{" => /is not JSON/,
        "{}" => /is no preset/,
        JSON.generate(format: "vumbral-preset", kind: "nothing", name: "X", dials: {}, keys: {}, formulas: {}) =>
          /no kind "nothing"/,
        JSON.generate(
          format: "vumbral-preset",
          kind: "source",
          name: "X",
          dials: {
            smoke: "much"
          },
          keys: {},
          formulas: {}
        ) =>
          /Smoke/
      }.each { |text, words| expect(refusal { @workshop.presets.bring(text, "odd.json") }[1]).to match(words) }
      expect(refusal { @workshop.presets.keep(id, "source-1", " ") }[1]).to match(/needs a name/)
      expect(refusal { @workshop.presets.keep(id, "general", "All") }[1]).to match(/is the shot itself/)
      expect(refusal { @workshop.presets.apply(id, "look", kept[:id]) }[1]).to match(/of another kind/)
      expect(refusal { @workshop.presets.text("../../x") }[1]).to match(/no such preset/)
      File.write(@workshop.home.within("presets", "damaged.json"), "{")
      expect(@workshop.presets.list.size).to eq(1)
    end
  end
end
