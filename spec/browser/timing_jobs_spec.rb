# frozen_string_literal: true

module Vumbral
  # Whole pieces of work in which things move, burn through and break, from an empty shelf to a run.
  RSpec.describe "A job of timing" do
    def document(id) = workshop.shots.document(id)

    def state(id) = workshop.runs.state(id, "draft")[:rows]

    # A small view is drawn sooner where no card draws it.
    around do |example|
      page.current_window.resize_to(1040, 640)
      example.run
    ensure
      page.current_window.resize_to(1180, 860)
    end

    def used(id) = state(id).map { |row| row[:facts]["used"] }

    def draft(id)
      find("[data-run-draft]").click
      wait_for_draft(id)
    end

    it "a burst from a moving coil: by noise, to a file and in again, feeding a box that follows, a fence that goes " \
      "as it comes" do
      id = begin_shot("Coil #{rand(1 << 30)}", "empty")
      find("[data-settings]").click
      type("general.last", 12)
      find("[data-settings]").click
      page.send_keys("1")
      add("prop", "torus")
      place("prop-1.position", [0, 0.5, 0])
      type("prop-1.radius", 0.3)
      add("operation", "moves the surface by noise")
      coil =
        eventually { document(id).operations("prop-1")[0]&.id || raise(RSpec::Expectations::ExpectationNotMetError) }
      open_card(coil)
      type("#{coil}.drift", 2)
      key("#{coil}.strength", 1 => 0.01, 10 => 0.12)
      # To a file and in again, as a mesh that moves.
      page.send_keys("9")
      find("[aria-label='Format']").click
      find(".n-base-select-option", text: "GLB").click
      find("[aria-label='Which props']").click
      find(".n-base-select-option", text: /\ATorus\z/).click
      page.send_keys(:escape)
      find("[data-export]").click
      expect(page).to have_css("[data-exported]", wait: 60)
      made =
        eventually do
          workshop.exports.list(id).find { |row| row[:files].any? { |file| file.end_with?(".glb") } } ||
            raise(RSpec::Expectations::ExpectationNotMetError)
        end
      bytes = File.binread(workshop.exports.folder(id, made[:name], made[:files][0]))
      drop("[data-view]", "coil.glb": bytes)
      find("[data-put]", wait: 60).click
      eventually do
        expect(document(id).nodes["prop-2"]&.then { |prop| [prop[:shape], prop[:plays]] }).to eq(["mesh", true])
      end
      page.send_keys("1")
      find("[data-node='prop-1'] [data-switch='off']").click
      place("prop-2.position", [0, 0.5, 0])

      page.send_keys("2")
      add("source")
      choose("source-1.prop", "coil")
      {"smoke" => 8, "temperature" => 700, "carried" => 150}.each { |dial, value| type("source-1.#{dial}", value) }
      page.send_keys("3")
      open_card("chamber")
      place("chamber.size", [1.0, 1.0, 1.0])
      {
        "voxel" => 0.04, "draft" => 2, "stir" => 0.6, "smoke_fade" => 0.3, "lift" => "= 1 + frame / 6"
      }.each { |dial, value| type("chamber.#{dial}", value) }
      dial("chamber.grow").find("[role='switch']").click
      eventually do
        expect([document(id).node("chamber")[:grow], document(id).node("chamber")[:lift, 12]]).to eq([true, 3.0])
      end
      draft(id)
      # It has grown out of the box that it began in.
      expect(used(id).last).to be > 13**3

      # The fence stands behind it, and is gone from the frame on.
      page.send_keys("1")
      add("prop", /\Abox\z/)
      place("prop-3.size", [0.04, 0.7, 0.04])
      place("prop-3.position", [0, 0.35, -0.6])
      add("operation", "makes many of it")
      fence =
        eventually { document(id).operations("prop-3")[0]&.id || raise(RSpec::Expectations::ExpectationNotMetError) }
      open_card(fence)
      choose("#{fence}.spread", "in a box")
      open_card("prop-3")
      go_to 8
      dial("prop-3.shown").find("[role='switch']").click
      dial("prop-3.shown").find("[data-key]").click unless dial("prop-3.shown").has_css?(".key.here", wait: 1)
      go_to 1
      dial("prop-3.shown").find("[role='switch']").click
      dial("prop-3.shown").find("[data-key]").click unless dial("prop-3.shown").has_css?(".key.here", wait: 1)
      eventually do
        expect([1, 7, 8, 12].map { |frame| document(id).node("prop-3")[:shown, frame] }).to eq(
          [true, true, false, false]
        )
      end
      page.send_keys("3")
      type("chamber.voxel", 0.03)
      draft(id)
      expect(used(id).last).to be > 17**3
    end

    # A board with a hole, as a drawing program writes it.
    let(:sign) { '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 120 60"><path d="M4 4h112v52h-112z M50 20h20v20h-20z" fill-rule="evenodd"/></svg>' }

    it "a painted sign burns away: an outline, a front and a second one, char, glow, fire and smoke where it is " \
      "young" do
      id = begin_shot("Sign #{rand(1 << 30)}", "empty")
      find("[data-settings]").click
      type("general.last", 16)
      find("[data-settings]").click
      drop("[data-view]", "sign.svg": sign)
      eventually { expect(document(id).nodes["prop-1"]&.[](:shape)).to eq("drawing") }
      page.send_keys("1")
      open_card("prop-1")
      place("prop-1.position", [0, 0.5, 0])
      add("operation", "makes faces even and closed")
      eventually { expect(document(id).operations("prop-1").map { |operation| operation[:what] }).to eq(["remesh"]) }
      # From one corner, slower until right; the second one follows.
      add("front")
      eventually { expect(document(id).nodes["front-1"]&.[](:prop)).to eq("prop-1") }
      choose("front-1.starts", "in a box")
      place("front-1.box_position", [-0.5, -0.25, 0])
      place("front-1.box_size", [0.2, 0.2, 0.4])
      [2, 1.2].each { |speed| type("front-1.speed", speed) }
      type("front-1.uneven", 0.6)
      add("front")
      choose("front-2.starts", "where another front began")
      choose("front-2.after", /\AFront\z/)
      type("front-2.delay", 4)
      open_card("prop-1")
      find("[data-node='prop-1'] [data-add-map]").click
      pick_option("a front's age")
      eventually { expect(document(id).nodes["map-1"]&.[](:to)).to eq("prop-1") }
      choose("map-1.front", "Front 2")
      open_card("prop-1")
      type("prop-1.between", 6)

      page.send_keys("2")
      add("source")
      choose("source-1.prop", "sign")
      choose("source-1.from", "the surface")
      {"smoke" => 1, "fuel" => 3, "temperature" => 1100}.each { |dial, value| type("source-1.#{dial}", value) }
      ["a front's age", "a box", "noise"].each do |what|
        open_card("source-1")
        find("[data-node='source-1'] [data-add-map]").click
        pick_option(what)
        eventually do
          expect(
            document(id)
              .of(:map)
              .count { |map| map[:to] == "source-1" && map.kind.dials[:what].choices[map[:what].to_sym] == what }
          ).to eq(1)
        end
      end
      %w[map-3 map-4].each do |map|
        open_card(map)
        choose("#{map}.how", "taking away")
        type("#{map}.opacity", 0.5)
      end
      open_card("source-1")
      key("source-1.smoke", 4 => 1, 12 => 0.3)
      page.send_keys("4")
      add("force")
      choose("force-1.what", "wipe")
      choose("force-1.falloff", /\Abox/)
      place("force-1.position", [0, 1.6, 0])
      page.send_keys("3")
      open_card("chamber")
      place("chamber.size", [1.8, 1.6, 0.8])
      {"voxel" => 0.04, "draft" => 1}.each { |dial, value| type("chamber.#{dial}", value) }
      page.send_keys("6")
      open_card("look")
      key("look.fire", 1 => 1, 16 => 2)
      draft(id)
      type("look.lamplight", 1.6)
      rows = state(id)
      expect(rows.map { |row| row[:facts]["peak"].to_f }.max).to be > 1300
      # Not all at once: what burns grows as the front runs.
      wide = rows.map { |row| row[:facts]["smoke"].to_f }
      expect([wide[2] < 0.3 * wide.max, wide[6] > wide[2]]).to eq([true, true])
      page.send_keys("p")
      expect(page).to have_css("[data-print]", wait: 90)
    end

    it "pieces: two bowls broken unequally, some taken away, the rest blown apart, each with trails of its own" do
      id = begin_shot("Bowls #{rand(1 << 30)}", "empty")
      find("[data-settings]").click
      type("general.last", 14)
      find("[data-settings]").click
      page.send_keys("1")
      {"prop-1" => [0.3, [0, 0.16, 0], 12], "prop-2" => [0.22, [0, 0.48, 0], 6]}.each do |bowl, (radius, at, pieces)|
        add("prop", "sphere")
        open_card(bowl)
        type("#{bowl}.radius", radius)
        place("#{bowl}.position", at)
        type("#{bowl}.scale", 0.5, 1)
        dial("#{bowl}.breaks").find("[role='switch']").click
        {"break_frame" => 3, "pieces" => pieces, "blast_strength" => 4}.each do |dial, value|
          type("#{bowl}.#{dial}", value)
        end
      end
      open_card("prop-1")
      type("prop-1.gather", 0.7)
      # How they are picked in the view is told by the specs of breaking.
      workshop.shots.edit(id, [set("prop-1", :taken, [1, 4])])
      expect(dial("prop-1.taken")).to have_text("piece 2")

      page.send_keys("2")
      %w[sphere].each do
        add("source")
        open_card("source-1")
        choose("source-1.prop", /\ASphere\z/)
        add("source")
        open_card("source-2")
        choose("source-2.prop", /\ASphere 2\z/)
      end
      {"source-1" => [3, 8], "source-2" => [3, 5]}.each do |source, (from, to)|
        open_card(source)
        {"smoke" => 4, "fuel" => 6, "temperature" => 1200}.each { |dial, value| type("#{source}.#{dial}", value) }
        key("#{source}.strength", from => 1, to => 0)
      end
      page.send_keys("3")
      open_card("chamber")
      place("chamber.size", [2.4, 1.6, 2.4])
      {"voxel" => 0.06, "draft" => 1}.each { |dial, value| type("chamber.#{dial}", value) }
      {
        "time_scale" => {
          3 => 1, 10 => 0.5
        },
        "stir" => {
          3 => 1, 12 => 0.2
        },
        "burn_swell" => {
          3 => 2, 8 => 1
        }
      }.each { |dial, values| key("chamber.#{dial}", values) }
      page.send_keys("6")
      add("lamp")
      choose("lamp-1.as", "a spot, in a cone")
      place("lamp-1.position", [0, 3, 1])
      {"cone" => 80, "strength" => 40}.each { |dial, value| type("lamp-1.#{dial}", value) }
      page.send_keys("6")
      open_card("look")
      dial("look.density_ramp").find("[data-begin-ramp]").click
      choose("look.fire_by", "ramps over temperature")
      key("look.bounces", 1 => 4, 14 => 8)
      draft(id)
      rows = state(id)
      expect(rows.map { |row| row[:facts]["peak"].to_f }.max).to be > 1000
      # Sources die on cue, and none of what is outside the box feeds.
      expect(document(id).node("source-2")[:strength, 6]).to eq(0.0)
      go_to 8
      page.send_keys("p")
      expect(page).to have_css("[data-print]", text: "f 8", wait: 90)
    end
  end
end
