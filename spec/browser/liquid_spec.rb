# frozen_string_literal: true

module Vumbral
  # Thrown water: what a kick touches, before and after it was run.
  RSpec.describe "A liquid" do
    let(:id) do
      shelve(
        workshop,
        Shot::Edits.apply(
          Studio::Starters.bare("Trough #{rand(1 << 30)}"),
          [set("general", :last, 8), set("picture", :width, 160), set("picture", :height, 90)]
        )[
          0
        ]
      )
    end

    def document = workshop.shots.document(id)

    def states = workshop.runs.state(id, "draft")[:rows].map { |row| row[:state] }

    # How bright the view is on the whole, once it is as fine as it gets.
    def drawn
      eventually(60) do
        expect(page).to have_css("[data-view][data-scale='1']", wait: 30)
        bright = view_pixels.avg
        sleep 0.3
        expect(page).to have_css("[data-view][data-scale='1']", wait: 0)
        expect(view_pixels.avg).to be_within(0.01).of(bright)
        bright
      end
    end

    it "is filled, thrown up in a shape, looked at as drops, printed, and handed on" do
      open_desk(id)
      find("[data-chapter='chamber']").click
      add("liquid")
      open_card("liquid-1")
      place("liquid-1.size", [0.6, 0.6, 0.6])
      type("liquid-1.voxel", 0.03)
      type("liquid-1.line", 0.2)
      eventually { expect(document.nodes["liquid-1"]&.[](:line)).to eq(0.2) }
      # A shot has one, and it is not seen by itself.
      expect(page).to have_no_css("[data-add='liquid']")
      find("[data-remedy]", text: "Show its surface").click
      eventually { expect(document.of(:prop).map { |prop| prop[:shape] }).to eq(%w[liquid]) }

      find("[data-chapter='props']").click
      add("prop", "torus")
      rim =
        eventually do
          document.of(:prop).find { |prop| prop[:shape] == "torus" } ||
            raise(RSpec::Expectations::ExpectationNotMetError)
        end.id
      open_card(rim)
      type("#{rim}.radius", 0.16)
      type("#{rim}.tube", 0.05)
      place("#{rim}.position", [0, 0.5, 0])

      find("[data-chapter='forces']").click
      add("kick")
      open_card("kick-1")
      choose("kick-1.prop", document.node(rim).name)
      type("kick-1.first", 3)
      type("kick-1.last", 4)
      # The shape stands in another place than the water.
      expect(page).to have_css("[data-finding]", text: "touches no liquid", wait: 20)
      find("[data-remedy]", text: "into it").click
      eventually { expect(document.node(rim)[:position][1]).to be < 0.3 }
      expect(page).to have_no_css("[data-finding]", text: "touches no liquid")

      find("[data-run-draft]").click
      eventually(120) { expect(states).to eq(["fresh"] * 8) }
      go_to 6
      eventually(30) { expect(find(".corner.right")).to have_text("substep") }
      dry = drawn
      find("[data-drops-chip]").click
      pick_option("By speed")
      expect(page).to have_css("[data-range]", text: "m/s", wait: 20)
      eventually(60) { expect((drawn - dry).abs).to be > 0.05 }
      whole = drawn
      find("[data-chip='slice']").click
      eventually(60) { expect((drawn - whole).abs).to be > 0.05 }
      expect(find("[data-range]").text).to include("m/s")
      cut = drawn
      within(".cut") { click_button "Slice across x" }
      eventually(60) { expect((drawn - cut).abs).to be > 0.05 }
      find("[data-chip='slice']").click
      eventually(60) { expect((drawn - whole).abs).to be < 0.05 }

      # Faster: only what comes behind the kick is run anew.
      type("kick-1.velocity", 4, 1)
      eventually(120) { expect([document.node("kick-1")[:velocity], states]).to eq([[0.0, 4.0, 0.0], ["fresh"] * 8]) }
      expect(page).to have_no_css("[data-running]", wait: 30)
      eventually do
        job = workshop.db[:jobs].where(kind: "run", shot_id: id).reverse(:id).first
        expect(JSON.parse(job[:result] || "{}")).to include("computed" => 6, "kept" => 2)
      end

      find("[data-take-print]").click
      eventually(60) { expect(workshop.prints.list(id).size).to eq(1) }
      # And its particles, by the desk's own menu.
      find("[data-chapter='export']").click
      find(".n-select[aria-label='Format'], [aria-label='Format'] .n-base-selection", match: :first).click
      find(".n-base-select-option", text: "particles of the liquid").click
      find("[data-export]").click
      expect(page).to have_css("[data-exported]", text: "8 files", wait: 60)
    end

    it "shows another surface while its dial is held, and takes it without a run" do
      kick = {
        "do" => "add",
        "kind" => "kick",
        "name" => "Kick",
        "id" => "kick",
        "dials" => {
          "position" => [0.0, 0.1, 0.0], "extent" => [0.2, 0.2, 0.2], "first" => 2, "last" => 2
        }
      }
      workshop.shots.edit(id, [water, surface, kick])
      run_now(workshop, id)
      open_desk(id)
      find("[data-chapter='chamber']").click
      open_card("liquid")
      go_to 6
      eventually(30) { expect(find(".corner.right")).to have_text("substep") }
      before, first = drawn, workshop.runs.state(id, "draft")[:rows][5][:liquid]
      knob = number("liquid.round")
      page.execute_script("arguments[0].scrollIntoView({block: 'center'})", knob)
      page.driver.browser.action.click_and_hold(knob.native).move_by(60, 0).move_by(60, 0).perform
      eventually(20) { expect((view_pixels.avg - before).abs).to be > 0.1 }
      expect(document.node("liquid")[:round]).to eq(0.5)
      page.driver.browser.action.release.perform
      eventually { expect(document.node("liquid")[:round]).to be > 0.7 }
      eventually(60) { expect(states).to eq(["fresh"] * 8) }
      eventually do
        job = workshop.db[:jobs].where(kind: "run", shot_id: id).reverse(:id).first
        expect(JSON.parse(job[:result] || "{}")).to include("computed" => 0, "kept" => 8)
      end
      expect(workshop.runs.state(id, "draft")[:rows][5][:liquid]).not_to eq(first)
      # What was there before is there still.
      page.send_keys([:control, "z"])
      eventually do
        expect([document.node("liquid")[:round], workshop.runs.state(id, "draft")[:rows][5]]).to match(
          [0.5, include(state: "fresh", liquid: first)]
        )
      end
    end
  end
end
