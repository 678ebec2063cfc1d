# frozen_string_literal: true

require "vips"

module Vumbral
  RSpec.describe Studio::Prints do
    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    # Draft and full are the same run here, for the draft takes no larger voxels.
    let(:id) { shelve(@workshop).tap { |id| run_now(@workshop, id) } }

    def take(frame, **options)
      JSON.parse(work(@workshop, @workshop.prints.take(id, frame, **options))[:result], symbolize_names: true)
    end

    it "keeps a picture with its number, frame, time and what changed" do
      first = take(6)
      expect(first).to include(number: 1, frame: 6, quality: "full", width: 96, height: 54, changed: "First print")
      @workshop.shots.edit(id, [set("look", :thickness, 20.0)])
      second = take(7, size: [64, 36])
      expect(second).to include(number: 2, frame: 7, changed: "Thickness 60 per m → 20 per m")
      expect(take(7)[:changed]).to eq("Same settings")
      picture = Vips::Image.new_from_file(@workshop.prints.path(id, 2))
      expect([picture.width, picture.height, picture.bands]).to eq([64, 36, 3])
      # There is something to be seen.
      expect(picture.deviate).to be > 3.0
      expect(@workshop.prints.list(id).map { |print| print[:number] }).to eq([3, 2, 1])
    end

    it "remembers what made it: differences, and the settings brought back as a step" do
      take(6)
      @workshop.shots.edit(id, [set("look", :thickness, 20.0), {"do" => "add", "kind" => "lamp", "name" => "Extra"},
        {"do" => "key", "node" => "source-1", "dial" => "strength", "frame" => 2, "value" => 0.5}])
      take(6) if run_now(@workshop, id)
      expect(@workshop.prints.differences(id, 1).map { |row| row[:text] }).to contain_exactly(
        "Thickness 20 per m → 60 per m", "Feeding 1 keys, 0.5 times to 0.5 times → 1 times", "Extra taken away"
      )
      expect(@workshop.prints.differences(id, 2, 1).size).to eq(3)
      expect(@workshop.prints.differences(id, 2)).to eq([])
      @workshop.prints.bring_back(id, 1)
      expect(@workshop.prints.differences(id, 1)).to eq([])
      expect(@workshop.shots.undo(id)[:label]).to eq("Undone: Settings of print 1 brought back")
      @workshop.prints.bring_back(id, 1, rows: [{"node" => "look", "dial" => "thickness"}])
      expect(@workshop.prints.differences(id, 1).size).to eq(2)
      expect(@workshop.shots.undo(id)[:label]).to eq("Undone: 1 setting of print 1 brought back")
      expect(refusal { @workshop.prints.bring_back(id, 1, rows: []) }).to match(["bad_value", /Choose what of print 1/])
    end

    it "makes the same bytes again" do
      take(6)
      take(6)
      expect(File.binread(@workshop.prints.path(id, 1)) == File.binread(@workshop.prints.path(id, 2))).to be(true)
    end

    it "refuses frames that are not there and sizes that make no sense" do
      expect(refusal { @workshop.prints.take(id, 99) }).to match(["no_frame", /from 1 to 8/])
      expect(refusal { @workshop.prints.take(id, 3, size: [4, 4]) }).to match(
        ["out_of_range", /16 to 8192 pixels each way, not 4 × 4/]
      )
      expect(refusal { @workshop.prints.fetch(id, 42) }).to match(["unknown_print", /no print 42/])
    end

    it "lets the picture go with its row thirty days after it was taken away" do
      2.times { |n| take(6 + n) }
      path = @workshop.prints.path(id, 1)
      @workshop.prints.take_away(id, 1)
      @workshop.prints.tidy
      expect([File.exist?(path), @workshop.prints.list(id).map { |print| print[:number] }]).to eq([true, [2]])
      allow(@workshop).to receive(:now).and_return(Time.now.to_f + 31 * 24 * 3600)
      @workshop.prints.tidy
      expect([File.exist?(path), refusal { @workshop.prints.put_back(id, 1) }]).to match(
        [false, ["unknown_print", /no print 1/]]
      )
    end
  end

  RSpec.describe Studio::Exports do
    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    let(:id) { shelve(@workshop).tap { |id| run_now(@workshop, id) } }

    def exported(as, **options) = JSON.parse(work(@workshop, @workshop.exports.start(id, as, **options))[:result])

    it "writes PNG pictures with alpha, one a frame" do
      result = exported("png", frames: 6..8, size: [64, 36])
      expect(result).to include("files" => 3)
      files = Dir[File.join(result["folder"], "*")].sort
      expect(files.map { |file| File.basename(file) }).to eq(%w[0006 0007 0008].map { |n| "little-puff.#{n}.png" })
      picture = Vips::Image.new_from_file(files.last)
      expect([picture.bands, picture.width]).to eq([4, 64])
      expect(picture.extract_band(3).min).to eq(0)
      expect(picture.extract_band(3).max).to eq(255)
      expect(@workshop.exports.list(id)[0]).to include(files: files.map { |file| File.basename(file) })
    end

    it "writes volumes with their true size and place to a folder of one's choice" do
      Dir.mktmpdir do |out|
        result = exported("vdb", out: File.join(out, "deep", "er"), frames: 8..8)
        file = File.join(out, "deep", "er", "little-puff.0008.vdb")
        expect(result["bytes"]).to eq(File.size(file))
        script = "import sys, pyopenvdb as v; g = v.read(sys.argv[1], 'density'); print(g.transform.voxelSize()[0], " \
