# frozen_string_literal: true

module Vumbral
  RSpec.describe Geometry::Extrusion do
    def raised(rings, **dials) = described_class.new(Geometry::Contours.new(rings), depth: 0.2, **dials).mesh

    def square(size, x = 0.0, y = 0.0) =
      [[-1, -1], [1, -1], [1, 1], [-1, 1]].map { |a, b| [x + 0.5 * size * a, y + 0.5 * size * b] }

    # Every triangle of the front once, none on another.
    def front(mesh) =
      mesh
        .triangles
        .to_a
        .each_slice(3)
        .map { |t| t.map { |n| mesh.points.to_a[3 * n, 3] } }
        .select { |t| t.all? { |point| (point[2] - 0.1).abs < 1e-6 } }

    it "knows holes by where they lie, whichever way they run" do
      solids = Geometry::Contours.new([square(1.0), square(4.0).reverse, square(3.0), square(1.0, 10.0)]).solids
      expect(solids.map(&:size)).to contain_exactly(1, 2, 1)
      expect(solids.find { |rings| rings.size == 2 }.map { |ring| Geometry::Contours.area(ring) }).to eq([16.0, -9.0])
    end

    it "raises outlines with holes to closed bodies of the exact volume" do
      mesh = raised([square(4.0), square(1.0, -1.0), square(1.0, 1.0, 0.3)], pieces: 3)
      expect([mesh.open_edges, mesh.volume]).to match([0, be_within(1e-5).of(14.0 * 0.2)])
      expect(
        front(mesh).sum { |a, b, c| 0.5 * ((b[0] - a[0]) * (c[1] - a[1]) - (c[0] - a[0]) * (b[1] - a[1])).abs }
      ).to be_within(1e-5).of(14.0)
    end

    it "rounds edges off without opening any" do
      mesh = raised([square(2.0)], bevel: 0.05, bevel_steps: 8)
      expect(mesh.open_edges).to eq(0)
      # A quarter of a circle is left of each edge's square, along four sides on front and back; the rest is corners.
      expect(mesh.volume).to be_within(0.002).of(0.8 - 8 * 2.0 * 0.05**2 * (1.0 - Math::PI / 4))
      expect(raised([square(2.0)], bevel: 5.0).open_edges).to eq(0)
    end

    it "raises letters in both fonts, closed, with rounded edges, as tall as asked for" do
      %w[bold regular].each do |font|
        contours = Geometry::Lettering.contours("Kiln fair\nÖ&8%", font: font, tall: 0.4, apart: 0.1)
        flat = contours.rings.sum { |ring| Geometry::Contours.area(ring) }
        [0.0, 0.01].each do |bevel|
          mesh = described_class.new(contours, depth: 0.1, bevel: bevel, pieces: 2).mesh
          expect(mesh.open_edges).to eq(0)
          expect(mesh.volume).to be_within((bevel.zero? ? 1e-4 : 0.06) * flat * 0.1).of(flat * 0.1)
        end
      end
      low, high = Geometry::Lettering.contours("H", tall: 0.4).bounds
      expect(high[1] - low[1]).to be_within(1e-6).of(0.4)
      expect(refusal { Geometry::Lettering.contours("日本") }).to eq(
        ["no_glyph", "The font has no \"日\", \"本\"; write it with other letters."]
      )
      expect(refusal { Geometry::Lettering.contours(" ") }).to match(["no_words", /write some/])
    end
  end

  RSpec.describe Formats::SVG do
    def read(body) = described_class.read("<svg viewBox='0 0 100 100'>#{body}</svg>", name: "leaf.svg")

    def area(drawing) = drawing.contours.rings.sum { |ring| Geometry::Contours.area(ring) }

    it "reads paths in all their commands" do
      box = read("<path d='M10,10 h80 v80 H10 z'/>")
      expect(box.contours.rings[0].map { |x, y| [x.round(6), y.round(6)] }).to contain_exactly(
        [-0.5, 0.5], [0.5, 0.5], [0.5, -0.5], [-0.5, -0.5]
      )
      # Two half circles, once as arcs and once as a circle.
      expect(area(read("<path d='M10 50 A40 40 0 0 1 90 50 A40 40 0 0 1 10 50'/>"))).to be_within(0.004).of(
        Math::PI / 4
      )
      expect(area(read("<circle cx='50' cy='50' r='40'/>"))).to be_within(0.004).of(Math::PI / 4)
      # Cubic quarters of a circle, the second by reflection.
      k = 40 * 0.5522847
      curve =
        "<path d='M90 50 C90 #{50 + k} #{50 + k} 90 50 90 S10 #{50 + k} 10 50 C10 #{50 - k} #{50 - k} 10 50 10 S90 " \
          "#{50 - k} 90 50 Z'/>"
      expect(area(read(curve))).to be_within(0.004).of(Math::PI / 4)
      expect(area(read("<path d='M0 0 Q50 100 100 0 T200 0 L200 200 0 200Z'/>"))).to be > 0.0
      expect(read("<path d='m10 10 20 0 0 20-20 0z m40 40 10 0 0 10z'/>").contours.rings.size).to eq(2)
    end

    it "moves, turns and scales as groups say, and turns y upwards" do
      drawing = read("<g transform='translate(5 5)'><rect width='40' height='20' transform='rotate(90)'/></g>")
      expect(drawing.contours.bounds.flatten.map { |c| c.round(6) }).to eq([-0.25, -0.5, 0.25, 0.5])
      up = read("<polygon points='0,0 10,0 5,8'/>").contours
      expect(up.rings[0].min_by(&:last)[0]).to be_within(1e-6).of(0.0)
    end

    it "leaves out what has no outline, and says so" do
      drawing =
        read("<defs><rect width='5' height='5'/></defs><rect width='40' height='20'/><text>x</text><image/><image/>")
      expect([drawing.contours.rings.size, drawing.left_out]).to eq(
        [1, ["1 times text, which has no outline, was left out.", "2 times image, which has no outline, was left out."]]
      )
    end

    {
      "<text>x</text>" => /leaf.svg holds no closed outlines; turn text and strokes into paths/,
      "<path d='M0 0 L10'/>" => /cannot be read at "L10"/, "<path d='M0 0 L 10 10 Z" => /is not sound SVG/,
      "<rect width='0' height='0'/>" => /no closed outlines/
    }.each { |body, words| it("refuses #{body}") { expect(refusal { read(body) }[1]).to match(words) } }

    it "refuses tricks of XML before they unfold" do
      bomb = "<!DOCTYPE svg [<!ENTITY a 'x'><!ENTITY b '&a;&a;&a;&a;'>]><svg><text>&b;</text></svg>"
      expect(refusal { described_class.read(bomb, name: "leaf.svg") }).to eq(
        ["bad_drawing", "leaf.svg has a document type of its own, which is not read; save it again as plain SVG."]
      )
      deep = "<svg>#{"<g>" * 20_000}<rect width='1' height='1'/>#{"</g>" * 20_000}</svg>"
      expect(described_class.read(deep, name: "leaf.svg").contours.rings.size).to eq(1)
    end
  end

  RSpec.describe Geometry::Shapes do
    def outline(**dials) =
      described_class.outline(
        dials.reduce(Shot::Node.new("prop", Shot::Kinds.fetch(:prop), "Prop")) do |node, (dial, value)|
          node.set(dial, node.kind.dial(dial).check(value, "Prop"))
        end
      )

    def build(**dials) = described_class.build(outline(**dials), nil)

    it "are made of as many faces as asked for, closed where they are bodies" do
      {
        {shape: "sphere", divisions: 2} => 320, {shape: "box", cells: 3} => 108,
        {shape: "cylinder", sides: 8} => 32, {shape: "cone", sides: 6} => 12,
        {shape: "torus", sides: 8, around: 6} => 96,
        {shape: "capsule", radius: 0.2, sides: 16} => 16 * 2 * 7 + 16 * 2
      }.each do |dials, count|
        mesh = build(**dials)
        expect([dials[:shape], mesh.count, mesh.open_edges, mesh.volume.positive?]).to eq(
          [dials[:shape], count, 0, true]
        )
      end
      expect([build(shape: "plane", cells: 4).count, build(shape: "plane", cells: 4).area]).to match(
        [32, be_within(1e-5).of(1.0)]
      )
      expect(build(shape: "box", size: [1.0, 2.0, 3.0], cells: 5).volume).to be_within(1e-4).of(6.0)
    end

    it "keep the names of what they were before, where all is as usual" do
      expect(outline(shape: "sphere", divisions: 4)).to eq("shape" => "sphere", "radius" => 0.5)
      expect(outline(shape: "box")).to eq("shape" => "box", "size" => [1.0, 1.0, 1.0])
    end

    it "make a backdrop whose ground goes over into its wall without an edge" do
      mesh = build(shape: "backdrop", size: [4.0, 2.0, 3.0], fold: 0.6, cells: 6)
      expect(mesh.bounds).to eq([[-2.0, 0.0, -1.5], [2.0, 2.0, 1.5]])
      straight = (3.0 - 0.6) + (2.0 - 0.6) + Math::PI / 2 * 0.6
      expect(mesh.area).to be_within(0.01).of(4.0 * straight)
      expect(build(shape: "capsule", radius: 0.5, tall: 1.0, sides: 96).volume).to be_within(0.005).of(
        4.0 / 3 * Math::PI * 0.125
      )
    end

    it "refuse words that the font cannot write, when they are set" do
      document = small_shot
      expect(refusal { Shot::Edits.apply(document, [set("prop-1", :words, "日")]) }[1]).to match(/The font has no "日"/)
    end
  end
end
