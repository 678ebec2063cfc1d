# frozen_string_literal: true

module Vumbral
  RSpec.describe Geometry::Breaking do
    def way(**more) =
      {
        "pieces" => 12, "piece_seed" => 1, "gather" => 0.0, "gather_at" => [0.0] * 3, "grain" => "shards",
        "grain_way" => [0.0, 1.0, 0.0], "keep" => 0.0, "keep_at" => [0.0] * 3, "outer" => 0.0, "outer_pieces" => 2,
        "again" => false, "again_pieces" => 0
      }.merge(more.transform_keys(&:to_s))

    def cut(outline, meshes = nil, **more) = described_class.cut(outline, way(**more), meshes)

    def sizes(piece) = piece.mesh.bounds.transpose.map { |a, b| b - a }

    {
      sphere: {
        "shape" => "sphere", "radius" => 0.5
      },
      torus: {
        "shape" => "torus", "radius" => 0.5, "tube" => 0.15
      },
      box: {
        "shape" => "box", "size" => [1.0, 0.2, 0.7]
      },
      cone: {
        "shape" => "cone", "radius" => 0.4, "tall" => 1.0
      }
    }.each do |what, outline|
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
      pieces = cut({"shape" => "mesh", "mesh" => "kiln"}, shelf, pieces: 6, piece_seed: 2)
      expect(pieces.map(&:mesh)).to all(be_closed)
      expect(pieces.sum { |piece| piece.mesh.volume }).to be_within(0.01 * Demo::Models.kiln.volume).of(
        Demo::Models.kiln.volume
      )
    end

    it "cuts the same way every time, and another way with another seed" do
      box = {"shape" => "box", "size" => [1.0, 1.0, 1.0]}
      volumes = ->(seed) { cut(box, pieces: 5, piece_seed: seed).map { |piece| piece.mesh.volume.round(6) } }
      expect(volumes.call(1)).to eq(volumes.call(1))
      expect(volumes.call(1)).not_to eq(volumes.call(2))
    end

    it "breaks wood into splinters along its grain and slate into slabs across it" do
      box = {"shape" => "box", "size" => [1.0, 1.0, 1.0]}
      tall = ->(grain) do
        cut(box, pieces: 24, grain: grain).sum { |piece| sizes(piece).then { |x, y, z| y / Math.sqrt(x * z) } } / 24
      end
      expect(tall.call("splinters")).to be > 2.0
      expect(tall.call("shards")).to be_between(0.7, 1.4)
      expect(tall.call("slabs")).to be < 0.5
      expect(cut(box, pieces: 24, grain: "splinters").sum { |piece| piece.mesh.volume }).to be_within(0.001).of(1.0)
    end

    it "is denser about a place where it was hit, and whole about another" do
      box = {"shape" => "box", "size" => [2.0, 0.2, 1.0]}
      hit = cut(box, pieces: 40, gather: 0.8, gather_at: [0.9, 0.0, 0.0])
      near, far = hit.partition { |piece| piece.middle[0] > 0.4 }
      expect(near.size).to be > 2 * far.size
      kept = cut(box, pieces: 40, keep: 0.5, keep_at: [-1.0, 0.0, 0.0])
      largest = kept.max_by { |piece| piece.mesh.volume }
      expect(largest.middle[0]).to be < -0.4
      # As far as its radius says, which reaches half into the box.
      expect(largest.mesh.volume).to be_within(0.015).of(0.5 * Math::PI * 0.25 * 0.2)
      expect(kept.sum { |piece| piece.mesh.volume }).to be_within(0.001).of(0.4)
    end

    it "cuts many pieces that add up to the whole" do
      many = cut({"shape" => "cylinder", "radius" => 0.5, "tall" => 0.3}, pieces: 150)
      expect(many.size).to be_between(147, 150)
      expect(many.sum { |piece| piece.mesh.volume }).to be_within(0.01 * Math::PI * 0.25 * 0.3).of(
        Math::PI * 0.25 * 0.3
      )
    end

    it "refuses what is not closed, with the remedy" do
      expect(refusal { cut({"shape" => "plane", "size" => [1.0, 1.0, 1.0]}) }).to match(
        ["not_closed", /must be closed, and this one has 4 open edges; close it/]
      )
    end

    describe "the flight of the pieces" do
      def poses(frame, **dials)
        edits =
          {
            breaks: true, break_frame: 3, shape: "box", size: [1.0, 0.2, 1.0], position: [0.0, 2.0, 0.0],
            blast: [0.0, 1.0, 0.0], pieces: 6
          }.merge(dials).map { |dial, value| set("prop-1", dial, value) }
        document = small_shot(edits: [set("chamber", :size, [20, 20, 20]), set("chamber", :voxel, 0.5)] + edits)
        Geometry::Bodies
          .parts([Geometry::Bodies.of(document, document.node("prop-1"), frame)], nil)
          .map { |body| body["to"] }
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
        expect(poses(200).map { |pose| pose["position"][1] }).to all(be_between(-0.1, 0.4))
        expect(poses(240)).to eq(poses(200))
      end

      it "lets go of what leaves the chamber, if it should" do
        gone = ->(choice) { poses(60, blast_strength: 60.0, blast_reach: 10.0, drop_outside: choice).size }
        expect(gone.call(true)).to be < 6
        expect(gone.call(false)).to eq(6)
      end
    end

    it "feeds smoke from the pieces and lets them push the gas" do
      document =
        small_shot(
          edits: [
            set("prop-1", :shape, "box"),
            set("prop-1", :size, [0.4, 0.1, 0.4]),
            set("prop-1", :breaks, true),
            set("prop-1", :break_frame, 2),
            set("prop-1", :collider, true),
            set("prop-1", :position, [0.0, 0.7, 0.0]),
            set("prop-1", :blast, [0.0, 0.4, 0.0]),
            set(
              "source-1",
              :from,
              "su" \
                "rface"
            ),
            set("source-1", :heats, false),
            set("chamber", :lift, 0.0),
            set("chamber", :stir, 0.0)
          ]
        )
      plan = Gas::Plan.new(document, :full)
      stage = Gas::Stage.new(plan, nil)
      state = stage.still
      (1..5).each { |frame| state, @report = stage.advance(state, frame) }
      expect(@report.smoke).to be > 0.0
      expect(@report.speed).to be > 1.0
    end

    it "breaks a shell of some depth finer than what lies below, and nothing is lost" do
      box = {"shape" => "box", "size" => [1.0, 1.0, 1.0]}
      pieces = cut(box, pieces: 4, outer: 0.12, outer_pieces: 40)
      below, shell =
        pieces.partition { |piece| piece.mesh.only((0...described_class.inside(piece.mesh)).to_a).area < 0.01 }
      expect([shell.size, below.size]).to eq([40, 4])
      expect(below.sum { |piece| piece.mesh.volume }).to be_within(0.01).of(0.76**3)
      expect(pieces.sum { |piece| piece.mesh.volume }).to be_within(1e-3).of(1.0)
    end

    it "breaks its pieces again, each as large as what it comes to, and knows what was inside" do
      box = {"shape" => "box", "size" => [1.0, 1.0, 1.0]}
      pieces = cut(box, pieces: 5, again: true, again_pieces: 3)
      first, later = pieces.partition { |piece| piece.parent.nil? }
      expect(first.size).to eq(5)
      later
        .group_by(&:parent)
        .each { |n, parts| expect(parts.sum { |part| part.mesh.volume }).to be_within(1e-4).of(first[n].mesh.volume) }
      expect(later.map(&:mesh)).to all(be_closed)
      # All that is not inside is the skin of the whole.
      skin = ->(list) { list.sum { |piece| piece.mesh.only((0...described_class.inside(piece.mesh)).to_a).area } }
      expect([skin.call(first), skin.call(later)]).to all(be_within(1e-3).of(6.0))
    end
  end
end
