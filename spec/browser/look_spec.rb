# frozen_string_literal: true

module Vumbral
  RSpec.describe "Looks at the desk" do
    let(:id) { shelve(workshop, small_shot("Look #{rand(1 << 30)}")) }

    def look(id = "look") = workshop.shots.document(self.id).node(id)

    before do
      workshop.runs.start(id, "draft")
      wait_for_draft(id)
      open_desk(id)
      find("[data-chapter='light']").click
      expect(page).to have_css("[data-dial='look.density_ramp']")
    end

    it "shapes density by stops over what the volume holds, drawn by hand and undone" do
      within("[data-dial='look.density_ramp']") do
        find("[data-begin-ramp]").click
        expect(page).to have_css("[data-stop]", count: 2)
        expect(page).to have_css("[data-histogram]", wait: 10, visible: :all)
      end
      eventually { expect(look[:density_ramp].size).to eq(2) }
      # What it begins with changes nothing.
      expect(look[:density_ramp].map { |stop| stop["at"] }).to eq(look[:density_ramp].map { |stop| stop["value"] })
      page.driver.browser.action.move_to(find("[data-dial='look.density_ramp'] svg[role='group']").native, 10,
        0).click.perform
      eventually { expect(look[:density_ramp].size).to eq(3) }
      expect(page).to have_css("[data-dial='look.density_ramp'] [data-stop]", count: 3)
      expect(page).to have_text("saved")
      stop = all("[data-dial='look.density_ramp'] [data-stop]")[1]
      before = look[:density_ramp][1]["value"]
      page.driver.browser.action.move_to(stop.native).click_and_hold.move_by(0, -20).release.perform
      eventually { expect(look[:density_ramp][1]["value"]).to be > before }
      all("[data-dial='look.density_ramp'] [data-stop]")[1].send_keys(:delete)
      eventually { expect(look[:density_ramp].size).to eq(2) }
      2.times { page.driver.browser.action.key_down(:control).send_keys("z").key_up(:control).perform }
      eventually { expect(look[:density_ramp].map { |each| each["value"] }).to match([0.0, before, be_positive]) }
    end

    it "picks the focus in the view, exposes by the light, and shows a sheet of frames" do
      find("[data-chapter='camera']").click
      find("[data-node='camera'] .head").click unless page.has_css?("[data-dial='camera.aperture']", wait: 1)
      type_into "camera.aperture", 2
      find("[data-pick-focus]").click
      canvas = find("[data-view] canvas", match: :first)
      page.driver.browser.action.move_to(canvas.native, 0, 120).click.perform
      eventually { expect(workshop.shots.document(id).node("camera").values).to include(:focus) }
      find("[data-node='picture'] .head").click unless page.has_css?("[data-meter]", wait: 1)
      before = workshop.shots.document(id).node("picture")[:exposure]
      find("[data-meter]").click
      eventually { expect(workshop.shots.document(id).node("picture")[:exposure]).not_to eq(before) }
      find("[data-take-sheet]").click
      expect(page).to have_css("[data-sheet] img", wait: 60)
      find("[data-sheet] button", text: "Close").click
      expect(page).to have_no_css("[data-sheet]")
    end

    it "takes a ready look at a click, and switches between several without running again" do
      runs = workshop.db[:runs].where(shot_id: id).count
      find("[data-ready='look']").click
      find("[data-look='oil-smoke']").click
      eventually { expect(look[:thickness]).to eq(70.0) }
      find("[data-add='look']").click
      expect(page).to have_css("[data-node='look-1']")
      eventually { expect(workshop.shots.document(id).node("look-1")[:thickness]).to eq(9.0) }
      expect(workshop.shots.document(id).look.id).to eq("look")
      find("[data-node='look-1'] [data-show-look]").click
      eventually { expect(workshop.shots.document(id).look.id).to eq("look-1") }
      expect(page).to have_css("[data-node='look'] .remark", text: "not shown")
      expect(workshop.db[:runs].where(shot_id: id).count).to eq(runs)
      state = workshop.runs.state(id, "draft")[:rows].map { |row| row[:state] }.uniq
      expect(state).to eq([:fresh]).or eq(["fresh"])
    end
  end
end
