# frozen_string_literal: true

require "open3"

module Vumbral
  module Studio
    # Pictures as a movie, by the ffmpeg program.
    class Movie
      # What is said of colours, so that every player shows them alike.
      TOLD = %w[-color_primaries bt709 -color_trc bt709 -colorspace bt709 -color_range tv].freeze
      # Codecs that halve colours want even sizes: an odd one gets a black row more.
      EVEN = %w[-vf
        pad=ceil(iw/2)*2:ceil(ih/2)*2,scale=in_range=full:out_range=tv:out_color_matrix=bt709:flags=bicubic+accurate_rnd+full_chroma_int+full_chroma_inp].freeze
      # By name: what files end in, whether alpha goes along, and how it is encoded.
      FORMATS = {
        "mp4" => ["mp4", false, [*EVEN, "-c:v", "libx264", "-preset", "medium", "-crf", "16", "-pix_fmt", "yuv420p",
          *TOLD, "-movflags", "+faststart"]],
        "hevc" => ["mp4", false, [*EVEN, "-c:v", "libx265", "-preset", "medium", "-crf", "18", "-pix_fmt", "yuv420p",
          "-tag:v", "hvc1", "-x265-params", "log-level=error", *TOLD, "-movflags", "+faststart"]],
        "webm" => ["webm", false, [*EVEN, "-c:v", "libvpx-vp9", "-crf", "24", "-b:v", "0", "-row-mt", "1", "-deadline",
          "good", "-cpu-used", "4", "-pix_fmt", "yuv420p", *TOLD]],
        "webm-alpha" => ["webm", true, ["-c:v", "libvpx-vp9", "-crf", "20", "-b:v", "0", "-row-mt", "1", "-deadline",
          "good", "-cpu-used", "4", "-auto-alt-ref", "0", "-pix_fmt", "yuva420p", *TOLD]],
        "ffv1" => ["mkv", true, ["-c:v", "ffv1", "-level", "3", "-slicecrc", "1", "-pix_fmt", "bgra"]]
      }.freeze

      # @return [Boolean] whether the program is there
      def self.there? =
        ENV["PATH"].to_s.split(File::PATH_SEPARATOR).any? { |folder| File.executable?(File.join(folder, "ffmpeg")) }

      # @raise [Refused] where it is not
      def self.check
        unless there?
          raise Refused.new(
            "Movies are made by the ffmpeg program, which is not installed here; install it (sudo apt-get " \
              "install ffmpeg), or hand pictures on.",
            code: "no_ffmpeg"
          )
        end
      end

      # A picture by itself, of 10 bit as a screen shows it.
      # @param pixels [Kernel::Buffer] u16 [height, width, 3]
      # @return [String] a DPX
      # @raise [Refused] with what ffmpeg says
      def self.dpx(pixels)
        height, width, = pixels.shape
        out, said, done =
          Open3.capture3(
            "ffmpeg", "-hide_banner", "-loglevel", "error", "-f", "rawvideo", "-pix_fmt", "rgb48le", "-s",
            "#{width}x#{height}", "-i", "-", "-pix_fmt", "gbrp10be", "-c:v", "dpx", "-f", "image2pipe", "-",
            stdin_data: pixels.bytes, binmode: true
          )
        unless done.success?
          raise Refused.new(
            "ffmpeg could not write the picture: #{said.lines.last.to_s.strip[0, 200]}.", code: "no_movie"
          )
        end

        out
      end

      # @param format [String] a name of {FORMATS}; @param rate [Float] frames a second
      def initialize(format, rate)
        @rate = rate
        @ending, @alpha, @how = FORMATS.fetch(format)
      end

      attr_reader :ending

      # @return [Boolean] whether pictures keep their alpha
      def alpha? = @alpha

      # @param pictures [String] PNG files as ffmpeg counts them: /folder/%06d.png, from 1 on
      # @param out [String] the file, which is there whole or not at all
      # @yield [frame] how far it has come
      # @raise [Refused] with what ffmpeg says
      def encode(pictures, out)
        part = "#{out}.part.#{@ending}"
        command = [
          "ffmpeg", "-hide_banner", "-loglevel", "error", "-nostdin", "-y", "-progress", "pipe:1", "-framerate",
          format("%.6g", @rate), "-i", pictures, *@how, part
        ]
        Open3.popen3(*command) do |_, progress, errors, thread|
          said = Thread.new { errors.read }
          progress.each_line { |line| yield line[/\d+/].to_i if line.start_with?("frame=") && block_given? }
          unless thread.value.success?
            raise Refused.new(
              "ffmpeg could not write the movie: #{said.value.lines.last.to_s.strip[0, 200]}.", code: "no_movie"
            )
          end
        end
        File.rename(part, out)
      ensure
        FileUtils.rm_f(part) if part
      end
    end
  end
end
