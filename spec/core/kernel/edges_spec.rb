# frozen_string_literal: true

module Vumbral
  # What kernels do at their edges: nothing to do, one cell, the border, and one core against all.
  RSpec.describe "Kernels at their edges" do
    # Runs the block with one thread and with all, and compares every buffer bit by bit.
    def alike_on_any_number_of_cores
      before = Kernel.threads
      results = [1, 2, 3].map do |threads|
        Kernel.threads = threads
        yield.map { |buffer| buffer.is_a?(Kernel::Buffer) ? buffer.bytes.dup : buffer }
      end
      expect(results.uniq.size).to eq(1)
    ensure
      Kernel.threads = before
    end

    def faces(nz, ny, nx, seed: 1)
      [random_field(nz, ny, nx + 1, seed: seed), random_field(nz, ny + 1, nx, seed: seed + 1),
        random_field(nz + 1, ny, nx, seed: seed + 2)]
    end

    describe "on any number of cores" do
      it "leave a core to others for as long as a block takes" do
        before = Kernel.threads
        expect(Kernel.sparing { Kernel.threads }).to eq([before - 1, 1].max)
        expect { Kernel.sparing { raise "enough" } }.to raise_error("enough")
        expect(Kernel.threads).to eq(before)
      end

      it "a burning gas with forces, a collider and turbulence is the same, bit by bit" do
        alike_on_any_number_of_cores do
          size = [11, 13, 9]
          solid = Kernel::Buffer.new(:u8, *size)
          3.times { |n| solid[5, 6, 3 + n] = 1 }
          state = Gas::State.still(size, fuel: true, colour: true)
          state.smoke.replace(random_field(*size, range: 0.0..1.0))
          state.heat.replace(random_field(*size, seed: 2, range: 0.0..900.0))
          state.fuel.replace(random_field(*size, seed: 3, range: 0.0..1.0))
          [state.u, state.v, state.w].zip(faces(*size)) { |to, from| to.replace(from) }
          solver = Gas::Solver.new(size: size, voxel: 0.1, open: sides(%i[y1 x0]), solid: solid)
          gas =
            calm(
              lift: 1.0, curl_boost: 2.0, stir: 2.0, burn_rate: 4.0, burn_heat: 900.0, burn_smoke: 0.5, burn_swell: 2.0,
              cooling: 500.0, viscosity: 0.01, smoke_fade: Math.log(2.0) / 1.0
            )
          after, = solver.step(state, seconds: 0.03, gas: gas, feeds: [])
          after.fields.values
        end
      end

      it "sums, maxima and distances are the same" do
        mesh = Demo::Models.vase
        alike_on_any_number_of_cores do
          distance = Kernel::Buffer.new(:f32, 12, 12, 12)
          body = Geometry::Body.new({"shape" => "torus", "radius" => 0.4, "tube" => 0.1}, [1.0, 1.2, 0.8], nil)
          body.distance(distance, Geometry::Transform.identity, [-0.6, -0.6, -0.6], 0.1, 0.5)
          [Kernel::Buffer.of(:f64, [mesh.volume, mesh.area, *mesh.bounds.flatten, mesh.open_edges]), distance,
            mesh.corner_normals]
        end
      end

      it "a picture of smoke and props is the same" do
        document = small_shot
        alike_on_any_number_of_cores do
          bricks =
            Grid::Bricks.gather(
              [16, 20, 16],
              [0, 0, 0],
              {
                smoke: random_field(16, 20, 16, range: 0.0..1.0),
                heat: random_field(16, 20, 16, seed: 4, range: 0.0..1500.0)
              }
            )
          medium = Light::Medium.of(bricks, {"voxel" => 0.07, "corner" => [-0.5, 0.0, -0.5]})
          renderer = Picture::Renderer.new(Picture::Renderer.settings(document, 4), nil)
          [renderer.develop(renderer.image(medium, 40, 24)).then { |pixels| pixels }]
        end
      end
    end

    describe "with one cell, or none" do
      it "noise, sampling and differences have a value everywhere" do
        one = field(1, 1, 1) { 2.5 }
        expect(Flow::FlowKernels.peak(one)).to eq(2.5)
        expect(Flow::FlowKernels.peak(Kernel::Buffer.new(:f32, 0, 3, 3))).to eq(0.0)
        expect([[0.0, 0.0, 0.0], [-9.5, 1e4, 3.25]].map { |x, y, z| Grid::Noise.value(x, y, z, 0.5, 7) }).to all(
          be_between(-2.0, 2.0)
        )
      end

      it "bricks of one cell, and of a size that no brick divides, come back as they were" do
        [[1, 1, 1], [17, 3, 33], [16, 16, 16]].each do |size|
          smoke = random_field(*size, range: 0.25..1.0)
          bricks = Grid::Bricks.gather(size, [0, 0, 0], {smoke: smoke, heat: Kernel::Buffer.new(:f32, *size)})
          expect(largest_difference(bricks.field(:smoke), smoke)).to be < 1e-3
          expect(bricks.count).to eq(size.map { |n| (n + 15) / 16 }.reduce(:*))
        end
      end

      it "an empty frame has no bricks and reads as nothing" do
        bricks = Grid::Bricks.gather([5, 6, 7], [0, 0, 0],
          {smoke: Kernel::Buffer.new(:f32, 5, 6, 7), heat: Kernel::Buffer.new(:f32, 5, 6, 7)})
        expect([bricks.count, bricks.field(:smoke).to_a.uniq, bricks.field(:heat).shape]).to eq([0, [0.0], [5, 6, 7]])
      end

      it "the smallest gas that there is steps, still and stirred" do
        size = [Gas::Plan::LEAST_CELLS] * 3
        state = Gas::State.still(size)
        state.v.replace(random_field(8, 9, 8))
        after, report = Gas::Solver.new(size: size, voxel: 0.1, open: sides(false)).step(state, seconds: 0.05,
          gas: calm(curl_boost: 3.0), feeds: [])
        expect(after.v.to_a).to all(be_finite)
        expect(report.broken).to be_nil
        still, = Gas::Solver.new(size: size, voxel: 0.1, open: sides(true)).step(Gas::State.still(size), seconds: 0.05,
          gas: calm(lift: 1.0, stir: 5.0), feeds: [])
        expect(still.u.to_a.uniq + still.smoke.to_a.uniq).to eq([0.0, 0.0])
      end

      it "meshes of no triangle have no area, volume or edges" do
        empty = Geometry::Mesh.new(Kernel::Buffer.new(:f32, 0, 3), Kernel::Buffer.new(:i32, 0, 3))
        expect([empty.area, empty.volume, empty.open_edges, empty.empty?]).to eq([0.0, 0.0, 0, true])
        expect(Geometry::MeshKernels.farthest(empty.points)).to eq(0.0)
      end

      it "the largest number of a mesh keeps what is no number" do
        expect(Geometry::MeshKernels.farthest(Kernel::Buffer.of(:f32, [1.0, -7.5, 2.0], 1, 3))).to eq(7.5)
        [Float::NAN, Float::INFINITY].each do |wild|
          expect(Geometry::MeshKernels.farthest(Kernel::Buffer.of(:f32, [1.0, 2.0, 3.0, 0.0, wild, 0.0], 2,
            3)) <= 1e9).to be(false)
        end
      end
    end

    describe "at the border" do
      it "a closed box keeps its walls still, an open one lets through" do
        [false, true].each do |open|
          size = [8, 8, 8]
          state = Gas::State.still(size)
          [state.u, state.v, state.w].zip(faces(*size)) { |to, from| to.replace(from) }
          after, = Gas::Solver.new(size: size, voxel: 0.1, open: sides(open)).step(state, seconds: 0.001, gas: calm,
            feeds: [])
          wall = 8.times.flat_map { |k| 8.times.map { |j| [after.u[k, j, 0].abs, after.u[k, j, 8].abs] } }.flatten.max
          expect(wall > 0.02).to be(open)
        end
      end

      it "a formula is evaluated in the corner cells as in the middle" do
        out = Kernel::Buffer.new(:f32, 2, 3, 4)
        setting = Shot::Formula.setting(frame: 1, time: 0, seed: 1, first: [0.0, 10.0, 100.0], voxel: 1.0,
          low: [0.0] * 3, size: [1.0] * 3)
        Shot::FormulaKernels.evaluate(out, Shot::Formula.new("x + y + z").program, setting)
        expect([out[0, 0, 0], out[1, 2, 3], out[0, 2, 0], out[1, 0, 3]]).to eq([110.0, 116.0, 112.0, 114.0])
      end

      it "text kernels stop at the end of the text, whatever it ends in" do
        ["v", "v ", "f 1/", "f 1//", "vt", "v 1 2 3", "o", "g \\", "v 1e", "\n\n", "f -", "v +", "#"].each do |text|
          expect(refusal { Formats::OBJ.read(text) }[0]).to match(/bad_mesh|empty_mesh/)
          expect(refusal { Formats::STL.read("solid x\nvertex 0 0 0\n#{text}") }[0]).to match(/bad_mesh|empty_mesh/)
        end
      end
    end
  end
end
