# frozen_string_literal: true

module Vumbral
  # What particles give to the grid and take from it, and what walls leave open, held to what is exact.
  RSpec.describe Liquid::TransferKernels do
    let(:size) { [8, 9, 10] }
    let(:voxel) { 0.1 }
    # How a flow that changes evenly over space changes along x, y and z, and its speed at the corner.
    let(:rows) { [[0.3, -0.2, 0.1], [0.4, 0.1, -0.3], [-0.1, 0.2, -0.4]] }
    let(:base) { [0.5, -0.2, 0.1] }

    def flow_at(x, y, z) = 3.times.map { |a| base[a] + rows[a].zip([x, y, z]).sum { |rate, c| rate * c * voxel } }

    # A liquid that fills its box, each particle somewhere in its eighth.
    def full
      solver, state = poured(size, voxel, loose: 0.9) { -1.0 }
      places(state).each_with_index do |place, p|
        flow_at(*place).each_with_index { |speed, a| state.drops.speed[p, a] = speed }
        rows.flatten.each_with_index { |rate, n| state.drops.turn[p, n] = rate }
      end
      solver.sort(state)
      [solver, state]
    end

    # Carries particles so many cells by 1 m/s, out through any side.
    def carry(state, faces, walls, step)
      Liquid::MoveKernels.carry(
        state.drops, faces, faces, walls, Kernel::Buffer.of(:f32, [1.0] * 6),
        Kernel::Buffer.of(:f32, [0.0, 1.0 / voxel, step, 0.0])
      )
    end

    # @return [Array(Liquid::Sums, Kernel::Buffer)] what a liquid gives, and how much there is about each cell
    def given(solver, state)
      sums, full = Liquid::Sums.none(size), Kernel::Buffer.new(:f32, *size)
      2.times { |odd| described_class.give(sums, full, state.drops, solver.first, odd, voxel) }
      [sums, full]
    end

    it "gives all of their momentum, and no more" do
      solver, state = full
      sums, = given(solver, state)
      momentum = sums.to_a.map { |sum| sum.to_a.each_slice(2).sum(&:first) }
      weight = sums.to_a.map { |sum| sum.to_a.each_slice(2).sum(&:last) }
      speeds = state.drops.speed.to_a.each_slice(3).to_a.transpose.map(&:sum)
      # A particle beside a side is weighed as if it stood at the last face: the rates stay those of its own place.
      expect(weight).to all(be_within(0.01).of(state.drops.count))
      off = state.drops.count * 0.5 * voxel * 0.3
      momentum.zip(speeds) { |found, own| expect(found).to be_within(0.05 * off).of(own) }
    end

    it "gives an evenly changing flow to every face as it is there" do
      solver, state = full
      sums, = given(solver, state)
      faces, weights, known = Flow::Faces.still(size), Flow::Faces.still(size), Liquid::Marks.none(size)
      faces.to_a.zip(weights.to_a, known.to_a, sums.to_a) { |parts| described_class.settle(*parts) }
      worst = 0.0
      (1..6).each do |k|
        (1..7).each do |j|
          (1..8).each do |i|
            worst = [
              worst, (faces.u[k, j, i] - flow_at(i, j + 0.5, k + 0.5)[0]).abs,
              (faces.v[k, j, i] - flow_at(i + 0.5, j, k + 0.5)[1]).abs,
              (faces.w[k, j, i] - flow_at(i + 0.5, j + 0.5, k)[2]).abs
            ].max
          end
        end
      end
      expect(worst).to be < 1e-5
    end

    it "gives it back as it was, with how it changes" do
      solver, state = full
      faces = Flow::Faces.still(size)
      faces.u.replace(field(*faces.u.shape) { |k, j, i| flow_at(i, j + 0.5, k + 0.5)[0] })
      faces.v.replace(field(*faces.v.shape) { |k, j, i| flow_at(i + 0.5, j, k + 0.5)[1] })
      faces.w.replace(field(*faces.w.shape) { |k, j, i| flow_at(i + 0.5, j + 0.5, k)[2] })
      state.drops.speed.fill(9.0)
      state.drops.turn.fill(9.0)
      went = places(state)
      carry(state, faces, Liquid::Walls.none(size), 0.0)
      expect(places(state)).to eq(went)
      inner =
        (0...state.drops.count).select { |p| places(state)[p].zip([10, 9, 8]).all? { |c, n| c.between?(1, n - 1) } }
      expect(inner.size).to be > 2000
      speeds, turns = state.drops.speed.to_a.each_slice(3).to_a, state.drops.turn.to_a.each_slice(9).to_a
      expect(
        inner.map { |p| speeds[p].zip(flow_at(*places(state)[p])).map { |one, other| (one - other).abs }.max }.max
      ).to be < 1e-5
      expect(inner.map { |p| turns[p].zip(rows.flatten).map { |one, other| (one - other).abs }.max }.max).to be < 1e-4
      expect(solver.first[720]).to eq(state.drops.count)
    end

    it "counts a full cell as full, and half of one beside the surface" do
      solver, state = poured(size, voxel) { |_, y, _| y - 5 }
      solver.sort(state)
      _, about = given(solver, state)
      expect([about[4, 2, 5], about[4, 7, 5]]).to match([be_within(1e-5).of(1.0), be_within(1e-6).of(0.0)])
      # An eighth of what a cell holds lies nearer to the next one's middle.
      expect([about[4, 4, 5], about[4, 5, 5]]).to match([be_within(1e-5).of(0.875), be_within(1e-5).of(0.125)])
    end

    describe "at walls" do
      let(:level) { 3.3 }
      let(:walls) { walls_of(size) { |_, y, _| y - level } }

      def opened(sides = [0.0] * 6)
        Flow::Faces.still(size).tap do |open|
          Liquid::PressureKernels.uncover(open, walls.far)
          Liquid::PressureKernels.close(open, Kernel::Buffer.of(:f32, sides))
        end
      end

      it "leaves open what a level wall leaves of each face and of each cell" do
        open = opened
        expect([2, 3, 4].map { |j| open.u[4, j, 5] }).to match([0.0, be_within(1e-6).of(0.7), 1.0])
        expect([3, 4].map { |j| open.v[4, j, 5] }).to eq([0.0, 1.0])
        room = Kernel::Buffer.new(:f32, *size)
        Liquid::PressureKernels.room(room, walls.far)
        expect([2, 3, 4].map { |j| room[4, j, 5] }).to match([0.0, be_within(1e-6).of(0.7), 1.0])
      end

      it "closes the chamber's sides but those that are open" do
        open = opened([0.0, 1.0, 0.0, 0.0, 0.0, 0.0])
        expect([open.u[4, 6, 0], open.u[4, 6, 10], open.v[4, 9, 5], open.w[0, 6, 5]]).to eq([0.0, 1.0, 0.0, 0.0])
      end

      it "goes as the wall does on each face, and stands still on closed sides of the chamber" do
        walls.x.fill(2.0)
        walls.y.fill(-1.5)
        moved = Flow::Faces.still(size)
        Liquid::WallKernels.faces(moved, walls)
        Liquid::PressureKernels.close(moved, Kernel::Buffer.of(:f32, [0.0, 1.0, 0.0, 0.0, 0.0, 0.0]))
        expect([moved.u[4, 4, 0], moved.u[4, 4, 3], moved.u[4, 4, 10]]).to eq([0.0, 2.0, 2.0])
        expect([moved.v[4, 0, 5], moved.v[4, 3, 5], moved.v[4, 9, 5]]).to eq([0.0, -1.5, 0.0])
      end

      it "lets no particle hang on a wall or pass it, and gives back only what went into it" do
        solver, state = poured(size, voxel, walls: walls) { |_, y, _| y - 6 }
        solver.sort(state)
        faces = Flow::Faces.still(size)
        faces.u.fill(0.4)
        faces.v.fill(-2.0)
        carry(state, faces, walls, 0.05 / voxel)
        heights = places(state).map { |_, y, _| y }
        expect(heights.min).to be_within(0.01).of(level + Liquid::MoveKernels::APART)
        down = state.drops.speed.to_a.each_slice(3).to_a
        met = (0...state.drops.count).select { |p| heights[p] < level + 0.1 }
        expect(met.map { |p| down[p][1].abs }.max).to be < 1e-4
        expect(met.map { |p| (down[p][0] - 0.4).abs }.max).to be < 1e-4
      end
    end
  end
end
