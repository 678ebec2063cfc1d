# frozen_string_literal: true

module Vumbral
  RSpec.describe Gas::Plan do
    def keys(*edits, quality: :full) = described_class.new(small_shot(edits: edits), quality).keys.values

    def key(frame, value, ease = "smooth")
      {"do" => "key", "node" => "source-1", "dial" => "smoke", "frame" => frame, "value" => value, "ease" => ease}
    end

    it "gives frames the same key for the same making" do
      expect(keys).to eq(keys)
      expect(keys.uniq.size).to eq(8)
      # What only the picture depends on changes no key.
      expect(keys(set("sun-1", :strength, 9.0), set("camera", :focal, 80.0),
        set("prop-1", :colour, [1, 0, 0]))).to eq(keys)
    end

    it "changes the keys from the first frame that an edit touches" do
      a = keys(key(1, 4.0), key(5, 4.0, "linear"), key(8, 6.0))
      b = keys(key(1, 4.0), key(5, 4.0, "linear"), key(8, 9.0))
      expect(a.zip(b).map { |x, y| x == y }).to eq([true] * 5 + [false] * 3)
      expect(keys(set("source-1", :last, 6)).zip(keys).map { |x, y| x == y }).to eq([true] * 6 + [false] * 2)
      expect(keys(set("chamber", :ambient, 300.0)) & keys).to eq([])
    end

    it "shares the beginning of a shorter shot" do
      expect(keys(set("general", :last, 5))).to eq(keys.first(5))
    end

    it "lays out the grid in whole voxels about the chamber's place" do
      document = small_shot(edits: [set("chamber", :size, [2.0, 3.0, 1.0]), set("chamber", :voxel, 0.1),
        set("chamber", :draft, 2.0), set("chamber", :position, [1.0, 0.5, -1.0])])
      full, draft = described_class.new(document, :full), described_class.new(document, :draft)
      expect([full.size, draft.size]).to eq([[10, 30, 20], [8, 15, 10]])
      expect(full.corner.zip([0.0, 0.5, -1.5]).map { |a, b| (a - b).abs }.max).to be < 1e-9
      expect(full.cells).to eq(6000)
    end

    it "leaves out sources that feed nothing" do
      expect(described_class.new(small_shot(edits: [set("source-1", :prop, nil)]), :full).at(1)["sources"]).to eq([])
    end
  end

  RSpec.describe Gas::Stage do
    def fed(*edits)
      plan = Gas::Plan.new(small_shot(edits: edits), :full)
      described_class.new(plan, nil).advance(Gas::State.still(plan.size), 1)[0].smoke
    end

    def filled(*edits) = fed(*edits).to_a.count { |value| value > 1e-4 }

    it "feeds from the inside, or from a skin that is hollow" do
      ball = [set("prop-1", :radius, 0.35), set("prop-1", :position, [0.0, 0.6, 0.0])]
      inside, surface = fed(*ball), fed(*ball, set("source-1", :from, "surface"), set("source-1", :skin, 0.1))
      middle = [7, 8, 7]
      expect([inside[*middle], surface[*middle]]).to match([be > 0.05, be < 1e-3])
      expect([inside[7, 8, 11], surface[7, 8, 11]]).to all(be > 0.02)
    end

    it "feeds more from a scaled prop" do
      expect(filled(set("prop-1", :scale, [2.0, 1.0, 1.0]))).to be > 1.5 * filled
    end

    it "takes meshes that were brought" do
      shelf = Struct.new(:kept) { def mesh(digest, *) = kept.fetch(digest) }
      mesh = Demo::Models.bowl
      plan = Gas::Plan.new(small_shot(edits: [set("prop-1", :mesh, mesh.digest), set("prop-1", :shape, "mesh")]), :full)
      state, = described_class.new(plan, shelf.new({mesh.digest => mesh})).advance(Gas::State.still(plan.size), 1)
      expect(Flow::MatterKernels.total(state.smoke)).to be > 0.5
      nothing = Gas::Plan.new(small_shot(edits: [set("prop-1", :shape, "mesh")]), :full)
      expect(refusal {
        described_class.new(nothing, shelf.new({})).advance(Gas::State.still(nothing.size),
          1)
      }).to match(["no_mesh", /no file was brought/])
    end
  end
end
