# frozen_string_literal: true

module Vumbral
  # Finished frames in prints, exports and to look at.
  RSpec.describe Studio::Finishing do
    include FinishHelp

    around do |example|
      with_workshop { |workshop| (@workshop = workshop) && Dir.mktmpdir { |out| (@out = out) && example.run } }
    end

    def shot(*edits) = shelve(@workshop, small_shot(edits: [set("general", :last, 4), *edits]))

    def print_of(id, frame)
      row = work(@workshop, @workshop.prints.take(id, frame))
      raise row[:error] unless row[:state] == "done"

      Vips::Image.new_from_file(@workshop.prints.path(id, JSON.parse(row[:result])["number"])).extract_band(0, n: 3)
    end

    def look(id, frame, edits: [], part: nil)
      document = Shot::Edits.apply(@workshop.shots.document(id), edits + [set("general", :last, 4)])[0]
      finish = @workshop.finishing
      rushes = Studio::Rushes.of(@workshop, id, document, [frame], quiet: true)
      jobs = finish.missing(rushes, frame, [96, 54], part: part)
      jobs.each { |payload| work(@workshop, @workshop.jobs.add("element", id, payload)) }
      [finish.look(rushes, frame, [96, 54], part: part), jobs.size]
    end

    it "prints the shot alone as it prints it without layers, and changed by its effects" do
      plain, layered = shot, shot(layer("one"))
      run_now(@workshop, plain)
      before = print_of(plain, 4)
      expect((before - print_of(layered, 4)).abs.max).to be <= 1.0
      @workshop.shots.edit(layered, [layer("all", 1, what: "change"), effect("all", "exposure", stops: -3.0)])
      expect(print_of(layered, 4).avg).to be < 0.6 * before.avg
    end

    it "makes each picture of the shot once: dials of the finish make none anew, and a part of a dial's way is only " \
      "looked at" do
      id = shot(layer("one"), layer("all", 1, what: "change"), effect("all", "exposure", stops: 0.0))
      run_now(@workshop, id)
      first, made = look(id, 3)
      expect(made).to eq(1)
      darker, more = look(id, 3, edits: [set("all-exposure", :stops, -1.0)])
      expect(more).to eq(0)
      expect(
        darker.to_a.zip(first.to_a).each_slice(4).map { |pixel| pixel[0] }.map { |a, b| (a - 0.5 * b).abs }.max
      ).to be < 1e-5
      expect(@workshop.shots.document(id).node("all-exposure")[:stops]).to eq(0.0)
      # The light of the shot makes it anew.
      expect(look(id, 3, edits: [set("sky", :strength, 3.0)])[1]).to eq(1)
      # It is found on disk by the next process.
      allow(@workshop.painting).to receive(:image).and_raise("made again")
      again = Studio::Workshop.new(@workshop.home.path)
      expect(
        again.finishing.look(Studio::Rushes.of(again, id, again.shots.document(id), [3]), 3, [96, 54]).bytes
      ).to eq(first.bytes)
    end

    it "renders only a part in full, which is then as in the whole, and the rest coarsely" do
      id = shot(layer("one"), layer("all", 1, what: "change"), effect("all", "exposure", stops: 1.0))
      run_now(@workshop, id)
      sizes = []
      allow(@workshop.painting).to receive(:image).and_wrap_original { |real, *given, **more|
        real.call(*given, **more).tap { sizes << given[3] }
      }
      part, = look(id, 3, part: [30, 11, 61, 40])
      expect(sizes).to eq([[31, 29], [24, 16]])
      whole, made = look(id, 3)
      expect(made).to eq(1)
      off = ->(x, y) { (0..3).map { |c| (part[y, x, c] - whole[y, x, c]).abs }.max }
      expect([30, 45, 60].product([11, 25, 39]).map { |x, y| off[x, y] }.max).to be < 2e-3
      expect((0...96).to_a.product((0...54).to_a).sum { |x, y| off[x, y] }.fdiv(96 * 54)).to be_between(1e-4, 0.1)
      # What is there already in full is not made again.
      sizes.clear
      expect([look(id, 3, part: [0, 0, 20, 20])[1], sizes]).to eq([0, []])
    end

    it "shows the layers on contact sheets" do
      id = shot(layer("one"))
      run_now(@workshop, id)
      before = @workshop.sheets.make(id, [2, 4], [96, 54])[1]
      @workshop.shots.edit(id, [effect("one", "exposure", stops: -9.0)])
      after = @workshop.sheets.make(id, [2, 4], [96, 54])[1]
      expect(after.map { |row| row[:dark] }).to eq([1.0, 1.0])
      expect(before.map { |row| row[:dark] }.max).to be < 1.0
    end

    it "makes a picture anew where what throws glowing particles goes elsewhere, seen or not" do
      id =
        shot(
          layer("one"),
          {
            "do" => "add",
            "kind" => "prop",
            "id" => "coal",
            "name" => "Coal",
            "dials" => {
              "shown" => false, "radius" => 0.1
            }
          },
          {
            "do" => "add",
            "kind" => "emitter",
            "id" => "sparks",
            "name" => "Sparks",
            "dials" => {
              "prop" => "coal", "rate" => 50.0, "glow" => 9.0
            }
          }
        )
      run_now(@workshop, id)
      expect([look(id, 3)[1], look(id, 3)[1], look(id, 3, edits: [set("coal", :position, [0.5, 0.5, 0.0])])[1]]).to eq(
        [1, 0, 1]
      )
    end

    it "makes a damaged picture again" do
      id = shot(layer("one"))
      run_now(@workshop, id)
      first, = look(id, 2)
      Dir[@workshop.home.within("elements", "*", "*")].each { |file| File.binwrite(file, "rubbish") }
      again = Studio::Workshop.new(@workshop.home.path)
      expect(
        again.finishing.look(Studio::Rushes.of(again, id, again.shots.document(id), [2]), 2, [96, 54]).bytes
      ).to eq(first.bytes)
    end

    it "shows props and smoke on layers of their own, holds props out, and leaves them out" do
      id = shot(layer("one", backdrop: "never"), set("prop-1", :shown, true), set("ground", :shown, false))
      run_now(@workshop, id)
      cover = ->(dials) do
        look(id, 4, edits: dials.map { |dial, value| set("one", dial, value) })[0].to_a.each_slice(4).map(&:last)
      end
      whole, smoke, props = cover[{}], cover[{part: "volumes"}], cover[{part: "props"}]
      expect([smoke.sum, props.sum]).to all(be_between(1.0, 1.001 * whole.sum))
      # Where the prop is, smoke is held out: both together come to the whole.
      off = whole.zip(smoke, props).map { |all, a, b| (all - (a + b - a * b)).abs }
      expect(off.sum / off.size).to be < 0.03
      bodies = @workshop.shots.document(id).of(:prop).map(&:id)
      expect(cover[{part: "props", held: bodies}].sum).to eq(0.0)
      expect(cover[{part: "props", seen: bodies.last(1)}].sum).to be < props.sum
    end

    it "lights a layer by some lamps alone, and takes the run that it is told to" do
      lamp = {
        "do" => "add",
        "kind" => "lamp",
        "id" => "spot",
        "name" => "Spot",
        "dials" => {
          "position" => [0.0, 2.0, 3.0], "strength" => 30.0
        }
      }
      id = shot(layer("one"), lamp, set("chamber", :draft, 2.0))
      run_now(@workshop, id)
      all, = look(id, 3)
      sun, = look(id, 3, edits: [set("one", :lamps, ["sun-1"])])
      spot, = look(id, 3, edits: [set("one", :lamps, ["spot"])])
      expect([sun.to_a.sum, spot.to_a.sum]).to all(be < all.to_a.sum)
      @workshop.shots.edit(id, [set("one", :made, "full")])
      expect(refusal { @workshop.prints.take(id, 3) }[1]).to match(/Frame 3 has not been run/)
      run_now(@workshop, id, "full")
      fine, = look(id, 3)
      @workshop.shots.edit(id, [set("one", :made, "draft")])
      expect(look(id, 3)[0].to_a).not_to eq(fine.to_a)
      expect(look(id, 3)[0].to_a).to eq(all.to_a)
    end

    it "shows another shot with its own layers, and refuses one that would be seen within itself" do
      splash =
        shelve(
          @workshop,
          small_shot(
            "Splash",
            edits: [
              set("general", :last, 4), layer("own"), layer("all", 1, what: "change"),
              effect("all", "exposure", stops: -2.0)
            ]
          )
        )
      id = shot(layer("over", what: "other", shot: splash))
      run_now(@workshop, splash)
      run_now(@workshop, id)
      plain, = look(id, 3)
      expect(look(id, 3, edits: [set("over", :finished, true)])[0].to_a).to all_be_near(
        plain.to_a.each_with_index.map { |v, n| (n % 4 == 3) ? v : 0.25 * v }, 1e-4
      )
      expect(look(id, 3, edits: [set("over", :finished, true)])[1]).to eq(0)
      @workshop.shots.edit(id, [set("over", :finished, true)])
      expect(print_of(id, 3).avg).to be_within(2.0).of(print_of(splash, 3).avg)
      @workshop.shots.edit(splash, [layer("back", 2, what: "other", shot: id, finished: true)])
      expect(refusal { @workshop.prints.take(id, 2) }[1]).to match(/would be seen within itself/)
    end

    it "masks by the shape of a prop, whatever stands before it, and is seen only where it is nearer" do
      ball = {
        "do" => "add",
        "kind" => "prop",
        "id" => "ball",
        "name" => "Ball",
        "dials" => {
          "shape" => "sphere", "radius" => 0.5, "position" => [0.0, 1.3, 2.0], "shown" => false
        }
      }
      wall = {
        "do" => "add",
        "kind" => "prop",
        "id" => "wall",
        "name" => "Wall",
        "dials" => {
          "shape" => "box", "size" => [9.0, 9.0, 0.1], "position" => [0.0, 1.0, 3.0]
        }
      }
      id =
        shot(
          ball, wall, layer("red", what: "colour", colour: [1.0, 0.0, 0.0]),
          mask("red", "prop", prop: "ball", soft: 0.0)
        )
      run_now(@workshop, id)
      hidden = look(id, 1)[0]
      expect(hidden[27, 48, 0]).to be > 0.99
      expect(hidden[2, 2, 3]).to be < 0.01
      # Of two layers of the shot the wall hides the ball, which lies above it in the stack.
      layers = [set("red", :what, "shot"), set("red", :seen, ["wall"]), set("ball", :shown, true)]
      nearer = [*layers, layer("over", 1, seen: ["ball"], part: "props", blend: "nearer")]
      behind, = look(id, 1, edits: nearer)
      before, = look(id, 1, edits: [*nearer, set("ball", :position, [0.0, 1.3, 4.0])])
      alone, = look(id, 1, edits: layers)
      off = ->(image) { image.to_a.zip(alone.to_a).map { |a, b| (a - b).abs }.max }
      expect([off[behind] < 1e-4, off[before] > 0.01]).to eq([true, true])
    end

    it "shows another shot, later and in its own time, as it stood when the print was asked for" do
      splash =
        shelve(
          @workshop,
          small_shot(
            "Splash", edits: [set("general", :last, 4), set("general", :rate, 48.0), set("ground", :shown, false)]
          )
        )
      id =
        shot(
          layer("one", backdrop: "never", part: "props"), layer("over", 1, what: "other", shot: splash, blend: "add"),
          set("prop-1", :shown, false), set("ground", :shown, false)
        )
      run_now(@workshop, id)
      expect(refusal { @workshop.prints.take(id, 2) }[1]).to match(
        /Of the shot Splash, which a layer shows: Frame 3 has not been run/
      )
      run_now(@workshop, splash)
      # Two of its frames for each of the shot's.
      stack = Studio::Rushes.of(@workshop, id, @workshop.shots.document(id), [1, 2]).stack
      expect([1, 2].map { |frame| stack.at(frame)[1]["at"] }).to eq([[[1, 1.0]], [[3, 1.0]]])
      there, = look(id, 2)
      alone, = look(splash, 3, edits: [layer("self", backdrop: "never")])
      # Each is exposed as it is itself.
      expect(there.to_a.zip(alone.to_a).map { |a, b| (a - b).abs }.max).to be < 1e-4
      job = @workshop.prints.take(id, 2)
      @workshop.shots.edit(splash, [set("prop-1", :shown, false)])
      row = work(@workshop, job)
      expect(row[:state]).to eq("done")
      seen = Vips::Image.new_from_file(@workshop.prints.path(id, 1))
      expect(seen.extract_band(0, n: 3).max).to be > 60
      @workshop.shots.take_away(splash)
      @workshop.shots.let_go(splash)
      expect(look(id, 2)[0].to_a.sum).to eq(0.0)
    end

    it "hands on finished frames with alpha, as OpenEXR with passes, and as movies; or without the finish" do
      id = shot(layer("one"), effect("one", "exposure", stops: -20.0))
      run_now(@workshop, id)
      export = ->(as, folder, **how) do
        row = work(@workshop, @workshop.exports.start(id, as, out: File.join(@out, folder), frames: 3..4, **how))
        raise row[:error] unless row[:state] == "done"

        Dir[File.join(@out, folder, "*")].sort
      end
      black, plain =
        [true, false].map { |finish| Vips::Image.new_from_file(export["png", "png-#{finish}", finish: finish][1]) }
      expect(black.extract_band(0, n: 3).max).to be < 5
      expect(plain.extract_band(0, n: 3).max).to be > 50
      expect((black.extract_band(3) - plain.extract_band(3)).abs.max).to be <= 1.0
      expect(export["exr", "exr", passes: %w[depth masks]].size).to eq(2)
      expect(export["mp4", "mp4"].size).to eq(1)
      @workshop.shots.edit(id, [layer("two", 1, what: "colour", opacity: 10.0)])
      apart = File.binread(export["exr", "apart", passes: %w[layers]][0])
      expect(%w[one.R one.A two.B].map { |channel| apart.include?(channel) }).to eq([true] * 3)
      expect(refusal { @workshop.exports.start(id, "exr", passes: %w[lamps], frames: 3..4) }[1]).to match(
        /hand that on without the finish/
      )
    end

    it "hands TIFF and DPX pictures on, which other programs read as they were made" do
      id = shot(layer("one"))
      run_now(@workshop, id)
      files =
        %w[tif dpx png16].to_h do |as|
          work(@workshop, @workshop.exports.start(id, as, out: folder = File.join(@out, as), frames: 4..4)).then do
            [as, Dir[File.join(folder, "*")][0]]
          end
        end
      deep = Vips::Image.new_from_file(files["tif"])
      expect([deep.format, deep.bands, (deep - Vips::Image.new_from_file(files["png16"])).abs.max]).to eq(
        [:ushort, 4, 0.0]
      )
      read, status =
        Open3.capture2(
          "ffmpeg", "-v", "error", "-i", files["dpx"], "-pix_fmt", "rgb48le", "-f", "rawvideo", "-", binmode: true
        )
      expect([status.success?, read.bytesize]).to eq([true, 96 * 54 * 6])
      seen = Vips::Image.new_from_memory(read, 96, 54, 3, :ushort)
      shown = print_of(id, 4)
      expect((seen / 257.0 - shown).abs.avg).to be < 0.6
    end

    it "shows a plate below the shot, a frame of it for each" do
      Dir.mkdir(folder = File.join(@out, "plate"))
      files =
        (1..4).to_h do |n|
          [
            "wall.#{n}.png",
            File
              .join(folder, "wall.#{n}.png")
              .tap do |path|
                Vips::Image
                  .black(96, 54, bands: 3)
                  .linear(1, 50 * n)
                  .cast(:uchar)
                  .copy(interpretation: :srgb)
                  .write_to_file(path)
              end
          ]
        end
      plate = @workshop.plates.bring(files)
      id =
        shot(
          layer("low", -1, what: "plate", plate: plate[:digest]), layer("one", part: "volumes"),
          set("picture", :tone, "plain"), set("picture", :contrast, 1.0), set("picture", :bloom, 0.0),
          set("picture", :grain, 0.0)
        )
      run_now(@workshop, id)
      # The corner sees the plate alone, as it is.
      expect([1, 4].map { |frame| print_of(id, frame).getpoint(1, 1)[0].round }).to eq([50, 200])
    end

    it "follows a spot of a plate and makes keys of it, as one step that its asker takes back" do
      Dir.mkdir(folder = File.join(@out, "plate"))
      files = (1..4).to_h do |n|
        image = Vips::Image.xyz(96, 54)
        far = ((image[0] - (30.5 + 4 * n))**2 + (image[1] - (20.0 + n))**2)**0.5
        spot = ((far * -0.25).exp * 200 + ((image[0] * 0.9).sin + (image[1] * 0.8).cos) * 8 + 30).cast(:uchar)
        [
          "dot.#{n}.png",
          File
            .join(folder, "dot.#{n}.png")
            .tap { |path| spot.bandjoin([spot, spot]).copy(interpretation: :srgb).write_to_file(path) }
        ]
      end
      plate = @workshop.plates.bring(files)
      id =
        shot(
          layer("low", what: "plate", plate: plate[:digest]),
          {
            "do" => "add",
            "kind" => "track",
            "id" => "spot",
            "name" => "Spot",
            "dials" => {
              "layer" => "low", "x" => 100 * 35.0 / 96, "y" => 100 * 21.5 / 54, "pattern" => 30.0, "search" => 12.0
            }
          }
        )
      row = work(@workshop, @workshop.tracking.start(id, "spot", 1, 4, by: "me"))
      expect(JSON.parse(row[:result])).to include("found" => 4, "slipped" => nil)
      spot = @workshop.shots.document(id).node("spot")
      ways = [2, 3, 4].map { |frame| [(spot[:x, frame] - spot[:x, 1]) * 0.96, (spot[:y, frame] - spot[:y, 1]) * 0.54] }
      expect(ways.flatten).to all_be_near([4.0, 1.0, 8.0, 2.0, 12.0, 3.0], 0.1)
      @workshop.shots.undo(id, by: "me", others: false)
      expect(@workshop.shots.document(id).node("spot").curves).to be_empty
      expect(refusal { @workshop.tracking.start(id, "low", 1, 4) }[1]).to match(/is no tracked spot/)
      expect(refusal { @workshop.tracking.start(id, "spot", 1, 40) }[1]).to match(/not both in the shot/)
    end
  end
end
