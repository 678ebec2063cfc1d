# frozen_string_literal: true

module Vumbral
  # Every construct of the subset, built and as plain Ruby.
  module SubsetKernels
    extend Kernel::Library

    HALF = 0.5

    kernel a: I32, b: I32, returns: [I32, I32]
    def divide(a, b)
      return a / b, a % b
    end

    kernel a: F32, b: F32, returns: F32
    def remainder(a, b)
      a % b
    end

    kernel n: I32, returns: I32
    def loops(n)
      sum = 0
      n.times { |i| sum += i }
      1.upto(n) { |i| sum += 10 * i }
      n.downto(1) { |i| sum += 100 * i }
      (2...n).each { |i| sum += 1000 if i % 2 == 0 }
      (0..n).each do |i|
        next if i == 1
        break if i > 3

        sum += 7
      end
      while sum > 100_000
        sum -= 50_000
      end
      sum
    end

    kernel x: F32, returns: F32
    def branches(x)
      return -1.0 if x < 0.0

      if x < 1.0
        x * HALF
      elsif x < 2.0
        y = x > 1.5 ? 3.0 : 4.0
        y + x
      else
        x.clamp(0.0, 2.5) + [x, 1.0, -1.0].min + [x, 7.0].max
      end
    end

    kernel x: F32, returns: [I32, I32, I32, F32]
    def rounding(x)
      return x.floor, x.ceil, x.round, x.abs
    end

    kernel x: F64, returns: F64
    def mathematics(x)
      Math.sqrt(x) + Math.sin(x) * Math.cos(x) - Math.exp(-x) + Math.log(x) + Math.atan2(x, 2.0) + x**1.5 + x**2
    end

    kernel dst: F32[3], src: F32[3], gain: F32
    def scale(dst, src, gain)
      parallel(dst.dim(0)) do |k|
        dst.dim(1).times { |j| dst.dim(2).times { |i| dst[k, j, i] = gain * src[k, j, i] } }
      end
    end

    kernel src: F32[2], returns: F64
    def total(src)
      sum = parallel_sum(src.dim(0)) do |j|
        row = f64(0.0)
        src.dim(1).times { |i| row += src[j, i] }
        row
      end
      sum
    end

    kernel src: F32[1], returns: F64
    def top(src)
      most = parallel_max(src.size) { |i| src[i] }
      most
    end

    kernel a: F32, b: F32, returns: [F32, F32]
    def swapped(a, b)
      x, y = a, b
      x, y = y, x
      return x, y
    end

    kernel dst: F32[1], bytes: U8[1], wide: I64[1], half: F16[1]
    def types(dst, bytes, wide, half)
      dst.size.times do |i|
        local = local_f32(2)
        local[0] = bytes[i] * 2.0
        local[1], unused = swapped(half[i], 0.0)
        dst[i] = local[0] + local[1] + (wide[i] & 0xffff).to_f + unused
        bytes[i] = 255 - bytes[i]
      end
    end

    kernel row: F32[1], step: F32
    def ramp(row, step)
      row.size.times { |i| row[i] += step * i }
    end

    kernel row: F32[1]
    def ramps(row)
      ramp(row, 1.0)
      ramp(row, 0.5)
    end

    kernel flag: BOOL, a: I32, returns: BOOL
    def logic(flag, a)
      flag && (a > 2 || a == -1) && !(a == 5)
    end

    kernel x: F32, returns: F32
    def calling(x)
      Grid::Noise.fade(x) + branches(x)
    end
  end

  RSpec.describe Kernel::Translator do
    def both(name, *values)
      [SubsetKernels.public_send(name, *values), Kernel.reference { SubsetKernels.public_send(name, *values) }]
    end

    def expect_both(name, *values, within: 1e-5)
      built, ruby = both(name, *values)
      [built].flatten
        .zip([ruby].flatten)
        .each { |a, b| b.is_a?(Float) ? expect(a).to(be_within(within).of(b)) : expect(a).to(eq(b)) }
      built
    end

    it "divides whole numbers as Ruby does" do
      [[7, 2], [-7, 2], [7, -2], [-7, -2], [6, 3], [-6, 3], [0, 5]].each do |a, b|
        expect(expect_both(:divide, a, b)).to eq([a / b, a % b])
      end
      [[7.5, 2.0], [-7.5, 2.0], [-0.25, 1.0]].each { |a, b| expect_both(:remainder, a, b) }
    end

    it "loops, branches, rounds and computes like the Ruby it was written in" do
      [0, 1, 2, 5, 12].each { |n| expect_both(:loops, n) }
      [-1.0, 0.0, 0.4, 1.2, 1.7, 2.2, 9.0].each { |x| expect_both(:branches, x) }
      [-2.5, -0.4, 0.0, 0.5, 1.5, 2.75].each { |x| expect_both(:rounding, x) }
      [0.3, 1.0, 7.7].each { |x| expect_both(:mathematics, x, within: 1e-12) }
      [[true, 3], [true, 2], [false, 3], [true, -1], [true, 5]].each { |flag, a| expect_both(:logic, flag, a) }
      expect(SubsetKernels.swapped(1.0, 2.0)).to eq([2.0, 1.0])
      expect_both(:calling, 0.3)
    end

    it "reads and writes arrays of every type" do
      half = Kernel::Buffer.of(:f16, [0.5, -2.0, 1.25])
      results = [false, true].map do |reference|
        dst, bytes = Kernel::Buffer.new(:f32, 3), Kernel::Buffer.of(:u8, [0, 7, 255])
        wide = Kernel::Buffer.of(:i64, [1, 2**40 + 5, 3])
        call = -> { SubsetKernels.types(dst, bytes, wide, half) }
        reference ? Kernel.reference(&call) : call.call
        [dst.to_a, bytes.to_a]
      end
      expect(results[0]).to eq(results[1])
      expect(results[0]).to eq([[1.5, 17.0, 514.25], [255, 248, 0]])
    end

    it "adds up in a fixed order, whatever the number of threads" do
      src = random_field(97, 31)
      before = Kernel.threads
      sums = [1, 2, 3].map do |threads|
        Kernel.threads = threads
        SubsetKernels.total(src)
      end
      expect(sums.uniq.size).to eq(1)
      expect(sums[0]).to be_within(1e-4).of(src.to_a.sum)
      expect(SubsetKernels.top(Kernel::Buffer.of(:f32, [-3.0, -1.5, -2.0]))).to eq(-1.5)
    ensure
      Kernel.threads = before
    end

    it "keeps what is not a number visible" do
      dst, src = Kernel::Buffer.new(:f32, 1, 1, 2), Kernel::Buffer.of(:f32, [Float::NAN, Float::INFINITY], 1, 1, 2)
      SubsetKernels.scale(dst, src, 1.0)
      expect(dst[0, 0, 0]).to be_nan
      expect(dst[0, 0, 1]).to eq(Float::INFINITY)
      row = Kernel::Buffer.of(:f32, [1.0, Float::NAN, 7.0])
      expect(SubsetKernels.top(row)).to be_nan
      expect(Kernel.reference { SubsetKernels.top(row) }).to be_nan
    end

    it "lays into its callers what fills an array as well as what gives a number, but not what is parallel" do
      rows = Array.new(2) { Kernel::Buffer.new(:f32, 3) }
      SubsetKernels.ramps(rows[0])
      Kernel.reference { SubsetKernels.ramps(rows[1]) }
      expect(rows.map(&:to_a)).to all eq([0.0, 1.5, 3.0])
      heads = Kernel::Builder.new(SubsetKernels).source.scan(/^static (.*)k_SubsetKernels_(\w+)\(.*;$/)
      laid = heads.to_h { |way, name| [name, way.include?("always_inline")] }
      expect(laid).to include("ramp" => true, "swapped" => true, "scale" => false)
    end

    it "lets go of Ruby's lock while a kernel runs" do
      dst, src = Kernel::Buffer.new(:f32, 96, 128, 128), Kernel::Buffer.new(:f32, 96, 128, 128)
      ticks = 0
      running = done = false
      other = Thread.new { running ? ticks += 1 : Thread.pass until done }
      200.times do
        running = true
        SubsetKernels.scale(dst, src, 2.0)
        running = false
        break if ticks.positive?
      end
      done = true
      other.join
      expect(ticks).to be_positive
    end

    it "wants buffers of the declared kind, and what it writes apart from what it reads" do
      a = Kernel::Buffer.new(:f32, 2, 2, 2)
      expect { SubsetKernels.scale(a, Kernel::Buffer.new(:f64, 2, 2, 2), 1.0) }.to raise_error(
        ArgumentError, /wants src as f32\[3\]/
      )
      expect { SubsetKernels.scale(a, Kernel::Buffer.new(:f32, 2, 2), 1.0) }.to raise_error(ArgumentError, /wants src/)
      expect { SubsetKernels.scale(a, a, 1.0) }.to raise_error(ArgumentError, /another buffer/)
      expect { SubsetKernels.scale(a) }.to raise_error(ArgumentError, /takes 3 arguments/)
    end

    describe "what lies outside the subset" do
      # Loads a library from text, as a file of its own, and translates its one kernel.
      def refused(declaration, body)
        Dir.mktmpdir do |dir|
          file = File.join(dir, "outside.rb")
          name = "Outside#{rand(1 << 40)}"
          File.write(
            file,
            "module #{name}\n  extend Vumbral::Kernel::Library\n\n  kernel " \
              "#{declaration}\n#{body.gsub(/^/, "  ")}\nend\n"
          )
          load file
          Kernel::Builder.new(Object.const_get(name)).source
          nil
        rescue Kernel::OutsideSubset => error
          error.message.sub("#{dir}/", "")
        ensure
          Kernel.libraries.pop
        end
      end

      {
        "a string" => ["a: I32", "def f(a)\n  b = \"x\"\nend", "outside.rb:6: string cannot stand in a kernel"],
        "an unknown method" => [
          "a: F32, returns: F32", "def f(a)\n  a.tally\nend", "outside.rb:6: tally cannot stand in a kernel"
        ],
        "an unknown kernel" => [
          "a: F32, returns: F32", "def f(a)\n  other(a)\nend", "outside.rb:6: there is no kernel other"
        ],
        "a name without a value" => [
          "a: F32, returns: F32", "def f(a)\n  b = 1.0 if a > 0.0\n  c\nend", /outside.rb:7: /
        ],
        "writing an outer local inside parallel" => [
          "n: I32", "def f(n)\n  sum = 0.0\n  parallel(n) { |k| sum += 1.0 }\nend",
          /outside.rb:7: sum belongs to the code outside parallel/
        ],
        "parallel inside a loop" => [
          "n: I32", "def f(n)\n  n.times { |i| parallel(n) { |k| } }\nend",
          /outside.rb:6: parallel cannot stand inside a loop/
        ],
        "returning out of parallel" => [
          "n: I32, returns: I32", "def f(n)\n  parallel(n) { |k| return 1 }\n  2\nend",
          /outside.rb:6: a kernel cannot return out of parallel/
        ],
        "a fraction in a whole number" => [
          "n: I32", "def f(n)\n  a = 0\n  a += 0.5\nend", /outside.rb:7: a began as a whole number/
        ],
        "a number as a condition" => [
          "n: I32", "def f(n)\n  a = 0\n  a = 1 if n\nend", /outside.rb:7: a condition must be true or false/
        ],
        "too few indices" => [
          "a: F32[2], returns: F32", "def f(a)\n  a[0]\nend", /outside.rb:6: a has 2 dimensions, not 1/
        ],
        "a fraction as an index" => [
          "a: F32[1], returns: F32", "def f(a)\n  a[0.5]\nend", /outside.rb:6: an index is a whole number/
        ],
        "changing an argument" => [
          "a: F32, returns: F32", "def f(a)\n  a = 2.0\n  a\nend", /outside.rb:6: a is an argument/
        ],
        "giving back too little" => [
          "a: F32, returns: [F32, F32]", "def f(a)\n  return a\nend", "outside.rb:6: gives back 1 values but declares 2"
        ],
        "other arguments than declared" => ["b: F32", "def f(a)\nend", /outside.rb:5: f takes a but declares b/]
      }.each do |what, (declaration, body, message)|
        it "refuses #{what} with file and line" do
          expect(refused(declaration, body)).to match(message.is_a?(Regexp) ? message : /\A#{Regexp.escape(message)}/)
        end
      end
    end

    describe "the cache" do
      it "builds anew only what changed, and survives a half-written file" do
        Dir.mktmpdir do |dir|
          allow(Kernel::Builder).to receive(:cache).and_return(dir)
          first = Kernel::Builder.new(SubsetKernels).build
          at = File.mtime(first.path)
          expect(Kernel::Builder.new(SubsetKernels).build.path).to eq(first.path)
          expect(File.mtime(first.path)).to eq(at)
          expect(first.written["scale"]).to eq(["dst"])
          expect(first.written["types"]).to eq(%w[dst bytes])
          File.write(Dir[File.join(dir, "*.json")].first, "{")
          expect(Kernel::Builder.new(SubsetKernels).build.path).to eq(first.path)
        end
      end

      it "builds a library outside of the core anew when its file changed" do
        Dir.mktmpdir do |dir|
          allow(Kernel::Builder).to receive(:cache).and_return(dir)
          name = "Outer#{rand(1 << 40)}"
          built = %w[1.0 2.0].map do |number|
            file = File.join(dir, "#{number}.rb")
            File.write(
              file,
              "module #{name}\n  extend Vumbral::Kernel::Library\n  kernel a: F32, returns: F32\n  def more(a)\n    " \
                "a + #{number}\n  end\nend\n"
            )
            load file
            Kernel::Builder.new(Object.const_get(name)).build.path
          end
          Kernel.libraries.pop
          expect(built.uniq.size).to eq(2)
        end
      end

      it "says in one sentence that there is no compiler" do
        Dir.mktmpdir do |dir|
          allow(Kernel::Builder).to receive_messages(cache: dir, compiler: "no-such-compiler")
          expect(refusal { Kernel::Builder.new(SubsetKernels).build }).to eq(
            ["no_compiler", "There is no C compiler called no-such-compiler; run bin/setup, which installs one."]
          )
        end
      end
    end

    it "can stop where an array is left" do
      script = <<~RUBY
        require #{File.join(ROOT, "lib", "vumbral").inspect}
        Vumbral::Grid::BrickKernels.native
        b = Vumbral::Kernel::Buffer.new(:i32, 1, 4)
        Vumbral::Flow::CropKernels.extent(b, Vumbral::Kernel::Buffer.new(:f32, 2, 2, 2).fill(1.0), 0.5)
      RUBY
      Dir.mktmpdir do |dir|
        output, status =
          Open3.capture2e(
            {
              "VUMBRAL_KERNEL_CHECKS" => "1", "VUMBRAL_KERNEL_CACHE" => dir,
              "BUNDLE_GEMFILE" => File.join(ROOT, "Gemfile")
            },
            RbConfig.ruby,
            "-rbundler/setup",
            "-e",
            script
          )
        expect(output).to include("kernel array found left: index 1 of 1")
        expect(status).not_to be_success
      end
    end
  end
end
