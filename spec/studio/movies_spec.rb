# frozen_string_literal: true

module Vumbral
  RSpec.describe Studio::Movie do
    around do |example|
      with_workshop { |workshop| (@workshop = workshop) && Dir.mktmpdir { |out| (@out = out) && example.run } }
    end

    let(:id) { shelve(@workshop, small_shot(edits: [set("general", :last, 4), set("picture", :width, 95)])) }

    # What a reader of movies says of a file.
    def probed(path)
      text, status = Open3.capture2("ffprobe", "-v", "error", "-count_frames", "-show_streams", "-of", "json", path)
      expect(status).to be_success
      JSON.parse(text)["streams"][0]
    end

    def made(format, **how)
      row = work(@workshop, @workshop.exports.start(id, format, out: @out, **how))
      raise row[:error] unless row[:state] == "done"

      result = JSON.parse(row[:result])
      expect(result).to include("files" => 1)
      files = Dir[File.join(@out, "*")]
      expect(files.size).to eq(1)
      files[0]
    end

    it "is written in each format, with its frames, its rate, and its colours told" do
      run_now(@workshop, id)
      found =
        described_class::FORMATS.keys.to_h do |format|
          [format, probed(path = made(format)).tap { FileUtils.rm_f(path) }]
        end
      expect(found.transform_values { |stream| stream["codec_name"] }).to eq(
        "mp4" => "h264", "hevc" => "hevc", "webm" => "vp9", "webm-alpha" => "vp9", "ffv1" => "ffv1"
      )
      expect(found.values.map { |stream| stream["nb_read_frames"] }.uniq).to eq(["4"])
      expect(found.values.map { |stream| stream["r_frame_rate"] }.uniq).to eq(["24/1"])
      expect(
        found
          .slice("mp4", "hevc", "webm")
          .values
          .flat_map { |stream| stream.values_at("color_space", "color_primaries", "color_transfer") }
          .uniq
      ).to eq(["bt709"])
      # An odd width is made even where the codec wants that.
      expect(found.values_at("mp4", "ffv1").map { |stream| stream.values_at("width", "height") }).to eq(
        [[96, 54], [95, 54]]
      )
      expect(found["ffv1"]["pix_fmt"]).to eq("bgra")
      expect(found["webm-alpha"].dig("tags", "alpha_mode")).to eq("1")
    end

    it "loses nothing without loss, and shows what a print shows" do
      run_now(@workshop, id)
      path = made("ffv1", frames: 3..4)
      Open3.capture2e("ffmpeg", "-v", "error", "-i", path, File.join(@out, "%d.png"))
      FileUtils.rm_f(path)
      pictures = Dir[File.join(@out, "*.png")].sort.map { |file| Vips::Image.new_from_file(file) }
      work(@workshop, @workshop.exports.start(id, "png", out: File.join(@out, "still"), frames: 3..4))
      stills = Dir[File.join(@out, "still", "*.png")].sort.map { |file| Vips::Image.new_from_file(file) }
      expect(pictures.zip(stills).map { |one, other| (one - other).abs.max }).to eq([0.0, 0.0])
      FileUtils.rm_rf(Dir[File.join(@out, "*")])
      seen = made("mp4", frames: 4..4)
      # Read as the file says that its colours are.
      expect(probed(seen)["color_space"]).to eq("bt709")
      Open3.capture2e(
        "ffmpeg", "-v", "error", "-i", seen, "-vf", "scale=flags=accurate_rnd+full_chroma_int+full_chroma_inp",
        "-pix_fmt", "rgb24", File.join(@out, "seen.png")
      )
      work(@workshop, @workshop.prints.take(id, 4))
      print = Vips::Image.new_from_file(@workshop.prints.path(id, 1)).extract_band(0, n: 3)
      off = Vips::Image.new_from_file(File.join(@out, "seen.png")).crop(0, 0, 95, 54) - print
      # As bright on the whole; single pixels give their colour to their neighbours.
      expect([off.avg.abs, off.abs.avg]).to match([be < 0.5, be < 4.0])
    end

    it "says what is missing, and leaves nothing half done" do
      run_now(@workshop, id)
      allow(described_class).to receive(:there?).and_return(false)
      expect(refusal { @workshop.exports.start(id, "mp4") }).to match(["no_ffmpeg", /install it/])
      film = described_class.new("mp4", 24.0)
      expect(refusal { film.encode(File.join(@out, "%06d.png"), File.join(@out, "a.mp4")) }).to match(
        ["no_movie", /could not write the movie: /]
      )
      expect(Dir[File.join(@out, "*")]).to eq([])
    end

    it "goes on with the pictures that were made before it was cut off" do
      run_now(@workshop, id)
      job = @workshop.exports.start(id, "mp4", out: @out)
      allow_any_instance_of(described_class).to receive(:encode).and_raise("cut off")
      expect(work(@workshop, job)[:state]).not_to eq("done")
      pictures = Dir[File.join(@out, ".*-pictures", "*.png")]
      expect(pictures.size).to eq(4)
    end
  end
end
