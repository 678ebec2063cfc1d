# frozen_string_literal: true

module Vumbral
  RSpec.describe Geometry::Breaking do
    def cut(outline, count = 12, seed: 1) = described_class.cut(outline, count, seed, nil)

    {sphere: {"shape" => "sphere", "radius" => 0.5}, torus: {"shape" => "torus", "radius" => 0.5, "tube" => 0.15}, box: {"shape" => "box", "size" => [1.0, 0.2, 0.7]},
     cone: {"shape" => "cone", "radius" => 0.4, "tall" => 1.0}}.each do |what, outline|
      it "cuts a #{what} into watertight pieces whose volumes add up to the whole" do
        whole = Geometry::Shapes.build(outline, nil).volume
        pieces = cut(outline)
        expect(pieces.size).to eq(12)
        expect(pieces.map { |piece| piece.mesh }).to all(be_closed)
        expect(pieces.map { |piece| piece.mesh.volume }).to all(be_positive)
        expect(pieces.sum { |piece| piece.mesh.volume }).to be_within(0.01 * whole).of(whole)
        # Each is about its own middle.
        expect(pieces.flat_map { |piece| piece.mesh.bounds.transpose.map { |a, b| (a + b).abs } }.max).to be < 1e-4
      end
    end

    it "closes a cut through a hollow vessel with its hole left open" do
      shelf = Struct.new(:mesh_of) { def mesh(*) = mesh_of }.new(Demo::Models.kiln)
      pieces = described_class.cut({"shape" => "mesh", "mesh" => "kiln"}, 6, 2, shelf)
      expect(pieces.map(&:mesh)).to all(be_closed)
      expect(pieces.sum { |piece| piece.mesh.volume }).to be_within(0.01 * Demo::Models.kiln.volume).of(Demo::Models.kiln.volume)
    end

    it "cuts the same way every time, and another way with another seed" do
      box = {"shape" => "box", "size" => [1.0, 1.0, 1.0]}
      volumes = ->(seed) { cut(box, 5, seed: seed).map { |piece| piece.mesh.volume.round(6) } }
      expect(volumes.call(1)).to eq(volumes.call(1))
      expect(volumes.call(1)).not_to eq(volumes.call(2))
    end

    it "refuses what is not closed, with the remedy" do
      expect(refusal { cut({"shape" => "plane", "size" => [1.0, 1.0, 1.0]}) }).to match(["not_closed", /must be closed, and this one has 4 open edges; close it/])
    end

    describe "the flight of the pieces" do
      def poses(frame, **dials)
        edits = {breaks: true, break_frame: 3, shape: "box", size: [1.0, 0.2, 1.0], position: [0.0, 2.0, 0.0], blast: [0.0, 1.0, 0.0], pieces: 6}.merge(dials).map { |dial, value| set("prop-1", dial, value) }
        document = small_shot(edits: [set("chamber", :size, [20, 20, 20]), set("chamber", :voxel, 0.5)] + edits)
        Geometry::Bodies.parts([Geometry::Bodies.of(document, document.node("prop-1"), frame)], nil).map { |body| body["to"] }
      end

      it "leaves the prop whole before, and in its place at first" do
        expect(poses(2).size).to eq(1)
        middle = poses(3).map { |pose| pose["position"] }.transpose.map { |c| c.sum / 6 }
        expect(middle[1]).to be_within(0.1).of(2.0)
      end

      it "falls as gravity says" do
        start, later = [3, 15].map { |frame| poses(frame, blast_strength: 0.0).sum { |pose| pose["position"][1] } / 6 }
        expect(start - later).to be_within(0.06).of(0.5 * 9.81 * 0.5**2)
      end

      it "blows away from the blast, turns, bounces and comes to rest on the floor" do
        up = poses(8).zip(poses(3)).map { |now, before| now["position"][1] - before["position"][1] }
        expect(up.count(&:positive?)).to be >= 4
        expect(poses(8).map { |pose| pose["turn"] }.uniq.size).to eq(6)
        resting = poses(200).map { |pose| pose["position"][1] }
        expect(resting).to all(be_between(0.0, 0.4))
        expect(poses(200)).to eq(poses(240).zip(poses(200)).map { |now, before| before.merge("turn" => before["turn"], "position" => now["position"].zip(before["position"]).map { |_, b| b }) })
      end

      it "lets go of what leaves the chamber, if it should" do
        gone = ->(choice) { poses(60, blast_strength: 60.0, blast_reach: 10.0, drop_outside: choice).size }
        expect(gone.call(true)).to be < 6
        expect(gone.call(false)).to eq(6)
      end
    end

    it "feeds smoke from the pieces and lets them push the gas" do
      document = small_shot(edits: [set("prop-1", :shape, "box"), set("prop-1", :size, [0.4, 0.1, 0.4]), set("prop-1", :breaks, true), set("prop-1", :break_frame, 2), set("prop-1", :collider, true),
        set("prop-1", :position, [0.0, 0.7, 0.0]), set("prop-1", :blast, [0.0, 0.4, 0.0]), set("source-1", :from, "su" \
"rface"), set("source-1", :heats, false), set("chamber", :lift, 0.0), set("chamber", :stir, 0.0)])
      plan = Gas::Plan.new(document, :full)
      stage = Gas::Stage.new(plan, nil)
      state = stage.still
      (1..5).each { |frame| state, @report = stage.advance(state, frame) }
      expect(@report.smoke).to be > 0.0
      expect(@report.speed).to be > 1.0
    end
  end
end
