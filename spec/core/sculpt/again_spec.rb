# frozen_string_literal: true

module Vumbral
  RSpec.describe Sculpt::Again do
    def add(kind, id, **dials) =
      {"do" => "add", "kind" => kind, "id" => id, "name" => id, "dials" => dials.transform_keys(&:to_s)}

    def stroke(x, y) =
      {
        "way" => "add", "radius" => 0.08, "strength" => 1.0, "hard" => 0.5, "frame" => 1,
        "places" => [[x, y, 0.5, 1.0], [x + 0.05, y, 0.5, 1.0]]
      }

    STEPS = [{what: "density", inside: 0.1}, {what: "blur", radius: 0.05}, {what: "median"},
      {what: "warp", far: 0.03, size: 0.2}, {what: "texture", texture: "cells", sum: "multiply"},
      {what: "sharpen", radius: 0.05, amount: 0.5}, # rubocop:disable Lint/ConstantDefinitionInBlock
      {what: "fray", far: 0.02, size: 0.2}, {what: "erode", amount: 0.2}, {what: "limit", high: 1.2},
      {what: "formula", formula: "value * (1 + 0.2 * noise(9 * x, 9 * y, 9 * z))"},
      {what: "number", channel: "heat", amount: 700.0}, {what: "colour"}].freeze

    def recipe(*strokes)
      steps = [STEPS[0], {what: "brush", strokes: strokes}, *STEPS.drop(1)]
      document =
        small_shot(
          edits: [
            add("prop", "ball", shape: "sphere", radius: 0.5, divisions: 4, position: [0.0, 1.0, 0.0]),
            add("texture", "cells", what: "cells", size: 0.3),
            add("sculpt", "cloud", prop: "ball", voxel: 0.014, room: 0.3),
            *steps.each_with_index.map { |dials, n| add("step", "step-#{n}", sculpt: "cloud", order: n, **dials) }
          ]
        )
      Geometry::Recipes.of(document, 1)[0]
    end

    def carve(recipe) = Sculpt::Carving.new(recipe, nil).channels

    def values(channels) = channels.transform_values { |field| [field.as, field.dense.to_a, field.count] }

    let(:one) { [stroke(0.0, 1.0)] }
    let(:two) { [stroke(0.0, 1.0), stroke(0.1, 1.25)] }

    before { Sculpt::Kept.clear }

    it "does steps after a stroke in the bricks that the stroke reaches, and every brick comes out as if all were " \
      "done anew" do
      whole = values(carve(recipe(*two)))
      Sculpt::Kept.clear
      carve(recipe(*one))
      done = []
      allow(Sculpt::FilterKernels).to receive(:median).and_wrap_original { |run, out, *rest|
        done << out.dim(0) / 16 and run.call(out, *rest)
      }
      again = values(carve(recipe(*two)))
      expect(again.keys).to eq(whole.keys)
      again.each { |name, told| expect([name, told == whole[name]]).to eq([name, true]) }
      Sculpt::Kept.clear
      carve(recipe(*two))
      expect(done[0]).to be < 0.6 * done[1]
    end

    it "gives back what there was where nothing differs, and does all where most does or the step is another" do
      carving = Sculpt::Carving.new(recipe(*one), nil)
      field = {density: carving.begun}
      step = {"what" => "limit", "low" => 0.0, "high" => 1.0}
      expect(described_class.new(field, field, field, step).call { raise }).to equal(field)
      other = {density: carving.begun.each_value { |out, before| Sculpt::StepKernels.add(out, before, 0.1) }}
      expect(described_class.new(field, field, other, step).call { raise }).to be_nil
      expect(
        %w[distance relax open close mirror repeat resample]
          .map { |what| described_class.can?({"what" => what}) }
          .uniq
      ).to eq([false])
    end

    it "takes a stroke back as exactly" do
      carve(recipe(*two))
      back = values(carve(recipe(*one)))
      Sculpt::Kept.clear
      expect(back).to eq(values(carve(recipe(*one))))
    end
  end
end
