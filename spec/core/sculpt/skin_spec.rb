# frozen_string_literal: true

module Vumbral
  RSpec.describe Sculpt::Skin do
    def add(kind, id, **dials) =
      {"do" => "add", "kind" => kind, "id" => id, "name" => id.capitalize, "dials" => dials.transform_keys(&:to_s)}

    # The distance to a prop.
    def field(steps = [], voxel: 0.02, **dials)
      shot =
        small_shot(
          edits: [add("prop", "body", **dials), add("sculpt", "cloud", prop: "body", voxel: voxel, room: 0.1), *steps]
        )
      Sculpt::Carving.new(Geometry::Recipes.of(shot, 1)[0], nil)
    end

    it "has the area and the volume of a ball, a ring and a box within a hundredth" do
      {
        {shape: "sphere", radius: 0.5, divisions: 6} => [Math::PI, Math::PI / 6],
        {
          shape: "torus", radius: 0.5, tube: 0.2, sides: 128, around: 64
        } => [4 * Math::PI**2 * 0.5 * 0.2, 2 * Math::PI**2 * 0.5 * 0.04],
        {shape: "box", size: [0.8, 0.6, 1.0], voxel: 0.0075} => [2 * (0.48 + 0.8 + 0.6), 0.48]
      }.each do |dials, (area, volume)|
        mesh = described_class.of(field(**dials).begun, 0.0)
        expect([dials[:shape], mesh.closed?]).to eq([dials[:shape], true])
        expect(mesh.volume).to be_within(0.01 * volume).of(volume)
        expect(mesh.area).to be_within(0.01 * area).of(area)
      end
    end

    it "is closed at every threshold, and where the volume is cut off by its box" do
      edits = [
        add("texture", "cells", what: "cells", size: 0.2),
        add("step", "soft", sculpt: "cloud", what: "density", inside: 0.3, outside: 0.1),
        add("step", "eaten", sculpt: "cloud", order: 1, what: "texture", texture: "cells", sum: "divide")
      ]
      density = field(edits, shape: "sphere", radius: 0.5).call
      [0.02, 0.3, 0.5, 1.0, 2.5].each do |level|
        expect([level, described_class.of(density, level).closed?]).to eq([level, true])
      end
      full = Sculpt::Field.even(Grid::Lattice.new(0.0, 0.0, 0.0, 0.1), [1, 1, 1], 1.0)
      expect(described_class.of(full, 0.5)).to have_attributes(closed?: true, volume: be_within(0.1).of(1.6**3))
      expect(described_class.of(full, 2.0).count).to eq(0)
    end

    it "leaves out parts that are too small" do
      edits = [
        add("prop", "crumb", shape: "sphere", radius: 0.08, position: [0.8, 0.0, 0.0]),
        {"do" => "set", "node" => "cloud", "dial" => "also", "value" => ["crumb"]}
      ]
      mesh = described_class.of(field(edits, shape: "sphere", radius: 0.5).begun, 0.0)
      expect(described_class.without_crumbs(mesh, 0.01).volume).to be_within(1e-6).of(mesh.volume)
      expect(described_class.without_crumbs(mesh, 0.1).bounds[1][0]).to be < 0.52
    end

    it "is a prop like others, which moves with its sculpt and cuts another" do
      steps = [
        add("step", "in", sculpt: "cloud", what: "grow", by: -0.1),
        {"do" => "key", "node" => "in", "dial" => "by", "frame" => 1, "value" => 0.0, "ease" => "linear"},
        {"do" => "key", "node" => "in", "dial" => "by", "frame" => 3, "value" => -0.2, "ease" => "linear"}
      ]
      shot =
        small_shot(
          edits: [
            add("prop", "body", shape: "sphere", radius: 0.5), add("sculpt", "cloud", prop: "body", voxel: 0.03),
            *steps, add("prop", "skin", shape: "sculpt", surface_of: "cloud", threshold: 0.5)
          ]
        )
      shelf = Struct.new(:none) { def surface(outline) = Sculpt::Skin.surface(outline, self) }.new
      volumes =
        [1, 3].map do |frame|
          Geometry::Shapes.build(
            Geometry::Shapes.outline(shot.node("skin"), document: shot, frame: frame), shelf
          ).volume
        end
      expect(volumes).to match(
        [be_within(0.02).of(4.0 / 3 * Math::PI * 0.125), be_within(0.02).of(4.0 / 3 * Math::PI * 0.027)]
      )
      expect(Geometry::Bodies.changes?(shot.node("skin"))).to be(true)
      expect(Geometry::Shapes.build(Geometry::Shapes.outline(shot.node("skin")), shelf)).to be_empty
    end
  end
end
