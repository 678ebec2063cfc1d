# frozen_string_literal: true

module Vumbral
  module CLI
    # The documentation of every dial, from its declaration.
    class DialList
      def initialize(kinds)
        @kinds = kinds
      end

      # @return [String] Markdown
      def text
        (["# Every dial", "", "Written by `bin/vumbral dials` from the declarations in `core/shot/declarations/`."] +
          @kinds.flat_map { |kind| of(kind) }).join("\n")
      end

      private

      def of(kind)
        ["", "## #{kind.label} (`#{kind.name}`)", "", kind.help, "", "| dial | | default | from, to | |",
          "|---|---|---|---|---|"] + kind.dials.values.map do |dial|
                                       range = (dial.range && %i[number whole vector].include?(dial.type)) ?
                                         "#{plain(dial.range.begin)}, #{plain(dial.range.end)}" : dial.choices&.keys&.join(", ")
                                       keyed = dial.keyed ? " *Keyed.*" : ""
                                       "| `#{dial.name}` | #{dial.label} | #{dial.show(dial.default) unless dial.default.nil?} | #{range} | " \
                                         "#{dial.help}#{keyed} |"
                                     end
      end

      def plain(number) = format("%.6g", number)
    end
  end
end
