# frozen_string_literal: true

module Vumbral
  RSpec.describe Maps::Layers do
    def map(id, to = "source-1", **dials) =
      {
        "do" => "add", "kind" => "map", "id" => id, "name" => id.capitalize,
        "dials" => {"to" => to, "order" => id[/\d+/].to_i}.merge(dials.transform_keys(&:to_s))
      }

    def shot(*edits) =
      small_shot(
        edits: [
          set("prop-1", :shape, "plane"), set("prop-1", :size, [2.0, 1.0, 2.0]), set("prop-1", :cells, 20),
          set("prop-1", :position, [0.0, 0.0, 0.0]), *edits
        ]
      )

    # How strong the source is by where its corners are.
    def strengths(document, frame = 4, of: "source-1")
      prop = document.node("prop-1")
      outline = Geometry::Shapes.outline(prop, document: document, frame: frame)
      mesh = Geometry::Shapes.build(outline, nil)
      transform = Geometry::Pose.of(Geometry::Bodies.pose(prop, frame, document)).transform
      values =
        described_class
          .new(Geometry::MapRows.of(document, document.node(of), frame), nil)
          .at(mesh, outline, transform)
          .to_a
      points = mesh.points.to_a.each_slice(3).to_a
      mesh.triangles.to_a.zip(values).to_h { |point, value| [points[point], value] }
    end

    def expect_each(found) = found.each { |place, value| expect(value).to be_within(1e-4).of(yield(*place)) }

    it "is strong in a box and in a ball, and fades in their soft part" do
      box = {what: "box", position: [0.5, 0.0, 0.0], size: [1.0, 1.0, 4.0], soft: 0.0}
      expect_each(
        strengths(shot(map("m1", **box))).reject { |(x, _, _), _| x.abs < 0.01 || (x - 1.0).abs < 0.01 }
      ) { |x, _, _| (x > 0.0 && x < 1.0) ? 1.0 : 0.0 }
      ball = strengths(shot(map("m1", what: "ball", position: [0.0, 0.0, 0.0], radius: 1.0, soft: 1.0)))
      expect_each(ball) { |x, _, z| (1.0 - Math.hypot(x, z)).clamp(0.0, 1.0).then { |s| s * s * (3 - 2 * s) } }
    end

    describe "nearness to a prop" do
      def pot(**dials) =
        {
          "do" => "add",
          "kind" => "prop",
          "id" => "pot",
          "name" => "Pot",
          "dials" => {"shape" => "sphere", "radius" => 0.3, "divisions" => 5, "position" => [0.0, 0.0, 0.0]}.merge(
            dials.transform_keys(&:to_s)
          )
        }

      def near(**dials) = map("m1", what: "near", near: "pot", reach: 0.5, soft: 1.0, **dials)

      it "is whole within it, and fades as far as it reaches" do
        strengths(shot(pot, near)).each do |(x, _, z), value|
          s = (1.0 - [Math.hypot(x, z) - 0.3, 0.0].max / 0.5).clamp(0.0, 1.0)
          # The ball is of flat faces.
          expect(value).to be_within(0.02).of(s * s * (3 - 2 * s))
        end
      end

      it "goes along with it as it moves, scaled and turned as it stands" do
        keys =
          [[1, -0.8], [7, 0.8]].map do |frame, x|
            {
              "do" => "key", "node" => "pot", "dial" => "position", "frame" => frame, "value" => [x, 0.0, 0.0],
              "ease" => "linear"
            }
          end
        document = shot(pot(scale: [0.5, 1.0, 1.0]), near(reach: 0.01, soft: 0.0), *keys)
        [[1, -0.8], [4, 0.0], [7, 0.8]].each do |frame, x|
          strong = strengths(document, frame).select { |_, value| value > 0.5 }.keys
          expect(strong.map(&:first).minmax).to match [be_within(0.06).of(x - 0.15), be_within(0.06).of(x + 0.15)]
          expect(strong.map(&:last).max).to be_within(0.06).of(0.3)
        end
      end

      it "goes by how hot that prop is, as its temperature is keyed" do
        keys =
          [[1, 1000.0], [5, 573.0], [9, 300.0]].map do |frame, value|
            {"do" => "key", "node" => "m1", "dial" => "hot", "frame" => frame, "value" => value, "ease" => "linear"}
          end
        document = shot(pot, near(heats: true, boils: 373.0, boils_all: 773.0), *keys)
        most = ->(frame) { strengths(document, frame).values.max }
        expect([1, 5, 9].map(&most)).to match([be_within(1e-3).of(1.0), be_within(1e-3).of(0.5), 0.0])
        # Without that nothing is told of it, so that what was run before still counts.
        expect(Geometry::MapRows.of(shot(pot, near), document.node("source-1"), 1)[0]).not_to include(
          "times", "hot", "boils"
        )
      end

      it "says nothing without a prop, and preflight says so" do
        document = shot(map("m1", what: "near"))
        expect(Geometry::MapRows.of(document, document.node("source-1"), 1)).to be_empty
        expect(Preflight::Survey.new(document, nil).findings.map(&:code)).to include("near_nothing")
        expect(Preflight::Survey.new(shot(pot, near), nil).findings.map(&:code)).not_to include("near_nothing")
      end
    end

    it "goes with the prop in its own space, and stays in the world's" do
      moved = set("prop-1", :position, [0.7, 0.0, 0.0])
      ball = {what: "ball", position: [0.0, 0.0, 0.0], radius: 0.5, soft: 1.0}
      own, world = %w[own world].map { |space| strengths(shot(moved, map("m1", **ball, space: space))) }
      expect(own.max_by(&:last)[0]).to eq([0.0, 0.0, 0.0])
      expect(world.max_by(&:last)[0][0]).to be_within(1e-4).of(-0.7)
    end

    it "joins maps in their order: multiplied, added, taken away, the larger, by how much each counts" do
      left, right = [-0.5, 0.5].map { |x| {what: "box", position: [x, 0.0, 0.0], size: [1.02, 1.0, 4.0], soft: 0.0} }
      sides = ->(document) do
        strengths(document)
          .group_by { |(x, _, _), _| (x.abs < 0.05) ? :middle : (x <=> 0) }
          .transform_values { |rows| rows.map(&:last).uniq.map { |v| v.round(3) } }
          .values_at(-1, 1)
      end
      expect(sides.call(shot(map("m1", **left)))).to eq([[1.0], [0.0]])
      expect(sides.call(shot(map("m1", **left, how: "plus", opacity: 0.4), map("m2", **right, how: "plus")))).to eq(
        [[0.4], [1.0]]
      )
      expect(sides.call(shot(map("m1", **left, how: "minus", opacity: 0.25)))).to eq([[0.75], [1.0]])
      expect(
        sides.call(shot(map("m1", **left, how: "plus", opacity: 0.4), map("m2", **left, how: "most", opacity: 0.7)))
      ).to eq([[0.7], [0.0]])
      expect(sides.call(shot(map("m1", **left, opacity: 0.5)))).to eq([[1.0], [0.5]])
      expect(sides.call(shot(map("m1", **left, inverted: true)))).to eq([[0.0], [1.0]])
      # Order counts: what is taken away first can be added again.
      expect(sides.call(shot(map("m1", **left, how: "minus"), map("m2", **left, how: "plus", opacity: 0.5)))).to eq(
        [[0.5], [1.0]]
      )
    end

    it "leaves out what is switched off" do
      document = shot(map("m1", what: "ball", radius: 0.1), {"do" => "switch", "node" => "m1", "off" => true})
      expect(Geometry::MapRows.of(document, document.node("source-1"), 3)).to eq([])
    end

    it "is as strong as a front is old: rising, lasting, falling" do
      front = {
        "do" => "add",
        "kind" => "front",
        "id" => "front",
        "dials" => {
          "prop" => "prop-1", "starts" => "sweep", "sweep_position" => [-1.0, 0.0, 0.0], "sweep_way" => [1.0, 0.0, 0.0],
          "speed" => 2.4, "uneven" => 0.0
        }
      }
      document =
        shot(
          set("general", :last, 40), front,
          map("m1", what: "front", front: "front", rise: 0.25, lasts: 0.25, fall: 0.25)
        )
      # After 15 frames it has come 1.5 metres; every 0.1 metre is a frame of age.
      age = ->(x) { (15 - 10.0 * (x + 1.0)) / 24.0 }
      expect_each(strengths(document, 16)) do |x, _, _|
        a = age.call(x)
        (a < 0) ? 0.0 : [a / 0.25, 1.0, 1.0 - (a - 0.5) / 0.25].min.clamp(0.0, 1.0)
      end
      ever = Shot::Edits.apply(document, [set("m1", :lasts, 0.0), set("m1", :rise, 0.0)])[0]
      expect(strengths(ever, 40).values.uniq).to eq([1.0])
    end

    it "calculates with places, time and what came before" do
      document =
        shot(
          map("m1", what: "ball", position: [0.0, 0.0, 0.0], radius: 1.0, soft: 1.0),
          map("m2", what: "formula", formula: "if(x > 0, value * value, 0.5)", how: "most", opacity: 1.0)
        )
      plain = strengths(shot(map("m1", what: "ball", position: [0.0, 0.0, 0.0], radius: 1.0, soft: 1.0)))
      strengths(document).each do |place, value|
        expect(value).to be_within(1e-4).of(
          (place[0] > 1e-6) ? [plain[place], plain[place]**2].max : [plain[place], 0.5].max
        )
      end
    end

    it "is uneven by noise, the same each time, and elsewhere with another number" do
      noise = ->(seed) { strengths(shot(map("m1", what: "noise", seed: seed, hard: 2.0))).values }
      expect(noise.call(1)).to eq(noise.call(1))
      expect(noise.call(2)).not_to eq(noise.call(1))
      expect(noise.call(1).minmax).to eq([0.0, 1.0])
    end

    it "says what its prop has to have" do
      expect(refusal { strengths(shot(map("m1", what: "paint"))) }).to match(
        ["no_paint", /point colours, but its prop has none/]
      )
      expect(refusal { strengths(shot(map("m1", what: "picture"))) }).to match([/no_/, /picture/])
    end

    describe "in use" do
      let(:box) { {what: "box", position: [-0.5, 0.0, 0.0], size: [1.0, 2.0, 4.0], soft: 0.0} }

      it "lets a source feed only where it is strong" do
        with_workshop do |workshop|
          document =
            shot(
              set("source-1", :from, "surface"), set("source-1", :heats, false), set("source-1", :breakup, 0.0),
              set("general", :last, 2), set("chamber", :size, [2.4, 1.0, 2.4]), map("m1", **box)
            )
          id = shelve(workshop, document)
          run_now(workshop, id)
          plan = workshop.runs.plan(id, "draft")
          smoke = workshop.frames.read(plan.keys[2])[0].field(:smoke)
          sides = Array.new(2, 0.0)
          smoke
            .to_a
            .each_slice(smoke.dim(2)) do |row|
              row.each_with_index { |value, i| sides[(i < smoke.dim(2) / 2) ? 0 : 1] += value }
            end
          expect(sides[1]).to be < 0.06 * sides[0]
        end
      end

      it "lets particles start only where it is strong" do
        document =
          shot(
            {
              "do" => "add",
              "kind" => "emitter",
              "id" => "sparks",
              "dials" => {
                "prop" => "prop-1", "rate" => 600.0, "speed" => 0.0, "stir" => 0.0, "fall" => 0.0
              }
            },
            map("m1", "sparks", **box)
          )
        starts = Particles::Swarm.new(Geometry::Throws.new(document, "sparks"), nil).alive(4.0, 3.9)
        expect(starts.size).to be_between(20, 60)
        expect(starts.map { |row| row[3] }.max).to be < 0.05
      end

      it "gives a prop its second colour, and lets what is between glow" do
        document =
          shot(
            map("m1", "prop-1", what: "ball", position: [0.0, 0.0, 0.0], radius: 1.0, soft: 1.0),
            set("prop-1", :second, [0.0, 1.0, 0.0]), set("prop-1", :between, 3.0)
          )
        settings = Picture::PropScene.settings(document, 2)
        colours = Picture::PropScene.new(settings, nil).record.colours.to_a.each_slice(14).to_a
        mixed = colours.select { |row| row[9] > 0.99 }
        expect(mixed.flat_map { |row| row[5, 3] }.minmax).to match([be < 0.01, be > 0.95])
        expect(mixed[0][11, 3].map { |c| c.round(3) }).to eq([3.0, 0.84, 0.12])
        expect(Picture::PropScene.settings(shot, 2).any? { |prop| prop["mix"] }).to be(false)
      end
    end
  end
end
