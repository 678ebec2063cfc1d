# frozen_string_literal: true

module Vumbral
  RSpec.describe Preflight::Survey do
    # The sheet and the ball that some shots are made of.
    let(:meshes) {
      Struct.new(:shapes) {
        def mesh(digest, *) = shapes.fetch(digest)

        def clip(digest) = (digest == "ball") ? nil : Geometry::Clip.new([1, 2])
      }.new({"ball" => Geometry::Builders.sphere(0.3)})
    }

    def look(*edits) = described_class.new(small_shot(edits: edits), meshes).findings

    def codes(*edits) = look(*edits).map(&:code)

    # What is found is gone once its remedy is carried out.
    def mended(*edits)
      document = small_shot(edits: edits)
      found = described_class.new(document, meshes).findings
      remedied = found.filter_map(&:remedy).flat_map { |remedy| remedy[:edits] }
      described_class.new(Shot::Edits.apply(document, remedied)[0], meshes).findings.map(&:code)
    end

    def key(node, dial, frame, value)
      {"do" => "key", "node" => node, "dial" => dial.to_s, "frame" => frame, "value" => value, "ease" => "linear"}
    end

    it "finds nothing in a shot that works" do
      expect(look).to eq([])
    end

    it "finds nothing in any starter, but that nothing feeds an empty one" do
      Studio::Starters::ALL.each_key do |starter|
        found = described_class.new(Studio::Starters.build(starter, "Try"), meshes).findings
        expect(found.map(&:code)).to eq((starter == "empty") ? ["no_source"] : [])
      end
    end

    describe "a source" do
      it "that is missing" do
        found = look({"do" => "remove", "node" => "source-1"})
        expect(found.map(&:to_h)).to match([include(code: "no_source", node: nil,
          text: "Nothing feeds this shot: add a source.")])
      end

      it "without a prop is offered one that is no ground" do
        found = look(set("source-1", :prop, nil))
        expect(found[0]).to have_attributes(code: "no_source", node: "source-1", dial: :prop)
        expect(found[0].remedy).to match(label: /\AFeed from /,
          edits: [include("node" => "source-1", "dial" => "prop", "value" => "prop-1")])
        expect(mended(set("source-1", :prop, nil))).to eq([])
      end

      it "without a prop beside one that has its own" do
        add = {"do" => "add", "kind" => "source", "id" => "idle", "name" => "Idle"}
        expect(look(add)[0]).to have_attributes(code: "no_origin", node: "idle",
          text: "Idle feeds nothing, for no prop is chosen for it.")
        expect(codes(add.merge("dials" => {"from" => "particles"}))).to eq(["no_origin"])
      end

      it "whose frames are outside the shot's" do
        found = look(set("source-1", :first, 40))
        expect(found[0]).to have_attributes(code: "never_on", dial: :first,
          text: /never feeds: its frames are outside the shot's, 1 to 8\.\z/)
        expect(mended(set("source-1", :first, 40))).to eq([])
        expect(mended(set("general", :first, 5), set("source-1", :last, 3))).to eq([])
      end

      it "whose strength is nothing throughout, but not one that swells" do
        expect(look(set("source-1", :strength,
          0.0))[0]).to have_attributes(code: "never_on", dial: :strength, text: /its feeding is 0 throughout/)
        expect(codes(key("source-1", :strength, 1, 0.0), key("source-1", :strength, 8, 1.0))).to eq([])
      end

      it "whose copies come on later feeds all the same" do
        expect(codes(set("source-1", :first, 0), set("source-1", :last, 1), set("source-1", :copies, 3))).to eq([])
      end

      it "inside a sheet, but not on its surface, nor inside a ball from a file" do
        sheet = set("prop-1", :shape, "plane")
        expect(look(sheet)[0]).to have_attributes(code: "no_inside", dial: :from,
          text: /the inside of .*, which has none/)
        expect(mended(sheet)).to eq([])
        expect(codes(sheet, set("source-1", :from, "surface"))).to eq([])
        expect(codes(set("prop-1", :mesh, "ball"), set("prop-1", :shape, "mesh"))).to eq([])
      end

      it "whose fuel nothing lights" do
        cold = [set("source-1", :fuel, 5.0), set("source-1", :temperature, 400.0)]
        expect(look(*cold)[0]).to have_attributes(code: "never_lights", dial: :temperature,
          text: /burns above 600 K, and no source is that hot/)
        expect(mended(*cold)).to eq([])
        expect(codes(set("source-1", :fuel, 5.0), set("source-1", :temperature, 601.0))).to eq([])
        expect(codes(*cold, set("source-1", :warm_as, "add"))).to eq([])
        expect(codes(*cold, set("chamber", :ignite, 350.0))).to eq([])
        expect(codes(set("source-1", :fuel, 5.0), set("source-1", :heats, false))).to eq(["never_lights"])
      end

      it "whose fuel is lit by another, hotter one" do
        pilot = {"do" => "add", "kind" => "source", "name" => "Pilot",
                 "dials" => {"prop" => "prop-1", "temperature" => 1200.0, "smoke" => 0.0}}
        expect(codes(set("source-1", :fuel, 5.0), set("source-1", :temperature, 400.0), pilot)).to eq([])
      end
    end

    describe "where things are" do
      it "finds a source outside the chamber, and moves the chamber to it" do
        away = set("prop-1", :position, [6.0, 3.0, -4.0])
        expect(look(away)[0]).to have_attributes(code: "outside", node: "source-1",
          text: /outside the chamber, so nothing comes of it/)
        expect(mended(away)).to eq([])
      end

      it "finds no fault with one that only comes in, or whose copy does" do
        expect(codes(key("prop-1", :position, 1, [4.0, 0.3, 0.0]),
          key("prop-1", :position, 8, [0.0, 0.3, 0.0]))).not_to include("outside")
        expect(codes(set("prop-1", :position, [2.0, 0.3, 0.0]), set("source-1", :copies, 3),
          set("source-1", :step_place, [-1.0, 0.0, 0.0]))).to eq([])
      end

      it "finds a source that would come out as beads, and says how many substeps it takes" do
        fast = [key("prop-1", :position, 1, [-3.0, 0.3, 0.0]), key("prop-1", :position, 8, [3.0, 0.3, 0.0])]
        few = [set("chamber", :substeps_most, 1)]
        found = look(*fast, *few).find { |finding| finding.code == "beads" }
        expect(found.text).to match(
          /moves 1\.9 of its own sizes at frame \d.*2 substeps are needed, and there are at most 1/
        )
        expect(found.remedy[:edits].map { |edit| edit.values_at("dial", "value") }).to eq(
          [["substeps_most", 2], ["substeps_least", 2]]
        )
        expect(mended(*fast, *few)).to eq([])
        expect(codes(*fast, set("chamber", :substeps_most, 8))).to eq([])
      end
    end

    describe "what can be seen" do
      it "is nothing in the dark, unless something burns" do
        dark = [{"do" => "remove", "node" => "sun-1"}, set("sky", :strength, 0.0)]
        expect(look(*dark)[0]).to have_attributes(code: "dark", node: "sky", dial: :strength)
        expect(mended(*dark)).to eq([])
        expect(codes(*dark, set("source-1", :temperature, 1400.0))).to eq([])
      end

      it "is nothing where the smoke has no thickness" do
        expect(look(set("look", :thickness, 0.0))[0]).to have_attributes(code: "clear", node: "look", dial: :thickness)
        expect(mended(set("look", :thickness, 0.0))).to eq([])
      end
    end

    describe "what the picture would show" do
      it "is the inside of a prop that the camera stands in, unless it stands in its opening" do
        eye = small_shot.the(:camera)[:position]
        ball = set("prop-1", :position, eye)
        found = look(ball).find { |finding| finding.code == "camera_inside" }
        expect(found).to have_attributes(
          node: "camera", dial: :position, text: /The camera stands inside .*nothing but its inside/
        )
        expect(mended(ball)).not_to include("camera_inside")
        expect(codes(ball, set("prop-1", :shown, false))).not_to include("camera_inside")
        # In the corner of its box, but beside the ball.
        expect(codes(set("prop-1", :position, eye.map { |c| c + 0.18 }))).not_to include("camera_inside")
      end

      it "is nothing where the camera looks at itself, nor with an exposure beyond sense" do
        same = set("camera", :target, [0.0, 1.6, 6.0])
        expect(look(set("camera", :position, [0.0, 1.6, 6.0]), same)[0]).to have_attributes(
          code: "camera_nowhere", dial: :target
        )
        expect(mended(set("camera", :position, [0.0, 1.6, 6.0]), same)).to eq([])
        expect(look(set("picture", :exposure, 9.5))[0].text).to eq(
          "An exposure of 9.5 stops leaves the picture all but white."
        )
        expect(look(set("picture", :exposure, -9.0))[0].text).to match(/all but black/)
        expect(mended(set("picture", :exposure, -9.0))).to eq([])
        expect(codes(set("picture", :exposure, 5.0))).to eq([])
      end

      it "is nothing of the gas where an opaque prop stands all around its chamber, unless the camera stands in it " \
        "too" do
        box = [
          set("prop-1", :shape, "box"), set("prop-1", :size, [3.0, 4.0, 3.0]), set("prop-1", :position, [0.0, 0.7, 0.0])
        ]
        expect(look(*box).find { |finding| finding.code == "gas_hidden" }).to have_attributes(
          node: "prop-1", text: /opaque and stands all around the chamber/
        )
        expect(mended(*box)).not_to include("gas_hidden")
        expect(codes(*box, set("prop-1", :clear, 1.0))).not_to include("gas_hidden")
        expect(codes(*box, set("camera", :position, [0.0, 0.8, 1.2]))).not_to include("gas_hidden")
        expect(codes(*box, set("prop-1", :size, [1.2, 4.0, 0.4]))).not_to include("gas_hidden")
      end

      it "is nothing of the smoke where it is far too thin for its chamber" do
        found = look(set("look", :thickness, 0.004)).find { |finding| finding.code == "thin" }
        expect(found).to have_attributes(node: "look", dial: :thickness, text: /light goes 250 m through it/)
        expect(mended(set("look", :thickness, 0.004))).not_to include("thin")
        expect(codes(set("look", :thickness, 0.5))).not_to include("thin")
      end

      it "is a wall of voxels where the smoke is beyond all measure" do
        expect(look(set("look", :thickness, 9000.0))[0]).to have_attributes(code: "wall", dial: :thickness,
          text: /light gets 0\.11 mm into it, and a voxel is \d+ mm wide/)
        expect(mended(set("look", :thickness, 9000.0))).to eq([])
      end

      it "is alike everywhere with a ramp of one stop, where it counts" do
        stop = [{"at" => 0.5, "value" => [1.0, 0.5, 0.2], "pass" => "smooth"}]
        expect(look(set("look", :smoke_ramp, stop), set("look", :coloured_by, "smoke"))[0]).to have_attributes(
          code: "one_stop", dial: :smoke_ramp, text: /Colours of Look has one stop/
        )
        expect(codes(set("look", :smoke_ramp, stop))).to eq([])
      end
    end

    describe "a formula that divides by zero" do
      def formula(text) = [set("source-1", :map, "formula"), set("source-1", :formula, text)]

      it "says where and when" do
        expect(look(*formula("1 / (frame - 4)"))[0]).to have_attributes(
          code: "divides_by_zero", node: "source-1", dial: :formula,
          text: /divides by zero everywhere at frame 4; it counts as 0 there/
        )
        expect(look(*formula("1 / floor(y)"))[0].text).to match(/in \d\d % of the chamber at frame 1/)
      end

      it "is not seen where nothing does, or where the formula is not used" do
        expect(codes(*formula("1 / (frame + 4)"))).to eq([])
        expect(codes(*formula("2 * x"))).to eq([])
        expect(codes(set("source-1", :formula, "1 / 0"))).to eq([])
      end
    end
  end

  RSpec.describe Studio::Preflights do
    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    it "answers for the shot as it stands, and anew after each change" do
      id = shelve(@workshop)
      expect(@workshop.preflights.of(id)).to eq([])
      expect(@workshop.preflights.of(id)).to equal(@workshop.preflights.of(id))
      @workshop.shots.edit(id, [set("source-1", :strength, 0.0)])
      expect(@workshop.preflights.of(id)).to match([include(code: "never_on",
        remedy: include(edits: [include("value" => 1.0)]))])
      @workshop.shots.undo(id)
      expect(@workshop.preflights.of(id)).to eq([])
    end

    it "counts a mesh that is gone, and a chamber that would not fit, among what would go wrong" do
      id = shelve(@workshop)
      memory = @workshop.machine.memory
      allow(@workshop.machine).to receive(:memory) { memory }
      memory = 1000
      expect(@workshop.preflights.of(id)).to match([include(code: "too_large", node: "chamber", dial: :voxel)])
      memory = 8 * 1024**3
      digest = @workshop.assets.bring(Formats::OBJ.write(Demo::Models.bowl), "bowl.obj")[:digest]
      gone = shelve(@workshop, small_shot(edits: [set("prop-1", :mesh, digest), set("prop-1", :shape, "mesh")]))
      FileUtils.rm(Dir[File.join(@workshop.home.path, "meshes", "*")])
      expect(Studio::Workshop.new(@workshop.home.path).preflights.of(gone)).to match([include(code: "unknown_mesh",
        text: /is gone; bring it again/)])
    end
  end
end
