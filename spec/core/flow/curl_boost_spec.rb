# frozen_string_literal: true

module Vumbral
  RSpec.describe Flow::CurlBoost do
    # A ball of warm gas that has begun to rise.
    def risen
      n = 24
      state = Gas::State.still([n, n, n])
      state.heat.replace(
        field(n, n, n) { |k, j, i| (Math.sqrt((k - 11.5)**2 + (j - 7)**2 + (i - 11.5)**2) < 4.5) ? 300.0 : 0.0 }
      )
      solver = Gas::Solver.new(size: [n, n, n], voxel: 0.05, open: sides(true))
      14.times { state, = solver.step(state, seconds: 1 / 24.0, gas: calm(lift: 1.0), feeds: []) }
      state
    end

    def energy(velocity)
      Kernel::Buffer.new(:f32, 24, 24, 24).tap { |all| Flow::BoostKernels.measure(all, *velocity) }
    end

    # @return [Array] the velocity of a state, the same carried, and the ways along which
    def carried(state, seconds)
      velocity = [state.u, state.v, state.w]
      transport = Flow::Transport.new([24, 24, 24], 0.05, sides(true))
      transport.follow(velocity, seconds)
      moved = velocity.map { |faces| Kernel::Buffer.new(:f32, *faces.shape) }
      transport.carry_velocity(velocity, moved)
      [velocity, moved, transport]
    end

    # @return [Array(Float, Float)] what {BoostKernels.lose} finds in a step, and what there is less
    def lost(state, seconds)
      velocity, moved, transport = carried(state, seconds)
      before = energy(velocity)
      Flow::CubicKernels.pad(padded = Kernel::Buffer.new(:f32, 26**3), before)
      found = Flow::BoostKernels.lose(Kernel::Buffer.new(:f32, 24, 24, 24), padded, transport.ways, *moved)
      [found, before.to_a.sum - energy(moved).to_a.sum]
    end

    it "finds what carrying took from the energy, whatever the step" do
      state = risen
      [1 / 48.0, 1 / 96.0, 1 / 192.0].each do |seconds|
        found, gone = lost(state, seconds)
        expect(gone).to be_positive
        expect(found).to be_within(0.35 * gone).of(gone)
      end
    end

    # @return [Float] what boost gives back, as part of what was lost
    def returned(state, gain)
      velocity, moved, transport = carried(state, 1 / 48.0)
      boost = described_class.new([24, 24, 24])
      boost.before(velocity)
      carried = energy(moved).to_a.sum
      boost.after(moved, transport.ways, field(24, 24, 24) { 1.0 }, gain)
      (energy(moved).to_a.sum - carried) / lost(state, 1 / 48.0)[0]
    end

    it "gives back a part of it, and never what turbulent gas would pass on to rolls smaller than voxels" do
      state = risen
      half, most, beyond = [0.5, 1.0, 6.0].map { |gain| returned(state, gain) }
      expect(half).to be_between(0.2, 0.5)
      expect([most, beyond]).to all be_between(half, described_class::MOST_RETURNED)
    end
  end
end
