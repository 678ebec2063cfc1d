# frozen_string_literal: true

module Vumbral
  RSpec.describe "Brushing a sculpt" do
    def add(kind, id, **dials) =
      {"do" => "add", "kind" => kind, "id" => id, "name" => id.capitalize, "dials" => dials.transform_keys(&:to_s)}

    def stroke(way, *places, radius: 0.2, strength: 1.0, hard: 0.5, frame: 1) =
      {
        "way" => way, "radius" => radius, "strength" => strength, "hard" => hard, "frame" => frame,
        "places" => places.map { |place| (place.size == 3) ? [*place, 1.0] : place }
      }

    def shot(*steps, more: []) =
      small_shot(
        edits: [
          add("prop", "ball", shape: "sphere", radius: 0.5, divisions: 5, position: [0.0, 1.0, 0.0]), *more,
          add("sculpt", "cloud", prop: "ball", voxel: 0.04, room: 0.4),
          *steps.each_with_index.map { |step, n| add("step", "step-#{n}", sculpt: "cloud", order: n, **step) }
        ]
      )

    def volume(*steps, frame: 1, **more) =
      Sculpt::Carving.new(Geometry::Recipes.of(shot(*steps, **more), frame)[0], nil).call

    def at(field, *place) =
      Sculpt::FieldKernels.linear(
        field.cells,
        *place.zip([field.lattice.x, field.lattice.y, field.lattice.z]).map { |c, o| (c - o) / field.voxel }
      )

    it "adds to a density along its way and takes from it, softly beyond its hard part, less where the pen was " \
      "pressed less" do
      above = stroke("add", [-0.3, 1.65, 0.0], [0.3, 1.65, 0.0])
      added = volume({what: "density"}, {what: "brush", strokes: [above]})
      expect(
        [at(added, 0.0, 1.65, 0.0), at(added, 0.0, 1.72, 0.0), at(added, 0.0, 1.82, 0.0), at(added, 0.0, 1.86, 0.0)]
      ).to match([be > 0.95, be > 0.9, be_between(0.02, 0.5), be < 0.02])
      light = volume({what: "density"}, {what: "brush", strokes: [stroke("add", [0.0, 1.65, 0.0, 0.3])]})
      expect([at(light, 0.0, 1.65, 0.0), at(light, 0.0, 1.72, 0.0)]).to match([be > 0.9, be < 0.1])
      taken = volume({what: "density"}, {what: "brush", strokes: [stroke("take", [0.0, 1.0, 0.5], [0.0, 1.0, -0.5])]})
      expect([at(taken, 0.0, 1.0, 0.0), at(taken, 0.3, 1.0, 0.0)]).to match([be < 0.02, be > 0.95])
    end

    it "joins bodies to distances and cuts them out, with round edges where it is soft" do
      grown =
        volume(
          {what: "brush", strokes: [stroke("add", [0.0, 1.5, 0.0], [0.0, 1.75, 0.0], radius: 0.15, hard: 1.0)]},
          {what: "density", inside: 0.02, outside: 0.02}
        )
      expect([at(grown, 0.0, 1.75, 0.0), at(grown, 0.1, 1.7, 0.0), at(grown, 0.2, 1.7, 0.0)]).to match(
        [be > 0.9, be > 0.9, be < 0.1]
      )
      cut =
        volume(
          {what: "brush", strokes: [stroke("take", [0.0, 1.5, 0.0], radius: 0.3, hard: 1.0)]},
          {what: "density", inside: 0.02, outside: 0.02}
        )
      expect([at(cut, 0.0, 1.3, 0.0), at(cut, 0.0, 1.1, 0.0)]).to match([be < 0.1, be > 0.9])
    end

    it "smooths and draws together where it goes, and nowhere else" do
      plain = volume({what: "density", inside: 0.04})
      smooth =
        volume(
          {what: "density", inside: 0.04},
          {what: "brush", strokes: [stroke("smooth", [0.5, 1.0, 0.0], radius: 0.3)]}
        )
      expect(at(smooth, 0.52, 1.0, 0.0)).to be > at(plain, 0.52, 1.0, 0.0) + 0.1
      expect(at(smooth, -0.52, 1.0, 0.0)).to eq(at(plain, -0.52, 1.0, 0.0))
      thin = {what: "combine", other: "rod", how: "intersect"}
      rod = [add("prop", "rod", shape: "cylinder", radius: 0.14, tall: 2.0, position: [0.0, 1.0, 0.0])]
      before, after =
        [
          [thin, {what: "density", inside: 0.03}],
          [
            thin, {what: "density", inside: 0.03},
            {what: "brush", strokes: [stroke("pinch", [0.0, 0.8, 0.0], [0.0, 1.2, 0.0], radius: 0.4)]}
          ]
        ].map { |steps| volume(*steps, more: rod) }
      expect([at(before, 0.1, 1.0, 0.0), at(after, 0.1, 1.0, 0.0)]).to match([be > 0.8, be < 0.45])
    end

    it "paints masks, colours through them, and goes with the prop that it was painted on" do
      colour = {
        what: "colour", colour: [1.0, 0.2, 0.1], mask: "painted", mask_strokes: [stroke("add", [0.4, 1.0, 0.0])]
      }
      channels = Sculpt::Carving.new(Geometry::Recipes.of(shot({what: "density"}, colour), 1)[0], nil).channels
      expect([at(channels[:green], 0.4, 1.0, 0.0), at(channels[:green], -0.4, 1.0, 0.0)]).to match(
        [be_within(0.02).of(0.2), be_within(1e-4).of(1.0)]
      )
      moving =
        [1, 3].map do |frame|
          {
            "do" => "key", "node" => "ball", "dial" => "position", "frame" => frame,
            "value" => [0.5 * (frame - 1), 1.0, 0.0], "ease" => "linear"
          }
        end
      steps = [
        {what: "density"}, {what: "brush", follows: "ball", strokes: [stroke("take", [0.5, 1.0, 0.0], frame: 1)]}
      ]
      field = Sculpt::Carving.new(Geometry::Recipes.of(Shot::Edits.apply(shot(*steps), moving)[0], 3)[0], nil).call
      expect([at(field, 1.45, 1.0, 0.0), at(field, 0.6, 1.0, 0.0)]).to match([be < 0.05, be > 0.9])
    end

    it "says of strokes that are none what is wrong with them" do
      refused = ->(strokes) { refusal { shot({what: "brush", strokes: strokes}) }[1] }
      expect(refused.call("none")).to eq("Strokes of Step-0: takes a list of at most 400 strokes.")
      expect(refused.call([stroke("bend", [0, 0, 0])])).to match(/stroke 1 does add, take, smooth, pinch, not "bend"/)
      expect(refused.call([stroke("add", [0, 0, 0]), stroke("add", [0, 0, 0], radius: -1)])).to match(
        /stroke 2 has no radius from 0.0005 to 100.0/
      )
      expect(refused.call([stroke("add")])).to match(/goes through a list of 1 to 600 places/)
      expect(refused.call([stroke("add", [0, 0, Float::NAN])])).to match(/has places of x, y, z and how hard/)
    end
  end
end
