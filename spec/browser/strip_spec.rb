# frozen_string_literal: true

module Vumbral
  # Variations of a shot, looked at together.
  RSpec.describe "A test strip" do
    let(:id) { shelve(workshop, small_shot("Strip #{rand(1 << 30)}", edits: [set("general", :last, 4)])) }

    def document = workshop.shots.document(id)

    def shown = workshop.strips.show(id, workshop.strips.list(id)[0][:number])

    def vary(words)
      find("[data-vary] .n-base-selection").click
      find("[data-vary] input").send_keys(words)
      find(".n-base-select-option", text: words, match: :first).click
    end

    def values(n, text) = all("[data-axis] input", minimum: n + 1)[n].send_keys([:control, "a"], text)

    # How bright each variation's picture is.
    def seen
      page.evaluate_script(
        "[...document.querySelectorAll('canvas[data-cell]')].map((c) => { const d = " \
          "c.getContext('2d').getImageData(0, 0, c.width, c.height).data; let s = 0; for (let i = 0; i < d.length; " \
          "i += 4) s += d[i]; return s / d.length })"
      )
    end

    it "varies two dials, shows all of them, is turned and played, keeps one, and runs nothing twice" do
      open_desk(id)
      stop_playing
      find("[data-test-strip]").click
      vary("Smoke · Plume")
      values(0, "1, 30")
      vary("Curl boost · Chamber")
      values(1, "0 to 2 in 2")
      expect(page).to have_css("[data-strip-forecast]", text: "4 variations of 4 frames", wait: 20)
      find("[data-run-strip]").click
      expect(page).to have_css("[data-tile]", count: 4)
      eventually(90) { expect(find("[data-strip-state]").text).to include("4 done") }
      page.execute_script(
        "const range = document.querySelector('[data-strip-frame]'); range.value = 4; range.dispatchEvent(new " \
          "Event('input', {bubbles: true}))"
      )
      # Every one has its picture, and they differ.
      eventually(90) do
        expect(
          seen.size == 4 && seen.all? { |bright| bright > 1 } && seen.map { |bright| bright.round(2) }.uniq.size >= 2
        ).to be(true)
      end
      before = seen
      tile = all("[data-tile]")[1]
      page.driver.browser.action.move_to(tile.native).click_and_hold.move_by(40, 10).release.perform
      eventually(60) { expect(seen).not_to eq(before) }

      tile.click
      expect(page).to have_css("[data-strip-picked]", text: "Highest smoke")
      find("[data-mark-cell]").click
      eventually { expect(shown[:marked]).to eq([1]) }
      find("[data-refine-cell]").click
      expect(all("[data-axis] input").map(&:value)).to eq(["15.5, 30, 44.5", "-1, 0, 1"])
      find("[data-keep-cell]").click
      expect(page).to have_no_css("[data-strip]")
      eventually { expect([document.node("source-1")[:smoke], document.the(:chamber)[:curl_boost]]).to eq([30.0, 0.0]) }
      # Its frames are there at once, and one step takes it back.
      eventually(60) { expect(workshop.runs.state(id, "draft")[:rows].map { |row| row[:state] }.uniq).to eq(["fresh"]) }
      jobs = workshop.jobs.recent.select { |job| job[:shot_id] == id && job[:kind] == "run" && job[:result] }
      expect(jobs.map { |job| JSON.parse(job[:result])["computed"] }.uniq - [0]).to eq([])
      page.execute_script("document.activeElement?.blur()")
      page.send_keys([:control, "z"])
      eventually { expect(document.node("source-1")[:smoke]).not_to eq(30.0) }
    end

    it "takes a dial by a right click on its name, and says what does not read or is too much" do
      open_desk(id)
      find("[data-dial='source-1.smoke'] .label").right_click
      expect(page).to have_css("[data-axis]", text: "Smoke")
      values(0, "some")
      expect(page).to have_css("[data-strip-wrong]", text: "as a list")
      values(0, "0 to 1 in 64")
      vary("Curl boost · Chamber")
      # Very many are asked about first.
      expect(page).to have_css("[data-strip-forecast]", text: "192 variations", wait: 20)
      before = workshop.strips.list(id).size
      find("[data-run-strip]").click
      expect(page).to have_css("[data-strip-asks]", text: "192 variations take")
      expect(page).to have_css("[data-run-strip]", text: "Run all 192")
      find("[data-strip-not-yet]").click
      expect(page).to have_no_css("[data-strip-asks]")
      expect(workshop.strips.list(id).size).to eq(before)
      values(0, "0 to 1 in 600")
      expect(page).to have_css("[data-strip-wrong]", text: "1000 is the most", wait: 20)
      values(1, "-5")
      values(0, "1")
      expect(page).to have_css("[data-strip-wrong]", text: "Curl boost", wait: 20)
      page.send_keys(:escape)
      expect(page).to have_no_css("[data-strip]")
    end
  end
end
