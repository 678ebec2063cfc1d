# frozen_string_literal: true

module Vumbral
  # Whole pieces of work with sculpts, from an empty shelf to prints, meshes and volumes.
  RSpec.describe "A job of sculpting" do
    around do |example|
      page.current_window.resize_to(1040, 640)
      example.run
    ensure
      page.current_window.resize_to(1180, 860)
    end

    def document(id) = workshop.shots.document(id)

    def node(id, name) = eventually { document(id).nodes[name] || raise(RSpec::Expectations::ExpectationNotMetError) }

    # A new shot of eight frames and small pictures, which nothing develops meanwhile.
    def begin_bare(name)
      id = begin_shot("#{name} #{rand(1 << 30)}", "empty")
      workshop.shots.edit(id, [set("general", :last, 8), set("picture", :width, 128), set("picture", :height, 72)])
      if page.has_css?("[data-chip='develop'][aria-pressed='true']", wait: 3)
        find("[data-chip='develop'][aria-pressed='true']").click
      end
      id
    end

    def chapter(key)
      page.execute_script("document.activeElement?.blur()")
      page.send_keys(key)
    end

    def take_print(id)
      count = workshop.prints.list(id).size
      chapter("p")
      eventually(90) { expect(workshop.prints.list(id).size).to eq(count + 1) }
      Vips::Image.new_from_file(workshop.prints.path(id, workshop.prints.newest(id))).extract_band(0, n: 3)
    end

    def step(what, **dials)
      count = document(@id).of(:step).size
      add("step", what)
      name =
        eventually do
          document(@id)
            .of(:step)
            .map(&:id)
            .then { |ids| (ids.size > count) ? ids.last : raise(RSpec::Expectations::ExpectationNotMetError) }
        end
      open_card(name)
      dials.each do |dial, value|
        value.is_a?(Numeric) ? type("#{name}.#{dial}", value) : choose("#{name}.#{dial}", value)
      end
      name
    end

    def mesh(prop, frame = 1) =
      Geometry::Shapes.build(
        Geometry::Shapes.outline(document(@id).node(prop), document: document(@id), frame: frame), workshop.assets
      )

    it "eaten by glaze: a tile's distance, its density divided by cells, more and more, finer, smoothed, a hollow " \
      "cut, drifting in a loop, as a mesh for each frame" do
      @id = begin_bare("Tile")
      chapter("1")
      add("prop", /\Abox/)
      place("prop-1.size", [0.6, 0.6, 0.12])
      add("prop", /sphere/)
      place("prop-2.position", [0.12, 0.6, 0.1])
      type("prop-2.radius", 0.12)
      chapter("6")
      add("texture")
      choose("texture-1.what", "cells")
      type("texture-1.size", 0.12)
      chapter("5")
      add("sculpt")
      choose("sculpt-1.prop", "Box")
      type("sculpt-1.voxel", 0.02)
      step("joins or cuts with another", other: "Sphere")
      step("makes density of the distance", inside: 0.05)
      divided = step("takes a texture to it", texture: "Texture", sum: "divides")
      before = eventually { mesh_of_values(0.7) }
      type("#{divided}.factor", 2.0)
      eventually { expect(node(@id, divided)[:factor]).to eq(2.0) }
      expect(mesh_of_values(0.7).volume).to be < 0.9 * before.volume
      # Each step's own small picture stands at its card.
      expect(page).to have_css("[data-node='#{divided}'] [data-sketch]", wait: 30)
      step("takes specks out")
      open_card("sculpt-1")
      type("sculpt-1.voxel", 0.014)
      find("[data-dial='sculpt-1.shown'] [role='switch']").click
      chapter("1")
      add("prop", /surface of a sculpt/)
      choose("prop-3.surface_of", "Sculpt")
      type("prop-3.threshold", 0.6)
      # The texture goes on evenly, and is in the end where it was.
      chapter("6")
      open_card("texture-1")
      type("texture-1.drift", 0.4)
      type("texture-1.loops", 8)
      eventually { expect([node(@id, "texture-1")[:loops], node(@id, "prop-3")[:threshold]]).to eq([8, 0.6]) }
      expect(mesh("prop-3", 1)).to be_closed
      expect(
        [mesh("prop-3", 9).digest == mesh("prop-3", 1).digest, mesh("prop-3", 5).digest == mesh("prop-3", 1).digest]
      ).to eq([true, false])
      done = work(workshop, workshop.exports.start(@id, "ply", frames: 1..2, props: ["prop-3"]))
      expect(JSON.parse(done[:result])["files"]).to eq(2)
      expect(take_print(@id).avg).to be > 2
      20.times { page.send_keys([:control, "z"]) }
      eventually { expect(document(@id).nodes.key?("prop-3")).to be(false) }
    end

    # The surface of what the sculpt is now.
    def mesh_of_values(level) =
      Sculpt::Skin.of(Sculpt::Carving.new(Geometry::Recipes.of(document(@id), 1)[0], workshop.assets).call, level)

    let(:drawing) { '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100"><path d="M10 10h80v80h-80z M35 35h30v30h-30z" fill-rule="evenodd"/></svg>' }

    it "a maker's mark that ripples: an outline raised, a volume, waves from points that are loosened and drift, " \
      "median, two meshes at two thresholds" do
      @id = begin_bare("Mark")
      drop("[data-view]", "mark.svg": drawing)
      eventually { expect(node(@id, "prop-1")[:shape]).to eq("drawing") }
      chapter("5")
      add("sculpt")
      choose("sculpt-1.prop", "mark") unless page.has_css?("[data-dial='sculpt-1.prop']", text: "mark", wait: 3)
      type("sculpt-1.voxel", 0.03)
      step("makes density of the distance", inside: 0.06, outside: 0.03)
      waves = step("lets waves run", spacing: 0.25, waves: 6, reach: 0.4)
      choose("#{waves}.sum", "is added")
      type("#{waves}.factor", 0.4)
      even =
        eventually do
          keys.uniq.then { |found| (found.size > 4) ? found : raise(RSpec::Expectations::ExpectationNotMetError) }
        end
      type("#{waves}.loose", 0.8)
      type("#{waves}.drift", 0.1)
      eventually { expect(keys & even).to eq([]) }
      step("takes specks out")
      chapter("1")
      {"prop-2" => 0.4, "prop-3" => 0.9}.each do |prop, threshold|
        add("prop", /surface of a sculpt/)
        choose("#{prop}.surface_of", "Sculpt")
        type("#{prop}.threshold", threshold)
      end
      eventually { expect(node(@id, "prop-3")[:threshold]).to eq(0.9) }
      thin, dense = %w[prop-2 prop-3].map { |prop| mesh(prop) }
      expect([thin, dense]).to all(be_closed)
      expect(dense.volume).to be < thin.volume
      # The view makes them when it comes to them.
      eventually(60) { expect(Dir[workshop.home.within("surfaces", "*", "*.corners")].size).to be >= 2 }
      expect(take_print(@id).avg).to be > 2
    end

    # What makes each frame, as drafts have it.
    def keys = workshop.runs.state(@id, "draft")[:rows].map { |row| row[:key] }

    it "a burner without simulation: an inner and an outer flame, hot, flickering from its mouth up, bending what is " \
      "behind, handed on" do
      @id = begin_bare("Burner")
      workshop.shots.edit(@id, [set("sun-1", :strength, 0.0), set("sky", :strength, 0.02)])
      chapter("1")
      add("prop", /\Acone/)
      type("prop-1.radius", 0.2)
      place("prop-1.position", [0.0, 0.5, 0.0])
      find("[data-dial='prop-1.shown'] [role='switch']").click
      add("prop", /capsule/)
      type("prop-2.radius", 0.1)
      type("prop-2.tall", 0.5)
      place("prop-2.position", [0.0, 0.25, 0.0])
      find("[data-dial='prop-2.shown'] [role='switch']").click
      chapter("5")
      add("sculpt")
      choose("sculpt-1.prop", "Cone")
      type("sculpt-1.voxel", 0.03)
      step("makes density of the distance", inside: 0.1)
      step("frays its edges", size: 0.3, far: 0.05, change: 3, loops: 8)
      step("takes a number to it", channel: "heat", amount: 1200)
      step("takes a number to it", channel: "heat", amount: 1.6, mask: "inside a prop", mask_prop: "Capsule")
      step("takes a number to it", amount: 0.1)
      eventually { expect(document(@id).of(:step).size).to eq(5) }
      key =
        eventually do
          keys.uniq.then { |found| (found.size == 8) ? found[0] : raise(RSpec::Expectations::ExpectationNotMetError) }
        end
      bricks, head = workshop.frames.read(key)
      heat = bricks.field(:heat)
      at = ->(y) do
        [0.0, y, 0.0].zip(head["corner"])
          .map { |c, low| ((c - low) / head["voxel"]).floor }
          .reverse
          .then { |cell| heat[*cell] }
      end
      expect([at.call(0.25), at.call(0.75)]).to match([be > 1500, be_between(100, 1300)])
      lit = take_print(@id)
      expect(lit.extract_band(0).max).to be > 200
      # Yellow and orange around what is hottest.
      expect((lit.extract_band(0) - lit.extract_band(2) > 60).avg * lit.width * lit.height / 255).to be > 8
      # What is behind it is bent: the yard on a layer below, the flame on one of its own.
      fence =
        (0..12).map do |n|
          {
            "do" => "add",
            "kind" => "prop",
            "name" => "Lath #{n}",
            "dials" => {
              "shape" => "box", "size" => [0.06, 3.0, 0.02], "position" => [0.14 * (n - 6), 1.0, -0.6],
              "colour" => [0.9, 0.9, 0.9]
            }
          }
        end
      workshop.shots.edit(@id, fence + [set("sky", :strength, 1.0)])
      page.execute_script("document.activeElement?.blur()")
      chapter("8")
      add("layer", "the shot's own picture")
      below = eventually { document(@id).of(:layer)[0]&.id || raise(RSpec::Expectations::ExpectationNotMetError) }
      choose("#{below}.part", "props, without smoke")
      add("layer", "the shot's own picture")
      flame = eventually { document(@id).of(:layer)[1]&.id || raise(RSpec::Expectations::ExpectationNotMetError) }
      choose("#{flame}.part", "smoke, fire and fog, with")
      still = take_print(@id)
      add("effect", "heat bends what lies below")
      heat = eventually { document(@id).of(:effect)[0]&.id || raise(RSpec::Expectations::ExpectationNotMetError) }
      type("#{heat}.far", 8)
      type("#{heat}.kelvins", 5)
      eventually { expect(document(@id).node(heat)[:kelvins]).to eq(5.0) }
      expect((take_print(@id) - still).abs.max).to be > 8
      done = work(workshop, workshop.exports.start(@id, "vdb", frames: 1..1))
      file = File.join(JSON.parse(done[:result])["folder"], "#{@id}.0001.vdb")
      expect(Formats::VDBReader.new(File.binread(file), "flame").call.volumes.map(&:name)).to eq(
        %w[density temperature]
      )
    end

    it "down the flue: one long coil, a narrow field around it, even at first, torn, finer, frayed by the metre, " \
      "with strong lamps of two colours inside" do
      @id = begin_bare("Flue")
      workshop.shots.edit(
        @id, [set("sun-1", :strength, 0.0), set("sky", :strength, 0.01), set("look", :thickness, 30.0)]
      )
      chapter("1")
      add("prop", /\Acoil/)
      {radius: 0.7, top_radius: 0.7, tall: 4.0, turns: 4, tube: 0.1}.each do |name, value|
        type("prop-1.#{name}", value)
      end
      place("prop-1.turn", [90, 0, 0])
      find("[data-dial='prop-1.shown'] [role='switch']").click
      chapter("5")
      add("sculpt")
      choose("sculpt-1.prop", "Coil") unless page.has_css?("[data-dial='sculpt-1.prop']", text: "Coil", wait: 3)
      type("sculpt-1.voxel", 0.08)
      around = step("makes density of the distance", inside: 0.2, outside: 0.5)
      gap = -> do
        Sculpt::Carving
          .new(Geometry::Recipes.of(document(@id), 1)[0], workshop.assets)
          .call
          .then do |field|
            Sculpt::FieldKernels.linear(
              field.cells,
              *[0.0, 0.7, 0.5].zip([field.lattice.x, field.lattice.y, field.lattice.z])
                .map { |c, o| (c - o) / field.voxel }
            )
          end
      end
      # All is one cloud until the field is narrow.
      expect(gap.call).to be > 0.01
      type("#{around}.inside", 0.05)
      type("#{around}.outside", 0.06)
      eventually { expect(gap.call).to be < 0.001 }
      chapter("6")
      [[-1.2, "#ff6a20"], [0.6, "#3a78ff"]].each_with_index do |(deep, colour), n|
        add("lamp")
        name = "lamp-#{n + 1}"
        place("#{name}.position", [0.0, 0.0, deep])
        type("#{name}.strength", 30)
        workshop.shots.edit(@id, [set(name, :colour, colour.delete("#").scan(/../).map { |c| (c.hex / 255.0)**2.2 })])
      end
      chapter("7")
      place("camera.position", [0.0, 0.0, 3.2])
      place("camera.target", [0.0, 0.0, -3.0])
      rough = take_print(@id)
      chapter("5")
      step("frays its edges", size: 0.25, far: 0.06)
      open_card("sculpt-1")
      type("sculpt-1.voxel", 0.035)
      fine = take_print(@id)
      red, blue = [0, 2].map { |band| fine.extract_band(band) }
      # Both colours are seen, each where its lamp is, and the finer one has more in it.
      expect([(red - blue > 25).avg, (blue - red > 25).avg]).to all(be > 0.3)
      detail = ->(print) { (print.extract_band(1) - print.extract_band(1).gaussblur(2)).abs.avg }
      expect(detail[fine]).to be > 1.1 * detail[rough]
    end

    it "takes a volume that falls on the view, and a brush to it in the view, stroke by stroke" do
      state = Gas::State.still([24, 24, 24])
      24.times do |k|
        24.times { |j| 24.times { |i| state.smoke[k, j, i] = 1.0 if (k - 12)**2 + (j - 12)**2 + (i - 12)**2 < 64 } }
      end
      bytes = Formats::VDB.frame(Grid::Bricks.pack(state), voxel: 0.1, corner: [-1.2, 0.0, -1.2], ambient: 293.0)
      @id = begin_bare("Brought")
      drop("[data-view]", "cloud.vdb": bytes)
      eventually { expect(node(@id, "sculpt-1")[:from]).to eq("file") }
      expect(page).to have_css("[data-dial='sculpt-1.volume']", text: "cloud.vdb")
      step("is brushed")
      find("[data-paint]").click
      find("[data-way='take']").click
      eventually(60) { expect(find("[data-view]")["data-drawn"]).to include("/") }
      canvas = find("canvas[aria-label^='View']")
      mass = -> { Sculpt::Carving.new(Geometry::Recipes.of(document(@id), 1)[0], workshop.assets).call.dense.to_a.sum }
      before = mass.call
      2.times do |n|
        page
          .driver
          .browser
          .action
          .move_to(canvas.native, -20, 10 * n)
          .pointer_down(:left)
          .move_by(15, 4)
          .move_by(15, -4)
          .pointer_up(:left)
          .perform
        eventually { expect(node(@id, "step-1")[:strokes].size).to eq(n + 1) }
      end
      expect(mass.call).to be < before - 1
      page.execute_script("document.activeElement?.blur()")
      page.send_keys([:control, "z"])
      eventually { expect(node(@id, "step-1")[:strokes].size).to eq(1) }
    end
  end
end
