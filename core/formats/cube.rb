# frozen_string_literal: true

module Vumbral
  module Formats
    # Look-up tables of colours as text (.cube, as Adobe published it in 2013), of one dimension or of three.
    class Cube
      MOST = 129
      MOST_FLAT = 65_536
      REMEDY = "Save it again as a .cube table of one or three dimensions."

      # f32 [n, n, n, 3], blue outermost, or f32 [n, 1, 1, 3].
      attr_reader :colours
      # Where it begins and ends, three numbers each.
      attr_reader :low, :high, :title

      def initialize(colours, low: [0.0] * 3, high: [1.0] * 3, title: "")
        @colours, @low, @high, @title = colours, low, high, title
      end

      # @return [Integer] places along an edge
      def size = @colours.dim(0)

      def flat? = @colours.dim(1) == 1

      # @param text [String]; @param name [String] of the file, for messages
      # @raise [Refused]
      def self.read(text, name: "The table") = Reader.new(text, name).cube

      # @return [String]
      def write
        head = [
          "# A table of Vumbral",
          "TITLE \"#{@title.gsub(/["\n]/, "'")}\"",
          "#{flat? ? "LUT_1D_SIZE" : "LUT_3D_SIZE"} #{size}"
        ]
        head += ["DOMAIN_MIN #{@low.join(" ")}", "DOMAIN_MAX #{@high.join(" ")}"] unless @low == [0.0] * 3 &&
          @high == [1.0] * 3
        (head + @colours.to_a.each_slice(3).map { |row| row.map { |n| format("%.7g", n) }.join(" ") }).join(
          "\n"
        ) << "\n"
      end

      # Line by line.
      class Reader
        def initialize(text, name)
          @name = name
          @text = Text.utf8(text)
        end

        def cube
          @size, @flat, @low, @high, @title = nil, nil, [0.0] * 3, [1.0] * 3, ""
          rows = []
          @text.each_line.with_index(1) { |line, number| (row = take(line.strip, number)) && rows.concat(row) }
          refuse("does not say how large it is (LUT_3D_SIZE or LUT_1D_SIZE)") unless @size
          wanted = @flat ? @size : @size**3
          unless rows.size == 3 * wanted
            refuse("has #{rows.size / 3} colours where its size of #{@size} asks for #{wanted}")
          end
          refuse("begins where it ends") if @low.zip(@high).any? { |low, high| low >= high }
          Cube.new(
            Kernel::Buffer.of(:f32, rows, *(@flat ? [@size, 1, 1] : [@size] * 3), 3), low: @low, high: @high,
            title: @title
          )
        end

        private

        # @return [Array<Float>, nil] a colour
        def take(line, number)
          case line
          when "", /\A#/
            nil
          when /\ATITLE\s+"(.*)"/
            (@title = $1[0, 80]) && nil
          when /\ALUT_([13])D_SIZE\s+(\d+)\z/
            sized($1 == "1", $2.to_i)
          when /\ADOMAIN_(MIN|MAX)\s+(.+)/
            ($1 == "MIN") ? (@low = numbers($2, number)) : (@high = numbers($2, number))
          when /\ALUT_[13]D_INPUT_RANGE\s+(\S+)\s+(\S+)/
            (@low, @high = [[number($1, number)] * 3, [number($2, number)] * 3])
          when /\A[-+.\d]/
            return numbers(line, number)
          else
            refuse("has a line that says nothing known: #{line[0, 40].inspect} (line #{number})")
          end
          nil
        end

        def sized(flat, size)
          refuse("has two sizes") if @size
          most = flat ? MOST_FLAT : MOST
          refuse("is #{size} wide; 2 to #{most} can be read") unless size.between?(2, most)
          @flat, @size = flat, size
        end

        def numbers(text, number)
          parts = text.split.map { |part| number(part, number) }
          refuse("has #{parts.size} numbers on line #{number} where three make a colour") unless parts.size == 3
          parts
        end

        def number(text, number)
          value = Float(text, exception: false)
          refuse("has no number at #{text[0, 20].inspect} on line #{number}") unless value&.finite?
          value
        end

        def refuse(words) = raise(Refused.new("#{@name} #{words}. #{REMEDY}", code: "bad_table"))
      end
    end
  end
end
