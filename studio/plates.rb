# frozen_string_literal: true

require "digest"
require "json"
require "open3"

module Vumbral
  module Studio
    # Footage and other pictures that layers of the finish show, and look-up tables. Pictures are kept as they came; of
    # movies each frame is kept as a picture.
    class Plates
      MOVIES = %w[.mp4 .mov .mkv .webm .avi .mxf .m4v].freeze
      PICTURES = %w[.png .jpg .jpeg .tif .tiff .exr .hdr .dpx].freeze
      # What is read by ffmpeg and kept as PNG.
      TURNED = %w[.dpx].freeze
      MOST_FRAMES = 20_000
      # What is kept of pictures in memory, bytes.
      MEMORY = 160 << 20
      SPACES = Finish::Colours::SPACES

      def initialize(workshop)
        @workshop = workshop
        @kept = Finishing::Kept.new(MEMORY)
        @facts = {}
        @tables = {}
      end

      # @param name [String] @return [Boolean] whether it is a movie by its ending
      def self.movie?(name) = MOVIES.include?(File.extname(name).downcase)

      # @param files [Hash{String => String}] paths by the names that they came under
      # @yield [done, total]
      # @return [Hash] digest, name and facts: "frames", "width", "height", "rate" (nil for pictures), "left_out"
      #   (numbers that are missing among them)
      # @raise [Refused]
      def bring(files, &progress)
        movies = files.select { |name, _| Plates.movie?(name) }
        if movies.any? && files.size > 1
          raise Refused.new(
            "A plate is one movie or a numbered sequence of pictures; bring #{movies.keys[0]} alone.",
            code: "bad_plate"
          )
        end

        movies.any? ? movie(*files.first, &progress) : sequence(files, &progress)
      end

      # @return [Hash, nil] facts of a plate
      # @raise [Refused] where it is not there
      def plate(digest)
        @facts[digest] ||= begin
          row = @workshop.db[:assets].first(digest: digest.to_s, kind: "plate")
          if row
            JSON.parse(row[:facts])
          else
            raise(Refused.new("A plate that the shot uses is not here; bring its files again.", code: "unknown_plate"))
          end
        end
      end

      # @param space [String] in what its numbers are; "told": as its kind of file has them
      # @param high [Integer, nil] a picture at least so high will do, pixels: halved as often as that allows, and kept
      #   so
      # @return [Kernel::Buffer] f32 [h, w, 4], linear light multiplied by alpha
      # @raise [Refused] naming the frame that cannot be read
      def picture(digest, frame, space = "told", high: nil)
        times = high ? [Math.log2(plate(digest)["height"] / high.to_f).floor, 0].max : 0
        name = [digest, frame, space, times].join("/")
        @kept[name] ||
          (times.zero? ? taken(digest, frame, space) : proxy(digest, frame, space, times)).tap do |image|
            @kept[name] = image
          end
      end

      # Keeps a look-up table. @return [Hash] digest, name and facts
      # @raise [Refused]
      def bring_table(bytes, name)
        name = Assets.plain(name)
        cube = Formats::Cube.read(bytes, name: name)
        digest = Digest::SHA256.hexdigest(bytes)[0, 24]
        @workshop.home.write(table_path(digest), bytes)
        kept("table", digest, name, {size: cube.size, flat: cube.flat?, title: cube.title})
      end

      # @return [Formats::Cube]
      def table(digest)
        @tables[digest] ||= Formats::Cube.read(File.binread(table_path(digest)))
      rescue Errno::ENOENT
        raise Refused.new(
          "A look-up table that the shot uses is not here; bring its file again.", code: "unknown_table"
        )
      end

      private

      def folder(digest) = @workshop.home.within("plates", digest.to_s[/\A[0-9a-f]{8,64}\z/] || "none")

      def table_path(digest) = @workshop.home.within("tables", "#{digest.to_s[/\A[0-9a-f]{8,64}\z/] || "none"}.cube")

      def kept(kind, digest, name, facts)
        @workshop.db[:assets].insert_conflict(target: :digest, update: {name: name, facts: JSON.generate(facts)})
          .insert(digest: digest, name: name, facts: JSON.generate(facts), created_at: @workshop.now, kind: kind)
        @facts.delete(digest)
        @workshop.assets.fetch(digest)
      end

      # A smaller picture, so that a large plate is played as quickly as a small one.
      def proxy(digest, frame, space, times)
        path =
          @workshop.home.within(
            "proxies", File.basename(folder(digest)), format("%06d-%s-%d.half", frame + 1, space, times)
          )
        HalfPicture.read(path) || begin
          bytes, same = HalfPicture.packed(Finish::Soft.new(picture(digest, frame, space)).halved(times))
          @workshop.home.write(path, bytes)
          same
        end
      end

      def taken(digest, frame, space)
        plate(digest)
        path = @workshop.home.like(folder(digest), format("%06d.*", frame + 1))
        unless path
          raise Refused.new(
            "Frame #{frame + 1} of a plate is not here any more; bring its files again.", code: "unknown_plate"
          )
        end

        image, real = Pixels.numbers(File.binread(path), "Frame #{frame + 1} of the plate")
        space = real ? "linear" : "screen" if space == "told"
        Finish::GradeKernels.take(image, SPACES.fetch(space), !real)
        image
      end

      def sequence(files)
        odd = files.keys.reject { |name| PICTURES.include?(File.extname(name).downcase) }
        if odd.any?
          raise Refused.new(
            "#{odd[0]} is no picture and no movie that is known; bring " \
              "#{(PICTURES + MOVIES).map { |ending| ending[1..].upcase }.join(", ")}.",
            code: "bad_plate"
          )
        end

        sequence = (files.size > 1) ? Formats::Sequence.of(files.keys.map { |name| Assets.plain(name) }) : nil
        names =
          sequence ? sequence.names.map { |name| files.keys.find { |given| Assets.plain(given) == name } } : files.keys
        digest = Digest::SHA256.new.tap { |sum| names.each { |name| sum.file(files[name]) } }.hexdigest[0, 24]
        size = nil
        names.each_with_index do |name, n|
          yield n, names.size if block_given?
          now = put(files[name], name, digest, n)
          size ||= now
          unless now == size
            raise Refused.new(
              "#{name} has #{now.join(" × ")} pixels, the first one #{size.join(" × ")}; a plate is of one size.",
              code: "bad_plate"
            )
          end
        end
        kept(
          "plate", digest, sequence ? sequence.title : Assets.plain(names[0]),
          {frames: names.size, width: size[0], height: size[1], rate: nil, left_out: sequence ? sequence.gaps : []}
        )
      rescue Refused
        FileUtils.rm_rf(folder(digest)) if digest && !@workshop.db[:assets].first(digest: digest)
        raise
      end

      def put(from, name, digest, n)
        ending = File.extname(name).downcase
        ending, bytes = TURNED.include?(ending) ? [".png", turned(from, name)] : [ending, File.binread(from)]
        Pixels
          .size(bytes, name)
          .tap { @workshop.home.write(File.join(folder(digest), format("%06d%s", n + 1, ending)), bytes) }
      end

      # DPX as 16 bit PNG, its numbers as they are.
      def turned(path, name)
        Movie.check
        out, _, done =
          Open3.capture3(
            "ffmpeg", "-hide_banner", "-loglevel", "error", "-nostdin", "-f", "image2", "-pattern_type", "none", "-c:v",
            "dpx", "-i", path, "-frames:v", "1", "-pix_fmt", "rgb48be", "-c:v", "png", "-f", "image2pipe", "-",
            binmode: true
          )
        unless done.success? && !out.empty?
          raise Refused.new("#{name} cannot be read as a DPX picture; save it again.", code: "bad_plate")
        end

        out
      end

      # Each frame as a picture.
      def movie(name, path)
        Movie.check
        found = probe(path, name)
        digest = Digest::SHA256.file(path).hexdigest[0, 24]
        partial = "#{folder(digest)}.part"
        FileUtils.rm_rf(partial)
        FileUtils.mkdir_p(partial)
        count = found[:frames]
        taken =
          decode(path, partial, found) { |done| yield [done, count || done].min, count || done + 1 if block_given? }
        if taken.zero?
          raise Refused.new("#{name} cannot be read as a movie; it may have been cut off.", code: "bad_plate")
        end

        FileUtils.rm_rf(folder(digest))
        FileUtils.mkdir_p(File.dirname(folder(digest)))
        File.rename(partial, folder(digest))
        width, height = Pixels.size(File.binread(File.join(folder(digest), "000001.png")), name)
        kept(
          "plate", digest, Assets.plain(name),
          {frames: taken, width: width, height: height, rate: found[:rate], left_out: []}
        )
      ensure
        FileUtils.rm_rf(partial) if partial
      end

      def probe(path, name)
        out, _, done =
          Open3.capture3(
            "ffprobe", "-v", "error", "-select_streams", "v:0", "-show_entries",
            "stream=codec_name,avg_frame_rate,nb_frames,duration,width,height,color_space", "-of", "json", path
          )
        stream = done.success? ? JSON.parse(out)["streams"].to_a[0] : nil
        unless stream && stream["width"].to_i.positive?
          raise Refused.new("#{name} cannot be read as a movie.", code: "bad_plate")
        end

        rate = Rational(stream["avg_frame_rate"].to_s.sub(%r{/0\z}, "/1")).to_f.round(4)
        frames =
          (stream["nb_frames"].to_i.nonzero? || (stream["duration"].to_f * rate).round).then { |n| n if n.positive? }
        if frames && frames > MOST_FRAMES
          raise Refused.new("#{name} has #{frames} frames; bring at most #{MOST_FRAMES}.", code: "too_many")
        end
        # What is large and says nothing of its colours is taken as video of that size is made.
        {
          rate: rate.positive? ? rate : nil,
          frames: frames,
          alpha: stream["codec_name"] == "vp9",
          matrix:
            (stream["color_space"].to_s.match?(/\A(unknown|)\z/) && stream["height"].to_i >= 720) ? "bt709" : "auto"
        }
      rescue ZeroDivisionError, JSON::ParserError, ArgumentError
        raise Refused.new("#{name} cannot be read as a movie.", code: "bad_plate")
      end

      # @return [Integer] how many frames there were
      def decode(path, folder, found)
        # Only this one reads alpha.
        by = found[:alpha] ? %w[-c:v libvpx-vp9] : []
        command = ["ffmpeg", "-hide_banner", "-loglevel", "error", "-nostdin", "-progress", "pipe:1", *by, "-i", path,
          "-map", "0:v:0", "-fps_mode", "passthrough", "-vf",
          "scale=in_color_matrix=#{found[:matrix]}:in_range=auto:out_range=full:flags=bicubic+accurate_rnd+full_chroma_int",
          "-frames:v", MOST_FRAMES.to_s, "-pix_fmt", "rgba", "-compression_level", "1", File.join(folder, "%06d.png")]
        Open3.popen3(*command) do |_, progress, errors, thread|
          said = Thread.new { errors.read }
          progress.each_line { |line| yield line[/\d+/].to_i if line.start_with?("frame=") }
          said.join
          thread.join
        end
        Dir[File.join(folder, "*.png")].size
      end
    end
  end
end
