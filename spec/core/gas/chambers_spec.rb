# frozen_string_literal: true

module Vumbral
  RSpec.describe Gas::Chambers do
    # The small shot (a chamber of 1.2 m on cells of 0.1) with further chambers.
    def document(*boxes, edits: [])
      small_shot(
        edits: [
          set("chamber", :size, [0.8, 0.8, 0.8]),
          set("chamber", :voxel, 0.1),
          *edits,
          *boxes.each_with_index.map do |dials, n|
            {
              "do" => "add", "kind" => "annex", "id" => "annex-#{n + 1}", "name" => "Annex #{n + 1}",
              "dials" => dials.transform_keys(&:to_s)
            }
          end
        ]
      )
    end

    def plan(*boxes, **rest) = Gas::Plan.new(document(*boxes, **rest), :full)

    def run(plan, frames)
      chambers = described_class.new(plan, nil)
      (1..frames).reduce([chambers.still, nil]) { |(states, _), frame| chambers.advance(states, frame) }
    end

    def beside(**dials) = {position: [0.8, 0.0, 0.0], size: [0.8, 0.8, 0.8]}.merge(dials)

    def apart(**dials) = beside(position: [3.0, 0.0, 0.0], **dials)

    it "puts further chambers on the lattice of the first, in draft as in full" do
      rooms = plan(beside).rooms
      expect(rooms.map { |room| [room.low, room.high] }).to eq([[[0, 0, 0], [8, 8, 8]], [[0, 0, 8], [8, 8, 16]]])
      thirds = document(beside, edits: [set("chamber", :draft, 1.7)])
      expect(Gas::Plan.new(thirds, :draft).domains.size).to eq(1)
      expect(plan(beside).boxes).to match(
        [
          include(node: "chamber", size: [8, 8, 8]),
          include(node: "annex-1", corner: [be_within(1e-9).of(0.4), 0.0, be_within(1e-9).of(-0.4)])
        ]
      )
    end

    it "takes those together that gas passes between, and each other by itself" do
      expect(plan(beside, apart).domains.map { |domain| domain.rooms.map { |room| room.node.id } }).to eq(
        [%w[chamber annex-1], %w[annex-2]]
      )
      expect(plan(beside(open_x0: false)).domains.size).to eq(2)
      expect(plan(beside(position: [0.5, 0.0, 0.0], open_x0: false)).domains.size).to eq(1)
      # A third one joins two that do not touch.
      expect(plan(beside(position: [1.6, 0.0, 0.0]), beside).domains.map { |domain| domain.rooms.size }).to eq([3])
      # An edge alone is no way through.
      expect(plan(beside(position: [0.8, 0.0, 0.8])).domains.size).to eq(2)
    end

    it "leaves the keys of a shot with one chamber as they were, and counts what more costs" do
      one, two = plan, plan(apart)
      expect(one.ground).not_to have_key("rooms")
      expect(one.keys[1]).not_to eq(two.keys[1])
      expect([one.cells, two.cells]).to eq([512, 1024])
      expect(two.span).to eq([8, 8, 38])
      expect(two.memory).to be > 2 * one.memory
    end

    it "computes chambers apart as it would each alone" do
      alone, = run(plan, 5)
      both, report = run(plan(apart), 5)
      expect(both.size).to eq(2)
      expect(both[0].smoke.bytes).to eq(alone[0].smoke.bytes)
      expect(both[0].u.bytes).to eq(alone[0].u.bytes)
      expect(Flow::MatterKernels.total(both[1].smoke)).to eq(0.0)
      expect(report.smoke).to be_within(1e-9).of(0.001 * Flow::MatterKernels.total(alone[0].smoke))
    end

    it "lets smoke through where two touch, loses none at the seam, and none through a wall between them" do
      wind = {
        "do" => "add",
        "kind" => "force",
        "name" => "Wind",
        "dials" => {
          "what" => "wind", "strength" => 3.0, "direction" => [1.0, 0.0, 0.0]
        }
      }
      edits = [wind, set("chamber", :smoke_fade, 0.0)]
      through, report = run(plan(beside, edits: edits), 12)
      long =
        Gas::Plan.new(
          document(edits: [*edits, set("chamber", :size, [1.6, 0.8, 0.8]), set("chamber", :position, [0.4, 0.0, 0.0])]),
          :full
        )
      one, whole = run(long, 12)
      behind =
        [through, one].map do |(state)|
          indices(state.size).sum { |k, j, i| (i + state.origin[2] >= 8) ? state.smoke[k, j, i] : 0.0 }
        end
      expect(behind[1]).to be > 4.0
      expect(behind[0]).to be_within(0.05 * behind[1]).of(behind[1])
      expect(report.smoke + report.left).to be_within(0.03 * whole.smoke).of(whole.smoke + whole.left)
      shut, = run(plan(beside(open_x0: false), edits: edits), 12)
      expect(Flow::MatterKernels.total(shut[1].smoke)).to eq(0.0)
    end

    it "keeps what it holds behind closed sides of several rooms, in an angle" do
      walls = Gas::Plan::SIDES.to_h { |side| [:"open_#{side}", false] }
      edits =
        walls.map { |dial, value| set("chamber", dial, value || dial == :open_x1) } +
        [set("chamber", :smoke_fade, 0.0), set("source-1", :smoke, 0.5)]
      rooms = [beside(**walls, open_x0: true, open_z1: true), beside(position: [0.8, 0.0, 0.8], **walls, open_z0: true)]
      plan = plan(*rooms, edits: edits)
      expect(plan.domains.size).to eq(1)
      states, report = run(plan, 12)
      mask = plan.domains[0].mask(states[0].origin, states[0].size)
      held = states[0].smoke.to_a.zip(mask.to_a)
      expect(report.left).to be_within(1e-4 * report.smoke).of(0.0)
      expect(held.sum { |smoke, what| what.zero? ? 0.0 : smoke }).to eq(0.0)
    end

    it "packs all into one frame, as they stand" do
      states, = run(plan(apart(position: [1.3, 0.0, 0.0])), 3)
      states[1].smoke.fill(0.25)
      bricks = Grid::Bricks.pack_all(states)
      smoke = bricks.field(:smoke)
      places =
        states.flat_map do |state|
          indices(state.size).map { |index| [index.zip(state.origin).map(&:sum), state.smoke[*index]] }
        end
      places.each do |place, value|
        expect(smoke[*place.zip(bricks.origin).map { |c, o| c - o }]).to be_within(1e-3 * value + 3e-4).of(value)
      end
      expect(smoke.to_a.sum).to be_within(0.01).of(states.sum { |state| state.smoke.to_a.sum })
      expect(Grid::Bricks.pack_all(states.first(1)).values.bytes).to eq(Grid::Bricks.pack(states[0]).values.bytes)
    end

    it "says before a run that two touch behind a closed side, and what to do" do
      survey = Preflight::Survey.new(document(beside(open_x0: false)), nil)
      finding = survey.findings.find { |found| found.code == "shut" }
      expect(finding.to_h).to include(node: "annex-1", dial: :open_x0,
        text: "Chamber and Annex 1 touch, but no gas passes: the side Left (−x) of Annex 1 is closed.")
      mended, = Shot::Edits.apply(document(beside(open_x0: false)), finding.remedy[:edits])
      expect(Preflight::Survey.new(mended, nil).findings.map(&:code)).not_to include("shut")
      expect(Preflight::Survey.new(document(apart(open_x0: false)), nil).findings.map(&:code)).not_to include("shut")
    end
  end
end
