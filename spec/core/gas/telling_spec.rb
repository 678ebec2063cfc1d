# frozen_string_literal: true

module Vumbral
  # What a run tells besides, where it is asked to: how old its smoke is, and where it burns.
  RSpec.describe Gas::State do
    def solver(n, open: false) = Gas::Solver.new(size: [n] * 3, voxel: 0.05, open: sides(open))

    def feed(cover, **changes)
      Gas::Feed.new(
        cover: cover, smoke: 2.0, heat: nil, strength: 1.0, breakup: 0.0, breakup_cells: 4.0, breakup_speed: 1.0,
        seed: 1, **changes
      )
    end

    def slab(n, cells) = field(n, n, n) { |_, _, i| cells.cover?(i) ? 1.0 : 0.0 }

    def total(buffer) = Flow::MatterKernels.total(buffer)

    def run(state, frames, by: solver(16), feeds: [], **gas)
      reports = Array.new(frames) do
        state, report = by.step(state, seconds: 0.05, gas: calm(**gas), feeds: feeds)
        report
      end
      [state, reports]
    end

    def state(n = 16, **asked) = described_class.still([n] * 3, tells: %i[aged burning], **asked)

    it "grows older by the second, and no younger by fading or spreading" do
      begun = state.tap { |gas| gas.smoke.replace(slab(16, 5..9)) }
      ended, = run(begun, 20, smoke_fade: 0.7, smoke_spread: 0.002)
      ages = ended.aged.to_a.zip(ended.smoke.to_a).filter_map { |aged, smoke| aged / smoke if smoke > 0.01 }
      expect(ages.size).to be > 1000
      expect(ages.minmax).to all(be_within(0.01).of(1.0))
      expect(total(ended.smoke)).to be < 0.6 * 5 * 256
    end

    it "is as old on the whole as what a source gave it in time" do
      ended, = run(state, 20, feeds: [feed(slab(16, 7..8))])
      # Of what comes at an even rate half is older than half of the time.
      expect(total(ended.aged) / total(ended.smoke)).to be_within(0.03).of(0.5)
    end

    it "is told along the wind: so far, so old" do
      blown = state(32).tap { |gas| gas.u.fill(0.5) }
      ended, = run(blown, 24, by: solver(32, open: %i[x0 x1]), feeds: [feed(slab(32, 4..5), hold: true)])
      bricks = Grid::Bricks.pack(ended)
      age = bricks.field(:age)
      along = (5..16).map { |i| age[16, 16, i] }
      expect(along.each_cons(2)).to all(satisfy { |near, far| far > near })
      # What leaves the source is new, and what left it first has gone for all of the time.
      expect([along[0], age[16, 16, (4..31).select { |i| ended.smoke[16, 16, i] > 1e-3 }.max]]).to match(
        [be < 0.15, be_within(0.1).of(1.15)]
      )
      # A cell of 0.05 m takes a tenth of a second at half a metre a second; the wind slows down by a little.
      expect((along[7] - along[2]) / 5).to be_within(0.025).of(0.11)
      # The edge is as old as what it is the edge of, and clean air has no age.
      expect(age[16, 16, 31]).to eq(0.0)
      edge = (0...32).select { |i| ended.smoke[16, 16, i].between?(1e-5, 1e-3) && i > 10 }
      expect(edge.map { |i| age[16, 16, i] }).to all(be_between(0.6, 1.21))
    end

    it "tells how much burns where, which adds up to all that burnt" do
      burning = state(16, fuel: true).tap do |gas|
        gas.fuel.replace(slab(16, 6..9))
        gas.heat.replace(
          slab(16, 6..7).tap { |hot| Flow::MatterKernels.fade(hot, Kernel::Buffer.new(:u8, 16, 16, 16), 900.0, 0.0) }
        )
      end
      ended, reports =
        run(burning, 1, burn_rate: 2.0, ignite: 600.0, ambient: 293.0, burn_heat: 500.0, substeps_most: 1)
      expect(reports[0].burnt).to be > 0
      expect(total(ended.burning) * 0.05 * 0.05**3).to be_within(0.001 * reports[0].burnt).of(reports[0].burnt)
      out, = run(ended, 1, burn_rate: 0.0)
      expect(total(out.burning)).to eq(0.0)
    end

    it "goes on from where it was kept, and to another part of the chamber" do
      begun = state.tap { |gas| gas.smoke.replace(slab(16, 5..9)) }
      ended, = run(begun, 2)
      there = ended.moved_to([0, 2, 0], [16, 12, 16])
      expect(there.tells).to eq(%i[aged burning])
      expect(there.aged[8, 3, 7]).to eq(ended.aged[8, 5, 7])
      expect(described_class.still([16] * 3).scalars).to eq(%i[smoke heat])
    end

    it "is another run only where it tells something" do
      plain, telling =
        [[], [set("chamber", :tells_age, true), set("chamber", :tells_burning, true)]].map do |edits|
          Gas::Plan.new(small_shot(edits: edits), :draft)
        end
      expect([plain.ground.key?("tells"), telling.ground["tells"]]).to eq([false, %w[aged]])
      expect(
        Gas::Plan.new(
          small_shot(edits: [set("chamber", :tells_burning, true), set("source-1", :fuel, 1.0)]), :draft
        ).tells
      ).to eq(%i[burning])
    end

    it "is seen in smoke and fire through ramps, counted, and handed on" do
      smoke = field(4, 4, 4) { |_, _, i| (i < 3) ? 1.0 : 0.0 }
      told = {age: field(4, 4, 4) { |_, _, i| 0.5 * i + 0.1 }, burning: field(4, 4, 4) { |_, j, _| j }}
      medium = Light::Medium.new(smoke, 0.1, [0.0, 0.0, 0.0], heat: field(4, 4, 4) { 0.0 }, told: told)
      stops = ->(*rows) { rows.map { |at, value| {"at" => at, "value" => value, "pass" => "linear"} } }
      look =
        Shot::Edits.apply(
          small_shot,
          [
            set("look", :coloured_by, "age"),
            set("look", :age_ramp, stops[[0.0, [1.0, 0.0, 0.0]], [1.0, [0.0, 0.0, 1.0]]])
          ]
        )[
          0
        ]
      tint = Light::Shaping.new(Light::Shaping.settings(look, look.look, 1), 293.0).call(medium).tint
      expect([0, 1, 2].map { |i| [tint[0, 1, 1, i], tint[2, 1, 1, i]] }.flatten).to match(
        [0.9, 0.1, 0.4, 0.6, 0.0, 1.0].map { |c| be_within(0.01).of(c) }
      )

      glow = lambda do |by|
        edits = [
          set("look", :fire_by, "#{by}_ramp"), set("look", :fire, 2.0),
          set("look", :"fire_#{by}_colours", stops[[0.0, [1.0, 1.0, 1.0]]]),
          set("look", :"fire_#{by}_strength", stops[[0.0, (by == "age") ? 1.0 : 0.0], [2.0, (by == "age") ? 0.0 : 1.0]])
        ]
        document = Shot::Edits.apply(small_shot, edits)[0]
        fire =
          Light::Fire.new(
            Light::Fire.settings(document.look, 1, 293.0), medium.burns_by("#{by}_ramp"), 0.1, [0.0, 0.0, 0.0]
          )
        fire.emission
      end
      by_age, by_burning = glow["age"], glow["burning"]
      expect([0, 1, 2, 3].map { |i| by_age[0, 1, 1, i] }).to match(
        [1.9, 1.4, 0.9, 0.0].map { |c| be_within(0.02).of(c) }
      )
      expect([0, 1, 2].map { |j| by_burning[0, 1, j, 1] }).to match([0.0, 1.0, 2.0].map { |c| be_within(0.02).of(c) })

      bricks = Grid::Bricks.gather([4, 4, 4], [0, 0, 0], {smoke: smoke, heat: medium.heat, **told})
      counts = Light::Histogram.of(bricks, "age", 293.0)
      expect([counts[:unit], counts[:high], counts[:counts].sum]).to match(["s", be_within(1e-3).of(1.6), 64])
      grids =
        Formats::VDBReader
          .new(Formats::VDB.frame(bricks, voxel: 0.1, corner: [0.0, 0.0, 0.0], ambient: 293.0), "told.vdb")
          .call
          .volumes
      expect(grids.map(&:name)).to include("age", "burning")
    end
  end
end
