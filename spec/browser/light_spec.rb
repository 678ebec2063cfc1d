# frozen_string_literal: true

module Vumbral
  # Lamps, fog and materials from the desk, without a run.
  RSpec.describe "Light and fog at the desk" do
    let!(:id) do
      shelve(
        workshop,
        small_shot(
          "Light #{rand(1 << 30)}",
          edits: [
            set("general", :last, 12), {"do" => "remove", "node" => "source-1"},
            set("prop-1", :position, [0.0, 0.4, 0.0])
          ]
        )
      )
    end

    def document = workshop.shots.document(id)

    it "makes a beam on a pot of a material: aimed in the view, developed, printed, and all undone" do
      open_desk(id)
      expect(page).to have_css("[data-take-print]:not([disabled])")
      page.send_keys("6")
      find("[data-add='lamp']").click
      expect(page).to have_css("[data-node='lamp-1']")
      choose("lamp-1.as", "a spot, in a cone")
      eventually { expect(document.nodes["lamp-1"]&.[](:as)).to eq("spot") }
      find("[data-node='lamp-1'] [data-pick-aim]").click
      view = find("[data-view] canvas[tabindex]", visible: :all)
      page.driver.browser.action.move_to(view.native, 0, 110).click.perform
      eventually { expect(document.node("lamp-1")[:target]).not_to eq([0.0, 0.0, 0.0]) }
      expect(page).to have_css("[data-chip='develop'][aria-pressed='false']")
      type_into "lamp-1.beam", 0.3
      eventually { expect(document.node("lamp-1")[:beam]).to eq(0.3) }
      # What only the finished picture shows is developed at once.
      expect(page).to have_css("[data-chip='develop'][aria-pressed='true']")
      expect(page).to have_css("[data-developed='1']", wait: 90)

      page.send_keys("1")
      find("[data-node='prop-1'] .head").click if page.has_no_css?("[data-node='prop-1'].open", wait: 2)
      find("[data-node='prop-1'] [data-ready='material']").click
      find("[data-material='glazed-clay']").click
      eventually { expect(document.node("prop-1")[:shine]).to be > 0.3 }
      expect(document.of(:texture).map(&:name)).to eq(["Glaze"])
      page.execute_script("document.activeElement?.blur()")
      page.send_keys("p")
      eventually(60) { expect(workshop.prints.list(id).size).to eq(1) }
      expect(workshop.prints.list(id)[0][:quality]).to eq("still")
      page.send_keys([:control, "z"])
      eventually { expect([document.of(:texture), document.node("prop-1")[:shine]]).to eq([[], 0.0]) }
    end

    it "fills a hidden prop with mist, and says where a skin hides it, with a click that mends it" do
      workshop.shots.edit(
        id,
        [
          {
            "do" => "add",
            "kind" => "prop",
            "id" => "room",
            "name" => "Room",
            "dials" => {
              "shape" => "box", "size" => [1.6, 1.6, 1.6], "position" => [0.0, 0.8, 0.0]
            }
          }
        ]
      )
      open_desk(id)
      page.send_keys("6")
      find("[data-add='fog']").click
      choose("fog-1.fills", "the inside of a prop")
      choose("fog-1.prop", "Room")
      eventually { expect(document.nodes["fog-1"]&.[](:prop)).to eq("room") }
      expect(page).to have_text("Room is opaque and hides Fog inside it.", wait: 30)
      click_on "Hide Room"
      eventually { expect(document.node("room")[:shown]).to be(false) }
      expect(page).to have_no_text("hides Fog inside it")
    end

    it "stands a dropped picture up as a card, balances a print's light, puts it into the shot, and undoes it" do
      open_desk(id)
      red =
        Vips::Image
          .new_from_memory([255, 0, 0, 128].pack("C*") * 128, 16, 8, 4, :uchar)
          .copy(interpretation: :srgb)
          .write_to_buffer(".png")
      drop("[data-view]", "dust.png": red)
      eventually do
        expect(document.nodes["prop-2"]&.then { |card| [card.name, card[:shape], card[:size][0]] }).to eq(
          ["dust", "card", 2.0]
        )
      end
      page.execute_script("document.activeElement?.blur()")
      page.send_keys("p")
      first("[data-print]", wait: 60).click
      find("[data-balance]").click
      expect(page).to have_css("[data-balanced='Sky']", wait: 60)
      before = document.the(:sky)[:strength]
      find("[data-balanced='Sky'] [role='slider']").send_keys(:right, :right, :right, :right)
      expect(page).to have_css("[data-instead]")
      expect(page).to have_css("[data-balanced='Sky'] .stops", exact_text: "+0.2")
      find("[data-apply]").click
      eventually { expect(document.the(:sky)[:strength]).to be_within(1e-6).of(before * 2.0**0.2) }
      # Keys act on the desk once the print has gone.
      expect(page).to have_no_css("[data-apply]")
      page.execute_script("document.activeElement?.blur()")
      page.send_keys([:control, "z"])
      eventually { expect(document.the(:sky)[:strength]).to eq(before) }
    end
  end
end
