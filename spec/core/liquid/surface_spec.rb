# frozen_string_literal: true

module Vumbral
  RSpec.describe Liquid::Surface do
    include Liquids

    # @param places [Array<Array<Float>>] cells
    # @return [Liquid::Skin]
    def skin_of(size, places, speed: [0.0, 0.0, 0.0])
      solver = Liquid::Solver.new(size: size, voxel: 1.0)
      state = Liquid::State.empty(size)
      drops = Liquid::Drops.of(places.size)
      drops.at.replace(Kernel::Buffer.of(:f32, places.flatten, places.size, 3))
      drops.speed.replace(Kernel::Buffer.of(:f32, speed * places.size, places.size, 3))
      state.pour(drops)
      solver.sort(state)
      Liquid::Skin.of(state, solver.first)
    end

    def made(skin, **dials)
      Liquid::Surface.new(
        0.1, [1.0, 2.0, 3.0],
        {"grain" => 2.0, "round" => 0.5, "smooth" => 0, "sheets" => 0.0}.merge(dials.transform_keys(&:to_s))
      ).mesh(skin)
    end

    # How many pieces hang together.
    def pieces(mesh)
      roots = (0...mesh.points.dim(0)).to_a
      find = ->(n) {
        n = roots[n] while roots[n] != n
        n
      }
      mesh.triangles.to_a.each_slice(3) { |a, b, c| [b, c].each { |other| roots[find[other]] = find[a] } }
      mesh.triangles.to_a.uniq.map { |n| find[n] }.uniq.size
    end

    # A square of particles so far apart, with a little of chance in where they lie.
    def square(apart, count, rough: 0.0)
      random = Random.new(3)
      Array.new(count * count) do |n|
        [4.0 + n % count * apart, 8.0 + rough * (random.rand - 0.5), 4.0 + n / count * apart]
      end
    end

    it "is made of the particles near it alone, and goes through what is left out" do
      full =
        Array.new(8 * 12**3) do |n|
          n
            .divmod(8)
            .then do |cell, s|
              [
                2 + cell % 12 + 0.25 + 0.5 * (s & 1), 2 + cell / 12 % 12 + 0.25 + 0.5 * (s >> 1 & 1),
                2 + cell / 144 + 0.25 + 0.5 * (s >> 2)
              ]
            end
        end
      skin = skin_of([16, 16, 16], full)
      expect(skin.count).to eq(8 * (12**3 - 8**3))
      mesh, = made(skin)
      expect(mesh).to be_closed
      expect(pieces(mesh)).to eq(1)
      # It stands a quarter of a cell around them.
      expect(mesh.volume).to be_within(0.03 * 1.25**3).of(1.25**3)
    end

    # A pool whose surface rises by a cell and a half along x, its particles in layers below it.
    [0, 2, 9].each do |times|
      it "has no steps where a calm surface slowly rises, smoothed #{times} times" do
        pool =
          10
            .times
            .to_a
            .product(12.times.to_a, 64.times.to_a)
            .map { |k, layer, i| [0.25 + 0.5 * i, 7.0 + 0.75 * i / 16.0 * 0.5 - 0.25 - 0.5 * layer, 0.25 + 0.5 * k] }
        mesh, = made(skin_of([5, 12, 32], pool), smooth: times)
        over = mesh.points.to_a.each_slice(3).filter_map do |x, y, z|
          across, up, deep = [(x - 1.0), (y - 2.0), (z - 3.0)].map { |way| way / 0.1 }
          up - 7.0 - 0.75 * across / 16.0 if across.between?(6, 26) && deep.between?(2, 3) && up > 6.5
        end
        expect(over.size).to be > 100
        expect(over.max - over.min).to be < 0.06
      end
    end

    it "draws drops as large as they are to be" do
      sizes = [0.8, 1.6, 2.4].map do |round|
        low, high = made(skin_of([12, 12, 12], [[6.0, 6.0, 6.0]]), round: round)[0].bounds
        (high[0] - low[0]) / 0.2
      end
      expect(sizes.zip([0.8, 1.6, 2.4]).map { |got, wanted| (got - wanted).abs }.max).to be < 0.1
    end

    it "keeps places to a 256th of a cell, and speeds" do
      skin = skin_of([8, 8, 8], [[3.141, 2.718, 1.414], [6.999, 0.001, 7.5]], speed: [1.5, -2.25, 0.125])
      places = skin.places.to_a.each_slice(3).to_a.sort
      expect(places.flatten.zip([3.141, 2.718, 1.414, 6.999, 0.001, 7.5]).map { |a, b| (a - b).abs }.max).to be < 0.003
      expect(skin.speed.to_a).to eq([1.5, -2.25, 0.125] * 2)
    end

    it "tells how fast its points go" do
      _, speeds = made(skin_of([16, 16, 16], square(0.5, 12), speed: [0.5, 2.0, -1.0]))
      expect(
        speeds.to_a.each_slice(3).flat_map { |row| row.zip([0.5, 2.0, -1.0]).map { |a, b| (a - b).abs } }.max
      ).to be < 1e-3
    end

    it "has the colours of the particles about each point, and none where they have none" do
      half = square(0.5, 12)
      solver = Liquid::Solver.new(size: [16, 16, 16], voxel: 1.0)
      state = Liquid::State.empty([16, 16, 16])
      drops = Liquid::Drops.of(half.size)
      drops.at.replace(Kernel::Buffer.of(:f32, half.flatten, half.size, 3))
      Liquid::FullKernels.dye(drops.dye, Kernel::Buffer.of(:f32, [0.8, 0.1, 0.0]))
      state.pour(drops)
      half.each_with_index { |(x, *), n| 3.times { |a| state.drops.dye[n, a] = [0, 255, 128][a] } if x > 7.0 }
      solver.sort(state)
      mesh, _, dyes = made(Liquid::Skin.of(state, solver.first, dyed: true), sheets: 3.0)
      colours = mesh.points.to_a.each_slice(3).map { |x, *| 10.0 * (x - 1.0) }.zip(dyes.to_a.each_slice(3))
      expect(
        colours.select { |x, _| x < 5.9 }.flat_map { |_, dye| dye.zip([0.8, 0.1, 0.0]).map { |a, b| (a - b).abs } }.max
      ).to be < 0.01
      expect(
        colours
          .select { |x, _| x > 8.1 }
          .flat_map { |_, dye| dye.zip([0.0, 1.0, 0.252]).map { |a, b| (a - b).abs } }
          .max
      ).to be < 0.01
      expect(made(skin_of([16, 16, 16], half))[2]).to be_nil
    end

    describe "at a wall" do
      # A pool beside a slope, with some chance in where its particles lie.
      # @return [Array<Float>] how far off the slope its surface's points stand, cells, of those deep within the pool
      def off_the_slope(clear, held: true)
        far = ->(x, y) { (x + 0.5 * y - 8.0) / Math.sqrt(1.25) }
        walls = walls_of([16, 16, 16]) { |x, y, _| far.call(x, y) }
        solver, state = poured([16, 16, 16], 0.1, walls: walls, loose: 0.8) { |_, y, _| y - 9.0 }
        solver.sort(state)
        skin = Liquid::Skin.of(state, solver.first, walls: (walls if held), clear: clear)
        points = made(skin)[0].points.to_a.each_slice(3).map do |place|
          place.zip([1.0, 2.0, 3.0]).map { |at, corner| (at - corner) / 0.1 }
        end
        points.select { |x, y, z| x < 13 && y.between?(2, 7) && z.between?(3, 13) }.map { |x, y, _| far.call(x, y) }
      end

      it "ends as evenly as that does, a hair before it or within it" do
        bumps = off_the_slope(0.0, held: false)
        expect(bumps.max - bumps.min).to be > 0.3
        [0.05, -0.3].each do |clear|
          ends = off_the_slope(clear)
          expect(ends.size).to be > 100
          expect(ends.map { |far| (far - clear).abs }.max).to be < 0.03
        end
      end

      it "leaves the wall dry where there is no liquid" do
        walls = walls_of([12, 12, 12]) { |x, _, _| x - 2.0 }
        solver, state = poured([12, 12, 12], 0.1, walls: walls) { |x, y, z| Math.sqrt((x - 6)**2 + (y - 6)**2 + (z - 6)**2) - 2.5 }
        solver.sort(state)
        held, free = [walls, nil].map { |all| made(Liquid::Skin.of(state, solver.first, walls: all)) }
        expect(held[0].points.to_a).to eq(free[0].points.to_a)
        expect(held[0].count).to be > 100
      end
    end

    describe "with thin parts" do
      it "holds a sheet together where its particles are apart, up to a width" do
        torn, = made(skin_of([24, 16, 24], square(2.1, 7)))
        expect(pieces(torn)).to be > 10
        whole, = made(skin_of([24, 16, 24], square(2.1, 7)), sheets: 3.0)
        expect(pieces(whole)).to eq(1)
        expect(whole).to be_closed
        # As wide as the square with its rim, and one sheet without a hole in it.
        expect(whole.volume).to be_within(0.3 * 0.1 * 1.32**2).of(0.1 * 1.32**2)
        wider, = made(skin_of([24, 16, 24], square(2.1, 7)), sheets: 2.0)
        expect(pieces(wider)).to eq(pieces(torn))
      end

      it "lays a rough sheet flat" do
        rough = skin_of([16, 16, 16], square(0.5, 16, rough: 0.5))
        thick = [0.0, 3.0].map { |sheets| made(rough, sheets: sheets)[0].bounds.then { |low, high| high[1] - low[1] } }
        expect(thick[1]).to be < 0.9 * thick[0]
      end

      it "holds a thread together, and leaves drops and bodies of liquid as they are" do
        thread = Array.new(9) { |n| [3.0 + 2.1 * n, 8.0, 8.0] }
        expect(pieces(made(skin_of([16, 16, 24], thread))[0])).to be > 5
        expect(pieces(made(skin_of([16, 16, 24], thread), sheets: 3.0)[0])).to eq(1)
        random = Random.new(4)
        drops = Array.new(40) { [2 + 20 * random.rand, 2 + 12 * random.rand, 2 + 20 * random.rand] }
        expect(made(skin_of([24, 16, 24], drops), sheets: 3.0)[0].count).to be_within(20).percent_of(
          made(skin_of([24, 16, 24], drops))[0].count
        )
        body =
          Array.new(8 * 6**3) do |n|
            n
              .divmod(8)
              .then do |cell, s|
                [
                  3 + cell % 6 + 0.25 + 0.5 * (s & 1), 3 + cell / 6 % 6 + 0.25 + 0.5 * (s >> 1 & 1),
                  3 + cell / 36 + 0.25 + 0.5 * (s >> 2)
                ]
              end
          end
        plain, held = [0.0, 3.0].map { |sheets| made(skin_of([12, 12, 12], body), sheets: sheets)[0] }
        expect(held.points.bytes).to eq(plain.points.bytes)
      end
    end
  end
end
