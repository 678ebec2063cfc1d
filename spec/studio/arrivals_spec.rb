# frozen_string_literal: true

module Vumbral
  RSpec.describe Studio::Arrivals do
    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    def ring = Geometry::Builders.torus(0.4, 0.1, sides: 12, around: 8)

    def pose(at, turn = [0.0, 0.0, 0.0]) = Geometry::Pose.new(at, turn, [1.0, 1.0, 1.0])

    # Two parts, of which one moves.
    def moving
      Formats::GLTF::Writer
        .new(24.0)
        .add(
          "wheel", ring, colour: [0.6, 0.2, 0.1],
          poses: Array.new(6) { |n| pose([0.1 * n, 0.0, 0.0], [20.0 * n, 0.0, 0.0]) }
        )
        .add("axle", Geometry::Builders.cylinder(0.05, 1.0), colour: [0.2, 0.2, 0.2])
        .bytes
    end

    def bounds(id, node, frame)
      document = @workshop.shots.document(id)
      Geometry::Shapes
        .world(
          Geometry::Bodies.of(document, document.node(node), frame).then { |body| body["outline"].merge(body["to"]) },
          @workshop.assets
        )
        .bounds
        .flatten
    end

    let(:id) { shelve(@workshop) }

    it "puts a mesh that moves into the shot in one step, where it was dropped" do
      mesh = @workshop.assets.bring(moving, "cart.glb")
      expect(mesh[:facts]).to include("frames" => 6, "parts" => %w[wheel axle], "coloured" => true, "left_out" => [])
      step = @workshop.arrivals.call(id, mesh[:digest], place: [2.0, 0.5, -1.0])
      expect(step.slice(:label, :props)).to eq(label: "cart.glb brought in", props: ["prop-2"])
      prop = @workshop.shots.document(id).node("prop-2")
      expect([prop.name, prop[:plays], prop[:plays_from]]).to eq(["cart", true, 1])
      all = (1..6).map { |frame| bounds(id, "prop-2", frame) }
      expect(all.map { |row| row[1] }.min).to be_within(1e-4).of(0.5)
      expect(all[0]).not_to eq(all[4])
      expect(@workshop.shots.undo(id)[:label]).to eq("Undone: cart.glb brought in")
      expect(@workshop.shots.document(id).nodes).not_to have_key("prop-2")
    end

    it "makes a prop of each part, which together stand as the whole" do
      mesh = @workshop.assets.bring(moving, "cart.glb")
      whole = @workshop.arrivals.call(id, mesh[:digest])[:props][0]
      parts = @workshop.arrivals.call(id, mesh[:digest], apart: true)[:props]
      expect(parts.map { |prop| @workshop.shots.document(id).node(prop).name }).to eq(%w[wheel axle])
      expect(@workshop.shots.document(id).node(parts[1])[:plays]).to be(true)
      [1, 4].each do |frame|
        together =
          parts
            .map { |prop| bounds(id, prop, frame) }
            .transpose
            .each_with_index
            .map { |row, n| (n < 3) ? row.min : row.max }
        expect(largest_difference(together, bounds(id, whole, frame))).to be < 1e-5
      end
    end

    it "reads units and axes as they are told" do
      tall = Geometry::Builders.box([10.0, 20.0, 170.0])
      digest = @workshop.assets.bring(Formats::STL.write(tall), "man.stl")[:digest]
      prop = @workshop.arrivals.call(id, digest, unit: "cm", up: "z", place: [0.0, 0.0, 0.0])[:props][0]
      expect(bounds(id, prop, 1)).to match([-0.05, 0.0, -0.1, 0.05, 1.7, 0.1].map { |c| be_within(1e-4).of(c) })
    end

    it "takes a file's camera and lamp along" do
      bytes = Formats::GLTF::Writer.new.add("pot", ring).bytes
      length = bytes.byteslice(12, 4).unpack1("L<")
      json = JSON.parse(bytes.byteslice(20, length))
      json["nodes"] += [
        {"name" => "eye", "camera" => 0, "translation" => [0, 1, 4]},
        {"name" => "bulb", "translation" => [0, 3, 0], "extensions" => {"KHR_lights_punctual" => {"light" => 0}}}
      ]
      json["scenes"][0]["nodes"] += [1, 2]
      json["cameras"] = [{"type" => "perspective", "perspective" => {"yfov" => 0.5, "znear" => 0.1}}]
      json["extensions"] = {"KHR_lights_punctual" => {"lights" => [{"type" => "point", "color" => [1, 0.5, 0.25]}]}}
      json["buffers"][0]["uri"] = "data:application/octet-stream;base64,#{[bytes.byteslice(28 + length..)].pack("m0")}"
      mesh = @workshop.assets.bring(JSON.generate(json), "pot.gltf")
      expect(mesh[:facts]["others"]).to eq(
        [{"name" => "eye", "kind" => "camera"}, {"name" => "bulb", "kind" => "lamp"}]
      )
      @workshop.arrivals.call(id, mesh[:digest], others: true)
      document = @workshop.shots.document(id)
      expect([document.the(:camera)[:position], document.the(:camera)[:target]]).to eq(
        [[0.0, 1.0, 4.0], [0.0, 1.0, 1.0]]
      )
      # It sees as high as the file says, whatever the picture's shape and the film are.
      high = ->(one) {
        camera = one.the(:camera)
        picture = one.the(:picture)
        2.0 * Math.atan(0.5 * camera[:film] * picture[:height] / picture[:width] / camera[:focal])
      }
      expect(high.call(document)).to be_within(1e-4).of(0.5)
      lamp = document.of(:lamp)[0]
      expect([lamp.name, lamp[:position], lamp[:colour]]).to eq(["bulb", [0.0, 3.0, 0.0], [1.0, 0.5, 0.25]])
    end

    it "bakes a prop that moves and turns to a mesh for each frame, and undo brings it back" do
      edits =
        [[1, [0.0, 0.3, 0.0]], [8, [0.7, 0.3, 0.0]]].map do |frame, value|
          {
            "do" => "key", "node" => "prop-1", "dial" => "position", "frame" => frame, "value" => value,
            "ease" => "linear"
          }
        end
      @workshop.shots.edit(id, edits + [set("prop-1", :scale, [1.0, 2.0, 1.0])])
      before = [1, 5, 8].map { |frame| bounds(id, "prop-1", frame) }
      expect(@workshop.arrivals.bake(id, "prop-1")[:label]).to eq("Ember bowl baked to a mesh for each frame")
      prop = @workshop.shots.document(id).node("prop-1")
      expect([prop[:shape], prop[:plays], prop.curves]).to eq(["mesh", true, {}])
      [1, 5, 8].zip(before) { |frame, box| expect(largest_difference(bounds(id, "prop-1", frame), box)).to be < 1e-5 }
      @workshop.shots.undo(id)
      expect(@workshop.shots.document(id).node("prop-1").curves.keys).to eq([:position])
      expect(refusal { @workshop.arrivals.bake(id, "sun-1") }).to eq(
        ["bad_edit", "Sun is no prop; only props can be baked."]
      )
    end

    it "says in preflight that what moves in its file stands still, and mends it" do
      mesh = @workshop.assets.bring(moving, "cart.glb")
      prop = @workshop.arrivals.call(id, mesh[:digest])[:props][0]
      still = -> { @workshop.preflights.of(id).find { |finding| finding[:node] == prop } }
      expect(still.call).to be_nil
      @workshop.shots.edit(id, [set(prop, :plays, false)])
      expect(still.call[:text]).to eq(
        "cart moves in its file, which has 6 frames, but stands still here as at its first."
      )
      @workshop.shots.edit(id, still.call[:remedy][:edits])
      expect(@workshop.shots.document(id).node(prop)[:plays]).to be(true)
    end

    it "runs and shows one that moves: another shape at every frame, in its own colours" do
      mesh = @workshop.assets.bring(moving, "cart.glb")
      prop = @workshop.arrivals.call(id, mesh[:digest], place: [0.0, 0.2, 0.0])[:props][0]
      @workshop.shots.edit(id, [set(prop, :collider, true), set(prop, :plays_after, "again")])
      expect(run_now(@workshop, id)[:computed]).to eq(8)
      row = @workshop.bodies.known(@workshop.shots.document(id)).find { |body| body["prop"] == prop }
      expect(row["dyed"]).to be(true)
      expect(row["poses"].map { |pose| pose[9] }).to eq([0.0, 1.0, 2.0, 3.0, 4.0, 0.0, 1.0, 2.0])
    end

    describe "exports of props" do
      def export(as, **options)
        row = work(@workshop, @workshop.exports.start(id, as, out: File.join(@workshop.home.path, "out"), **options))
        raise row[:error] if row[:error]

        JSON.parse(row[:result])
      end

      before do
        mesh = @workshop.assets.bring(moving, "cart.glb")
        @prop = @workshop.arrivals.call(id, mesh[:digest], place: [0.0, 0.2, 0.0])[:props][0]
      end

      it "writes what stands there at each frame, without any run, and it comes in again the same" do
        expect(export("glb")).to include("files" => 1, "frames" => "1-8")
        expect(export("obj", frames: 2..4)).to include("files" => 3)
        expect(export("ply", frames: 3..3)).to include("files" => 1)
        file = ->(name) { Formats::Meshes.model(File.binread(File.join(@workshop.home.path, "out", name)), name: name) }
        glb, obj, ply =
          file.call("little-puff.glb"),
          file.call("little-puff.0003.obj"),
          file.call("little-puff.0003.ply")
        expect([glb.frames.size, glb.mesh.parts.map(&:name)]).to eq([8, ["Ember bowl", "Ground", "cart"]])
        standing = Geometry::Standing.new(@workshop.shots.document(id), @workshop.assets).at(3)
        [glb.frames[2], obj.mesh, ply.mesh].each do |mesh|
          expect(largest_difference(mesh.bounds.flatten, standing.bounds.flatten)).to be < 1e-3
        end
        expect(obj.mesh.volume).to be_within(1e-4).of(standing.volume)
        expect(obj.mesh.colours.to_a.each_slice(3).to_a.uniq.size).to eq(4)
      end

      it "writes only the props that are asked for, and refuses one that is not there" do
        export("glb", props: [@prop])
        glb =
          Formats::Meshes.model(
            File.binread(File.join(@workshop.home.path, "out", "little-puff.glb")), name: "little-puff.glb"
          )
        expect(glb.mesh.parts.map(&:name)).to eq(["cart"])
        expect { export("glb", props: ["prop-99"]) }.to raise_error(
          Refused, /no prop "prop-99" in the shot; there are: prop-1/
        )
      end

      it "writes the pieces of one that breaks, each at its place" do
        @workshop.shots.edit(
          id,
          [
            {"do" => "remove", "node" => @prop}, set("prop-1", :breaks, true), set("prop-1", :break_frame, 4),
            set("prop-1", :pieces, 5)
          ]
        )
        export("glb")
        model =
          Formats::Meshes.model(File.binread(File.join(@workshop.home.path, "out", "little-puff.glb")), name: "a.glb")
        bowl = model.frames.map { |mesh| mesh.apart.reject { |part| part.parts[0].name == "Ground" }.sum(&:volume) }
        expect(bowl).to all(be_within(0.02 * bowl[0]).of(bowl[0]))
        expect(model.mesh.parts.size).to be_between(6, 7)
      end
    end
  end
end
