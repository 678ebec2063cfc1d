# frozen_string_literal: true

module Vumbral
  RSpec.describe Liquid::Tension do
    include Liquids

    def sigma = 7.3e-5

    def voxel = 0.01

    # A drop whose radius goes by a shape, in the middle of a box.
    def drop(radius, share)
      size = [(2.6 * radius).ceil + 6] * 3
      middle = size[0] / 2.0
      poured(size, voxel) do |x, y, z|
        far = Math.sqrt([x, y, z].sum { |c| (c - middle)**2 })
        up = far.zero? ? 0.0 : (y - middle) / far
        far - radius * (1.0 + share * 0.5 * (3.0 * up * up - 1.0))
      end
    end

    # How much longer than wide.
    def stretched(state)
      middle = middle(state)
      places(state).sum { |place| place.zip(middle).map { |c, m| (c - m)**2 }.then { |x, y, z| y - 0.5 * (x + z) } } /
        state.drops.count
    end

    it "tells how strongly a ball is curved, and nothing of what is even" do
      full =
        field(32, 32, 32) { |k, j, i| (0.5 - (Math.sqrt([k, j, i].sum { |c| (c - 15.5)**2 }) - 10.0)).clamp(0.0, 1.0) }
      curved = described_class.new([32, 32, 32]).pressure(full, Flow::Faces.still([32, 32, 32]), 1.0, 1.0, 2.0)
      near = (0...32).filter_map { |i| curved[15, 15, i] if full[15, 15, i].between?(0.2, 0.8) }
      # The sum of both curvatures, by the voxels' own length squared.
      expect(near).to all(be_within(8).percent_of(2.0 / 10.0 / 4.0))
      even = field(16, 16, 16) { |_, j, _| (8.2 - j).clamp(0.0, 1.0) }
      flat = described_class.new([16, 16, 16]).pressure(even, Flow::Faces.still([16, 16, 16]), 1.0, 1.0, 1.0)
      expect(flat.to_a.map(&:abs).max).to be < 1e-5
    end

    # Rayleigh (1879): the square of the frequency is 8 times the tension by the density and the radius cubed.
    it "lets a drop swing as often as Rayleigh has it, and come to rest" do
      solver, state = drop(8.0, 0.12)
      radius = voxel * (3.0 * state.drops.count / 8.0 / (4.0 * Math::PI))**(1.0 / 3.0)
      period = 2.0 * Math::PI / Math.sqrt(8.0 * sigma / radius**3)
      dt = period / 100.0
      expect(described_class.substeps(sigma, dt, voxel)).to be <= 2
      settings = Liquid::Settings.still(gravity: 0.0, tension: sigma)
      was = [stretched(state)]
      150.times do
        2.times { solver.substep(state, 0.5 * dt, settings) }
        was << stretched(state)
      end
      crossings = was.each_cons(2).with_index.filter_map { |(a, b), n| n + a / (a - b) if (a * b).negative? }
      expect(crossings.size).to eq 3
      expect((crossings[2] - crossings[0]) / 100.0).to be_within(0.1).of(1.0)
      expect(was.last(50).map(&:abs).max).to be < was[0]
      expect(middle(state)).to all_be_near([solver.size[0] / 2.0] * 3, 0.02)
    end

    it "takes more substeps for it, and no more than a step can carry where these are not allowed" do
      liquid = Liquid::Settings.still(gravity: 0.0, tension: sigma, substeps_most: 4)
      expect(Liquid::Solver.substeps(0.0, 1 / 24.0, 0.002, liquid)).to eq [4, true]
      expect(Liquid::Solver.substeps(0.0, 1 / 24.0, 0.02, liquid)).to eq [1, false]
      solver, state = drop(5.0, 0.2)
      40.times { solver.substep(state, 0.2, liquid) }
      expect(state.speed).to be < 0.05
    end

    it "leaves a pool at rest" do
      solver, state = poured([10, 12, 10], 0.05) { |_, y, _| y - 6.0 }
      flow(solver, state, 1.0, Liquid::Settings.still(tension: 10.0 * sigma))
      expect(state.speed).to be < 0.02
    end

    it "counts by the true size, and only where there is any" do
      settings = ->(**dials) { Liquid::Plan.of(small_water(**dials), :full).at(1)["liquid"] }
      expect(settings[].keys).not_to include("tension")
      expect(settings[tension: 0.073, true_size: 0.1]).to include("tension" => 0.073)
    end
  end
end
