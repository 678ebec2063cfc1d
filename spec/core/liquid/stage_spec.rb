# frozen_string_literal: true

module Vumbral
  RSpec.describe Liquid::Stage do
    def prop(id, **dials) =
      {"do" => "add", "kind" => "prop", "name" => id.capitalize, "id" => id, "dials" => dials.transform_keys(&:to_s)}

    def inflow(**dials) =
      {
        "do" => "add", "kind" => "inflow", "name" => "Inflow", "id" => "inflow",
        "dials" => {"prop" => "spout", "breakup" => 0.0}.merge(dials.transform_keys(&:to_s))
      }

    # @return [Array] plan, state and what each frame came to
    def go(document, frames = 6)
      plan = Liquid::Plan.new(document, :full)
      stage = described_class.new(plan, nil)
      state = stage.still
      reports = (1..frames).map { |frame| stage.advance(state, frame).then { |now, report| state = now and report } }
      [stage, state, reports, plan]
    end

    it "fills its box up to the water line, wherever that stands between voxels" do
      [0.15, 0.17].each do |line|
        _, state, reports, = go(small_water(line: line), 2)
        tops = places(state).map { |_, y, _| y }
        expect(tops.max * 0.05).to be_within(0.03).of(line)
        expect(reports[-1].volume).to be_within(0.013 * 0.16).of(0.16 * line)
      end
    end

    it "pours from a prop at its speed, and drains what comes into another" do
      pours = [
        prop("spout", shape: "sphere", radius: 0.06, position: [0.0, 0.3, 0.0], shown: false),
        inflow(velocity: [0.0, -1.0, 0.0])
      ]
      _, state, reports, = go(small_water(pool: false, edits: pours))
      expect(reports.map(&:drops)).to eq(reports.map(&:drops).sort)
      expect(reports[-1].drops).to be > 2 * reports[0].drops
      expect(reports.sum(&:poured)).to eq(state.made)
      drained =
        pours +
        [
          {
            "do" => "add",
            "kind" => "inflow",
            "name" => "Drain",
            "dials" => {
              "prop" => "spout", "does" => "drain"
            }
          }
        ]
      expect(
        go(
          small_water(
            edits:
              drained +
                [
                  prop("pit", shape: "box", size: [0.4, 0.1, 0.4], position: [0.0, 0.05, 0.0]),
                  {
                    "do" => "add",
                    "kind" => "inflow",
                    "name" => "Sink",
                    "dials" => {
                      "prop" => "pit", "does" => "drain"
                    }
                  }
                ]
          )
        )[
          2
        ][
          -1
        ].left
      ).to be_positive
    end

    it "fills once what is a drop" do
      _, state, reports, =
        go(
          small_water(
            pool: false,
            edits: [
              prop("spout", shape: "sphere", radius: 0.09, position: [0.0, 0.25, 0.0], shown: false),
              inflow(does: "fill", first: 2)
            ]
          )
        )
      expect(reports[0].drops).to eq(0)
      expect(reports[1].drops).to be_within(60).of(8 * 4.0 / 3 * Math::PI * 1.8**3)
      expect(reports[-1].drops).to eq(reports[1].drops)
      expect(middle(state)[1]).to be < 4.9
    end

    it "kicks what lies within a shape, and only on its frames" do
      kick = {
        "do" => "add",
        "kind" => "kick",
        "name" => "Kick",
        "dials" => {
          "position" => [0.0, 0.1, 0.0], "extent" => [0.2, 0.2, 0.2], "velocity" => [0.0, 2.0, 0.0], "uneven" => 0.0,
          "first" => 3, "last" => 3
        }
      }
      _, state, reports, = go(small_water(edits: [kick]), 4)
      expect(reports[1].speed).to be < 0.1
      expect(reports[2].speed).to be_between(1.0, 3.0)
      high = places(state).max_by { |_, y, _| y }
      expect(high[1]).to be > 4.0
      expect(high.values_at(0, 2)).to all(be_between(1.5, 6.5))
    end

    it "kicks by formulas of place" do
      kick = {
        "do" => "add",
        "kind" => "kick",
        "name" => "Kick",
        "dials" => {
          "position" => [0.0, 0.1, 0.0], "extent" => [1.0, 0.4, 1.0], "velocity" => [0.0, 0.0, 0.0], "uneven" => 0.0,
          "by_formula" => true, "formula_y" => "if(x > 0, 2, 0)", "first" => 2, "last" => 2
        }
      }
      _, state, = go(small_water(edits: [kick]), 3)
      left, right = places(state).partition { |x, _, _| x < 3.0 }.map { |all| all.map { |_, y, _| y }.max }
      expect(right).to be > left + 0.5
    end

    it "is held by the inside of a tank, and pushed aside by what moves in it" do
      ball = prop("ball", shape: "sphere", radius: 0.17, position: [0.0, 0.2, 0.0])
      _, state, = go(small_water(line: 0.15, tank: "ball", edits: [ball]).then { |document| document }, 4)
      far = places(state).map { |x, y, z| Math.sqrt((x - 4)**2 + (y - 4)**2 + (z - 4)**2) * 0.05 }
      expect(far.max).to be < 0.175
      dip = prop("dip", shape: "box", size: [0.16, 0.2, 0.16], position: [0.0, 0.35, 0.0], collider: true)
      fall =
        {1 => 0.35, 6 => 0.15}.map do |frame, y|
          {
            "do" => "key", "node" => "dip", "dial" => "position", "frame" => frame, "value" => [0.0, y, 0.0],
            "ease" => "linear"
          }
        end
      _, state, = go(small_water(edits: [dip, *fall]))
      inside = places(state).count { |x, y, z| [(x - 4).abs, (z - 4).abs].max < 1.3 && y > 1.5 && y < 4.5 }
      expect(inside).to eq(0)
    end

    it "is moved by forces that act on liquids" do
      wind = {"do" => "add", "kind" => "force", "name" => "Push", "dials" => {"what" => "push", "strength" => 5.0}}
      moved, still =
        [wind, wind.merge("dials" => wind["dials"].merge("acts_on" => "gas"))].map do |edit|
          middle(go(small_water(edits: [edit]))[1])[0]
        end
      expect(moved).to be > still + 0.2
    end

    it "is stirred by the same power however a frame is divided" do
      stir = {
        "do" => "add",
        "kind" => "force",
        "name" => "Stir",
        "dials" => {
          "what" => "turbulence", "strength" => 4.0, "size" => 0.2, "mask" => "everywhere"
        }
      }
      one, many =
        [1, 6].map do |least|
          go(small_water(substeps_least: least, edits: [stir]), 4)[1].drops.speed.to_a.sum { |v| v * v }
        end
      expect(many).to be_within(0.5 * one).of(one)
    end

    it "throws spray where it is wild, which flies, floats and goes" do
      kick = {
        "do" => "add",
        "kind" => "kick",
        "name" => "Kick",
        "dials" => {
          "position" => [0.0, 0.1, 0.0], "extent" => [0.25, 0.3, 0.25], "velocity" => [0.0, 3.0, 0.0], "first" => 2,
          "last" => 3
        }
      }
      wild = small_water(spray: true, trapped: 400.0, crest: 400.0, foam_life: 0.1, edits: [kick])
      _, state, reports, = go(wild)
      expect(reports[0].sprayed).to eq(0)
      expect(reports.map(&:sprayed).max).to be > 20
      expect(state.spray.kind.to_a.uniq - [0, 1, 2]).to eq([])
      expect(state.spray.id.to_a.uniq.size).to eq(state.spray.count)
      if state.spray.count.positive?
        expect(Liquid::Spraying.density(state.spray, [8, 8, 8], 2, 1.0).values.to_a.sum).to be_positive
      end
    end

    it "throws more spray near what is told to, and none near what throws none" do
      ball = ->(**dials) do
        {
          "do" => "add",
          "kind" => "prop",
          "name" => "Ball",
          "id" => "ball",
          "dials" => {
            "shape" => "sphere", "radius" => 0.06, "position" => [0.0, 0.25, 0.0], "collider" => true
          }.merge(dials.transform_keys(&:to_s))
        }
      end
      kick = {
        "do" => "add",
        "kind" => "kick",
        "name" => "Kick",
        "dials" => {
          "position" => [0.0, 0.1, 0.0], "extent" => [0.25, 0.3, 0.25], "velocity" => [0.0, 3.0, 0.0], "first" => 2,
          "last" => 3
        }
      }
      thrown = ->(**dials) do
        go(small_water(spray: true, trapped: 100.0, crest: 100.0, edits: [kick, ball[**dials]]))[1].sprayed
      end
      none, same, more = thrown[throws: 0.0], thrown[throws: 1.0], thrown[throws: 5.0]
      expect(same).to be > 1.1 * none
      expect(more).to be > 1.3 * same
      plan = ->(**dials) { Liquid::Plan.new(small_water(spray: true, edits: [ball[**dials]]), :full).flows.values }
      expect(plan[throws: 1.0]).to eq(plan[])
    end

    it "keeps what presses on its particles: in water at rest what stands above them" do
      _, state, reports, plan = go(small_water(voxel: 0.02, kept: 1.0, line: 0.3), 8)
      kept = Liquid::Kept.of(state, plan, plan.seconds(8) / reports[-1].substeps)
      off =
        kept
          .places
          .to_a
          .each_slice(3)
          .zip(kept.pressures.to_a)
          .map { |(_, y, _), pressure| pressure - 1000.0 * 9.81 * (0.3 - y) }
      # Of nearly 3 kPa at the floor, within half a voxel of water.
      expect(off.map(&:abs).max).to be < 1000.0 * 9.81 * 0.02
      expect(off.sum.abs / off.size).to be < 40.0
      expect(Liquid::Kept.of(state, plan).pressures.to_a.uniq).to eq([0.0])
    end

    it "has a closed surface that holds what there is" do
      stage, state, _, plan = go(small_water(voxel: 0.025), 3)
      mesh, speeds =
        Liquid::Surface.new(plan.voxel, plan.corner, plan.surface).mesh(Liquid::Skin.of(state, stage.first))
      expect(mesh).to be_closed
      expect(mesh.volume).to be_within(0.1 * 0.024).of(0.024)
      expect(speeds.dim(0)).to eq(mesh.points.dim(0))
      low, high = mesh.bounds
      expect(high[1]).to be_within(0.02).of(0.15)
      expect(low[1]).to be_within(0.02).of(0.0)
    end
  end
end
