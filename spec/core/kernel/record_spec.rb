# frozen_string_literal: true

module Vumbral
  # Records and loops over cells, built and as plain Ruby.
  module RecordKernels
    extend Kernel::Library

    Pair = Kernel::Record.of(low: F32[3], high: F32[3], gain: F32, on: BOOL)

    kernel pair: Pair, k: I32, returns: F32
    def first_of(pair, k)
      pair.on ? pair.gain * pair.low[k, 0, 0] : 0.0
    end

    kernel low: F32[3], high: F32[3], returns: F32
    def made(low, high)
      first_of(Pair.new(low, high, 2.0 * low.dim(0), low.dim(1) > 1), 1)
    end

    kernel out: F32[3], pair: Pair
    def mixed(out, pair)
      each_cell(out) do |k, j, i|
        next if i == 1

        wide = pair.low[k, j, i] + pair.high[k, j, i] * pair.gain
        wide += pair.high.dim(2) if pair.on
        out[k, j, i] = wide + first_of(pair, k)
      end
    end

    kernel pair: Pair, amount: F32
    def raise_low(pair, amount)
      each_cell(pair.low) { |k, j, i| pair.low[k, j, i] += amount }
    end

    kernel pair: Pair
    def raise_twice(pair)
      raise_low(pair, 0.5)
      raise_low(pair, 0.5)
    end
  end

  RSpec.describe Kernel::Record do
    def pair(on: true)
      RecordKernels::Pair.new(random_field(3, 4, 5, seed: 1), random_field(3, 4, 5, seed: 2), 0.25, on)
    end

    it "hands its parts on, and to other kernels, as plain Ruby does" do
      [true, false].each do |on|
        built, ruby = Array.new(2) { Kernel::Buffer.new(:f32, 3, 4, 5) }
        RecordKernels.mixed(built, pair(on: on))
        Kernel.reference { RecordKernels.mixed(ruby, pair(on: on)) }
        built.to_a.zip(ruby.to_a).each { |a, b| expect(a).to be_within(1e-6).of(b) }
        expect(built[1, 1, 1]).to eq(0.0)
        expect(built[2, 3, 4]).to be_within(1e-6).of(pair.low[2, 3, 4] + 0.25 * pair.high[2, 3, 4] +
          (on ? 5 + 0.25 * pair.low[2, 0, 0] : 0.0))
      end
    end

    it "can be made on the spot" do
      given = pair
      built = RecordKernels.made(given.low, given.high)
      expect(built).to be_within(1e-6).of(6.0 * given.low[1, 0, 0])
      expect(Kernel.reference { RecordKernels.made(given.low, given.high) }).to be_within(1e-6).of(built)
    end

    it "is written through, in the kernel and in those that it calls" do
      given = pair
      before = given.low[1, 2, 3]
      RecordKernels.raise_twice(given)
      expect(given.low[1, 2, 3]).to be_within(1e-6).of(before + 1.0)
    end

    it "is taken as nothing but itself, its parts of their kind, and what is written apart from the rest" do
      out = Kernel::Buffer.new(:f32, 3, 4, 5)
      field = random_field(3, 4, 5)
      expect { RecordKernels.mixed(out, [field, field, 1.0, true]) }.to raise_error(
        ArgumentError, /wants pair as .*Pair/
      )
      flat = RecordKernels::Pair.new(field, Kernel::Buffer.new(:f32, 3), 1.0, true)
      expect { RecordKernels.mixed(out, flat) }.to raise_error(ArgumentError, /wants pair\.high as f32\[3\]/)
      twice = RecordKernels::Pair.new(field, field, 1.0, true)
      expect { RecordKernels.raise_low(twice, 1.0) }
        .to raise_error(ArgumentError, /writes pair\.low, so pair\.high must be another buffer/)
    end

    # Loads a kernel from text and translates it.
    def refused(declaration, body)
      Dir.mktmpdir do |dir|
        name = "Records#{rand(1 << 40)}"
        file = File.join(dir, "outside.rb")
        File.write(file, "module #{name}\n  extend Vumbral::Kernel::Library\n  PAIR = Vumbral::RecordKernels::Pair\n" \
          "  kernel #{declaration}\n#{body.gsub(/^/, "  ")}\nend\n")
        load file
        Kernel::Builder.new(Object.const_get(name)).source
        nil
      rescue Kernel::OutsideSubset => error
        error.message.sub("#{dir}/", "")
      ensure
        Kernel.libraries.pop
      end
    end

    it "says with file and line what it has not, and where a loop over cells cannot stand" do
      expect(refused("pair: PAIR, returns: F32", "def f(pair)\n  pair.middle\nend"))
        .to eq("outside.rb:6: pair has no middle; it has: low, high, gain, on")
      expect(refused("pair: PAIR, out: F32[3]", "def f(pair, out)\n  Vumbral::RecordKernels.mixed(out, out)\nend"))
        .to eq("outside.rb:6: the record pair belongs here")
      expect(
        refused("a: F32[3], returns: F32", "def f(a)\n  Vumbral::RecordKernels.first_of(PAIR.new(a, a, 1.0), 0)\nend")
      ).to eq("outside.rb:6: PAIR has 4 parts")
      expect(refused("a: F32[2]", "def f(a)\n  each_cell(a) { |k, j, i| a[k, j] = 1.0 }\nend"))
        .to eq("outside.rb:6: each_cell goes over a three-dimensional array")
      expect(refused("a: F32[3]", "def f(a)\n  each_cell(a) { |k| a[k, 0, 0] = 1.0 }\nend"))
        .to eq("outside.rb:6: each_cell takes an array and a block of three numbers")
      expect(refused("a: F32[3]", "def f(a)\n  2.times { |n| each_cell(a) { |k, j, i| a[k, j, i] = 1.0 } }\nend"))
        .to eq("outside.rb:6: each_cell cannot stand inside a loop or another parallel")
      expect(refused("a: F32[3]", "def f(a)\n  s = 0.0\n  each_cell(a) { |k, j, i| s += a[k, j, i] }\nend"))
        .to match(/outside.rb:7: s belongs to the code outside parallel/)
    end
  end
end
