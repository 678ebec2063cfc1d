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
      workshop.shots.edit(
        id, [set("general", :last, 10), set("picture", :width, 96), set("picture", :height, 54)] + edits
      )
      id
    end

    # Adds one by the desk's own menu. @return [String] its id, once it is there
    def added(id, kind, what = nil)
      before = document(id).all_of(kind).map(&:id)
      add(kind.to_s, what)
      eventually do
        (document(id).all_of(kind).map(&:id) - before)[0] || raise(RSpec::Expectations::ExpectationNotMetError)
      end
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

    it "smoke on cue: from a slot under a door, switched by keys, rising and fading, thinner until right, the door " \
      "sharp and the rest soft, as a movie" do
      id =
        begin_small(
          "Cue", set("chamber", :size, [1.0, 1.4, 1.0]), set("chamber", :voxel, 0.07), set("chamber", :draft, 1.0)
        )
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
      movie =
        eventually(120) do
          Dir[workshop.exports.folder(id, "*", "*.mp4")].reject { |path| path.include?(".part") }[0] ||
            raise(RSpec::Expectations::ExpectationNotMetError)
        end
      probed, =
        Open3.capture2(
          "ffprobe", "-v", "error", "-count_frames", "-show_entries", "stream=nb_read_frames", "-of", "csv=p=0", movie
        )
      expect(probed.to_i).to eq(10)
    end

    it "into the vat, finished: the raw lantern fades into the glazed one, a splash under a wide soft mask, specks, " \
      "glow in one place, a flare on a tracked spot, darker corners" do
      splash =
        shelve(
          workshop,
          small_shot("Splash #{rand(1 << 30)}", edits: [set("general", :last, 10), set("ground", :shown, false)])
        )
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

    # A wall with a box that goes along before it, its four nails bright; on frame 4 one of them is out of sight.
    let(:nails) { [[-0.5, -0.5, 0.5], [0.5, -0.5, 0.5], [0.5, 0.5, 0.5], [-0.5, 0.5, 0.5]] }

    def carried(frame) =
      Geometry::Pose.new([-0.35 + 0.11 * frame, 1.3, 0.3 - 0.04 * frame], [0.0, 5.0 * frame, 0.0], [1.0] * 3)

    def nails_seen(id, frame)
      camera = Picture::Camera.settings(document(id), frame)
      nails.map do |nail|
        Finish::Spots.seen(camera, carried(frame).transform.apply(nail), 16 / 9.0).first(2).map { |c| 100.0 * c }
      end
    end

    def footage(id, folder)
      (1..6).map do |frame|
        image = Vips::Image.xyz(192, 108)
        light = (image[0] * 0.31).sin * 6 + (image[1] * 0.27).cos * 6 + 60
        nails_seen(id, frame).each_with_index do |(x, y), n|
          next if frame == 4 && n == 2

          off = ((image[0] - (1.92 * x - 0.5))**2 + (image[1] - (1.08 * y - 0.5))**2) * -(0.16 + 0.03 * n)
          light += off.exp * 170
        end
        File
          .join(folder, "yard.#{frame}.png")
          .tap do |path|
            light
              .cast(:uchar)
              .then { |grey| grey.bandjoin([grey, grey]) }
              .copy(interpretation: :srgb)
              .write_to_file(path)
          end
      end
    end

    def followed(id) = document(id).of(:track).map { |spot| spot.keyed(:x).to_a.map { |key| key[:frame] } }

    it "a torch in footage: a stand-in pinned to a thing in the plate, by hand where it is lost; it burns, led by a " \
      "force, with sparks that burn too; heat waves, glow, colour, grain, table last" do
      id =
        begin_small(
          "Torch in footage", set("general", :last, 6), set("picture", :width, 192), set("picture", :height, 108),
          set("picture", :tone, "plain"), set("chamber", :size, [2.4, 2.4, 1.6]),
          set("chamber", :position, [0.0, 0.8, 0.2]), set("chamber", :voxel, 0.11), set("chamber", :draft, 1.0)
        )
      chapter("8")
      add("layer", "a plate")
      low =
        eventually do
          document(id).of(:layer).find { |layer| layer[:what] == "plate" } ||
            raise(RSpec::Expectations::ExpectationNotMetError)
        end.id
      Dir.mktmpdir do |folder|
        find("[data-dial='#{low}.plate'] input[type='file']", visible: :all).attach_file(footage(id, folder))
        eventually(30) { expect(document(id).node(low)[:plate]).not_to be_nil }
      end

      # Four spots, each put where it is on the first frame and followed on; the third is lost on frame 4.
      spots = nails_seen(id, 1).each_with_index.map do |(x, y), n|
        spot = added(id, :track)
        {x: x, y: y, pattern: 12, search: 8, least: 0.75}.each { |dial, value| type("#{spot}.#{dial}", value.round(3)) }
        find("[data-track='on']").click
        eventually(60) { expect(document(id).node(spot).keyed(:x)).not_to be_nil }
        expect(page).to have_text((n == 2) ? "slipped at frame 4" : "was followed over 6 frames")
        expect(page).to have_css("[data-track='on']", wait: 30)
        spot
      end
      expect(followed(id)[2]).to eq([1, 2, 3])
      open_card(spots[2])
      go_to 4
      nails_seen(id, 4)[2].zip(%w[x y]) { |value, dial| type("#{spots[2]}.#{dial}", value.round(3)) }
      go_to 5
      nails_seen(id, 5)[2].zip(%w[x y]) { |value, dial| type("#{spots[2]}.#{dial}", value.round(3)) }
      find("[data-track='on']").click
      eventually(60) { expect(followed(id)).to all(include(*1..6)) }

      # The stand-in goes where they are.
      chapter("1")
      add("prop", /\Abox\z/)
      place("prop-1.size", [1, 1, 1])
      place("prop-1.position", carried(1).position)
      chapter("8")
      spots.each_with_index do |spot, n|
        open_card(spot)
        choose("#{spot}.prop", exactly(id, "prop-1"))
        place("#{spot}.place", nails[n])
      end
      find("[data-pin]").click
      expect(page).to have_text("is pinned on 6 frames", wait: 60)
      off =
        (1..6).map do |frame|
          Math.sqrt(
            Geometry::Bodies.pose(document(id).node("prop-1"), frame, document(id))["position"]
              .zip(carried(frame).position)
              .sum { |a, b| (a - b)**2 }
          )
        end
      expect(off.max).to be < 0.05

      # It burns, and its motion goes along; sparks from it burn too; a wind leads the fire.
      chapter("2")
      source = added(id, :source)
      choose("#{source}.prop", exactly(id, "prop-1"))
      type("#{source}.fuel", 8)
      type("#{source}.temperature", 1200)
      type("#{source}.carried", 80)
      sparks = added(id, :emitter)
      choose("#{sparks}.prop", exactly(id, "prop-1"))
      type("#{sparks}.life", 0.2)
      burning = added(id, :source)
      choose("#{burning}.from", "particles")
      choose("#{burning}.emitter", exactly(id, sparks))
      type("#{burning}.fuel", 6)
      chapter("4")
      wind = added(id, :force)
      place("#{wind}.direction", [1, 0.2, 0])
      chapter("3")
      open_card("chamber")
      type("chamber.time_scale", 0.8)
      open_card("detail")
      type("detail.sharpen_heat", 0)
      type("detail.sharpen_fuel", 0.8)
      find("[data-run-draft]").click
      wait_for_draft(id)
      expect(workshop.frames.read(workshop.runs.best(id, 5)[1])[0].field(:heat).to_a.max).to be > 500

      # Over the plate, and all of it one picture.
      chapter("8")
      go_to 5
      plain = take_print(id)
      whole = added(id, :layer, "what lies below, changed")
      [
        "heat bends what lies below", "a glow about what is bright", "tints darks, middles and lights", "film grain",
        "a look-up table"
      ].each do |what|
        find("[data-node='#{whole}'] .head").click
        added(id, :effect, what)
      end
      expect(document(id).of(:effect).sort_by { |effect| effect[:order] }.map { |effect| effect[:what] }).to eq(
        %w[shimmer glow tint grain table]
      )
      done = take_print(id)
      expect((done - plain).abs.avg).to be > 0.3
      expect(done.stats.getpoint(1, 0)[0]).to be > 150
    end
  end
end
