# frozen_string_literal: true

module Vumbral
  RSpec.describe Geometry::Operations do
    let(:box) { Geometry::Builders.box([1.0, 1.0, 1.0]) }
    let(:ball) { Geometry::Builders.sphere(0.5) }

    def done(mesh, what, **dials) =
      described_class.apply(
        mesh, [{"what" => what, "name" => what.capitalize}.merge(dials.transform_keys(&:to_s))], nil
      )

    def exact_ball(radius) = 4.0 / 3 * Math::PI * radius**3

    describe "joining and cutting" do
      # Another shape at a place, as seen from the first.
      def with(how, outline, at) =
        done(
          box,
          "combine",
          how: how,
          edge: 0.02,
          other: {
            "outline" => outline, "rows" => Geometry::Transform.place(position: at).rows
          }
        )

      {"union" => 1.0 + 0.134041, "cut" => 1.0 - 0.134041, "intersect" => 0.134041}.each do |how, volume|
        it "#{how} of a box and a ball that is half in it has the exact volume to a hundredth, and is closed" do
          mesh = with(how, {"shape" => "sphere", "radius" => 0.4}, [0.5, 0.0, 0.0])
          expect([mesh.open_edges, mesh.volume]).to match([0, be_within(0.01 * volume).of(volume)])
        end
      end

      {"union" => 1.75, "cut" => 0.75, "intersect" => 0.25}.each do |how, volume|
        it "#{how} of two boxes has the exact volume to a hundredth, and is closed" do
          mesh = with(how, {"shape" => "box", "size" => [1.0, 1.0, 1.0]}, [0.5, 0.5, 0.0])
          expect([mesh.open_edges, mesh.volume]).to match([0, be_within(0.01 * volume).of(volume)])
        end
      end

      it "leaves nothing where the other covers all, and says so" do
        expect(refusal { with("cut", {"shape" => "sphere", "radius" => 2.0}, [0.0, 0.0, 0.0]) }).to eq(
          ["empty_mesh", "Combine leaves nothing of its prop; let it take less."]
        )
      end
    end

    describe "making finer" do
      it "rounds a cube off towards the limit surface that is known (Loop 1987)" do
        edges = Geometry::Operations::Edges.new(box)
        beside =
          edges
            .across
            .keys
            .flat_map { |key| edges.ends(key).then { |a, b| [[a, b], [b, a]] } }
            .group_by(&:first)
            .transform_values { |pairs| pairs.map { |_, n| edges.points[n] } }
        limits = edges.points.each_with_index.map do |point, n|
          count = beside[n].size
          # Weights of a point itself and of its neighbours in the limit, by Warren's weights of one step.
          omega = (count == 3) ? 2.0 : count.to_f
          3.times.map { |c| (omega * point[c] + beside[n].sum { |other| other[c] }) / (omega + count) }
        end
        [3, 5].each_with_index do |steps, n|
          made = done(box, "subdivide", steps: steps, soft: true).points.to_a.each_slice(3).first(8)
          expect(made.flatten.zip(limits.flatten).map { |a, b| (a - b).abs }.max).to be < [2e-2, 1e-3][n]
        end
        expect(done(box, "subdivide", steps: 5, soft: true).open_edges).to eq(0)
      end

      it "keeps the shape where it is told to, with places and colours halfway" do
        sheet =
          Geometry::Mesh.from(
            [0.0, 0.0, 0.0, 2.0, 0.0, 0.0, 0.0, 0.0, -2.0], [0, 1, 2], nil, places: [0.0, 0.0, 1.0, 0.0, 0.0, 1.0]
          )
        finer = done(sheet, "subdivide", steps: 1, soft: false)
        expect([finer.count, finer.area]).to match([4, be_within(1e-6).of(2.0)])
        expect(finer.places.to_a.each_slice(2).to_a.uniq).to contain_exactly(
          [0.0, 0.0], [0.5, 0.0], [0.0, 0.5], [1.0, 0.0], [0.5, 0.5], [0.0, 1.0]
        )
      end

      it "refuses what would be too many" do
        expect(refusal { done(ball, "subdivide", steps: 6, soft: true) }).to eq(
          ["mesh_too_large", "Subdivide would make 20971520 triangles, and 2000000 is the most; take fewer steps."]
        )
      end
    end

    it "smooths bumps away and keeps the size" do
      rough = done(ball, "displace", strength: 0.06, size: 0.08, octaves: 1, seed: 3)
      smooth = done(rough, "smooth", rounds: 150)
      spread = ->(mesh) do
        mesh.points.to_a.each_slice(3).map { |p| Math.sqrt(p.sum { |c| c * c }) }.then { |radii| radii.max - radii.min }
      end
      expect(spread.call(smooth)).to be < 0.5 * spread.call(rough)
      expect(smooth.volume).to be_within(0.03).of(rough.volume)
    end

    it "takes the same faces away by the same pick, and more with a larger share" do
      few, many = [0.2, 0.5].map { |share| done(ball, "pierce", share: share, seed: 4) }
      expect([few.count, many.count]).to eq(
        [ball.count - (0.2 * ball.count).round, ball.count - (0.5 * ball.count).round]
      )
      centres = ->(mesh) do
        mesh
          .triangles
          .to_a
          .each_slice(3)
          .map { |t| t.map { |n| mesh.points.to_a[3 * n, 3] }.transpose.map { |c| c.sum.round(4) } }
      end
      expect(centres.call(many) - centres.call(few)).to eq([])
      expect(done(ball, "pierce", share: 0.2, seed: 5).digest).not_to eq(few.digest)
      expect(refusal { done(ball, "pierce", share: 1.0, seed: 4) }).to match(["empty_mesh", /leaves nothing/])
    end

    it "gives a sheet and a pierced ball a closed wall of the thickness asked for" do
      sheet = done(Geometry::Builders.plane([2.0, 1.0, 2.0]), "thicken", thickness: 0.1)
      expect([sheet.open_edges, sheet.volume]).to match([0, be_within(1e-5).of(0.4)])
      lantern = done(done(ball, "pierce", share: 0.3, seed: 1), "thicken", thickness: 0.02)
      expect([lantern.open_edges, lantern.volume]).to match(
        [0, be_within(0.03 * 0.7 * 0.02 * ball.area).of(0.7 * 0.02 * ball.area)]
      )
    end

    it "closes holes" do
      open = ball.only((0...ball.count).to_a - [3, 4, 700])
      closed = done(open, "close")
      expect([open.closed?, closed.open_edges, closed.volume]).to match([false, 0, be_within(1e-3).of(ball.volume)])
      expect(done(ball, "close")).to equal(ball)
    end

    it "makes a torn mesh with doubled and flipped faces anew: closed, in even faces, of the same volume" do
      wrong = ball.only((0...ball.count).to_a - (10..14).to_a + [100, 101, 102])
      made = done(wrong, "remesh", edge: 0.03)
      expect([made.open_edges, made.volume]).to match([0, be_within(0.01).of(exact_ball(0.5))])
      lengths =
        made
          .triangles
          .to_a
          .each_slice(3)
          .map do |a, b, _|
            made.points.to_a.then { |p| Math.sqrt(3.times.sum { |c| (p[3 * a + c] - p[3 * b + c])**2 }) }
          end
      expect(lengths.sum / lengths.size).to be_within(0.01).of(0.03)
      expect(refusal { done(ball, "remesh", edge: 0.001) }).to match(
        ["mesh_too_large", /would take \d+ cells, and 30000000 is the most; make its faces larger/]
      )
    end

    it "makes faces even and closed, as many as are wanted" do
      counts =
        [400, 6000].map do |faces|
          done(ball, "remesh", remesh_by: "count", faces: faces).then { |made| [made.count, made.closed?] }
        end
      expect(counts).to match([[be_within(12).of(400), true], [be_within(120).of(6000), true]])
      expect(done(ball, "remesh", remesh_by: "count", faces: 6000).volume).to be_within(0.01 * ball.volume.abs).of(
        ball.volume
      )
    end

    describe "finer near the camera" do
      let(:ground) { Geometry::Builders.plane([40.0, 1.0, 40.0]) }
      let(:eye) { [3.0, 1.5, -4.0] }
      let(:finer) { done(ground, "nearer", eyes: [eye], near_share: 0.2, near_least: 0.05) }

      # Of each face the lengths of its edges, and how near the eye comes to its corners.
      def faces(mesh)
        points = mesh.points.to_a.each_slice(3).to_a
        mesh.triangles.to_a.each_slice(3).map { |triangle|
          corners = triangle.map { |n| points[n] }
          [
            3.times.map { |i| Math.sqrt(corners[i].zip(corners[(i + 1) % 3]).sum { |a, b| (a - b)**2 }) },
            corners.map { |corner| Math.sqrt(corner.zip(eye).sum { |a, b| (a - b)**2 }) }.min
          ]
        }
      end

      it "has no edge longer than a share of how far that is, and no sharp face" do
        told = faces(finer)
        expect(told.map { |lengths, far| lengths.max / far }.max).to be <= 0.2 * 1.1
        expect(told.map { |lengths, _| lengths.minmax.reduce(:/) }.min).to be > 0.5
        # Far off they are as large as they may be.
        expect(
          told
            .select { |_, far| far > 15.0 }
            .map { |lengths, _| lengths.max }
            .sum
            .fdiv(told.count { |_, far| far > 15.0 })
        ).to be > 1.2
      end

      it "has no gaps, and no face that is finer than need be" do
        edges = Geometry::Operations::Edges.new(finer)
        rim = edges.open.sum { |a, b| Math.sqrt(edges.points[a].zip(edges.points[b]).sum { |x, y| (x - y)**2 }) }
        expect(rim).to be_within(1e-3).of(160.0)
        close = done(ground, "nearer", eyes: [[0.0, 0.01, 0.0]], near_share: 0.2, near_least: 0.5)
        expect(faces(close).map { |lengths, _| lengths.min }.min).to be > 0.2
      end

      it "keeps parts, places, colours and paint where they were, and stays as it is without a camera" do
        card = Geometry::Panels.card([2.0, 2.0, 1.0])
        made = done(card, "nearer", eyes: [[0.0, 0.0, 1.0]], near_share: 0.2, near_least: 0.01)
        points = made.points.to_a.each_slice(3).to_a
        off =
          made
            .triangles
            .to_a
            .zip(made.places.to_a.each_slice(2).to_a)
            .map { |n, (u, v)| [(points[n][0] / 2.0 + 0.5 - u).abs, (points[n][1] / 2.0 + 0.5 - v).abs].max }
        expect(off.max).to be < 1e-5
        expect(done(card, "nearer", eyes: [], near_share: 0.2, near_least: 0.01).count).to eq(2)
        expect(refusal { done(ground, "nearer", eyes: [eye], near_share: 0.001, near_least: 0.0001) }).to match(
          ["mesh_too_large", /and 300000 is the most; let its edges be longer/]
        )
      end
    end

    describe "unwrapped" do
      # How much of the picture is covered, and how much of that more than once.
      def covered(mesh, cells = 300)
        seen = Hash.new(0)
        mesh.places.to_a.each_slice(6) do |a, b, c, d, e, f|
          rows = [b, d, f].map { |y| y * cells }
          ((rows.min - 0.5).ceil..(rows.max - 0.5).floor).each do |row|
            y = (row + 0.5) / cells
            ends =
              [[a, b, c, d], [c, d, e, f], [e, f, a, b]].filter_map do |px, py, qx, qy|
                (px + (y - py) / (qy - py) * (qx - px)) * cells if (py <= y) != (qy <= y)
              end
            if ends.size == 2
              ((ends.min - 0.5).ceil..(ends.max - 0.5 - 1e-9).floor).each do |column|
                seen[[row, column]] += 1
              end
            end
          end
        end
        [seen.size.fdiv(cells * cells), seen.values.count { |n| n > 1 }.fdiv(seen.size)]
      end

      def unwrapped(mesh, cone: 50.0) = done(mesh, "lay", lay_as: "parts", lay_cone: cone, lay_gap: 0.008)

      it "lies within the picture, no part over another, all at one scale" do
        {
          box => 6, Geometry::Builders.torus(1.0, 0.3) => 12..30,
          Geometry::Tubes.coil([0.5, 0.3], 1.0, 3.0, 0.08) => 20..90
        }.each do |mesh, parts|
          made = unwrapped(mesh)
          expect(made.places.to_a.minmax).to match([be > 0.0, be < 1.0])
          expect(covered(made)).to match([be > 0.25, be < 2e-3])
          expect(Geometry::Charts.new(mesh, 50.0).to_a.size).to be_between(*Array(parts).minmax)
        end
        faces =
          unwrapped(box)
            .places
            .to_a
            .each_slice(6)
            .map { |a, b, c, d, e, f| 0.5 * ((c - a) * (f - b) - (e - a) * (d - b)) }
        expect(faces.minmax.reduce(:/)).to be_within(1e-4).of(1.0)
        expect(faces.min).to be > 0.02
      end

      it "cuts more where less may be bent" do
        few, many = [70.0, 20.0].map { |cone| Geometry::Charts.new(ball, cone).to_a }
        expect(many.size).to be > 2 * few.size
        expect([few, many].map { |charts| charts.flat_map(&:faces).sort }).to all(eq((0...ball.count).to_a))
      end
    end

    it "lays out texture places flat, from six sides, around and over a ball" do
      span = ->(mesh) { mesh.places.to_a.each_slice(2).to_a.transpose.map { |c| (c.max - c.min).round(3) } }
      expect(span.call(done(box, "lay", lay_as: "flat", lay_size: 0.5, lay_turn: 0.0))).to eq([2.0, 2.0])
      plain, moved =
        [[0.0, 0.0], [0.25, -0.5]].map do |right, up|
          done(box, "lay", lay_as: "flat", lay_size: 0.5, lay_turn: 0.0, lay_aside: right, lay_above: up)
            .places
            .to_a
            .each_slice(2)
            .to_a
        end
      expect(moved.zip(plain).map { |a, b| a.zip(b).map { |x, y| (x - y).round(5) } }.uniq).to eq([[-0.25, 0.5]])
      sides = done(box, "lay", lay_as: "box", lay_size: 1.0, lay_turn: 0.0).places.to_a.each_slice(6)
      # Each face of the cube has a whole picture.
      expect(sides.sum { |a, b, c, d, e, f| 0.5 * ((c - a) * (f - b) - (e - a) * (d - b)).abs }).to be_within(1e-4).of(
        6.0
      )
      expect(
        span.call(done(ball, "lay", lay_as: "ball", lay_size: 1.0, lay_turn: 0.0)).map { |c| c.round(1) }
      ).to match([be_between(1.0, 1.5), 1.0])
    end

    it "moves the origin into the middle, or under it" do
      aside = box.transformed(Geometry::Transform.place(position: [3.0, 2.0, 1.0]))
      expect(done(aside, "recentre", pivot: "middle").bounds).to eq([[-0.5] * 3, [0.5] * 3])
      expect(done(aside, "recentre", pivot: "under").bounds).to eq([[-0.5, 0.0, -0.5], [0.5, 1.0, 0.5]])
      expect(done(aside, "recentre", pivot: "place", pivot_at: [2.5, 1.5, 0.5]).bounds).to eq([[0.0] * 3, [1.0] * 3])
    end

    describe "copies" do
      let(:grain) do
        Geometry::Builders.box([0.02, 0.1, 0.02]).transformed(Geometry::Transform.place(position: [0.0, 0.05, 0.0]))
      end
      let(:plain) { {seed: 3, size_vary: 0.0, turn_vary: 0.0, upright: true} }

      # The middle of each copy's underside.
      def feet(mesh) =
        mesh
          .points
          .to_a
          .each_slice(3)
          .each_slice(8)
          .map do |box|
            [0, 2].map { |axis| (box.map { |p| p[axis] }.sum / 8).round(4) } + [box.map { |p| p[1] }.min.round(4)]
          end

      it "stand in a grid, loosened where that is wanted" do
        grid = {spread: "grid", counts: [3.0, 1.0, 2.0], step: [0.5, 1.0, 0.25], loose: [0.0, 0.0, 0.0]}
        expect(feet(done(grain, "copies", **plain, **grid))).to contain_exactly(
          *[-0.5, 0.0, 0.5].product([-0.125, 0.125]).map { |x, z| [x, z, 0.0] }
        )
        loose = feet(done(grain, "copies", **plain, **grid, loose: [0.1, 0.0, 0.0]))
        expect(loose.map(&:first).uniq.size).to eq(6)
        expect(loose.map { |x, _, _| [-0.5, 0.0, 0.5].map { |c| (c - x).abs }.min }.max).to be_between(0.01, 0.1)
      end

      it "stand on another prop evenly, upright or as it leans, and more leave the others where they are" do
        other = {
          "outline" => {
            "shape" => "plane", "size" => [4.0, 1.0, 2.0]
          },
          "rows" => Geometry::Transform.place(position: [0.0, 1.0, 0.0], turn: [0.0, 0.0, 30.0]).rows
        }
        few, many =
          [50, 400].map { |number| done(grain, "copies", **plain, spread: "surface", number: number, other: other) }
        expect(feet(many).first(50)).to eq(feet(few))
        slope = Math.tan(30 * Math::PI / 180)
        expect(feet(many).map { |x, _, y| (y - 1.0 - slope * x).abs }.max).to be < 1e-3
        expect(feet(many).count { |x, _, _| x > 0.0 }).to be_within(40).of(200)
        leaning = done(grain, "copies", **plain, upright: false, spread: "surface", number: 10, other: other)
        tall =
          leaning
            .points
            .to_a
            .each_slice(3)
            .each_slice(8)
            .map { |box| box.map { |p| p[1] }.minmax.then { |low, high| high - low } }
        expect(tall).to all(
          be_within(2e-3).of(0.1 * Math.cos(30 * Math::PI / 180) + 0.02 * Math.sin(30 * Math::PI / 180))
        )
      end

      it "spread evenly over faces of all sizes" do
        # Two faces of the box have a tenth of its surface each.
        other = {
          "outline" => {
            "shape" => "box", "size" => [1.0, 4.0, 1.0]
          },
          "rows" => Geometry::Transform.identity.rows
        }
        ends =
          feet(done(grain, "copies", **plain, spread: "surface", number: 1800, other: other)).count do |_, _, y|
            y.abs > 1.9999
          end
        expect(ends).to be_within(60).of(200)
      end

      it "go by no dial that was left behind by another kind of copies" do
        left = {
          "do" => "add",
          "kind" => "operation",
          "id" => "op",
          "dials" => {
            "prop" => "prop-1", "what" => "copies", "spread" => "grid", "grid_by" => "step"
          }
        }
        rows = ->(document) { described_class.rows(document, document.node("prop-1"), 1)[0] }
        expect(rows.call(small_shot(edits: [left]))).to include("counts", "step")
        faces = {
          "do" => "add",
          "kind" => "operation",
          "id" => "op",
          "dials" => {
            "prop" => "prop-1", "what" => "combine", "with" => "ground", "remesh_by" => "count", "spread" => "grid"
          }
        }
        expect(rows.call(small_shot(edits: [faces]))).to include("edge", "other")
        expect(
          small_shot(edits: [faces]).node("op").kind.dials[:with].counts?(small_shot(edits: [faces]).node("op"))
        ).to be(true)
      end

      it "fill another prop, and its corners" do
        ball = {
          "outline" => {
            "shape" => "sphere", "radius" => 1.0
          },
          "rows" => Geometry::Transform.place(position: [3.0, 0.0, 0.0]).rows
        }
        places =
          feet(done(grain, "copies", **plain, spread: "inside", number: 300, other: ball)).map do |x, z, y|
            Math.sqrt((x - 3.0)**2 + y**2 + z**2)
          end
        expect([places.size, places.max]).to match([300, be <= 1.0])
        # An eighth of a ball's room is within half its radius.
        expect(places.count { |far| far < 0.5 }).to be_within(18).of(37)
        box = {"outline" => {"shape" => "box", "size" => [2.0, 1.0, 4.0]}, "rows" => Geometry::Transform.identity.rows}
        expect(feet(done(grain, "copies", **plain, spread: "corners", other: box))).to match_array(
          [-1.0, 1.0].product([-2.0, 2.0], [-0.5, 0.5])
        )
      end

      it "stand in a grid from end to end of another prop, by how many or by how far apart" do
        box = {
          "outline" => {
            "shape" => "box", "size" => [2.0, 1.0, 1.0]
          },
          "rows" => Geometry::Transform.place(position: [5.0, 0.0, 0.0]).rows
        }
        fitted = {spread: "fitted", other: box, loose: [0.0] * 3, step: [0.5, 2.0, 0.4]}
        many = feet(done(grain, "copies", **plain, **fitted, grid_by: "counts", counts: [3.0, 2.0, 1.0]))
        expect(many).to match_array([4.0, 5.0, 6.0].product([0.0], [-0.5, 0.5]))
        apart = feet(done(grain, "copies", **plain, **fitted, grid_by: "step", counts: [1.0] * 3))
        expect(apart).to match_array([4.0, 4.5, 5.0, 5.5, 6.0].product([-0.4, 0.0, 0.4], [0.0]))
        expect(
          refusal { done(grain, "copies", **plain, **fitted, grid_by: "step", step: [0.01, 0.01, 0.01]) }
        ).to match(["mesh_too_large", /would make 2050401 copies, and 20000 is the most/])
      end

      it "stand along a way at even distances, facing along it, on another prop where there is one" do
        way = {spread: "stroke", way: [[0.0, 0.0, 0.0], [1.0, 0.0, 0.0], [2.0, 0.0, 0.0]], number: 5, ahead: true}
        long =
          Geometry::Builders.box([0.02, 0.1, 0.2]).transformed(Geometry::Transform.place(position: [0.0, 0.05, 0.0]))
        fence = done(long, "copies", **plain, **way)
        expect(feet(fence)).to match([0.0, 0.5, 1.0, 1.5, 2.0].map { |x| [be_within(2e-3).of(x), 0.0, 0.0] })
        # What was long from back to front is so from left to right.
        expect(fence.points.to_a.each_slice(3).first(8).map(&:first).minmax).to match(
          [be_within(1e-4).of(-0.1), be_within(1e-4).of(0.1)]
        )
        ball = {
          "outline" => {
            "shape" => "sphere", "radius" => 1.0, "divisions" => 5
          },
          "rows" => Geometry::Transform.identity.rows
        }
        over = [[-0.7, 0.72, 0.0], [0.0, 1.0, 0.0], [0.7, 0.72, 0.0]]
        leaning = done(grain, "copies", **plain, **way, way: over, upright: false, number: 9, other: ball)
        expect(feet(leaning).map { |x, z, y| Math.sqrt(x * x + y * y + z * z) }).to all(be_within(0.02).of(1.0))
        # Before there is a way nothing is done.
        waiting =
          small_shot(
            edits: [
              {
                "do" => "add",
                "kind" => "operation",
                "dials" => {
                  "prop" => "prop-1", "what" => "copies", "spread" => "stroke"
                }
              }
            ]
          )
        expect(described_class.rows(waiting, waiting.node("prop-1"), 1)).to eq([])
      end

      it "of a mark are points without faces, which sources and emitters begin from" do
        mark = Geometry::Shapes.build({"shape" => "mark"}, nil)
        made =
          done(
            mark, "copies", **plain, spread: "grid", counts: [3.0, 1.0, 2.0], step: [0.5, 1.0, 0.25], loose: [0.0] * 3
          )
        expect([made.count, made.points.dim(0)]).to eq([0, 6])
        expect(made.points.to_a.each_slice(3).to_a).to match_array([-0.5, 0.0, 0.5].product([0.0], [-0.125, 0.125]))
        seen = Geometry::Specks.of(made)
        expect(
          [seen.count, seen.closed?, Geometry::Specks.of(mark).count, Geometry::Specks.of(ball).equal?(ball)]
        ).to eq([48, true, 0, true])
        document =
          small_shot(
            edits: [
              {
                "do" => "add",
                "kind" => "prop",
                "id" => "spots",
                "dials" => {
                  "shape" => "mark", "position" => [0.0, 0.5, 0.0]
                }
              },
              {
                "do" => "add",
                "kind" => "operation",
                "dials" => {
                  "prop" => "spots", "what" => "copies", "spread" => "grid", "counts" => [2.0, 1.0, 1.0],
                  "size_vary" => 0.0
                }
              },
              {
                "do" => "add",
                "kind" => "emitter",
                "id" => "sparks",
                "dials" => {
                  "prop" => "spots", "speed" => 0.0
                }
              },
              set("source-1", :prop, "spots"),
              set("source-1", :from, "points")
            ]
          )
        flies = Particles::Swarm.new(Geometry::Throws.new(document, "sparks"), nil).alive(2.0, 1.9)
        expect(flies.map { |row| row[0].abs }).to all(be_within(0.05).of(0.25))
        expect(flies.map { |row| row[0].positive? }.uniq.size).to eq(2)
        plan = Gas::Plan.new(document, :draft)
        source = plan.at(2)["sources"][0]
        low, high = Flow::Props.new(plan, nil).bounds(source)
        expect([0.5 * (low[0] + high[0]), high[0] - low[0]]).to match([be_within(1e-4).of(0.0), be > 0.5])
      end

      it "drift by noise of their own within the ends that are given" do
        still =
          feet(
            done(
              grain, "copies", **plain, spread: "box", number: 40, room: [0.0] * 3, stray_low: [-0.5, 0.0, 1.0],
              stray_high: [0.5, 0.0, 1.0], time: 0.0
            )
          )
        later =
          feet(
            done(
              grain, "copies", **plain, spread: "box", number: 40, room: [0.0] * 3, stray_low: [-0.5, 0.0, 1.0],
              stray_high: [0.5, 0.0, 1.0], time: 0.7
            )
          )
        expect(still.map(&:first)).to all(be_between(-0.5, 0.5))
        expect(still.map(&:first).uniq.size).to be > 30
        expect(still.map { |_, z, _| z }.uniq).to eq([1.0])
        expect(later.zip(still).map { |a, b| (a[0] - b[0]).abs }.max).to be_between(0.05, 1.0)
      end

      it "vary in size and turn, and stay within bounds" do
        boxed =
          done(
            grain, "copies", **plain, size_vary: 0.5, turn_vary: 180.0, spread: "box", number: 200,
            room: [2.0, 0.0, 1.0]
          )
        heights = boxed.points.to_a.each_slice(3).each_slice(8).map { |box| box.map { |p| p[1] }.max }
        expect(heights.minmax).to match([be_within(0.005).of(0.05), be_within(0.005).of(0.15)])
        expect(boxed.volume).to be_within(0.25 * 200 * 4e-5).of(1.25 * 200 * 4e-5)
        expect(refusal { done(ball, "copies", **plain, spread: "box", number: 2000, room: [1.0] * 3) }).to match(
          ["mesh_too_large", /take fewer copies/]
        )
      end
    end

    describe "in a shot" do
      def add(n, what, **dials) =
        {
          "do" => "add", "kind" => "operation", "name" => what, "id" => "op-#{n}",
          "dials" => {"prop" => "prop-1", "what" => what, "order" => n}.merge(dials.transform_keys(&:to_s))
        }

      def outline(document, frame = 1) = Geometry::Bodies.of(document, document.node("prop-1"), frame)["outline"]

      def shot(*edits) = small_shot(edits: [set("prop-1", :radius, 0.2)] + edits)

      it "follow each other in their order, and one that is off is left out" do
        document = shot(add(2, "thicken"), add(1, "pierce", share: 0.4))
        expect(outline(document)["operations"].map { |row| row["what"] }).to eq(%w[pierce thicken])
        turned, = Shot::Edits.apply(document, [set("op-1", :order, 5)])
        expect(outline(turned)["operations"].map { |row| row["what"] }).to eq(%w[thicken pierce])
        off, = Shot::Edits.apply(document, [{"do" => "switch", "node" => "op-1", "off" => true}])
        expect(outline(off)["operations"].map { |row| row["what"] }).to eq(%w[thicken])
        expect(Gas::Plan.new(off, :full).keys).not_to eq(Gas::Plan.new(document, :full).keys)
      end

      it "change over time where they have keys, in the run as in the view" do
        keys =
          [[1, 0.0], [8, 0.7]].map do |frame, value|
            {
              "do" => "key", "node" => "op-1", "dial" => "share", "frame" => frame, "value" => value, "ease" => "linear"
            }
          end
        document = shot(add(1, "pierce"), *keys)
        counts = [1, 8].map { |frame| Geometry::Shapes.build(outline(document, frame), nil).count }
        expect(counts).to eq([5120, 5120 - 3584])
        with_workshop do |workshop|
          rows = workshop.bodies.make(document).find { |row| row["prop"] == "prop-1" }
          expect(rows["poses"].map { |pose| pose[9] }).to eq((0..7).map(&:to_f))
          expect([0, 7].map { |n| workshop.assets.mesh_at(rows["outline"]["mesh"], n.to_f).count }).to eq(counts)
        end
      end

      it "go with their prop when it is taken away, and cannot join a prop with itself" do
        other = {"do" => "add", "kind" => "prop", "name" => "Bore", "id" => "bore", "dials" => {}}
        document = shot(add(1, "pierce"), other, add(2, "combine", with: "bore"))
        back = add(3, "combine", with: "prop-1").merge("id" => "op-3").tap { |edit| edit["dials"]["prop"] = "bore" }
        expect(refusal { Shot::Edits.apply(document, [back]) }).to eq(
          ["circle", "combine would join Bore with a prop that is joined with it already; choose another."]
        )
        expect(refusal { Shot::Edits.apply(document, [set("op-2", :with, "prop-1")]) }).to match(
          ["circle", /Ember bowl/]
        )
        gone, = Shot::Edits.apply(document, [{"do" => "remove", "node" => "prop-1"}])
        expect(gone.all_of(:operation)).to eq([])
      end

      it "say what is missing, and the shot still stands" do
        document = shot(add(1, "combine"), add(2, "smooth").tap { |edit| edit["dials"]["prop"] = nil })
        expect(outline(document)).not_to have_key("operations")
        expect(Preflight::Survey.new(document, nil).findings.map(&:code)).to include("no_other", "no_prop")
      end

      it "make a run whose gas comes from what is left" do
        with_workshop do |workshop|
          id =
            shelve(
              workshop,
              shot(add(1, "pierce", share: 0.3), add(2, "thicken", thickness: 0.05), set("source-1", :from, "surface"))
            )
          expect(run_now(workshop, id)[:computed]).to eq(8)
        end
      end
    end
  end
end
