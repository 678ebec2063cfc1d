# frozen_string_literal: true

RSpec.describe Vumbral::Geometry::SurfaceSpeed do
  def speeds(now, later, seconds = 0.5) = described_class.of(now, later, seconds).to_a.each_slice(3).to_a

  let(:ball) { Vumbral::Geometry::Builders.sphere(0.4, divisions: 3) }

  it "is what the same triangles went in the time between, backwards too" do
    moved = ball.transformed(Vumbral::Geometry::Transform.place(position: [0.1, -0.2, 0.3]))
    expect(speeds(ball, moved).flatten.each_slice(3)).to all(
      match([be_within(1e-5).of(0.2), be_within(1e-5).of(-0.4), be_within(1e-5).of(0.6)])
    )
    expect(speeds(moved, ball, -0.5)[0]).to match(
      [be_within(1e-5).of(0.2), be_within(1e-5).of(-0.4), be_within(1e-5).of(0.6)]
    )
  end

  it "goes along the normals where a surface is made anew, outwards and inwards" do
    {0.45 => 0.1, 0.35 => -0.1}.each do |radius, speed|
      found = speeds(ball, Vumbral::Geometry::Builders.sphere(radius, divisions: 5))
      along = found.zip(ball.points.to_a.each_slice(3)).map { |way, place| way.zip(place).sum { |a, b| a * b } / 0.4 }
      expect(along.minmax).to all(be_within(0.004).of(speed))
    end
  end

  it "stands still where there is nothing to go to" do
    expect(speeds(ball, nil).flatten.uniq).to eq([0.0])
    expect(speeds(ball, Vumbral::Geometry::Mesh.from([], [])).flatten.uniq).to eq([0.0])
  end

  it "is written for each point of a file, props one behind the other" do
    move = ->(frame, x) do
      {
        "do" => "key", "node" => "ball", "dial" => "position", "frame" => frame, "value" => [x, 0.0, 0.0],
        "ease" => "linear"
      }
    end
    document =
      small_shot(
        edits: [
          {
            "do" => "add",
            "kind" => "prop",
            "id" => "ball",
            "name" => "Ball",
            "dials" => {
              "radius" => 0.2, "divisions" => 1
            }
          },
          move[1, 0.0],
          move[4, 0.6]
        ]
      )
    standing = Vumbral::Geometry::Standing.new(document, nil)
    mesh, speeds = standing.at(2), standing.speeds(2)
    ball = mesh.parts.find { |part| part.name == "Ball" }
    at = mesh.triangles[ball.first, 0]
    expect([speeds.dim(0), speeds[at, 0], speeds[0, 0]]).to match(
      [mesh.points.dim(0), be_within(1e-3).of(0.2 * document.rate), 0.0]
    )
    bytes = Vumbral::Formats::PLY.write(mesh, speeds)
    expect(bytes[/.*?end_header/mn]).to include("property float vx")
    back = Vumbral::Formats::PLY.read(bytes)
    expect(back.points.to_a).to eq(Vumbral::Formats::Vertices.new(mesh).points.to_a)
    expect(back.paint.to_a).to eq(Vumbral::Formats::PLY.read(Vumbral::Formats::PLY.write(mesh)).paint.to_a)
  end
end
