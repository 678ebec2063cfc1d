# frozen_string_literal: true

module Vumbral
  # The page of all work, and of what takes room.
  RSpec.describe "All work" do
    it "holds a run back, lets it go on, does it once more after it was stopped, and gives room back" do
      id =
        shelve(
          workshop,
          small_shot("Long #{rand(1 << 30)}", edits: [set("general", :last, 200), set("chamber", :voxel, 0.045)])
        )
      visit house.url
      find("[data-jobs]").click
      expect(page).to have_css("[data-work]")
      run = workshop.runs.start(id, "draft")[:job_id]
      find("[data-job='#{run}'] [data-hold]", wait: 30).click
      expect(page).to have_css("[data-job='#{run}'][data-state='held']", text: "held back")
      eventually(30) { expect(workshop.jobs.fetch(run)).to include(state: "queued", held: true) }
      find("[data-job='#{run}'] [data-go-on]").click
      eventually(30) { expect(workshop.jobs.fetch(run)).to include(state: "running", held: false) }
      within("[data-job='#{run}']") { click_on "Stop" }
      expect(page).to have_css("[data-job='#{run}'][data-state='cancelled']", text: "stopped", wait: 30)
      find("[data-job='#{run}'] .what").click
      expect(find("[data-job='#{run}'] .log")).to have_text("Came to")
      find("[data-job='#{run}'] [data-again]").click
      eventually(30) { expect(workshop.jobs.fetch(run)[:state]).to eq("running").or eq("queued") }
      workshop.jobs.cancel(run)
      expect(page).to have_css("[data-job='#{run}'][data-state='cancelled']", wait: 30)

      # What it made is of a shot as it once stood from now on.
      workshop.shots.edit(id, [set("source-1", :smoke, 8.5)])
      visit "#{house.url}/work"
      within("[data-stale]") { click_on "Give back" }
      expect(page).to have_text("were given back")
      fill_in(with: "0.01", currently_with: "")
      click_on "So be it"
      expect(page).to have_text("Frames need at least 256 MB")
    end

    # Work of half a minute, which no worker takes.
    def done_after_long(id, kind, result = {})
      job = workshop.db.transaction do
        workshop
          .jobs
          .add(kind, id, {})
          .tap do |job|
            workshop.db[:jobs].where(id: job).update(
              state: "running", worker: Process.pid, lease: workshop.now + 60, started_at: workshop.now - 30
            )
          end
      end
      workshop.jobs.finish(job, result)
    end

    it "tells of long work that was done while one looked elsewhere: in the title, and by the browser where that is " \
      "wanted and allowed" do
      visit "#{house.url}/work"
      allowed = ->(answer) do
        page.execute_script("Notification.requestPermission = () => Promise.resolve('#{answer}')") ||
          find("[data-notices] [data-shown]").click
      end
      find("[data-notices] [data-sound]").click
      expect(page).to have_css("[data-sound][aria-checked='true']")
      allowed["denied"]
      expect(page).to have_css("[data-notices] [role='alert']", text: "allows no notices")
      allowed["granted"]
      expect(page).to have_css("[data-shown][aria-checked='true']")

      id = shelve(workshop, small_shot(name = "Told #{rand(1 << 30)}"))
      open_desk(id)
      eventually { expect(page.title).to eq("#{name} · Vumbral") }
      page.execute_script(
        "window.told = []; window.Notification = class { static permission = 'granted'; constructor(...what) { " \
          "told.push(what) } }"
      )
      tell = ->(event) { page.execute_script("window.dispatchEvent(new Event('#{event}'))") }
      tell["focus"]
      done_after_long(id, "export", {files: 3, frames: "1-3"})
      expect(page).to have_text("3 files are ready")
      expect([page.title, page.evaluate_script("told")]).to eq(["#{name} · Vumbral", []])
      tell["blur"]
      done_after_long(id, "sheet")
      eventually { expect(page.title).to eq("Contact sheet done · #{name} · Vumbral") }
      expect(page.evaluate_script("told")).to eq([[name, {"body" => "Contact sheet done."}]])
      tell["focus"]
      eventually { expect(page.title).to eq("#{name} · Vumbral") }
    end

    it "keeps what is set of a thing for others of its kind, and shows what is set of a whole chapter" do
      one, two =
        [2.5, 6.5].map do |smoke|
          shelve(workshop, small_shot("Preset #{rand(1 << 30)}", edits: [set("source-1", :smoke, smoke)]))
        end
      open_desk(one)
      page.send_keys("2")
      open_card("source-1")
      find("[data-presets]").click
      name = workshop.shots.document(one).node("source-1").name
      pick_option("Keep what is set as “#{name}”")
      expect(page).to have_text("#{name} is kept")

      open_desk(two)
      page.send_keys("2")
      open_card("source-1")
      find("[data-presets]").click
      pick_option(/#{Regexp.escape(name)} \(/)
      eventually { expect(workshop.shots.document(two).node("source-1")[:smoke]).to eq(2.5) }
      find("[data-changed]").click
      expect(page).to have_css("[data-set]", text: /\d+ of \d+ set/)
      expect(page).to have_css("[data-dial='source-1.smoke']")
      expect(page).to have_no_css("[data-dial='source-1.push']")

      visit "#{house.url}/work"
      within("[data-preset-list]") do
        expect(page).to have_text(name)
        click_on "Take away"
        expect(page).to have_text("What is set of a thing is kept")
      end
    end
  end
end
