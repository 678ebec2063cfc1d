# frozen_string_literal: true

module Vumbral
  RSpec.describe Studio::Balances do
    def printed(workshop, *edits)
      lamp = {
        "do" => "add",
        "kind" => "lamp",
        "id" => "lamp",
        "name" => "Left",
        "dials" => {
          "position" => [-1.0, 1.0, 1.0], "strength" => 4.0
        }
      }
      id =
        shelve(
          workshop,
          small_shot(
            "Still", edits: [{"do" => "remove", "node" => "source-1"}, set("general", :last, 2), lamp, *edits]
          )
        )
      work(workshop, workshop.prints.take(id, 1, size: [64, 36]))
      work(workshop, workshop.balances.ask(id, 1))
      id
    end

    let(:even) { Array.new(4) { {"stops" => 0.0, "colour" => [1.0, 1.0, 1.0]} } }

    def pixels(bytes) = Vips::Image.new_from_buffer(bytes, "")

    it "takes a print apart once, and gives it back as it was where nothing is moved" do
      with_workshop do |workshop|
        id = printed(workshop)
        expect(workshop.balances.ask(id, 1)).to be_nil
        expect(workshop.balances.names(id, 1)).to eq(["Sun", "Left", "Sky", "What glows"])
        print = Vips::Image.new_from_file(workshop.prints.path(id, 1))
        expect((pixels(workshop.balances.picture(id, 1, even)) - print).abs.avg).to be < 3.0
        light = workshop.balances.light(id, 1, 0.5, 0.8)
        expect(light[:parts].keys).to eq(["Sun", "Left", "Sky", "What glows"])
        expect(light[:parts].values.transpose.map(&:sum)).to match(
          light[:all].map { |value| be_within(1e-4).of(value) }
        )
        dark = even.map { |gain| gain.merge("stops" => -20.0) }
        expect(pixels(workshop.balances.picture(id, 1, dark)).avg).to be < 3.0
        red = even.map { |gain| gain.merge("colour" => [1.0, 0.0, 0.0]) }
        expect(pixels(workshop.balances.picture(id, 1, red)).bandsplit.map(&:avg)).to match([be > 20, be < 60, be < 60])
      end
    end

    it "puts it into the shot as one step, keys and all, and is undone" do
      with_workshop do |workshop|
        keys =
          [[1, 1.0], [2, 3.0]].map do |frame, value|
            {"do" => "key", "node" => "lamp", "dial" => "strength", "frame" => frame, "value" => value}
          end
        id = printed(workshop, *keys)
        before = workshop.shots.document(id)
        gains =
          even.each_with_index.map do |gain, n|
            [{"stops" => 1.0, "colour" => [1.0] * 3}, {"stops" => -1.0, "colour" => [1.0, 0.5, 0.5]}][n] || gain
          end
        workshop.balances.apply(id, 1, gains)
        now = workshop.shots.document(id)
        sun = before.of(:sun)[0].id
        expect(now.node(sun)[:strength]).to be_within(1e-6).of(2.0 * before.node(sun)[:strength])
        expect([1, 2].map { |frame| now.node("lamp")[:strength, frame] }).to eq([0.5, 1.5])
        expect(now.node("lamp")[:colour][1]).to be_within(1e-6).of(0.5 * before.node("lamp")[:colour][1])
        expect(now.the(:sky)[:strength]).to eq(before.the(:sky)[:strength])
        expect(workshop.shots.undo(id)[:label]).to eq("Undone: Light balanced as on P1")
      end
    end

    it "refuses what is no balance, and one of a print that was not taken apart, in a sentence" do
      with_workshop do |workshop|
        id = printed(workshop)
        expect(refusal { workshop.balances.picture(id, 1, even.first(2)) }).to match(
          ["bad_value", /a colour for each of: Sun, Left, Sky, What glows/]
        )
        expect(refusal { workshop.balances.apply(id, 1, even) }).to match(["bad_edit", /Nothing was balanced/])
        work(workshop, workshop.prints.take(id, 1, size: [64, 36]))
        expect(refusal { workshop.balances.names(id, 2) }).to match(["not_ready", /has not been taken apart/])
      end
    end
  end
end
