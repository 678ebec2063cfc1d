# frozen_string_literal: true

module Vumbral
  RSpec.describe Formats::VDB do
    # What the format's own library finds in a file.
    READER = <<~PYTHON # rubocop:disable Lint/ConstantDefinitionInBlock
      import sys, json, pyopenvdb as vdb
      grids, meta = vdb.readAll(sys.argv[1])
      found = {}
      for g in grids:
        cells = []
        for item in g.iterOnValues():
          if item.count == 1:
            cells.append([list(item.min), item.value if not isinstance(item.value, tuple) else list(item.value)])
        found[g.name] = {"type": g.valueTypeName, "voxel": list(g.transform.voxelSize()), "origin": list(g.transform.indexToWorld((0, 0, 0))),
          "background": g.background if not isinstance(g.background, tuple) else list(g.background), "active": g.activeVoxelCount(), "cells": cells, "class": g.gridClass}
      print(json.dumps({"grids": found, "creator": meta.get("creator")}))
    PYTHON

    def state
      Gas::State.still([20, 40, 36]).tap do |state|
        state.smoke[3, 5, 30] = 0.5
        state.smoke[19, 39, 0] = 1.25
        state.heat[3, 5, 30] = 300.0
        state.heat[8, 20, 17] = -20.0
        state.u[3, 5, 30] = 1.0
        state.u[3, 5, 31] = 2.0
        state.w[3, 5, 30] = -4.0
        state.w[4, 5, 30] = -4.0
      end
    end

    def written(state, **options)
      described_class.frame(Grid::Bricks.pack(state), voxel: 0.125, corner: [-2.0, 0.5, 1.0], ambient: 293.0, **options)
    end

    def read(bytes)
      Dir.mktmpdir do |dir|
        path = File.join(dir, "frame.vdb")
        File.binwrite(path, bytes)
        output, status = Open3.capture2e("/usr/bin/python3", "-c", READER, path)
        raise output unless status.success?

        JSON.parse(output)
      end
    end

    it "is read by the format's own library: values, voxel size, place, background" do
      found = read(written(state))
      grids = found["grids"]
      expect(found["creator"]).to eq("Vumbral")
      expect(grids.keys).to contain_exactly("density", "temperature", "v")
      density, temperature, v = grids.values_at("density", "temperature", "v")
      expect(density["type"]).to eq("float")
      expect(v["type"]).to eq("vec3s")
      expect(density["class"]).to eq("fog volume")
      expect(density["voxel"]).to eq([0.125] * 3)
      # Voxel 0, 0, 0 has its centre half a voxel from the corner.
      expect(density["origin"]).to eq([-1.9375, 0.5625, 1.0625])
      expect([density["background"], temperature["background"]]).to eq([0.0, 293.0])
      cells = density["cells"].to_h.select { |_, value| value != 0.0 }
      expect(cells).to eq([30, 5, 3] => 0.5, [0, 39, 19] => 1.25)
      heat = temperature["cells"].to_h
      expect(heat[[30, 5, 3]]).to eq(593.0)
      expect(heat[[17, 20, 8]]).to eq(273.0)
      expect(v["cells"].to_h[[30, 5, 3]]).to eq([1.0, 0.0, -4.0])
      expect(v["class"]).to eq("staggered")
    end

    it "writes empty air too, and the same bytes for the same frame" do
      expect(read(written(Gas::State.still([8, 8, 8])))["grids"]["density"]["active"]).to eq(0)
      first, second = written(state), written(state)
      expect(first == second).to be(true)
    end

    it "holds a whole plume without loss beyond half precision" do
      smoke = random_field(24, 24, 24, range: 0.01..1.0)
      full = Gas::State.still([24, 24, 24]).tap { |s| s.smoke.replace(smoke) }
      cells = read(written(full))["grids"]["density"]["cells"].to_h
      expect(cells.size).to eq(24**3)
      expect(indices([24, 24, 24]).map { |k, j, i| (cells[[i, j, k]] - smoke[k, j, i]).abs }.max).to be < 0.0006
    end
  end
end
