# frozen_string_literal: true

require "open3"

module Vumbral
  RSpec.describe Formats::VDBReader do
    # Volumes as the format's own library writes them: packed in its usual way.
    WRITER = <<~PYTHON # rubocop:disable Lint/ConstantDefinitionInBlock
      import sys, numpy as np, pyopenvdb as vdb
      a = np.zeros((40, 30, 20), dtype=np.float32)
      for i in range(40):
        for j in range(30):
          for k in range(20):
            a[i, j, k] = max(0.0, 1.0 - ((i - 20) ** 2 + (j - 15) ** 2 + (k - 10) ** 2) / 100.0)
      g = vdb.FloatGrid(); g.copyFromArray(a, ijk=(-3, 5, 2)); g.name = "density"
      g.transform = vdb.createLinearTransform(voxelSize=0.1); g.transform.translate((1.0, 2.0, 3.0))
      h = g.deepCopy(); h.name = "temperature"; h.saveFloatAsHalf = True
      g.fill((100, 100, 100), (107, 107, 107), 0.7)
      vdb.write(sys.argv[1] + "/fog.vdb", grids=[g, h])
      s = vdb.createLevelSetSphere(radius=0.9, center=(0.2, 1.0, 0.0), voxelSize=0.05); s.name = "surface"
      vdb.write(sys.argv[1] + "/ball.vdb", grids=[s])
      v = vdb.Vec3SGrid(); v.fill((0, 0, 0), (3, 3, 3), (1.0, 2.0, 3.0)); v.name = "v"
      vdb.write(sys.argv[1] + "/flow.vdb", grids=[v])
    PYTHON

    before(:all) do
      @dir = Dir.mktmpdir
      output, status = Open3.capture2e("/usr/bin/python3", "-c", WRITER, @dir)
      raise output unless status.success?
    end

    after(:all) { FileUtils.rm_rf(@dir) }

    def read(name) = described_class.new(File.binread(File.join(@dir, name)), name).call

    it "reads what the format's own library wrote: floats and halves, leaves, tiles and places" do
      density, heat = read("fog.vdb").volumes
      expect([density.name, heat.name, density.voxel, density.level_set]).to eq(["density", "temperature", 0.1, false])
      value = ->(volume, i, j, k) do
        [k, j, i].zip(volume.place.reverse, [3.0, 2.0, 1.0])
          .map { |n, place, origin| n - ((place - origin) / 0.1).round }
          .then { |at| volume.values[*at] }
      end
      expect(value[density, 17, 20, 12]).to eq(1.0)
      expect(value[density, 20, 21, 14]).to be_within(1e-6).of(1.0 - 0.14)
      expect(value[heat, 20, 21, 14]).to be_within(1e-3).of(1.0 - 0.14)
      expect(value[density, 103, 104, 105]).to be_within(1e-6).of(0.7)
      expect(density.values.to_a.sum).to be_within(0.01).of(2033.26)
    end

    it "reads a surface as distances, with the inside where nothing is stored" do
      surface = read("ball.vdb").volumes[0]
      expect(surface.level_set).to be(true)
      at = ->(*place) do
        place.zip(surface.place).map { |c, low| ((c - low) / 0.05).round }.reverse.then { |cell| surface.values[*cell] }
      end
      expect([at[0.2, 1.0, 0.0], at[0.2, 1.9, 0.0], at[0.2, 1.0, 0.8]]).to match(
        [be_within(1e-3).of(-0.15), be_within(0.03).of(0.0), be_within(0.03).of(-0.1)]
      )
    end

    it "reads what is written here" do
      state = Gas::State.still([20, 40, 36]).tap { |still| still.smoke[3, 5, 30] = 0.5 }
      bytes = Formats::VDB.frame(Grid::Bricks.pack(state), voxel: 0.125, corner: [-2.0, 0.5, 1.0], ambient: 293.0)
      reader = described_class.new(bytes, "own.vdb").call
      expect([reader.volumes.map(&:name), reader.left_out]).to eq([%w[density temperature], ["v (vec3s_5_4_3)"]])
      density = reader.volumes[0]
      expect(density.place.zip([-1.9375, 0.5625, 1.0625]).zip([24, 0, 0]).map { |(a, b), n| a - b - n * 0.125 }).to all(
        be_within(1e-6).of(0.0)
      )
      expect(density.values[3, 5, 6]).to eq(0.5)
    end

    it "says of other files in a sentence what they are" do
      whole = File.binread(File.join(@dir, "fog.vdb"))
      reading = ->(bytes) { refusal { described_class.new(bytes, "x.vdb").call } }
      expect(reading["smoke" * 20]).to eq(["bad_volume", "x.vdb is no OpenVDB file."])
      expect(reading[whole.byteslice(0, whole.bytesize / 2)]).to eq(
        ["bad_volume", "x.vdb ends in the middle of its grids; copy or export it again."]
      )
      expect(reading[whole.dup.tap { |bytes| bytes.setbyte(8, 200) }]).to match(
        ["bad_volume", /is of file format 200; 222 to 224 are read/]
      )
      expect(refusal { read("flow.vdb") }).to match(
        ["bad_volume", /flow.vdb holds no float grid; it has v \(vec3s_5_4_3\)/]
      )
    end

    it "comes through damaged files with a sentence or a volume, never otherwise" do
      whole = File.binread(File.join(@dir, "fog.vdb"))
      random = Random.new(3)
      outcomes = Array.new(300) {
        bytes = whole.dup
        random.rand(1..20).times { bytes.setbyte(random.rand(bytes.bytesize), random.rand(256)) }
        bytes = bytes.byteslice(0, random.rand(bytes.bytesize)) if random.rand < 0.2
        begin
          described_class.new(bytes, "x.vdb").call.class
        rescue Refused => refused
          refused.class
        end
      }
      expect(outcomes.tally.keys - [described_class, Refused]).to eq([])
    end
  end
end