"g.evalMinMax()[1] > 0.05, g.transform.indexToWorld((0, 0, 0))[1])"
        voxel, filled, y = Open3.capture2("/usr/bin/python3", "-c", script, file)[0].split
        expect([voxel.to_f, filled, y.to_f]).to match([be_within(1e-6).of(0.07), "True", be_within(1e-6).of(0.035)])
      end
    end

    it "refuses what cannot be exported" do
      expect(refusal { @workshop.exports.start(id, "gif") }).to match(
        ["bad_value", /png, .*vdb, obj, ply, glb, usda, points, drops, .* or ffv1/]
      )
      expect(refusal { @workshop.exports.start(id, "png", frames: 7..12) }).to match(["out_of_range", /Frames 7-12/])
      @workshop.shots.edit(id, [set("source-1", :smoke, 1.0)])
      expect(refusal { @workshop.exports.start(id, "png") }).to match(
        ["not_run", /No frame of the shot has been run since the last change; run a draft first/]
      )
    end

    it "says which folder cannot be written" do
      row = work(@workshop, @workshop.exports.start(id, "png", out: "/proc/nowhere"))
      expect(row).to include(state: "failed", code: "no_folder", error: "The folder /proc/nowhere cannot be made.")
    end
  end

  RSpec.describe Studio::Assets do
    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    it "keeps a mesh by what is in it" do
      bytes = Formats::OBJ.write(Demo::Models.vase)
      a, b = @workshop.assets.bring(bytes, "vase.obj"), @workshop.assets.bring(bytes, "again.OBJ")
      expect(a[:digest]).to eq(b[:digest])
      expect(@workshop.assets.list.size).to eq(1)
      expect(a[:facts]).to include("open_edges" => 0, "triangles" => Demo::Models.vase.count)
      expect(Studio::Workshop.new(@workshop.home.path).assets.mesh(a[:digest]).digest).to eq(a[:digest])
    end

    it "refuses what is too large, broken or not there" do
      stub_const("Vumbral::Studio::Assets::LARGEST", 2 * 1024 * 1024)
      expect(refusal { @workshop.assets.bring("v" * 3 * 1024 * 1024, "big.obj") }).to match(
        ["file_too_large", /big.obj has 3 MB; bring files of at most 2 MB/]
      )
      expect(refusal { @workshop.assets.bring("v 1", "../../bad.obj") }).to match(["bad_mesh", /\ALine 1 of bad.obj/])
      expect(refusal { @workshop.assets.bring_file("/no/such.obj") }).to match(["no_file", /no file/])
      expect(refusal { @workshop.assets.mesh("0123456789abcdef") }).to match(["unknown_mesh", /bring its file again/])
      expect(@workshop.assets.list).to eq([])
    end

    it "feeds from the inside of a torn body, but not of a sheet" do
      sheet = shelve(@workshop, small_shot(edits: [set("prop-1", :shape, "plane")]))
      expect(work(@workshop, @workshop.runs.start(sheet, "draft")[:job_id])).to include(
        state: "failed", code: "no_inside", error: /come from the surface, or close the mesh/
      )
      ball = Geometry::Builders.sphere(0.3)
      torn = Geometry::Mesh.new(ball.points,
        Kernel::Buffer.of(:i32, ball.triangles.to_a.drop(300), ball.count - 100, 3))
      digest = @workshop.assets.bring(Formats::OBJ.write(torn), "torn.obj")[:digest]
      id =
        shelve(
          @workshop,
          small_shot(
            edits: [set("prop-1", :mesh, digest), set("prop-1", :shape, "mesh"), set("prop-1", :position, [0, 0.4, 0])]
          )
        )
      expect(run_now(@workshop, id)).to include(computed: 8)
    end

    it "finds a damaged file out" do
      digest = @workshop.assets.bring(Formats::OBJ.write(Demo::Models.bowl), "bowl.obj")[:digest]
      path = Dir[File.join(@workshop.home.path, "meshes", "*")].first
      bytes = File.binread(path)
      File.binwrite(path, bytes[0...-3])
      expect(refusal { Studio::Workshop.new(@workshop.home.path).assets.mesh(digest) }).to match(
        ["damaged", /bring it again/]
      )
    end
  end

  RSpec.describe Studio::Home do
    it "leads nowhere outside" do
      Dir.mktmpdir do |dir|
        home = described_class.new(dir)
        expect(home.within("a", "b.png")).to eq(File.join(File.realpath(dir), "a", "b.png")).or eq(
               File.join(dir, "a", "b.png")
             )
        ["../x", "a/../../x", "..", "x\0y", "/etc/passwd/../../.."].each do |name|
          expect(refusal { home.within("exports", name) }).to match(["bad_path", /no name for a file/])
        end
      end
    end

    it "says that a folder cannot be used" do
      expect(refusal { described_class.new("/proc/nowhere") }).to match(
        ["home_not_writable", /choose another with --home/]
      )
      Tempfile.create do |file|
        expect(refusal { described_class.new(file.path) }).to match(["home_not_writable", /cannot be made/])
      end
    end

    it "says that the data is damaged, or of a newer Vumbral" do
      Dir.mktmpdir do |dir|
        File.write(File.join(dir, "vumbral.sqlite3"), "this is no database at all, but long enough to look at")
        expect(refusal { Studio::Workshop.new(dir) }).to match(
          ["bad_database", /cannot be opened .* move it away to begin anew/]
        )
      end
      Dir.mktmpdir do |dir|
        Studio::Workshop.new(dir).db[:schema_info].update(version: 99)
        expect(refusal { Studio::Workshop.new(dir) }).to match(["newer_version", /newer Vumbral/])
      end
    end
  end
end
