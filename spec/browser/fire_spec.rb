# frozen_string_literal: true

module Vumbral
  RSpec.describe "Fire, forces and pieces on the desk" do
    def key(node, dial, frame, value)
      {"do" => "key", "node" => node, "dial" => dial.to_s, "frame" => frame, "value" => value}
    end

    let(:burning) do
      small_shot("Blaze #{rand(1 << 30)}",
        edits: [set("source-1", :fuel, 20.0), set("source-1", :temperature, 1400.0), set("sun-1", :strength, 0.2),
          set("sky", :strength, 0.05)])
    end

    def ready(document)
      id = shelve(workshop, document)
      workshop.runs.start(id, "draft")
      wait_for_draft(id)
      open_desk(id)
      id
    end

    # Mean red, green and blue of the view's middle.
    def middle_colour
      view = view_pixels
      part = view.crop(view.width / 3, view.height / 4, view.width / 3, view.height / 2)
      3.times.map { |band| part.extract_band(band).avg }
    end

    it "shows fire in its colour, and without it where the chip is off" do
      ready(burning)
      go_to 8
      find("[data-chip='smoke']").click
      eventually { expect(middle_colour.then { |r, _, b| r - b }).to be > 6.0 }
      lit = middle_colour
      find("[data-chip='fire']").click
      eventually { expect(lit[0] - middle_colour[0]).to be > 4.0 }
      expect(page).to have_css(".corner", text: /\d+ K/)
    end

    it "cuts a slice through a quantity, with its range and the value under the pointer" do
      ready(burning)
      go_to 8
      find("[data-chip='slice']").click
      expect(page).to have_css("[data-range]", text: /293 to \d+ K/)
      find("[data-quantity-chip]").click
      pick_option("Speed")
      expect(page).to have_css("[data-range]", text: %r{m/s})
      canvas = find("[data-view] canvas")
      eventually do
        page.driver.browser.action.move_to(canvas.native, rand(-3..3), rand(-3..3)).perform
        expect(page).to have_css("[data-readout]", text: %r{[\d.]+ m/s}, wait: 1)
      end
      click_button "Slice across x"
      expect(page).to have_css("[aria-label='Slice across x'][aria-pressed='true']")
    end

    it "adds a force from its chapter, shows it in the view and lets it be set" do
      id = ready(small_shot("Breeze #{rand(1 << 30)}"))
      page.send_keys("4")
      expect(page).to have_text("Wind, swirl, drag and turbulence")
      find("[data-add='force']").click
      expect(page).to have_css("[data-node='force-1']")
      eventually { expect(workshop.shots.document(id).of(:force).size).to eq(1) }
      type_into "force-1.strength", 4
      eventually { expect(workshop.shots.document(id).node("force-1")[:strength]).to eq(4.0) }
      wait_for_draft(id)
      dial("force-1.strength").find("[data-key]").click
      expect(page).to have_css("[data-timeline-key]", count: 1)
    end

    it "plays a prop that moves and breaks, piece by piece" do
      lid = {
        "do" => "add",
        "kind" => "prop",
        "id" => "lid",
        "name" => "Lid",
        "dials" => {
          "shape" => "box", "size" => [0.5, 0.12, 0.5], "position" => [0.0, 0.8, 0.0], "breaks" => true,
          "break_frame" => 4, "pieces" => 5, "blast" => [0.0, 0.5, 0.0], "colour" => [0.9, 0.1, 0.1]
        }
      }
      id = ready(small_shot("Lid #{rand(1 << 30)}", edits: [lid, set("source-1", :smoke, 0.1)]))
      eventually { expect(workshop.bodies.known(workshop.shots.document(id))&.size).to eq(8) }
      red = -> { view_pixels.then { |view| (view.extract_band(0) - view.extract_band(1) > 60).avg } }
      go_to 2
      eventually { expect(red.call).to be > 0.05 }
      whole = view_pixels
      go_to 8
      eventually { expect((view_pixels - whole).abs.avg).to be > 0.05 }
      expect(red.call).to be > 0.02
    end

    it "draws curves of what each frame found out, and forecasts a run" do
      ready(burning)
      go_to 8
      find("[data-curves]").click
      find(".n-base-select-option", text: "Peak temperature").click
      expect(page).to have_css("[data-fact='peak']", text: /K/)
      page.send_keys(:escape)
      find("[data-chapter='chamber']").click
      expect(page).to have_css("[data-forecast]", text: "Forecast from this machine")
      expect(find("[data-forecast]")).to have_text("disk")
    end

    it "takes a formula, and says where it is wrong" do
      id = ready(small_shot("Sum #{rand(1 << 30)}", edits: [set("source-1", :map, "formula")]))
      field = dial("source-1.formula").find("input.text")
      field.send_keys([:control, "a"], "sin(", :enter)
      expect(page).to have_text(/The formula "sin\(" does not read as a formula at character/)
      field.send_keys([:control, "a"], "0.5 + 0.5 * sin(9 * x)", :enter)
      eventually { expect(workshop.shots.document(id).node("source-1")[:formula]).to eq("0.5 + 0.5 * sin(9 * x)") }
    end

    it "takes a picture for a source's strength" do
      id = ready(small_shot("Mask #{rand(1 << 30)}"))
      workshop.shots.edit(id, [set("source-1", :map, "picture")])
      expect(page).to have_css("[data-dial='source-1.picture']")
      mask = File.join(house.home, "mask.png")
      Vips::Image.black(4, 4).write_to_file(mask)
      dial("source-1.picture").attach_file("Picture", mask, make_visible: true)
      expect(dial("source-1.picture")).to have_text("mask.png")
      kept = workshop.assets.list("picture").find { |picture| picture[:name] == "mask.png" }
      eventually { expect(workshop.shots.document(id).node("source-1")[:picture]).to eq(kept[:digest]) }
    end

    it "sets a key on a place, and moves what has keys by setting another" do
      id = ready(small_shot("Mover #{rand(1 << 30)}"))
      find("[data-chapter='props']").click
      find("[data-node='prop-1'] button", match: :first).click unless page.has_css?("[data-dial='prop-1.position']",
        wait: 1)
      go_to 2
      dial("prop-1.position").find("[data-key]").click
      eventually { expect(workshop.shots.document(id).node("prop-1").curves[:position]&.to_a&.size).to eq(1) }
      go_to 6
      x = dial("prop-1.position").all("[role='spinbutton']").first
      x.click
      dial("prop-1.position").find("input.field").send_keys([:control, "a"], "0.3", :enter)
      eventually do
        expect(
          workshop.shots.document(id).node("prop-1").curves[:position].to_a.map { |n| [n[:frame], n[:value][0]] }
        ).to eq([[2, 0.0], [6, 0.3]])
      end
      expect(page).to have_css("[data-timeline-key]", count: 2)
    end

    it "begins every starter, each with smoke or fire at once" do
      visit house.url
      find("[data-new-shot]").click
      expect(all(".starter b").map { |starter| starter.text.downcase }).to eq(Studio::Starters::ALL.keys)
      find("[data-starter='fire']").click
      fill_in "name", with: "Camp #{rand(1 << 30)}"
      find("[data-make]").click
      expect(page).to have_css("[data-desk]", wait: 30)
      expect(page).to have_css("[data-cached='fresh']", wait: 30)
      find("[data-stop]").click if page.has_css?("[data-stop]", wait: 1)
    end
  end
end
