# frozen_string_literal: true

module Vumbral
  # Making timing where it is seen: keys, curves, formulas, many rows at once.
  RSpec.describe "The timeline" do
    let(:sources) do
      (2..5).map do |n|
        {
          "do" => "add",
          "kind" => "source",
          "id" => "source-#{n}",
          "name" => "Puff #{n}",
          "dials" => {
            "prop" => "prop-1", "first" => 3, "last" => 6, "smoke" => 0.5
          }
        }
      end
    end
    let!(:id) do
      shelve(
        workshop,
        small_shot(
          "Timing #{rand(1 << 30)}",
          edits: [set("general", :last, 48), set("source-1", :first, 3), set("source-1", :last, 6), *sources]
        )
      )
    end

    before do
      open_desk(id)
      page.execute_script("document.activeElement?.blur()")
    end

    def document = workshop.shots.document(id)

    def keys(node, dial) = document.node(node).keyed(dial)&.keys.to_a.map { |key| [key.frame, key.value] }

    def key(frame, value, dial = "strength", node = "source-1", **more) =
      {
        "do" => "key", "node" => node, "dial" => dial, "frame" => frame, "value" => value, **more.transform_keys(&:to_s)
      }

    def drag(element, across, up = 0, alt: false, shift: false)
      action = page.driver.browser.action
      action = action.key_down(:alt) if alt
      action = action.key_down(:shift) if shift
      action =
        action
          .move_to(element.native)
          .click_and_hold
          .move_by(across / 2, up / 2)
          .move_by(across - across / 2, up - up / 2)
          .release
      action = action.key_up(:alt) if alt
      action = action.key_up(:shift) if shift
      action.perform
    end

    # Pixels that a number of frames takes.
    def wide(frames) =
      (frames * (page.evaluate_script("document.querySelector('.timeline .ruler').clientWidth") - 12) / 47.0).round

    def undo
      page.execute_script("document.activeElement?.blur()")
      page.send_keys([:control, "z"])
    end

    it "staggers five sources, and takes it back in one step" do
      find("[data-time-row='source-1.strength']").click
      (2..5).each do |n|
        page
          .driver
          .browser
          .action
          .key_down(:control)
          .click(find("[data-time-row='source-#{n}.strength']").native)
          .key_up(:control)
          .perform
      end
      expect(page).to have_css("[data-picked]", text: "5 rows")
      find("[data-retime]").click
      {"step" => 4, "by" => 2}.each do |name, value|
        find("[data-retime-field='#{name}']").send_keys([:control, "a"], value.to_s, :tab)
      end
      find("[data-retime-carry]").click
      firsts = -> { (1..5).map { |n| document.node("source-#{n}")[:first] } }
      eventually { expect(firsts.call).to eq([5, 9, 13, 17, 21]) }
      undo
      eventually { expect(firsts.call).to eq([3] * 5) }
    end

    it "moves a thing by its bar and an end by itself" do
      drag(find("[data-span='source-3.last']"), wide(10))
      eventually { expect(document.node("source-3")[:last]).to eq(16) }
      bar = find("[data-span='source-3.last']").ancestor(".lane").find(".bar")
      drag(bar, wide(5))
      eventually { expect([document.node("source-3")[:first], document.node("source-3")[:last]]).to eq([8, 21]) }
      find("[data-span='source-3.first']").send_keys(:left)
      eventually { expect(document.node("source-3")[:first]).to eq(7) }
    end

    it "keys a prop, edits its curve, and goes on beyond its last key" do
      workshop.shots.edit(id, [key(5, 0.0), key(15, 1.0), key(25, 0.5)])
      expect(page).to have_css("[data-timeline-key]", count: 3)
      find("[data-open-row='source-1.strength']").click
      expect(page).to have_css("[data-curve='source-1.strength'] [data-curve-key]", count: 3)
      middle = -> { all("[data-curve='source-1.strength'] [data-curve-key]")[1] }
      drag(middle.call, wide(3), 30)
      eventually { expect(keys("source-1", :strength)[1]).to match([18, be_between(0.4, 0.75)]) }
      expect(page).to have_css("[data-handle='leave']")
      before = document.node("source-1")[:strength, 21]
      drag(find("[data-handle='leave']"), 0, -25)
      eventually { expect(document.node("source-1")[:strength, 21]).to be > before + 0.05 }
      find("[data-beyond='after']").click
      find(".n-base-select-option", text: "begins again", exact_text: true).click
      eventually { expect(document.node("source-1").keyed(:strength).after).to eq("again") }
      expect(document.node("source-1")[:strength, 25 + 13]).to be_within(1e-6).of(
        document.node("source-1")[:strength, 18]
      )
      middle.call.send_keys(:delete)
      eventually { expect(keys("source-1", :strength).map(&:first)).to eq([5, 25]) }
      4.times { undo }
      eventually { expect(keys("source-1", :strength)).to eq([[5, 0.0], [15, 1.0], [25, 0.5]]) }
    end

    it "picks keys with a box, moves them together, copies them and sets how they go on" do
      workshop.shots.edit(id, [key(5, 0.0), key(9, 1.0), key(20, 0.5), key(5, 2.0, "smoke"), key(9, 1.0, "smoke")])
      expect(page).to have_css("[data-timeline-key]", count: 5)
      page.send_keys([:shift, "m"])
      lane = find("[data-time-row='source-1.smoke']").ancestor(".line").find(".cell")
      width = page.evaluate_script("document.querySelector('.timeline .ruler').clientWidth")
      # From before the first frame's keys to after the tenth, over both rows.
      other = find("[data-time-row='source-1.strength']").ancestor(".line").find(".cell")
      up =
        page.evaluate_script(
          "arguments[0].getBoundingClientRect().y - arguments[1].getBoundingClientRect().y", other, lane
        )
      page
        .driver
        .browser
        .action
        .move_to(lane.native, wide(2) - width / 2, 8)
        .click_and_hold
        .move_by(wide(9), up.round - 12)
        .release
        .perform
      expect(page).to have_css("[data-picked]", text: "4 keys")
      drag(all("[data-timeline-key][aria-pressed='true']").first, wide(4))
      eventually do
        expect([keys("source-1", :strength).map(&:first), keys("source-1", :smoke).map(&:first)]).to eq(
          [[9, 13, 20], [9, 13]]
        )
      end
      drag(all("[data-timeline-key][aria-pressed='true']").first, wide(15), alt: true)
      eventually { expect(keys("source-1", :smoke).map(&:first)).to eq([9, 13, 24, 28]) }
      find("[data-eases]").click
      find(".n-base-select-option", text: "held").click
      eventually { expect(document.node("source-1").keyed(:smoke).keys.map(&:ease)).to eq(%w[smooth smooth held held]) }
      find("[data-drop-keys]").click
      eventually { expect(keys("source-1", :smoke).map(&:first)).to eq([9, 13]) }
    end

    it "takes a formula where a number stands, shows it, and says in one sentence what is wrong with one" do
      find("[data-time-row='source-1.strength']").click
      field = -> { dial("source-1.smoke") }
      field.call.find("[role='spinbutton']").click
      field.call.find("input").send_keys([:control, "a"], "1 + frame / 12", :enter)
      expect(page).to have_css("[data-dial='source-1.smoke'] [data-formula]", text: "= 1 + frame / 12")
      go_to 25
      expect(field.call.find("[role='spinbutton']")).to have_text("3.08")
      expect(page).to have_css("[data-time-row='source-1.smoke']")
      field.call.find("[role='spinbutton']").click
      field.call.find("input").send_keys([:control, "a"], "[source-2.smoke] * wobble", :enter)
      expect(field.call).to have_css("[data-refused]", text: "uses wobble")
      field.call.find("input").send_keys([:control, "a"], "[Puff 2.Smoke] * 4", :enter)
      expect(page).to have_css("[data-formula]", text: "= [source-2.smoke] * 4")
      saved
      expect(document.node("source-1")[:smoke]).to eq(2.0)
      field.call.find("[role='spinbutton']").click
      field.call.find("input").send_keys([:control, "a"], "5", :enter)
      expect(page).to have_no_css("[data-formula]")
      eventually { expect([document.node("source-1")[:smoke], document.node("source-1").curves]).to eq([5.0, {}]) }
    end

    it "marks frames, plays a part at another pace, and comes nearer" do
      go_to 10
      page.send_keys([:shift, "m"])
      expect(page).to have_css("[data-marker='10']", text: "Frame 10")
      find("[data-marker='10']").double_click
      find("[aria-label='Name of the marker']").send_keys([:control, "a"], "It lights", :enter)
      expect(page).to have_css("[data-marker='10']", text: "It lights")
      page.execute_script("document.activeElement?.blur()")
      page.send_keys(",")
      go_to 14
      page.send_keys(".")
      expect(page).to have_css("[data-loop]")
      expect(page).to have_css("[data-whole]", text: "10–14")
      find("[data-pace]").click
      find(".n-base-select-option", text: "4 times as fast").click
      page.execute_script("document.activeElement?.blur()")
      page.send_keys(:space)
      seen = Array.new(12) { sleep(0.05) && find("[data-frame]").text.to_i }
      expect(seen).to all(be_between(10, 14))
      page.send_keys(:space)
      before = find("[data-span='source-1.last']").native.rect.x
      find("[data-span='source-1.last']").send_keys("+", "+")
      expect(page).to have_css("[data-marker='10']")
      expect(find("[data-marker='10']").native.rect.x).to be > before
      page.send_keys(";")
      expect(page).to have_no_css("[data-loop]")
    end

    it "filters rows and stretches the shot with all that is timed" do
      find("[data-row-filter]").send_keys("puff 3")
      expect(page).to have_css("[data-time-row]", count: 1)
      find("[data-row-filter]").send_keys(:escape)
      expect(page).to have_css("[data-time-row]", minimum: 5)
      find("[data-settings]").click
      find("[data-stretch]").click
      type_into "general.last", 95
      eventually do
        expect([document.last_frame, document.node("source-4")[:first], document.node("source-4")[:last]]).to eq(
          [95, 5, 11]
        )
      end
    end
  end
end
