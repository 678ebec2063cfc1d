# frozen_string_literal: true

module Vumbral
  RSpec.describe Geometry::Flight do
    def prop(id, **dials)
      usual = {
        shape: "box", size: [0.4, 0.2, 0.4], breaks: true, break_frame: 1, pieces: 2, blast_strength: 0.0, spin: 0.0,
        drop_outside: false
      }
      {"do" => "add", "kind" => "prop", "id" => id, "dials" => usual.merge(dials).transform_keys(&:to_s)}
    end

    # A prop in one piece.
    def block(id, **dials) = prop(id, keep: 50.0, **dials)

    def shot(*edits) = small_shot(edits: [set("general", :last, 120), set("prop-1", :shown, true), *edits])

    # Where all pieces are at a frame, by prop.
    def at(document, frame, id)
      broken = Geometry::Breaking.settings(document, document.node(id), frame, nil)
      @flights ||= {}
      flight = @flights[[document, broken["world"]]] ||= described_class.new(broken["world"], nil)
      [flight.at(frame, broken["poses"]), flight]
    end

    def heights(found) = found.values.map { |pieces| pieces[0]["position"][1] }

    it "lets a stack of five stand, and come to rest" do
      stack = shot(*(0...5).map { |n| block("b#{n}", position: [0.0, 0.1 + 0.2 * n, 0.0]) })
      early, late = [40, 90].map { |frame| at(stack, frame, "b0")[0] }
      expect(heights(late)).to match((0...5).map { |n| be_within(0.004).of(0.1 + 0.2 * n) })
      expect(late.values.flatten.map { |pose| pose["position"].values_at(0, 2).map(&:abs).max }.max).to be < 0.01
      expect(late).to eq(early)
    end

    it "keeps the momentum of a free blast, and never has more energy than before" do
      lid =
        shot(
          prop(
            "lid", shape: "cylinder", radius: 0.6, tall: 0.15, position: [0.0, 2.0, 0.0], pieces: 30,
            blast: [0.1, 1.7, 0.0], blast_strength: 9.0, spin: 300.0, falls: 0.0, floor: -100.0
          )
        )
      balances = (1..48).map { |frame| at(lid, frame, "lid")[1].balance }
      size = Math.sqrt(balances[0][2].sum { |c| c * c })
      balances.each do |_, _, momentum|
        expect(Math.sqrt(momentum.zip(balances[0][2]).sum { |a, b| (a - b)**2 })).to be < 0.01 * size
      end
      energies = balances.map { |moving, high, _| moving + high }
      expect(energies.each_cons(2).map { |a, b| b - a }.max).to be < 0.001 * energies[0]
    end

    it "loses energy and nothing else on the floor, until all lies still on it" do
      lid =
        shot(
          prop(
            "lid", shape: "cylinder", radius: 0.6, tall: 0.15, position: [0.0, 1.0, 0.0], pieces: 20,
            blast: [0.1, 0.8, 0.0], blast_strength: 4.0, spin: 200.0
          )
        )
      energies = (1..110).map { |frame| at(lid, frame, "lid")[1].balance.first(2).sum }
      expect(energies.each_cons(2).map { |a, b| b - a }.max).to be < 0.002 * energies[0]
      still = [105, 110].map { |frame| at(lid, frame, "lid")[0]["lid"] }
      moved =
        still[0].zip(still[1]).count { |a, b| a["position"].zip(b["position"]).sum { |p, q| (p - q).abs } > 0.002 }
      expect(moved).to be <= 2
      low =
        still[1].each_with_index.map do |pose, n|
          Geometry::Shapes.world(
            {
              "shape" => "piece", "of" => Geometry::Shapes.outline(lid.node("lid"), document: lid, frame: 1),
              "cut" => Geometry::Breaking.cut_of(lid.node("lid")), "n" => n
            }.merge(pose),
            nil
          ).bounds[
            0
          ][
            1
          ]
        end
      expect(low.min).to be > -0.02
    end

    it "falls as gravity says, and throws back as far as it bounces" do
      ball = shot(block("ball", shape: "sphere", radius: 0.2, divisions: 2, position: [0.0, 1.7, 0.0], bounce: 0.5))
      expect(at(ball, 9, "ball")[0]["ball"][0]["position"][1]).to be_within(0.02).of(1.7 - 0.5 * 9.81 / 9.0)
      top = (14..40).map { |frame| at(ball, frame, "ball")[0]["ball"][0]["position"][1] }.max
      expect(top - 0.2).to be_within(0.09).of(0.25 * 1.5)
    end

    it "does not let pieces go through each other, nor through closed props that stand in the way" do
      table = {
        "do" => "add",
        "kind" => "prop",
        "id" => "table",
        "dials" => {
          "shape" => "box", "size" => [2.0, 0.3, 2.0], "position" => [0.0, 0.6, 0.0], "collider" => true
        }
      }
      two = shot(table, block("low", position: [0.0, 1.2, 0.0]), block("high", position: [0.05, 1.7, 0.0]))
      rest = at(two, 70, "low")[0]
      expect(heights(rest)).to match([be_within(0.02).of(0.85), be_within(0.03).of(1.05)])
    end

    it "slides by its friction" do
      pushed = {
        "do" => "add",
        "kind" => "blast",
        "id" => "gust",
        "dials" => {
          "frame" => 3, "position" => [-3.0, 0.1, 0.0], "reach" => 100.0, "strength" => 2.0, "spin" => 0.0
        }
      }
      far =
        [0.0, 0.45].map do |rough|
          at(shot(pushed, block("box", position: [0.0, 0.1, 0.0], scrape: rough)), 30, "box")[0]["box"][0]["position"][
            0
          ]
        end
      expect(far[0]).to be > 1.5
      expect(far[1]).to be_between(0.05, 0.5)
    end

    it "holds pieces until their frame, and lets them go as a front comes to them" do
      held = shot(prop("lid", position: [0.0, 1.0, 0.0], pieces: 8, held_until: 12))
      up = ->(document, frame) { at(document, frame, "lid")[0]["lid"].map { |pose| pose["position"][1] } }
      expect(up.call(held, 11)).to eq(up.call(held, 1))
      expect(up.call(held, 20).max).to be < up.call(held, 1).min
      front = {
        "do" => "add",
        "kind" => "front",
        "id" => "front",
        "dials" => {
          "prop" => "lid", "starts" => "sweep", "sweep_position" => [-0.5, 0.0, 0.0], "sweep_way" => [1.0, 0.0, 0.0],
          "speed" => 1.0, "uneven" => 0.0
        }
      }
      burning =
        shot(
          prop("lid", size: [1.0, 0.1, 0.3], cells: 12, position: [0.0, 1.0, 0.0], pieces: 12), front,
          set("lid", :break_front, "front")
        )
      fallen = ->(frame) do
        up.call(burning, frame).zip(up.call(burning, 1)).count { |now, before| before - now > 0.02 }
      end
      expect([4, 14, 40].map { |frame| fallen.call(frame) }).to match([be < 4, be_between(3, 10), be >= 11])
    end

    it "goes on from the motion of its prop" do
      keys =
        [[1, [0.0, 3.0, 0.0]], [25, [4.8, 3.0, 0.0]]].map do |frame, value|
          {
            "do" => "key", "node" => "box", "dial" => "position", "frame" => frame, "value" => value, "ease" => "linear"
          }
        end
      thrown = shot(block("box", break_frame: 6, falls: 0.0), *keys)
      expect(at(thrown, 18, "box")[0]["box"][0]["position"][0]).to be_within(0.02).of(17 * 0.2)
    end

    it "is the same whichever frame is asked for first" do
      lid = prop("lid", position: [0.0, 1.0, 0.0], pieces: 10, blast_strength: 5.0, blast: [0.0, 0.8, 0.0])
      late = at(shot(lid), 40, "lid")[0]
      steps = shot(lid)
      [5, 17, 29].each { |frame| at(steps, frame, "lid") }
      expect(at(steps, 40, "lid")[0]).to eq(late)
    end

    it "leaves out what was taken away, and breaks again on its frame without a jump" do
      lid =
        shot(
          prop(
            "lid", shape: "cylinder", radius: 0.6, tall: 0.15, position: [0.0, 2.0, 0.0], pieces: 6, taken: [2],
            again: 8, again_pieces: 3, again_push: 0.0, blast: [0.0, 1.5, 0.0], blast_strength: 5.0, falls: 0.0,
            floor: -100.0
          )
        )
      before, after = [7, 8].map { |frame| at(lid, frame, "lid")[0]["lid"] }
      expect(before.first(6).map(&:nil?)).to eq([false, false, true, false, false, false])
      expect(before.drop(6)).to all(be_nil)
      expect(after.first(6)).to all(be_nil)
      cut =
        Geometry::Breaking.cut(
          Geometry::Shapes.outline(lid.node("lid"), document: lid, frame: 1),
          Geometry::Breaking.cut_of(lid.node("lid")), nil
        )
      expect(cut.each_index.select { |n| after[n] }.map { |n| cut[n].parent }.uniq).to eq([0, 1, 3, 4, 5])
      # Where it breaks nothing is made or lost, and what comes of a piece is where that was.
      momenta = [7, 8, 9].map { |frame| at(lid, frame, "lid")[1].balance[2] }
      size = Math.sqrt(momenta[0].sum { |c| c * c })
      expect(momenta.each_cons(2).map { |a, b| Math.sqrt(a.zip(b).sum { |p, q| (p - q)**2 }) }).to all(be < 0.02 * size)
      moved = before[0]["position"]
      parts = cut.each_index.select { |n| cut[n].parent == 0 && after[n] }
      middle = 3.times.map { |c| parts.sum { |n| after[n]["position"][c] } / parts.size }
      expect(Math.sqrt(middle.zip(moved).sum { |a, b| (a - b)**2 })).to be < 0.35
    end

    it "holds pieces that break again before they are let go" do
      lid =
        shot(prop("lid", shape: "box", position: [0.0, 2.0, 0.0], pieces: 3, again: 3, again_pieces: 2, held_until: 6))
      poses =
        [2, 4, 6].map do |frame|
          at(lid, frame, "lid")[0]["lid"].compact.map { |pose| pose["position"].map { |c| c.round(4) } }
        end
      expect(poses.map(&:size)).to eq([3, 6, 6])
      expect(poses[1]).to eq(poses[2])
      expect(at(lid, 9, "lid")[0]["lid"].compact[0]["position"][1]).to be < poses[1][0][1]
    end
  end

  RSpec.describe Geometry::Hull do
    it "has the corners and sides of a box, and nothing of what lies within" do
      corners = [-1.0, 1.0].product([-2.0, 2.0], [-3.0, 3.0])
      hull = described_class.new(corners + Array.new(30) { |n| corners[n % 8].map { |c| c * 0.9 } })
      expect(hull.planes.size).to eq(6)
      expect(hull.points & corners).to match_array(corners)
      expect(hull.radius).to be_within(1e-9).of(Math.sqrt(14.0))
    end

    it "holds every point of a body, all but" do
      points = Geometry::Builders.torus(0.5, 0.2).points.to_a.each_slice(3).to_a
      hull = described_class.new(points)
      out = points.map { |p| hull.planes.map { |x, y, z, d| x * p[0] + y * p[1] + z * p[2] - d }.max }
      expect(out.max).to be < 0.06
    end

    it "refuses what is flat" do
      expect(refusal { described_class.new([[0.0, 0.0, 0.0], [1.0, 0.0, 0.0], [0.0, 1.0, 0.0]]) }).to match(
        ["no_volume", /flat/]
      )
    end
  end

  RSpec.describe Geometry::Weight do
    it "gives volume, centre and inertia of a box, wherever it stands" do
      box = Geometry::Builders.box([1.0, 2.0, 3.0]).transformed(Geometry::Transform.place(position: [4.0, 5.0, 6.0]))
      volume, centre, tensor = described_class.of(box)
      expect([volume, *centre]).to match([6.0, 4.0, 5.0, 6.0].map { |value| be_within(1e-4).of(value) })
      expect(3.times.map { |n| tensor[n][n] }).to match(
        [0.5 * 13, 0.5 * 10, 0.5 * 5].map { |value| be_within(1e-3).of(value) }
      )
      expect(tensor[0][1].abs).to be < 1e-3
    end
  end
end
