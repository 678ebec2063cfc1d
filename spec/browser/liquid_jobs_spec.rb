# frozen_string_literal: true

module Vumbral
  # What practitioners do with liquids, from an empty shot to something that can be handed on.
  RSpec.describe "Jobs of liquids" do
    let(:id) do
      shelve(
        workshop,
        Shot::Edits.apply(
          Studio::Starters.bare("Vase #{rand(1 << 30)}"),
          [set("general", :last, 10), set("picture", :width, 160), set("picture", :height, 90)]
        )[
          0
        ]
      )
    end

    def document = workshop.shots.document(id)

    # A bowl and a neck that overlap, both open.
    def model
      ring = ->(radius, height) do
        Array.new(16) { |n| [radius * Math.cos(n * Math::PI / 8), height, radius * Math.sin(n * Math::PI / 8)] }
      end
      parts = {
        "bowl" => [ring[0.12, 0.02], ring[0.26, 0.2], ring[0.2, 0.42], ring[0.1, 0.5]],
        "neck" => [ring[0.09, 0.44], ring[0.08, 0.66]]
      }
      base = 0
      parts.map { |name, rings|
        corners = rings.flatten(1).map { |point| "v #{point.map { |c| c.round(5) }.join(" ")}" }
        faces = (rings.size - 1).times.flat_map do |k|
          Array.new(16) do |n|
            quad = [[k, n], [k + 1, n], [k + 1, (n + 1) % 16], [k, (n + 1) % 16]]
            "f #{quad.map { |row, at| base + 16 * row + at + 1 }.join(" ")}"
          end
        end
        base += 16 * rings.size
        ["o #{name}", *corners, *faces]
      }.flatten.join("\n") + "\n"
    end

    def switch(dial) = find("[data-dial='#{dial}'] [role='switch']").click

    def chapter(name) = find("[data-chapter='#{name}']").click

    # The one that came last of a kind, once it is there.
    def newest(kind, count) =
      eventually do
        document
          .of(kind)
          .then { |all| (all.size == count) ? all.last.id : raise(RSpec::Expectations::ExpectationNotMetError) }
      end

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
      unless dial("#{mouth}.position").has_css?(".key.here", wait: 1)
        find("[data-dial='#{mouth}.position'] [data-key]").click
      end
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
      eventually(180) do
        expect(workshop.runs.state(id, "draft")[:rows].map { |row| row[:state] }.uniq).to eq(["fresh"])
      end
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

    # A leaf that lies, pointed at both ends and twice as long as it is wide.
    def leaf
      ring = [
        [-0.2, 0.0], [-0.1, 0.08], [0.02, 0.1], [0.12, 0.06], [0.2, 0.0], [0.12, -0.06], [0.02, -0.1], [-0.1, -0.08]
      ]
      corners = [-0.05, 0.05].flat_map { |y| ring.map { |x, z| "v #{x} #{y} #{z}" } }
      sides = 8.times.map { |n| "f #{[n + 1, 9 + n, 9 + (n + 1) % 8, (n + 1) % 8 + 1].join(" ")}" }
      [*corners, *sides, "f #{(1..8).to_a.join(" ")}", "f #{(9..16).to_a.reverse.join(" ")}"].join("\n") + "\n"
    end

    # Where particles that the kick throws are, x and z, above so high.
    def thrown(frame, above)
      key = workshop.liquids.keys(document, "draft").fetch(frame)
      workshop.liquids.drops(key).places.to_a.each_slice(3).filter_map { |x, y, z| [x, z] if y > above }
    end

    # Water is thrown up inside a ring; finer and faster; then within a leaf, whose likeness rises.
    it "throws water up in a ring, then in the likeness of a leaf" do
      ring = {
        "do" => "add",
        "kind" => "prop",
        "name" => "Rim",
        "id" => "rim",
        "dials" => {
          "shape" => "torus", "radius" => 0.16, "tube" => 0.04, "position" => [0.0, 0.2, 0.0], "shown" => false
        }
      }
      kick = {
        "do" => "add",
        "kind" => "kick",
        "name" => "Kick",
        "id" => "kick",
        "dials" => {
          "prop" => "rim", "first" => 2, "last" => 2
        }
      }
      workshop.shots.edit(id, [water(size: [0.7, 0.7, 0.6], voxel: 0.03, line: 0.24), surface, ring, kick])
      open_desk(id)
      chapter "chamber"
      open_card("liquid")
      # Finer, and deep without computing the depth.
      type("liquid.voxel", 0.025)
      type("liquid.band", 4)
      chapter "forces"
      open_card("kick")
      type("kick.velocity", 4, 1)
      expect(find("[data-caught]", wait: 60)).to have_text("particles")
      find("[data-run-draft]").click
      fresh = -> do
        eventually(180) do
          expect(workshop.runs.state(id, "draft")[:rows].map { |row| row[:state] }).to eq(["fresh"] * 10)
        end
      end
      fresh.call
      expect(workshop.runs.state(id, "draft")[:rows][1][:facts]["drops"]).to be < 40_000
      crown = thrown(5, 0.35)
      radii = crown.map { |x, z| Math.hypot(x, z) }
      expect(crown.size).to be > 100
      expect(radii.sum / radii.size).to be_within(0.05).of(0.16)

      chapter "props"
      drop("[data-view]", "leaf.obj": leaf)
      expect(find("[data-found]", wait: 60)).to have_text("closed")
      expect(page).to have_text("faces looked inwards, so they were turned over")
      find("[data-put]").click
      shape = newest(:prop, 3)
      place("#{shape}.position", [0, 0.2, 0])
      find("[data-dial='#{shape}.shown'] [role='switch']").click
      eventually { expect(document.node(shape)[:shown]).to be(false) }
      chapter "forces"
      open_card("kick")
      choose("kick.prop", document.node(shape).name)
      eventually { expect(document.node("kick")[:prop]).to eq(shape) }
      find("[data-run-draft]").click
      fresh.call
      likeness = thrown(5, 0.35)
      long, wide = [0, 1].map { |axis| likeness.map { |at| at[axis].abs }.sort[(0.95 * likeness.size).floor] }
      expect(likeness.size).to be > 100
      expect([long, wide]).to match([be_within(0.06).of(0.16), be_within(0.045).of(0.085)])
      find("[data-take-print]").click
      eventually(120) { expect(workshop.prints.list(id).size).to eq(1) }
    end
  end
end
