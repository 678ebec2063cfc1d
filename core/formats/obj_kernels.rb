# frozen_string_literal: true

module Vumbral
  module Formats
    # Reads the text of an OBJ file: once to count, once to fill.
    module OBJKernels
      extend Kernel::Library

      # What a line may be. A `report` says what is wrong: what, where its line begins, its number, and
      # one more number.
      OTHER, POINT, TEXTURE, FACE, PART, MATERIAL = 0, 1, 2, 3, 4, 5
      NO_NUMBER, TOO_FAR, NO_POINT, NO_TEXTURE, FEW_CORNERS = 1, 2, 3, 4, 5

      # The kind of a line whose first word begins at `at`.
      kernel text: U8[1], at: I32, stop: I32, returns: I32
      def kind(text, at, stop)
        return OTHER if at >= stop

        second = at + 1 < stop ? text[at + 1] : 32
        if TextKernels.gap?(second)
          return POINT if text[at] == 118
          return FACE if text[at] == 102
          return PART if text[at] == 111 || text[at] == 103
        end
        return TEXTURE if text[at] == 118 && second == 116 && (at + 2 >= stop || TextKernels.gap?(text[at + 2]))
        return MATERIAL if text[at] == 117 && second == 115 && material?(text, at, stop)

        OTHER
      end

      # Whether the word is usemtl.
      kernel text: U8[1], at: I32, stop: I32, returns: BOOL
      def material?(text, at, stop)
        return false if at + 7 > stop

        text[at + 2] == 101 && text[at + 3] == 109 && text[at + 4] == 116 && text[at + 5] == 108 &&
          TextKernels.gap?(text[at + 6])
      end

      # How many points, texture places, triangles and heads of parts and materials there are.
      kernel text: U8[1], returns: [I32, I32, I32, I32]
      def count(text)
        points = 0
        textures = 0
        triangles = 0
        parts = 0
        at = 0
        while at < text.size
          stop = TextKernels.line_end(text, at)
          first = TextKernels.word(text, at, stop)
          what = kind(text, first, stop)
          points += 1 if what == POINT
          textures += 1 if what == TEXTURE
          parts += 1 if what == PART || what == MATERIAL
          triangles += [corners(text, first + 1, stop) - 2, 0].max if what == FACE
          at = stop + 1
        end
        return points, textures, triangles, parts
      end

      kernel text: U8[1], from: I32, stop: I32, returns: I32
      def corners(text, from, stop)
        words = 0
        at = TextKernels.word(text, from, stop)
        while at < stop
          words += 1
          at = TextKernels.word(text, TextKernels.word_end(text, at, stop), stop)
        end
        words
      end

      # Fills what was counted. `places` has no rows where the file has no texture places; `tints` takes each
      # point's colour. `parts` i32 [n, 4]: where a name begins and ends, the first triangle, and 1 for a
      # material. Gives the number of points that have a colour.
      kernel text: U8[1], points: F32[2], tints: F32[2], textures: F32[2], triangles: I32[2], places: F32[2],
        parts: I32[2],
        report: I32[1], returns: I32
      def fill(text, points, tints, textures, triangles, places, parts, report)
        made = local_i32(4)
        4.times { |n| made[n] = 0 }
        painted = 0
        line = 0
        at = 0
        while at < text.size && report[0] == 0
          line += 1
          stop = TextKernels.line_end(text, at)
          first = TextKernels.word(text, at, stop)
          what = kind(text, first, stop)
          if what == POINT
            painted += point(text, first + 1, stop, points, tints, made[0], report)
            made[0] = made[0] + 1
          elsif what == TEXTURE
            texture(text, first + 2, stop, textures, made[1])
            made[1] = made[1] + 1
          elsif what == FACE
            made[2] = face(text, first + 1, stop, made, textures, triangles, places, report)
          elsif what == PART || what == MATERIAL
            parts[made[3], 0] = what == PART ? first + 1 : first + 6
            parts[made[3], 3] = what == PART ? 0 : 1
            parts[made[3], 1] = stop
            parts[made[3], 2] = made[2]
            made[3] = made[3] + 1
          end
          if report[0] != 0
            report[1] = at
            report[2] = line
          end
          at = stop + 1
        end
        painted
      end

      # @return 1 if the point has a colour
      kernel text: U8[1], from: I32, stop: I32, points: F32[2], tints: F32[2], n: I32, report: I32[1], returns: I32
      def point(text, from, stop, points, tints, n, report)
        at = from
        words = 0
        6.times do |c|
          at = TextKernels.word(text, at, stop)
          if at < stop
            ending = TextKernels.word_end(text, at, stop)
            value, good = TextKernels.number(text, at, ending)
            if c < 3
              report[0] = NO_NUMBER unless good
              report[0] = TOO_FAR if value.abs > 1.0e9
              points[n, c] = value
            else
              tints[n, c - 3] = value
            end
            words += 1
            at = ending
          end
        end
        report[0] = NO_NUMBER if words < 3 && report[0] == 0
        words == 6 ? 1 : 0
      end

      # What is missing or no number counts as 0.
      kernel text: U8[1], from: I32, stop: I32, textures: F32[2], n: I32
      def texture(text, from, stop, textures, n)
        at = from
        2.times do |c|
          at = TextKernels.word(text, at, stop)
          ending = TextKernels.word_end(text, at, stop)
          value, good = TextKernels.number(text, at, ending)
          textures[n, c] = good && value.abs < 1.0e9 ? value : 0.0
          at = ending
        end
      end

      # Corners count from 1, or backwards from -1: v, v/vt, v//vn or v/vt/vn. `made` holds how many points, texture
      # places and triangles there are so far. Gives the number of triangles there are then.
      kernel text: U8[1], from: I32, stop: I32, made: I32[1], textures: F32[2], triangles: I32[2], places: F32[2],
        report: I32[1], returns: I32
      def face(text, from, stop, made, textures, triangles, places, report)
        points = made[0]
        n = made[2]
        seen = 0
        first = 0
        last = 0
        first_place = 0
        last_place = 0
        at = TextKernels.word(text, from, stop)
        while at < stop && report[0] == 0
          ending = TextKernels.word_end(text, at, stop)
          corner, after = TextKernels.whole(text, at, ending)
          number = corner < 0 ? points + corner : corner - 1
          if after == at || (after < ending && text[after] != 47) || number < 0 || number >= points
            report[0] = NO_POINT
            report[3] = at
          end
          place = place_of(text, after, ending, made[1], report)
          report[3] = at if report[0] == NO_TEXTURE
          if report[0] == 0
            if seen >= 2
              triangles[n, 0] = first
              triangles[n, 1] = last
              triangles[n, 2] = number
              if places.dim(0) > 0
                put(places, n, 0, textures, first_place)
                put(places, n, 1, textures, last_place)
                put(places, n, 2, textures, place)
              end
              n += 1
            end
            first = seen == 0 ? number : first
            first_place = seen == 0 ? place : first_place
            last = number
            last_place = place
          end
          seen += 1
          at = TextKernels.word(text, ending, stop)
        end
        if seen < 3 && report[0] == 0
          report[0] = FEW_CORNERS
          report[3] = seen
        end
        n
      end

      # A corner's texture place, after the number of its point; -1 where it has none.
      kernel text: U8[1], from: I32, stop: I32, known: I32, report: I32[1], returns: I32
      def place_of(text, from, stop, known, report)
        return -1 if from + 1 >= stop || text[from] != 47

        given, after = TextKernels.whole(text, from + 1, stop)
        return -1 if after == from + 1

        place = given < 0 ? known + given : given - 1
        report[0] = NO_TEXTURE if (place < 0 || place >= known) && report[0] == 0
        place
      end

      kernel places: F32[2], n: I32, corner: I32, textures: F32[2], place: I32
      def put(places, n, corner, textures, place)
        places[n, 2 * corner] = place < 0 ? 0.0 : textures[place, 0]
        places[n, 2 * corner + 1] = place < 0 ? 0.0 : textures[place, 1]
      end
    end
  end
end
