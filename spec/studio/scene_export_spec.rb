# frozen_string_literal: true

module Vumbral
  # A scene for other programs, read by another program.
  RSpec.describe Studio::SceneExport do
    around do |example|
      with_workshop { |workshop| (@workshop = workshop) && Dir.mktmpdir { |out| (@out = out) && example.run } }
    end

    # What the reader of three.js finds of the text, as a tree.
    SCENE_READER = <<~JS # rubocop:disable Lint/ConstantDefinitionInBlock
      import { readFileSync } from "node:fs";
      import { USDAParser } from "three/examples/jsm/loaders/usd/USDAParser.js";
      console.log(JSON.stringify(new USDAParser().parseText(readFileSync(process.argv[1], "utf8"))));
    JS

    def read(path)
      output, errors, status =
        Open3.capture3("node", "--input-type=module", "-e", SCENE_READER, path, chdir: File.join(ROOT, "web"))
      raise errors unless status.success?

      JSON.parse(output)
    end

    # A list of the tree as numbers.
    def numbers(text) = JSON.parse(text.tr("()", "[]"))

    def exported(id, **how)
      row = work(@workshop, @workshop.exports.start(id, "usda", out: @out, **how))
      raise row[:error] unless row[:state] == "done"

      [JSON.parse(row[:result]), read(File.join(@out, "#{id}.usda"))["def Xform \"World\""]]
    end

    it "tells camera, props, lamps and volumes, and refers to files that are there" do
      id =
        shelve(
          @workshop,
          small_shot(
            edits: [
              set("general", :last, 3),
              set("prop-1", :position, [0.3, 0.4, -0.2]),
              {
                "do" => "add",
                "kind" => "lamp",
                "id" => "lamp",
                "name" => "Kiln light",
                "dials" => {
                  "as" => "spot", "cone" => 50.0, "position" => [1.0, 2.0, 1.0]
                }
              },
              {"do" => "key", "node" => "camera", "dial" => "focal", "frame" => 1, "value" => 40.0},
              {
                "do" => "key", "node" => "camera", "dial" => "focal", "frame" => 3, "value" => 80.0, "ease" => "linear"
              }
            ]
          )
        )
      run_now(@workshop, id)
      result, world = exported(id)
      expect(result).to include("files" => 4, "missing" => "")
      expect(world.keys).to include(
        "def Camera \"Camera\"", "def SphereLight \"Kiln_light\"", "def DistantLight \"Sun\"", "def DomeLight \"Sky\"",
        "def Volume \"Chamber\""
      )
      volume = world["def Volume \"Chamber\""]["def OpenVDBAsset \"density\""]
      expect(volume["token fieldName"]).to eq("\"density\"")
      text = File.read(File.join(@out, "#{id}.usda"))
      expect(text.scan(%r{@\./([^@]+)@}).flatten.uniq.map { |file| File.exist?(File.join(@out, file)) }).to eq(
        [true] * 3
      )
      expect(text).to include(
        "float focalLength.timeSamples = { 1: 0.4, 2: 0.6, 3: 0.8 }", "float inputs:shaping:cone:angle = 25",
        "upAxis = \"Y\"", "endTimeCode = 3"
      )
      ball = world["def Mesh \"#{@workshop.shots.document(id).node("prop-1").name.tr(" ", "_")}\""]
      expect(numbers("[#{ball["matrix4d xformOp:transform"]}]")[0][3]).to eq([0.3, 0.4, -0.2, 1])
      points, faces = numbers(ball["point3f[] points"]), numbers(ball["int[] faceVertexIndices"])
      expect(points.map { |point| Math.sqrt(point.sum { |c| c * c }) }.minmax).to all_be_near([0.22, 0.22], 1e-4)
      expect([faces.size, faces.max]).to eq([3 * numbers(ball["int[] faceVertexCounts"]).size, points.size - 1])
    end

    it "tells a camera that leans, and particles with their speeds, widths and numbers, which go as PLY too" do
      sparks = {
        "do" => "add",
        "kind" => "emitter",
        "id" => "sparks",
        "name" => "Sparks",
        "dials" => {
          "prop" => "prop-1", "rate" => 200.0, "speed" => 3.0, "life" => 1.0
        }
      }
      id =
        shelve(
          @workshop,
          small_shot(
            edits: [
              set("general", :last, 3), set("camera", :roll, 90.0), set("camera", :position, [0.0, 1.0, 5.0]),
              set("camera", :target, [0.0, 1.0, 0.0]), sparks
            ]
          )
        )
      _, world = exported(id)
      # Leaning to the right by a quarter, its right is down and its up to the right.
      camera = numbers("[#{world["def Camera \"Camera\""]["matrix4d xformOp:transform"]}]")[0]
      expect(camera[0].first(3)).to all_be_near([0.0, -1.0, 0.0], 1e-5)
      expect(camera[1].first(3)).to all_be_near([1.0, 0.0, 0.0], 1e-5)
      points = world["def Points \"Sparks\""]
      expect(points.keys).to include(
        "point3f[] points.timeSamples", "vector3f[] velocities.timeSamples", "float[] widths.timeSamples",
        "int64[] ids.timeSamples"
      )
      row = work(@workshop, @workshop.exports.start(id, "points", out: File.join(@out, "points"), frames: 2..3))
      expect(JSON.parse(row[:result])["files"]).to eq(2)
      bytes = File.binread(File.join(@out, "points", "#{id}.0003.ply"))
      count = bytes[/element vertex (\d+)/, 1].to_i
      rows = bytes.split("end_header\n".b, 2)[1].unpack("e*").each_slice(9).to_a
      expect(rows.size).to eq(count).and be > 10
      expect(rows.map { |one| Math.sqrt(one[3, 3].sum { |c| c * c }) }.max).to be_between(1.0, 6.0)
      expect(rows.map { |one| one[6] }.max).to be_between(2 / 24.0, 3 / 24.0 + 1e-4)
      bare = shelve(@workshop, small_shot("Bare"))
      expect(refusal { @workshop.exports.start(bare, "points") }[1]).to match(/has no emitter/)
    end

    it "tells what a liquid keeps of its particles, within its chamber and half a voxel wide" do
      id = shelve(@workshop, small_water(voxel: 0.05))
      run_now(@workshop, id)
      _, world = exported(id)
      key = @workshop.shots.document(id).made(1)
      kept = @workshop.liquids.drops(key)
      drops = world.find { |name, _| name.start_with?("def Points") }.last
      points = numbers(drops["point3f[] points.timeSamples"][/1: (\[.*?\])(?:,|\s*\z)/m, 1])
      expect(points.first(kept.count).flatten).to all_be_near(kept.places.to_a, 1e-4)
      # All are alike at all times.
      expect(
        drops.find { |name, _| name.start_with?("float[] widths") }.last.scan(/\d\.\d+/).map(&:to_f)
      ).to all be_within(1e-5).of(0.5 * 0.05)
    end

    it "needs no run, keeps what moves, and names each thing once" do
      id =
        shelve(
          @workshop,
          small_shot(
            edits: [
              set("general", :last, 2),
              {"do" => "add", "kind" => "prop", "id" => "a", "name" => "2 Jar", "dials" => {"shape" => "box"}},
              {"do" => "add", "kind" => "prop", "id" => "b", "name" => "2 Jar", "dials" => {"shape" => "box"}},
              {"do" => "key", "node" => "a", "dial" => "position", "frame" => 1, "value" => [0.0, 0.0, 0.0]},
              {
                "do" => "key", "node" => "a", "dial" => "position", "frame" => 2, "value" => [1.0, 0.0, 0.0],
                "ease" => "linear"
              },
              {"do" => "key", "node" => "b", "dial" => "shown", "frame" => 1, "value" => false},
              {"do" => "key", "node" => "b", "dial" => "shown", "frame" => 2, "value" => true}
            ]
          )
        )
      result, world = exported(id)
      expect(result).to include("files" => 1, "missing" => "1-2")
      jars = world.keys.grep(/Jar/)
      expect(jars).to eq(["def Mesh \"Thing_2_Jar\"", "def Mesh \"Thing_2_Jar_2\""])
      expect(world[jars[0]].keys).to include("matrix4d xformOp:transform.timeSamples")
      expect(File.read(File.join(@out, "#{id}.usda"))).to include(
        "token visibility.timeSamples = { 1: \"invisible\", 2: \"inherited\" }"
      )
      expect(world.keys.grep(/Volume/)).to eq([])
    end
  end
end
