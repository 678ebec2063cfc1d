# frozen_string_literal: true

module Vumbral
  RSpec.describe "The light of the view" do
    def add(kind, id, **dials) =
      {"do" => "add", "kind" => kind, "id" => id, "name" => id.capitalize, "dials" => dials.transform_keys(&:to_s)}

    def key(node, dial, frame, value) =
      {"do" => "key", "node" => node, "dial" => dial, "frame" => frame, "value" => value}

    # A card before the camera, in the light of one lamp.
    def shelved(*edits)
      id = workshop.shots.import(Studio::Starters.bare("Lit #{rand(1 << 30)}").to_json)[:id]
      workshop.shots.edit(
        id,
        [
          set("general", :last, 8), set("sun-1", :strength, 0.0), set("sky", :strength, 0.0),
          set("picture", :bloom, 0.0), set("camera", :position, [0.0, 1.0, 4.0]), set("camera", :target, [0.0, 1.0, 0.0]),
          add("prop", "card", shape: "card", size: [3.0, 3.0, 0.01], position: [0.0, 1.0, 0.0], colour: [0.6, 0.6, 0.6]),
          add("lamp", "lamp", position: [0.0, 1.0, 3.0], strength: 9.0, colour: [1.0, 1.0, 1.0]), *edits
        ]
      )
      id
    end

    def look(id)
      open_desk(id)
      eventually(30) { expect(find("[data-view]")["data-scale"]).to eq("1") }
      page.send_keys("v")
      page.send_keys("l")
      page.send_keys("d") if page.has_css?("[data-chip='develop'][aria-pressed='true']", wait: 1)
      eventually(30) { expect(find("[data-view]")["data-scale"]).to eq("1") }
    end

    # In parts of full scale, of a piece of the view around a place (parts of its width and height from the middle).
    def bright(across, up)
      view = view_pixels
      edge = view.height / 30
      place = [view.width * (0.5 + across), view.height * (0.5 - up)].map { |at| at.round - edge / 2 }
      view.crop(*place, edge, edge).avg / 255.0
    end

    it "is that of each frame, and what shines by itself does so as its frame has it" do
      look(shelved(key("lamp", "strength", 1, 9.0), key("lamp", "strength", 8, 0.1)))
      before = bright(0.0, 0.0)
      expect(before).to be > 0.4
      page.send_keys(:end)
      eventually(30) { expect(bright(0.0, 0.0)).to be < 0.3 * before }
      page.send_keys(:home)
      eventually(30) { expect(bright(0.0, 0.0)).to be_within(0.03).of(before) }
    end

    it "leaves dark what a prop hides from a lamp" do
      ball = add("prop", "ball", shape: "sphere", radius: 0.12, position: [0.45, 1.0, 1.5])
      look(shelved(ball, set("lamp", :position, [-0.3, 1.0, 3.0])))
      # Straight behind it from the lamp on: 1.2 m to the right, of 3.6 that are seen.
      aside, open = bright(0.29, 0.0), bright(-0.29, 0.0)
      expect(open).to be > 0.2
      expect(aside).to be < 0.35 * open
    end

    it "goes through glass, bent, and takes on its colour" do
      card = add("prop", "red", shape: "card", size: [0.5, 3.0, 0.01], position: [-0.45, 1.0, 0.02], colour: [0.7, 0.02, 0.02])
      glass = add("prop", "glass", shape: "sphere", radius: 0.5, position: [0.0, 1.0, 2.0], clear: 1.0, bends: 1.5,
        clear_colour: [0.3, 1.0, 0.3], clear_depth: 1.0)
      look(shelved(card, glass, set("lamp", :position, [0.0, 2.6, 2.6])))
      view = view_pixels
      row = view.crop(0, view.height / 2, view.width, 1)
      colours = row.width.times.map { |x| row.getpoint(x, 0) }
      middle = colours[row.width / 2]
      expect(middle[1]).to be > 1.1 * middle[0]
      # A ball turns what is behind it around: what stands on the left is seen on its right.
      red = colours.each_index.select { |x| colours[x][0] > 3.0 * [colours[x][1], 8.0].max }
      left, right = red.partition { |x| x < row.width / 2 }
      expect(right.size).to be > row.width / 50
      expect(left).to be_empty
    end
  end
end
