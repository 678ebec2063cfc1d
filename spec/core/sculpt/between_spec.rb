# frozen_string_literal: true

module Vumbral
  RSpec.describe Sculpt::Between do
    let(:voxel) { 0.1 }

    # A round puff about a place, in a box whose first cell stands at `first`, with all of the gas at one velocity.
    def frame(middle, velocity, first: [0.0, 0.0, 0.0], size: [24, 20, 20])
      puff = Kernel::Buffer.of(:f32, size[2].times.flat_map { |k|
        size[1].times.flat_map { |j|
          size[0].times.map { |i|
            far = [i, j, k].zip(first, middle).sum { |n, from, at| (from + n * voxel - at)**2 }
            Math.exp(-far / 0.08)
          }
        }
      }, *size.reverse)
      flow = Grid::VectorField.new(*velocity.map { |speed| Kernel::Buffer.new(:f32, *size.reverse).fill(speed) })
      Struct.new(:channels, :lattice, :flow).new({density: puff}, Grid::Lattice.new(*first, voxel), flow)
    end

    # Where the density's middle lies, and how much there is.
    def measured(moment)
      values = moment.channels[:density]
      place = moment.lattice
      sum = 0.0
      middle = [0.0] * 3
      values.to_a.each_with_index do |value, n|
        k, rest = n.divmod(values.dim(1) * values.dim(2))
        j, i = rest.divmod(values.dim(2))
        sum += value
        [[place.x, i], [place.y, j], [place.z, k]].each_with_index do |(from, cell), a|
          middle[a] += value * (from + cell * voxel)
        end
      end
      [middle.map { |c| c / sum }, sum, values.to_a.max]
    end

    it "stands where the matter is between two frames, neither doubled nor faded" do
      # Five voxels from one frame to the next: a plain blend would show two puffs.
      before = frame([0.8, 1.0, 1.0], [12.0, 0.0, 0.0])
      after = frame([1.3, 1.0, 1.0], [12.0, 0.0, 0.0])
      middle, sum, peak = measured(described_class.new(before, after, 0.5, 0.5 / 12.0))
      expect(middle[0]).to be_within(0.1 * voxel).of(1.05)
      expect(middle[1]).to be_within(0.1 * voxel).of(1.0)
      expect(sum).to be_within(2).percent_of(measured(before)[1])
      # Its middle lies between two cells there.
      expect(peak).to be_within(0.05).of(Math.exp(-0.25 * voxel**2 / 0.08))
    end

    it "goes evenly from the first to the second" do
      before = frame([0.8, 1.0, 1.0], [12.0, 0.0, 0.0])
      after = frame([1.3, 1.0, 1.0], [12.0, 0.0, 0.0])
      places =
        [0.1, 0.3, 0.5, 0.7, 0.9].map { |part| measured(described_class.new(before, after, part, 0.5 / 12.0))[0][0] }
      expect(places.each_cons(2).map { |a, b| b - a }).to all(be_within(0.1 * voxel).of(0.1))
    end

    it "covers both frames' boxes, which need not be the same" do
      before = frame([0.8, 1.0, 1.0], [0.0, 0.0, 0.0])
      after = frame([0.8, 1.0, 1.0], [0.0, 0.0, 0.0], first: [-0.4, 0.2, 0.0], size: [26, 22, 20])
      moment = described_class.new(before, after, 0.25, 0.04)
      expect(moment.channels[:density].shape).to eq [20, 24, 28]
      expect(measured(moment)[0][0]).to be_within(0.1 * voxel).of(0.8)
    end

    it "blends where nothing tells how it moved" do
      before, after = [0.8, 1.0].map { |x| frame([x, 1.0, 1.0], [0.0, 0.0, 0.0]).tap { |one| one.flow = nil } }
      expect(measured(described_class.new(before, after, 0.5, 0.04))[0][0]).to be_within(0.1 * voxel).of(0.9)
    end
  end

  RSpec.describe Shot::Playing do
    let(:shot) { Studio::Starters.build("plume", "Yard") }

    def played(**dials)
      edit = {
        "do" => "add", "kind" => "sculpt", "id" => "again", "name" => "Again",
        "dials" => {"from" => "run"}.merge(dials.transform_keys(&:to_s))
      }
      Shot::Edits.apply(shot, [edit])[0]
    end

    def moments(document, frames) =
      frames.map { |frame| described_class.moment(document, document.node("again"), frame) }

    it "shows what was made later or earlier" do
      expect(moments(played(shift: 5), [1, 10])).to eq [-4, 5]
    end

    it "goes slower, holds and goes backwards" do
      expect(moments(played(plays: "speed", speed: 0.5), [1, 2, 5])).to eq [1, 1.5, 3]
      expect(moments(played(plays: "speed", speed: 0.0, begins: 7), [1, 20])).to eq [7, 7]
      expect(moments(played(plays: "speed", speed: -1.0, begins: 24), [1, 4])).to eq [24, 21]
    end

    it "sums a speed that changes up" do
      document =
        [[1, 1.0], [3, 0.0]].reduce(played(plays: "speed")) do |at, (frame, value)|
          Shot::Edits.apply(
            at,
            [
              {
                "do" => "key", "node" => "again", "dial" => "speed", "frame" => frame, "value" => value,
                "ease" => "held"
              }
            ]
          )[
            0
          ]
        end
      expect(moments(document, [1, 2, 3, 4, 9])).to eq [1, 2, 3, 3, 3]
    end

    it "takes the frame that is named, and of several the nearest if it shall not be led" do
      document = played(plays: "place", place: 12.4)
      expect(Geometry::Recipes.one(document, document.node("again"), 3)).to include(
        "run" => 12.4, "held" => true, "led" => be_within(1e-6).of(1.0 / 24)
      )
      near = played(plays: "place", place: 12.4, between: "nearest")
      expect(Geometry::Recipes.one(near, near.node("again"), 3)).to include("run" => 12, "led" => nil)
    end
  end
end
