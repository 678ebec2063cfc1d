# frozen_string_literal: true

module Vumbral
  RSpec.describe Gas::Solver do
    def solver(n, open: true, solid: nil, voxel: 0.05)
      described_class.new(size: Array(n).then { |s|
        (s.size == 1) ? s * 3 : s
      }, voxel: voxel, open: sides(open), solid: solid)
    end

    def ball(n, middle, radius)
      field(n, n, n) { |k, j, i| (Math.sqrt([k, j, i].zip(middle).sum { |a, b| (a - b)**2 }) <= radius) ? 1.0 : 0.0 }
    end

    def feed(cover, **changes)
      Gas::Feed.new(cover: cover, smoke: 2.0, heat: nil, strength: 1.0, breakup: 0.0, breakup_cells: 4.0,
        breakup_speed: 1.0, seed: 1, **changes)
    end

    it "leaves a warm layer at rest" do
      state = Gas::State.still([16, 16, 16])
      state.heat.replace(field(16, 16, 16) { |_, j, _| (j > 10) ? 200.0 : 0.0 })
      10.times { state, = solver(16, open: false).step(state, seconds: 1 / 24.0, gas: calm(lift: 1.0), feeds: []) }
      expect(Flow::FlowKernels.peak(state.v)).to be < 1e-3
      expect(Flow::FlowKernels.peak(state.u)).to be < 1e-3
    end

    it "lifts warm gas at the rate that buoyancy says, at first" do
      state = Gas::State.still([24, 24, 24])
      # A layer so wide that nothing hinders it: open above and below.
      state.heat.replace(field(24, 24, 24) { 58.6 })
      state, = solver(24, open: %i[y0 y1]).step(state, seconds: 0.1, gas: calm(lift: 1.0), feeds: [])
      expect(state.v[12, 12, 12]).to be_within(0.01).of(9.81 * 58.6 / (293.0 + 58.6) * 0.1)
    end

    it "adds smoke at the source's rate and loses none inside a closed box" do
      cover = ball(20, [9, 9, 9], 3.0)
      s = solver(20, open: false)
      state = Gas::State.still([20, 20, 20])
      report = nil
      8.times {
        state, report =
          s.step(state, seconds: 1 / 24.0, gas: calm(lift: 1.0), feeds: [feed(cover, smoke: 3.0, heat: 400.0)])
      }
      wanted = cover.to_a.sum * 3.0 * 8 / 24.0 * 0.05**3
      # Transport looks back along the flow, which keeps sums only nearly.
      expect(report.smoke).to be_within(0.08 * wanted).of(wanted)
    end

    it "brings a thermal as far, and with as much energy, in steps of any length" do
      far = [24.0, 48.0].map do |rate|
        state = Gas::State.still([24, 36, 24])
        state.heat.replace(
          field(24, 36, 24) { |k, j, i| (Math.sqrt((k - 11)**2 + (j - 9)**2 + (i - 11.5)**2) < 4.2) ? 300.0 : 0.0 }
        )
        s = solver([24, 36, 24])
        rate.to_i.times { state, = s.step(state, seconds: 1 / rate, gas: calm(lift: 1.0), feeds: []) }
        heat = state.heat.to_a
        rise = heat.each_with_index.sum { |value, n| value * (n / 24 % 36) } / heat.sum - 9.0
        [rise, state.v.to_a.sum { |v| v * v }]
      end
      expect(far[0][0]).to be_within(0.03 * far[1][0]).of(far[1][0])
      expect(far[0][1]).to be_within(0.05 * far[1][1]).of(far[1][1])
    end

    it "draws to what a source holds as far in one step as in two, wherever it covers only a part" do
      cover = field(8, 8, 8) { |_, _, i| i / 7.0 }
      held = [1, 2].map do |count|
        state = Gas::State.still([8, 8, 8])
        feeding = Gas::Feeding.new([8, 8, 8])
        count.times { feeding.feed(state, feed(cover, smoke: 2.0, heat: 300.0, hold: true), 0.04 / count) }
        [state.smoke.to_a, state.heat.to_a]
      end
      expect(largest_difference(held[0][0], held[1][0])).to be < 1e-5
      expect(largest_difference(held[0][1], held[1][1])).to be < 1e-3
    end

    it "fades by half-lives that are exact for any number of substeps" do
      [1, 5].each do |count|
        state = Gas::State.still([8, 8, 8])
        state.smoke.fill(1.0)
        state.heat.fill(100.0)
        state, =
          solver(8, open: false).step(
            state,
            seconds: 0.5,
            gas:
              calm(
                smoke_fade: Math.log(2.0) / 0.25, heat_fade: Math.log(2.0) / 0.5, substeps_least: count,
                substeps_most: count
              ),
            feeds: []
          )
        expect(state.smoke[4, 4, 4]).to be_within(1e-5).of(0.25)
        expect(state.heat[4, 4, 4]).to be_within(1e-3).of(50.0)
      end
    end

    it "draws a source's gas to its temperature and no further" do
      cover = ball(12, [5, 5, 5], 2.0)
      state = Gas::State.still([12, 12, 12])
      10.times {
        state, = solver(12, open: false).step(state, seconds: 1 / 24.0, gas: calm,
          feeds: [feed(cover, smoke: 0.0, heat: 227.0)])
      }
      expect(state.heat[5, 5, 5]).to be_within(0.5).of(227.0)
      expect(state.smoke.to_a.max).to eq(0.0)
    end

    it "divides a frame when the gas is fast, within the bounds given" do
      state = Gas::State.still([16, 16, 16])
      state.v.fill(8.0)
      gas = calm(cells_a_substep: 2.0, substeps_least: 1, substeps_most: 16)
      _, report = solver(16).step(state.copy, seconds: 1 / 24.0, gas: gas, feeds: [])
      expect(report.substeps).to eq((8.0 / 24 / 0.05 / 2.0).ceil)
      expect(report.limited).to be(false)
      _, report = solver(16).step(state.copy, seconds: 1 / 24.0, gas: gas.with(substeps_most: 2), feeds: [])
      expect([report.substeps, report.limited]).to eq([2, true])
    end

    it "lets nothing through a closed shell two voxels thick" do
      n = 28
      solid = field(n, n, n, type: :u8) do |k, j, i|
        r = [k, j, i].map { |x| (x - 13.5).abs }.max
        r.between?(6.0, 8.0) ? 1 : 0
      end
      cover = ball(n, [13, 11, 13], 3.0)
      s = solver(n, solid: solid, voxel: 0.05)
      state = Gas::State.still([n, n, n])
      24.times do
        state, = s.step(state, seconds: 1 / 24.0, gas: calm(lift: 1.0, curl_boost: 3.0, accuracy: 1e-4),
          feeds: [feed(cover, smoke: 5.0, heat: 800.0)])
      end
      outside = indices([n, n, n]).select { |index| index.map { |x| (x - 13.5).abs }.max > 8.0 }
      expect(Flow::MatterKernels.total(state.smoke)).to be > 20.0
      expect(outside.sum { |index| state.smoke[*index] }).to eq(0.0)
    end

    it "flows around what stands in the way" do
      n = 24
      solid = field(n, n, n, type: :u8) { |k, j, i|
        (j.between?(12, 14) && k.between?(6, 17) && i.between?(6, 17)) ? 1 : 0
      }
      cover = ball(n, [12, 4, 12], 3.0)
      s = solver(n, solid: solid)
      state = Gas::State.still([n, n, n])
      60.times {
        state, = s.step(state, seconds: 1 / 24.0, gas: calm(lift: 1.0, accuracy: 1e-4, substeps_most: 4),
          feeds: [feed(cover, heat: 600.0)])
      }
      inside = indices([n, n, n]).select { |index| solid[*index] == 1 }
      expect(inside.sum { |index| state.smoke[*index] }).to eq(0.0)
      under = (6..17).sum { |i| state.smoke[12, 11, i] }
      beside = indices([n, n, n]).select { |_, j, i| i > 17 && j >= 12 }.sum { |index| state.smoke[*index] }
      expect([under, beside]).to all(be > 0.1)
    end

    it "stirs only where there is something" do
      state = Gas::State.still([20, 20, 20])
      state.smoke.replace(ball(20, [9, 9, 9], 5.0))
      state, = solver(20).step(state, seconds: 1 / 24.0, gas: calm(stir: 20.0, stir_cells: 6.0), feeds: [])
      expect(Flow::FlowKernels.peak(state.u)).to be > 0.05
      clean, = solver(20).step(Gas::State.still([20, 20, 20]), seconds: 1 / 24.0, gas: calm(stir: 20.0), feeds: [])
      expect(Flow::FlowKernels.peak(clean.u)).to eq(0.0)
    end

    it "gives small rolls back their energy with curl boost" do
      swirl = lambda do |boost|
        state = Gas::State.still([20, 20, 20])
        state.u.replace(field(20, 20, 21) { |_, j, i| Math.sin(j * 0.8) * Math.cos(i * 0.8) })
        state.v.replace(field(20, 21, 20) { |_, j, i| -Math.cos(j * 0.8) * Math.sin(i * 0.8) })
        8.times { state, = solver(20).step(state, seconds: 1 / 24.0, gas: calm(curl_boost: boost), feeds: []) }
        state.u.to_a.sum { |x| x * x }
      end
      expect(swirl.call(4.0)).to be > 1.05 * swirl.call(0.0)
    end

    it "shows what is not a number, wherever it is" do
      %i[smoke heat u w].each do |name|
        state = Gas::State.still([12, 12, 12])
        state[name][5, 5, 5] = Float::NAN
        _, report = solver(12).step(state, seconds: 1 / 24.0,
          gas: calm(lift: 1.0, curl_boost: 1.0, stir: 1.0, burn_rate: 1.0, burn_swell: 1.0), feeds: [])
        expect([report.speed, report.smoke, report.heat].any?(&:nan?)).to be(true), name.to_s
      end
    end

    describe "the same input" do
      def moved(frames, threads, state = Gas::State.still([16, 18, 14]))
        before = Kernel.threads
        Kernel.threads = threads
        s = described_class.new(size: [16, 18, 14], voxel: 0.06, open: sides(true))
        cover = field(16, 18, 14) { |k, j, i| (j < 5 && k.between?(5, 9) && i.between?(4, 9)) ? 1.0 : 0.0 }
        gas = calm(lift: 1.0, weight: 0.2, curl_boost: 2.0, stir: 3.0, smoke_fade: Math.log(2.0) / 2.0,
          substeps_most: 3)
        frames.times {
          state, = s.step(state, seconds: 1 / 24.0, gas: gas, feeds: [feed(cover, heat: 500.0, breakup: 0.8)])
        }
        state
      ensure
        Kernel.threads = before
      end

      def bytes(state) = state.fields.values.map(&:bytes)

      it "gives the same bytes, with any number of threads" do
        first = bytes(moved(6, 2)).map(&:dup)
        expect(bytes(moved(6, 2)) == first).to be(true)
        expect(bytes(moved(6, 1)) == first).to be(true)
      end

      it "gives the same bytes when it is resumed" do
        whole = bytes(moved(7, 2))
        half = moved(3, 2)
        expect(bytes(moved(4, 2, half.copy)) == whole).to be(true)
      end
    end
  end
end
