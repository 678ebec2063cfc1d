# frozen_string_literal: true

module Vumbral
  RSpec.describe Picture::Sampler do
    let(:settings) { {"samples" => 16, "noise" => 0.0, "denoise" => false, "fireflies" => false} }

    # A grey picture with chance in its left half.
    def grainy(random, size: 32, amount: 0.2)
      Kernel::Buffer.of(
        :f32,
        Array
          .new(size * size) do |n|
            (0.5 + ((n % size < size / 2) ? amount * (random.rand - 0.5) : 0.0)).then { |v| [v, v, v, 1.0] }
          end
          .flatten,
        size,
        size,
        4
      )
    end

    def gathered(with)
      random = Random.new(3)
      sampler = described_class.new(32, 32, settings.merge(with))
      16.times { break if sampler.add(grainy(random)) == false }
      sampler
    end

    # Root of the mean square off the grey, left and right.
    def off(image) =
      [0...16, 16...32].map do |range|
        Math.sqrt(range.sum { |x| 32.times.sum { |y| (image[y, x, 0] - 0.5)**2 } } / 512.0)
      end

    it "is the mean of its pictures, and even where they are" do
      left, right = off(gathered({}).picture)
      expect(left).to be_within(0.003).of(0.2 / Math.sqrt(12 * 16))
      expect(right).to be < 1e-6
    end

    it "smooths what is not sure, and leaves what is" do
      left, right = off(gathered({"denoise" => true}).picture)
      expect(left).to be < 0.35 * 0.2 / Math.sqrt(12 * 16)
      expect(right).to be < 5e-4
    end

    it "keeps an edge that every picture shows" do
      random = Random.new(5)
      sampler = described_class.new(32, 32, settings.merge("denoise" => true))
      16.times do
        sampler.add(
          grainy(random, amount: 0.1).tap do |image|
            32.times { |y| 16.times { |x| 3.times { |c| image[y, x + 8, c] += 1.0 if x < 8 } } }
          end
        )
      end
      image = sampler.picture
      expect(32.times.sum { |y| image[y, 8, 0] - image[y, 7, 0] } / 32).to be_within(0.02).of(1.0)
    end

    it "tames a pixel that one picture made far too bright" do
      bright = {true => nil, false => nil}
      bright.each_key do |tame|
        sampler = described_class.new(32, 32, settings.merge("fireflies" => tame))
        16.times do |n|
          sampler.add(
            grainy(Random.new(n), amount: 0.0).tap { |image| 3.times { |c| image[5, 5, c] = 400.0 if n == 7 } }
          )
        end
        bright[tame] = sampler.picture[5, 5, 0]
      end
      expect(bright).to match(false => be > 20.0, true => be_within(1e-3).of(0.5))
    end

    it "does not lay a glint that one picture met over what is around it, and still smooths beside it" do
      glints = ->(image) { [5, 6].each { |x| 3.times { |c| image[16, x, c] = 400.0 } } }
      off = [true, false].map do |glint|
        random = Random.new(3)
        sampler = described_class.new(32, 32, settings.merge("denoise" => true, "fireflies" => true))
        16.times { |n| sampler.add(grainy(random, amount: 0.02).tap { |image| glints.call(image) if glint && n == 7 }) }
        sampler.picture
      end
      apart =
        (0...16)
          .to_a
          .product((0...32).to_a)
          .filter_map { |x, y| (off[0][y, x, 0] - off[1][y, x, 0]).abs if (y - 16).abs > 5 || x > 11 }
      expect(apart.max).to be < 0.05
      expect(off[0][16, 5, 0]).to be > 5.0
    end

    it "makes no more of a square that is even enough, and stops when all are" do
      sampler = gathered({"samples" => 64, "noise" => 0.4})
      expect(32.times.map { |x| sampler.wanted[4, x] }).to eq([1] * 16 + [0] * 16)
      still = described_class.new(16, 16, settings.merge("samples" => 64, "noise" => 1.0))
      made = (1..64).find { still.add(grainy(Random.new(1), size: 16, amount: 0.0)) == false }
      expect([made, still.wanted.to_a.uniq]).to eq([16, [0]])
    end

    it "gives the same picture every time, so that nothing flickers" do
      document = small_shot(edits: [set("camera", :aperture, 2.0), set("camera", :samples, 8)])
      images =
        Array.new(2) do |n|
          Picture::Renderer.new(Picture::Renderer.settings(document, n + 1), nil).image(nil, 32, 18).bytes
        end
      expect(images.uniq.size).to eq(1)
    end
  end
end
