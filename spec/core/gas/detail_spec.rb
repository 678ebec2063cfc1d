# frozen_string_literal: true

module Vumbral
  RSpec.describe Gas::Detail do
    def refined(frames = 6, edits: [], **dials)
      document = small_shot(edits: [set("source-1", :temperature, 900.0), *edits, *dials.map { |dial, value|
        set("detail", dial, value)
      }])
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
        expect(amounts[1] / finer**3).to be_within(0.002 * amounts[0]).of(amounts[0])
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

    it "makes smoke no older and no younger, however much it sharpens" do
      coarse, fine = refined(edits: [set("chamber", :tells_age, true)], sharpen: 3.0)
      ages = [coarse, fine].map { |bricks| bricks.field(:age).to_a }
      mean =
        [coarse, fine].zip(ages)
          .map do |bricks, age|
            age.zip(bricks.field(:smoke).to_a).then { |rows| rows.sum { |row| row.reduce(:*) } / rows.sum(&:last) }
          end
      expect(ages[1].minmax).to match([be >= 0.0, be <= ages[0].max])
      expect(mean[1]).to be_within(0.03 * mean[0]).of(mean[0])
    end

    it "is there only where a texture says so" do
      half = {
        "do" => "add",
        "kind" => "texture",
        "id" => "half",
        "name" => "Half",
        "dials" => {
          "what" => "formula", "formula" => "x > 0", "size" => 8.0
        }
      }
      made =
        {
          all: [], half: [half, set("detail", :texture, "half")],
          none: [half, set("half", :formula, "0"), set("detail", :texture, "half")]
        }.transform_values do |edits|
          plan =
            Gas::Plan.new(
              small_shot(edits: [set("source-1", :temperature, 900.0), set("detail", :strength, 3.0), *edits]), :full
            )
          stage, detail = Gas::Stage.new(plan, nil), described_class.new(plan)
          state = stage.still
          fine =
            (1..5)
              .map do |frame|
                state, = stage.advance(state, frame)
                detail.call(Grid::Bricks.pack(state), frame)
              end
              .last
          [fine.field(:smoke), fine.origin[2] * plan.voxel / 2 + plan.corner[0], described_class.keys(plan)[5]]
        end
      smoke, first, = made[:all]
      sides =
        %i[half none].map do |name|
          indices(smoke.shape)
            .partition { |_, _, i| first + (i + 0.5) * 0.035 > 0.02 }
            .map { |cells| cells.sum { |at| (smoke[*at] - made[name][0][*at]).abs } }
        end
      # Where it counts whole all is as before but for the balance of sums; where it does not, all is as without detail.
      expect(sides[0][0]).to be < 0.25 * sides[0][1]
      expect(sides[1].sum).to be > sides[0].sum
      expect(made.values.map(&:last).uniq.size).to eq(3)
    end

    it "has keys of its own, which depend on the run's and on its dials" do
      keys = ->(*edits) { described_class.keys(Gas::Plan.new(small_shot(edits: edits), :full)).values }
      expect(keys.call).not_to eq(keys.call(set("detail", :strength, 2.0)))
      expect(Gas::Plan.new(small_shot(edits: [set("detail", :strength, 2.0)]),
        :full).keys).to eq(Gas::Plan.new(small_shot, :full).keys)
    end

    it "is for drafts, for full runs or for both" do
      wanted =
        %w[both draft full].to_h do |runs|
          document = small_shot(edits: [set("detail", :on, true), set("detail", :runs, runs)])
          [runs, %i[draft full].select { |quality| described_class.on?(Gas::Plan.new(document, quality)) }]
        end
      expect(wanted).to eq("both" => %i[draft full], "draft" => %i[draft], "full" => %i[full])
      expect(described_class.on?(Gas::Plan.new(small_shot, :draft))).to be(false)
    end

    it "counts the room that fine cells take, in runs that have them" do
      plain, fine, finest =
        [[], [set("detail", :on, true)], [set("detail", :on, true), set("detail", :finer, 3)]].map do |edits|
          Gas::Plan.new(small_shot(edits: edits), :full)
        end
      each = described_class::BYTES_PER_CELL * plain.cells
      expect([fine, finest].map { |plan| plan.memory - plain.memory }).to eq([8 * each, 27 * each])
    end

    it "leaves alone what is far from all smoke and heat, and is drawn aside up to two cells from it" do
      size = [12, 12, 12]
      matter = field(*size) { |k, j, i| ([k, j, i] == [6, 6, 6]) ? 1.0 : 0.0 }
      near, wide = Array.new(2) { Kernel::Buffer.new(:u8, *size) }
      Gas::DetailKernels.mark(near, matter)
      3.times do |axis|
        Gas::DetailKernels.widen(wide, near, axis)
        near, wide = wide, near
      end
      found = indices(size).select { |at| near[*at] > 0 }
      expect(found.transpose.map(&:minmax)).to eq([[3, 8]] * 3)
      expect(found.size).to eq(6**3)
    end

    it "sharpens and softens each quantity for itself" do
      peaks = [-1.0, 0.0, 1.5].map { |amount| refined(3, sharpen: 0.0, sharpen_heat: amount)[1] }
      heat = peaks.map { |bricks| bricks.field(:heat).to_a.each_cons(2).sum { |a, b| (a - b).abs } }
      expect(heat).to eq(heat.sort)
      expect(peaks.map { |bricks| bricks.field(:smoke).bytes }.uniq.size).to eq(1)
    end

    # A cloud in a steady wind: seen from the cloud, its detail should stand still.
    it "moves with the flow, and neither swims nor pops when its coordinates are laid anew" do
      plan =
        Gas::Plan.new(
          small_shot(edits: [set("general", :last, 40), set("general", :rate, 24.0), set("detail", :strength, 2.0)]),
          :full
        )
      detail = described_class.new(plan)
      size = [16, 16, 40]
      # Half a cell in a frame, with some shear to be lively.
      step = 0.5 * plan.voxel * 24.0
      changes = []
      before = nil
      (1..30).each do |frame|
        state = Gas::State.still(size)
        state.smoke.replace(field(*size) { |k, j, i|
          [0.0, 1.0 - Math.sqrt((k - 8)**2 + (j - 8)**2 + (i - 8 - 0.5 * frame)**2) / 6.0].max
        })
        state.u.replace(field(16, 16, 41) { |k, j, i|
          step + 0.3 * Math.sin(1.9 * j + 1.3 * k) * (((i - 8 - 0.5 * frame).abs < 8) ? 1.0 : 0.0)
        })
        fine = detail.call(Grid::Bricks.pack(state), frame).field(:smoke)
        moved = before && indices(fine.shape).select { |k, j, i| (k % 3).zero? && (j % 3).zero? && i > 1 }
        if before
          changes << moved.sum { |k, j, i| (fine[k, j, i] - before[k, j, i - 1]).abs } / moved.sum { |k, j, i|
            fine[k, j, i]
          }
        end
        before = fine
      end
      late = changes.drop(6)
      expect(late.max).to be < 2.0 * late.sum / late.size
      expect(late.max).to be < 0.25
    end
  end
end
