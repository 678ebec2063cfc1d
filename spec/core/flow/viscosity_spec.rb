# frozen_string_literal: true

module Vumbral
  RSpec.describe Flow::Viscosity do
    # Taylor & Green's vortices (1937) between walls that let the gas slide die at 2 ν k².
    it "lets a viscous vortex array decay at the exact rate" do
      n = 32
      state = Gas::State.still([4, n, n])
      k = Math::PI / n
      state.u.replace(field(4, n, n + 1) { |_, j, i| Math.sin(2 * k * i) * Math.cos(2 * k * (j + 0.5)) })
      state.v.replace(field(4, n + 1, n) { |_, j, i| -Math.cos(2 * k * (i + 0.5)) * Math.sin(2 * k * j) })
      before = state.u.to_a.map(&:abs).max
      amount = 0.8
      viscosity = described_class.new([4, n, n], sides(false))
      6.times { viscosity.diffuse(state, amount) }
      eigenvalue = 2 * (2 - 2 * Math.cos(2 * k))
      expect(state.u.to_a.map(&:abs).max).to be_within(1e-4).of(before * Math.exp(-6 * amount * eigenvalue))
      expect(state.u.to_a.map(&:abs).max).to be_within(0.01 * before).of(
        before * Math.exp(-6 * amount * 2 * (2 * k)**2)
      )
    end

    it "keeps momentum where there is nothing to lose it to, and holds closed walls" do
      state = Gas::State.still([8, 10, 12])
      state.u.replace(random_field(8, 10, 13))
      state.v.replace(random_field(8, 11, 12))
      described_class.new([8, 10, 12], sides(false)).diffuse(state, 3.0)
      expect(indices([8, 10]).map { |k, j| [state.u[k, j, 0].abs, state.u[k, j, 12].abs] }.flatten.max).to be < 1e-5
      open = Gas::State.still([8, 10, 12])
      open.w.fill(1.0)
      described_class.new([8, 10, 12], sides(true)).diffuse(open, 3.0)
      expect(open.w.to_a).to all(be_within(1e-4).of(1.0))
    end
  end
end
