# frozen_string_literal: true

require "json"

module Vumbral
  module Geometry
    # Words as outlines, in the fonts that come with Vumbral.
    module Lettering
      FOLDER = File.expand_path("../fonts", __dir__)
      FONTS = %w[bold regular].freeze
      # Pieces of each curve.
      STEPS = 6

      module_function

      # @param words [String] lines are parted by line ends
      # @param font [String] of {FONTS}; @param tall [Float] height of a capital, metres
      # @param apart [Float] further room between letters, in parts of their height
      # @return [Contours] with its middle in the origin
      # @raise [Refused] as {.check} does, and for no words at all
      def contours(words, font: "bold", tall: 0.5, apart: 0.0)
        data = check(words, font)
        scale = tall / data["capital"]
        rings =
          words
            .split("\n", -1)
            .each_with_index
            .flat_map { |line, n| line(line, data, apart, -1.6 * n * data["capital"]) }
        raise Refused.new("There are no words to raise; write some.", code: "no_words") if rings.empty?

        centred(rings.map { |ring| ring.map { |x, y| [x * scale, y * scale] } })
      end

      # @raise [Refused] for letters that the font does not have
      def check(words, font = "bold")
        data = fonts(font)
        missing = words.delete("\n").chars.uniq.reject { |letter| data["glyphs"].key?(letter) }
        return data if missing.empty?

        raise Refused.new(
          "The font has no #{missing.first(5).map(&:inspect).join(", ")}; write it with other letters.",
          code: "no_glyph"
        )
      end

      def fonts(name)
        (@fonts ||= {})[name] ||= JSON
          .parse(File.read(File.join(FOLDER, "#{name}.typeface.json"), encoding: "UTF-8"))
          .then do |font|
            capital = outline(font["glyphs"]["H"]["o"]).flatten(1).map(&:last).max
            {"glyphs" => font["glyphs"], "capital" => capital}
          end
      end

      def line(words, font, apart, below)
        at = 0.0
        words.chars.flat_map do |letter|
          glyph = font["glyphs"][letter]
          rings = outline(glyph["o"].to_s).map { |ring| ring.map { |x, y| [x + at, y + below] } }
          at += glyph["ha"] + apart * font["capital"]
          rings
        end
      end

      # Commands of a glyph: m and l with a place, q with its end and one handle, b with its end and two.
      def outline(commands)
        rings = []
        words = commands.split
        until words.empty?
          case words.shift
          when "m" then rings << [words.shift(2).map(&:to_f)]
          when "l" then rings.last << words.shift(2).map(&:to_f)
          when "q" then curve(rings.last, *words.shift(4).map(&:to_f).each_slice(2).to_a)
          when "b" then curve(rings.last, *words.shift(6).map(&:to_f).each_slice(2).to_a)
          end
        end
        rings
      end

      def curve(ring, to, *handles) = ring.concat(Bezier.points([ring.last, *handles, to], STEPS))

      def centred(rings)
        (a, b), (c, d) = rings.flatten(1).transpose.map(&:minmax)
        Contours.new(rings.map { |ring| ring.map { |x, y| [x - 0.5 * (a + b), y - 0.5 * (c + d)] } })
      end
      private_class_method :fonts, :line, :outline, :curve
    end
  end
end
