# frozen_string_literal: true

module Vumbral
  RSpec.describe Formats::OBJ do
    def read(text, name: "pot.obj") = Formats::Meshes.read(text, name: name)

    # A box whose faces look inwards, or as they should.
    def box(inwards:, more: "")
      corners = [0, 1].product([0, 1], [0, 1]).map { |at| "v #{at.join(" ")}" }
      faces =
        [[1, 2, 4, 3], [5, 7, 8, 6], [1, 5, 6, 2], [3, 4, 8, 7], [1, 3, 7, 5], [2, 6, 8, 4]].map do |face|
          "f #{(inwards ? face.reverse : face).join(" ")}"
        end
      [*corners, *faces, more].join("\n")
    end

    it "turns a closed mesh over whose faces look inwards, says so, and leaves every other as it is" do
      good, bad = [false, true].map { |inwards| Formats::Meshes.model(box(inwards: inwards), name: "box.obj") }
      expect([good.mesh.volume, bad.mesh.volume]).to all(be_within(1e-6).of(1.0))
      expect([good.left_out, bad.left_out]).to eq([[], ["Its faces looked inwards, so they were turned over."]])
      # What is open has no inside.
      open = Formats::Meshes.model(box(inwards: true).sub(/^f .*\n/, ""), name: "box.obj")
      expect([open.mesh.volume.negative?, open.left_out]).to eq([true, []])
    end

    it "reads triangles, quads and faces of many corners, with negative indices, comments and joined lines" do
      mesh = read(<<~OBJ)
        # a pot
        o Lid
        v 0 0 0
        v 1 0 0 # east
        v 1 1 0
        v 0 1 0 1.0
        vt 0 0
        vn 0 0 1
        f 1/1/1 2/1/1 3/1/1 4/1/1
        g Foot
        v 0 0 1
        v 2 0 1
        v 3 1 1
        v 1 2 1
        v -1 1 1
        f -5 -4 -3 \\
          -2 -1
      OBJ
      expect(mesh.count).to eq(2 + 3)
      expect(mesh.parts.map(&:to_a)).to eq([["Lid", 0, 2], ["Foot", 2, 3]])
      expect(mesh.area).to be_within(1e-5).of(1.0 + 5.0)
    end

    it "reads what it writes" do
      mesh = Geometry::Builders.torus(1.0, 0.3)
      again = read(described_class.write(mesh))
      expect(again.digest).to eq(mesh.digest)
    end

    it "takes files with Windows line ends and strange letters" do
      expect(read("o Gef\xE4\xDF\r\nv 0 0 0\r\nv 1 0 0\r\nv 0 1 0\r\nf 1 2 3\r\n".b).count).to eq(1)
    end

    it "reads some hundred thousand faces in a moment" do
      mesh = Geometry::Builders.sphere(1.0, divisions: 6)
      expect(read(described_class.write(mesh)).count).to eq(81_920)
    end

    {
      "v 0 0 0\nv 1 x 0\n" => ["bad_mesh",
        "Line 2 of pot.obj is not a point (\"v 1 x 0\"); a point is v and three numbers."],
      "v 0 0 NaN\n" => ["bad_mesh", /Line 1 of pot.obj is not a point/],
      "v 0 0 0\nf 1 2 3\n" => ["bad_mesh",
        "Line 2 of pot.obj has a face that uses point 2, but there are 1 points so far."],
      "v 0 0 0\nv 1 0 0\nf 1 2\n" => ["bad_mesh",
        "Line 3 of pot.obj has a face with 2 corners; it needs three or more."],
      "v 0 0 0\nf -4 1 1\n" => ["bad_mesh", /uses point -4/],
      "v 0 0 0\n" => ["empty_mesh", "pot.obj holds no faces; export it again as a polygon mesh."],
      "" => ["empty_mesh", "pot.obj is empty."],
      "v 1 1 1\nv 1 1 1\nv 1 1 1\nf 1 2 3\n" => ["empty_mesh", "All points of pot.obj are in the same place."],
      "\x00\x01\x02 not a mesh" => ["empty_mesh", /holds no faces/]
    }.each do |text, (code, message)|
      it "refuses #{text.inspect[0, 40]} with its line" do
        expect(refusal { read(text) }).to match([code, message])
      end
    end

    it "refuses formats it does not know" do
      expect(refusal { read("x", name: "pot.blob") }).to eq(
        ["unknown_format", "pot.blob cannot be read as a mesh; bring it as OBJ, STL, PLY, GLTF or GLB."]
      )
    end
  end

  RSpec.describe Formats::STL do
    def read(bytes) = Formats::Meshes.read(bytes, name: "pot.stl")

    it "reads binary files and makes one point of corners in the same place" do
      box = Geometry::Builders.box([1.0, 2.0, 3.0])
      mesh = read(described_class.write(box))
      expect([mesh.count, mesh.points.dim(0)]).to eq([12, 8])
      expect(mesh).to be_closed
      expect(mesh.volume).to be_within(1e-4).of(6.0)
    end

    it "reads binary files whose head begins with solid" do
      bytes = described_class.write(Geometry::Builders.box([1.0, 1.0, 1.0]))
      bytes[0, 5] = "solid"
      expect(read(bytes).count).to eq(12)
    end

    it "reads text with several solids" do
      facet = ->(z) do
        "facet normal 0 0 1\n outer loop\n  vertex 0 0 #{z}\n  vertex 1 0 #{z}\n  VERTEX 0 1e0 #{z}\n " \
          "endloop\nendfacet\n"
      end
      mesh = read("solid foot\n#{facet.call(0)}#{facet.call(1)}endsolid\nsolid lid\n#{facet.call(2)}endsolid lid\n")
      expect(mesh.parts.map(&:to_a)).to eq([["foot", 0, 2], ["lid", 2, 1]])
    end

    it "refuses what is cut off or holds no numbers" do
      whole = described_class.write(Geometry::Builders.box([1.0, 1.0, 1.0]))
      expect(refusal { read(whole[0...-10]) }).to match(["bad_mesh", /should hold 12 triangles and ends before that/])
      expect(refusal { read("short") }).to match(["bad_mesh", /a head of 84 bytes/])
      expect(refusal { read("solid a\n vertex 0 0 zero\n") }).to match(
        ["bad_mesh", /Line 2 of pot.stl is not a corner/]
      )
      expect(refusal { read("solid a\n vertex 0 0 0\nendsolid\n") }).to match(["bad_mesh", /ends inside a triangle/])
      expect(refusal { read("solid nothing\nendsolid\n") }).to match(["empty_mesh", /holds no triangles/])
      broken = whole.dup
      broken[84 + 12, 4] = [Float::NAN].pack("e")
      expect(refusal { read(broken) }).to match(["bad_mesh", /not a finite number/])
    end
  end
end
