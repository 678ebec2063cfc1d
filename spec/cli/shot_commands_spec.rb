# frozen_string_literal: true

module Vumbral
  # The commands, carried out in this process.
  RSpec.describe CLI::ShotCommands do
    include CommandLine

    around { |example| Dir.mktmpdir { |dir| (@dir = dir) && example.run } }

    let(:home) { File.join(@dir, "home") }

    let(:workshop) { Studio::Workshop.new(home) }

    let!(:id) { shelve(workshop) }

    def json(*words, **options) = JSON.parse(run(*words, "--json", **options)[0], symbolize_names: true)

    def file(content, name = "edits.json") = File.join(@dir, name).tap { |path| File.binwrite(path, content) }

    def thickness = Studio::Workshop.new(home).shots.document(id).the(:look)[:thickness]

    describe "what was tried before" do
      before do
        run_now(workshop, id)
        workshop.shots.edit(id, [set("source-1", :smoke, 9.0)])
        run_now(workshop, id)
      end

      it "lists runs, keeps one, brings one back and gives the room of one back" do
        expect(run("runs", id)[0]).to match(/2  draft     8 of 8      Smoke .* → 9.*\n.*1  draft .*First run/)
        expect(json("runs", id, "--keep", "1", "--name", "Thin")[:said]).to eq "Kept as Thin."
        expect(json("runs", id, "--bring-back", "1")[:said]).to eq "Settings of run 1 brought back"
        expect(run("runs", id, "--take-away", "1")[1]).to include "Run 1 is kept"
        expect(run("runs", id, "--take-away", "2")[0]).to include "MB were given back"
        kept = json("kept")[:kept]
        expect(kept.map { |row| row[:name] }).to eq ["Thin"]
        expect(
          json("kept", "--export", kept[0][:digest])[:folders].map { |folder| Dir[File.join(folder, "*.vdb")].size }
        ).to eq [8]
        expect(json("kept", "--let-go", kept[0][:digest])).to include(kept: [], given: Integer)
      end

      it "tells the history as a tree, and goes to a point" do
        expect(run("history", id)[0]).to match(/>    2  Smoke .*\(R2\)\n     1  New shot  \(R1\)/)
        expect(json("history", id, "--go", "1")[:head]).to eq 1
        expect(run("history", id, "--go", "40")[1]).to include "no point 40"
      end
    end

    describe "edit" do
      it "carries out a list as over HTTP, all or none" do
        edits = [set("look", :thickness, 3.0),
          {"do" => "key", "node" => "source-1", "dial" => "smoke", "frame" => 2, "value" => 1.0}]
        expect(run("edit", id,
          file(JSON.generate(edits)))).to eq(["Thickness 60 per m → 3 per m; Key of Smoke at 2\n", "", 0])
        expect(thickness).to eq(3.0)
        code, sentence = run("edit", id, file(JSON.generate([set("look", :thickness, 4.0), set("look", :glow, -1)])),
          "--json").then do |output, _, exit|
          [exit, JSON.parse(output)["error"]]
        end
        expect([code, sentence]).to match([1, /Glow on smoke of Look cannot be -1/])
        expect(thickness).to eq(3.0)
      end

      it "reads from standard input, and takes what HTTP takes" do
        expect(json("edit", id, "-",
          input: JSON.generate(edits: [set("look", :thickness, 3.0)],
            head: 1))).to eq(changed: "Thickness 60 per m → 3 per m",
              head: 2)
        expect(json("edit", id, "-",
          input: JSON.generate(edits: [set("look", :thickness, 5.0)], head: 1))).to include(code: "conflict")
        expect(thickness).to eq(3.0)
      end

      it "says what is wrong with the file" do
        {"{" => [/edits.json is not JSON/, "not_json"], "[]" => [/list of objects/, "bad_edit"],
         "7" => [/list of objects/, "bad_edit"],
         '{"edits": [], "head": "x"}' => [/head must be a whole number/, "bad_value"], "\xFF" => [/not JSON/,
           "not_json"]}.each do |content, (words, code)|
          expect(json("edit", id, file(content))).to match(error: words, code: code)
        end
        expect(json("edit", id, "/no/such.json")).to eq(error: "There is no file /no/such.json.", code: "no_file")
      end
    end

    it "undoes and does again, step by step" do
      run("set", id, "look.thickness", "3")
      expect(run("undo", id)[0]).to eq("Undone: Thickness 60 per m → 3 per m\n")
      expect(run("redo", id)[0]).to eq("Done again: Thickness 60 per m → 3 per m\n")
      expect(run("redo", id)).to eq(["", "There is nothing to redo.\n", 1])
      expect([json("undo", id),
        json("undo", id)]).to match([include(head: 1), {error: "There is nothing to undo.", code: "nothing_to_do"}])
    end

    it "says when a step that it takes back was made in a browser" do
      workshop.shots.edit(id, [set("look", :thickness, 3.0)], by: "window")
      expect(run("undo", id)[0]).to eq("Undone: Thickness 60 per m → 3 per m (made elsewhere)\n")
    end

    it "duplicates, takes away and puts back, and lets go only when it is sure" do
      expect(run("duplicate", id)[0]).to eq("Made the shot little-puff-copy.\n")
      expect(run("take-away", "little-puff-copy")[0]).to eq(
        "Took little-puff-copy away; put-back little-puff-copy puts it back.\n"
      )
      expect(json("shots", "--away").map { |row| row[:id] }).to eq(["little-puff-copy"])
      expect(run("put-back", "little-puff-copy")[0]).to eq("Put little-puff-copy back.\n")
      expect(json("let-go", "little-puff-copy", "--yes")).to include(code: "on_the_shelf")
      run("take-away", "little-puff-copy")
      expect(run("let-go", "little-puff-copy")).to eq(["", "Nothing was let go; say --yes to do it.\n", 1])
      expect(json("let-go", "little-puff-copy")).to include(code: "not_sure")
      expect(run("let-go", "little-puff-copy", "--yes")[0]).to eq("Let little-puff-copy go.\n")
      expect(json("put-back", "little-puff-copy")).to include(code: "unknown_shot")
      expect(json("shots").map { |row| row[:id] }).to eq([id])
    end

    it "brings meshes in, bakes one that moves, and hands props on without a run" do
      ring = Geometry::Builders.torus(0.4, 0.1, sides: 8, around: 6)
      numbered =
        Array.new(3) do |n|
          file(
            Formats::OBJ.write(ring.transformed(Geometry::Transform.place(scale: [1.0 + n, 1.0, 1.0]))), "ring.#{n}.obj"
          )
        end
      expect(run("bring", id, *numbered)).to eq(["ring.#.obj brought in\n", "", 0])
      file("newmtl clay\nKd 0.5 0.4 0.3\n", "pot.mtl")
      pot = file("mtllib pot.mtl\nmtllib none.mtl\nusemtl clay\n#{Formats::OBJ.write(ring)}", "pot.obj")
      found = json("bring", id, pot, "--unit", "cm")
      expect(found).to include(
        changed: "pot.obj brought in", props: ["prop-3"],
        mesh: include(facts: include(coloured: true, left_out: [/none.mtl were left out/]))
      )
      expect(run("bake", id, "prop-2")[0]).to eq("ring baked to a mesh for each frame\n")
      expect(run("export", id, "--as", "ply", "--frames", "2-3", "--out", File.join(@dir, "out"))[2]).to eq(0)
      expect(Dir.children(File.join(@dir, "out")).sort).to eq(%w[little-puff.0002.ply little-puff.0003.ply])
      expect(run("bring", id, file("x", "pot.blob"))).to eq(
        ["", "pot.blob cannot be read as a mesh; bring it as OBJ, STL, PLY, GLTF or GLB.\n", 1]
      )
      expect(run("bring", id)[1]).to eq("Name a mesh file to bring.\n")
      state = Gas::State.still([16, 16, 16]).tap { |still| still.smoke[8, 8, 8] = 1.0 }
      cloud =
        file(Formats::VDB.frame(Grid::Bricks.pack(state), voxel: 0.1, corner: [0.0] * 3, ambient: 293.0), "cloud.vdb")
      expect(json("bring", id, cloud)).to include(sculpt: "sculpt-1")
      expect(run("bring", id, file("x", "none.vdb"))).to eq(["", "none.vdb is no OpenVDB file.\n", 1])
    end

    it "looks a shot over" do
      expect(run("preflight", id)).to eq(["Nothing was found.\n", "", 0])
      run("set", id, "source-1.strength", "0")
      output, _, code = run("preflight", id)
      expect([output,
        code]).to eq(["Plume never feeds: its feeding is 0 throughout. Remedy: Set its feeding to 1.\n", 2])
      found = json("preflight", id)
      expect(found).to match([include(code: "never_on", node: "source-1",
        remedy: include(label: "Set its feeding to 1"))])
      expect(json("edit", id, "-", input: JSON.generate(found[0][:remedy][:edits]))).to include(:changed)
      expect(json("preflight", id)).to eq([])
    end

    it "lists what is worked on" do
      run_now(workshop, id)
      work(workshop, workshop.jobs.add("mesh", nil, {file: "gone", name: "a.obj", as: "mesh"}))
      workshop.jobs.add("run", id, {})
      lines = run("jobs")[0].lines.map(&:rstrip)
      expect(lines[0]).to match(/\A +3  run     little-puff +queued\z/)
      expect(lines[1]).to match(/\A +2  mesh +failed +a\.obj was lost when Vumbral stopped; bring it again\.\z/)
      expect(lines[2]).to match(/\A +1  run     little-puff +done +8 of 8, \d/)
      expect(json("jobs").map { |job| job[:state] }).to eq(%w[queued failed done])
    end

    it "runs what is missing, and says when nothing is" do
      expect(run("run", id)[0]).to match(/\A8 frames computed, 0 used again in [\d.]+ s\.\n\z/)
      expect(run("run", id)[0]).to eq("Every frame is up to date; nothing had to be run.\n")
      expect(json("run", id)).to include(computed: 0, kept: 8)
    end

    it "runs a test strip and makes a sheet of it" do
      out = File.join(@dir, "strip.png")
      said =
        run(
          "strip", id, "--dial", "chamber.curl_boost=0,2", "--dial", "source-1.smoke=2*2/2", "--frame", "3", "--out",
          out
        )[
          0
        ]
      expect(said.lines.size).to eq(5)
      expect(said).to match(/^0 × 4 per s .*top [\d.]+/).and match(/^4 variations, 32 frames computed; sheet: /)
      expect(Vips::Image.new_from_file(out).width).to be > 600
      again = json("strip", id, "--dial", "chamber.curl_boost=0..2/2", "--dial", "source-1.smoke=4")
      expect(again).to include(strip: 2, runs: 2, computed: 0, failed: [])
      expect(run("strip", id, "--dial", "curl").values_at(1, 2)).to match([/NODE\.DIAL=VALUES/, 1])
    end

    it "hands on what there is, and says what is not" do
      run("run", id, "--frames", "1-3")
      out = File.join(@dir, "out")
      expect(run("export", id, "--as", "vdb", "--out",
        out)[1]).to match(/there are frames 1-3, but not 4-8; name those to be handed on/)
      expect(run("export", id, "--as", "vdb", "--out", out, "--frames",
        "2-8")[0]).to match(/\A2 files \(\d+ KB\) in .*: frames 2-3; 4-8 have not been run\.\n\z/)
    end

    it "answers mistakes of the command itself in one sentence, as JSON where that is wanted" do
      expect(run("launch")).to match(["", /\ACould not find command "launch"/, 1])
      expect(json("launch")).to match(error: /Could not find command/, code: "bad_command")
      expect(json("new", "plume")).to match(error: /required options '--name'/, code: "bad_command")
      expect(run("set", id)[2]).to eq(1)
      expect(run("set", id, "look.thickness", "T\xF6pf")[1]).to match(/Thickness of Look cannot be T\?pf/)
    end

    it "says that the disk is full" do
      allow_any_instance_of(Studio::Shots).to receive(:edit).and_raise(Sequel::DatabaseError,
        "database or disk is full")
      expect(json("set", id, "look.thickness",
        "3")).to eq(error: "The disk is full; free some space and try again.", code: "disk_full")
      allow_any_instance_of(Studio::Shots).to receive(:edit).and_raise(Sequel::DatabaseError, "database is locked")
      expect(json("set", id, "look.thickness", "3")).to include(code: "busy")
    end

    it "imports what it showed" do
      saved = file(run("show", id, "--json")[0], "saved.json")
      expect(json("import", saved)).to eq(id: "little-puff-2", name: "Little puff")
      expect(run("show", "little-puff-2")[0]).to include("Little puff, frames 1 to 8", "size = 1, 1.4, 1 m")
    end
  end

  RSpec.describe CLI::JobLine do
    def line(**job)
      base = {id: 7, kind: "run", shot: "kiln-draw", state: "running", done: 0, total: 0, note: nil, left: nil,
              resumed: false, error: nil}
      described_class.new(base.merge(job)).text
    end

    it "says how far it is, what it does, how long it takes, and that it was taken up again" do
      expect(line).to eq("    7  run     kiln-draw                running")
      expect(line(done: 3, total: 9, note: "0.5 s a frame", left: 3.0,
        resumed: true)).to end_with("3 of 9, 0.5 s a frame, 3.0 s left, taken up again")
      expect(line(state: "failed", error: "No.", done: 3, total: 9)).to end_with("failed    No.")
    end
  end
end
