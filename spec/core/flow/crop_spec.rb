# frozen_string_literal: true

module Vumbral
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
      state, plan = ran(true, set("chamber", :margin, 0.1))
      expect(state.size.reduce(:*)).to be < 0.4 * plan.cells
      expect(state.origin.map { |c| c % 8 }).to eq([0, 0, 0])
      state.origin.zip(state.size, plan.size).each { |o, n, whole| expect(o + n).to be <= whole }
    end

    it "comes to nearly the same as the whole chamber" do
      cropped, plan = ran(true, set("chamber", :margin, 0.96))
      whole, = ran(false)
      same = cropped.moved_to([0, 0, 0], plan.size)
      total = whole.smoke.to_a.sum
      expect(same.smoke.to_a.sum).to be_within(0.05 * total).of(total)
      expect(same.smoke.to_a.zip(whole.smoke.to_a).sum { |a, b| (a - b).abs }).to be < 0.25 * total
    end

    it "follows what moves, and lets the chamber's own walls act where it meets them" do
      state, =
        ran(
          true, {"do" => "key", "node" => "prop-1", "dial" => "position", "frame" => 1, "value" => [-0.8, 0.3, 0.0]},
          {"do" => "key", "node" => "prop-1", "dial" => "position", "frame" => 6, "value" => [0.8, 0.3, 0.0]}
        )
      reached = indices(state.size).select { |index| state.smoke[*index] > 0.05 }.map { |_, _, i| i + state.origin[2] }
      expect([reached.min, reached.max]).to match([be <= 8, be >= 22])
      expect(state.v[state.size[0] / 2, 0, state.size[2] / 2]).to eq(0.0)
    end

    describe "as far as it goes" do
      def grown(most, frames: 30)
        document =
          small_shot(
            edits: [
              set("chamber", :size, [0.8, 0.8, 0.8]), set("chamber", :voxel, 0.08), set("chamber", :grow, true),
              set("chamber", :most, most), set("general", :last, frames), set("source-1", :temperature, 1200.0)
            ]
          )
        plan = Gas::Plan.new(document, :full)
        stage = Gas::Stage.new(plan, nil)
        state = stage.still
        (1..frames).each { |frame| state, @report = stage.advance(state, frame) }
        [state, plan]
      end

      it "says so where its sources alone reach further than it may grow" do
        crop = Flow::Crop.new([[-100_000] * 3, [100_000] * 3], 2, nil, 4_000_000)
        fields = Array.new(6) { Kernel::Buffer.new(:f32, 8, 8, 8) }
        here = Struct.new(:origin, :size, :smoke, :heat, :fuel, :u, :v, :w).new([0, 0, 0], [8, 8, 8], *fields)
        expect { crop.fit(here, [[[0, -3000, -3000], [1, 3000, 3000]]], 2) }.to raise_error(
          Refused, /reach over 60\d\d x 60\d\d x 16 voxels, and Voxels at most allows 4000000/
        )
      end

      it "follows the content past open sides, and stays on a closed floor" do
        state, plan = grown(1.0)
        expect(state.origin[1]).to eq(0)
        expect(state.origin[1] + state.size[1]).to be > plan.size[1] + 8
        expect(state.origin[2]).to be < 0
        expect(@report.full).to be_falsy
        expect(@report.left).to be < 1e-3 * @report.smoke
        bricks = Grid::Bricks.pack(state)
        expect(bricks.corner(plan.corner,
          plan.voxel)[0]).to be_within(1e-9).of(plan.corner[0] + state.origin[2] * plan.voxel)
      end

      it "stops at the voxels it may have, says so, and lets the rest out" do
        state, plan = grown(0.012)
        expect(plan.cells).to eq(12_000)
        expect(state.size.reduce(:*)).to be <= 12_000
        expect(@report.full).to be(true)
        expect(@report.smoke).to be_finite
      end
    end
  end
end
