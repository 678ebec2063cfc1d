# frozen_string_literal: true

module Vumbral
  RSpec.describe Geometry::Front do
    def shot(front = {}, *edits, prop: {})
      props = prop.map { |dial, value| set("prop-1", dial, value) }
      small_shot(
        edits: [
          set("general", :last, 48),
          *props,
          {
            "do" => "add", "kind" => "front", "id" => "front", "name" => "Front",
            "dials" => {"prop" => "prop-1", "uneven" => 0.0, "speed" => 1.0}.merge(front.transform_keys(&:to_s))
          },
          *edits
        ]
      )
    end

    # The frame on which the front comes to each point.
    def arrival(document, frame = 48, id = "front")
      prop = document.node("prop-1")
      outline = Geometry::Shapes.outline(prop, document: document, frame: frame)
      mesh = Geometry::Shapes.build(outline, nil)
      [
        mesh.points.to_a.each_slice(3).to_a,
        described_class.arrival(described_class.row(document, document.node(id), frame), outline, mesh, nil).to_a
      ]
    end

    # Metres run by the time it comes, at one metre a second.
    def far(frames, first = 1) = frames.map { |frame| (frame - first) / 24.0 }

    def ball(divisions: 5, **front) =
      shot(
        {places: [[0.0, 0.4, 0.0]]}.merge(front),
        prop: {
          radius: 0.4, divisions: divisions, position: [0.0, 1.0, 0.0]
        }
      )

    it "comes to each place of a ball after the way around it, within 2 %" do
      points, frames = arrival(ball)
      exact = points.map { |x, y, z| 0.4 * Math.acos((y / Math.sqrt(x * x + y * y + z * z)).clamp(-1.0, 1.0)) }
      off = far(frames).zip(exact).reject { |_, way| way < 0.1 }.map { |is, way| (is - way).abs / way }
      expect(off.max).to be < 0.02
      expect(off.sum / off.size).to be < 0.006
    end

    it "comes to each place of a flat sheet after the straight way, within 2 %, from a corner and from within" do
      [[-0.5, 0.0, -0.5], [0.1, 0.0, 0.07]].each do |place|
        points, frames = arrival(shot({places: [place]}, prop: {shape: "plane", size: [1.0, 1.0, 1.0], cells: 24}))
        exact = points.map { |point| Math.sqrt(point.zip(place).sum { |a, b| (a - b)**2 }) }
        off = far(frames).zip(exact).reject { |_, way| way < 0.1 }.map { |is, way| (is - way).abs / way }
        expect(off.max).to be < 0.02
      end
    end

    # Half of a sheet under a pattern that is 0.5 there and 1 elsewhere: twice as long a way.
    it "is paced by a texture, which lies on the prop as it stood" do
      edge = {starts: "box", box_position: [-0.5, 0.0, 0.0], box_size: [0.02, 1.0, 2.0]}
      pattern = {
        "do" => "add",
        "kind" => "texture",
        "id" => "pattern",
        "dials" => {
          "what" => "fall",
          "shape" => "plane",
          "course" => "straight",
          "size" => 1.0,
          "turn" => [0.0, 0.0, 90.0],
          "offset" => [2.5, 0.0, 0.0],
          "ramp" => [
            {"at" => 0.0, "value" => 0.5, "pass" => "held"}, {"at" => 0.5, "value" => 1.0, "pass" => "held"}
          ]
        }
      }
      document =
        shot(
          edge,
          pattern,
          set("front", :paced_by, "pattern"),
          prop: {
            shape: "plane", size: [1.0, 1.0, 1.0], cells: 24, position: [2.0, 0.0, 0.0]
          }
        )
      points, frames = arrival(document)
      points
        .zip(far(frames))
        .each { |(x, _, _), way| expect(way).to be_within(0.05).of((x < 0.0) ? 2.0 * (x + 0.5) : x + 1.0) }
      _points, even = arrival(Shot::Edits.apply(document, [set("front", :paced, 0.0)])[0])
      points.zip(far(even)).each { |(x, _, _), way| expect(way).to be_within(0.02).of(x + 0.5) }
    end

    it "goes straight from a straight edge" do
      points, frames =
        arrival(
          shot(
            {starts: "box", box_position: [-0.5, 0.0, 0.0], box_size: [0.02, 1.0, 2.0]},
            prop: {
              shape: "plane", size: [1.0, 1.0, 1.0], cells: 24
            }
          )
        )
      points.zip(far(frames)).each { |(x, _, _), way| expect(way).to be_within(0.02).of(x + 0.5) }
    end

    it "meets from several places, each point after the nearest" do
      points, frames =
        arrival(
          shot(
            {places: [[-0.5, 0.0, 0.0], [0.5, 0.0, 0.0]]},
            prop: {
              shape: "plane", size: [1.0, 1.0, 1.0], cells: 24
            }
          )
        )
      exact = points.map { |x, _, z| [Math.hypot(x + 0.5, z), Math.hypot(x - 0.5, z)].min }
      expect(far(frames).zip(exact).map { |is, way| (is - way).abs }.max).to be < 0.012
    end

    it "sweeps as a plane, runs backwards, keeps behind, and stops" do
      points, frames =
        arrival(
          shot({starts: "sweep", sweep_position: [0.0, 0.0, 0.0], sweep_way: [0.0, 2.0, 0.0]}, prop: {radius: 0.5})
        )
      points.zip(far(frames)).each { |(_, y, _), way| expect(way).to be_within(1e-4).of([y, 0.0].max) }
      forth, back = [false, true].map { |reversed| far(arrival(ball(reversed: reversed, divisions: 3))[1]) }
      expect(back).to match(forth.map { |way| be_within(1e-4).of(forth.max - way) })
      expect(far(arrival(ball(behind: 0.5, divisions: 3))[1])).to match(
        forth.map { |way| be_within(1e-4).of(way + 0.5) }
      )
      row = described_class.row(ball(freeze: 10), ball(freeze: 10).node("front"), 30)
      expect(row["frame"]).to eq(10)
    end

    it "goes by the size that the prop is scaled to" do
      small, large =
        [1.0, 3.0].map do |scale|
          far(arrival(shot({places: [[0.0, 0.5, 0.0]]}, prop: {divisions: 3, scale: [scale] * 3}))[1]).max
        end
      expect(large).to be_within(1e-3).of(3.0 * small)
    end

    it "runs as fast as its keys say, and knows nothing of what comes later" do
      keys =
        [[1, 0.0], [25, 1.0]].map do |frame, value|
          {
            "do" => "key", "node" => "front", "dial" => "speed", "frame" => frame, "value" => value, "ease" => "linear"
          }
        end
      document =
        shot(
          {starts: "sweep", sweep_position: [0.0, -0.5, 0.0], sweep_way: [0.0, 1.0, 0.0]},
          *keys,
          prop: {
            shape: "plane", size: [1.0, 1.0, 1.0], turn: [0.0, 0.0, 0.0]
          }
        )
      # It has come half a metre once its speed has added up to it: (n² - n) / 2 / 24 / 24 = 0.5.
      _, frames = arrival(document, 40)
      expect(frames).to all(be_within(0.05).of(1.0 + 0.5 * (1.0 + Math.sqrt(1.0 + 4.0 * 576.0))))
      expect(arrival(document, 20)[1]).to all(be > 1e9)
    end

    it "is broken up by noise, faster here and slower there" do
      even, uneven = [0.0, 1.0].map { |share| far(arrival(ball(divisions: 4, uneven: share, uneven_size: 0.2))[1]) }
      ratio = even.zip(uneven).reject { |a, _| a < 0.2 }.map { |a, b| b / a }
      expect(ratio.minmax).to match([be < 0.85, be > 0.95])
      expect(uneven).to eq(far(arrival(ball(divisions: 4, uneven: 1.0, uneven_size: 0.2))[1]))
    end

    it "follows another front the same way, later and at its own pace" do
      second = {
        "do" => "add",
        "kind" => "front",
        "id" => "second",
        "dials" => {
          "starts" => "after", "after" => "front", "delay" => 12, "speed" => 2.0, "prop" => "prop-1"
        }
      }
      document = Shot::Edits.apply(ball(divisions: 3), [second])[0]
      forth, later = far(arrival(document)[1]), far(arrival(document, 48, "second")[1], 13)
      expect(later).to match(forth.map { |way| be_within(1e-4).of(0.5 * way) })
      expect(
        refusal { Shot::Edits.apply(document, [set("front", :after, "second"), set("front", :starts, "after")]) }
      ).to match(["circle", /runs after it already/])
    end

    it "keeps its way on a prop that bends, and refuses one whose triangles change" do
      bend = {"do" => "add", "kind" => "operation", "id" => "bend", "dials" => {"prop" => "prop-1", "what" => "bend"}}
      keys =
        [[1, 0.0], [48, 120.0]].map do |frame, value|
          {"do" => "key", "node" => "bend", "dial" => "angle", "frame" => frame, "value" => value}
        end
      bent = Shot::Edits.apply(ball(divisions: 3), [bend, *keys])[0]
      expect(arrival(bent, 40)[1]).to match(arrival(bent, 2)[1].map { |frame| be_within(1e-3).of(frame) })
      finer =
        Shot::Edits.apply(
          ball(divisions: 1),
          [
            bend.merge("id" => "finer", "dials" => {"prop" => "prop-1", "what" => "subdivide"}),
            *[[1, 1], [48, 3]].map do |frame, value|
              {"do" => "key", "node" => "finer", "dial" => "steps", "frame" => frame, "value" => value}
            end
          ]
        )[
          0
        ]
      expect(refusal { arrival(finer, 48) }).to match(["not_alike", /change from frame to frame/])
    end

    it "begins at picked faces, all of each at once" do
      document =
        shot(
          {starts: "faces", faces: [[-0.48, 0.0, -0.49], [0.3, 0.0, 0.3]]},
          prop: {
            shape: "plane", size: [1.0, 1.0, 1.0], cells: 24
          }
        )
      points, frames = arrival(document)
      begun = points.zip(far(frames)).select { |_, way| way < 1e-6 }.map(&:first).uniq
      expect(begun.size).to be_between(5, 6)
      expect(
        begun.map do |point|
          [[-0.48, 0.0, -0.49], [0.3, 0.0, 0.3]].map { |place| Math.sqrt(point.zip(place).sum { |a, b| (a - b)**2 }) }
            .min
        end
      ).to all(be < 0.06)
      expect { arrival(shot({starts: "faces"})) }.to raise_error(Refused, /no face was picked/)
    end

    it "says in one sentence that it begins nowhere, or has no surface" do
      expect(refusal { arrival(shot({starts: "box", box_position: [9.0, 9.0, 9.0]})) }).to match(
        ["starts_nowhere", /no point of its prop lies in its box/]
      )
      flat = shot({}, prop: {shape: "plane", size: [0.0001, 1.0, 0.0001]})
      expect(refusal { arrival(flat)[1].first }).to be_nil.or match(["no_area", /no area/])
    end
  end
end
