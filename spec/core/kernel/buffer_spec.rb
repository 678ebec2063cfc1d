# frozen_string_literal: true

module Vumbral
  RSpec.describe Kernel::Buffer do
    it "is indexed [z, y, x], the last contiguous" do
      buffer = described_class.of(:f32, (0...24).to_a, 2, 3, 4)
      expect(buffer[1, 2, 3]).to eq(23.0)
      expect(buffer[0, 1, 0]).to eq(4.0)
      buffer[1, 0, 2] = -1.5
      expect(buffer.to_a[14]).to eq(-1.5)
      expect([buffer.rank, buffer.dim(2), buffer.size, buffer.bytesize]).to eq([3, 4, 24, 96])
    end

    it "refuses indices outside and bytes of another length" do
      buffer = described_class.new(:i32, 2, 2)
      expect { buffer[0, 2] }.to raise_error(IndexError, /outside/)
      expect { buffer[0] }.to raise_error(IndexError, /1 indices/)
      expect { buffer[0, -1] = 1 }.to raise_error(IndexError)
      expect { described_class.new(:f32, 2, bytes: "abc") }.to raise_error(
        ArgumentError, /3 bytes given for a buffer of 8/
      )
      expect { described_class.new(:f32, 65_536, 65_536) }.to raise_error(ArgumentError, /more than a buffer holds/)
      expect { buffer.replace(described_class.new(:i32, 5)) }.to raise_error(ArgumentError)
    end

    it "copies and reshapes independently, and fills" do
      a = described_class.of(:f32, [1.0, 2.0, 3.0, 4.0], 2, 2)
      b = a.copy
      c = a.reshape(4)
      a.fill(9.0)
      expect(a.to_a).to eq([9.0] * 4)
      expect([b.to_a, c.to_a]).to eq([[1.0, 2.0, 3.0, 4.0]] * 2)
      expect(c.shape).to eq([4])
    end

    it "stays where it is while the collector works" do
      buffers = Array.new(200) { |n| described_class.of(:f32, [n.to_f] * 3) }
      addresses = buffers.map(&:address)
      GC.start
      GC.compact if GC.respond_to?(:compact)
      expect(buffers.map(&:address)).to eq(addresses)
      expect(buffers.each_with_index.all? { |buffer, n| buffer.to_a == [n.to_f] * 3 }).to be(true)
    end

    it "gives its bytes as files keep them" do
      expect(described_class.of(:u16, [1, 258]).bytes).to eq([1, 0, 2, 1].pack("C*"))
      expect(described_class.of(:f64, [1.5]).bytes).to eq([1.5].pack("E"))
      expect(described_class.new(:u8, 0).bytes).to eq("")
    end
  end

  RSpec.describe Kernel::Half do
    it "rounds to the nearest half, ties to even" do
      {
        0.0 => 0, 1.0 => 0x3c00, -2.0 => 0xc000, 65_504.0 => 0x7bff, 65_520.0 => 0x7c00, 6.103515625e-5 => 0x0400,
        5.960464477539063e-8 => 0x0001, 2.0**-26 => 0, 1.0 + 2.0**-11 => 0x3c00, 1.0 + 3 * 2.0**-11 => 0x3c02,
        Float::INFINITY => 0x7c00
      }.each { |value, bits| expect(described_class.encode(value)).to eq(bits), value.to_s }
      expect(described_class.decode(described_class.encode(Float::NAN))).to be_nan
    end

    it "agrees with what kernels read and write" do
      values = (1..400).map { |n| Math.sin(n) * 10.0**(n % 9 - 4) }
      half = Kernel::Buffer.of(:f16, values)
      expect(half.to_a).to eq(values.map { |v| described_class.decode(described_class.encode(v)) })
      half.to_a.zip(values).each { |a, b| expect(a).to be_within([b.abs * 0.0005, 6e-8].max).of(b) }
    end
  end
end
