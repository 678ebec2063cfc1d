# frozen_string_literal: true

module Vumbral
  RSpec.describe Geometry::Clip do
    def ball(size) =
      Geometry::Builders
        .sphere(0.2, divisions: 2)
        .then { |mesh| mesh.with(mesh.transformed(Geometry::Transform.place(scale: [size] * 3)).points) }

    it "keeps the file's time whatever the shot's rate is" do
      clip = described_class.new(Array.new(25), rate: 24.0)
      expect([0, 12, 48, 1000].map { |at| clip.place(at, 48.0, "hold") }).to eq([0.0, 6.0, 24.0, 24.0])
      expect(described_class.new(Array.new(5), step: 2).place(3, 30.0, "hold")).to eq(1.5)
      expect(clip.place(-4, 24.0, "again")).to eq(0.0)
    end

    it "holds its end, begins again or goes back and forth" do
      clip = described_class.new(Array.new(5), rate: 24.0)
      {"hold" => [4, 4, 4, 4], "again" => [0, 1, 3, 0], "back" => [4, 3, 1, 0]}.each do |after, places|
        expect([4, 5, 7, 8].map { |at| clip.place(at, 24.0, after) }).to eq(places)
      end
    end

    it "goes straight from one shape to the next, and jumps where triangles change" do
      meshes = {"a" => ball(1.0), "b" => ball(2.0), "c" => Geometry::Builders.box([1.0, 1.0, 1.0])}
      clip = described_class.new(%w[a b c])
      radius = ->(place) { clip.mesh(place) { |frame| meshes.fetch(frame) }.bounds[1][0] }
      expect([0.0, 0.25, 1.0].map(&radius)).to match(
        [
          be_within(1e-6).of(radius.call(0.0)), be_within(1e-6).of(1.25 * radius.call(0.0)),
          be_within(1e-6).of(2.0 * radius.call(0.0))
        ]
      )
      expect(radius.call(1.9)).to eq(radius.call(1.0))
      expect(radius.call(2.0)).to eq(0.5)
    end
  end

  RSpec.describe Formats::Sequence do
    it "puts files in the order of their numbers, from any first one and by any step" do
      sequence = described_class.of(%w[pot.0015.obj pot.0011.obj pot.0013.obj])
      expect([sequence.names, sequence.step, sequence.title, sequence.gaps]).to eq(
        [%w[pot.0011.obj pot.0013.obj pot.0015.obj], 2, "pot.####.obj", []]
      )
    end

    it "lets the one before stand in for a missing one, and says so" do
      sequence = described_class.of(%w[a1.ply a2.ply a4.ply])
      expect(sequence.names).to eq(%w[a1.ply a2.ply a2.ply a4.ply])
      expect(sequence.gaps).to eq(["1 files are missing (number 3 first); the one before each stands in for it."])
    end

    it "refuses what does not belong together" do
      {
        %w[pot.obj] => /pot.obj has no number/, %w[a1.obj b2.obj] => /b2.obj does not belong to a1.obj/,
        %w[a1.obj a3.obj a4.obj a6.obj a8.obj] => nil
      }.each do |names, words|
        found = refusal { described_class.of(names) }
        words ? expect(found).to(match(["bad_sequence", words])) : expect(found).to(be_nil)
      end
    end
  end

  # The same box, once moved by keys and once by its file.
  RSpec.describe Gas::Moment, "and meshes that move by themselves" do
    let(:box) { Geometry::Builders.box([0.4, 0.4, 0.4]) }
    let(:shelf) do
      frames =
        Array.new(8) do |n|
          box.with(box.transformed(Geometry::Transform.place(position: [0.05 * n, 0.02 * n, 0.03 * n])).points)
        end
      Struct.new(:frames, :box) {
        def mesh(_, at = nil, rate = nil, after = nil) =
          if at
            Geometry::Clip
              .new(frames, rate: 24.0)
              .then { |clip| clip.mesh(clip.place(at, rate, after)) { |frame| frame } }
          else
            box
          end
      }.new(frames, box)
    end

    def plan(*edits)
      Gas::Plan.new(
        small_shot(
          edits:
            [
              set("prop-1", :shape, "mesh"), set("prop-1", :mesh, "box"), set("prop-1", :position, [0.0, 0.5, 0.0]),
              set("prop-1", :collider, true), set("source-1", :carried, 100.0), set("source-1", :from, "surface")
            ] + edits
        ),
        :full
      )
    end

    def moments
      keyed = plan(*[[1, 0.0], [8, 7.0]].map { |frame, n|
        {
          "do" => "key", "node" => "prop-1", "dial" => "position", "frame" => frame,
          "value" => [0.05 * n, 0.5 + 0.02 * n, 0.03 * n], "ease" => "linear"
        }
      })
      [keyed, plan(set("prop-1", :plays, true))].map do |plan|
        [plan, described_class.new(plan, Flow::Props.new(plan, shelf), [0, 0, 0], plan.size)]
      end
    end

    it "blocks and pushes as a prop does that is moved by keys" do
      (solid, moved), (own, blown) = moments.map { |plan, moment| moment.solids(plan.at(4)["solids"], 0.5, 1.0 / 24) }
      expect(own.to_a).to eq(solid.to_a)
      solid.to_a.sum.then { |cells| expect(cells).to be > 50 }
      moved.to_a.zip(blown.to_a).each_with_index do |(rigid, flow), axis|
        wanted = 24 * [0.05, 0.02, 0.03][axis]
        expect(rigid.to_a.max).to be_within(1e-3 * wanted).of(wanted)
        expect(flow.to_a.max).to be_within(1e-2 * wanted).of(wanted)
        # The surface's own cells, which the gas meets.
        touched = flow.to_a.count { |v| (v - wanted).abs < 1e-2 * wanted }
        expect(touched).to be > 0.5 * rigid.to_a.count { |v| v > 0.5 * wanted }
      end
    end

    it "carries what it feeds along as one that is moved by keys" do
      keyed, own =
        moments.map do |plan, moment|
          plan.at(4).then { |at| moment.feeds(at["sources"], at["gas"], 0.5, 1.0 / 24, 0.1)[0] }
        end
      expect(largest_difference(keyed.cover, own.cover)).to be < 1e-4
      fed = own.cover.to_a
      %i[x y z].each do |axis|
        off =
          [keyed, own].map do |feed|
            feed.velocity.public_send(axis).to_a.zip(fed).map { |v, cover| (cover > 0.0) ? v : 0.0 }
          end
        expect(largest_difference(*off)).to be < 2e-2
        expect(off[1].max).to be > 0.4
      end
    end

    it "makes frames of its own, which the same without motion does not share" do
      expect(plan(set("prop-1", :plays, true)).keys.values.uniq.size).to eq(8)
      expect(plan(set("prop-1", :plays, true)).keys.values & plan.keys.values).to eq([])
    end
  end
end
