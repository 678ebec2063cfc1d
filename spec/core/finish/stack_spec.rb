# frozen_string_literal: true

module Vumbral
  # Layers in time and in their places.
  RSpec.describe Finish::Stack do
    include FinishHelp

    def frames(dials, frame, plates = FinishHelp::Facts.new(10, 12.0)) =
      stack([layer("one", **dials)], frame, plates: plates).dig(0, "at")

    it "shows a shot's own frames, later, slower, back, held and between two" do
      expect([1, 7].map { |frame| frames({}, frame) }).to eq([[[1, 1.0]], [[7, 1.0]]])
      expect(frames({later: 5}, 7)).to eq([[2, 1.0]])
      expect(frames({later: 5}, 3)).to eq([[1, 1.0]])
      expect(frames({later: 5, after: "nothing"}, 3)).to be_nil
      expect(frames({speed: 0.5}, 8)).to eq([[5, 1.0]])
      expect(frames({speed: 0.5, between: true}, 8)).to eq([[4, 0.5], [5, 0.5]])
      expect(frames({speed: 0.0}, 8)).to eq([[1, 1.0]])
    end

    it "keeps a plate's own pace or goes frame by frame, and begins again or goes to and fro" do
      plate = {what: "plate", plate: "aa"}
      expect(frames(plate, 5)).to eq([[2, 1.0]])
      expect(frames(plate.merge(own_rate: false), 5)).to eq([[4, 1.0]])
      expect(frames(plate.merge(own_rate: false), 15)).to eq([[9, 1.0]])
      expect(frames(plate.merge(own_rate: false, after: "loop"), 15)).to eq([[4, 1.0]])
      expect(frames(plate.merge(own_rate: false, after: "bounce"), 15)).to eq([[4, 1.0]])
      expect(frames(plate.merge(own_rate: false, after: "loop", between: true, speed: 0.5), 20)).to eq(
        [[9, 0.5], [0, 0.5]]
      )
    end

    it "integrates a speed that is keyed" do
      keys = [{"frame" => 1, "value" => 1.0, "ease" => "held"}, {"frame" => 5, "value" => 0.0, "ease" => "held"}]
      document =
        finished([layer("one", what: "plate", plate: "aa", own_rate: false).merge("keys" => {"speed" => keys})])
      stack = Finish::Stack.new(document, FinishHelp::Facts.new(40, 24.0))
      expect([3, 5, 9].map { |frame| stack.at(frame).dig(0, "at", 0, 0) }).to eq([2, 4, 4])
    end

    it "puts what stands behind everything into the lowest picture alone, unless told otherwise" do
      stand = FinishHelp::Stand.new(shots: plain(0.0, 0.0, 0.0, 0.0))
      composite(
        [layer("low"), layer("high", 1), layer("never", 2, backdrop: "never"), layer("always", 3, backdrop: "always")],
        stand
      )
      expect(stand.asked.map { |id, _, behind| [id, behind] }).to eq(
        [["low", true], ["high", false], ["never", false], ["always", true]]
      )
    end

    it "moves, sizes and turns a picture about its middle, to a part of a pixel" do
      dot = painted(41, 41) { |x, y| [Math.exp(-0.2 * ((x - 20)**2 + (y - 20)**2))] * 3 + [1.0] }
      middle = ->(image) do
        rows = image.to_a.each_slice(4).map(&:first)
        whole = rows.sum
        [
          rows.each_with_index.sum { |v, n| v * (n % 41 + 0.5) } / whole,
          rows.each_with_index.sum { |v, n| v * (n / 41 + 0.5) } / whole, whole
        ]
      end
      shown = ->(dials) do
        middle[
          composite(
            [layer("one", backdrop: "never", **dials)], FinishHelp::Stand.new(shots: dot), width: 41, height: 41
          )
        ]
      end
      expect(shown[{x: 10.0, y: -5.0}].first(2)).to all_be_near([24.6, 18.45], 0.02)
      whole = shown[{}][2]
      expect(shown[{scale: 200.0}][2]).to be_within(0.05 * 4 * whole).of(4 * whole)
      off = painted(41, 41) { |x, y| [Math.exp(-0.2 * ((x - 28)**2 + (y - 20)**2))] * 3 + [1.0] }
      turned = middle[composite([layer("one", turn: 90.0)], FinishHelp::Stand.new(shots: off), width: 41, height: 41)]
      expect(turned.first(2)).to all_be_near([20.5, 28.5], 0.05)
    end

    it "fits a plate of another size: fills, is seen whole, is stretched" do
      wide = plain(1.0, 1.0, 1.0, 1.0, width: 40, height: 10)
      shown = ->(fit) do
        composite(
          [layer("one", what: "plate", plate: "aa", fit: fit)], FinishHelp::Stand.new(plate: wide), width: 20,
          height: 20, plates: FinishHelp::Facts.new(1, nil)
        )
      end
      expect(
        [shown["fill"], shown["stretch"]].map { |image| [image[1, 10, 3], image[10, 1, 3]].map { |a| a.round(2) } }
      ).to eq([[1.0, 1.0]] * 2)
      whole = shown["whole"]
      expect([whole[3, 10, 3], whole[10, 10, 3].round(2), whole[10, 1, 3].round(2)]).to eq([0.0, 1.0, 1.0])
    end

    it "holds a picture still by a tracked spot, and puts a layer where one is" do
      spot = {
        "do" => "add",
        "kind" => "track",
        "id" => "spot",
        "name" => "Spot",
        "keys" => {
          "x" => [{"frame" => 1, "value" => 50.0}, {"frame" => 3, "value" => 70.0, "ease" => "linear"}]
        }
      }
      dot = ->(x) { painted(40, 20) { |px, _| [(px == x) ? 1.0 : 0.0] * 3 + [1.0] } }
      still =
        composite(
          [spot, layer("one", steadied: "spot")], FinishHelp::Stand.new(shots: dot[28]), width: 40, height: 20, frame: 3
        )
      expect((0...40).max_by { |x| still[10, x, 0] }).to eq(20)
      put =
        composite(
          [spot, layer("one", follows: "spot", backdrop: "never")], FinishHelp::Stand.new(shots: dot[20]), width: 40,
          height: 20, frame: 3
        )
      expect((0...40).max_by { |x| put[10, x, 0] }).to eq(28)
    end

    # Spots with a key on frames 1 and 3, in % across and down.
    def spots(places) =
      places.each_with_index.map do |(first, last), n|
        {
          "do" => "add",
          "kind" => "track",
          "id" => "spot-#{n}",
          "name" => "Spot #{n}",
          "keys" =>
            %w[x y].each_with_index.to_h do |dial, axis|
              [
                dial,
                [{"frame" => 1, "value" => first[axis]}, {"frame" => 3, "value" => last[axis], "ease" => "linear"}]
              ]
            end
        }
      end

    it "goes by two spots in size and turn, and holds still by them" do
      # The second spot goes round the first by a quarter turn and twice as far away.
      pair = spots([[[50.0, 50.0], [50.0, 50.0]], [[60.0, 50.0], [50.0, 70.0]]])
      dot = painted(100, 100) { |px, py| [Math.exp(-0.1 * ((px - 59.5)**2 + (py - 49.5)**2))] * 3 + [1.0] }
      centre = ->(image) {
        rows = image.to_a.each_slice(4).map(&:first)
        whole = rows.sum
        [
          rows.each_with_index.sum { |v, n| v * (n % 100 + 0.5) } / whole,
          rows.each_with_index.sum { |v, n| v * (n / 100 + 0.5) } / whole
        ]
      }
      square = [set("picture", :width, 100), set("picture", :height, 100)]
      went =
        composite(
          square + pair + [layer("one", follows: "spot-0", also: "spot-1", backdrop: "never")],
          FinishHelp::Stand.new(shots: dot), width: 100, height: 100, frame: 3
        )
      expect(centre[went]).to all_be_near([50.0, 70.0], 0.1)
      moved = painted(100, 100) { |px, py| [Math.exp(-0.1 * ((px - 49.5)**2 + (py - 69.5)**2))] * 3 + [1.0] }
      still =
        composite(
          square + pair + [layer("one", steadied: "spot-0", also: "spot-1", backdrop: "never")],
          FinishHelp::Stand.new(shots: moved), width: 100, height: 100, frame: 3
        )
      expect(centre[still]).to all_be_near([60.0, 50.0], 0.1)
    end

    it "pins its corners to four spots, as a projection does" do
      seen = [[20.0, 10.0], [80.0, 20.0], [70.0, 90.0], [10.0, 80.0]]
      lines = painted(60, 60) { |px, _| (px < 30) ? [1.0, 0.0, 0.0, 1.0] : [0.0, 1.0, 0.0, 1.0] }
      image =
        composite(
          spots(seen.map { |place| [place, place] }) +
            [layer("one", what: "plate", plate: "aa", corners: %w[spot-0 spot-1 spot-2 spot-3])],
          FinishHelp::Stand.new(plate: lines),
          width: 100,
          height: 100,
          plates: FinishHelp::Facts.new(1, nil)
        )
      expect(
        [
          pixel(image, 5, 5)[3], pixel(image, 90, 50)[3], pixel(image, 24, 16)[0].round(2),
          pixel(image, 74, 25)[1].round(2), pixel(image, 66, 86)[1].round(2), pixel(image, 14, 76)[0].round(2)
        ]
      ).to eq([0.0, 0.0, 1.0, 1.0, 1.0, 1.0])
      # Where its middle line's ends are seen lies between red and green: the crossing of the diagonals is its middle.
      a, b, c, d = seen
      t =
        ((d[0] - b[0]) * (b[1] - a[1]) - (d[1] - b[1]) * (b[0] - a[0])) /
        ((d[0] - b[0]) * (c[1] - a[1]) - (d[1] - b[1]) * (c[0] - a[0]))
      x, y = a.zip(c).map { |from, to| from + t * (to - from) }
      expect([image[y.floor, x.floor - 2, 0], image[y.floor, x.floor + 2, 1]]).to all_be_near([1.0, 1.0], 0.02)
    end

    it "makes gradients from one colour to another along an angle" do
      image =
        composite(
          [layer("one", what: "gradient", colour: [1.0, 0.0, 0.0], other: [0.0, 0.0, 1.0], bright: 2.0, angle: 0.0)],
          FinishHelp::Stand.new, width: 40, height: 10
        )
      expect([pixel(image, 0, 5), pixel(image, 39, 5)].flatten).to all_be_near(
        [2.0, 0.0, 0.0, 1.0, 0.0, 0.0, 2.0, 1.0], 0.06
      )
    end

    it "lets effects and masks go with their layer" do
      document = finished([layer("one"), effect("one", "glow"), mask("one-glow", "oval"), mask("one", "box")])
      after, = Shot::Edits.apply(document, [{"do" => "remove", "node" => "one"}])
      expect(%i[layer effect mask].map { |kind| after.all_of(kind).size }).to eq([0, 0, 0])
    end

    it "moves a layer with another, as if both were one, and is not led astray by a circle" do
      dot = painted(40, 30) { |x, y| ((x == 25 && y == 14) ? [1.0] * 3 : [0.0] * 3) + [1.0] }
      where = ->(edits) {
        found = composite(edits, FinishHelp::Stand.new(shots: dot.copy), width: 40, height: 30)
        all = (0...30).flat_map { |y| (0...40).map { |x| [x, y, found[y, x, 0]] } }
        [0, 1].map { |axis| all.sum { |row| row[axis] * row[2] } / all.sum(&:last) }
      }
      alone = where[[layer("lead", what: "colour", opacity: 0.0), layer("one", 1, x: 10.0)]]
      expect(alone).to all_be_near([29.0, 14.0], 0.1)
      # Turned by a quarter about the frame's middle, what is to the right of it comes below.
      with = where[[layer("lead", what: "colour", opacity: 0.0, turn: 90.0), layer("one", 1, x: 10.0, parent: "lead")]]
      expect(with).to all_be_near([20.0, 24.0], 0.6)
      twice =
        where[
          [
            layer("top", -1, what: "colour", opacity: 0.0, x: 5.0),
            layer("lead", what: "colour", opacity: 0.0, y: 10.0, parent: "top"), layer("one", 1, parent: "lead")
          ]
        ]
      expect(twice).to all_be_near([27.0, 17.0], 0.1)
      round = [layer("one"), layer("two", 1, x: 10.0, parent: "one"), set("one", :parent, "two")]
      expect { stack(round) }.not_to raise_error
    end

    it "is hidden where something passes before what it goes with" do
      lamp = {
        "do" => "add",
        "kind" => "lamp",
        "id" => "lamp",
        "name" => "Lamp",
        "dials" => {
          "position" => [0.0, 1.3, 0.0]
        }
      }
      edits = [lamp, layer("tag", what: "colour", colour: [1.0] * 3, follows: "lamp", hidden: true)]
      found = composite(edits, FinishHelp::Stand.new)
      expect([found[6, 2, 3], found[6, 13, 3]]).to eq([0.0, 1.0])
      expect(composite(edits + [set("tag", :hidden, false)], FinishHelp::Stand.new)[6, 2, 3]).to eq(1.0)
    end
  end
end
