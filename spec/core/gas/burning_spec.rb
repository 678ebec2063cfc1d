# frozen_string_literal: true

module Vumbral
  RSpec.describe "Burning and blasts" do
    def sum(field) = field.to_a.sum

    def fuelled(n = 12)
      state = Gas::State.still([n, n, n], fuel: true)
      state.fuel.replace(field(n, n, n) { |k, j, i|
        ([k, j, i].all? { |c|
          c.between?(3, n - 4)
        }) ? 0.2 + 0.05 * ((k + j + i) % 5) : 0.0
      })
      state.heat.replace(field(n, n, n) { |_, j, _| (j > 4) ? 500.0 : 100.0 })
      state
    end

    it "balances exactly: fuel burnt against heat and smoke made" do
      state = fuelled
      fuel, heat = sum(state.fuel), sum(state.heat)
      burnt = Kernel::Buffer.new(:f32, 12, 12, 12)
      fire = Kernel::Buffer.of(:f32, [307.0, 0.15, 1400.0, 0.5, 0.0])
      Gas::FireKernels.burn(burnt, state.smoke, state.heat, state.fuel, state.thinned, state.thinned.copy, fire)
      gone = fuel - sum(state.fuel)
      expect(gone).to be > 1.0
      expect(sum(burnt)).to be_within(1e-5 * gone).of(gone)
      expect(sum(state.heat) - heat).to be_within(1e-4 * 1400 * gone).of(1400.0 * gone)
      expect(sum(state.smoke)).to be_within(1e-5 * gone).of(0.5 * gone)
      # What is too cold does not burn, and none burns that is not there.
      expect(state.fuel[5, 3, 5]).to be > 0.1
      expect(state.fuel.to_a.min).to eq(0.0)
    end

    it "tells in the report what burnt and what is left" do
      state = fuelled
      whole = sum(state.fuel) * 0.1**3
      solver = Gas::Solver.new(size: [12, 12, 12], voxel: 0.1, open: sides(false))
      _, report = solver.step(state, seconds: 1 / 24.0, gas: calm(ignite: 600.0, burn_rate: 3.0, burn_heat: 1000.0),
        feeds: [])
      expect(report.burnt).to be_between(0.05 * whole, whole)
      expect(report.burnt + report.fuel).to be_within(0.02 * whole).of(whole)
    end

    it "burns slower with a longer flame" do
      burnt = [1.0, 4.0].map do |flame|
        Gas::Solver.new(size: [12, 12, 12], voxel: 0.1, open: sides(false)).step(fuelled, seconds: 1 / 24.0,
          gas: calm(burn_rate: 2.0, flame: flame), feeds: [])[1].burnt
      end
      expect(burnt[0]).to be_within(0.02 * burnt[0]).of(4.0 * burnt[1])
    end

    it "cools by the fourth power, exactly for any step" do
      [1, 7].each do |steps|
        state = Gas::State.still([4, 4, 4])
        state.heat.fill(1500.0)
        state.heat[3, 3, 3] = 30.0
        steps.times { Gas::Radiation.new([4, 4, 4], 0.1).cool(state, 700.0, 0.0, 0.5 / steps) }
        exact = (1500.0**-3 + 3 * 700.0 / 1e12 * 0.5)**(-1 / 3.0)
        expect(state.heat[0, 0, 0]).to be_within(0.5).of(exact)
        expect(state.heat[3, 3, 3]).to eq(30.0)
      end
    end

    it "cools a ball of thick smoke from outside, and warms what stands beside it" do
      n = 24
      ball = ->(inside, outside) {
        field(n, n, n) { |k, j, i|
          ([k, j, i].sum { |c|
            (c - 11.5)**2
          } < 64.0) ? inside : outside
        }
      }
      left = [0.0, 4.0].map do |thick|
        state = Gas::State.still([n, n, n])
        state.smoke.replace(ball.call(thick, 0.05 * thick))
        state.heat.replace(ball.call(1500.0, 0.0))
        10.times { Gas::Radiation.new([n, n, n], 0.1).cool(state, 1500.0, 6.0, 0.05) }
        [state.heat[11, 11, 11], state.heat[11, 11, 5], state.heat[11, 11, 1]]
      end
      expect(left[0][0]).to be_within(1.0).of(left[0][1])
      expect(left[0][2]).to eq(0.0)
      expect(left[1][0]).to be > 1400.0
      expect(left[1][1]).to be < left[1][0] - 80.0
      expect(left[1][2]).to be > 1.0
    end

    it "gives the same heat for a unit of fuel, and keeps fuel and soot, however far the gas swells" do
      n = 24
      found = [0.0, 1.0, 3.0, 8.0].map do |swell|
        state = Gas::State.still([n, n, n], fuel: true)
        inside = ->(value) { field(n, n, n) { |k, j, i| ([k, j, i].sum { |c| (c - 11.5)**2 } < 16.0) ? value : 0.0 } }
        state.fuel.replace(inside.call(1.0))
        state.heat.replace(inside.call(500.0))
        whole = sum(state.fuel)
        solver = Gas::Solver.new(size: [n, n, n], voxel: 0.05, open: sides(true))
        gas = calm(ignite: 600.0, burn_rate: 4.0, burn_heat: 1400.0, burn_smoke: 0.5, burn_swell: swell,
          substeps_most: 16)
        peak = 0.0
        12.times do
          state, report = solver.step(state, seconds: 1 / 24.0, gas: gas, feeds: [])
          expect(report.swell_limited).to be(false)
          peak = [peak, report.peak_heat].max
        end
        [peak, sum(state.smoke) / (0.5 * whole), sum(state.fuel) / whole]
      end
      found.each do |peak, soot, fuel|
        expect(peak).to be_within(0.03 * found[0][0]).of(found[0][0])
        expect(soot + fuel).to be_within(0.02).of(1.0)
      end
    end

    # A hot ball of fuel in clean air, after some frames.
    def fireball(frames, air, **changes)
      n = 24
      state = Gas::State.still([n, n, n], fuel: true, air: true)
      ball = ->(value) { field(n, n, n) { |k, j, i| ([k, j, i].sum { |c| (c - 11.5)**2 } < 36.0) ? value : 0.0 } }
      state.fuel.replace(ball.call(1.0))
      state.heat.replace(ball.call(600.0))
      state.spent.replace(ball.call(1.0))
      gas = calm(ignite: 500.0, burn_rate: 6.0, burn_heat: 900.0, burn_smoke: 0.5, air: air, stir: 1.0,
        stir_cells: 6.0, **changes)
      solver = Gas::Solver.new(size: [n, n, n], voxel: 0.05, open: sides(true))
      frames.times { state, @report = solver.step(state, seconds: 1 / 24.0, gas: gas, feeds: []) }
      state
    end

    it "burns where fuel and air meet, and keeps the inside of a rich ball for later" do
      simple, rich = fireball(6, 0.0), fireball(6, 4.0)
      expect(sum(simple.fuel)).to be < 0.05 * 905
      expect(sum(rich.fuel)).to be > 0.5 * 905
      expect(rich.fuel[11, 11, 11]).to be > 0.9
      expect(rich.heat[11, 11, 11]).to be < rich.heat.to_a.max - 50.0
      expect(rich.spent.to_a.minmax).to match([be >= 0.0, be <= 1.0 + 1e-5])
      later = fireball(20, 4.0)
      expect(sum(later.fuel)).to be < 0.8 * sum(rich.fuel)
    end

    it "tears a smooth front where the gas swells, and only there" do
      smooth, torn = [0.0, 60.0].map { |front|
        fireball(3, 0.0, burn_swell: 3.0, stir: 0.0, front: front, front_cells: 5.0, substeps_most: 8)
      }
      uneven = lambda do |state|
        state.smoke[11, 11, 5] + state.smoke[11, 11, 18] + state.smoke[5, 11, 11] + state.smoke[18, 11, 11] -
          2 * (state.smoke[11, 5, 11] + state.smoke[11, 18, 11])
      end
      expect(uneven.call(torn).abs).to be > 5.0 * uneven.call(smooth).abs
      expect(sum(torn.smoke)).to be_within(0.03 * sum(smooth.smoke)).of(sum(smooth.smoke))
    end

    it "drives smoke from dense to thin, keeping its sum and its edge" do
      n = 24
      spread = [0.0, 0.05].map do |outward|
        state = Gas::State.still([n, n, n])
        state.smoke.replace(field(n, n, n) { |k, j, i| ([k, j, i].sum { |c| (c - 11.5)**2 } < 25.0) ? 2.0 : 0.0 })
        whole = sum(state.smoke)
        solver = Gas::Solver.new(size: [n, n, n], voxel: 0.05, open: sides(true))
        10.times { state, = solver.step(state, seconds: 1 / 24.0, gas: calm(outward: outward), feeds: []) }
        expect(sum(state.smoke)).to be_within(0.01 * whole).of(whole)
        state.smoke
      end
      expect(spread[1].to_a.count { |value| value > 0.1 }).to be > 1.3 * spread[0].to_a.count { |value| value > 0.1 }
      expect(spread[1].to_a.max).to be < 0.9 * spread[0].to_a.max
    end

    it "lets smoke and heat soak into clean air as diffusion does" do
      n = 32
      state = Gas::State.still([n, n, n])
      state.smoke.replace(field(n, n, n) { |k, j, i| Math.exp(-[k, j, i].sum { |c| (c - 15.5)**2 } / 18.0) })
      before = state.smoke[15, 15, 15]
      solver = Gas::Solver.new(size: [n, n, n], voxel: 0.05, open: sides(false))
      5.times { state, = solver.step(state, seconds: 0.1, gas: calm(smoke_spread: 0.02), feeds: []) }
      # A bell of 3 cells is one of sqrt(9 + 2 D t / h²) cells later.
      expect(state.smoke[15, 15, 15] / before).to be_within(0.02).of((9.0 / (9.0 + 2 * 0.02 * 0.5 / 0.05**2))**1.5)
    end

    it "lets out of a shell open above what its source pushes, within 2 %" do
      n = 32
      solid = field(n, n, n, type: :u8) do |k, j, i|
        r = [k, i].map { |c| (c - 15.5).abs }.max
        ((r.between?(6.0, 8.0) && j.between?(6, 20)) || (r < 8.0 && j.between?(6, 7))) ? 1 : 0
      end
      cover = field(n, n, n) { |k, j, i| ([k - 15.5, j - 12, i - 15.5].sum { |c| c * c } < 9.0) ? 1.0 : 0.0 }
      feed = Gas::Feed.new(cover: cover, smoke: 0.0, push: 8.0, strength: 1.0)
      state = Gas::State.still([n, n, n])
      swell = Gas::Burning.new([n, n, n], 0.05).burn(state, Gas::Surroundings.plain(calm, [feed]), 0.01)
      projection = Flow::Projection.new([n, n, n], sides(true), solid)
      projection.project(state, 1e-6, swell, 0.05)
      through = (0...n).sum { |k|
        (0...n).sum { |i|
          ([k, i].all? { |c|
            (c - 15.5).abs < 6.0
          }) ? state.v[k, 20, i] : 0.0
        }
      } * 0.05**2
      made = sum(cover) * 8.0 * 0.05**3
      expect(through).to be_within(0.02 * made).of(made)
      expect(projection.leftover(state, swell, 0.05) / state.speed).to be < 1e-4
    end

    it "thins what swells, so that expansion makes no matter" do
      n = 24
      cover = field(n, n, n) { |k, j, i| ([k, j, i].sum { |c| (c - 11.5)**2 } < 25.0) ? 1.0 : 0.0 }
      state = Gas::State.still([n, n, n])
      state.smoke.replace(cover)
      before = sum(state.smoke)
      solver = Gas::Solver.new(size: [n, n, n], voxel: 0.05, open: sides(true))
      8.times do
        state, =
          solver.step(
            state, seconds: 0.02, gas: calm, feeds: [Gas::Feed.new(cover: cover, smoke: 0.0, push: 6.0, strength: 1.0)]
          )
      end
      expect(sum(state.smoke)).to be_within(0.002 * before).of(before)
      expect(state.smoke.to_a.count { |s| s > 0.05 }).to be > 1.5 * cover.to_a.count(1.0)
    end

    it "holds back an expansion that would blow the step up, and says so" do
      n = 16
      cover = field(n, n, n) { |k, j, i| ([k, j, i].all? { |c| c.between?(6, 9) }) ? 1.0 : 0.0 }
      solver = Gas::Solver.new(size: [n, n, n], voxel: 0.05, open: sides(true))
      state, report = solver.step(Gas::State.still([n, n, n]), seconds: 1 / 24.0, gas: calm,
        feeds: [Gas::Feed.new(cover: cover, smoke: 1.0, push: 1e6, strength: 1.0)])
      expect(report.swell_limited).to be(true)
      expect(report.speed).to be_finite
      expect(state.smoke.to_a).to all(be_finite)
    end

    it "keeps colours with the smoke that has them" do
      n = 16
      state = Gas::State.still([n, n, n], colour: true)
      solver = Gas::Solver.new(size: [n, n, n], voxel: 0.05, open: sides(false))
      halves = [0, 1].map { |side| field(n, n, n) { |_, _, i| ((i >= n / 2) == (side == 1)) ? 1.0 : 0.0 } }
      feeds =
        halves
          .zip([[1.0, 0.0, 0.0], [0.0, 0.0, 1.0]])
          .map { |cover, colour| Gas::Feed.new(cover: cover, smoke: 2.0, strength: 1.0, colour: colour) }
      3.times { state, = solver.step(state, seconds: 1 / 24.0, gas: calm, feeds: feeds) }
      expect(state.red[8, 8, 3]).to be_within(1e-4).of(state.smoke[8, 8, 3])
      expect([state.blue[8, 8, 3], state.red[8, 8, 12]]).to eq([0.0, 0.0])
    end

    it "holds smoke at a density, or adds it without end" do
      cover = field(8, 8, 8) { 1.0 }
      held, added = [true, false].map do |hold|
        state = Gas::State.still([8, 8, 8])
        solver = Gas::Solver.new(size: [8, 8, 8], voxel: 0.1, open: sides(false))
        24.times do
          state, =
            solver.step(
              state, seconds: 1 / 24.0, gas: calm,
              feeds: [Gas::Feed.new(cover: cover, smoke: 2.0, hold: hold, strength: 1.0)]
            )
        end
        state.smoke[4, 4, 4]
      end
      expect([held, added]).to match([be_within(0.01).of(2.0), be_within(0.01).of(2.0)])
      warm = Gas::State.still([8, 8, 8])
      warm, = Gas::Solver.new(size: [8, 8, 8], voxel: 0.1, open: sides(false)).step(warm, seconds: 0.5, gas: calm,
        feeds: [Gas::Feed.new(cover: cover, heat: 100.0, warm: true, strength: 1.0)])
      expect(warm.heat[4, 4, 4]).to be_within(0.01).of(50.0)
    end
  end
end
