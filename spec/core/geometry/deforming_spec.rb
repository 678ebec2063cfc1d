# frozen_string_literal: true

module Vumbral
  RSpec.describe "Shapes that change over time" do
    def done(mesh, what, **dials) =
      Geometry::Operations.apply(
        mesh, [{"what" => what, "name" => what.capitalize}.merge(dials.transform_keys(&:to_s))], nil
      )

    def points(mesh) = mesh.points.to_a.each_slice(3).to_a

    let(:pole) { Geometry::Panels.box([0.2, 2.0, 0.2], 16) }
    let(:whole) { {axis: "y", towards: 0.0, bend_from: 0.0, bend_to: 1.0} }

    def bare = Geometry::Operations::Cage::CORNERS.to_h { |corner| [corner, [0.0, 0.0, 0.0]] }

    it "twists evenly from one end to the other, and keeps what it holds" do
      twisted = done(pole, "twist", angle: 90.0, **whole)
      expect(twisted.volume).to be_within(1e-3).of(pole.volume)
      turned =
        points(pole)
          .zip(points(twisted))
          .map do |a, b|
            [
              (a[1] + 1.0) / 2.0, Math.atan2(a[2] * b[0] - a[0] * b[2], a[2] * b[2] + a[0] * b[0]),
              Math.hypot(a[0], a[2])
            ]
          end
      turned
        .reject { |_, _, far| far < 1e-6 }
        .each { |part, angle, _| expect(angle).to be_within(1e-4).of(part * Math::PI / 2) }
    end

    it "bends to a part of a ring whose middle stays as long as it was" do
      bent = done(pole, "bend", angle: 180.0, **whole)
      radius = 2.0 / Math::PI
      middle = points(pole).zip(points(bent)).select { |a, _| a[0].abs < 1e-6 && a[2].abs < 1e-6 }.map(&:last)
      # About a centre beside its lower end.
      expect(middle.map { |x, y, z| Math.sqrt((y + 1.0)**2 + (z - radius)**2) + x.abs }).to all(
        be_within(1e-4).of(radius)
      )
      expect(bent.volume).to be_within(0.005).of(pole.volume)
    end

    it "goes on straight beyond what is bent, and leaves alone what comes before" do
      half = done(pole, "bend", angle: 90.0, **whole, bend_from: 0.5, bend_to: 0.75)
      before, after = points(pole), points(half)
      low = before.each_index.select { |n| before[n][1] < -0.01 }
      expect(low.map { |n| after[n].zip(before[n]).sum { |a, b| (a - b).abs } }.max).to be < 1e-5
      top = before.each_index.select { |n| before[n][1] > 0.99 }
      expect(top.map { |n| after[n][1] }.minmax.reduce(:-).abs).to be_within(1e-4).of(0.2)
    end

    it "follows the corners of the box around it, exactly in the corners and halfway between" do
      box = Geometry::Panels.box([2.0, 2.0, 2.0], 2)
      pulled = done(box, "cage", **bare, corner_7: [0.4, 0.2, 0.0])
      moved =
        points(box)
          .zip(points(pulled))
          .to_h { |a, b| [a.map { |c| c.round(3) }, b.zip(a).map { |x, y| (x - y).round(5) }] }
      expect(moved.values_at([1.0, 1.0, 1.0], [1.0, 1.0, 0.0], [1.0, 0.0, 0.0], [-1.0, -1.0, -1.0])).to eq(
        [[0.4, 0.2, 0.0], [0.2, 0.1, 0.0], [0.1, 0.05, 0.0], [0.0, 0.0, 0.0]]
      )
    end

    describe "moved by noise or waves" do
      let(:ball) { Geometry::Builders.sphere(1.0, divisions: 4) }
      let(:usual) { {strength: 0.1, size: 0.5, octaves: 1, seed: 3} }

      def radii(mesh) = points(mesh).map { |point| Math.sqrt(point.sum { |c| c * c }) }

      it "goes out and in, or only out, or only in, by the level that stays" do
        ranges = [0.0, -1.0, 1.0].map { |rest| radii(done(ball, "displace", **usual, rest: rest)).minmax }
        expect(ranges[0]).to match([be_between(0.9, 0.96), be_between(1.04, 1.1)])
        expect(ranges[1][0]).to be >= 1.0 - 1e-5
        expect(ranges[2][1]).to be <= 1.0 + 1e-5
      end

      it "has kinds that differ: ridges with sharp tops, billows with sharp valleys" do
        soft, billows, ridges =
          %w[soft billows ridges].map { |bumps| radii(done(ball, "displace", **usual, bumps: bumps)) }
        expect(billows.zip(ridges)).to all(satisfy { |a, b| (a + b - 2.0).abs < 1e-4 })
        expect(soft).not_to eq(billows)
      end

      it "runs in waves of the length asked for" do
        sheet = Geometry::Panels.plane([2.0, 1.0, 2.0], 64)
        still = done(sheet, "displace", **usual, bumps: "waves", along: [1.0, 0.0, 0.0])
        points(still).each { |x, y, _| expect(y).to be_within(1e-4).of(0.1 * Math.sin(2.0 * Math::PI * x / 0.5)) }
        later = done(sheet, "displace", **usual, bumps: "waves", along: [1.0, 0.0, 0.0], time: 0.25)
        points(later).each do |x, y, _|
          expect(y).to be_within(1e-4).of(0.1 * Math.sin(2.0 * Math::PI * (x / 0.5 - 0.25)))
        end
      end

      it "stays in the world's noise where the prop moves through it" do
        away = Geometry::Transform.place(position: [0.5, 0.0, 0.0])
        there = done(ball, "displace", **usual, space: "world", world: away.rows)
        expect(radii(there)).not_to eq(radii(done(ball, "displace", **usual)))
        moved = done(ball.transformed(away), "displace", **usual).transformed(away.inverse)
        expect(radii(there).zip(radii(moved))).to all(satisfy { |a, b| (a - b).abs < 1e-4 })
      end

      it "needs texture places to be read on the surface" do
        expect(refusal { done(ball, "displace", **usual, space: "surface") }).to match(
          ["no_texture_places", /lay them out first/]
        )
        laid = done(ball, "lay", lay_as: "flat", lay_size: 1.0, lay_turn: 0.0)
        expect(radii(done(laid, "displace", **usual, space: "surface"))).not_to eq(
          radii(done(laid, "displace", **usual))
        )
      end
    end

    it "is moved by a texture as that lies in the world, wherever the prop goes, and by pictures through whoever " \
      "reads them" do
      edits = ->(position) {
        [
          set("prop-1", :shape, "plane"),
          set("prop-1", :size, [2.0, 1.0, 2.0]),
          set("prop-1", :cells, 20),
          set("prop-1", :position, position),
          {
            "do" => "add",
            "kind" => "texture",
            "id" => "hill",
            "name" => "Hill",
            "dials" => {
              "what" => "fall", "shape" => "point", "course" => "straight", "size" => 1.0
            }
          },
          {
            "do" => "add",
            "kind" => "operation",
            "id" => "push",
            "name" => "Push",
            "dials" => {
              "prop" => "prop-1", "what" => "displace", "bumps" => "texture", "texture" => "hill", "strength" => 0.2,
              "rest" => -1.0
            }
          }
        ]
      }
      heights = lambda { |position|
        shot = small_shot(edits: edits[position])
        points(Geometry::Shapes.build(Geometry::Shapes.outline(shot.node("prop-1"), document: shot, frame: 1), nil))
      }
      # A hill about the world's origin, 1 in its middle and 0 a metre away.
      heights[[0.0, 0.0, 0.0]].each do |x, y, z|
        expect(y).to be_within(0.002).of(0.4 * [1.0 - Math.hypot(x, z), 0.0].max)
      end
      heights[[0.5, 0.0, 0.0]].each do |x, y, z|
        expect(y).to be_within(0.002).of(0.4 * [1.0 - Math.hypot(x + 0.5, z), 0.0].max)
      end
      pictured = small_shot(edits: edits[[0.0] * 3] + [set("hill", :what, "formula"), set("hill", :formula, "0.75")])
      shelf = Class.new { def pattern(row) = Maps::Patterns.buffer([row], self) }.new
      shape =
        Geometry::Shapes.build(Geometry::Shapes.outline(pictured.node("prop-1"), document: pictured, frame: 1), shelf)
      expect(points(shape).map { |_, y, _| y }).to all(be_within(1e-3).of(0.2 * (0.5 + 1.0)))
      bare = small_shot(edits: edits[[0.0] * 3] + [set("push", :texture, nil)])
      expect(Preflight::Survey.new(bare, nil).findings.map(&:text)).to include(
        "Push moves nothing yet: choose its texture."
      )
    end

    describe "in a shot" do
      let(:shot) do
        keys =
          [[1, 0.0], [8, 70.0]].map do |frame, value|
            {
              "do" => "key", "node" => "twist", "dial" => "angle", "frame" => frame, "value" => value,
              "ease" => "linear"
            }
          end
        small_shot(
          edits: [
            set("prop-1", :shape, "box"),
            set("prop-1", :cells, 4),
            {
              "do" => "add",
              "kind" => "operation",
              "id" => "twist",
              "dials" => {
                "prop" => "prop-1", "what" => "twist"
              }
            },
            *keys
          ]
        )
      end

      it "is at both ends of a frame what it is on those frames, and between them in between" do
        body = Geometry::Bodies.of(shot, shot.node("prop-1"), 5)
        was, half, now = [0.0, 0.5, 1.0].map { |at| points(Geometry::Shapes.build(body["outline"], nil, at)) }
        at = ->(frame) do
          points(
            Geometry::Shapes.build(Geometry::Shapes.outline(shot.node("prop-1"), document: shot, frame: frame), nil)
          )
        end
        expect([was, now]).to eq([at.call(4), at.call(5)])
        half.zip(was, now).each { |m, a, b| 3.times { |c| expect(m[c]).to be_within(1e-6).of(0.5 * (a[c] + b[c])) } }
        expect(body.values_at("from", "to").map { |pose| pose["at"] }).to eq([0.0, 1.0])
      end

      it "tells the gas how fast its surface moves" do
        ends = Flow::Props.new(Gas::Plan.new(shot, :draft), nil).then do |props|
          body = Geometry::Bodies.of(shot, shot.node("prop-1"), 5)
          props.ends(body["outline"], *body.values_at("from", "to").map { |pose| Geometry::Pose.of(pose) })
        end
        fastest = points(ends[0]).zip(points(ends[1])).map { |a, b| Math.sqrt(a.zip(b).sum { |x, y| (x - y)**2 }) }.max
        # Ten degrees at the far corners of the upper end.
        expect(fastest).to be_within(1e-3).of(2.0 * Math.sqrt(0.5) * Math.sin(5.0 * Math::PI / 180))
      end

      it "adds up a rate that changes" do
        drift = ->(*edits) {
          Shot::Timing.gone(Shot::Edits.apply(shot, [{"do" => "add", "kind" => "operation", "id" => "waves",
                                                      "dials" => {"prop" => "prop-1", "what" => "displace",
                                                                  "drift" => 2.0}}, *edits])[0].then { |d| @d = d },
            @d.node("waves"), :drift, 7)
        }
        expect(drift.call).to be_within(1e-9).of(2.0 * 7 / 24)
        rising = {"do" => "formula", "node" => "waves", "dial" => "drift", "text" => "frame - 1"}
        expect(drift.call(rising)).to be_within(1e-6).of((0 + 1 + 2 + 3 + 4 + 5) / 24.0)
      end
    end

    describe "that shake" do
      let(:shot) do
        small_shot(
          edits: [
            set("prop-1", :shake, [0.2, 0.0, 0.1]), set("prop-1", :shake_turn, [0.0, 30.0, 0.0]),
            set("prop-1", :shake_speed, 8.0), set("general", :last, 48)
          ]
        )
      end

      it "stray as far as they may, about where they stand, and alike each time" do
        poses = (1..48).map { |frame| Geometry::Hanging.pose(shot, shot.node("prop-1"), frame) }
        middle = shot.node("prop-1")[:position]
        off = poses.map { |pose| pose.position.zip(middle).map { |a, b| a - b } }.transpose
        expect(off[0].map(&:abs).max).to be_between(0.08, 0.2)
        expect(off[1]).to all(be_zero)
        expect(off[2].map(&:abs).max).to be_between(0.04, 0.1)
        expect(poses.map { |pose| pose.turn[1] }.minmax).to match([be_between(-30.0, -5.0), be_between(5.0, 30.0)])
        expect(poses[20]).to eq(Geometry::Hanging.pose(shot, shot.node("prop-1"), 21))
        expect(Geometry::Bodies.goes?(shot, shot.node("prop-1"))).to be(true)
      end

      it "shake otherwise with another number, and stand where a hand puts them" do
        other = Shot::Edits.apply(shot, [set("prop-1", :shake_seed, 2)])[0]
        expect(Geometry::Hanging.pose(other, other.node("prop-1"), 9)).not_to eq(
          Geometry::Hanging.pose(shot, shot.node("prop-1"), 9)
        )
        put =
          Shot::Edits.apply(
            shot, [{"do" => "place", "node" => "prop-1", "frame" => 9, "position" => [1.0, 2.0, 3.0]}]
          )[
            0
          ]
        expect(Geometry::Hanging.pose(put, put.node("prop-1"), 9).position.zip([1.0, 2.0, 3.0])).to all(
          satisfy { |a, b| (a - b).abs < 1e-5 }
        )
      end

      it "shakes lamps and the camera too, which looks elsewhere then and goes no nearer" do
        shaken =
          Shot::Edits.apply(
            shot, [set("camera", :shake_turn, [2.0, 3.0, 0.0]), set("camera", :shake, [0.05, 0.05, 0.0])]
          )[
            0
          ]
        path = Picture::Camera.path(shaken)
        far = path.map { |at| Math.sqrt(at["target"].zip(at["position"]).sum { |a, b| (a - b)**2 }) }
        expect(path.map { |at| at["target"] }.uniq.size).to be > 40
        still = shot.node("camera")
        plain = path.map { |at| Math.sqrt(still[:target].zip(at["position"]).sum { |a, b| (a - b)**2 }) }
        expect(far.zip(plain)).to all(satisfy { |a, b| (a - b).abs < 1e-6 })
      end
    end
  end
end
