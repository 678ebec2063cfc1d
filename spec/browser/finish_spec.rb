# frozen_string_literal: true

module Vumbral
  # From a plate to a movie.
  RSpec.describe "Finishing at the desk" do
    def document(id) = workshop.shots.document(id)

    def frame_shown(number) =
      expect(page).to have_css("[data-finished][data-shown='#{number}']:not([data-busy])", wait: 60)

    # What the finished frame is like on the whole, 0 to 255.
    def brightness = eventually { decoded || raise(RSpec::Expectations::ExpectationNotMetError) }

    # Nothing while one picture gives way to the next.
    def decoded
      page.evaluate_async_script(<<~JS)
        const done = arguments[0], image = document.querySelector("[data-finished] img");
        image.decode().then(() => {
          const canvas = Object.assign(document.createElement("canvas"), {width: 32, height: 18}), to = canvas.getContext("2d");
          to.drawImage(image, 0, 0, 32, 18);
          const data = to.getImageData(0, 0, 32, 18).data;
          done(data.reduce((sum, value, n) => n % 4 === 3 ? sum : sum + value, 0) / (3 * 32 * 18));
        }).catch(() => done(null));
      JS
    end

    # Four pictures of a wall with a bright spot that goes to the right.
    def plate(folder)
      (1..4).map do |n|
        image = Vips::Image.xyz(96, 54)
        far = ((image[0] - (30.5 + 4 * n))**2 + (image[1] - (20.0 + n))**2)**0.5
        spot = ((far * -0.25).exp * 180 + ((image[0] * 0.9).sin + (image[1] * 0.8).cos) * 8 + 40).cast(:uchar)
        File
          .join(folder, "wall.#{n}.png")
          .tap { |path| spot.bandjoin([spot, spot]).copy(interpretation: :srgb).write_to_file(path) }
      end
    end

    it "lays the shot over a plate, changes it under the hand, follows a spot, and hands a movie on" do
      id = shelve(workshop, small_shot("Torch #{rand(1 << 30)}", edits: [set("general", :last, 4)]))
      run_now(workshop, id)
      open_desk(id)
      page.execute_script("document.activeElement?.blur()")
      page.send_keys("8", :home)
      expect(page).to have_text("Layers of the finished picture go here")
      add("layer", "a plate")
      expect(page).to have_css("[data-node='shot-layer']")
      expect(page).to have_text("shows nothing yet; bring the files of its plate")
      low =
        eventually do
          document(id).of(:layer).find { |layer| layer[:what] == "plate" } ||
            raise(RSpec::Expectations::ExpectationNotMetError)
        end
      Dir.mktmpdir do |folder|
        find("[data-dial='#{low.id}.plate'] input[type='file']", visible: :all).attach_file(plate(folder))
        eventually(30) { expect(document(id).node(low.id)[:plate]).not_to be_nil }
      end
      expect(page).to have_text("the picture's tone curve and contrast bend its brightness once more", wait: 30)
      click_on "Show it as it is"
      eventually { expect(document(id).the(:picture)[:tone]).to eq("plain") }
      frame_shown(1)

      # All that lies below is made darker, and follows the hand before it is let go.
      find("[data-node='shot-layer'] .head").click
      add("layer", "what lies below, changed")
      add("effect", "makes it brighter")
      effect = eventually { document(id).of(:effect)[0] || raise(RSpec::Expectations::ExpectationNotMetError) }
      expect(document(id).node(effect[:layer])[:what]).to eq("change")
      frame_shown(1)
      before = brightness
      hand = page.driver.browser.action
      hand.move_to(number("#{effect.id}.stops").native).click_and_hold.move_by(-30, 0).move_by(-30, 0).perform
      eventually(20) { expect(brightness).to be < 0.9 * before }
      page.send_keys(:escape)
      hand.release.perform
      frame_shown(1)
      eventually(20) { expect(brightness).to be_within(2).of(before) }
      expect(document(id).node(effect.id)[:stops]).to eq(0.0)
      type("#{effect.id}.stops", -2)
      eventually(20) { expect(brightness).to be < 0.75 * before }

      # Only in an oval, which the hand moves in the frame.
      add("mask", "an oval")
      mask = eventually { document(id).of(:mask)[0] || raise(RSpec::Expectations::ExpectationNotMetError) }
      expect(mask[:to]).to eq(effect.id)
      grip = find("[data-grip='middle']")
      page.driver.browser.action.move_to(grip.native).click_and_hold.move_by(40, 0).move_by(20, 10).release.perform
      eventually { expect(document(id).node(mask.id)[:x]).to be > 52.0 }
      eventually(20) { expect(brightness).to be > 0.6 * before }

      # A spot of the plate is followed.
      add("track")
      spot = eventually { document(id).of(:track)[0] || raise(RSpec::Expectations::ExpectationNotMetError) }
      expect(document(id).node(spot[:layer])[:what]).to eq("plate")
      place = {x: 100 * 35.0 / 96, y: 100 * 21.5 / 54, pattern: 30, search: 12}
      place.each { |dial, value| type("#{spot.id}.#{dial}", value.round(2)) }
      find("[data-track='on']").click
      expect(page).to have_text("was followed over 4 frames", wait: 30)
      found = document(id).node(spot.id)
      expect((found[:x, 4] - found[:x, 1]) * 0.96).to be_within(0.2).of(12.0)

      page.execute_script("document.activeElement?.blur()")
      page.send_keys("p")
      eventually(60) { expect(workshop.prints.list(id).size).to eq(1) }
      page.send_keys("9")
      find("[aria-label='Format']").click
      find(".n-base-select-option", text: "MP4 movie, H.264").click
      expect(page).to have_css("[aria-label='With the layers of the finish'][aria-checked='true']")
      find("[data-export]").click
      expect(page).to have_css("[data-exported]", text: "mp4", wait: 90)
    end

    it "plays finished frames, and goes back to the view of the shot" do
      id =
        shelve(
          workshop,
          small_shot(
            "Played #{rand(1 << 30)}",
            edits: [set("general", :last, 4), {"do" => "add", "kind" => "layer", "id" => "one", "name" => "One"}]
          )
        )
      run_now(workshop, id)
      open_desk(id)
      page.execute_script("document.activeElement?.blur()")
      page.send_keys("8", :home)
      frame_shown(1)
      find("[data-scopes-chip]").click
      expect(page).to have_css("[data-scopes]")
      find("[data-play]").click
      seen = []
      eventually(60) { (seen |= [find("[data-finished]")["data-shown"]]) && expect(seen.size).to(eq(4)) }
      stop_playing
      # Each was made once: they play on from memory, and are asked for anew only where something changed.
      asked = -> do
        page.evaluate_script(
          "performance.getEntriesByType('resource').filter((one) => one.name.endsWith('/finished')).length"
        )
      end
      eventually(60) { expect(page).to have_no_css("[data-finished][data-busy]", wait: 0) }
      before = asked[]
      page.execute_script("document.activeElement?.blur()")
      [:home, :end, :home].each do |key|
        page.send_keys(key)
        frame_shown((key == :end) ? 4 : 1)
      end
      expect(asked[]).to eq(before)
      # A part is drawn, taken away, and taken about the pointer by a key.
      find("[data-part-chip]").click
      sheet = find("[data-part-sheet]").native
      page
        .driver
        .browser
        .action
        .move_to(sheet, -60, -40)
        .pointer_down(:left)
        .move_to(sheet, 50, 40)
        .pointer_up(:left)
        .perform
      expect(page).to have_css("[data-part]")
      eventually(60) { expect(asked[]).to be > before }
      find("[data-part-chip]").click
      expect(page).to have_no_css("[data-part]")
      page.driver.browser.action.move_to(find(".frame").native).perform
      page.send_keys("D")
      expect(page).to have_css("[data-part]")
      find("[data-coarse]").click
      eventually(60) { expect(page).to have_no_css("[data-finished][data-busy]", wait: 0) }
      click_on "Finished frame"
      expect(page).to have_no_css("[data-finished]")
      find("[data-finish-again]").click
      expect(page).to have_css("[data-finished]")
    end

    # A wall of specks before a camera that turns.
    def turning(folder)
      rng = Random.new(4)
      specks = Array.new(18) { [150 * rng.rand, 90 * rng.rand, 0.15 + 0.2 * rng.rand] }
      (1..4).map do |n|
        image = Vips::Image.xyz(160, 90)
        light =
          specks.reduce(image[0] * 0 + 40) do |sum, (x, y, size)|
            sum + (((image[0] - (x - 2 * n))**2 + (image[1] - y)**2) * -size).exp * 170
          end
        File
          .join(folder, "yard.#{n}.png")
          .tap do |path|
            light
              .cast(:uchar)
              .then { |grey| grey.bandjoin([grey, grey]) }
              .copy(interpretation: :srgb)
              .write_to_file(path)
          end
      end
    end

    it "finds spots in a plate, turns the camera by them, shows the plate behind the shot, and keeps an export with " \
      "it" do
      plate =
        Dir.mktmpdir do |folder|
          workshop.plates.bring(turning(folder).to_h { |path| [File.basename(path), path] })[:digest]
        end
      layers =
        [["wall", {"what" => "plate", "plate" => plate, "order" => -1}], ["shot-layer", {}]].map do |id, dials|
          {"do" => "add", "kind" => "layer", "id" => id, "name" => id, "dials" => dials}
        end
      id =
        shelve(
          workshop,
          small_shot(
            "Turning #{rand(1 << 30)}",
            edits: [set("general", :last, 4), set("picture", :width, 160), set("picture", :height, 90), *layers]
          )
        )
      run_now(workshop, id)
      open_desk(id)
      page.execute_script("document.activeElement?.blur()")
      page.send_keys("8", :home)
      frame_shown(1)
      find("[data-bands]").click
      expect(page).to have_text("lost in black")
      find("[data-bands]").click
      open_card("wall")
      find("[data-find-spots]").click
      expect(page).to have_text(/\d+ spots were followed, of \d+ that were found/, wait: 60)
      expect(document(id).of(:track).size).to be >= 4

      page.execute_script("document.activeElement?.blur()")
      page.send_keys("7")
      open_card("camera")
      find("[data-sight='tripod']").click
      expect(page).to have_text("The camera is known on 4 frames", wait: 60)
      # What goes to the left by 6 of 160 pixels, the camera turns to the right for.
      turned =
        [1, 4].map do |frame|
          Picture::Camera
            .settings(document(id), frame)
            .then do |camera|
              Math.atan2(*camera["target"].zip(camera["position"]).map { |a, b| a - b }.values_at(0, 2).map(&:abs))
            end
        end
      half = 18.0 / document(id).the(:camera)[:focal]
      expect((turned[1] - turned[0]).abs).to be_within(0.1 * 6 * half / 80).of(6 * half / 80)

      page.send_keys("v")
      expect(page).to have_css("[data-chip='plate'].on")
      find("[data-chip='plate']").click
      expect(page).to have_css("[data-chip='plate']:not(.on)")

      page.execute_script("document.activeElement?.blur()")
      page.send_keys("9")
      find("[data-keep-export]").click
      saved = eventually { document(id).of(:export)[0] || raise(RSpec::Expectations::ExpectationNotMetError) }
      open_card(saved.id)
      find("[data-export-saved]").click
      files =
        eventually(90) do
          workshop.exports.list(id)[0]
            &.fetch(:files)
            .to_a
            .then do |list|
              if list.any? { |file| file.end_with?(".sheet.jpg") }
                list
              else
                raise(RSpec::Expectations::ExpectationNotMetError)
              end
            end
        end
      expect(files.map { |file| file[/\.(.*)/] }).to include(".0001.png", ".0004.png", ".sheet.jpg", ".shot.json")
    end
  end
end
