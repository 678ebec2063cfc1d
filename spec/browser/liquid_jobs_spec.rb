# frozen_string_literal: true

module Vumbral
  # What practitioners do with liquids, from an empty shot to something that can be handed on.
  RSpec.describe "Jobs of liquids" do
    let(:id) { shelve(workshop, Shot::Edits.apply(Studio::Starters.bare("Vase #{rand(1 << 30)}"), [set("general", :last, 10), set("picture", :width, 160), set("picture", :height, 90)])[0]) }

    def document = workshop.shots.document(id)

    # A bowl and a neck that overlap, both open.
    def model
      ring = ->(radius, height) { Array.new(16) { |n| [radius * Math.cos(n * Math::PI / 8), height, radius * Math.sin(n * Math::PI / 8)] } }
      parts = {"bowl" => [ring[0.12, 0.02], ring[0.26, 0.2], ring[0.2, 0.42], ring[0.1, 0.5]], "neck" => [ring[0.09, 0.44], ring[0.08, 0.66]]}
      base = 0
      parts.map { |name, rings|
        corners = rings.flatten(1).map { |point| "v #{point.map { |c| c.round(5) }.join(" ")}" }
        faces = (rings.size - 1).times.flat_map { |k| Array.new(16) { |n| "f #{[[k, n], [k + 1, n], [k + 1, (n + 1) % 16], [k, (n + 1) % 16]].map { |row, at| base + 16 * row + at + 1 }.join(" ")}" } }
        base += 16 * rings.size
        ["o #{name}", *corners, *faces]
      }.flatten.join("\n") + "\n"
    end

    def switch(dial) = find("[data-dial='#{dial}'] [role='switch']").click

    def chapter(name) = find("[data-chapter='#{name}']").click

    # The one that came last of a kind, once it is there.
    def newest(kind, count) = eventually { document.of(kind).then { |all| (all.size == count) ? all.last.id : raise(RSpec::Expectations::ExpectationNotMetError) } }

    it "fills a vase of open parts from inside, unsteadily, and reveals it" do
      open_desk(id)
      before = document.of(:prop).size
      drop("[data-view]", "vase.obj": model)
      expect(find("[data-found]", wait: 60)).to have_text("2 parts")
      find("[data-put]").click
      expect(page).to have_no_css("[data-bring]")
      vase = newest(:prop, before + 1)
      expect(page).to have_css("[data-dial='#{vase}.position']")
      place("#{vase}.position", [0, 0, 0])

      # The model holds the liquid in: closed and joined, and the box tight around it.
      chapter "chamber"
      add("liquid")
      open_card("liquid-1")
      type("liquid-1.voxel", 0.02)
      choose("liquid-1.tank", document.node(vase).name)
      find("[data-remedy]", text: "Close", wait: 30).click
      eventually { expect(document.operations(vase).map { |node| node[:what] }).to eq(%w[remesh]) }
      find("[data-remedy]", text: "Fit the box to it", wait: 30).click
      eventually { expect(document.node("liquid-1")[:size][0]).to be_between(0.5, 0.8) }
      switch("liquid-1.pool")
      find("[data-remedy]", text: "Show its surface", wait: 30).click
      water = newest(:prop, before + 2)
      type("liquid-1.gravity", 0.4)
      switch("liquid-1.spray")
      type("liquid-1.foam_life", 0.3)

      # A small source that travels up inside; another one later.
      chapter "props"
      add("prop", "sphere")
      mouth = newest(:prop, before + 3)
      open_card(mouth)
      type("#{mouth}.radius", 0.05)
      go_to 1
      place("#{mouth}.position", [0, 0.12, 0])
      find("[data-dial='#{mouth}.position'] [data-key]").click
      go_to 10
      type("#{mouth}.position", 0.5, 1)
      find("[data-dial='#{mouth}.position'] [data-key]").click unless dial("#{mouth}.position").has_css?(".key.here", wait: 1)
      eventually { expect(document.node(mouth)[:position, 5][1]).to be_between(0.15, 0.48) }
      find("[data-dial='#{mouth}.shown'] [role='switch']").click
      chapter "sources"
      add("inflow")
      open_card("inflow-1")
      choose("inflow-1.prop", document.node(mouth).name)
      type("inflow-1.velocity", 1.5, 1)
      type("inflow-1.breakup", 0.4)
      add("inflow")
      open_card("inflow-2")
      choose("inflow-2.prop", document.node(mouth).name)
      type("inflow-2.first", 6)
      type("inflow-2.velocity", 1.2, 0)

      # It clings to the wall from inside.
      chapter "forces"
      add("force")
      open_card("force-1")
      choose("force-1.what", "cling")
      choose("force-1.prop", document.node(vase).name)
      type("force-1.strength", 4)
      eventually { expect(document.node("force-1")[:strength]).to eq(4.0) }

      find("[data-run-draft]").click
      eventually(180) { expect(workshop.runs.state(id, "draft")[:rows].map { |row| row[:state] }.uniq).to eq(["fresh"]) }
      # It goes on filling, for what pours moves; none of it is lost through the wall.
      facts = workshop.runs.state(id, "draft")[:rows].map { |row| row[:facts] }
      expect(facts.map { |one| one["volume"] }.each_cons(2)).to all(satisfy { |a, b| b >= a })
      expect(facts.last["volume"]).to be > 2 * facts[2]["volume"]
      key = workshop.runs.state(id, "draft")[:rows].last[:liquid]
      low, high = workshop.liquids.surface(key).bounds
      expect([low[0], low[2], high[0], high[2]].map(&:abs).max).to be < 0.31

      # The vase itself is hidden, and there is something to see.
      chapter "props"
      open_card(vase)
      switch("#{vase}.shown")
      eventually { expect(document.node(vase)[:shown]).to be(false) }
      find("[data-take-print]").click
      eventually(90) { expect(workshop.prints.list(id).size).to eq(1) }
      with = Vips::Image.new_from_file(workshop.prints.path(id, 1))
      expect(with.extract_band(0).max).to be > 25
      chapter "export"
      find("[aria-label='Format'] .n-base-selection", match: :first).click
      find(".n-base-select-option", text: "particles of the liquid").click
      find("[data-export]").click
      expect(page).to have_css("[data-exported]", text: "10 files", wait: 60)
      expect(document.node(water)[:shape]).to eq("liquid")
    end
  end
end
