# frozen_string_literal: true

module Vumbral
  # Whole pieces of work, from an empty shelf to a picture or a file, as a person does them.
  RSpec.describe "A job" do
    def document(id) = workshop.shots.document(id)

    def shot_named(name) =
      eventually do
        workshop.db[:shots].first(name: name)&.fetch(:id) || raise(RSpec::Expectations::ExpectationNotMetError)
      end

    describe "by keyboard alone, a row of charges from starter to export" do
      def focused?(selector) = page.evaluate_script("!!document.activeElement.closest(arguments[0])", selector)

      def tab_to(selector, most = 90)
        return if focused?(selector)

        most.times do
          page.send_keys(:tab)
          return if focused?(selector)
        end
        raise "Tab never comes to #{selector}"
      end

      # Goes to a dial by its name and gives it a value.
      def turn(dial, words, value)
        page.send_keys("/")
        expect(page).to have_css("[role='dialog'] input:focus")
        page.send_keys(words, :enter)
        expect(page).to have_css("[data-dial='#{dial}'] [role='spinbutton']:focus")
        page.send_keys(:enter)
        expect(page).to have_css("[data-dial='#{dial}'] input:focus")
        page.send_keys([:control, "a"], value.to_s, :enter)
        expect(page).to have_css("[data-dial='#{dial}'].off [role='spinbutton']:focus")
      end

      it "goes through" do
        visit house.url
        expect(page).to have_css("[data-new-shot]")
        tab_to("[data-new-shot]")
        page.send_keys(:enter)
        expect(page).to have_css("input[name='name']:focus")
        name = "Row #{rand(1 << 30)}"
        page.send_keys(name)
        expect(page).to have_css("[data-starter='burst']")
        tab_to("[data-starter] input")
        page.send_keys(:right, :right)
        expect(find("[data-starter='burst'] input")).to be_checked
        tab_to("[data-make]")
        page.send_keys(:enter)
        expect(page).to have_css("[data-desk]", wait: 30)
        id = shot_named(name)

        # Coarse and short first; frames and voxels are found like any dial.
        turn("chamber.draft", "draft voxels", 4)
        turn("general.last", "last frame", 14)
        row = {
          "copies" => ["how many", 5], "step_frames" => ["frames apart", 1.5], "step_middle" => ["middle against", 1.8],
          "scatter" => ["scattered", 0.06], "vary" => ["varies", 0.3], "fuel" => ["fuel charge", 36],
          "along" => ["speed outward", 5]
        }
        row.each { |dial, (words, value)| turn("source-1.#{dial}", words, value) }
        turn("chamber.burn_swell", "expansion", 2.6)
        turn("sky.strength", "sky's light", 1.2)
        turn("look.bounces", "bounces", 6)
        charge = document(id).node("source-1")
        expect(row.keys.map { |dial| charge[dial.to_sym] }).to eq(row.values.map(&:last))
        # What differs is seen at a glance.
        page.send_keys("2")
        expect(all("[data-node='source-1'] .dial.off").size).to be >= row.size

        wait_for_draft(id)
        page.send_keys(:escape)
        page.send_keys(:end)
        expect(page).to have_css("[data-frame]", exact_text: "14")
        page.send_keys("p")
        expect(page).to have_css("[data-print]", text: "f 14", wait: 90)
        page.send_keys("9")
        expect(page).to have_css("[data-export]")
        tab_to("[data-export]")
        page.send_keys(:enter)
        eventually(180) { expect(workshop.exports.list(id).map { |row| row[:files].size }).to eq([14]) }
        # All fuel that was fed has burned or burns still: nothing of it lies about cold.
        facts = workshop.runs.state(id, "draft")[:rows].map { |row| row[:facts] }
        expect(facts.map { |fact| fact["peak"] }.max).to be > 1500
      end
    end

    describe "smoke on cue from a slot under the kiln door, to its print" do
      def add_box(id, name, size, position)
        find("[data-add='prop']").click
        pick_option(/\Abox\z/i)
        card = find(".card.open[data-node='#{id}']")
        card.click_button("Rename")
        card.find("input[aria-label='Name']").send_keys([:control, "a"], name, :enter)
        place("#{id}.size", size)
        place("#{id}.position", position)
        id
      end

      it "goes through" do
        visit house.url
        find("[data-new-shot]").click
        name = "Cue #{rand(1 << 30)}"
        fill_in "name", with: name
        find("[data-starter='empty']").click
        find("[data-make]").click
        expect(page).to have_css("[data-desk]", wait: 30)
        id = shot_named(name)
        find("[data-settings]").click
        type("general.last", 14)
        find("[data-settings]").click

        find("[data-chapter='props']").click
        door = add_box("prop-1", "Kiln door", [1.2, 1.4, 0.1], [0, 0.85, -0.3])
        slot = add_box("prop-2", "Slot", [0.9, 0.06, 0.06], [0, 0.08, -0.2])
        find("[data-chapter='sources']").click
        find("[data-add='source']").click
        expect(page).to have_css("[data-dial='source-1.strength']")
        choose("source-1.prop", "Slot")
        # On from frame 4 to frame 10, switched by keys.
        {3 => 0, 4 => 1, 10 => 1, 11 => 0}.each do |frame, value|
          go_to frame
          type("source-1.strength", value)
          unless dial("source-1.strength").has_css?(".key.here", wait: 1)
            dial("source-1.strength").find("[data-key]").click
          end
        end
        eventually do
          expect(
            document(id).node("source-1").curves[:strength].to_a.map { |key| key.values_at(:frame, :value) }
          ).to eq([[3, 0.0], [4, 1.0], [10, 1.0], [11, 0.0]])
        end
        type("source-1.smoke", 9)

        find("[data-chapter='chamber']").click
        find("[data-node='chamber'] .head").click unless page.has_css?("[data-dial='chamber.voxel']", wait: 1)
        place("chamber.size", [1.6, 2.0, 1.2])
        {"voxel" => 0.06, "draft" => 1, "stir" => 0.3, "smoke_fade" => 0.4}.each do |dial, value|
          type("chamber.#{dial}", value)
        end
        find("[data-node='detail'] .head").click
        dial("detail.on").find("[role='switch']").click
        find("[data-run-draft]").click
        wait_for_draft(id)
        go_to 12
        # Far too dense at first; down until it is right.
        find("[data-chapter='light']").click
        find("[data-node='look'] .head").click unless page.has_css?("[data-dial='look.thickness']", wait: 1)
        eventually { expect(smoke_seen).to be > 0.1 }
        [30, 14].each { |value| type("look.thickness", value) }
        find("[data-chapter='camera']").click
        find("[data-node='camera'] .head").click unless page.has_css?("[data-dial='camera.aperture']", wait: 1)
        type("camera.aperture", 60)
        choose("camera.focus_on", "Kiln door")
        find("[data-take-print]").click
        expect(page).to have_css("[data-print='1']", text: "f 12", wait: 90)
        expect(document(id).node("camera")[:focus_on]).to eq(door)
        expect(document(id).node("source-1")[:prop]).to eq(slot)
        # Smoke starts and ends on cue: none before, and the source is off at the end.
        smoke = workshop.runs.state(id, "draft")[:rows].map { |row| row[:facts]["smoke"].to_f }
        expect([smoke[2], smoke[4].positive?]).to eq([0.0, true])
        expect(smoke[13]).to be < smoke[10]
      end
    end
  end
end
