# frozen_string_literal: true

module Vumbral
  RSpec.describe "The desk" do
    let(:id) { shelve(workshop, small_shot("Puff #{rand(1 << 30)}")) }

    def ready
      workshop.jobs.fetch(workshop.runs.start(id, "draft")[:job_id])
      wait_for_draft(id)
      open_desk(id)
    end

    it "makes a shot from a starter with one's own OBJ, runs it, shows smoke, prints, exports and undoes" do
      mesh = File.join(house.home, "Garden jug.obj")
      File.write(mesh, Formats::OBJ.write(Demo::Models.vase))
      visit house.url
      find("[data-new-shot]").click
      fill_in "name", with: "Jug steam"
      attach_file "mesh", mesh, make_visible: true
      expect(page).to have_css("[data-brought]", text: "m in the shot", wait: 30)
      find("[data-make]").click
      expect(page).to have_css("[data-desk]", wait: 30)
      expect(page).to have_text("Jug steam")
      find("[data-chapter='props']").click
      expect(page).to have_css("[data-node='prop-1']", text: "Garden jug")
      # The first draft has begun by itself; a coarser one is quicker here.
      find("[data-settings]").click
      type_into "general.last", 10
      find("[data-settings]").click
      find("[data-chapter='chamber']").click
      find("[data-node='chamber'] button", match: :first).click unless page.has_css?("[data-dial='chamber.draft']",
        wait: 1)
      type_into "chamber.draft", 3
      find("[data-run-draft]").click
      wait_for_draft("jug-steam")
      stop_playing
      go_to 10
      eventually { expect(smoke_seen).to be > 1.0 }

      find("[data-take-print]").click
      expect(page).to have_css("[data-print='1']", text: "f 10", wait: 30)
      expect(page).to have_css("[data-print='1']", text: "First print")

      find("[data-chapter='export']").click
      click_button "Export"
      expect(page).to have_css("[data-exported]", text: "10 files", wait: 60)

      expect(workshop.shots.document("jug-steam").the(:chamber)[:draft]).to eq(3.0)
      page.execute_script("document.activeElement?.blur()")
      page.send_keys([:control, "z"])
      expect(page).to have_text("Undone: Draft voxels")
      expect(workshop.shots.document("jug-steam").the(:chamber)[:draft]).to eq(2.2)
      page.send_keys([:control, :shift, "z"])
      expect(page).to have_text("Done again: Draft voxels")
    end

    it "runs again by itself after a change, from the first frame that changed" do
      ready
      workshop.shots.edit(id, [set("source-1", :last, 5)])
      # A change made elsewhere arrives without reloading; what is stale shows as stale.
      expect(page).to have_css("[data-cached='stale']")
      type_into "source-1.smoke", 9
      wait_for_draft(id)
      expect(page).to have_css("[data-cached='fresh']")
      expect(page).to have_no_css("[data-cached='stale']")
      expect(dial("source-1.smoke")).to have_css("[role='spinbutton']", text: "9")
      dial("source-1.smoke").find("button[aria-label='Reset Smoke']").click
      eventually { expect(workshop.shots.document(id).node("source-1")[:smoke]).to eq(4.0) }
    end

    it "says in a sentence what cannot be, and keeps what was" do
      ready
      type_into "source-1.smoke", -3
      expect(dial("source-1.smoke")).to have_css("[data-refused]",
        text: "Smoke of Plume cannot be -3; it goes from 0 to 1000 per s.")
      # What was typed stays, marked, until it is given up.
      field = dial("source-1.smoke").find("input[aria-invalid='true']")
      expect(field.value).to eq("-3")
      field.send_keys(:escape)
      expect(dial("source-1.smoke")).to have_css("[role='spinbutton']", text: "4")
      expect(dial("source-1.smoke")).to have_no_css("[data-refused]")
      expect(workshop.shots.document(id).node("source-1")[:smoke]).to eq(4.0)
    end

    it "drags a dial's track, and steps it with the arrow keys" do
      ready
      track = dial("source-1.smoke").find(".track")
      page.driver.browser.action.move_to(track.native, -40, 0).click_and_hold.move_by(30, 0).release.perform
      eventually { expect(workshop.shots.document(id).node("source-1")[:smoke]).not_to eq(4.0) }
      before = workshop.shots.document(id).node("source-1")[:smoke]
      dial("source-1.smoke").find("[role='spinbutton']").send_keys(:up)
      eventually do
        expect(workshop.shots.document(id).node("source-1")[:smoke]).to be_within(1e-6).of((before + 0.2).round(6))
      end
    end

    it "sets keys, shows them under the ribbon, and lets them be dragged" do
      ready
      go_to 2
      dial("source-1.strength").find("[data-key]").click
      expect(page).to have_css("[data-timeline-key]", count: 1)
      go_to 7
      type_into "source-1.strength", 0.2
      expect(page).to have_css("[data-timeline-key]", count: 2)
      keys = -> do
        workshop.shots.document(id).node("source-1").curves[:strength].to_a.map { |n| [n[:frame], n[:value]] }
      end
      eventually { expect(keys.call).to eq([[2, 1.0], [7, 0.2]]) }
      handle = all("[data-timeline-key]").last
      page.driver.browser.action.click_and_hold(handle.native).move_by(-200, 0).release.perform
      eventually { expect(keys.call[1][0]).to be_between(4, 6) }
      frame = keys.call[1][0]
      expect(page).to have_css("[data-timeline-key][aria-label^='Key at frame #{frame};']")
      all("[data-timeline-key]").last.send_keys(:left)
      eventually { expect(keys.call[1][0]).to eq(frame - 1) }
      expect(page).to have_css("[data-timeline-key][aria-label^='Key at frame #{frame - 1};']")
      all("[data-timeline-key]").last.send_keys(:delete)
      eventually { expect(keys.call).to eq([[2, 1.0]]) }
    end

    it "picks a prop in the view and moves it there" do
      ready
      find("[data-chapter='props']").click
      view = find("[data-view] canvas")
      # The source stands in the middle below; look for it.
      # From below: its upper half lies under the handle that lifts it.
      hit = [210, 195, 180, 165, 150, 135, 120, 105, 90, 75, 60].find do |down|
        page.driver.browser.action.move_to(view.native, 0, down).click.perform
        page.has_css?(".card.selected[data-node='prop-1']", wait: 0.5)
      end
      expect(hit).not_to be_nil
      before = workshop.shots.document(id).node("prop-1")[:position]
      # The cursor says that a drag would move it.
      eventually do
        page.driver.browser.action.move_to(view.native, 1, hit).move_to(view.native, 0, hit).perform
        expect(page.evaluate_script("document.querySelector('[data-view] canvas').style.cursor")).to eq("move")
      end
      page.driver.browser.action.click_and_hold.move_by(30, 5).move_by(30, 5).release.perform
      eventually { expect(workshop.shots.document(id).node("prop-1")[:position]).not_to eq(before) }
      expect(workshop.shots.document(id).node("prop-1")[:position][1]).to eq(before[1])
    end

    it "is worked by keys: play, frames, chapters, find a dial, help" do
      ready
      page.send_keys(:end)
      expect(find("[data-frame]")).to have_text("8")
      page.send_keys(:left)
      expect(find("[data-frame]")).to have_text("7")
      page.send_keys("3")
      expect(page).to have_css("[data-chapter='chamber'][aria-current='page']")
      page.send_keys("/")
      page.send_keys("voxel size", :enter)
      expect(page).to have_css("[data-dial='chamber.voxel']")
      page.send_keys(:escape)
      page.execute_script("document.activeElement?.blur()")
      page.send_keys("?")
      expect(page).to have_text("Set or take away a key")
      page.send_keys(:escape)
      expect(page).to have_no_text("Set or take away a key")
      page.send_keys(:space)
      frames = []
      eventually do
        frames |= [find("[data-frame]").text]
        expect(frames.size).to be > 2
      end
      page.send_keys(:space)
    end

    it "lays two prints over each other, says what differs and brings one back" do
      ready
      go_to 7
      page.send_keys("p")
      expect(page).to have_css("[data-print='1']", wait: 30)
      find("[data-chapter='light']").click
      type_into "look.thickness", 30
      eventually { expect(workshop.shots.document(id).the(:look)[:thickness]).to eq(30.0) }
      page.execute_script("document.activeElement?.blur()")
      page.send_keys("p")
      expect(page).to have_css("[data-print='2']", text: "Thickness 60 per m → 30 per m", wait: 30)
      page.send_keys("b")
      expect(page).to have_css("[data-print-viewer]", text: "against")
      # What its light is like, and how far both are apart.
      expect(page).to have_css("[data-figures]", text: /% bright · .* % dark/)
      find("[data-difference]").click
      expect(page).to have_css("img[data-instead]")
      find("[data-exposure]").click
      expect(page).to have_css("[data-print-viewer]", text: "middle grey")
      page.send_keys(:escape)
      find("[data-print='1']").click
      expect(page).to have_css("[data-print-viewer]", text: "What differs from the shot as it stands")
      # Only what is ticked, then all of it.
      workshop.shots.edit(id, [set("source-1", :smoke, 9.0)])
      find("[data-pick='look thickness']").click
      expect(find("[data-bring-back]")).to have_text("Bring 1 of 2 back")
      find("[data-bring-back]").click
      eventually { expect(workshop.shots.document(id).the(:look)[:thickness]).to eq(60.0) }
      expect(workshop.shots.document(id).node("source-1")[:smoke]).to eq(9.0)
      find("[data-print='1']").click
      find("[data-bring-back]", text: "Bring P1's settings back").click
      eventually { expect(workshop.shots.document(id).node("source-1")[:smoke]).not_to eq(9.0) }
    end

    it "shows the same in two browsers, and neither loses the other's work" do
      ready
      in_other = Capybara::Session.new(:chromium)
      in_other.visit("#{house.url}/shots/#{id}")
      expect(in_other).to have_css("[data-desk]", wait: 30)
      type_into "source-1.smoke", 7
      expect(in_other).to have_css("[data-dial='source-1.smoke'] [role='spinbutton']", text: "7")
      in_other.find("[data-dial='source-1.temperature'] [role='spinbutton']").click
      in_other.find("[data-dial='source-1.temperature'] input").send_keys([:control, "a"], "700", :enter)
      expect(page).to have_css("[data-dial='source-1.temperature'] [role='spinbutton']", text: "700")
      expect(workshop.shots.document(id).node("source-1")[:smoke]).to eq(7.0)
    ensure
      in_other&.quit
    end

    it "adds a further chamber beside the first, which gas passes into, and says how many there are" do
      ready
      find("[data-chapter='chamber']").click
      find("[data-add='annex']").click
      expect(page).to have_css("[data-node='annex-1']", text: "Further chamber")
      expect(page).to have_text("2 chambers")
      plan = Gas::Plan.new(workshop.shots.document(id), :draft)
      expect(plan.domains.map { |domain| domain.rooms.size }).to eq([2])
    end

    it "agrees with the picture in colour, exposure and extent" do
      workshop.shots.edit(
        id,
        [
          set("chamber", :voxel, 0.05), set("picture", :width, 640), set("picture", :height, 360),
          set("source-1", :smoke, 9.0)
        ]
      )
      ready
      go_to 8
      page.send_keys("p")
      expect(page).to have_css("[data-print='1']", wait: 30)
      page.send_keys("v")
      sleep 0.5
      picture = Vips::Image.new_from_file(workshop.prints.path(id, 1))
      eventually do
        view = view_pixels
        # Looking through the camera, the picture lies across the view's width.
        if view.height >= view.width * 9 / 16
          seen = view.crop(0, (view.height - view.width * 9 / 16) / 2, view.width,
            view.width * 9 / 16)
        end
        seen ||= view
        part = ->(image) { image.thumbnail_image(64, height: 36, size: :force).crop(22, 8, 20, 22) }
        difference = (part.call(seen) - part.call(picture)).abs.avg
        expect(difference).to be < 14
      end
    end
  end
end
