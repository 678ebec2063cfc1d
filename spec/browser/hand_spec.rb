# frozen_string_literal: true

module Vumbral
  # What the hand does on the desk does no harm unasked.
  RSpec.describe "The desk under the hand" do
    let(:id) { shelve(workshop, small_shot("Puff #{rand(1 << 30)}")) }

    before do
      workshop.runs.start(id, "draft")
      wait_for_draft(id)
      open_desk(id)
      stop_playing
    end

    def node(name = "source-1") = workshop.shots.document(id).node(name)

    def keys(dial = :smoke) = node.curves[dial].to_a.map { |key| key.values_at(:frame, :value) }

    def focused = page.evaluate_script("document.activeElement?.getAttribute('aria-label')")

    def number(dial) = dial(dial).find("[role='spinbutton']")

    describe "finding a dial" do
      it "lands on its number and sets nothing, the best match first, whatever card it is in" do
        page.send_keys("/")
        page.send_keys("smoke plume", :enter)
        eventually { expect(focused).to eq("Smoke") }
        expect(page).to have_css("[data-dial='source-1.smoke'] [role='spinbutton']:focus")
        expect(keys).to eq([])
        page.execute_script("document.activeElement?.blur()")
        page.send_keys("/")
        page.send_keys("smoke")
        expect(find("[role='dialog'] .found button", match: :first)).to have_text("Smoke Plume")
        page.send_keys([:control, "a"], "s")
        expect(page).to have_css("[role='dialog'] .found button", minimum: 30)
        page.send_keys(:escape)
        expect(page).to have_no_css("[role='dialog']")
      end
    end

    # Every list of frames comes much later than it was asked for, and what the view shows is noted.
    let(:late) do
      <<~JS
        window.came = 0;
        const now = window.fetch, view = document.querySelector("[data-view]");
        window.fetch = (url, ...how) => now(url, ...how).then((answer) =>
          String(url).includes("/frames?") ? new Promise((done) => setTimeout(() => (window.came += 1) && done(answer), 2500)) : answer);
        window.seen = [view.dataset.drawn];
        new MutationObserver(() => view.dataset.drawn !== window.seen.at(-1) && window.seen.push(view.dataset.drawn))
          .observe(view, { attributes: true, attributeFilter: ["data-drawn"] });
      JS
    end

    it "shows a frame that was made while a list of them was on its way, and goes back to none of before" do
      page.execute_script("document.activeElement?.blur()")
      page.send_keys(:home)
      eventually { expect(find("[data-view]")["data-drawn"]).to start_with(workshop.runs.plan(id, "draft").keys[1]) }
      page.execute_script(late)
      number("source-1.smoke").send_keys(:up)
      wait_for_draft(id)
      eventually { expect(page.evaluate_script("window.seen")).to have_attributes(size: 2) }
      # The list of after the change has come, and that of after the run.
      eventually { expect(page.evaluate_script("window.came")).to be >= 2 }
      page.evaluate_async_script("requestAnimationFrame(() => requestAnimationFrame(arguments[0]))")
      expect(page.evaluate_script("window.seen")).to have_attributes(size: 2)
    end

    describe "a number" do
      it "takes steps in order, is keyed as shown, keeps the focus, and holds what was refused" do
        number("source-1.smoke").send_keys(:up, :up, :up)
        dial("source-1.smoke").find("[data-key]").click
        eventually { expect(keys).to eq([[desk_frame, 4.6]]) }
        number("source-1.smoke").send_keys(*[:up] * 6)
        eventually { expect(keys).to eq([[desk_frame, 5.8]]) }

        # The focus stays on it when it was typed, given up or stepped.
        number("source-1.fuel").send_keys(:enter)
        page.send_keys([:control, "a"], "7", :enter)
        eventually { expect(node[:fuel]).to eq(7.0) }
        expect(page).to have_css("[data-dial='source-1.fuel'] [role='spinbutton']:focus")
        page.send_keys(:enter)
        dial("source-1.fuel").find("input").send_keys([:control, "a"], "9", :escape)
        expect(page).to have_css("[data-dial='source-1.fuel'] [role='spinbutton']:focus")
        expect(node[:fuel]).to eq(7.0)
        expect(number("source-1.fuel")).to have_text("7")

        # A drag is given up with Esc, and stops at what is allowed.
        knob = number("source-1.breakup")
        page.driver.browser.action.click_and_hold(knob.native).move_by(60, 0).send_keys(:escape).release.perform
        expect(node[:breakup]).to eq(0.6)
        expect(number("source-1.breakup")).to have_text("0.6")
        page.driver.browser.action.click_and_hold(knob.native).move_by(250, 0).move_by(250, 0).release.perform
        eventually { expect(node[:breakup]).to eq(1.0) }
        expect(number("source-1.breakup")["aria-valuemax"]).to eq("1")
        expect(number("source-1.smoke")["aria-valuemax"]).to eq("1000")

        # A formula that is refused stays with its sentence until it is put right.
        dial("source-1.map").find(".n-base-selection").click
        find(".n-base-select-option", text: "a formula").click
        field = dial("source-1.formula").find("input")
        field.send_keys([:control, "a"], "noise(", :enter)
        expect(dial("source-1.formula")).to have_css("[data-refused]", text: /formula/i)
        expect(field.value).to eq("noise(")
        field.send_keys([:control, "a"], "0.5 * y", :enter)
        eventually { expect(node[:formula]).to eq("0.5 * y") }
        expect(dial("source-1.formula")).to have_no_css("[data-refused]")
      end
    end

    it "takes steps back one after the other, however late an answer comes" do
      [5.0, 6.0, 7.0].each { |value| workshop.shots.edit(id, [set("source-1", :smoke, value)]) }
      expect(number("source-1.smoke")).to have_text("7")
      page.execute_script(<<~JS)
        window.answers = 0;
        const ask = window.fetch;
        window.fetch = async (...what) => {
          const answer = await ask(...what);
          if (!String(what[0]?.url ?? what[0]).includes("/undo")) return answer;
          if (++window.asked === 1) await new Promise((done) => setTimeout(done, 700));
          window.answers += 1;
          return answer;
        };
        window.asked = 0;
      JS
      page.execute_script("document.activeElement?.blur()")
      2.times { page.send_keys([:control, "z"]) }
      eventually { expect(page.evaluate_script("window.answers")).to eq(2) }
      expect(number("source-1.smoke")).to have_text(/\A5/)
      expect(node[:smoke]).to eq(5.0)
    end

    describe "keys on the timeline" do
      before do
        workshop.shots.edit(id, [2, 4, 7].map { |frame|
          {"do" => "key", "node" => "source-1", "dial" => "smoke", "frame" => frame, "value" => frame.to_f}
        })
        expect(page).to have_css("[data-timeline-key]", count: 3)
      end

      it "stop beside each other and at the ends of the shot, by drag and by arrows" do
        page.driver.browser.action.click_and_hold(all("[data-timeline-key]")[2].native).move_by(-700, 0).release.perform
        eventually { expect(keys.map(&:first)).to eq([2, 4, 5]) }
        all("[data-timeline-key]")[2].send_keys(*[:right] * 9)
        # Another is taken up while the one before is still on its way.
        all("[data-timeline-key]")[0].send_keys(*[:left] * 4)
        eventually { expect(keys).to eq([[1, 2.0], [4, 4.0], [8, 7.0]]) }
      end
    end

    describe "the view" do
      def press(down, *moves)
        view = find("[data-view] canvas[tabindex]", visible: :all)
        action = page.driver.browser.action.move_to(view.native, 120, down).click_and_hold
        moves.each { |x, y| action = action.move_by(x, y) }
        action.release.perform
      end

      it "turns on a drag over the ground, picked or not, and moves nothing that is locked" do
        before = workshop.shots.document(id)
        press(150)
        press(150, [40, 0], [40, 0])
        expect(page).to have_no_css(".card.selected[data-node='ground']")
        workshop.shots.edit(id, [{"do" => "switch", "node" => "ground", "locked" => false}])
        press(150)
        press(150, [40, 0], [40, 0])
        sleep 0.3
        expect(workshop.shots.document(id).node("ground")[:position]).to eq(before.node("ground")[:position])
      end

      it "plays what was drawn before from pictures, until something but the frame changes" do
        page.execute_script("document.activeElement?.blur()")
        page.send_keys(:space)
        expect(page).to have_css("[data-ready='1-8']", wait: 60)
        expect(page).to have_css("canvas[data-covered='true']")
        shown = Array.new(12) { find("[data-drawn]")["data-drawn"].tap { sleep 0.07 } }
        expect(shown.uniq.size).to be > 2
        page.send_keys(:space)
        # At rest only the finest will do, and that is kept as well.
        eventually(60) { expect(find("[data-view]")["data-scale"]).to eq("1") }
        press(150, [40, 0], [40, 0])
        expect(page).to have_no_css("[data-ready='1-8']")
        expect(page).to have_css("canvas[data-covered='false']", visible: :all)
        # While no hand is on anything, all frames are drawn from here, in full, and this one stays in sight.
        here = desk_frame
        expect(page).to have_css("[data-ready='1-8']", wait: 90)
        expect(desk_frame).to eq(here)
        page.send_keys(:home)
        expect(page).to have_css("[data-view][data-scale='1'] canvas[data-covered='true']")
        press(150, [20, 0])
        expect(page).to have_css("canvas[data-covered='false']", visible: :all)
        eventually { expect(find("[data-view]")["data-drawn"]).to start_with(workshop.runs.plan(id, "draft").keys[1]) }
      end
    end

    describe "cards and edges" do
      it "are switched off and on, left alone, locked, renamed and moved by hand and by keyboard" do
        find("[data-node='source-1'] [data-switch='off']").click
        eventually { expect(node).to be_off }
        expect(page).to have_css(".card.out[data-node='source-1']")
        expect(page).to have_text("every source is switched off")
        find("[data-node='source-1'] [data-switch='off']").click
        eventually { expect(node).not_to be_off }
        find("[data-node='source-1'] [data-switch='only']").click
        eventually { expect(node).to be_only }
        find("[data-chapter='props']").click
        find("[data-node='prop-1'] [data-switch='locked']").click
        eventually { expect(node("prop-1")).to be_locked }
        page.send_keys([:control, "z"])
        eventually { expect(node("prop-1")).not_to be_locked }
        page.execute_script("document.activeElement?.blur()")
        find("[data-chapter='sources']").click
        card = find("[data-node='source-1']")
        card.click_button("Rename")
        card.find("input[aria-label='Name']").send_keys([:control, "a"], "Smoke of the bowl", :enter)
        eventually { expect(node.name).to eq("Smoke of the bowl") }
        eventually { expect(page.evaluate_script("document.activeElement.classList.contains('head')")).to be(true) }
        edge = find("[aria-label^='Height of the timeline']")
        before = edge["aria-valuenow"].to_i
        edge.send_keys(:up, :up)
        expect(edge["aria-valuenow"].to_i).to eq(before + 32)
        edge.send_keys(:down, :down)
      end
    end

    describe "dialogs" do
      it "hold the focus and give it back, let no key act behind, and go by keyboard" do
        opener = find("[data-run-draft]")
        page.execute_script("arguments[0].focus()", opener)
        before = find("[data-frame]").text
        page.send_keys("?")
        expect(page).to have_css("[role='dialog'][aria-modal='true']", text: "Through the prints")
        page.send_keys(:home, "p", :space)
        12.times { page.send_keys(:tab) }
        expect(page.evaluate_script("!!document.activeElement.closest('[role=dialog], .n-modal-container')")).to be(
          true
        )
        page.send_keys(:escape)
        expect(page).to have_no_css("[role='dialog']")
        expect(find("[data-frame]").text).to eq(before)
        expect(page).to have_no_css("[data-print]")
        eventually { expect(page.evaluate_script("document.activeElement.hasAttribute('data-run-draft')")).to be(true) }

        # Two prints are wiped by the arrows.
        2.times { |n|
          page.send_keys("p")
          expect(page).to have_css("[data-print='#{n + 1}']", wait: 30)
        }
        page.send_keys("b")
        line = find("[data-wipe-line]")
        line.send_keys(:left, :left, [:shift, :right])
        expect(line["aria-valuenow"]).to eq("58")

        # A mesh that was chosen for a new shot can be taken out again.
        mesh = File.join(house.home, "Odd jug.obj")
        File.write(mesh, Formats::OBJ.write(Demo::Models.vase))
        visit house.url
        find("[data-new-shot]").click
        attach_file "mesh", mesh, make_visible: true
        expect(page).to have_css(
          "[data-brought]", text: /Odd jug.obj.* × .* × .* in its file, so it is scaled by/m, wait: 30
        )
        expect(page).to have_css("canvas[data-mesh-shown='true']")
        find("[data-without-mesh]").click
        expect(page).to have_no_text("Odd jug")
      end
    end

    def desk_frame = find("[data-frame]").text.to_i
  end
end
