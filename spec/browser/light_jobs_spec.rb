# frozen_string_literal: true

module Vumbral
  # Whole pieces of work with light, fog and surfaces, from an empty shelf to prints.
  RSpec.describe "A job of light" do
    # A small view is drawn sooner where no card draws it.
    around do |example|
      page.current_window.resize_to(1040, 640)
      example.run
    ensure
      page.current_window.resize_to(1180, 860)
    end

    def document(id) = workshop.shots.document(id)

    def node(id, name) = eventually { document(id).nodes[name] || raise(RSpec::Expectations::ExpectationNotMetError) }

    # A new shot of 12 frames and small pictures, which nothing develops meanwhile.
    def begin_dark(name)
      id = begin_shot("#{name} #{rand(1 << 30)}", "empty")
      edits = [
        set("general", :last, 12), set("picture", :width, 128), set("picture", :height, 72),
        set("picture", :exposure, 1.0)
      ]
      workshop.shots.edit(id, edits)
      id
    end

    # Nothing that is typed shall wait for pictures.
    def undeveloped
      find("[data-chip='develop'][aria-pressed='true']").click
    end

    # @return [Vips::Image] the next print, 0 to 255
    def take_print(id)
      count = workshop.prints.list(id).size
      page.execute_script("document.activeElement?.blur()")
      page.send_keys("p")
      eventually(90) { expect(workshop.prints.list(id).size).to eq(count + 1) }
      Vips::Image.new_from_file(workshop.prints.path(id, workshop.prints.newest(id))).extract_band(0, n: 3)
    end

    def middle(image) = image.crop(image.width * 3 / 8, image.height / 4, image.width / 4, image.height / 2)

    it "mist with a shape: a backdrop, lamps that are not seen, a saved view, a box of mist with a jug in it, " \
      "thinner, banded, as felt, and a jar of mist" do
      id = begin_dark("Mist")
      page.send_keys("1")
      add("prop", /backdrop/)
      page.send_keys("6")
      add("lamp")
      choose("lamp-1.as", "a sheet")
      place("lamp-1.position", [1.5, 2.2, 2.0])
      type("lamp-1.strength", 8)
      expect(node(id, "lamp-1")[:seen]).to be(false)

      # A place to look from, kept, and given to the camera.
      page.send_keys("7")
      add("view")
      saved = node(id, "view-1")
      page.execute_script("document.activeElement?.blur()")
      page.send_keys("0")
      find("[data-node='view-1'] [data-look-from]").click
      find("[data-node='view-1'] [data-to-camera]").click
      eventually { expect(document(id).the(:camera)[:position]).to eq(saved[:position]) }
      open_card("camera")
      place("camera.position", [0.0, 1.2, 3.6])
      place("camera.target", [0.0, 0.6, 0.0])

      # The drying box, filled; its skin hides the mist until it is hidden.
      page.send_keys("1")
      add("prop", /\Abox\z/)
      place("prop-2.size", [1.4, 1.0, 1.0])
      add("prop", "cylinder")
      place("prop-3.position", [0.5, 0.4, 0.3])
      type("prop-3.radius", 0.2)
      page.send_keys("6")
      add("fog")
      choose("fog-1.fills", "the inside of a prop")
      choose("fog-1.prop", "Box")
      undeveloped
      expect(page).to have_text("Box is opaque and hides Fog inside it.", wait: 30)
      click_on "Hide Box"
      eventually { expect(document(id).node("prop-2")[:shown]).to be(false) }

      # Denser, thinner, as felt: how far light gets into it.
      looks = {0.2 => nil, 3 => nil, 40 => nil}
      looks.each_key do |thickness|
        type("fog-1.thickness", thickness)
        eventually { expect(node(id, "fog-1")[:thickness]).to eq(thickness.to_f) }
        looks[thickness] = take_print(id)
      end
      expect((looks[3] - looks[0.2]).abs.avg).to be > 1.5
      expect((looks[40] - looks[3]).abs.avg).to be > 1.5

      # Bands drive its thickness; that they do is told at the dial, and they can be taken out again.
      add("texture")
      choose("texture-1.what", "folded bands")
      type("texture-1.size", 0.3)
      open_card("fog-1")
      type("fog-1.thickness", 3)
      choose("fog-1.texture", "Texture")
      expect(dial("fog-1.thickness")).to have_text("Texture")
      banded = take_print(id)
      expect((middle(banded) - middle(looks[3])).abs.avg).to be > 0.6

      # A jar made of mist before plaster.
      page.send_keys("1")
      open_card("prop-1")
      find("[data-node='prop-1'] [data-ready='material']").click
      find("[data-material='plaster']").click
      add("prop", "capsule")
      place("prop-4.position", [-0.2, 0.75, 0.2])
      open_card("prop-4")
      dial("prop-4.shown").find("[role='switch']").click
      page.send_keys("6")
      add("fog")
      choose("fog-2.fills", "the inside of a prop")
      choose("fog-2.prop", "Capsule")
      type("fog-2.thickness", 12)
      eventually { expect(document(id).nodes["fog-2"]&.[](:thickness)).to eq(12.0) }
      expect((middle(take_print(id)) - middle(banded)).abs.avg).to be > 1.0
      expect(page).to have_css("[data-print]", minimum: 5)
    end

    it "shafts from a pierced lantern: faces gone at random, rounder, wobbling and turning evenly, a lamp within, a " \
      "flame that blocks nothing, glow and ghosts" do
      id = begin_dark("Lantern")
      page.send_keys("1")
      add("prop", "sphere")
      place("prop-1.position", [0, 1, 0])
      type("prop-1.divisions", 2)
      add("operation", "takes faces away")
      pierced =
        eventually { document(id).operations("prop-1")[0]&.id || raise(RSpec::Expectations::ExpectationNotMetError) }
      open_card(pierced)
      type("#{pierced}.share", 0.08)
      open_card("prop-1")
      type("prop-1.shake_turn", 6)
      type("prop-1.turn", "= 5 * frame", 1)
      eventually { expect(document(id).node("prop-1")[:turn, 6]).to eq([0.0, 30.0, 0.0]) }
      # The flame about the lamp, which would shut its light in.
      add("prop", "capsule")
      place("prop-2.position", [0, 1, 0])
      type("prop-2.radius", 0.08)
      type("prop-2.tall", 0.3)
      type("prop-2.light", 3)
      page.send_keys("6")
      add("lamp")
      place("lamp-1.position", [0, 1, 0])
      type("lamp-1.strength", 40)
      eventually { expect(document(id).nodes["lamp-1"]&.[](:position)).to eq([0.0, 1.0, 0.0]) }
      expect(page).to have_text("Lamp stands inside Capsule, which lets none of its light out.", wait: 30)
      page.send_keys("1")
      open_card("prop-2")
      dial("prop-2.casts").find("[role='switch']").click
      expect(page).to have_no_text("lets none of its light out", wait: 30)

      # A big box of thin air that scatters.
      add("prop", /\Abox\z/)
      place("prop-3.size", [6, 3, 6])
      place("prop-3.position", [0, 1.5, 0])
      dial("prop-3.shown").find("[role='switch']").click
      page.send_keys("6")
      open_card("sky")
      type("sky.strength", 0.02)
      clear = take_print(id)
      add("fog")
      choose("fog-1.fills", "the inside of a prop")
      choose("fog-1.prop", "Box")
      type("fog-1.thickness", 0.25)
      eventually { expect(document(id).nodes["fog-1"]&.[](:thickness)).to eq(0.25) }
      undeveloped
      shafts = take_print(id)
      # Beside the lantern, beams: brighter and darker ones all around.
      beside = ->(image) { image.crop(0, 0, image.width / 4, image.height) }
      expect(beside.call(shafts).avg).to be > beside.call(clear).avg + 2
      expect(beside.call(shafts).extract_band(0).deviate).to be > 1.0
      page.send_keys("7")
      open_card("camera")
      dial("camera.refined").find("[role='switch']").click
      type("camera.samples", 8)
      eventually { expect(document(id).the(:camera)[:refined]).to be(true) }
      # As bright, and finer.
      fine = take_print(id)
      expect((fine - shafts).abs.avg).to be < 6
      # In the finish a glow about it and the ghosts of a lens, from the lamp itself.
      page.execute_script("document.activeElement?.blur()")
      page.send_keys("8")
      add("effect", "a glow about what is bright")
      glow = eventually { document(id).of(:effect)[0]&.id || raise(RSpec::Expectations::ExpectationNotMetError) }
      expect(document(id).of(:layer).map { |layer| layer[:what] }).to eq(%w[shot change])
      type("#{glow}.from", 0.5)
      add("effect", "a lens flare")
      flare = eventually { document(id).of(:effect)[1]&.id || raise(RSpec::Expectations::ExpectationNotMetError) }
      choose("#{flare}.source", "a lamp, prop or tracked spot")
      choose("#{flare}.lamp", "Lamp")
      type("#{flare}.amount", 3)
      eventually { expect(document(id).node(flare)[:amount]).to eq(3.0) }
      expect(beside.call(take_print(id)).avg).to be > beside.call(fine).avg + 1
    end

    it "a clay pit at dusk: ochre haze hidden while placing, raw ground, lamps a little off white, dust cards, a " \
      "worn bowl, a stool that stands" do
      id = begin_dark("Pit")
      page.send_keys("1")
      add("prop", "plane")
      place("prop-1.size", [12, 1, 12])
      place("prop-1.position", [0, 0, 0])
      type("prop-1.cells", 60)
      type("prop-1.uneven", 0.7)
      add("operation", "moves the surface by noise or waves")
      raw =
        eventually { document(id).operations("prop-1")[0]&.id || raise(RSpec::Expectations::ExpectationNotMetError) }
      open_card(raw)
      type("#{raw}.strength", 0.25)
      page.send_keys("6")
      add("fog")
      choose("fog-1.course", "denser below")
      type("fog-1.thickness", 0.15)
      eventually { expect(document(id).nodes["fog-1"]&.[](:thickness)).to eq(0.15) }
      undeveloped
      # Out of the way while things are placed.
      find("[data-node='fog-1'] [data-switch='off']").click
      workshop.shots.edit(
        id,
        [
          set("fog-1", :colour, [0.85, 0.6, 0.3]), set("camera", :position, [0.0, 1.4, 5.0]),
          set("camera", :target, [0.0, 0.7, 0.0])
        ]
      )
      2.times do |n|
        add("lamp")
        place("lamp-#{n + 1}.position", [n.zero? ? -2.5 : 2.0, 1.8, -1.0])
      end
      workshop.shots.edit(id, [set("lamp-1", :colour, [1.0, 0.9, 0.75]), set("lamp-2", :colour, [0.75, 0.85, 1.0])])

      page.send_keys("1")
      add("prop", "sphere")
      place("prop-2.position", [0.6, 3, 0.5])
      type("prop-2.radius", 0.35)
      find("[data-node='prop-2'] [data-ready='material']").click
      find("[data-material='glazed-clay']").click
      add("prop", /\Abox\z/)
      place("prop-3.size", [0.4, 0.45, 0.4])
      place("prop-3.position", [-0.6, 2, 0.4])
      # Both hang in the air until they are put down.
      find("[data-node='prop-3'] [data-put-down]").click
      eventually { expect(document(id).node("prop-3")[:position][1]).to be_between(-0.1, 0.6) }
      open_card("prop-2")
      find("[data-node='prop-2'] [data-put-down]").click
      eventually { expect(document(id).node("prop-2")[:position][1]).to be_between(0.0, 0.75) }

      dust =
        Vips::Image
          .new_from_memory(
            Array.new(256) { |n| [230, 200, 150, (n % 7 == 3) ? 200 : 0] }.flatten.pack("C*"), 16, 16, 4, :uchar
          )
          .copy(interpretation: :srgb)
          .write_to_buffer(".png")
      drop("[data-view]", "dust.png": dust)
      card =
        eventually do
          document(id).of(:prop).find { |prop| prop[:shape] == "card" }&.id ||
            raise(RSpec::Expectations::ExpectationNotMetError)
        end
      place("#{card}.position", [0.3, 1.2, 3.0])
      dial("#{card}.even_lit").find("[role='switch']").click
      find("[data-node='#{card}']").click_on("Duplicate")
      shining =
        eventually do
          document(id).of(:prop).select { |prop| prop[:shape] == "card" }[1]&.id ||
            raise(RSpec::Expectations::ExpectationNotMetError)
        end
      open_card(shining)
      place("#{shining}.position", [-0.5, 1.0, 3.4])
      type("#{shining}.light", 0.6)
      clear = take_print(id)
      page.send_keys("6")
      find("[data-node='fog-1'] [data-switch='off']").click
      eventually { expect(document(id).on?(document(id).node("fog-1"))).to be(true) }
      hazy = take_print(id)
      # Colour over depth: what is far is more ochre.
      far = ->(image) { image.crop(0, image.height * 2 / 5, image.width, image.height / 8) }
      ochre = ->(image) { far.call(image).then { |part| part.extract_band(0).avg - part.extract_band(2).avg } }
      expect(ochre.call(hazy)).to be > ochre.call(clear) + 2
      expect((hazy - clear).abs.avg).to be > 2
    end

    it "into the vat: a lidded lantern sinks, fast and then slowly, in a thin medium, lit from behind, above and " \
      "within, with the focus on it, out of the black" do
      id = begin_dark("Vat")
      workshop.shots.edit(
        id,
        [set("sky", :strength, 0.0), set("sky", :background, [0.0, 0.0, 0.0])].select do |edit|
          document(id).the(:sky).kind.dials.key?(edit["dial"].to_sym)
        end + [set("camera", :position, [0.0, 1.2, 4.0]), set("camera", :target, [0.0, 0.9, 0.0])]
      )
      page.send_keys("1")
      add("prop", "plane")
      place("prop-1.position", [0, 0, 0])
      place("prop-1.size", [10, 1, 10])
      type("prop-1.shine", 0.6)
      add("prop", "cylinder")
      type("prop-2.radius", 0.25)
      type("prop-2.tall", 0.5)
      add("prop", "cone")
      choose("prop-3.leader", "Cylinder")
      place("prop-3.position", [0, 0.35, 0])
      type("prop-3.radius", 0.32)
      type("prop-3.tall", 0.2)
      open_card("prop-2")
      go_to 1
      place("prop-2.position", [0, 2.4, 0])
      dial("prop-2.position").find("[data-key]").click
      eventually { expect(document(id).node("prop-2").curves[:position]&.to_a&.size).to eq(1) }
      go_to 12
      type("prop-2.position", 0.45, 1)
      # Fast first: it slows as it comes.
      workshop.shots.edit(
        id, [{"do" => "key", "node" => "prop-2", "dial" => "position", "frame" => 4, "value" => [0.0, 1.0, 0.0]}]
      )
      speeds =
        [2, 6, 10].map do |frame|
          document(id).then do |shot|
            shot.node("prop-2")[:position, frame][1] - shot.node("prop-2")[:position, frame + 1][1]
          end
        end
      expect(speeds).to eq(speeds.sort.reverse)

      page.send_keys("6")
      {"lamp-1" => [0.0, 1.2, -2.0], "lamp-2" => [0.0, 3.0, 0.6], "lamp-3" => [0.0, 0.1, 0.5]}.each do |lamp, at|
        add("lamp")
        choose("#{lamp}.leader", "Cylinder") if lamp == "lamp-3"
        place("#{lamp}.position", at)
      end
      key("lamp-3.stops", 1 => -6, 12 => 1)
      go_to 1
      add("fog")
      type("fog-1.thickness", 0.15)
      eventually { expect(document(id).nodes["fog-1"]&.[](:thickness)).to eq(0.15) }
      undeveloped
      page.send_keys("7")
      open_card("camera")
      choose("camera.focus_on", "Cylinder")
      type("camera.aperture", 2)
      type("camera.samples", 12)
      eventually do
        expect(Picture::Camera.new(Picture::Camera.settings(document(id), 12)).sharp[1]).to be_between(3.5, 4.2)
      end
      high = take_print(id)
      go_to 12
      low = take_print(id)
      # It has come down into the picture, and shines.
      below = ->(image) { image.crop(image.width * 3 / 8, image.height / 2, image.width / 4, image.height * 3 / 8) }
      expect((below.call(low) - below.call(high)).abs.avg).to be > 4
      expect(high.crop(0, 0, 8, 8).avg).to be < 90
    end
  end
end
