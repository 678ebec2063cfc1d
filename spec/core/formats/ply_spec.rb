# frozen_string_literal: true

module Vumbral
  RSpec.describe Formats::PLY do
    def read(bytes) = Formats::Meshes.read(bytes, name: "pot.ply")

    def text(rows: "0 0 0 255 0 0 4\n1 0 0 0 255 0 8\n0 1 0 0 0 255 6\n", faces: "4 0 1 2 2\n", count: 3)
      "ply\nformat ascii 1.0\ncomment made up\nelement vertex #{count}\n#{%w[x y z].map { |axis| "property float #{axis}\n" }.join}#{%w[red green blue].map { |c| "property uchar #{c}\n" }.join}" \
        "property float moisture\nelement face 1\nproperty list uchar int vertex_indices\nend_header\n#{rows}#{faces}"
    end

    it "reads text: faces of any number of corners, colours, and a number of the points' own" do
      mesh = read(text)
      expect(mesh.triangles.to_a).to eq([0, 1, 2, 0, 2, 2])
      expect(mesh.colours.to_a.first(9)).to eq([1.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0])
      expect(mesh.paint.to_a).to eq([0.0, 1.0, 0.5])
    end

    it "reads both byte orders" do
      head = ->(format) { "ply\nformat #{format} 1.0\nelement vertex 3\nproperty double x\nproperty double y\nproperty double z\nelement face 1\nproperty list ushort uint vertex_index\nend_header\n".b }
      points = [0.0, 0.0, 0.0, 1.5, 0.0, 0.0, 0.0, 2.5, 0.0]
      [["binary_little_endian", "E*", "S<L<3"], ["binary_big_endian", "G*", "S>L>3"]].each do |format, numbers, face|
        mesh = read(head.call(format) + points.pack(numbers) + [3, 0, 1, 2].pack(face))
        expect([mesh.points.to_a, mesh.triangles.to_a]).to eq([points, [0, 1, 2]])
      end
    end

    it "writes what comes in again the same, points split only where their corners differ" do
      ring = Geometry::Builders.torus(0.4, 0.1, sides: 9, around: 6)
      expect(read(described_class.write(ring)).then { |again| [again.points.to_a, again.triangles.to_a] }).to eq(
        [ring.points.to_a, ring.triangles.to_a]
      )
      tints =
        Kernel::Buffer.of(
          :f32, Array.new(3 * ring.points.dim(0)) { |n| Geometry::Colours.linear((n * 7 % 256) / 255.0) },
          ring.points.dim(0), 3
        )
      even =
        Geometry::Mesh.new(
          ring.points, ring.triangles, nil, colours: Geometry::Colours.corners(ring.triangles, tints),
          paint: Kernel::Buffer.of(:f32, Array.new(ring.points.dim(0)) { |n| n / 100.0 })
        )
      again = read(described_class.write(even))
      expect(again.points.dim(0)).to eq(ring.points.dim(0))
      expect(again.colours.to_a.zip(even.colours.to_a).map { |a, b| (a - b).abs }.max).to be < 1e-6
      expect(again.paint.to_a).to eq(even.paint.to_a)
      patched =
        Geometry::Mesh.new(
          ring.points, ring.triangles, nil,
          colours: Geometry::Colours.runs([[0, [1.0, 0.0, 0.0]], [20, [0.0, 0.0, 1.0]]], ring.count)
        )
      again = read(described_class.write(patched))
      expect(again.points.dim(0)).to be_between(ring.points.dim(0) + 1, 2 * ring.points.dim(0))
      expect(again.colours.to_a).to eq(patched.colours.to_a)
    end

    {
      "rows that are missing" => [
        -> { text(count: 9, faces: "") }, "pot.ply ends before all of its 9 rows of vertex; export it again."
      ],
      "rows of another form" => [
        -> { text(rows: "0 0 0 255 0 0 4\n1 0 x 0 255 0 8\n0 1 0 0 0 255 6\n") },
        "Row 2 of vertex in pot.ply holds something else than the head says (\"1 0 x 0 255 0 8\")."
      ],
      "a wrong count" => [
        -> { text.sub("vertex 3", "vertex -3") }, "Line 4 of pot.ply counts \"-3\" things; 12000000 is the most."
      ],
      "an unknown type" => [
        -> { text.sub("float y", "half y") }, "Line 6 of pot.ply is not a property (\"property half y\")."
      ],
      "a point that is not there" => [
        -> { text(faces: "3 0 1 3\n") }, "Face 1 of pot.ply uses point 3, but they go from 0 to 2."
      ],
      "a face of two corners" => [
        -> { text(faces: "2 0 1\n") }, "Face 1 of pot.ply has 2 corners; it needs three or more."
      ],
      "points alone" => [
        -> { text.sub(/element face.*$/m, "end_header\n0 0 0 1 1 1 0\n1 0 0 1 1 1 0\n0 1 0 1 1 1 0\n") },
        "pot.ply holds no faces; export it again as a polygon mesh."
      ],
      "something else" => [
        -> { "solid pot" }, "pot.ply is not a PLY file: it begins with ply and its head ends with end_header."
      ]
    }.each do |what, (make, sentence)|
      it("refuses #{what}") { expect(refusal { read(instance_exec(&make)) }[1]).to eq(sentence) }
    end
  end
end
