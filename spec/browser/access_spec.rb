# frozen_string_literal: true

module Vumbral
  # Nothing that axe finds at levels A and AA, on any view.
  RSpec.describe "Access" do
    AXE = File.read(File.join(ROOT, "web", "node_modules", "axe-core",
      "axe.min.js")) # rubocop:disable Lint/ConstantDefinitionInBlock
    LEVELS = %w[wcag2a wcag2aa wcag21a wcag21aa wcag22aa].freeze # rubocop:disable Lint/ConstantDefinitionInBlock

    # What was found, a line each.
    def found
      page.execute_script(AXE) unless page.evaluate_script("!!window.axe")
      result = page.evaluate_async_script(<<~JS, LEVELS)
        const [levels, done] = arguments;
        axe.run(document, {runOnly: {type: "tag", values: levels}, resultTypes: ["violations"]})
          .then((found) => done(found.violations.map((rule) => [rule.id, rule.nodes.map((node) => node.html.slice(0, 160) + " | " + node.failureSummary.slice(0, 200))])));
      JS
      result.flat_map { |rule, nodes| nodes.first(4).map { |node| "#{rule}: #{node.tr("\n", " ")}" } }
    end

    # Buttons that do not say what they do to who points at them.
    def untold
      page.evaluate_script(<<~JS)
        [...document.querySelectorAll("button")].filter((button) => button.offsetParent && !button.title && !button.className.includes("n-"))
          .map((button) => "no tooltip: " + button.outerHTML.slice(0, 160))
      JS
    end

    it "has no findings on the shelf and in the new shot dialog" do
      shelve(workshop)
      visit house.url
      expect(page).to have_css("[data-shot]")
      expect(found).to eq([])
      find("[data-new-shot]").click
      expect(page).to have_css("[role='dialog']")
      sleep 0.4
      expect(found + untold).to eq([])
    end

    it "has none on the page of all work" do
      id = shelve(workshop)
      workshop.jobs.cancel(workshop.runs.start(id, "draft")[:job_id])
      visit "#{house.url}/work"
      expect(page).to have_css("[data-room]")
      expect(page).to have_css("[data-state='cancelled']")
      expect(found + untold).to eq([])
    end

    it "has none in any chapter of the desk, nor in its dialogs" do
      id = shelve(workshop, small_shot("Puff #{rand(1 << 30)}"))
      workshop.shots.edit(id, [{"do" => "key", "node" => "source-1", "dial" => "smoke", "frame" => 3, "value" => 2.0}])
      workshop.runs.start(id, "draft")
      wait_for_draft(id)
      open_desk(id)
      stop_playing
      page.send_keys("p")
      expect(page).to have_css("[data-print='1']", wait: 30)
      all_found = []
      %w[props sources chamber forces light camera finish export].each do |chapter|
        find("[data-chapter='#{chapter}']").click
        expect(page).to have_css("[data-chapter='#{chapter}'][aria-current='page']")
        all_found.concat((found + untold).map { |line| "#{chapter}: #{line}" })
      end
      find("[data-test-strip]").click
      expect(page).to have_css("[role='dialog'][aria-label='Test strip']")
      sleep 0.4
      all_found.concat((found + untold).map { |line| "Test strip: #{line}" })
      page.send_keys(:escape)
      expect(page).to have_no_css("[data-strip]")
      {"?" => "Keys", "/" => "Find anything"}.each do |key, label|
        page.execute_script("document.activeElement?.blur()")
        page.send_keys(key)
        expect(page).to have_css("[role='dialog'][aria-label='#{label}']")
        sleep 0.4
        all_found.concat(found.map { |line| "#{label}: #{line}" })
        page.send_keys(:escape)
        expect(page).to have_no_css("[role='dialog']")
      end
      find("[data-print='1']").click
      expect(page).to have_css("[data-print-viewer]")
      sleep 0.4
      expect(all_found.uniq + found).to eq([])
    end
  end
end
