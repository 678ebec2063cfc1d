# frozen_string_literal: true

module Vumbral
  # A thing whose motion is known, from where its corners are seen.
  RSpec.describe Finish::Pinning do
    let(:camera) do
      {"position" => [0.3, 1.5, 5.0], "target" => [0.0, 1.2, 0.0], "focal" => 35.0, "aperture" => 0.0, "focus" => 6.0}
    end
    let(:corners) do
      [
        [-0.2, -0.3, 0.15], [0.2, -0.3, 0.15], [0.2, 0.3, 0.15], [-0.2, 0.3, 0.15], [0.2, -0.3, -0.15],
        [0.2, 0.3, -0.15]
      ]
    end
    let(:shape) { 16 / 9.0 }

    def pose(frame, scale = 1.0) =
      Geometry::Pose.new(
        [-0.6 + 0.04 * frame, 1.1 + 0.05 * Math.sin(frame * 0.5), 0.5 - 0.02 * frame],
        [5 * Math.sin(0.3 * frame), 10 + 3.0 * frame, 4 * Math.cos(0.2 * frame)], [scale] * 3
      )

    # @param noise [Float] pixels of a frame 1080 high
    def seen(points, pose, noise, random) =
      points.map do |point|
        Finish::Spots
          .seen(camera, pose.transform.apply(point), shape)
          .first(2)
          .zip([shape, 1.0])
          .map { |c, wide| c + 2 * noise * (random.rand - 0.5) / 1080 / wide }
      end

    def far(pose) = Math.sqrt(pose.position.zip(camera["position"]).sum { |a, b| (a - b)**2 })

    it "finds it within half a percent of its distance from spots a tenth of a pixel off, frame by frame" do
      random = Random.new(1)
      from = Geometry::Pose.new([-0.5, 1.2, 0.6], [8.0, 20.0, 0.0], [1.0] * 3)
      (0..30).each do |frame|
        from, off = described_class.new(corners, shape).pose(camera, seen(corners, pose(frame), 0.17, random), from)
        expect((far(from) - far(pose(frame))).abs).to be < 0.005 * far(pose(frame))
        expect(from.turn).to all_be_near(pose(frame).turn, 0.5)
        expect(off * 1080).to be < 0.3
      end
    end

    it "is exact with exact spots, for four of them and for one that is sized" do
      found, off =
        described_class.new(corners.first(4), shape).pose(
          camera, seen(corners.first(4), pose(3, 1.5), 0.0, Random.new(1)),
          Geometry::Pose.new([-0.4, 1.0, 0.5], [0.0, 10.0, 0.0], [1.5] * 3)
        )
      expect(found.position).to all_be_near(pose(3).position, 1e-4)
      expect(off).to be < 1e-6
    end

    it "asks for three spots at least" do
      expect(refusal { described_class.new(corners.first(2), shape) }[1]).to match(/pinned by 3 tracked spots or more/)
    end
  end
end
