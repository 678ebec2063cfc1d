# frozen_string_literal: true

module Vumbral
  module Formats
    # Reads the corners out of STL files.
    module STLKernels
      extend Kernel::Library

      OTHER, CORNER, SOLID = 0, 1, 2

      # The corners of binary triangles: 36 of every 50 bytes, after the normal's twelve.
      kernel out: U8[1], bytes: U8[1], from: I32
      def gather(out, bytes, from)
        parallel(out.size / 36) do |n|
          36.times { |b| out[36 * n + b] = bytes[from + 50 * n + 12 + b] }
        end
      end

      # Whether a line's first word is "vertex" or "solid", in any case.
      kernel text: U8[1], at: I32, stop: I32, returns: I32
      def kind(text, at, stop)
        ending = TextKernels.word_end(text, at, stop)
        return CORNER if ending - at == 6 && spells?(text, at, 118, 101, 114, 116) && (text[at + 4] | 32) == 101 && (text[at + 5] | 32) == 120
        return SOLID if ending - at == 5 && spells?(text, at, 115, 111, 108, 105) && (text[at + 4] | 32) == 100

        OTHER
      end

      kernel text: U8[1], at: I32, a: I32, b: I32, c: I32, d: I32, returns: BOOL
      def spells?(text, at, a, b, c, d)
        (text[at] | 32) == a && (text[at + 1] | 32) == b && (text[at + 2] | 32) == c && (text[at + 3] | 32) == d
      end

      # How many corners and solids a text holds.
      kernel text: U8[1], returns: [I32, I32]
      def count(text)
        corners = 0
        solids = 0
        at = 0
        while at < text.size
          stop = TextKernels.line_end(text, at)
          what = kind(text, TextKernels.word(text, at, stop), stop)
          corners += 1 if what == CORNER
          solids += 1 if what == SOLID
          at = stop + 1
        end
        return corners, solids
      end

      # `solids` i32 [n, 3]: where the name begins and ends, and the number of corners before it. `report`
      # takes 1, where a line begins that is no corner, and its number.
      kernel text: U8[1], corners: F32[2], solids: I32[2], report: I32[1]
      def fill(text, corners, solids, report)
        made = 0
        named = 0
        line = 0
        at = 0
        while at < text.size && report[0] == 0
          line += 1
          stop = TextKernels.line_end(text, at)
          first = TextKernels.word(text, at, stop)
          what = kind(text, first, stop)
          if what == CORNER
            from = first + 6
            3.times do |c|
              from = TextKernels.word(text, from, stop)
              ending = TextKernels.word_end(text, from, stop)
              value, good = TextKernels.number(text, from, ending)
              if !good || value.abs > 1.0e9
                report[0] = 1
                report[1] = at
                report[2] = line
              end
              corners[made, c] = value
              from = ending
            end
            made += 1
          elsif what == SOLID
            solids[named, 0] = first + 5
            solids[named, 1] = stop
            solids[named, 2] = made
            named += 1
          end
          at = stop + 1
        end
      end
    end
  end
end
