# frozen_string_literal: true

module Vumbral
  module Picture
    RSpec.describe SightKernels do
      # Smoke that lets nothing through, from x = 0 on, in a layer of a voxel three metres up.
      let(:lattice) { Grid::Lattice.new(-1.0, 2.9, -1.0, 0.05) }
      let(:air) do
        smoke = field(41, 5, 41) { |_, j, i| (j == 2 && i >= 20) ? 1.0 : 0.0 }
        none = Kernel::Buffer.new(:f32, 1, 1, 1)
        Air.new(smoke, none, 4000.0, Kernel::Buffer.new(:f32, 1, 1, 1, 1), none, 0.0, 0.0, 0.0, 1.0, false)
      end

      def row(size, place, **others)
        values = Array.new(Light::Lamps::WIDTH, 0.0)
        values[0, 4] = [size, *place]
        values[Light::LampKernels::SHADES] = 1.0
        others.each { |at, part| values[Light::LampKernels.const_get(at), part.size] = part }
        Kernel::Buffer.of(:f32, values).reshape(1, values.size)
      end

      # What comes of a lamp straight above x at y = 0, in the mean of all ways it is looked at.
      def left(lamps, x, distance)
        (0...16).sum do |turn|
          described_class.smoky(air, lattice, Geometry::Ray.new(x, 0.0, 0.0, 0.0, 1.0, 0.0), distance, lamps, 0,
            turn * 0.3927)
        end / 16.0
      end

      # The part of a disc beyond a line that passes its middle at `by`, in radii.
      def beyond(by)
        by = by.clamp(-1.0, 1.0)
        (Math.acos(by) - by * Math.sqrt(1.0 - by * by)) / Math::PI
      end

      it "lets smoke throw a shadow as soft as a ball of light is large, as far as what is seen of its disc" do
        [-0.5, -0.25, -0.12, 0.0, 0.12, 0.25, 0.5].each do |x|
          # A ball of 0.3 m six metres up, which the edge halfway hides up to twice as far off.
          lamps = row(1.3, [x, 6.0, 0.0])
          # The edge lies half a voxel before the first full one.
          expect(left(lamps, x, 6.0)).to be_within(0.13).of(beyond((x + 0.025) / 0.15)), "at #{x} m"
        end
      end

      it "does the same for a sun and a sheet, and leaves the shadow of a point hard" do
        sun = row(-0.05, [0.0, 1.0, 0.0])
        sheet = row(1.0, [0.0, 6.0, 0.0], KIND: [2.0], WAY: [0.0, -1.0, 0.0], EDGE: [0.3, 0.3], ACROSS: [1.0, 0.0, 0.0])
        point = row(1.0, [0.0, 6.0, 0.0])
        expect(left(sun, -0.6, 1e9)).to be > 0.99
        expect(left(sun, 0.6, 1e9)).to be < 0.01
        [sun, sheet].each { |lamps| expect(left(lamps, -0.025, 6.0)).to be_between(0.3, 0.7) }
        expect(left(point, -0.1, 6.0)).to be > 0.99
        expect(left(point, 0.05, 6.0)).to be < 0.01
      end

      it "leaves a lamp whole where there is no smoke" do
        expect(left(row(1.3, [0.0, 2.0, 0.0]), 0.0, 2.0)).to eq(1.0)
      end
    end
  end
end
