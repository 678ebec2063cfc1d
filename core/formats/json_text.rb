# frozen_string_literal: true

require "json"

module Vumbral
  module Formats
    # JSON that came in.
    module JsonText
      module_function

      # @param text [String] UTF-8
      # @param name [String] what a person calls it: "The body", a file's name
      # @param remedy [String, nil] a sentence on what to do
      # @return [Object] what it says
      # @raise [Refused] "not_json", with the place where it cannot be read on
      def parse(text, name, remedy: nil)
        JSON.parse(text)
      rescue JSON::ParserError => error
        wrong = text.strip.empty? ? "is empty" : "is not JSON#{where(text, error)}"
        raise Refused.new(["#{name} #{wrong}.", remedy].compact.join(" "), code: "not_json")
      end

      def where(text, error)
        line, column = place(text, error)
        return "" unless line

        here = Text.excerpt(text.lines[line - 1].to_s.byteslice([column - 1, 0].max..).to_s, 20)
        ": it cannot be read from line #{line}, column #{column} on, where it " \
          "#{here.empty? ? "ends" : "has #{here.inspect}"}"
      end

      # Older readers of JSON tell no line, but all that is left of the text.
      # @return [Array(Integer, Integer), nil] line and column, counted from one
      def place(text, error)
        return [error.line, error.column] if error.respond_to?(:line) && error.line

        rest = Text.utf8(error.message)[/ at '(.*)'\z/m, 1]
        return unless rest && text.end_with?(rest)

        before = text[0, text.size - rest.size]
        [before.count("\n") + 1, before.size - (before.rindex("\n") || -1)]
      end
      private_class_method :where, :place
    end
  end
end
