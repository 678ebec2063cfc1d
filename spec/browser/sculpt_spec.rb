# frozen_string_literal: true

module Vumbral
  # Volumes built by hand from the desk.
  RSpec.describe "Sculpting at the desk" do
    def document(id) = workshop.shots.document(id)

    def steps(id) = Geometry::Recipes.steps(document(id), document(id).node("sculpt-1")).map(&:id)

    def rows(id) = workshop.runs.state(id, "draft")[:rows]

    it "builds a volume of a prop step by step, sees it without a run, reorders its steps, prints it, and undoes it " \
      "all" do
      id =
        shelve(
          workshop,
          small_shot(
            "Cloud #{rand(1 << 30)}",
            edits: [
              {"do" => "remove", "node" => "source-1"}, set("general", :last, 4), set("prop-1", :shown, false),
              set("picture", :width, 96), set("picture", :height, 54)
            ]
          )
        )
      open_desk(id)
      page.execute_script("document.activeElement?.blur()")
      page.send_keys("5")
      expect(page).to have_text("add a sculpt, choose the prop that it begins with")
      add("sculpt")
      unless page.has_css?("[data-dial='sculpt-1.prop']", text: document(id).node("prop-1").name, wait: 5)
        choose("sculpt-1.prop", document(id).node("prop-1").name)
      end
      type("sculpt-1.voxel", 0.04)
      add("step", "makes density of the distance")
      expect(page).to have_css("[data-node='step-1'].open")
      type("step-1.inside", 0.15)
      add("step", "takes a number to it")
      expect(page).to have_css("[data-node='step-2'].open")
      type("step-2.amount", 3)
      eventually { expect([steps(id), document(id).nodes["step-2"]&.[](:amount)]).to eq([%w[step-1 step-2], 3.0]) }
      eventually(60) { expect(rows(id).map { |row| [row[:state], row[:lit]] }.uniq).to eq([["fresh", true]]) }
      expect(smoke_seen).to be > 0.5

      # The view follows a dial that is dragged; Esc takes it back, and what was seen with it.
      key = workshop.sculpts.keys(document(id), "draft")[1]
      drawn = -> { find("[data-view]")["data-drawn"] }
      eventually { expect(drawn[]).to start_with(key) }
      hand = page.driver.browser.action
      hand.move_to(number("step-2.amount").native).click_and_hold.move_by(12, 0).move_by(12, 0).perform
      eventually { expect(drawn[]).to start_with("follow/") }
      page.send_keys(:escape)
      hand.release.perform
      eventually { expect(drawn[]).to start_with(key) }
      expect(document(id).node("step-2")[:amount]).to eq(3.0)

      find("[data-node='step-2'] [data-earlier]").click
      eventually { expect(steps(id)).to eq(%w[step-2 step-1]) }
      page.execute_script("document.activeElement?.blur()")
      page.send_keys("p")
      eventually(60) { expect(workshop.prints.list(id).size).to eq(1) }
      5.times { page.send_keys([:control, "z"]) }
      eventually { expect(document(id).of(:step).size).to be < 2 }
    end

    it "says what a step lacks, with the texture named at it once it is chosen" do
      id =
        shelve(
          workshop,
          small_shot(
            "Eaten #{rand(1 << 30)}",
            edits: [
              {"do" => "remove", "node" => "source-1"},
              {"do" => "add", "kind" => "texture", "name" => "Cells", "dials" => {"what" => "cells"}},
              {
                "do" => "add",
                "kind" => "sculpt",
                "id" => "tile",
                "name" => "Tile",
                "dials" => {
                  "prop" => "prop-1", "voxel" => 0.06
                }
              }
            ]
          )
        )
      open_desk(id)
      page.execute_script("document.activeElement?.blur()")
      page.send_keys("5")
      add("step", "takes a texture to it")
      expect(page).to have_text("does nothing until you choose its texture.", wait: 30)
      choose("step-1.texture", "Cells")
      expect(page).to have_no_text("does nothing until you choose its texture.", wait: 30)
      choose("step-1.sum", "divides")
      eventually do
        expect(Geometry::Recipes.of(document(id), 1)[0]["steps"].map { |step| step.values_at("what", "sum") }).to eq(
          [%w[texture divide]]
        )
      end

      # A formula's own names are dials at once.
      add("step", "goes by a formula")
      dial("step-2.formula").find("input.text").send_keys([:control, "a"], "value * rate + lift", :enter)
      expect(dial("step-2.named_a")).to have_text("rate")
      expect(dial("step-2.named_b")).to have_text("lift")
      type("step-2.named_b", 0.25)
      eventually do
        expect(Geometry::Recipes.of(document(id), 1)[0]["steps"][1]["given"]).to eq("rate" => 1.0, "lift" => 0.25)
      end

      # A copy of the sculpt has its steps.
      find("[data-node='tile'] .head").click
      page.execute_script("document.activeElement?.blur()")
      page.send_keys([:control, "c"])
      expect(page).to have_text("is copied")
      page.send_keys([:control, "v"])
      eventually do
        expect(
          document(id)
            .of(:sculpt)
            .map { |sculpt| Geometry::Recipes.steps(document(id), sculpt).map { |step| step[:what] } }
        ).to eq([%w[texture formula]] * 2)
      end
    end
  end
end
