# frozen_string_literal: true

module Vumbral
  # What happens where particles are too many or too few.
  RSpec.describe Liquid::Solver do
    # Cells of a pool that lies in walls but for what is told. @yield [k, j, i] how full
    def holes(size, open: Flow::Faces.still(size).tap { |faces| faces.to_a.each { |field| field.fill(1.0) } }, &how)
      full, marks = field(*size, &how), Kernel::Buffer.new(:u8, *size)
      Liquid::HoleKernels.find(marks, full, open, Kernel::Buffer.new(:u8, size[0] + 1, size[1] + 1).fill(1))
      Liquid::HoleKernels.fill(full, marks)
      [marks.to_a.sum, full]
    end

    def inside?(k, j, i, edge = 7) = [k, j, i].all? { |n| n.between?(1, edge) }

    it "takes a few empty cells within the liquid for liquid, and larger bubbles and the open air for what they are" do
      size = [9, 9, 9]
      found, full = holes(size) { |k, j, i| (inside?(k, j, i) && [k, j, i] != [4, 4, 4]) ? 1.0 : 0.0 }
      expect([found, full[4, 4, 4], full[0, 0, 0]]).to eq([1, 1.0, 0.0])
      # Ten in a row-like hole, and eleven.
      [[2, 10], [3, 0]].each do |rows, wanted|
        found, =
          holes(size) do |k, j, i|
            (inside?(k, j, i) && !(k == 4 && j.between?(3, 2 + rows) && i.between?(2, 6))) ? 1.0 : 0.0
          end
        expect(found).to eq(wanted)
      end
      # A dent in the surface is open.
      expect(holes(size) { |k, j, i| (j < 5 && [k, j, i] != [4, 4, 4]) ? 1.0 : 0.0 }[0]).to eq(0)
    end

    it "takes no dry corner for liquid that walls close in" do
      size = [5, 5, 5]
      expect(holes(size, open: Flow::Faces.still(size)) { 0.0 }[0]).to eq(0)
    end

    it "lets particles that are pressed into one cell find room near by, with the speed that the liquid has there" do
      solver, state = poured([10, 10, 10], 0.1) { |_, y, _| y - 8 }
      crowd =
        (0...state.drops.count).select { |p| (p % 4).zero? && places(state)[p].all? { |c| c.between?(3.0, 5.99) } }
      # A quarter of what was around is pressed into one cell.
      crowd.each { |p| 3.times { |axis| state.drops.at[p, axis] = 5.3 + 0.1 * axis } }
      state.faces.u.fill(0.25)
      solver.sort(state)
      moved = solver.relieve(state, 1.0)
      expect(moved).to be_positive
      counts = (0...1000).map { |cell| solver.first[cell + 1] - solver.first[cell] }
      expect(counts.max).to eq(Liquid::CrowdKernels::MOST)
      expect(state.drops.speed.to_a.each_slice(3).count { |u, _, _| (u - 0.25).abs < 1e-6 }).to eq(moved)
      expect(solver.relieve(state, 1.0)).to eq(0)
    end

    it "divides a frame by how fast the liquid goes, not by a drop that flies" do
      _, state = poured([10, 10, 10], 0.1) { |_, y, _| y - 8 }
      state.drops.speed.fill(1.0)
      expect(state.pace).to be_within(0.01).of(Math.sqrt(3))
      12.times { |p| state.drops.speed[p, 1] = 3.0 }
      expect([state.speed, state.pace]).to match([be_within(1e-5).of(Math.sqrt(11)), be_within(0.04).of(Math.sqrt(3))])
      # One that goes very much faster may not cross too many cells at once.
      state.drops.speed[0, 1] = 40.0
      expect(state.pace).to be_within(0.3).of(10.0)
      100.times { |p| state.drops.speed[p, 1] = 3.0 }
      expect(state.pace).to be_within(0.03).of(Math.sqrt(11))
    end

    it "is not drawn through the floor by what comes down onto it" do
      size = [16, 16, 16]
      solver, state = poured(size, 1 / 16.0, loose: 0.5) { |_, y, _| y - 11 }
      steps = 24
      (0..steps + 30).each do |n|
        place = [14.0 - 9.6 * n / steps, 4.4].max
        walls = walls_of(size) { |x, y, z| Math.sqrt((x - 8)**2 + (y - place)**2 + (z - 8)**2) - 4.2 }
        # As it goes, the floor below it too.
        walls.y.fill((place > 4.4) ? -9.6 / 16 / steps * 48 : 0.0)
        solver.block(walls, moving: place > 4.4)
        solver.sort(state)
        solver.relieve(state, 1.0)
        solver.substep(state, 1 / 48.0, Liquid::Settings.still)
      end
      solver.sort(state)
      expect(4096.times.map { |cell| solver.first[cell + 1] - solver.first[cell] }.max).to be < 24
      # What it displaces stands above where the liquid stood.
      high = places(state).map { |_, y, _| y }.sort
      expect(high[high.size / 2]).to be > 5.5 + 0.3
    end
  end
end
