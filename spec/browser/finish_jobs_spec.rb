# frozen_string_literal: true

module Vumbral
  # Whole pieces of work that end in the finish, from an empty shelf to a movie.
  RSpec.describe "A job of finishing" do
    # A small view is drawn sooner where no card draws it.
    around do |example|
      page.current_window.resize_to(1040, 640)
      example.run
    ensure
      page.current_window.resize_to(1180, 860)
    end

    def document(id) = workshop.shots.document(id)

    def chapter(number)
      page.execute_script("document.activeElement?.blur()")
      page.send_keys(number)
    end

    # Small and short, so that all of it is done in a moment.
    def begin_small(name, *edits)
      id = begin_shot("#{name} #{rand(1 << 30)}", "empty")
      workshop.shots.edit(id, [set("general", :last, 10), set("picture", :width, 96), set("picture", :height, 54)] + edits)
      id
    end

    # Adds one by the desk's own menu. @return [String] its id, once it is there
    def added(id, kind, what = nil)
      before = document(id).all_of(kind).map(&:id)
      add(kind.to_s, what)
      eventually { (document(id).all_of(kind).map(&:id) - before)[0] || raise(RSpec::Expectations::ExpectationNotMetError) }
    end

    def take_print(id)
      count = workshop.prints.list(id).size
      chapter("p")
      eventually(90) { expect(workshop.prints.list(id).size).to eq(count + 1) }
      Vips::Image.new_from_file(workshop.prints.path(id, workshop.prints.newest(id))).extract_band(0, n: 3)
    end

    # A thing by its whole name, for another may begin with it.
    def exactly(id, node) = /\A#{Regexp.escape(document(id).node(node).name)}\z/

    def smoke(id, frame) = workshop.frames.read(workshop.runs.best(id, frame)[1])[0].field(:smoke).to_a.sum

    it "smoke on cue: from a slot under a door, switched by keys, rising and fading, thinner until right, the door sharp and the rest soft, as a movie" do
      id = begin_small("Cue", set("chamber", :size, [1.0, 1.4, 1.0]), set("chamber", :voxel, 0.07), set("chamber", :draft, 1.0))
      chapter("1")
      add("prop", /\Abox\z/)
      place("prop-1.size", [0.7, 0.9, 0.1])
      place("prop-1.position", [0, 0.6, -0.1])
      add("prop", /\Abox\z/)
      place("prop-2.size", [0.5, 0.08, 0.16])
      place("prop-2.position", [0, 0.1, 0.1])
      dial("prop-2.shown").find("[role='switch']").click
      chapter("2")
      add("source")
      choose("source-1.prop", exactly(id, "prop-2"))
      key("source-1.strength", 1 => 0, 3 => 1, 6 => 1, 7 => 0)
      chapter("3")
      type("chamber.stir", 0.6)
      type("chamber.smoke_fade", 4)
      find("[data-run-draft]").click
      wait_for_draft(id)
      # There is none before its cue, most while it lasts, and it goes.
      masses = [1, 5, 7, 10].map { |frame| smoke(id, frame) }
      expect(masses[0]).to eq(0.0)
      expect(masses[2]).to be > masses[1]
      expect(masses[3]).to be < 0.8 * masses[2]

      go_to 6
      chapter("6")
      type("look.thickness", 80)
      thick = take_print(id)
      type("look.thickness", 8)
      thin = take_print(id)
      expect((thick - thin).abs.avg).to be > 0.3
      chapter("7")
      open_card("camera")
      type("camera.aperture", 1.4)
      choose("camera.focus_on", exactly(id, "prop-1"))
      type("camera.samples", 4)
      eventually { expect(document(id).the(:camera)[:samples]).to eq(4) }
      expect((take_print(id) - thin).abs.avg).to be > 0.1
      chapter("9")
      find("[aria-label='Format']").click
      find(".n-base-select-option", text: "MP4 movie, H.264").click
      find("[data-export]").click
      expect(page).to have_css("[data-exported]", text: "mp4", wait: 120)
      movie = eventually(120) { Dir[workshop.exports.folder(id, "*", "*.mp4")].reject { |path| path.include?(".part") }[0] || raise(RSpec::Expectations::ExpectationNotMetError) }
      probed, = Open3.capture2("ffprobe", "-v", "error", "-count_frames", "-show_entries", "stream=nb_read_frames", "-of", "csv=p=0", movie)
      expect(probed.to_i).to eq(10)
    end

    it "into the vat, finished: the raw lantern fades into the glazed one, a splash under a wide soft mask, specks, glow in one place, a flare on a tracked spot, darker corners" do
      splash = shelve(workshop, small_shot("Splash #{rand(1 << 30)}", edits: [set("general", :last, 10), set("ground", :shown, false)]))
      run_now(workshop, splash)
      id = begin_small("Vat", set("sun-1", :strength, 0.4))
      chapter("1")
      add("prop", "cylinder")
      type("prop-1.radius", 0.3)
      place("prop-1.position", [0, 1.0, 0])
      add("prop", "cylinder")
      type("prop-2.radius", 0.3)
      type("prop-2.light", 2)
      place("prop-2.position", [0, 1.0, 0])

      # Both on one path, one after the other.
      chapter("8")
      raw = added(id, :layer, "the shot's own picture")
      choose("#{raw}.seen", exactly(id, "prop-1"))
      page.send_keys(:escape)
      glazed = added(id, :layer, "the shot's own picture")
      choose("#{glazed}.seen", exactly(id, "prop-2"))
      page.send_keys(:escape)
      key("#{glazed}.opacity", 2 => 0, 9 => 100)
      prints = [2, 9].map do |frame|
        go_to frame
        take_print(id)
      end
      expect(prints[1].avg).to be > prints[0].avg + 1

      # A splash over it, with a wide soft edge.
      over = added(id, :layer, "another shot")
      expect(page).to have_text("shows nothing yet; choose the shot that it shows", wait: 30)
      choose("#{over}.shot", workshop.shots.fetch(splash)[:name])
      eventually { expect(document(id).node(over)[:shot]).to eq(splash) }
      mask = added(id, :mask, "an oval")
      expect(document(id).node(mask)[:to]).to eq(over)
      type("#{mask}.soft", 60)
      eventually { expect(document(id).node(mask)[:soft]).to eq(60.0) }
      masked = take_print(id)
      expect((masked - prints[1]).abs.max).to be > 5

      # All of it: glow in one place only, specks, a flare that sits on a spot, darker corners.
      whole = added(id, :layer, "what lies below, changed")
      glow = added(id, :effect, "a glow about what is bright")
      expect(document(id).node(glow)[:layer]).to eq(whole)
      type("#{glow}.from", 0.1)
      box = added(id, :mask, "a box")
      expect(document(id).node(box)[:to]).to eq(glow)
      find("[data-node='#{whole}'] .head").click
      type("#{added(id, :effect, "drifting specks")}.amount", 3)
      find("[data-node='#{whole}'] .head").click
      type("#{added(id, :effect, "darker corners")}.amount", 0.9)
      spot = added(id, :track)
      find("[data-node='#{whole}'] .head").click
      flare = added(id, :effect, "a lens flare")
      choose("#{flare}.source", "a lamp, prop or tracked spot")
      choose("#{flare}.lamp", document(id).node(spot).name)
      type("#{flare}.amount", 2)
      eventually { expect(document(id).node(flare)[:amount]).to eq(2.0) }
      done = take_print(id)
      corner = ->(image) { image.crop(0, 0, 8, 6).avg }
      expect(corner[done]).to be < corner[masked]
      middle = ->(image) { image.crop(44, 24, 8, 6).avg }
      expect(middle[done]).to be > middle[masked] + 5
    end
  end
end
