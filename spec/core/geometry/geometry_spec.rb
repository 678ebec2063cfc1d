# frozen_string_literal: true

module Vumbral
  RSpec.describe Geometry::Builders do
    {
      sphere: [[1.0], 4 / 3.0 * Math::PI, 4 * Math::PI], box: [[[1.0, 2.0, 3.0]], 6.0, 22.0],
      cylinder: [[0.5, 2.0], Math::PI * 0.5, Math::PI * 2.5],
      cone: [[1.0, 1.0], Math::PI / 3, Math::PI * (1 + Math.sqrt(2))],
      torus: [[1.0, 0.25], 2 * Math::PI**2 * 0.0625, 4 * Math::PI**2 * 0.25]
    }.each do |shape, (arguments, volume, area)|
      it "builds a closed #{shape} with its volume and surface" do
        mesh = described_class.public_send(shape, *arguments)
        expect(mesh).to be_closed
        expect(mesh.volume).to be_within(0.02 * volume).of(volume)
        expect(mesh.area).to be_within(0.02 * area).of(area)
      end
    end

    it "lays a plane flat, facing up and open" do
      plane = described_class.plane([2.0, 1.0, 3.0])
      expect(plane.area).to be_within(1e-5).of(6.0)
      expect(plane.open_edges).to eq(4)
      expect(plane.corner_normals.to_a.each_slice(3)).to all(eq([0.0, 1.0, 0.0]))
    end

    it "turns a closed vessel from an outline" do
      expect(Demo::Models.kiln).to be_closed
      expect([Demo::Models.vase, Demo::Models.bowl, Demo::Models.trough, Demo::Models.arch]).to all(be_closed)
      expect([Demo::Models.vase, Demo::Models.kiln, Demo::Models.trough,
        Demo::Models.arch].map(&:volume)).to all(be_positive)
    end
  end

  RSpec.describe Geometry::Transform do
    it "scales, turns about x, y, z in this order, and moves" do
      place = described_class.place(position: [1.0, 2.0, 3.0], turn: [90.0, 0.0, 90.0], scale: [2.0, 1.0, 1.0])
      expect(place.apply([1.0, 0.0, 0.0]).zip([1.0, 4.0, 3.0]).map { |a, b| (a - b).abs }.max).to be < 1e-9
      expect(place.apply([0.0, 1.0, 0.0]).zip([1.0, 2.0, 4.0]).map { |a, b| (a - b).abs }.max).to be < 1e-9
      expect(described_class.identity.apply([1.0, 2.0, 3.0])).to eq([1.0, 2.0, 3.0])
    end

    it "keeps a mirrored mesh wound outwards" do
      mirrored = Geometry::Builders.box([1.0, 1.0,
        1.0]).transformed(described_class.new([[-1.0, 0, 0, 0], [0, 1.0, 0, 0], [0, 0, 1.0, 0]]))
      expect(mirrored.volume).to be_within(1e-5).of(1.0)
    end
  end

  RSpec.describe Geometry::Mesh do
    it "shades edges sharper than the crease as edges, and rounder ones as one surface" do
      box = Geometry::Builders.box([1.0, 1.0, 1.0]).corner_normals
      expect(box.to_a.each_slice(3).map { |n| n.map(&:abs).max }).to all(be_within(1e-5).of(1.0))
      ball = Geometry::Builders.sphere(1.0, divisions: 2)
      normals, points = ball.corner_normals.to_a.each_slice(3).to_a, ball.points.to_a.each_slice(3).to_a
      ball.triangles.to_a.each_with_index { |n, i| expect(normals[i].zip(points[n]).sum { |a, b| a * b }).to be > 0.99 }
    end

    it "has a name that depends on its geometry alone" do
      a, b = Geometry::Builders.sphere(1.0), Geometry::Builders.sphere(1.0)
      expect(a.digest).to eq(b.digest)
      expect(a.digest).not_to eq(Geometry::Builders.sphere(1.1).digest)
    end

    it "joins several meshes into one" do
      both = described_class.joined([Geometry::Builders.box([1.0, 1.0, 1.0]), Geometry::Builders.sphere(0.5)])
      expect(both.volume).to be_within(0.02).of(1.0 + Math::PI / 6)
      expect(both).to be_closed
    end
  end

  RSpec.describe Geometry::BVH do
    def distances(mesh, n, span, band: 9.0)
      bvh = described_class.new(mesh)
      out = Kernel::Buffer.new(:f32, n, n, n)
      voxel = span / n
      same = Kernel::Buffer.of(:f32, Geometry::Transform.identity.rows.flatten)
      Geometry::BVHKernels.signed_distance(out, Kernel::Buffer.new(:i32, n, n, n), bvh.tree, same, band, mesh.closed?,
        Grid::Lattice.new(*([-span / 2 + voxel / 2] * 3), voxel), Grid::Region.new(0, n, 0, n, 0, n))
      [out, indices([n, n, n]).map { |k, j, i| [i, j, k].map { |c| -span / 2 + (c + 0.5) * voxel } }]
    end

    it "measures a sphere's signed distance within one percent at 48³" do
      out, places = distances(Geometry::Builders.sphere(1.0, divisions: 5), 48, 3.0)
      worst = out.to_a.zip(places).map { |d, place| (d - (Math.sqrt(place.sum { |c| c * c }) - 1.0)).abs }.max
      expect(worst).to be < 0.01
      inside = out.to_a.count(&:negative?) * (3.0 / 48)**3
      expect(inside).to be_within(0.01 * 4 / 3 * Math::PI).of(4 / 3.0 * Math::PI)
    end

    it "measures a box exactly, inside and out" do
      out, places = distances(Geometry::Builders.box([1.0, 1.0, 1.0]), 20, 2.0)
      exact = places.map do |place|
        q = place.map { |c| c.abs - 0.5 }
        Math.sqrt(q.sum { |c| [c, 0.0].max**2 }) + [q.max, 0.0].min
      end
      expect(largest_difference(out, exact)).to be < 1e-4
    end

    it "knows inside from outside though the mesh has a hole" do
      ball = Geometry::Builders.sphere(1.0)
      torn = Geometry::Mesh.new(ball.points,
        Kernel::Buffer.of(:i32, ball.triangles.to_a.drop(3 * 60), ball.count - 60, 3))
      expect(torn).not_to be_closed
      out, places = distances(torn, 16, 3.0)
      # Away from the hole and the skin the sign is sure.
      sure = out.to_a.zip(places).select { |_, place| (Math.sqrt(place.sum { |c| c * c }) - 1.0).abs > 0.35 }
      expect(sure.reject { |d, place| d.negative? == (Math.sqrt(place.sum { |c| c * c }) < 1.0) }).to eq([])
    end

    it "puts triangles into halves that lie apart, each of them once" do
      mesh = Geometry::Mesh.joined([Geometry::Builders.torus(0.7, 0.2, sides: 24, around: 12),
        Geometry::Builders.plane([400.0, 1.0, 400.0])])
      tree = described_class.new(mesh)
      expect(tree.order.to_a.sort).to eq((0...mesh.count).to_a)
      middles =
        mesh.triangles.to_a.each_slice(3).map { |t| t.map { |n| mesh.points.to_a[3 * n, 3] }.transpose.map(&:sum) }
      slots = 4
      slots *= 2 while slots < mesh.count
      halves = tree.order.to_a.partition.with_index { |_, n| n < slots / 2 }.map { |part| part.map { |n| middles[n] } }
      expect(3.times.any? { |axis| halves[0].map { |m| m[axis] }.max <= halves[1].map { |m| m[axis] }.min }).to be(true)
      random = Random.new(5)
      40.times do
        place = Array.new(3) { random.rand(-2.0..2.0) }
        near, = Geometry::BVHKernels.closest(tree.corners, tree.boxes, *place, 9.0, -1)
        least = (0...mesh.count).map { |t| Geometry::BVHKernels.triangle_distance(tree.corners, t, *place) }.min
        expect(near).to be_within(1e-5).of(Math.sqrt(least))
      end
    end

    it "lets no ray into an empty node" do
      boxes = Kernel::Buffer.of(:f32, [1e30, 1e30, 1e30, -1e30, -1e30, -1e30], 1, 6)
      expect(Geometry::RayKernels.enter(boxes, 0, Geometry::Ray.new(0.0, 0.0, 0.0, 1.0, 1.0, 1.0), 1e30)).to be >= 1e29
    end

    it "meets the same triangle as a search through all of them" do
      mesh = Geometry::Builders.torus(0.7, 0.2)
      bvh = described_class.new(mesh)
      random = Random.new(3)
      60.times do
        from = Array.new(3) { random.rand(-2.0..2.0) }
        to = Array.new(3) { random.rand(-0.8..0.8) }
        way = to.zip(from).map { |a, b| a - b }
        length = Math.sqrt(way.sum { |c| c * c })
        ray = [*from, *way.map { |c| c / length }]
        t, found, = Geometry::RayKernels.first_hit(bvh.corners, bvh.boxes, Geometry::Ray.new(*ray), 1e30)
        nearest =
          (0...mesh.count)
            .map { |n| Geometry::RayKernels.meet(bvh.corners, n, Geometry::Ray.new(*ray))[0] }
            .select { |s| s.positive? && s < 1e29 }
            .min
        expect(found >= 0).to be(!nearest.nil?)
        expect(t).to be_within(1e-4).of(nearest) if nearest
        expect(Geometry::RayKernels.blocked(bvh.corners, bvh.boxes, Geometry::Ray.new(*ray), 1e9)).to be(!nearest.nil?)
      end
    end
  end
end
