# frozen_string_literal: true

module Vumbral
  RSpec.describe "Burning and blasts" do
    def sum(field) = field.to_a.sum

    def fuelled(n = 12)
      state = Gas::State.still([n, n, n], fuel: true)
      state.fuel.replace(field(n, n, n) { |k, j, i| ([k, j, i].all? { |c| c.between?(3, n - 4) }) ? 0.2 + 0.05 * ((k + j + i) % 5) : 0.0 })
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
      ball = ->(inside, outside) { field(n, n, n) { |k, j, i| ([k, j, i].sum { |c| (c - 11.5)**2 } < 64.0) ? inside : outside } }
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
        gas = calm(ignite: 600.0, burn_rate: 4.0, burn_heat: 1400.0, burn_smoke: 0.5, burn_swell: swell, substeps_most: 16)
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
      gas = calm(ignite: 500.0, burn_rate: 6.0, burn_heat: 900.0, burn_smoke: 0.5, air: air, stir: 1.0, stir_cells: 6.0, **changes)
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
      smooth, torn = [0.0, 60.0].map { |front| fireball(3, 0.0, burn_swell: 3.0, stir: 0.0, front: front, front_cells: 5.0, substeps_most: 8) }
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
      through = (0...n).sum { |k| (0...n).sum { |i| ([k, i].all? { |c| (c - 15.5).abs < 6.0 }) ? state.v[k, 20, i] : 0.0 } } * 0.05**2
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
      8.times { state, = solver.step(state, seconds: 0.02, gas: calm, feeds: [Gas::Feed.new(cover: cover, smoke: 0.0, push: 6.0, strength: 1.0)]) }
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
      feeds = halves.zip([[1.0, 0.0, 0.0], [0.0, 0.0, 1.0]]).map { |cover, colour| Gas::Feed.new(cover: cover, smoke: 2.0, strength: 1.0, colour: colour) }
      3.times { state, = solver.step(state, seconds: 1 / 24.0, gas: calm, feeds: feeds) }
      expect(state.red[8, 8, 3]).to be_within(1e-4).of(state.smoke[8, 8, 3])
      expect([state.blue[8, 8, 3], state.red[8, 8, 12]]).to eq([0.0, 0.0])
    end

    it "holds smoke at a density, or adds it without end" do
      cover = field(8, 8, 8) { 1.0 }
      held, added = [true, false].map do |hold|
        state = Gas::State.still([8, 8, 8])
        solver = Gas::Solver.new(size: [8, 8, 8], voxel: 0.1, open: sides(false))
        24.times { state, = solver.step(state, seconds: 1 / 24.0, gas: calm, feeds: [Gas::Feed.new(cover: cover, smoke: 2.0, hold: hold, strength: 1.0)]) }
        state.smoke[4, 4, 4]
      end
      expect([held, added]).to match([be_within(0.01).of(2.0), be_within(0.01).of(2.0)])
      warm = Gas::State.still([8, 8, 8])
      warm, = Gas::Solver.new(size: [8, 8, 8], voxel: 0.1, open: sides(false)).step(warm, seconds: 0.5, gas: calm,
        feeds: [Gas::Feed.new(cover: cover, heat: 100.0, warm: true, strength: 1.0)])
      expect(warm.heat[4, 4, 4]).to be_within(0.01).of(50.0)
    end
  end

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
      expect(state.u.to_a.map(&:abs).max).to be_within(0.01 * before).of(before * Math.exp(-6 * amount * 2 * (2 * k)**2))
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

  RSpec.describe Flow::Forces do
    def pushed(n = 12, steps = 1, **force)
      state = Gas::State.still([n, n, n])
      force = {"what" => "push", "strength" => 2.0, "direction" => [1.0, 0.0, 0.0], "grip" => 2.0, "falloff" => "everywhere", "position" => [0.6, 0.6, 0.6], "line_end" => [0.6, 1.0, 0.6],
               "extent" => [0.5, 0.5, 0.5], "reach" => 0.3, "soft" => 0.5, "size" => 0.4, "speed" => 1.0, "octaves" => 2, "mask" => "everywhere"}.merge(force.transform_keys(&:to_s))
      solver = Gas::Solver.new(size: [n, n, n], voxel: 0.1, open: sides(true))
      around = Gas::Surroundings.plain(calm).tap { |all| all.forces = [force] }
      steps.times { solver.send(:accelerate, state, 0.1, around) }
      state
    end

    it "pushes, and draws to a wind's speed" do
      expect(pushed.u[6, 6, 6]).to be_within(1e-5).of(0.2)
      expect(pushed(12, 80, what: "wind", strength: 3.0).u[6, 6, 6]).to be_within(0.01).of(3.0)
      expect(pushed(12, 1, direction: [0.0, 0.0, -5.0]).w[6, 6, 6]).to be_within(1e-5).of(-0.2)
    end

    it "pulls to a place, swirls about an axis, slows down" do
      pull = pushed(12, 1, what: "pull")
      expect([pull.u[6, 6, 2], pull.u[6, 6, 10]]).to match([be > 0.1, be < -0.1])
      swirl = pushed(12, 1, what: "swirl", direction: [0.0, 1.0, 0.0])
      expect([swirl.u[10, 6, 6], swirl.u[1, 6, 6]]).to match([be > 0.05, be < -0.05])
      expect(pushed(12, 2, what: "swirl").v[6, 6, 6].abs).to be < 0.1
      expect(pushed(12, 1, what: "drag").u[6, 6, 6]).to eq(0.0)
    end

    it "acts in its shape only, softly" do
      sphere = pushed(12, 1, falloff: "sphere")
      expect([sphere.u[6, 6, 6], sphere.u[1, 1, 1],
        sphere.u[6, 6, 8]]).to match([be_within(0.01).of(0.2), 0.0, be_between(0.0, 0.19)])
      box = pushed(12, 1, falloff: "box", soft: 0.01)
      expect([box.u[6, 6, 6], box.u[6, 6, 10]]).to match([be_within(1e-3).of(0.2), 0.0])
      line = pushed(12, 1, falloff: "line")
      expect([line.u[6, 8, 6], line.u[6, 1, 6]]).to match([be > 0.15, 0.0])
    end

    it "differs from place to place where it is uneven" do
      even, uneven = [0.0, 1.0].map { |amount| pushed(uneven: amount, uneven_size: 0.4).u.to_a.reject(&:zero?) }
      expect(even.max).to be_within(1e-4).of(even.min)
      expect(uneven.max).to be > 2.0 * uneven.sum / uneven.size.to_f - uneven.min
    end

    it "stirs, clings and wipes" do
      expect(pushed(12, 1, what: "turbulence", falloff: "sphere", strength: 20.0).then { |s| [s.speed, s.u[0, 0, 0]] }).to match([be > 0.05, 0.0])
      state = Gas::State.still([12, 12, 12])
      state.smoke.fill(1.0)
      described_class.new([12, 12, 12], 0.1).wipe(state, {"what" => "wipe", "strength" => 50.0, "falloff" => "sphere", "position" => [0.6, 0.6, 0.6], "line_end" => [0, 0, 0], "extent" => [1, 1, 1], "reach" => 0.4, "soft" => 0.3}, [0.0, 0.0, 0.0], 0.2)
      expect([state.smoke[6, 6, 6], state.smoke[0, 0, 0]]).to match([be < 0.01, 1.0])
      distance = field(12, 12, 12) { |_, j, _| 0.1 * (j - 4) }
      push = Array.new(3) { Kernel::Buffer.new(:f32, 12, 12, 12) }
      Flow::ForceKernels.cling(*push, distance, field(12, 12, 12) { 1.0 }, 5.0, 0.6)
      expect([push[1][6, 7, 6], push[1][6, 2, 6]]).to match([be < -0.5, be > 0.5])
    end
  end

  RSpec.describe Flow::Crop do
    def ran(follow, *edits)
      document = small_shot(edits: [set("chamber", :size, [2.4, 2.4, 2.4]), set("chamber", :voxel, 0.08),
        set("chamber", :follow, follow), set("general", :last, 6), *edits])
      plan = Gas::Plan.new(document, :full)
      stage = Gas::Stage.new(plan, nil)
      state = stage.still
      (1..6).each { |frame| state, @report = stage.advance(state, frame) }
      [state, plan]
    end

    it "computes only what holds something, in whole bricks, inside the chamber" do
      state, plan = ran(true, set("chamber", :margin, 2))
      expect(state.size.reduce(:*)).to be < 0.4 * plan.cells
      expect(state.origin.map { |c| c % 8 }).to eq([0, 0, 0])
      state.origin.zip(state.size, plan.size).each { |o, n, whole| expect(o + n).to be <= whole }
    end

    it "comes to nearly the same as the whole chamber" do
      cropped, plan = ran(true, set("chamber", :margin, 12))
      whole, = ran(false)
      same = cropped.moved_to([0, 0, 0], plan.size)
      total = whole.smoke.to_a.sum
      expect(same.smoke.to_a.sum).to be_within(0.05 * total).of(total)
      expect(same.smoke.to_a.zip(whole.smoke.to_a).sum { |a, b| (a - b).abs }).to be < 0.25 * total
    end

    it "follows what moves, and lets the chamber's own walls act where it meets them" do
      state, = ran(true, {"do" => "notch", "node" => "prop-1", "dial" => "position", "frame" => 1, "value" => [-0.8, 0.3, 0.0]},
        {"do" => "notch", "node" => "prop-1", "dial" => "position", "frame" => 6, "value" => [0.8, 0.3, 0.0]})
      reached = indices(state.size).select { |index| state.smoke[*index] > 0.05 }.map { |_, _, i| i + state.origin[2] }
      expect([reached.min, reached.max]).to match([be <= 8, be >= 22])
      expect(state.v[state.size[0] / 2, 0, state.size[2] / 2]).to eq(0.0)
    end
  end

  RSpec.describe Gas::Moment do
    def advanced(frames, *edits)
      document = small_shot(edits: [set("chamber", :size, [1.6, 1.6, 1.6]), set("chamber", :follow, false), set("chamber", :lift, 0.0), set("chamber", :stir, 0.0), set("chamber", :curl_boost, 0.0), set("source-1", :heats, false), set("source-1", :breakup, 0.0), *edits])
      plan = Gas::Plan.new(document, :full)
      stage = Gas::Stage.new(plan, nil)
      state = stage.still
      frames.times { |n| state, @report = stage.advance(state, n + 1) }
      [state, plan]
    end

    def notch(node, dial, frame, value)
      {"do" => "notch", "node" => node, "dial" => dial.to_s, "frame" => frame, "value" => value, "ease" => "linear"}
    end

    it "gives off an even trail from a fast source, without beads" do
      state, = advanced(3, set("prop-1", :radius, 0.12), notch("prop-1", :position, 0, [-0.7, 0.8, 0.0]),
        notch("prop-1", :position, 4, [0.9, 0.8, 0.0]), set("source-1", :carried, 0.0), set("chamber", :substeps_most, 12))
      middle = state.size[0] / 2
      trail = (5..14).map { |i| state.smoke[middle, (0.8 / 0.07).floor, i] }
      expect(trail.min).to be > 0.4 * trail.max
    end

    it "takes the prop's speed along, as much as is asked" do
      speeds = [0.0, 100.0].map { |share| advanced(2, notch("prop-1", :position, 1, [-0.3, 0.8, 0.0]), notch("prop-1", :position, 3, [0.1, 0.8, 0.0]), set("source-1", :carried, share))[0].u.to_a.max }
      expect(speeds).to match([be < 0.5, be > 2.0])
    end

    it "blows out along the normal, along a direction, and roughly" do
      out, = advanced(1, set("source-1", :along, 3.0), set("source-1", :from, "surface"), set("source-1", :skin, 0.105), set("prop-1", :radius, 0.3),
        set("prop-1", :position, [0.0, 0.8, 0.0]), set("source-1", :push, 5.0))
      middle, row = out.size[2] / 2, (0.8 / 0.07).floor
      expect([out.u[middle, row, middle + 5], out.u[middle, row, middle - 5]]).to match([be > 0.1, be < -0.1])
      jet, = advanced(1, set("source-1", :velocity, [0.0, 6.0, 0.0]))
      expect(jet.v.to_a.max).to be > 1.0
      rough, = advanced(1, set("source-1", :rough, 4.0))
      expect(rough.speed).to be > 0.3
    end

    it "feeds beyond the surface, weaker and weaker, and breaks up in as many octaves as asked" do
      near, far = [0.0, 0.3].map { |fade| advanced(1, set("source-1", :fade, fade), set("prop-1", :position, [0.0, 0.8, 0.0]))[0].smoke.to_a }
      expect(far.count { |value| value > 1e-3 }).to be > 3 * near.count { |value| value > 1e-3 }
      expect(far.max).to be_within(1e-3).of(near.max)
      rough = [1, 4].map { |octaves| advanced(1, set("source-1", :breakup, 1.0), set("source-1", :breakup_octaves, octaves))[0].smoke.bytes }
      expect(rough[0] == rough[1]).to be(false)
    end

    it "is pushed by a collider that moves, and shielded by a thin shell" do
      plate = {"do" => "add", "kind" => "prop", "id" => "plate", "name" => "Plate",
               "dials" => {"shape" => "box", "size" => [0.8, 0.15, 0.8], "collider" => true}}
      moved, = advanced(3, plate, notch("plate", :position, 1, [0.0, 0.9, 0.0]),
        notch("plate", :position, 5, [0.0, 1.2, 0.0]), set("source-1", :smoke, 0.0))
      expect(moved.v.to_a.max).to be_within(0.6).of(0.3 / 4 * 24)
      shell = {"do" => "add", "kind" => "prop", "id" => "shell", "name" => "Shell", "dials" => {"shape" => "sphere", "radius" => 0.55, "position" => [0.0, 0.7, 0.0], "collider" => true, "body" => "shell", "shell" => 2.5}}
      state, = advanced(6, shell, set("prop-1", :position, [0.0, 0.7, 0.0]), set("prop-1", :radius, 0.2), set("source-1", :push, 0.0), set("source-1", :heats, true), set("chamber", :lift, 1.0))
      outside = indices(state.size).select { |k, j, i| [(i + 0.5) * 0.07 - 0.8, (j + 0.5) * 0.07 - 0.7, (k + 0.5) * 0.07 - 0.8].sum { |c| c * c } > 0.68**2 }
      expect(Flow::MatterKernels.total(state.smoke)).to be > 1.0
      expect(outside.sum { |index| state.smoke[*index] }).to be < 1e-3
    end

    it "drags along what rubs on it" do
      n = 16
      solid = ->(mark) { field(n, n, n, type: :u8) { |_, j, _| (j < 4) ? mark : 0 } }
      speeds = [1, 255].map do |mark|
        state = Gas::State.still([n, n, n])
        state.u.fill(1.0)
        solver = Gas::Solver.new(size: [n, n, n], voxel: 0.1, open: sides(%i[x0 x1]), solid: solid.call(mark))
        3.times { state, = solver.step(state, seconds: 0.02, gas: calm, feeds: []) }
        state.u[8, 4, 8]
      end
      expect(speeds[1]).to be < 0.5 * speeds[0]
    end

    it "stands still while time does, and goes slower in slow motion" do
      still, = advanced(2, set("chamber", :time_scale, 0.0))
      expect(still.smoke.to_a.sum).to eq(0.0)
      half, = advanced(2, set("chamber", :time_scale, 0.5))
      whole, = advanced(2)
      expect(half.smoke.to_a.sum).to be_within(0.05 * whole.smoke.to_a.sum).of(0.5 * whole.smoke.to_a.sum)
    end

    it "sets a row of charges off one after the other, each elsewhere" do
      row = [set("source-1", :copies, 3), set("source-1", :step_frames, 2.0), set("source-1", :step_place, [0.4, 0.0, 0.0]), set("source-1", :step_strength, 0.5), set("source-1", :last, 2),
        set("prop-1", :radius, 0.12), set("prop-1", :position, [-0.4, 0.5, 0.0])]
      plan = advanced(1, *row)[1]
      fed = (1..7).map { |frame| plan.at(frame)["sources"].map { |source| [source["copy"], source["strength"]] } }
      expect(fed).to eq([[[0, 1.0]], [[0, 1.0]], [[1, 0.5]], [[1, 0.5]], [[2, 0.25]], [[2, 0.25]], []])
      state, = advanced(6, *row)
      places = [-0.4, 0.0, 0.4].map { |x| state.smoke[state.size[0] / 2, (0.5 / 0.07).floor, ((x + 0.8) / 0.07).floor] }
      expect(places).to all(be > 0.01)
      expect(places[0]).to be > 1.5 * places[2]
    end

    it "feeds as a formula says, and no stronger anywhere else" do
      state, = advanced(2, set("prop-1", :radius, 0.4), set("prop-1", :position, [0.0, 0.8, 0.0]),
        set("source-1", :map, "formula"), set("source-1", :formula, "if(x > 0, 1, 0)"))
      middle, row = state.size[2] / 2, (0.8 / 0.07).floor
      expect([state.smoke[middle, row, middle + 3],
        state.smoke[middle, row, middle - 3]]).to match([be > 0.1, be < 1e-3])
    end

    it "feeds from particles along their way, and from the points of a mesh" do
      emitter = {"do" => "add", "kind" => "emitter", "id" => "sparks", "name" => "Sparks",
                 "dials" => {"position" => [0.0, 0.4, 0.0], "rate" => 200.0, "speed" => 5.0, "spread" => 30.0}}
      state, = advanced(5, emitter, set("source-1", :from, "particles"), set("source-1", :emitter, "sparks"))
      expect(state.smoke.to_a.count { |s| s > 0.02 }).to be > 30
      expect(state.speed).to be > 1.0
      points, = advanced(1, set("prop-1", :shape, "box"), set("prop-1", :size, [0.8, 0.8, 0.8]),
        set("prop-1", :position, [0.0, 0.8, 0.0]), set("source-1", :from, "points"), set("source-1", :point_size, 0.08))
      expect(points.smoke[points.size[0] / 2, (0.8 / 0.07).floor, points.size[2] / 2]).to eq(0.0)
      corner = ((0.8 - 0.4) / 0.07).floor
      expect(points.smoke[corner, ((0.8 - 0.4) / 0.07).floor, corner]).to be > 0.05
    end
  end

  RSpec.describe Gas::Swarm do
    def swarm(**dials)
      emitter = {"do" => "add", "kind" => "emitter", "id" => "sparks", "name" => "Sparks",
                 "dials" => {"rate" => 240.0, "life" => 1.0, "stir" => 0.0, "drag" => 0.0}.merge(dials.transform_keys(&:to_s))}
      described_class.new(Gas::Plan.new(small_shot(edits: [emitter, set("general", :last, 40)]), :full), "sparks", nil)
    end

    it "throws as many as the rate says, and lets them die" do
      expect(swarm.alive(10, 9.5).size).to be_between(85, 100)
      expect(swarm(last: 5).alive(38, 37.5)).to eq([])
      expect(swarm(rate: 12.0).alive(20, 19).size).to be_between(7, 10)
    end

    it "falls as gravity says and slows as drag says" do
      row = swarm(speed: 0.0, last: 1, start_size: 0.0).alive(13, 12).first
      age = row[6]
      expect(age).to be_between(0.3, 1.0)
      expect(row[1]).to be_between(0.5 - 9.81 * 0.5 * 0.55**2, 0.5)
      slow, fast = [5.0, 0.0].map { |drag| swarm(drag: drag, fall: 0.0, spread: 0.0, speed: 4.0).alive(12, 11).map { |r| r[1] }.max }
      expect(slow).to be < 0.6 * fast
    end

    it "is the same whichever frame is asked for first, and starts on a prop's surface" do
      a, b = swarm(stir: 3.0), swarm(stir: 3.0)
      a.alive(5, 4)
      expect(a.alive(20, 19)).to eq(b.alive(20, 19))
      on = swarm(prop: "prop-1", speed: 0.0, fall: 0.0)
      on.alive(3, 2).each { |x, y, z, *| expect(Math.sqrt(x**2 + (y - 0.22)**2 + z**2)).to be_within(0.01).of(0.22) }
    end
  end

  RSpec.describe Gas::Detail do
    def refined(frames = 6, **dials)
      document = small_shot(edits: [set("source-1", :temperature, 900.0), *dials.map { |dial, value| set("detail", dial, value) }])
      plan = Gas::Plan.new(document, :full)
      stage, detail = Gas::Stage.new(plan, nil), described_class.new(plan)
      state = stage.still
      (1..frames).each do |frame|
        state, = stage.advance(state, frame)
        @coarse = Grid::Bricks.pack(state)
        @fine = detail.call(@coarse, frame)
      end
      [@coarse, @fine]
    end

    it "is two or three times finer, in the same place, and keeps the amount of smoke" do
      [2, 3].each do |finer|
        coarse, fine = refined(finer: finer)
        expect(fine.size).to eq(coarse.size.map { |n| n * finer })
        amounts = [coarse, fine].map { |bricks| Flow::MatterKernels.total(bricks.field(:smoke)) }
        expect(amounts[1] / finer**3).to be_within(0.12 * amounts[0]).of(amounts[0])
      end
    end

    it "does not change the run's motion, and adds nothing at no strength" do
      coarse, fine = refined(strength: 0.0, sharpen: 0.0)
      middle = coarse.size.map { |n| n / 2 }
      mean = indices([2, 2, 2]).sum { |d| fine.field(:smoke)[*middle.zip(d).map { |c, e| 2 * c + e }] } / 8
      expect(mean).to be_within(0.1 * coarse.field(:smoke).to_a.max).of(coarse.field(:smoke)[*middle])
      lively, = refined(strength: 3.0)
      expect(lively.field(:smoke).bytes == coarse.field(:smoke).bytes).to be(true)
    end

    it "has keys of its own, which depend on the run's and on its dials" do
      keys = ->(*edits) { described_class.keys(Gas::Plan.new(small_shot(edits: edits), :full)).values }
      expect(keys.call).not_to eq(keys.call(set("detail", :strength, 2.0)))
      expect(Gas::Plan.new(small_shot(edits: [set("detail", :strength, 2.0)]),
        :full).keys).to eq(Gas::Plan.new(small_shot, :full).keys)
    end
  end
end
