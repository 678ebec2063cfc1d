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
        place = if text.strip.empty? then "is empty"
        elsif !error.line then "is not JSON"
        else
          "is not JSON: it cannot be read from line #{error.line}, column #{error.column} on" + found(text, error)
        end
        raise Refused.new(["#{name} #{place}.", remedy].compact.join(" "), code: "not_json")
      end

      # What stands there.
      def found(text, error)
        here = Text.excerpt(text.lines[error.line - 1].to_s.byteslice([error.column - 1, 0].max..).to_s, 20)
        here.empty? ? ", where it ends" : ", where it has #{here.inspect}"
      end
      private_class_method :found
    end
  end
end
