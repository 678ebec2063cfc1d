# frozen_string_literal: true

require "digest"
require "fileutils"
require "vips"

module Vumbral
  module Studio
    # Contact sheets: pictures of several frames of a shot on one page, each with what one judges it by
    # beneath.
    class Sheets
      MOST = 64
      SHIM = 6
      TEXT = 13
      # Brighter and darker than this (as the screen shows it, 0 to 1) counts as bright and as dark.
      BRIGHT, DARK = 0.85, 0.15

      def initialize(workshop)
        @workshop = workshop
      end

      # Frames on a sheet where nobody says which, and how many sheets of a shot are kept.
      USUAL, KEPT = 12, 12
      SIZE = [320, 180].freeze

      # Asks for a sheet of the shot as it stands.
      # @param frames [Array<Integer>, nil] some of those that were run otherwise
      # @return [Integer] the job's id
      def start(shot_id, frames = nil, size: nil)
        shot = @workshop.shots.fetch(shot_id)[:id]
        frames ||= usual(shot)
        unless frames.is_a?(Array) && frames.all?(Integer)
          raise Refused.new("Frames of a sheet come as a list of whole numbers.", code: "bad_value")
        end

        checked(frames, size ||= SIZE)
        frames.each { |frame| @workshop.runs.best(shot, frame) }
        @workshop.jobs.add("sheet", shot, {frames: frames, size: size})
      end

      # Keeps a finished sheet, and lets the oldest go. @return [String] its name
      def keep(shot_id, png)
        name = Digest::SHA256.hexdigest(png)[0, 16]
        @workshop.home.write(path(shot_id, name), png)
        @workshop.home.thin(@workshop.home.within("sheets", shot_id, "*.png"), KEPT)
        name
      end

      # @return [String] the PNG's place
      def path(shot_id, name)
        unless name.to_s.match?(/\A[0-9a-f]{16}\z/)
          raise Refused.new("That is not the name of a sheet.",
            code: "bad_path")
        end

        @workshop.home.within("sheets", shot_id, "#{name}.png")
      end

      # @param frames [Array<Integer>]; @param size [Array(Integer, Integer)] of each picture, pixels
      # @yield [done, count] after each picture
      # @return [Array(String, Array<Hash>)] a PNG, and for each frame its figures: :frame, :quality, :bright and
      #   :dark (shares of the picture), :peak (kelvin)
      # @raise [Refused]
      def make(shot_id, frames, size)
        checked(frames, size)
        shot = @workshop.shots.fetch(shot_id)[:id]
        places = frames.to_h { |frame| [frame, @workshop.runs.best(shot, frame)] }
        document = @workshop.shots.document(shot)
        tiles = places.map.with_index(1) do |(frame, (quality, key)), done|
          tile = tile(seen(shot, document, frame, key, size), frame, quality, key)
          yield done, frames.size if block_given?
          tile
        end
        [page(tiles.map(&:first)), tiles.map(&:last)]
      end

      # @param shown [Array<Array(Shot::Document, String, String)>] each with the file of its frame and words for
      #   beneath
      # @param across [Integer] so many beside each other
      # @yield [done, count] after each picture
      # @return [String] a PNG
      def side_by_side(shown, frame, size, across)
        tiles = shown.each_with_index.map do |(document, key, words), n|
          renderer, image = @workshop.painting.image(document, frame, key, size, sharp: true)
          yield n + 1, shown.size if block_given?
          worded(renderer.develop(image), words)
        end
        page(tiles, across)
      end

      private

      # Evenly spread over what was run.
      def usual(shot)
        there = @workshop.runs.there(shot)
        if there.empty?
          raise Refused.new("No frame has been run since the last change; run a draft first.",
            code: "not_run")
        end

        count = [USUAL, there.size].min
        Array.new(count) { |n| there[(count == 1) ? 0 : n * (there.size - 1) / (count - 1)] }
      end

      def checked(frames, size)
        unless frames.size.between?(1, MOST)
          raise Refused.new("A sheet holds 1 to #{MOST} frames, not #{frames.size}.", code: "out_of_range")
        end
        return if size.all? { |n| n.between?(16, 1920) }

        raise Refused.new(
          "A picture on a sheet has 16 to 1920 pixels each way, not #{size.join(" × ")}.", code: "out_of_range"
        )
      end

      # With the layers of the finish, where there are some.
      # @return [Kernel::Buffer] u8 [h, w, 3]
      def seen(shot, document, frame, key, size)
        finish = @workshop.finishing
        if finish.any?(document)
          return (
            finish.developed(document, frame, finish.look(Rushes.of(@workshop, shot, document, [frame]), frame, size))
          )
        end

        renderer, image = @workshop.painting.image(document, frame, key, size, sharp: true)
        renderer.develop(image)
      end

      def tile(pixels, frame, quality, key)
        figures = {
          frame: frame, quality: quality, **shares(pixels), peak: key && @workshop.frames.facts([key]).dig(key, "peak")
        }
        [labelled(pixels, figures), figures]
      end

      # How much of a picture is bright, and how much dark.
      def shares(pixels)
        grey = pixels.bytes.each_byte.each_slice(3).map { |r, g, b| (0.2126 * r + 0.7152 * g + 0.0722 * b) / 255.0 }
        {bright: grey.count { |value| value > BRIGHT }.fdiv(grey.size).round(4),
         dark: grey.count { |value| value < DARK }.fdiv(grey.size).round(4)}
      end

      def labelled(pixels, figures)
        words =
          "#{figures[:frame]}  #{figures[:quality]} · #{percent(figures[:bright])} bright · " \
            "#{percent(figures[:dark])} dark"
        words += " · #{figures[:peak].round} K" if figures[:peak]
        worded(pixels, words)
      end

      # With a line of words beneath.
      def worded(pixels, words)
        height, width, = pixels.shape
        picture = Vips::Image.new_from_memory(pixels.bytes, width, height, 3, :uchar).copy(interpretation: :srgb)
        text = Vips::Image.text(words, dpi: 5 * TEXT, width: width - 8)
        line = text.embed(4, 4, width, TEXT + 12).linear(0.8, 20).cast(:uchar)
        picture.join(line.bandjoin([line, line]).copy(interpretation: :srgb), :vertical, expand: true)
      end

      def percent(share) = "#{format((share < 0.1) ? "%.1f" : "%.0f", 100 * share)} %"

      def page(tiles, across = Math.sqrt(tiles.size).ceil)
        Vips::Image.arrayjoin(tiles, across: across, shim: SHIM, background: [20, 20,
          20]).write_to_buffer(".png", compression: 3)
      end
    end
  end
end
