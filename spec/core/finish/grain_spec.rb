# frozen_string_literal: true

module Vumbral
  # Grain that is measured is the grain that was put in.
  RSpec.describe Finish::GrainMeasure do
    include FinishHelp

    # A wall with a soft course and an edge, and grain of our own on it.
    def plate(amount, size, coloured, seed: 3)
      image = Kernel::Buffer.new(:f32, 216, 384, 4)
      Finish::BlendKernels.fill(
        image, Kernel::Buffer.of(:f32, [0.4, 0.36, 0.3, 1.0]), Kernel::Buffer.of(:f32, [0.1, 0.12, 0.14, 1.0]), 1.0, 0.3
      )
      (0...216).each { |y| (150...153).each { |x| 3.times { |c| image[y, x, c] = 0.9 } } }
      Finish::LensKernels.grain(image, 0.25 * amount * [size, 1.0].min, size, coloured, 5, seed)
      image
    end

    it "tells how much, how coarse and how coloured it is" do
      [[0.3, 1.0, 0.0], [0.5, 2.0, 0.4], [0.2, 3.0, 0.8]].each do |amount, size, coloured|
        found = described_class.of(plate(amount, size, coloured))
        expect(found.amount).to be_within(0.15 * amount).of(amount)
        expect(found.size * 2.16).to be_within(0.2 * size).of(size)
        expect(found.coloured).to be_within(0.12).of(coloured)
      end
    end

    it "finds hardly any where there is none, and says where it cannot tell" do
      expect(described_class.of(plate(0.0, 1.0, 0.0)).amount).to be < 1e-3
      expect(refusal { described_class.of(plain(0.0, 0.0, 0.0, 1.0, width: 64, height: 64)) }[1]).to match(
        /even enough to tell its grain/
      )
      expect(refusal { described_class.of(plain(0.4, 0.4, 0.4, 1.0, width: 8, height: 8)) }[0]).to eq("nothing_to_do")
    end
  end
end
