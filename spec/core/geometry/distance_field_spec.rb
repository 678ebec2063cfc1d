# frozen_string_literal: true

# Held to what each cell is when it is looked up by itself.
RSpec.describe Vumbral::Geometry::DistanceField do
  # @return [Array(Body, Transform)] a mesh that stands askew
  def standing(mesh, turn: [20.0, 35.0, 10.0])
    pose = Vumbral::Geometry::Pose.of({"position" => [0.02, -0.03, 0.01], "turn" => turn, "scale" => [1.0] * 3})
    [
      Vumbral::Geometry::Body.new(
        Vumbral::Sculpt::Skin.body(mesh)["outline"], [1.0] * 3, Vumbral::Sculpt::Skin::Only.new(mesh)
      ),
      pose.rigid
    ]
  end

  # @return [Array(Array<Float>, Array<Float>)] as the field tells them, and looked up one by one
  def told(body, rigid, voxel: 0.03, counts: [3, 3, 3], band: 0.3)
    lattice = Vumbral::Grid::Lattice.new(*counts.reverse.map { |n| -8.0 * n * voxel }, voxel)
    field = described_class.new(body, rigid, lattice, counts, band)
    spots = counts[0].times.flat_map { |k| counts[1].times.flat_map { |j| counts[2].times.flat_map { |i| [k, j, i] } } }
    places = Vumbral::Kernel::Buffer.of(:i32, spots, spots.size / 3, 3)
    values = Vumbral::Kernel::Buffer.new(:f32, 16 * places.dim(0), 16, 16)
    field.fill(values, places)
    shape = counts.map { |n| 16 * n }
    dense, exact = Array.new(2) { Vumbral::Kernel::Buffer.new(:f32, *shape).fill(band) }
    Vumbral::Geometry::DistanceKernels.lay(dense, values, places)
    body.distance(exact, rigid, [lattice.x, lattice.y, lattice.z], voxel, band)
    [dense.to_a, exact.to_a]
  end

  builders = Vumbral::Geometry::Builders
  {
    "a ring" => builders.torus(0.4, 0.12, sides: 48, around: 24),
    "a ball of many triangles" => builders.sphere(0.45, divisions: 5),
    "a block of twelve" => builders.box([0.9, 0.5, 0.7])
  }.each do |name, mesh|
    it "tells of #{name} what each cell is by itself: exactly near it, nearly so farther off" do
      dense, exact = told(*standing(mesh))
      near, far = dense.zip(exact).partition { |_, one| one.abs < 0.07 }
      expect(near.map { |one, other| (one - other).abs }.max).to be < 1e-4
      off = far.map { |one, other| (one - other).abs / 0.03 }
      expect([off.max, off.sum / off.size]).to match([be < 0.9, be < 0.01])
    end
  end

  it "finds the inside of parts that lie in each other" do
    ball = Vumbral::Geometry::Builders.sphere(0.3, divisions: 3)
    points = ball.points.to_a.each_slice(3).to_a
    triangles = ball.triangles.to_a.each_slice(3).to_a
    both =
      Vumbral::Geometry::Mesh.from(
        (points + points.map { |x, y, z| [x + 0.2, y, z] }).flatten,
        (triangles + triangles.map { |t| t.map { |n| n + points.size } }).flatten
      )
    dense, exact = told(*standing(both))
    wrong = dense.zip(exact).count { |one, other| one.negative? != other.negative? && other.abs > 1e-5 }
    expect([wrong, exact.count(&:negative?)]).to match([0, be > 2000])
  end

  # Rows that begin on a side of a box, or as good as there, must not take that side for all that comes.
  [[1.72, 0.56, 1.52], [0.5, 0.5, 0.5], [0.3, 0.9, 0.45]].each do |size|
    it "knows the inside of a box of #{size.join(" by ")} m whose sides lie on the grid" do
      box = Vumbral::Geometry::Builders.box(size)
      [size[0] / 97.0, 0.018, 0.025, 0.0137].each do |edge|
        made = Vumbral::Geometry::Operations::Remesh.call(box, {"edge" => edge, "name" => "Remesh"}, nil)
        expect(made.volume).to be_within(0.04 * size.reduce(:*)).of(size.reduce(:*)) if edge < 0.1 * size.min
        expect(made).to be_closed
      end
    end
  end

  it "finds an inside behind a hole" do
    ball = Vumbral::Geometry::Builders.sphere(0.4, divisions: 4)
    open = Vumbral::Geometry::Mesh.from(ball.points.to_a, ball.triangles.to_a.drop(180))
    dense, exact = told(*standing(open))
    expect(
      [open.closed?, dense.zip(exact).count { |one, other| one.negative? != other.negative? && other.abs < 0.07 }]
    ).to eq([false, 0])
  end
end
