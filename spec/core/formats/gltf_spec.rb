# frozen_string_literal: true

module Vumbral
  RSpec.describe Formats::GLTF do
    def run(*command) = Open3.capture2e(*command).then { |words, status| status.success? ? words : raise(words) }

    def pose(turn = [0.0, 0.0, 0.0], at = [0.0, 0.0, 0.0], scale = [1.0, 1.0, 1.0]) =
      Geometry::Pose.new(at, turn, scale)

    def read(bytes, name = "a.glb", **rest) = Formats::Meshes.model(bytes, name: name, **rest)

    def numbers(buffer, *others) = buffer.to_a.zip(*others).map { |a, b| (a - b).abs }.max

    # A triangle as .gltf, changed by what the block does to it.
    def gltf
      data = [0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0, 0.0].pack("e*") + [0, 1, 2, 0].pack("S<*")
      json = {
        "asset" => {
          "version" => "2.0"
        },
        "scenes" => [{"nodes" => [0]}],
        "nodes" => [{"mesh" => 0}],
        "meshes" => [{"primitives" => [{"attributes" => {"POSITION" => 0}, "indices" => 1}]}],
        "accessors" => [
          {"bufferView" => 0, "componentType" => 5126, "count" => 3, "type" => "VEC3"},
          {"bufferView" => 1, "componentType" => 5123, "count" => 3, "type" => "SCALAR"}
        ],
        "bufferViews" => [
          {"buffer" => 0, "byteLength" => 36}, {"buffer" => 0, "byteOffset" => 36, "byteLength" => 8}
        ],
        "buffers" => [{"byteLength" => 44, "uri" => "data:application/octet-stream;base64,#{[data].pack("m0")}"}]
      }
      yield json if block_given?
      JSON.generate(json)
    end

    describe "files of other software" do
      before(:all) do
        @folder = Dir.mktmpdir
        run("node", File.join(ROOT, "web/checks/gltf.mjs"), @folder)
      end

      after(:all) { FileUtils.rm_rf(@folder) }

      {
        "nested" => "nodes that hang on nodes, in all three interpolations, mirrored",
        "shapes" => "morph targets, one of them sparse", "skins" => "skins with joints of 8 and 16 bits",
        "both" => "a skin over morph targets"
      }.each do |name, what|
        it "move as three.js moves them: #{what}" do
          model = read(File.binread(File.join(@folder, "#{name}.glb")), "#{name}.glb")
          expect(model.frames.size).to eq(49)
          JSON
            .parse(File.read(File.join(@folder, "#{name}.json")))
            .each do |wanted|
              mesh = model.frames[wanted["frame"]]
              size = mesh.bounds.then { |low, high| high.zip(low).map { |a, b| a - b }.max }
              expect(numbers(mesh.points, wanted["points"])).to be < 1e-4 * size
            end
        end
      end
    end

    describe Formats::GLTF::Writer do
      it "writes what the validator finds nothing in, and what comes in again the same" do
        ring = Geometry::Builders.torus(0.4, 0.1, sides: 12, around: 8)
        poses =
          Array.new(20) { |n| pose([17.0 * n, 3.0 * n, -11.0 * n], [0.1 * n, 0.0, 0.0], [1.0, 1.0, 1.0 + 0.01 * n]) }
        dyed =
          Geometry::Mesh.new(
            ring.points, ring.triangles, nil,
            colours: Kernel::Buffer.of(:f32, Array.new(9 * ring.count) { |i| (i * 37 % 100) / 100.0 }, ring.count, 9),
            places: Kernel::Buffer.of(:f32, Array.new(6 * ring.count) { |i| (i * 31 % 100) / 100.0 }, ring.count, 6)
          )
        shapes =
          Array.new(20) do |n|
            ring.transformed(Geometry::Transform.place(scale: [1.0 + 0.1 * n, 1.0, 1.0 - 0.02 * n])).points
          end
        bytes =
          described_class
            .new(24.0)
            .add("still", ring, colour: [0.8, 0.2, 0.1], poses: [pose([10.0, 20.0, 30.0], [1.0, 2.0, 3.0])])
            .add("moving", ring, poses: poses)
            .add("dough", dyed, shapes: shapes.drop(1))
            .bytes
        file = Tempfile.new(["out", ".glb"], binmode: true).tap { |out| out.write(bytes) && out.close }
        found = JSON.parse(run("node", File.join(ROOT, "web/checks/validate.mjs"), file.path))[0]
        expect(found.values_at("errors", "warnings")).to eq([0, 0]), found.to_s

        model = read(bytes)
        expect([model.frames.size, model.rate, model.left_out]).to eq([20, 24.0, []])
        still, moving, dough = model.frames[13].apart
        expect([still, moving, dough].map { |part| part.parts[0].name }).to eq(%w[still moving dough])
        expect(still.colours.to_a.each_slice(3).uniq.flatten).to match(
          [0.8, 0.2, 0.1].map { |c| be_within(1e-6).of(c) }
        )
        # A part keeps its points in the order in which its triangles come to them.
        again = ->(mesh) { mesh.only((0...mesh.count).to_a) }
        expect(numbers(moving.points, again.call(ring.transformed(poses[13].transform)).points.to_a)).to be < 1e-6
        corner = ->(mesh) { mesh.triangles.to_a.flat_map { |n| mesh.points.to_a[3 * n, 3] } }
        expect(corner.call(dough).zip(corner.call(ring.with(shapes[13]))).map { |a, b| (a - b).abs }.max).to be < 1e-6
        expect(dough.colours.to_a).to eq(dyed.colours.to_a)
        expect(numbers(dough.places, dyed.places.to_a)).to be < 1e-6
      end
    end

    it "takes cameras, lamps and the materials' colours along, and says what it left out" do
      text = gltf do |json|
        json["nodes"] += [
          {"name" => "eye", "camera" => 0, "translation" => [0, 1, 4]},
          {
            "name" => "bulb",
            "translation" => [0, 3, 0],
            "extensions" => {
              "KHR_lights_punctual" => {
                "light" => 0
              }
            }
          }
        ]
        json["scenes"][0]["nodes"] = [0, 1, 2]
        json["cameras"] = [
          {"type" => "perspective", "perspective" => {"yfov" => 2 * Math.atan(12.0 / 50.0), "znear" => 0.1}}
        ]
        json["extensions"] = {
          "KHR_lights_punctual" => {
            "lights" => [{"type" => "point", "intensity" => 40.0, "color" => [1, 0.5, 0.2]}]
          }
        }
        json["materials"] = [
          {
            "pbrMetallicRoughness" => {
              "baseColorFactor" => [0.5, 0.25, 0.125, 1],
              "baseColorTexture" => {
                "index" => 0
              }
            }
          }
        ]
        json["meshes"][0]["primitives"] += [
          {"attributes" => {"POSITION" => 0}, "mode" => 1}, {"attributes" => {"POSITION" => 0}, "material" => 0}
        ]
        json["animations"] = [{"name" => "unused", "channels" => [], "samplers" => []}]
      end
      model = read(text, "pot.gltf")
      expect(model.mesh.colours.to_a.each_slice(9).to_a).to eq(
        [[0.8] * 9, [0.5, 0.25, 0.125] * 3].map { |row| row.pack("e*").unpack("e*") }
      )
      eye, bulb = model.others
      expect([eye.kind, eye.poses[0]["position"], eye.poses[0]["target"], eye.poses[0]["focal"]]).to eq(
        ["camera", [0.0, 1.0, 4.0], [0.0, 1.0, 1.0], 50.0]
      )
      expect([bulb.kind, bulb.poses[0]["strength"]]).to eq(["lamp", 40.0])
      expect(model.left_out).to eq(
        [
          "1 surfaces made of lines have no faces and were left out.",
          "Its textures were left out; what is seen are its materials' colours."
        ]
      )
    end

    it "reads numbers that lie in a file of their own" do
      data = nil
      text = gltf { |json|
        data = json["buffers"][0]["uri"].split(",")[1].unpack1("m0")
        json["buffers"][0]["uri"] = "deep%20pot.bin"
      }
      expect(read(text, "pot.gltf", beside: {"deep pot.bin" => data}).mesh.count).to eq(1)
      expect(refusal { read(text, "pot.gltf") }).to eq(
        [
          "outside_file",
          "pot.gltf keeps its numbers in deep pot.bin, which did not come with it; bring both together, or export " \
            "one .glb."
        ]
      )
    end

    {
      "an index out of range" => [
        ->(j) { j["accessors"][0]["count"] = 2 },
        "pot.gltf has a face that uses point 2, but there are 2; export it again."
      ],
      "a view past its data" => [
        ->(j) { j["bufferViews"][1]["byteLength"] = 99 },
        "pot.gltf has a view past the end of its data; export it again."
      ],
      "a skin without joints" => [->(j) { skinned(j, []) }, "pot.gltf has a skin without joints; export it again."],
      "a node that hangs on itself" => [
        ->(j) { j["nodes"][0]["children"] = [0] },
        "pot.gltf has a node 0 that hangs on itself, or on two others; export it again."
      ],
      "an animation whose times fall" => [
        ->(j) { animated(j, [1.0, 0.0]) }, "pot.gltf has an animation whose times do not rise; export it again."
      ],
      "an animation without times" => [
        ->(j) { animated(j, [0.0, 1.0])["samplers"][0].delete("input") },
        /\Apot.gltf is not a sound glTF file \(key not found: "input"\); export it again\.\z/
      ],
      "packed meshes" => [
        ->(j) { j["extensionsRequired"] = ["KHR_draco_mesh_compression"] },
        "pot.gltf cannot be read without KHR_draco_mesh_compression, which Vumbral does not know; export it again " \
          "without compression."
      ],
      "an older file" => [
        ->(j) { j["asset"]["version"] = "1.0" }, "pot.gltf is glTF 1.0, and only 2 is read; export it again."
      ],
      "no faces" => [
        ->(j) { j["meshes"][0]["primitives"][0]["mode"] = 0 },
        "pot.gltf holds no faces; export it again as a polygon mesh."
      ]
    }.each do |what, (change, sentence)|
      it "refuses #{what}" do
        expect(refusal { read(gltf { |json| instance_exec(json, &change) }, "pot.gltf")[1] }[1]).to match(sentence)
      end
    end

    it "refuses a torn .glb and a point that is no number" do
      whole = Formats::GLTF::Writer.new.add("a", Geometry::Builders.box([1.0, 1.0, 1.0])).bytes
      expect(refusal { read(whole[0, 300]) }[1]).to eq(
        "a.glb is cut off: it should have #{whole.bytesize} bytes and has 300; export it again."
      )
      at = 28 + whole.byteslice(12, 4).unpack1("L<")
      expect(refusal { read(whole.dup.tap { |bytes| bytes[at + 12, 4] = [Float::NAN].pack("e") }) }[1]).to eq(
        "Point 2 of a.glb is not three finite numbers within 1e9 of the origin."
      )
    end

    def skinned(json, joints)
      json["nodes"][0]["skin"] = 0
      json["skins"] = [{"joints" => joints}]
      json["accessors"] += [
        {"componentType" => 5121, "count" => 3, "type" => "VEC4"},
        {"componentType" => 5126, "count" => 3, "type" => "VEC4"}
      ]
      json["meshes"][0]["primitives"][0]["attributes"].merge!("JOINTS_0" => 2, "WEIGHTS_0" => 3)
    end

    def animated(json, times)
      json["buffers"] << {
        "byteLength" => 32,
        "uri" => "data:application/octet-stream;base64,#{[(times + [0.0] * 6).pack("e*")].pack("m0")}"
      }
      json["bufferViews"] += [
        {"buffer" => 1, "byteLength" => 8}, {"buffer" => 1, "byteOffset" => 8, "byteLength" => 24}
      ]
      json["accessors"] += [
        {"bufferView" => 2, "componentType" => 5126, "count" => 2, "type" => "SCALAR"},
        {"bufferView" => 3, "componentType" => 5126, "count" => 2, "type" => "VEC3"}
      ]
      json["animations"] = [
        {
          "samplers" => [{"input" => 2, "output" => 3}],
          "channels" => [{"sampler" => 0, "target" => {"node" => 0, "path" => "translation"}}]
        }
      ]
      json["animations"][0]
    end
  end
end
