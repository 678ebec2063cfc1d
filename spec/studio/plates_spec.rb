# frozen_string_literal: true

module Vumbral
  # Footage that comes in.
  RSpec.describe Studio::Plates do
    around do |example|
      with_workshop { |workshop| (@workshop = workshop) && Dir.mktmpdir { |out| (@out = out) && example.run } }
    end

    def plates = @workshop.plates

    # A picture whose brightness tells its number.
    def picture(name, level, width: 24, height: 16, **how)
      path = File.join(@out, name)
      Vips::Image
        .black(width, height, bands: 3)
        .linear(1, level)
        .cast(:uchar)
        .copy(interpretation: :srgb)
        .write_to_file(path, **how)
      path
    end

    def sequence(levels, ending = "png") =
      levels.each_with_index.to_h do |level, n|
        [format("dusk.%03d.%s", n + 10, ending), picture(format("dusk.%03d.%s", n + 10, ending), level)]
      end

    def light(value) = (value / 255.0).then { |y| (y <= 0.04045) ? y / 12.92 : ((y + 0.055) / 1.055)**2.4 }

    it "takes pictures that are numbered through, in light, and names what is missing" do
      files = sequence([40, 120, 200])
      files.delete("dusk.011.png")
      found = plates.bring(files.merge("dusk.013.png" => picture("dusk.013.png", 250)))
      expect(found[:facts]).to include(
        "frames" => 4, "width" => 24, "height" => 16, "rate" => nil,
        "left_out" => ["1 files are missing (number 11 first); the one before each stands in for it."]
      )
      expect(
        (0...4)
          .map { |n| plates.picture(found[:digest], n)[8, 12, 0] }
          .zip([40, 40, 200, 250])
          .map { |got, wanted| (got - light(wanted)).abs }
          .max
      ).to be < 1e-5
      expect(plates.picture(found[:digest], 0, "linear")[8, 12, 1]).to be_within(1e-6).of(40 / 255.0)
    end

    it "reads JPEG, TIFF, OpenEXR with its own light and alpha, and a single picture" do
      expect(plates.bring({"one.jpg" => picture("one.jpg", 128, Q: 100)})[:facts]["frames"]).to eq(1)
      deep = plates.bring({"deep.tif" => picture("deep.tif", 128)})
      expect(plates.picture(deep[:digest], 0)[3, 3, 2]).to be_within(1e-4).of(light(128))
      image = Kernel::Buffer.of(:f32, [3.5, 0.25, 0.0, 0.5] * 12, 3, 4, 4)
      File.binwrite(
        path = File.join(@out, "fire.exr"),
        Formats::EXR.write({"R" => [image, 0], "G" => [image, 1], "B" => [image, 2], "A" => [image, 3]})
      )
      fire = plates.bring({"fire.exr" => path})
      expect((0...4).map { |c| plates.picture(fire[:digest], 0)[1, 1, c].round(3) }).to eq([3.5, 0.25, 0.0, 0.5])
    end

    it "takes a movie apart, with its rate and its alpha, and DPX pictures bit for bit" do
      files = sequence([30, 90, 150, 210, 240])
      Dir.mkdir(still = File.join(@out, "still"))
      files.values.each_with_index { |path, n| FileUtils.cp(path, File.join(still, format("%06d.png", n + 1))) }
      Studio::Movie.new("mp4", 12.5).encode(File.join(still, "%06d.png"), movie = File.join(@out, "dusk.mp4"))
      told = []
      found = plates.bring({"dusk.mp4" => movie}) { |done, total| told << [done, total] }
      expect(found[:facts]).to include("frames" => 5, "rate" => 12.5, "width" => 24)
      expect(
        (0...5)
          .map { |n| plates.picture(found[:digest], n)[8, 12, 1] }
          .zip([30, 90, 150, 210, 240])
          .map { |got, wanted| (got - light(wanted)).abs }
          .max
      ).to be < 0.02
      expect(told.last[0]).to be > 0
      Open3.capture2e(
        "ffmpeg", "-v", "error", "-i", files.values[2], "-pix_fmt", "gbrp10be", dpx = File.join(@out, "dusk.dpx")
      )
      expect(plates.picture(plates.bring({"dusk.dpx" => dpx})[:digest], 0, "linear")[4, 4, 0]).to be_within(1e-5).of(
        600 / 1023.0
      )
    end

    {
      "words" => [{"dusk.txt" => "hello"}, /dusk.txt is no picture and no movie that is known/],
      "a broken picture" => [{"dusk.png" => "\x89PNG\r\nrubbish"}, /dusk.png cannot be read as a picture/],
      "a cut off movie" => [{"dusk.mp4" => "\0\0\0\x18ftypmp42rubbish"}, /dusk.mp4 cannot be read as a movie/],
      "two movies" => [{"a.mp4" => "x", "b.mp4" => "y"}, /bring a.mp4 alone/]
    }.each do |what, (files, words)|
      it "refuses #{what} in a sentence, and keeps nothing of it" do
        paths = files.to_h { |name, bytes| [name, File.join(@out, name).tap { |path| File.binwrite(path, bytes) }] }
        expect(refusal { plates.bring(paths) }[1]).to match(words)
        expect([@workshop.assets.list("plate"), Dir[@workshop.home.within("plates", "*")]]).to eq([[], []])
      end
    end

    it "refuses pictures of several sizes, and says which frame is gone" do
      files = sequence([40, 120]).merge("dusk.012.png" => picture("dusk.012.png", 50, width: 30))
      expect(refusal { plates.bring(files) }[1]).to match(/dusk.012.png has 30 × 16 pixels, the first one 24 × 16/)
      found = plates.bring(sequence([40, 120]))
      FileUtils.rm_f(Dir[@workshop.home.within("plates", found[:digest], "000002.*")])
      expect(refusal { plates.picture(found[:digest], 1) }).to match(
        ["unknown_plate", /Frame 2 of a plate is not here/]
      )
    end

    it "keeps look-up tables" do
      table = Formats::Cube.new(Kernel::Buffer.of(:f32, [0.0, 0.0, 0.0, 1.0, 0.9, 0.8], 2, 1, 1, 3), title: "Clay")
      found = plates.bring_table(table.write, "clay.cube")
      expect(found[:facts]).to eq("size" => 2, "flat" => true, "title" => "Clay")
      expect(plates.table(found[:digest]).colours[1, 0, 0, 2]).to be_within(1e-6).of(0.8)
    end

    it "gives a smaller picture where that will do, keeps it, and makes a damaged one again" do
      path = File.join(@workshop.home.path, "large.png")
      Vips::Image
        .xyz(200, 160)
        .extract_band(0)
        .linear(0.9, 20)
        .cast(:uchar)
        .then { |grey| grey.bandjoin([grey, grey]) }
        .copy(interpretation: :srgb)
        .pngsave(path)
      digest = plates.bring({"large.png" => path})[:digest]
      expect([nil, 160, 81, 80, 39].map { |high| plates.picture(digest, 0, high: high).shape.first(2) }).to eq(
        [[160, 200], [160, 200], [160, 200], [80, 100], [40, 50]]
      )
      halved = Finish::Soft.new(plates.picture(digest, 0)).halved(1)
      again = Studio::Workshop.new(@workshop.home.path).plates
      allow(Studio::Pixels).to receive(:numbers).and_raise("read again")
      expect(again.picture(digest, 0, high: 80).to_a.zip(halved.to_a).map { |a, b| (a - b).abs }.max).to be < 1e-3
      allow(Studio::Pixels).to receive(:numbers).and_call_original
      Dir[@workshop.home.within("proxies", "**", "*.half")].each { |file| File.binwrite(file, "rubbish") }
      expect(Studio::Workshop.new(@workshop.home.path).plates.picture(digest, 0, high: 80).shape).to eq([80, 100, 4])
    end
  end
end
