# frozen_string_literal: true

module Vumbral
  RSpec.describe Liquid::Band do
    # How much there is, in full cells.
    def amount(solver, state) = state.drops.count / 8.0 + solver.deep(state, 0.0)[0] / 8.0

    it "lets a wave swing on a deep pool as linear theory has it, with few particles, and loses nothing" do
      length, depth, cells, height = 1.0, 0.5, 48, 0.03
      voxel = length / cells
      number = Math::PI / length
      period = 2 * Math::PI / Math.sqrt(9.81 * number * Math.tanh(number * depth))
      solver, state =
        poured([4, 36, cells], voxel, band: 4, loose: 0.5) do |x, y, _|
          y - (depth + height * Math.cos(Math::PI * (x * voxel) / length)) / voxel
        end
      full = 4.0 * 24 * cells
      tilt = -> do
        (0...cells).sum do |i|
          Math.cos(Math::PI * (i + 0.5) / cells) * (0...36).sum { |j| solver.full[2, j, i].clamp(0.0, 1.0) }
        end
      end
      seen, amounts = [[0.0, nil]], []
      flow(solver, state, 1.4 * period, Liquid::Settings.still(cells_a_substep: 0.5, substeps_most: 8)) do
        seen << [seen[-1][0] + 1 / 48.0, tilt.call]
        amounts << amount(solver, state)
      end
      crossings = seen.drop(1).each_cons(2).filter_map { |(t, a), (s, b)| t + (s - t) * a / (a - b) if a * b < 0 }
      expect(crossings[2] - crossings[0]).to be_within(0.03 * period).of(period)
      expect(seen.drop(1).map { |_, a| a.abs }.max).to be > 0.9 * 0.5 * cells * height / voxel
      expect(amounts).to all be_within(0.01 * full).of(full)
      expect(state.drops.count).to be < 0.45 * 8 * full
    end

    it "leaves a pool at rest as it is, and fills its chamber as before where much goes on" do
      solver, state = poured([8, 24, 12], 1 / 16.0, band: 4) { |_, y, _| y - 16.0 }
      flow(solver, state, 2.0)
      expect(state.speed).to be < 1e-3 * Math.sqrt(2 * 9.81 * 1.0)
      expect(amount(solver, state)).to eq(8 * 16 * 12)
      solver, state = poured([12, 24, 32], 1 / 16.0, band: 4, loose: 0.5) { |x, y, _| [x - 16, y - 18].max }
      before = amount(solver, state)
      flow(solver, state, 1.5)
      expect(amount(solver, state)).to be_within(0.04 * before).of(before)
      expect(solver.full.to_a.sum { |part| part.clamp(0.0, 1.0) }).to be_within(0.05 * before).of(before)
    end

    it "counts all that leaves through an open side" do
      solver, state = poured([8, 24, 16], 1 / 16.0, band: 4, loose: 0.5, open: {x1: true}) { |_, y, _| y - 14.0 }
      before, left = amount(solver, state), 0
      24.times do
        left += solver.renew(state)
        left += solver.substep(state, 1 / 96.0, Liquid::Settings.still)[:left]
      end
      left += solver.sort(state)
      expect(left / 8.0).to be > 0.1 * before
      expect(amount(solver, state) + left / 8.0).to be_within(0.02 * before).of(before)
    end

    describe "in a shot" do
      let(:edits) do
        [
          {
            "do" => "add",
            "kind" => "kick",
            "name" => "Kick",
            "id" => "kick",
            "dials" => {
              "position" => [0.0, 0.06, 0.0], "extent" => [0.1, 0.1, 0.1], "first" => 2, "velocity" => [0.0, 1.0, 0.0]
            }
          },
          {
            "do" => "add",
            "kind" => "prop",
            "name" => "Hole",
            "id" => "hole",
            "dials" => {
              "shape" => "sphere", "radius" => 0.05, "position" => [0.12, 0.05, 0.0], "pictured" => false
            }
          },
          {
            "do" => "add",
            "kind" => "inflow",
            "name" => "Sink",
            "id" => "sink",
            "dials" => {
              "prop" => "hole", "does" => "drain", "first" => 3
            }
          }
        ]
      end
      let(:plan) { Liquid::Plan.new(small_water(band: 4, voxel: 0.02, line: 0.32, edits: edits), :full) }

      it "has particles deep down where something kicks or drains, and a closed surface around all" do
        stage = Liquid::Stage.new(plan, nil)
        state = stage.still
        expect(state.drops.count).to be < 0.45 * stage.amount(state)
        expect(plan.drops).to be_within(0.1 * state.drops.count).of(state.drops.count)
        expect(stage.caught(state, plan.kick(plan.document.node("kick"), 2))).to be_within(200).of(8 * 125)
        reports = (1..5).map { |frame| stage.advance(state, frame) }.map(&:last)
        expect(reports[1].speed).to be > 0.7
        expect(reports[4].volume).to be < 0.99 * reports[1].volume
        expect(reports[4].left).to be_positive
        mesh, = Liquid::Surface.new(plan.voxel, plan.corner, plan.surface).mesh(Liquid::Skin.of(state, stage.first))
        expect(mesh.volume.abs).to be_within(0.06 * reports[4].volume).of(reports[4].volume)
      end

      it "goes on from any frame exactly as without a stop" do
        through = Liquid::Stage.new(plan, nil)
        state = through.still
        (1..2).each { |frame| through.advance(state, frame) }
        other =
          Liquid::State.new(
            Liquid::Drops.new(*state.drops.to_a.map(&:copy)), Flow::Faces.new(*state.faces.to_a.map(&:copy)),
            state.pressure.copy, state.time, state.made, Liquid::Spray.of(0), 0, state.deep.copy
          )
        again = Liquid::Stage.new(plan, nil)
        [[through, state], [again, other]].each { |stage, one| (3..4).each { |frame| stage.advance(one, frame) } }
        expect(other.drops.to_a.map(&:bytes)).to eq(state.drops.to_a.map(&:bytes))
        expect(other.deep.bytes).to eq(state.deep.bytes)
      end

      it "is not for liquids that have colours, and is told of only where it is" do
        expect(plan.ground).to include("band" => 4)
        expect(Liquid::Plan.new(small_water(band: 4, dyed: true), :full).ground).not_to include("band")
        expect(Liquid::Plan.new(small_water, :full).ground).not_to include("band")
      end
    end
  end
end
