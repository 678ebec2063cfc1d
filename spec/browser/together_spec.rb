# frozen_string_literal: true

module Vumbral
  RSpec.describe "Working together, and being told" do
    let(:id) { shelve(workshop, small_shot("Together")) }

    def thickness = workshop.shots.document(id).the(:look)[:thickness]

    it "shows a clash with both values, and lets one choose" do
      open_desk(id)
      find("[data-chapter='light']").click
      # Somebody else is quicker, each time.
      expect(page).to have_css("[data-dial='look.thickness']")
      2.times do |n|
        page.execute_script(<<~JS, id, n)
          const [id, n] = arguments;
          window.__held = window.__held || window.fetch;
          window.fetch = async (path, options) => {
            if (String(path).endsWith("/edits")) {
              window.fetch = window.__held;
              await window.__held(`/api/shots/${id}/edits`, {method: "POST", headers: {"x-vumbral-window": "other"},
                body: JSON.stringify({edits: [{do: "set", node: "look", dial: "thickness", value: 12 + n}]})});
            }
            return window.__held(path, options);
          };
        JS
        type_into("look.thickness", 20 + n)
        expect(page).to have_css("[data-question]",
          text: "Thickness of Look is now #{12 + n} per m (yours: #{20 + n} per m)")
        find(n.zero? ? "[data-no]" : "[data-yes]").click
        expect(page).to have_no_css("[data-question]")
        eventually { expect(thickness).to eq(n.zero? ? 12.0 : 21.0) }
      end
    end

    it "asks before it takes back what was done in another window" do
      open_desk(id)
      workshop.shots.edit(id, [set("look", :thickness, 12.0)], by: "other")
      expect(page).to have_css("[data-undo]")
      find("[data-undo]").click
      expect(page).to have_css("[data-question]", text: /Thickness 60 per m → 12 per m\) was made in another window/)
      find("[data-no]").click
      expect(thickness).to eq(12.0)
      find("[data-undo]").click
      find("[data-yes]").click
      eventually { expect(thickness).to eq(60.0) }
    end

    it "marks what preflight found, at the chapter and the dial, and mends it at a click" do
      open_desk(id)
      find("[data-chapter='sources']").click
      expect(page).to have_no_css("[data-warned]")
      workshop.shots.edit(id, [set("source-1", :map, "formula"), set("source-1", :formula, "1 / (frame - 4)")])
      expect(page).to have_css("[data-chapter='sources'][data-warned]")
      within("[data-dial='source-1.formula']") {
        expect(page).to have_css("[data-finding]",
          text: "divides by zero everywhere at frame 4")
      }
      workshop.shots.edit(id, [set("source-1", :formula, "1"), set("source-1", :strength, 0.0)])
      find("[data-dial='source-1.strength'] [data-remedy]").click
      expect(page).to have_no_css("[data-warned]")
      expect(workshop.shots.document(id).node("source-1")[:strength]).to eq(1.0)
    end

    it "says that all is up to date, and how far an export is" do
      # The house has workers of its own, who carry it out.
      workshop.runs.start(id, "draft")
      wait_for_draft(id)
      eventually { expect(workshop.jobs.active(id)).to eq([]) }
      open_desk(id)
      find("[data-run-draft]").click
      expect(page).to have_text("Every frame is up to date; nothing had to be run.")
      find("[data-chapter='export']").click
      find("[data-export]").click
      expect(page).to have_text("8 files are ready: frames 1-8.")
    end

    it "says on the ruler that a run was cut off and taken up again, and where" do
      long = shelve(workshop, small_shot("Long", edits: [set("general", :last, 400)]))
      open_desk(long)
      find("[data-run-draft]").click
      eventually { expect(workshop.jobs.active(long).map { |job| job[:done] > 2 }).to include(true) }
      workshop.db[:jobs].where(shot_id: long, kind: "run").update(resumed: true)
      expect(page).to have_css("[data-resumed]", text: /cut off by a stop, taken up again at frame \d+/)
      expect(page).to have_css("[data-cached='working']")
      find("[data-stop]").click
      expect(page).to have_no_css("[data-resumed]")
    end

    it "shows on the shelf how far a shot's frames are" do
      nil
      job = workshop.jobs.add("run", id, {run: workshop.runs.send(:record, workshop.shots.fetch(id),
        workshop.runs.plan(id, "draft"), "draft")[:id], last: 8, views: true}, background: true)
      visit house.url
      expect(page).to have_css("[data-shot='#{id}']")
      eventually { expect(workshop.jobs.fetch(job)[:state]).to eq("done") }
      expect(page).to have_no_css("[data-shot='#{id}'] [data-work]")
    end
  end
end
