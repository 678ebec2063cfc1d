# frozen_string_literal: true

module Vumbral
  RSpec.describe Sculpt::Carving do
    def add(kind, id, **dials) =
      {"do" => "add", "kind" => kind, "id" => id, "name" => id.capitalize, "dials" => dials.transform_keys(&:to_s)}

    def ball(id, at, radius = 0.5) = add("prop", id, shape: "sphere", radius: radius, divisions: 6, position: at)

    # The volume of a sculpt of these steps.
    def carved(*steps, voxel: 0.05, more: [], frame: 1)
      shot =
        small_shot(
          edits: [
            ball("ball", [0.0, 1.0, 0.0]), *more, add("sculpt", "cloud", prop: "ball", voxel: voxel, room: 0.3),
            *steps.each_with_index.map { |dials, n| add("step", "step-#{n}", sculpt: "cloud", order: n, **dials) }
          ]
        )
      described_class.new(Geometry::Recipes.of(shot, frame)[0], nil)
    end

    # Each cell's place (metres) with its value.
    def cells(volume)
      depth, height, width = volume.shape
      lattice = volume.lattice
      volume.dense.to_a.each_with_index.map { |value, n|
        [
          lattice.x + n % width * lattice.voxel, lattice.y + n / width % height * lattice.voxel,
          lattice.z + n / width / height * lattice.voxel, value
        ]
      }.tap { expect(depth).to be > 4 }
    end

    def far(cell, middle) = Math.sqrt(cell.first(3).zip(middle).sum { |a, b| (a - b)**2 })

    it "begins with the distance to its prop, which rises by one for each metre as far as it is told" do
      carving = carved
      volume = carving.begun
      expect(carving.band).to be_within(1e-9).of(12 * 0.05)
      expect(carved({what: "number"}, voxel: 0.01).band).to be_within(1e-9).of(0.3 + 4 * 0.01)
      expect(carved({what: "density", inside: 0.8}).band).to be_within(1e-9).of(0.8 + 4 * 0.05)
      # Where the nearest surface changes sides, in the middle, it is told less well.
      cells(volume).each do |cell|
        far(cell, [0.0, 1.0, 0.0]).then do |d|
          expect(cell[3]).to be_within((d < 0.15) ? 0.02 : 0.004).of((d - 0.5).clamp(-0.6, 0.6))
        end
      end
      field = volume.dense
      slopes = (2...field.dim(0) - 2).flat_map { |k|
        (2...field.dim(1) - 2).filter_map { |j|
          i = field.dim(2) / 3
          next if field[k, j, i].abs > 0.5

          Math.sqrt(
            [
              [k + 1, j, i, k - 1, j, i], [k, j + 1, i, k, j - 1, i], [k, j, i + 1, k, j, i - 1]
            ].sum { |a, b, c, d, e, f| ((field[a, b, c] - field[d, e, f]) / 0.1)**2 }
          )
        }
      }
      expect(slopes.sum / slopes.size).to be_within(0.02).of(1.0)
    end

    it "makes density of it, whole within and nothing beyond, and of itself where no step does" do
      volume = carved({what: "density", inside: 0.2, outside: 0.1, whole: 3.0}).call
      expect(volume.as).to eq(:density)
      cells(volume).each do |cell|
        deep = far(cell, [0.0, 1.0, 0.0]) - 0.5
        expect(cell[3]).to be_within(0.02).of(3.0) if deep < -0.21
        expect(cell[3]).to be_within(0.02).of(0.0) if deep > 0.11
      end
      plain = carved.call
      expect(plain.dense.to_a.sum * 0.05**3).to be_within(0.02 * 0.5236).of(4.0 / 3 * Math::PI * 0.125)
    end

    it "joins, cuts and blends with other props as their closed forms say" do
      other = [0.5, 1.2, 0.0]
      {
        "union" => ->(a, b) { [a, b].min }, "intersect" => ->(a, b) { [a, b].max }, "cut" => ->(a, b) { [a, -b].max }
      }.each do |how, exact|
        steps = [{what: "combine", other: "twin", how: how}]
        volume = carved(*steps, more: [ball("twin", other)])
        found =
          volume.send(
            :taken,
            {density: volume.begun},
            Geometry::Recipes.of(
              small_shot(
                edits: [
                  ball("ball", [0.0, 1.0, 0.0]), ball("twin", other), add("sculpt", "cloud", prop: "ball"),
                  add("step", "s", sculpt: "cloud", **steps[0])
                ]
              ),
              1
            )[
              0
            ][
              "steps"
            ][
              0
            ]
          )[
            :density
          ]
        cells(found).each do |cell|
          expect(cell[3]).to be_within(0.02).of(
            exact.call(*[[0.0, 1.0, 0.0], other].map { |at| (far(cell, at) - 0.5).clamp(-volume.band, volume.band) })
          )
        end
      end
      # Rounded, it is fuller where both are alike: a quarter of the blend.
      expect(Sculpt::StepKernels.least(0.1, 0.1, 0.2)).to be_within(1e-6).of(0.05)
      expect(Sculpt::StepKernels.least(0.1, 0.5, 0.2)).to be_within(1e-6).of(0.1)
    end

    it "grows and leaves a shell, of distances and of densities" do
      grown = carved({what: "grow", by: 0.1}).call
      expect(grown.dense.to_a.sum * 0.05**3).to be_within(0.03).of(4.0 / 3 * Math::PI * 0.6**3)
      shell = carved({what: "shell", wall: 0.2}).call
      expect(shell.dense.to_a.sum * 0.05**3).to be_within(0.03).of(4.0 / 3 * Math::PI * (0.6**3 - 0.4**3))
      later = carved({what: "density", inside: 0.05, outside: 0.05}, {what: "grow", by: 0.05}).call
      expect(later.dense.to_a.sum).to be >
        1.1 * carved({what: "density", inside: 0.05, outside: 0.05}).call.values.to_a.sum
    end

    it "takes numbers and textures to its values in every way" do
      half = ->(sum, amount) do
        carved({what: "density"}, {what: "number", sum: sum, amount: amount}).call.then do |volume|
          cells(volume).min_by { |cell| far(cell, [0.0, 1.0, 0.0]) }[3]
        end
      end
      expect(
        %w[add subtract multiply divide difference greatest least mix].map { |sum| half.call(sum, 4.0).round(4) }
      ).to eq([5.0, -3.0, 4.0, 0.25, 3.0, 4.0, 1.0, 4.0])
      expect(half.call("divide", 0.0)).to be_finite
      cellular = add("texture", "cells", what: "cells", size: 0.3)
      eaten = carved({what: "density"}, {what: "texture", texture: "cells", sum: "multiply"}, more: [cellular]).call
      whole = carved({what: "density"}).call
      rows =
        Maps::Patterns.buffer(
          [Geometry::Textures.row(small_shot(edits: [cellular]), small_shot(edits: [cellular]).node("cells"), 1)], nil
        )
      cells(eaten)
        .zip(cells(whole))
        .each_slice(97) do |(one, other), *|
          expect(one[3]).to be_within(1e-4).of(other[3] * Geometry::TextureKernels.value(rows, 0, *one.first(3), 0.05))
        end
    end

    it "goes by a formula of place and value, and as far as its strength says" do
      sliced = carved({what: "density"}, {what: "formula", formula: "value * (y - 1)"}).call
      whole = carved({what: "density"}).call
      cells(sliced)
        .zip(cells(whole))
        .each { |one, other| expect(one[3]).to be_within(1e-4).of(other[3] * (one[1] - 1.0)) }
      half = carved({what: "density"}, {what: "number", sum: "multiply", amount: 0.0, strength: 0.25}).call
      expect(half.dense.to_a.max).to be_within(1e-5).of(0.75)
    end

    it "blurs as a bell does, takes the middle of a sort, and limits" do
      lattice = Grid::Lattice.new(0.0, 0.0, 0.0, 0.1)
      spike = Kernel::Buffer.new(:f32, 32, 32, 32).tap { |field| field[15, 16, 14] = 1.0 }
      sigma = 1.7
      blurred = carved.send(:bell, Sculpt::Field.of(spike, lattice).settled, sigma).dense
      norm = (-6..6).sum { |n| Math.exp(-0.5 * (n / sigma)**2) }**3
      [[0, 0, 0], [1, 0, 0], [2, -1, 3], [0, 4, 0]].each do |a, b, c|
        expect(blurred[15 + a, 16 + b, 14 + c]).to be_within(1e-6).of(
          Math.exp(-0.5 * (a * a + b * b + c * c) / sigma**2) / norm
        )
      end
      random = Random.new(4)
      # Some that are alike among them.
      noise = Kernel::Buffer.of(:f32, Array.new(16 * 16 * 32) { (random.rand < 0.3) ? 0.5 : random.rand }, 16, 16, 32)
      [1, 2].each do |reach|
        out = carved.send(:median, Sculpt::Field.of(noise, lattice), {"cells" => reach}).dense
        [[0, 0, 0], [3, 3, 4], [15, 2, 17], [8, 15, 16], [7, 7, 31]].each do |k, j, i|
          near =
            [*-reach..reach].repeated_permutation(3)
              .map { |c, b, a| noise[(k + c).clamp(0, 15), (j + b).clamp(0, 15), (i + a).clamp(0, 31)] }
          expect(out[k, j, i]).to eq(near.sort[near.size / 2])
        end
      end
      limited = carved({what: "density", inside: 0.3}, {what: "limit", low: 0.25, high: 0.25}).call
      expect(limited.dense.to_a.uniq.sort).to eq([0.0, 1.0])
    end

    it "bends by noise, another one at another time, and is the same every time" do
      steps = [{what: "density"}, {what: "warp", far: 0.1, change: 2.0}]
      bytes = Array.new(2) { carved(*steps).call.dense.bytes }
      expect(bytes.uniq.size).to eq(1)
      expect(carved(*steps, frame: 5).call.dense.bytes).not_to eq(bytes[0])
      expect(carved(*steps).call.dense.bytes).not_to eq(carved(steps[0]).call.dense.bytes)
    end

    it "says what does not fit in a sentence" do
      huge = carved(voxel: 0.001)
      expect(refusal { huge.call }).to match(
        ["too_large", /A sculpt of 1\d{3} × 1\d{3} × 1\d{3} voxels is beyond what fits; make its voxels larger/]
      )
    end

    it "leaves out steps that are off or do nothing, and keeps the order of the cards" do
      shot =
        small_shot(
          edits: [
            add("sculpt", "cloud", prop: "prop-1"), add("step", "late", sculpt: "cloud", order: 5, what: "blur"),
            add("step", "early", sculpt: "cloud", order: 1, what: "density"),
            add("step", "off", sculpt: "cloud", order: 2, what: "grow"),
            {"do" => "switch", "node" => "off", "off" => true},
            add("step", "none", sculpt: "cloud", order: 3, strength: 0.0),
            add("step", "bare", sculpt: "cloud", order: 4, what: "texture")
          ]
        )
      expect(Geometry::Recipes.of(shot, 1)[0]["steps"].map { |step| step["what"] }).to eq(%w[density blur])
      expect(Geometry::Recipes.of(small_shot(edits: [add("sculpt", "cloud")]), 1)).to eq([])
    end
  end
end
