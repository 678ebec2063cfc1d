# frozen_string_literal: true

module Vumbral
  module Formats
    # Reads words and numbers out of text, byte by byte. Places are byte numbers; `stop` is the end of
    # the line.
    module TextKernels
      extend Kernel::Library

      # Space, tab or carriage return.
      kernel byte: I32, returns: BOOL
      def gap?(byte)
        byte == 32 || byte == 9 || byte == 13
      end

      # Where the next word of a line begins; `stop` where there is none. A comment (#) ends a line.
      kernel text: U8[1], from: I32, stop: I32, returns: I32
      def word(text, from, stop)
        at = from
        while at < stop && gap?(text[at])
          at += 1
        end
        return stop if at < stop && text[at] == 35

        at
      end

      # The end of a word.
      kernel text: U8[1], from: I32, stop: I32, returns: I32
      def word_end(text, from, stop)
        at = from
        while at < stop && !gap?(text[at])
          at += 1
        end
        at
      end

      # The line's end: the next line feed, or the end of the text.
      kernel text: U8[1], from: I32, returns: I32
      def line_end(text, from)
        at = from
        while at < text.size && text[at] != 10
          at += 1
        end
        at
      end

      # A word as a number. Gives it, and whether the whole word was one.
      kernel text: U8[1], from: I32, stop: I32, returns: [F64, BOOL]
      def number(text, from, stop)
        at = from
        sign = 1
        if at < stop && (text[at] == 43 || text[at] == 45)
          sign = -1 if text[at] == 45
          at += 1
        end
        value = f64(0.0)
        digits = 0
        places = 0
        while at < stop && text[at] >= 48 && text[at] <= 57
          value = value * 10.0 + (text[at] - 48)
          digits += 1
          at += 1
        end
        if at < stop && text[at] == 46
          at += 1
          while at < stop && text[at] >= 48 && text[at] <= 57
            # More than a double holds says nothing more.
            if digits < 18 || value == 0.0
              value = value * 10.0 + (text[at] - 48)
              places += 1
            end
            digits += 1
            at += 1
          end
        end
        return f64(0.0), false if digits == 0

        power = 0
        if at < stop && (text[at] == 101 || text[at] == 69)
          power, at = exponent(text, at + 1, stop)
        end
        return f64(0.0), false if at != stop

        return scaled(value, power - places) * sign, true
      end

      # What follows the e of a number, and where it ends; -1 there if it is no exponent.
      kernel text: U8[1], from: I32, stop: I32, returns: [I32, I32]
      def exponent(text, from, stop)
        at = from
        sign = 1
        if at < stop && (text[at] == 43 || text[at] == 45)
          sign = -1 if text[at] == 45
          at += 1
        end
        return 0, -1 if at >= stop

        power = 0
        while at < stop && text[at] >= 48 && text[at] <= 57
          power = [power * 10 + text[at] - 48, 9999].min
          at += 1
        end
        return power * sign, at
      end

      # Tens are exact far enough, so one rounding is all there is for usual numbers.
      kernel value: F64, power: I32, returns: F64
      def scaled(value, power)
        ten = f64(1.0)
        [power.abs, 400].min.times { |_n| ten *= 10.0 }
        power < 0 ? value / ten : (value == 0.0 ? value : value * ten)
      end

      # A word's whole number from `from` to the first byte that is no digit. Gives it and where it ends;
      # an end at `from` says that there is none.
      kernel text: U8[1], from: I32, stop: I32, returns: [I32, I32]
      def whole(text, from, stop)
        at = from
        negative = at < stop && text[at] == 45
        at += 1 if negative || (at < stop && text[at] == 43)
        first = at
        value = 0
        while at < stop && text[at] >= 48 && text[at] <= 57
          value = value > 200_000_000 ? 2_000_000_000 : value * 10 + text[at] - 48
          at += 1
        end
        return 0, from if at == first

        return negative ? -value : value, at
      end
    end
  end
end
