# frozen_string_literal: true

require "sequel"
require "vips"

module Vumbral
  RSpec.describe Studio::Refining do
    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    let(:id) { shelve(@workshop, small_shot(edits: [set("detail", :on, true)])) }

    def fine = Gas::Detail.keys(@workshop.runs.plan(id, "draft"))

    def bytes(key) = File.binread(Dir[File.join(@workshop.home.path, "frames", "*", "#{key}.frame")].first)

    it "makes the frames that are missing and no others, the same as before" do
      run_now(@workshop, id)
      before = fine.transform_values { |key| bytes(key) }
      [3, 4, 8].each do |frame|
        File.delete(Dir[File.join(@workshop.home.path, "frames", "*", "#{fine[frame]}.frame")].first)
      end
      expect(@workshop.runs.state(id, "draft")[:rows].map { |row| row[:state] }.tally).to include("fresh" => 5)
      expect(@workshop.runs.state(id, "draft")[:rows].select { |row| row[:rough] }.map { |row| row[:frame] }).to eq(
        [3, 4, 8]
      )
      expect(run_now(@workshop, id)).to include(computed: 0, kept: 8, refined: 3)
      expect(fine.transform_values { |key| bytes(key) } == before).to be(true)
      expect(@workshop.runs.state(id, "draft")[:rows].map { |row| row[:facts]["finer"] }.uniq).to eq([2])
    end

    it "goes on where it was cut off" do
      job = @workshop.runs.start(id, "draft", views: false)[:job_id]
      worker = Studio::Worker.new(@workshop)
      allow(@workshop.frames).to receive(:write).and_wrap_original do |write, *given, **options|
        write.call(*given, **options).tap { worker.stop if given[0] == fine[4] }
      end
      worker.run_one(job)
      expect(@workshop.jobs.fetch(job)[:state]).to eq("queued")
      allow(@workshop.frames).to receive(:write).and_call_original
      expect(JSON.parse(work(@workshop, job)[:result])).to include("computed" => 0, "refined" => 4)
    end

    it "makes a coarse frame again that it needs and that is gone" do
      run_now(@workshop, id)
      coarse = @workshop.runs.plan(id, "draft").keys
      [coarse[5], fine[5]].each do |key|
        File.delete(Dir[File.join(@workshop.home.path, "frames", "*", "#{key}.frame")].first)
      end
      expect(run_now(@workshop, id)).to include(computed: 1, refined: 1)
    end
  end

  RSpec.describe Studio::Assets do
    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    let(:assets) { @workshop.assets }

    def obj(name = "all", shift = 0.0) = "o #{name}\nv #{shift} 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n"

    it "keeps names as people wrote them, without folders and control characters" do
      {
        "Töpf.obj" => "Töpf.obj", "../../etc/Jug.obj" => "Jug.obj", "C:\\models\\Jug.obj" => "Jug.obj",
        "J\u0000ug\n.obj" => "Jug.obj", "T\xF6pf.obj".b => "T?pf.obj"
      }.each_with_index { |(given, kept), n| expect(assets.bring(obj("all", 0.1 * n), given)).to include(name: kept) }
    end

    it "knows a mesh by its shape: the same under another name is one, another shape another" do
      first, again, other =
        assets.bring(obj, "a.obj"),
        assets.bring(obj("lid"), "b.obj"),
        assets.bring(obj("all", 0.5), "a.obj")
      expect(first[:digest]).to eq(again[:digest])
      expect(other[:digest]).not_to eq(first[:digest])
      expect(assets.list.map { |row| row[:digest] }).to contain_exactly(first[:digest], other[:digest])
    end

    it "tells triangles, points, parts, size and open edges" do
      facts = assets.bring("#{obj("Töpf")}o lid\nv 0 0 2\nf 1 2 4\n", "a.obj")[:facts]
      expect(facts).to include(
        "triangles" => 2, "points" => 4, "parts" => %w[Töpf lid], "open_edges" => 5, "low" => [0.0, 0.0, 0.0],
        "high" => [1.0, 1.0, 2.0]
      )
    end

    it "refuses a mesh without extent, an unknown ending and nothing at all" do
      expect(refusal { assets.bring("v 1 1 1\nv 1 1 1\nv 1 1 1\nf 1 2 3\n", "a.obj") }).to match(
        ["empty_mesh", /All points of a.obj are in the same place/]
      )
      expect(refusal { assets.bring(obj, "a.blob") }).to match(
        ["unknown_format", /a.blob cannot be read as a mesh; bring it as OBJ, STL, PLY, GLTF or GLB/]
      )
      expect(refusal { assets.bring("", "a.obj") }).to eq(["empty_mesh", "a.obj is empty."])
      stub_const("Vumbral::Formats::Meshes::MOST_TRIANGLES", 0)
      expect(refusal { assets.bring(obj, "a.obj") }).to match(
        ["mesh_too_large", /a.obj has 1 triangles; thin it to at most 0/]
      )
      expect(assets.list).to eq([])
    end

    it "reads grey, colour, alpha and sixteen bits alike" do
      grey = (Vips::Image.black(4, 2) + [128]).cast(:uchar)
      deep = (Vips::Image.black(4, 2) + [32_896]).cast(:ushort).copy(interpretation: :grey16)
      pictures = {
        "grey" => grey.copy(interpretation: :b_w), "colour" => grey.bandjoin([grey, grey]).copy(interpretation: :srgb),
        "deep" => deep,
        "alpha" => grey.bandjoin([grey, grey, (grey * 0 + 255).cast(:uchar)]).copy(interpretation: :srgb)
      }
      pictures.each do |name, picture|
        values = assets.picture(assets.bring_picture(picture.write_to_buffer(".png"), "#{name}.png")[:digest]).to_a
        expect(values).to all(be_within(0.01).of(128 / 255.0)), name
      end
    end

    it "shrinks what is larger than can be told apart, and keeps its shape" do
      stub_const("Vumbral::Studio::Pixels::LARGEST_EDGE", 16)
      wide = Vips::Image.black(64, 32).cast(:uchar).draw_rect(255, 32, 0, 32, 32, fill: true)
      row = assets.bring_picture(wide.write_to_buffer(".png"), "wide.png")
      expect(row[:facts]).to eq("width" => 16, "height" => 8)
      expect(assets.picture(row[:digest]).to_a.first(16).minmax).to eq([0.0, 1.0])
    end

    it "refuses by the pixels in the head, before they are read" do
      head = Vips::Image.black(20_000, 6000).write_to_buffer(".png", compression: 9)
      expect(head.bytesize).to be < 600_000
      expect(refusal { assets.bring_picture(head, "huge.png") }).to match(
        ["picture_too_large", /huge.png has 20000 × 6000 pixels; bring at most 100 million/]
      )
    end

    it "takes light from OpenEXR and Radiance HDR as it is, colours from PNG made linear, and alpha; cut off ones " \
      "not" do
      light = Kernel::Buffer.of(:f32, [[2.0, 0.5, 0.25, 0.5], [40.0, 1.0, 0.0, 1.0]].flatten * 8, 2, 8, 4)
      exr = Formats::EXR.write(%w[R G B A].each_with_index.to_h { |c, n| [c, [light, n]] })
      found = Studio::Pixels.read_colours(exr, "a.exr", 64).to_a
      expect(found.first(8)).to match(
        [4.0, 1.0, 0.5, 0.5, 40.0, 1.0, 0.0, 1.0].map { |value| be_within(2e-3 * (1.0 + value)).of(value) }
      )
      hdr =
        Vips::Image
          .new_from_memory([8.0, 2.0, 1.0].pack("e*") * 64, 16, 4, 3, :float)
          .copy(interpretation: :scrgb)
          .write_to_buffer(".hdr")
      expect(Studio::Pixels.read_colours(hdr, "a.hdr", 64).to_a.first(4)).to match(
        [8.0, 2.0, 1.0, 1.0].map { |value| be_within(0.05).of(value) }
      )
      png =
        Vips::Image
          .new_from_memory([188, 255, 0, 64].pack("C*") * 16, 4, 4, 4, :uchar)
          .copy(interpretation: :srgb)
          .write_to_buffer(".png")
      expect(Studio::Pixels.read_colours(png, "a.png", 64).to_a.first(4)).to match(
        [0.503, 1.0, 0.0, 0.251].map { |value| be_within(0.01).of(value) }
      )
      [exr, hdr].each do |bytes|
        expect(refusal { Studio::Pixels.read_colours(bytes[0, bytes.size / 2], "cut", 64) }[0]).to eq("bad_picture")
      end
      expect(Studio::Pixels.read(exr, "a.exr").to_a[1]).to eq(1.0)
      expect(
        Vips::Image.new_from_buffer(Studio::Pixels.shown(Studio::Pixels.read_colours(png, "a.png", 64)), "").getpoint(
          1, 1
        )
      ).to match([be_within(2).of(188), 255, 0, be_within(1).of(64)])
    end

    it "takes PNG, JPEG and TIFF by what they begin with, and nothing else that could be drawn" do
      picture = Vips::Image.black(8, 8).cast(:uchar)
      %w[.png .jpg .tif].each do |ending|
        expect(assets.bring_picture(picture.write_to_buffer(ending), "x.bin")[:facts]).to include("width" => 8)
      end
      [
        "<svg xmlns='http://www.w3.org/2000/svg' width='9' height='9'/>", "%PDF-1.4", "GIF89a", "P5 1 1 255 x", ""
      ].each do |bytes|
        expect(refusal { assets.bring_picture(bytes, "x.png") }).to match(
          ["bad_picture", /PNG, JPEG, TIFF, OpenEXR or Radiance/]
        )
      end
    end

    it "says that a picture is gone" do
      digest = assets.bring_picture(Vips::Image.black(2, 2).write_to_buffer(".png"), "x.png")[:digest]
      FileUtils.rm(Dir[File.join(@workshop.home.path, "pictures", "*")])
      expect(refusal { Studio::Workshop.new(@workshop.home.path).assets.picture(digest) }).to match(
        ["unknown_picture", /bring it again/]
      )
    end
  end

  RSpec.describe Studio::Differences do
    def document(*edits) = small_shot(edits: edits)

    def texts(before, after) = described_class.between(before, after).map { |row| row[:text] }

    it "says in words what was changed, added, taken away and replaced" do
      add = {"do" => "add", "kind" => "lamp", "id" => "extra", "name" => "Extra"}
      expect(texts(document, document(set("look", :thickness, 3.0), add))).to eq(
        ["Thickness 60 per m → 3 per m", "Extra added"]
      )
      expect(texts(document(add), document)).to eq(["Extra taken away"])
      expect(texts(document(add), document(add.merge("kind" => "prop")))).to eq(["Extra replaced"])
      expect(texts(document, document)).to eq([])
      expect(described_class.between(nil, document)).to eq([])
    end

    it "shows courses by their keys and ends" do
      keys =
        [[1, 0.5], [5, 2.0]].map do |frame, value|
          {"do" => "key", "node" => "source-1", "dial" => "smoke", "frame" => frame, "value" => value}
        end
      expect(texts(document, document(*keys))).to eq(["Smoke 4 per s → 2 keys, 0.5 per s to 2 per s"])
    end

    it "puts much into one line" do
      many =
        document(
          set("look", :thickness, 3.0), set("look", :shadow, 0.5), set("chamber", :lift, 2.0),
          set("sky", :strength, 0.9)
        )
      expect(described_class.line(document, many)).to match(/\A\S.*, \S.* and 2 more\z/)
      expect([described_class.line(nil, many), described_class.line(many, many)]).to eq(
        ["First print", "Same settings"]
      )
    end
  end

  RSpec.describe Studio::Events do
    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    it "keeps the newest and lets the oldest go, in order and without gaps between" do
      stub_const("Vumbral::Studio::Events::KEPT", 300)
      1200.times { |n| @workshop.events.tell("shots", "s", n: n) }
      kept = @workshop.events.since(0, limit: 5000)
      expect(kept.size).to be_between(300, 800)
      expect(kept.map { |event| event[:data]["n"] }).to eq(((1200 - kept.size)...1200).to_a)
      expect(@workshop.events.since(kept[-3][:id]).size).to eq(2)
      expect(@workshop.events.since(0, limit: 7).size).to eq(7)
    end
  end

  RSpec.describe Studio::Jobs do
    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    let(:jobs) { @workshop.jobs }

    def dead = Process.spawn("true").tap { |pid| Process.wait(pid) }

    it "puts what somebody waits for before what goes on in the background, and reading before printing" do
      quiet = jobs.add("print", "a", {}, background: true)
      light, print, mesh = jobs.add("light", "a", {}), jobs.add("print", "a", {}), jobs.add("mesh", nil, {})
      expect(Array.new(4) { jobs.claim(%w[short])[:id] }).to eq([mesh, print, light, quiet])
    end

    it "counts attempts of workers that died, and none of those that handed back" do
      id = jobs.add("run", "a", {})
      5.times { jobs.claim(%w[long]) && jobs.release(id) }
      expect(jobs.fetch(id)).to include(attempts: 0, state: "queued", resumed: true)
      2.times { jobs.claim(%w[long], worker: dead) }
      expect(jobs.claim(%w[long])).to include(id: id, attempts: 3)
    end

    it "hands back only what runs" do
      id = jobs.add("run", "a", {})
      jobs.claim(%w[long])
      jobs.finish(id, {a: 1})
      jobs.release(id)
      expect(jobs.show(jobs.fetch(id))).to include(state: "done", result: {"a" => 1}, resumed: false)
    end

    it "says whether somebody waits" do
      jobs.add("run", "a", {}, background: true)
      expect(jobs.waiting?("long")).to be(false)
      asked = jobs.add("export", "a", {})
      expect([jobs.waiting?("long"), jobs.waiting?("short")]).to eq([true, false])
      jobs.cancel(asked)
      expect(jobs.waiting?("long")).to be(false)
    end

    it "lists the newest first" do
      ids = Array.new(4) { jobs.add("print", "a", {}) }
      expect(jobs.recent(3).map { |job| job[:id] }).to eq(ids.last(3).reverse)
      expect(jobs.active("b")).to eq([])
      expect(jobs.cancel_of("a", kind: "run")).to eq([])
      jobs.cancel_of("a")
      expect(jobs.active).to eq([])
    end

    it "takes the paces from where what was kept ends" do
      id = jobs.add("run", "a", {})
      jobs.claim(%w[long])
      jobs.progress(id, 50, 60, "making ready", from_here: true)
      began = jobs.fetch(id)[:started_at]
      jobs.progress(id, 52, 60)
      allow(@workshop).to receive(:now).and_return(began + 2.0)
      expect(jobs.show(jobs.fetch(id))).to include(left: 8.0)
    end

    it "keeps what was asked of it through every state" do
      id = jobs.add("run", "a", {run: 3, last: 9, words: "Töpf"})
      expect(JSON.parse(jobs.claim(%w[long])[:payload])).to eq("run" => 3, "last" => 9, "words" => "Töpf")
      jobs.release(id)
      jobs.claim(%w[long], worker: dead)
      expect(JSON.parse(jobs.claim(%w[long])[:payload])).to include("words" => "Töpf")
    end
  end

  RSpec.describe "A data folder of before" do
    it "is brought to the present shape, with its names and numbers taken as given out" do
      Dir.mktmpdir do |dir|
        db = Sequel.sqlite(File.join(dir, "vumbral.sqlite3"))
        Sequel.extension :migration
        Sequel::Migrator.run(db, File.join(ROOT, "studio", "migrations"), target: 2)
        now = Time.now.to_f
        db[:shots].insert(id: "jug", name: "Jug", head: 1, created_at: now, changed_at: now)
        db[:revisions].insert(
          shot_id: "jug", number: 1, label: "New shot", document: small_shot("Jug").to_json, at: now
        )
        db[:prints].insert(
          shot_id: "jug", number: 7, frame: 1, quality: "draft", width: 1, height: 1, seconds: 1, changed: "",
          document: "{}", created_at: now
        )
        db[:runs].insert(
          shot_id: "jug", number: 1, quality: "draft", revision: 1, keys: "[]", cells: 8, created_at: now
        )
        db[:jobs].insert(kind: "run", lane: "long", shot_id: "jug", payload: "{}", created_at: now)
        db.disconnect
        workshop = Studio::Workshop.new(dir)
        expect(workshop.shots.fetch("jug")).to include(last_print: 7, moved_by: nil)
        expect(shelve(workshop, small_shot("Jug"))).to eq("jug-2")
        expect(workshop.runs.state("jug", "draft")[:rows].size).to eq(8)
        expect(workshop.jobs.claim(%w[long])).to include(background: false, resumed: false)
      end
    end
  end
end
