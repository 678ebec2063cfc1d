# frozen_string_literal: true

module Vumbral
  RSpec.describe Flow::FlowKernels do
    # Rows longer and shorter than the columns that go together.
    let(:faces) { Flow::Faces.still([3, 4, 70]) }

    it "finds the fastest gas on the faces of every axis, whatever its sign, at the ends of rows and layers too" do
      expect(described_class.fastest(faces)).to eq(0.0)
      {u: [2, 3, 70], v: [0, 4, 69], w: [3, 0, 0]}.each_with_index do |(axis, place), n|
        faces.public_send(axis)[*place] = -1.5 - n
        expect(described_class.fastest(faces)).to eq(1.5 + n)
        expect(described_class.peak(faces.public_send(axis))).to eq(1.5 + n)
      end
    end

    it "tells of a speed that is no number, wherever it stands and whatever is faster" do
      faces.v[1, 2, 3] = 9.0
      [[:u, [0, 0, 0]], [:v, [2, 4, 69]], [:w, [3, 3, 66]]].each do |axis, place|
        field = faces.public_send(axis)
        field[*place] = Float::NAN
        expect([described_class.fastest(faces), described_class.peak(field)]).to all be_nan
        field[*place] = 0.0
      end
      expect(described_class.fastest(faces)).to eq(9.0)
    end
  end
end
