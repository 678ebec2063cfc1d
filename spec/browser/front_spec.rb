# frozen_string_literal: true

module Vumbral
  # A front over a prop: begun by a click on it, seen there, and what a source and a second colour make of it.
  RSpec.describe "A front" do
    let!(:id) do
      shelve(
        workshop,
        small_shot(
          "Front #{rand(1 << 30)}",
          edits: [set("general", :last, 24), set("prop-1", :divisions, 4), set("source-1", :from, "surface")]
        )
      )
    end

    def document = workshop.shots.document(id)

    it "is started by a click, runs in the view, feeds where it is young and chars behind it, and is all undone" do
      open_desk(id)
      page.send_keys("1")
      find("[data-node='prop-1'] .head").click
      find("[data-add='front']").click
      expect(page).to have_css("[data-node='front-1']")
      eventually { expect(document.node("front-1")[:prop]).to eq("prop-1") }
      find("[data-pick-places]").click
      view = find("[data-view] canvas[tabindex]", visible: :all)
      at = nil
      # Somewhere on the ball, which stands about the middle of the view.
      [[0, 40], [0, 70], [20, 100], [-20, 100], [0, 10]].each do |x, y|
        break if at

        page.driver.browser.action.move_to(view.native, x, y).click.perform
        eventually(3) { expect(document.node("front-1")[:places].size).to eq(1) }
        at = document.node("front-1")[:places][0]
      rescue RSpec::Expectations::ExpectationNotMetError
        find("[data-pick-places]").click if page.has_css?("[data-pick-places][aria-pressed='false']", wait: 0)
      end
      expect(Math.sqrt(at.sum { |c| c * c })).to be_within(0.08).of(document.node("prop-1")[:radius])
      page.send_keys(:escape)
      type_into "front-1.speed", 1
      eventually { expect(document.node("front-1")[:speed]).to eq(1.0) }
      # What it has crossed is seen on the prop.
      page.execute_script("document.activeElement?.blur()")
      page.send_keys(:home)
      before = view_pixels
      page.send_keys(:end)
      eventually(20) { expect((view_pixels - before).abs.max).to be > 60 }

      page.send_keys("2")
      find("[data-node='source-1'] .head").click if page.has_no_css?("[data-node='source-1'].open", wait: 2)
      find("[data-node='source-1'] [data-add-map]").click
      pick_option("a front's age")
      expect(page).to have_css("[data-node='map-1'].nested")
      eventually { expect(document.nodes["map-1"]&.then { |map| [map[:to], map[:front]] }).to eq(%w[source-1 front-1]) }
      page.send_keys("1")
      find("[data-node='prop-1'] .head").click if page.has_no_css?("[data-node='prop-1'].open", wait: 2)
      find("[data-node='prop-1'] [data-add-map]").click
      pick_option("a front's age")
      eventually { expect(document.nodes["map-2"]&.[](:to)).to eq("prop-1") }
      expect(document.of(:map).size).to eq(2)
      page.execute_script("document.activeElement?.blur()")
      8.times do
        break if document.of(:front).empty?

        page.send_keys([:control, "z"])
        sleep 0.2
      end
      eventually { expect([document.of(:front), document.of(:map)]).to eq([[], []]) }
    end

    it "says where it takes everything at once, and slows it by a click" do
      workshop.shots.edit(
        id,
        [
          {
            "do" => "add",
            "kind" => "front",
            "id" => "flash",
            "name" => "Flash",
            "dials" => {
              "prop" => "prop-1", "speed" => 60.0
            }
          }
        ]
      )
      open_desk(id)
      page.send_keys("1")
      find("[data-node='flash'] .head").click if page.has_no_css?("[data-node='flash'].open", wait: 2)
      expect(page).to have_text("Flash takes the whole of its prop within")
      click_button "Let it take two seconds"
      eventually { expect(document.node("flash")[:speed]).to be < 2.0 }
    end
  end
end
