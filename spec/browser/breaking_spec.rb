# frozen_string_literal: true

module Vumbral
  # Pieces that are picked in the view and taken away, and copies that differ.
  RSpec.describe "Pieces and copies" do
    let!(:id) do
      shelve(
        workshop,
        small_shot(
          "Pieces #{rand(1 << 30)}",
          edits: [
            set("general", :last, 12), set("prop-1", :breaks, true), set("prop-1", :break_frame, 3),
            set("prop-1", :pieces, 6), set("prop-1", :blast_strength, 0.0), set("prop-1", :spin, 0.0),
            set("prop-1", :held_until, 12)
          ]
        )
      )
    end

    def document = workshop.shots.document(id)

    def view = find("[data-view] canvas[tabindex]", visible: :all)

    it "are picked one by one and by a box, put back, and undone" do
      open_desk(id)
      page.send_keys("1")
      find("[data-node='prop-1'] .head").click if page.has_no_css?("[data-node='prop-1'].open", wait: 2)
      page.send_keys(:home)
      expect(page).to have_css("[data-frame]", exact_text: "1")
      dial("prop-1.taken").find("[data-pick-places]").click
      # It goes to where there are pieces.
      expect(page).to have_css("[data-frame]", exact_text: "3")
      eventually(30) do
        expect(evaluate_script("fetch('/api/shots/#{id}/bodies').then((answer) => answer.status)")).to eq(200)
      end
      [[0, 30], [0, 60], [15, 90], [-15, 90]].each do |x, y|
        break if document.node("prop-1")[:taken].any?

        page.driver.browser.action.move_to(view.native, x, y).click.perform
        eventually(4) { expect(document.node("prop-1")[:taken].size).to eq(1) }
      rescue RSpec::Expectations::ExpectationNotMetError
        find("[data-pick-places]").click if page.has_css?("[data-pick-places][aria-pressed='false']", wait: 0)
      end
      first = document.node("prop-1")[:taken]
      expect(first.size).to eq(1)
      expect(dial("prop-1.taken")).to have_text("piece #{first[0] + 1}")

      if page.has_css?("[data-pick-places][aria-pressed='false']", wait: 1)
        dial("prop-1.taken").find("[data-pick-places]").click
      end
      action = page.driver.browser.action.move_to(view.native, -220, 20).click_and_hold.move_by(200, 100)
      action.perform
      expect(page).to have_css("[data-box]")
      page.driver.browser.action.move_by(240, 60).release.perform
      eventually { expect(document.node("prop-1")[:taken]).to eq([0, 1, 2, 3, 4, 5]) }
      page.send_keys(:escape)
      dial("prop-1.taken").click_on("Take piece 2 out")
      eventually { expect(document.node("prop-1")[:taken]).to eq([0, 2, 3, 4, 5]) }
      page.execute_script("document.activeElement?.blur()")
      page.send_keys([:control, "z"], [:control, "z"], [:control, "z"])
      eventually { expect(document.node("prop-1")[:taken]).to eq([]) }
    end

    it "vary in a dial, and one is set by hand" do
      open_desk(id)
      page.send_keys("2")
      find("[data-node='source-1'] .head").click if page.has_no_css?("[data-node='source-1'].open", wait: 2)
      type_into "source-1.copies", 4
      dial("source-1.varied").find("[data-add-varied]").click
      eventually { expect(document.node("source-1")[:varied]).to eq([{"dial" => "skin", "by" => 0.3}]) }
      dial("source-1.overrides").find("[data-add-varied]").click
      eventually { expect(document.node("source-1")[:overrides].map { |row| row["copy"] }).to eq([4]) }
      row = dial("source-1.overrides")
      row.all(".n-base-selection")[1].click
      find(".n-base-select-option", text: /\ASmoke\z/).click
      eventually do
        expect(document.node("source-1")[:overrides]).to eq([{"copy" => 4, "dial" => "smoke", "value" => 4.0}])
      end
    end
  end
end
