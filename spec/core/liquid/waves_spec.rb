# frozen_string_literal: true

module Vumbral
  RSpec.describe Liquid::Waves do
    include Liquids

    def voxel = 0.05

    def gravity = Liquid::Settings::GRAVITY

    def depth = 0.6

    def row(**changes) =
      {"from" => "x0", "height" => 0.09, "length" => 1.6, "calms" => %w[x1], "wide" => 1.0, "line" => depth}.merge(
        changes.transform_keys(&:to_s)
      )

    it "goes by what linear theory says of length and depth" do
      # On deep water by length alone, on shallow water by depth alone.
      deep = described_class.new(row(line: 20.0), gravity, voxel).frequency
      expect(deep).to be_within(1e-6).of(Math.sqrt(gravity * 2.0 * Math::PI / 1.6))
      shallow = described_class.new(row(line: 0.05, length: 5.0), gravity, voxel).frequency
      expect(shallow * 5.0 / (2.0 * Math::PI)).to be_within(0.5).percent_of(Math.sqrt(gravity * 0.05))
    end

    it "draws to waves at their side, to rest at others, and leaves the middle alone" do
      push, faces = Grid::VectorField.still([20, 12, 80]), Flow::Faces.still([20, 12, 80])
      faces.u.fill(0.5)
      described_class.new(row, gravity, voxel).push(push, faces, 10.0, 0.01)
      expect(push.x[10, 6, 40]).to eq 0.0
      # Nearly there in a step that is long for the zone.
      described_class.new(row, gravity, voxel).push(long = Grid::VectorField.still([20, 12, 80]), faces, 10.0, 1.0)
      expect(long.x[10, 6, 79]).to be_within(0.02).of(-0.5)
      expect(push.x[10, 6, 79]).to be < push.x[10, 6, 70]
      expect(push.z.to_a.map(&:abs).max).to eq 0.0
    end

    # A channel with its own side at one end, and one that lets waves go at the other.
    it "sends waves that are as high as they are to be, and throws few back" do
      solver, state = poured([4, 20, 96], voxel) { |_, y, _| y - depth / voxel }
      waves = described_class.new(row, gravity, voxel)
      period = 2.0 * Math::PI / waves.frequency
      steps = 40
      heights = Hash.new { |all, column| all[column] = [] }
      (9 * steps).times do
        count, = Liquid::Solver.substeps(state.speed, period / steps, voxel, Liquid::Settings.still)
        count.times do
          solver.substep(state, period / steps / count, Liquid::Settings.still) do |push, faces, _|
            waves.push(push, faces, state.time, period / steps / count)
          end
        end
        (38..58).step(4) do |column|
          heights[column] << voxel * (0...20).sum { |j| solver.full[2, j, column].clamp(0.0, 1.0) }
        end
      end
      found = heights.values.map do |all|
        last = all.last(3 * steps)
        mean = last.sum / last.size
        Math.hypot(
          *%i[cos sin].map do |way|
            2.0 / last.size *
              last.each_with_index.sum { |height, n| (height - mean) * Math.send(way, 2.0 * Math::PI * n / steps) }
          end
        )
      end
      expect(found.sum / found.size).to be_within(10).percent_of(0.045)
      # What comes back makes it higher here and lower there.
      expect((found.max - found.min) / (found.max + found.min)).to be < 0.12
    end

    it "is told by the plan where there is any, and found where it cannot be" do
      settings = ->(**dials) { Liquid::Plan.of(small_water(**dials), :full).at(1) }
      expect(settings[]).not_to include("waves")
      expect(settings[waves_from: "z1", calms: "others", line: 0.2]["waves"]).to include(
        "from" => "z1", "calms" => %w[x0 x1 z0], "line" => 0.2
      )
      codes = ->(**dials) do
        Preflight::Survey.new(small_water(**dials), nil).findings.map(&:code) & %w[waves_break waves_room waves_open]
      end
      expect(codes[waves_from: "x0", wave_height: 0.2, wave_length: 0.5, wave_zone: 0.1]).to eq %w[waves_break]
      expect(codes[waves_from: "x0", wave_height: 0.02, wave_length: 0.5, wave_zone: 0.3]).to eq %w[waves_room]
      expect(codes[waves_from: "x0", open_x0: true, wave_height: 0.02, wave_length: 0.5, wave_zone: 0.1]).to eq %w[
        waves_open
      ]
      expect(codes[waves_from: "x0", wave_height: 0.02, wave_length: 0.5, wave_zone: 0.1]).to be_empty
    end
  end
end
