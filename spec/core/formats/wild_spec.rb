# frozen_string_literal: true

module Vumbral
  RSpec.describe Formats::Meshes do
    def read(text, name = "pot.obj") = described_class.read(text, name: name)

    def triangle(*lines) = "v 0 0 0\nv 1 0 0\nv 0 1 0\n#{lines.join("\n")}\nf 1 2 3\n"

    describe "names" do
      it "are UTF-8, whatever the bytes were called" do
        expect(read(triangle("o Töpf").b).parts.map(&:name)).to eq(["Töpf"])
        expect(read("solid Töpf\nfacet\nvertex 0 0 0\nvertex 1 0 0\nvertex 0 1 0\nendsolid\n".b,
          "a.stl").parts.map(&:name)).to eq(["Töpf"])
        expect(read(triangle("o T\xF6pf").b).parts.map(&:name)).to eq(["T?pf"])
        expect(read(triangle("g \u0001bowl\u0007")).parts.map(&:name)).to eq(["bowl"])
        expect(read(triangle("o #{"x" * 5000}")).parts[0].name.length).to eq(120)
      end

      it "run from where they stand, and what comes before the first has its own" do
        mesh = read("#{triangle}o lid\nf 1 3 2\ng\no nothing\n")
        expect(mesh.parts.map(&:to_a)).to eq([["all", 0, 1], ["lid", 1, 1]])
      end
    end

    describe "sentences" do
      it "hold what was wrong with wild bytes, and can be stored" do
        ["v \xFF\xFE 0 0\n", "v \x00 0 0\n", "f \xFF 2 3\n", "v 0 0 0\nf 1/\xFF/\xFE 9 9\n"].each do |text|
          code, message = refusal { read(text.b, "Töpf.obj") }
          expect([code, message.encoding, message.valid_encoding?]).to eq(["bad_mesh", Encoding::UTF_8, true])
          expect(message).to match(/\ALine \d of Töpf\.obj /)
          expect(JSON.parse(JSON.generate([message]))).to eq([message])
        end
      end

      {
        "v 0 0 1e39\n" =>
          "Line 1 of pot.obj has a point farther than 1e9 from the origin (\"v 0 0 1e39\"); scale the mesh down.",
        "v 0 0 -2e9\n" =>
          "Line 1 of pot.obj has a point farther than 1e9 from the origin (\"v 0 0 -2e9\"); scale the mesh down.",
        "v 0 0\n" => "Line 1 of pot.obj is not a point (\"v 0 0\"); a point is v and three numbers.",
        "v 0 0 1e\n" => "Line 1 of pot.obj is not a point (\"v 0 0 1e\"); a point is v and three numbers.",
        "v 0 0 1-2\n" => "Line 1 of pot.obj is not a point (\"v 0 0 1-2\"); a point is v and three numbers.",
        "v 0 0 0\nf 1 1 2\n" => "Line 2 of pot.obj has a face that uses point 2, but there are 1 points so far.",
        "v 0 0 0\nf 1 1 0\n" => "Line 2 of pot.obj has a face that uses point 0, but there are 1 points so far.",
        "v 0 0 0\nf 1 1 99999999999\n" =>
          "Line 2 of pot.obj has a face that uses point 99999999999, but there are 1 points so far.",
        "v 0 0 0\nf 1 1 1.5\n" => "Line 2 of pot.obj has a face that uses point 1.5, but there are 1 points so far.",
        "v 0 0 0\nvt 0 0\nf 1/1 1/1 1/2\n" =>
          "Line 3 of pot.obj has a face that uses texture place 2, but there are 1 so far.",
        "v 0 0 0\nvt 0 0\nf 1/-2 1/1 1/1\n" =>
          "Line 3 of pot.obj has a face that uses texture place -2, but there are 1 so far.",
        "v 0 0 0\nf\n" => "Line 2 of pot.obj has a face with 0 corners; it needs three or more.",
        "# nothing\n" => "pot.obj holds no faces; export it again as a polygon mesh."
      }.each { |text, sentence| it("say: #{sentence}") { expect(refusal { read(text) }[1]).to eq(sentence) } }
    end

    describe "numbers" do
      def xs(*words) =
        read(
          "#{words.map { |word| "v #{word} 0 0" }.join("\n")}\nv 0 1 0\nv 0 0 1\nf 1 #{words.size + 1} " \
            "#{words.size + 2}\n"
        ).points.to_a.each_slice(3).map(&:first).first(words.size)

      it "are read as exactly as single precision holds them" do
        words = %w[1 -1 +1 0.1 .5 5. 1e3 1E-3 1.5e+2 -0.000001 123456.789 3.14159265358979 0.30000001192092896 1e-30
          00012 98765432.1 -7.0E0 1e-46 0.1234567890123456789]
        expect(xs(*words)).to eq(
          words.map { |word| [word.sub(/\A([+-]?)\./, '\10.').sub(/\.\z/, "").to_f].pack("e").unpack1("e") }
        )
      end

      it "of a thousand random points are the same as Ruby reads them" do
        random = Random.new(5)
        words =
          Array.new(1000) do
            format(
              "%.#{random.rand(1..9)}#{%w[f e g].sample(random: random)}", (random.rand - 0.5) * 10**random.rand(-5..5)
            )
          end
        expect(xs(*words)).to eq(words.map { |word| [word.to_f].pack("e").unpack1("e") })
      end
    end

    describe "texture places and colours" do
      it "are there for every triangle or for none, wherever they stand in the file" do
        mesh = read("v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\nvt 0.25 0.5\nvt 1\nf 1/1 2/2 3/-1\nf 1//4 2/1 3\n")
        expect(mesh.places.shape).to eq([3, 6])
        expect(mesh.places.to_a.each_slice(6).to_a).to eq([[0.0] * 6, [0.25, 0.5, 1.0, 0.0, 1.0, 0.0],
          [0.0, 0.0, 0.25, 0.5, 0.0, 0.0]])
        expect(read(triangle).places).to be_nil
        expect(read(triangle("vt nan x", "vt 1e30 0")).places.to_a).to eq([0.0] * 6)
      end

      it "colours count where every point has one" do
        expect(
          read("v 0 0 0 1 0 0\nv 1 0 0 0.5 0.5 0.5\nv 0 1 0 0 0 0\nf 1 2 3\n").paint.to_a.map { |n| n.round(4) }
        ).to eq([0.3333, 0.5, 0.0])
        expect(read("v 0 0 0 1 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n").paint).to be_nil
      end

      it "whatever is taken in can be kept and read again" do
        with_workshop do |workshop|
          ["v 0 0 0 1 1 1\nv 1 0 0 0 0 0\nv 0 1 0 1 0 1\nvt 0\nf 1/1 2/1 3/1\nf 1 2 3\n", triangle("o Töpf"),
            triangle("vt 0 0")].each do |text|
            digest = workshop.assets.bring(text, "a.obj")[:digest]
            again = Studio::Workshop.new(workshop.home.path).assets.mesh(digest)
            expect(again.digest).to eq(digest)
            expect(again.parts.map(&:to_a)).to eq(read(text).parts.map(&:to_a))
          end
        end
      end
    end

    it "STL text takes any case and indents, and says which line is no corner" do
      mesh = read("solid\n  Facet\n\tVERTEX 0 0 0\n vertex 1 0 0\n vertex 0 1 0\n", "a.stl")
      expect([mesh.count, mesh.parts.map(&:name)]).to eq([1, ["all"]])
      expect(refusal { read("solid\nvertex 0 0 0\nvertex 0 x\xFF 0\n".b, "a.stl") }).to eq(
        ["bad_mesh", "Line 3 of a.stl is not a corner: \"vertex 0 x? 0\"."]
      )
      expect(refusal { read("solid\nvertex 0 0 0\n", "a.stl") }).to match(
        ["bad_mesh", /1 corners, which is not a multiple of three/]
      )
    end
  end

  RSpec.describe Geometry::Welding do
    def points(*rows) = Kernel::Buffer.of(:f32, rows.flatten.map(&:to_f), rows.size, 3)

    def triangles(*rows) = Kernel::Buffer.of(:i32, rows.flatten, rows.size, 3)

    it "numbers places in the order in which they first come; both noughts are one" do
      numbers, places = described_class.weld(points([0, 0, 0], [1, 0, 0], [-0.0, 0, -0.0], [1, 0, 0], [1, 0, 1e-7]))
      expect(numbers.to_a).to eq([0, 1, 0, 1, 2])
      expect(places.dim(0)).to eq(3)
    end

    it "keeps apart what only looks alike, in tens of thousands" do
      rows =
        Array.new(40) { |k| Array.new(40) { |j| Array.new(20) { |i| [0.5 * i, 0.25 * j, 1024.0 * k] } } }.flatten(2)
      numbers, places = described_class.weld(points(*(rows + rows.reverse)))
      expect(places.dim(0)).to eq(rows.size)
      expect(numbers.to_a).to eq((0...rows.size).to_a + (0...rows.size).to_a.reverse)
    end

    it "of nothing is nothing" do
      numbers, places = described_class.weld(Kernel::Buffer.new(:f32, 0, 3))
      expect([numbers.size, places.dim(0)]).to eq([0, 0])
      expect(described_class.open_edges(Kernel::Buffer.new(:f32, 0, 3), Kernel::Buffer.new(:i32, 0, 3))).to eq(0)
    end

    it "counts open edges as one would by hand" do
      square = points([0, 0, 0], [1, 0, 0], [1, 1, 0], [0, 1, 0])
      expect(described_class.open_edges(square, triangles([0, 1, 2]))).to eq(3)
      expect(described_class.open_edges(square, triangles([0, 1, 2], [0, 2, 3]))).to eq(4)
      # Both sides of a sheet close it; the same triangle twice does not; one wound wrongly opens its edge.
      expect(described_class.open_edges(square, triangles([0, 1, 2], [2, 1, 0]))).to eq(0)
      expect(described_class.open_edges(square, triangles([0, 1, 2], [0, 1, 2]))).to eq(3)
      expect(described_class.open_edges(square, triangles([0, 1, 2], [0, 3, 2]))).to eq(5)
      expect(described_class.open_edges(square, triangles([0, 0, 2]))).to eq(0)
    end

    it "agrees with a plain count on closed and torn bodies" do
      [Geometry::Builders.torus(0.4, 0.1), Geometry::Builders.sphere(0.3), Demo::Models.vase].each do |mesh|
        [0, 1, 7].each do |torn|
          rows = mesh.triangles.to_a.each_slice(3).to_a.drop(torn)
          seen = {}
          places = mesh.points.to_a.each_slice(3).map { |place| seen[place] ||= seen.size }
          balance = Hash.new(0)
          rows.each do |row|
            a, b, c = row.map { |n| places[n] }
            next if [a, b, c].uniq.size < 3

            [[a, b], [b, c], [c, a]].each { |from, to| balance[[from, to].minmax] += (from < to) ? 1 : -1 }
          end
          expect(described_class.open_edges(mesh.points, triangles(*rows))).to eq(balance.values.count { |n| n != 0 })
        end
      end
    end
  end
end
