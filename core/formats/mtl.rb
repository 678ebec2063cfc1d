# frozen_string_literal: true

module Vumbral
  module Formats
    # Wavefront MTL: the colours of an OBJ file's materials.
    module MTL
      MOST = 10_000

      module_function

      # @param text [String] bytes
      # @param name [String] for messages
      # @return [Hash{String => Array<Float>}] diffuse colour (linear red, green, blue) of each material
      # @raise [Refused]
      def read(text, name: "the file")
        found = {}
        current = nil
        text.b.each_line.with_index(1) do |line, number|
          word, rest = line.strip.split(/\s+/n, 2)
          if word == "newmtl"
            current = Text.utf8(rest.to_s)[0, 120]
            found[current] = [0.8, 0.8, 0.8]
            raise Refused.new("#{name} holds more than #{MOST} materials.", code: "bad_mesh") if found.size > MOST
          elsif word == "Kd" && current
            found[current] = colour(rest, number, name)
          end
        end
        found
      end

      # @return [Array<String>] the pictures that its materials ask for
      def pictures(text) =
        text
          .b
          .scan(/^[ \t]*map_Kd[ \t]+(.+?)[ \t]*\r?$/n)
          .map { |(words)| File.basename(Text.utf8(words.split(/[ \t]+/n).last).tr("\\", "/")) }
          .uniq

      def colour(words, number, name)
        values = words.to_s.split.first(3).map { |word| Float(word, exception: false) }
        values *= 3 if values.size == 1
        if values.size == 3 && values.all? { |value| value&.finite? }
          return values.map { |value| value.clamp(0.0, 1.0) }
        end

        raise Refused.new(
          "Line #{number} of #{name} is not a colour (\"#{Text.excerpt(words.to_s)}\"); a colour is Kd and " \
            "three numbers.",
          code: "bad_mesh"
        )
      end
      private_class_method :colour
    end
  end
end
