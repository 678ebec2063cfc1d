# frozen_string_literal: true

module Vumbral
  module Formats
    # What paths and transforms of SVG say (W3C, SVG 1.1, chapters 7 and 8).
    module SVGPath
      NUMBER = /[-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?/
      SAME = [1.0, 0.0, 0.0, 1.0, 0.0, 0.0].freeze
      # Numbers that each command takes.
      TAKES = {"m" => 2, "l" => 2, "h" => 1, "v" => 1, "c" => 6, "s" => 4, "q" => 4, "t" => 2, "a" => 7, "z" => 0}.freeze
      STEPS = 12
      # Curves that begin as the one before ended, and what they are otherwise.
      SMOOTH = {"s" => "c", "t" => "q"}.freeze

      module_function

      # @return [Array<Array<Array<Float>>>] its closed lines; open ones are taken as closed
      # @raise [Refused]
      def rings(text, name)
        rings = []
        at = [0.0, 0.0]
        last = nil
        commands(text, name).each do |letter, numbers|
          relative = letter == letter.downcase
          kind = letter.downcase
          rings << [at] if rings.empty? && kind != "m"
          if kind == "z"
            at = rings.last[0]
            rings << [at]
            last = nil
            next
          end
          points = placed(kind, numbers, relative ? at : [0.0, 0.0], at)
          points.unshift(mirrored(at, last, SMOOTH[kind])) if SMOOTH.key?(kind)
          case kind
          when "m"
            rings << [points[0]]
          when "c", "s", "q", "t"
            rings.last.concat(Geometry::Bezier.points([at, *points], STEPS))
          when "a"
            rings.last.concat(arc(at, points[0], numbers))
          else
            rings.last << points[0]
          end
          last = [SMOOTH.fetch(kind, kind), points[-2]]
          at = points[-1]
        end
        rings.select { |ring| ring.size > 2 }
      end

      # @return [Array<Array(String, Array<Float>)>] each with its numbers, repeated ones apart
      def commands(text, name)
        text.scan(/([a-zA-Z])([^a-zA-Z]*(?:[eE][-+]?\d[^a-zA-Z]*)*)/).flat_map do |letter, rest|
          takes = TAKES[letter.downcase]
          numbers = rest.scan(NUMBER).map(&:to_f)
          sound = takes && (takes.zero? ? numbers.empty? : numbers.any? && (numbers.size % takes).zero?)
          unless sound
            raise Refused.new(
              "A path of #{name} cannot be read at \"#{Text.excerpt(letter + rest)}\"; save it again.",
              code: "bad_drawing"
            )
          end
          next [[letter, []]] if takes.zero?

          # What follows a first place is lines.
          numbers.each_slice(takes).with_index.map { |row, n|
            [if n.positive? && letter.downcase == "m"
               (letter == "m") ? "l" : "L"
             else
               letter
             end, row]
          }
        end
      end

      def placed(kind, numbers, from, at)
        case kind
        when "h" then [[numbers[0] + from[0], at[1]]]
        when "v" then [[at[0], numbers[0] + from[1]]]
        when "a" then [[numbers[5] + from[0], numbers[6] + from[1]]]
        else numbers.each_slice(2).map { |x, y| [x + from[0], y + from[1]] }
        end
      end

      # The handle of the curve before, on the other side.
      def mirrored(at, last, kind) =
        (last && last[0] == kind && last[1]) ? at.zip(last[1]).map { |a, b| 2 * a - b } : at

      # Along an ellipse (SVG 1.1, appendix F.6).
      def arc(from, to, (rx, ry, turn, large, sweep))
        rx, ry = rx.abs, ry.abs
        return [to] if rx.zero? || ry.zero? || from == to

        cosine, sine = Math.cos(turn * Math::PI / 180), Math.sin(turn * Math::PI / 180)
        dx, dy = 0.5 * (from[0] - to[0]), 0.5 * (from[1] - to[1])
        x, y = cosine * dx + sine * dy, -sine * dx + cosine * dy
        over = (x / rx)**2 + (y / ry)**2
        rx, ry = [rx, ry].map { |r| r * Math.sqrt(over) } if over > 1.0
        root = [(rx * ry)**2 / ((rx * y)**2 + (ry * x)**2) - 1.0, 0.0].max
        side = ((large != 0.0) == (sweep != 0.0)) ? -Math.sqrt(root) : Math.sqrt(root)
        cx, cy = side * rx * y / ry, -side * ry * x / rx
        start, stop = [[x - cx, y - cy], [-x - cx, -y - cy]].map { |u, v| Math.atan2(v / ry, u / rx) }
        span = stop - start
        span += 2 * Math::PI if sweep != 0.0 && span.negative?
        span -= 2 * Math::PI if sweep == 0.0 && span.positive?
        steps = [(span.abs / Math::PI * 2 * STEPS).ceil, 1].max
        mx, my = cosine * cx - sine * cy + 0.5 * (from[0] + to[0]), sine * cx + cosine * cy + 0.5 * (from[1] + to[1])
        (1..steps).map do |n|
          (start + span * n / steps).then do |a|
            [
              mx + cosine * rx * Math.cos(a) - sine * ry * Math.sin(a),
              my + sine * rx * Math.cos(a) + cosine * ry * Math.sin(a)
            ]
          end
        end
      end

      # @return [Array<Float>] a b c d e f as SVG has them
      def transform(text)
        text.scan(/(matrix|translate|scale|rotate|skewX|skewY)\s*\(([^)]*)\)/).reduce(SAME) do |all, (what, given)|
          n = given.scan(NUMBER).map(&:to_f)
          times(all, matrix(what, n))
        end
      end

      def matrix(what, n)
        angle = n[0].to_f * Math::PI / 180
        case what
        when "matrix" then (n.size == 6) ? n : SAME
        when "translate" then [1.0, 0.0, 0.0, 1.0, n[0].to_f, n[1].to_f]
        when "scale" then [n[0] || 1.0, 0.0, 0.0, n[1] || n[0] || 1.0, 0.0, 0.0]
        when "skewX" then [1.0, 0.0, Math.tan(angle), 1.0, 0.0, 0.0]
        when "skewY" then [1.0, Math.tan(angle), 0.0, 1.0, 0.0, 0.0]
        else
          x, y = n[1].to_f, n[2].to_f
          turn = [Math.cos(angle), Math.sin(angle), -Math.sin(angle), Math.cos(angle), 0.0, 0.0]
          times(times([1.0, 0.0, 0.0, 1.0, x, y], turn), [1.0, 0.0, 0.0, 1.0, -x, -y])
        end
      end

      # One after the other.
      def times(m, o)
        [m[0] * o[0] + m[2] * o[1], m[1] * o[0] + m[3] * o[1], m[0] * o[2] + m[2] * o[3], m[1] * o[2] + m[3] * o[3],
          m[0] * o[4] + m[2] * o[5] + m[4], m[1] * o[4] + m[3] * o[5] + m[5]]
      end

      def apply(m, (x, y)) = [m[0] * x + m[2] * y + m[4], m[1] * x + m[3] * y + m[5]]
      private_class_method :commands, :placed, :mirrored, :arc, :matrix
    end
  end
end
