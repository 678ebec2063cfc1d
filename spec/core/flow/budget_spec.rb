# frozen_string_literal: true

module Vumbral
  RSpec.describe Flow::Budget do
    def lump(size, sharp, smooth)
      field(*size) do |k, j, i|
        far = ->(middle) { Math.sqrt([k, j, i].zip(middle).sum { |a, b| (a - b)**2 }) }
        ((far.call(sharp) < 3.2) ? 2.0 : 0.0) + Math.exp(-far.call(smooth)**2 / 18.0)
      end
    end

    def halves(values) = values.to_a.each_with_index.partition { |_, n| n % 72 < 36 }.map { |part| part.sum(&:first) }

    it "keeps the amount of each of two lumps far apart, whatever the other loses" do
      transport = Flow::Transport.new([20, 20, 72], 1.0, sides(false))
      smoke = lump([20, 20, 72], [10, 10, 12], [10, 10, 56])
      before = halves(smoke)
      # A shear that folds the sharp lump and leaves the smooth one nearly alone.
      flow = Flow::Faces.still([20, 20, 72])
      flow.v.replace(
        field(20, 21, 72) do |k, j, i|
          (j.between?(2, 18) && i < 26) ? 0.35 * Math.sin(1.3 * i) * Math.sin(0.9 * k) * (1 - ((j - 10) / 9.0)**2) : 0.0
        end
      )
      flow.u.replace(field(20, 20, 73) { |_, _, i| (i > 38) ? 0.11 : 0.0 })
      transport.follow(flow.to_a, 1.0)
      25.times { smoke, = transport.carry(smoke) }
      after = halves(smoke)
      expect(after.sum).to be_within(1e-4 * before.sum).of(before.sum)
      before.zip(after).each { |a, b| expect(b).to be_within(2e-3 * a).of(a) }
    end

    it "counts all of a field, wherever it lies, and what leaves as gone from where it was" do
      budget = described_class.new([9, 17, 30])
      smoke = random_field(9, 17, 30, range: 0.0..1.0)
      amounts = budget.amounts(smoke)
      expect(amounts.to_a.each_slice(2).sum(&:first)).to be_within(1e-3).of(smoke.to_a.sum)
      transport = Flow::Transport.new([9, 17, 30], 1.0, sides(true))
      flow = Flow::Faces.still([9, 17, 30])
      flow.u.fill(2.0)
      transport.follow(flow.to_a, 1.0)
      gone = indices([9, 17, 30]).sum { |k, j, i| (i > 27) ? smoke[k, j, i] : 0.0 }
      moved, left = transport.carry(smoke)
      expect(left).to be_within(1e-3).of(gone)
      expect(moved.to_a.sum + left).to be_within(1e-2).of(amounts.to_a.each_slice(2).sum(&:first))
    end
  end
end
