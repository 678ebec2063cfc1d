# frozen_string_literal: true

module Vumbral
  module Finish
    # Colours changed pixel by pixel: f32 [h, w, 4], linear light multiplied by alpha. What is not simply multiplied is
    # done to the colour itself. Of what glows without covering, that is its light over how bright it is, up to 1.
    module GradeKernels
      extend Kernel::Library

      # By how much a pixel's colour is multiplied.
      kernel image: F32[3], py: I32, px: I32, returns: F32
      def cover(image, py, px)
        most = [image[py, px, 0], image[py, px, 1], image[py, px, 2]].max
        return [image[py, px, 3], [most, 1.0].min, 0.000001].max
      end

      # Multiplies red, green and blue by `by` f32 [3].
      kernel image: F32[3], by: F32[1]
      def multiply(image, by)
        parallel(image.dim(0)) do |py|
          image.dim(1).times { |px| 3.times { |c| image[py, px, c] *= by[c] } }
        end
      end

      # Lift, gamma and gain: (gain (x + lift (1 - x)))^(1 / gamma), in each colour. Light above white is not lowered by
      # the lift.
      kernel image: F32[3], lift: F32, gamma: F32, gain: F32
      def grade(image, lift, gamma, gain)
        power = 1.0 / gamma
        parallel(image.dim(0)) do |py|
          image.dim(1).times do |px|
            whole = cover(image, py, px)
            3.times do |c|
              x = image[py, px, c] / whole
              y = [gain * (x + lift * [1.0 - x, 0.0].max), 0.0].max
              image[py, px, c] = whole * ((gamma - 1.0).abs < 0.00001 ? y : y**power)
            end
          end
        end
      end

      # Contrast about a light that stays: pivot (x / pivot)^contrast.
      kernel image: F32[3], contrast: F32, pivot: F32
      def contrast(image, contrast, pivot)
        parallel(image.dim(0)) do |py|
          image.dim(1).times do |px|
            whole = cover(image, py, px)
            3.times { |c| image[py, px, c] = whole * pivot * ([image[py, px, c] / whole, 0.0].max / pivot)**contrast }
          end
        end
      end

      # What a screen shows of a light (IEC 61966-2-1), going on evenly above white.
      kernel x: F32, returns: F32
      def screen(x)
        return x <= 0.0031308 ? 12.92 * x : 1.055 * x**0.41666667 - 0.055
      end

      # The light of what a screen shows.
      kernel x: F32, returns: F32
      def light(x)
        return x <= 0.04045 ? x / 12.92 : ((x + 0.055) / 1.055)**2.4
      end

      # A place in a table f32 [n, 4]: that row's number at 0 to 1; above 1 it goes on as at 1.
      kernel table: F32[2], column: I32, x: F32, returns: F32
      def read(table, column, x)
        last = table.dim(0) - 1
        at = x.clamp(0.0, 1.0) * last
        n = [at.to_i, last - 1].min
        y = table[n, column] + (at - n) * (table[n + 1, column] - table[n, column])
        return x > 1.0 ? y + (x - 1.0) : y
      end

      # Curves, as a screen has brightness: `table` f32 [n, 4] of all colours, red, green and blue.
      kernel image: F32[3], table: F32[2]
      def curves(image, table)
        parallel(image.dim(0)) do |py|
          image.dim(1).times do |px|
            whole = cover(image, py, px)
            3.times do |c|
              y = read(table, 1 + c, read(table, 0, screen([image[py, px, c] / whole, 0.0].max)))
              image[py, px, c] = whole * light([y, 0.0].max)
            end
          end
        end
      end

      # Hue of a colour in turns, 0 to 1 from red over green and blue.
      kernel r: F32, g: F32, b: F32, returns: F32
      def hue(r, g, b)
        most = [r, g, b].max
        span = most - [r, g, b].min
        turn = 0.0
        if span > 0.000001
          if most == r
            turn = (g - b) / span
          elsif most == g
            turn = 2.0 + (b - r) / span
          else
            turn = 4.0 + (r - g) / span
          end
          turn += 6.0 if turn < 0.0
        end
        return turn / 6.0
      end

      # A place in a table f32 [n, 4], 0 to 1.
      kernel table: F32[2], column: I32, x: F32, returns: F32
      def within(table, column, x)
        last = table.dim(0) - 1
        at = x.clamp(0.0, 1.0) * last
        n = [at.to_i, last - 1].min
        return table[n, column] + (at - n) * (table[n + 1, column] - table[n, column])
      end

      # Turns a hue by degrees and keeps the brightness (Haeberli 1993, as {Colours} does for all of them).
      kernel r: F32, g: F32, b: F32, degrees: F32, returns: [F32, F32, F32]
      def turned(r, g, b, degrees)
        c = Math.cos(degrees * 0.0174532925)
        s = Math.sin(degrees * 0.0174532925)
        grey = 0.2126 * r + 0.7152 * g + 0.0722 * b
        red = grey + c * (r - grey) - s * (0.2126 * r + 0.7152 * g - 0.9278 * b)
        green = grey + c * (g - grey) + s * (0.143 * r + 0.140 * g - 0.283 * b)
        blue = grey + c * (b - grey) - s * (0.7874 * r - 0.7152 * g - 0.0722 * b)
        return red, green, blue
      end

      # Colours by tables f32 [n, 4]: over hues (from red over green and blue back to red) how much colour, by how many
      # degrees the hue is turned, and how bright; and over brightness, as a screen has it, how much colour.
      kernel image: F32[3], table: F32[2]
      def by_hue(image, table)
        parallel(image.dim(0)) do |py|
          image.dim(1).times do |px|
            r = image[py, px, 0]
            g = image[py, px, 1]
            b = image[py, px, 2]
            at = hue(r, g, b)
            most = [r, g, b].max
            # A grey has no hue; what is nearly grey counts little.
            pure = most > 0.000001 ? (most - [r, g, b].min) / most : 0.0
            grey = 0.2126 * r + 0.7152 * g + 0.0722 * b
            by = within(table, 0, at) * within(table, 3, screen([grey, 0.0].max))
            r, g, b = turned(r, g, b, within(table, 1, at))
            bright = 1.0 + pure * (within(table, 2, at) - 1.0)
            image[py, px, 0] = [bright * (grey + by * (r - grey)), 0.0].max
            image[py, px, 1] = [bright * (grey + by * (g - grey)), 0.0].max
            image[py, px, 2] = [bright * (grey + by * (b - grey)), 0.0].max
          end
        end
      end

      # More or less colour about the brightness (Rec. 709), hues turned by `m` f32 [9].
      kernel image: F32[3], m: F32[1], amount: F32
      def saturate(image, m, amount)
        parallel(image.dim(0)) do |py|
          image.dim(1).times do |px|
            r = m[0] * image[py, px, 0] + m[1] * image[py, px, 1] + m[2] * image[py, px, 2]
            g = m[3] * image[py, px, 0] + m[4] * image[py, px, 1] + m[5] * image[py, px, 2]
            b = m[6] * image[py, px, 0] + m[7] * image[py, px, 1] + m[8] * image[py, px, 2]
            grey = 0.2126 * r + 0.7152 * g + 0.0722 * b
            image[py, px, 0] = [grey + amount * (r - grey), 0.0].max
            image[py, px, 1] = [grey + amount * (g - grey), 0.0].max
            image[py, px, 2] = [grey + amount * (b - grey), 0.0].max
          end
        end
      end

      # Tints by brightness, as a screen has it: `tints` f32 [9] multiply darks, middles and lights.
      kernel image: F32[3], tints: F32[1]
      def tint(image, tints)
        parallel(image.dim(0)) do |py|
          image.dim(1).times do |px|
            whole = cover(image, py, px)
            grey =
              screen(
                [0.2126 * image[py, px, 0] + 0.7152 * image[py, px, 1] + 0.0722 * image[py, px, 2], 0.0].max / whole
              ).clamp(0.0, 1.0)
            dark = (1.0 - 2.0 * grey).clamp(0.0, 1.0)
            bright = (2.0 * grey - 1.0).clamp(0.0, 1.0)
            dark *= dark * (3.0 - 2.0 * dark)
            bright *= bright * (3.0 - 2.0 * bright)
            middle = 1.0 - dark - bright
            3.times { |c| image[py, px, c] *= dark * tints[c] + middle * tints[3 + c] + bright * tints[6 + c] }
          end
        end
      end

      # Light as a camera's log has it (ITU-R BT.2100, HLG), and back; white of a screen is 0.75 there.
      kernel x: F32, returns: F32
      def log_of(x)
        e = [x, 0.0].max * 0.26496256
        return e <= 0.083333333 ? Math.sqrt(3.0 * e) : 0.17883277 * Math.log(12.0 * e - 0.28466892) + 0.55991073
      end

      kernel y: F32, returns: F32
      def unlog(y)
        v = [y, 0.0].max
        return (v <= 0.5 ? v * v / 3.0 : (Math.exp((v - 0.55991073) / 0.17883277) + 0.28466892) / 12.0) / 0.26496256
      end

      # Light of a video's number (ITU-R BT.709), and back.
      kernel y: F32, returns: F32
      def unvideo(y)
        return y < 0.081 ? y / 4.5 : ((y + 0.099) / 1.099)**2.2222222
      end

      kernel x: F32, returns: F32
      def video(x)
        return x < 0.018 ? 4.5 * x : 1.099 * x**0.45 - 0.099
      end

      # Light of a film's scan by its density, as DPX and Cineon files have it (10 bit, black at 95 and white at 685,
      # 0.002 a step, a gamma of 0.6), and back.
      kernel y: F32, returns: F32
      def undense(y)
        return (10.0**((1023.0 * y - 685.0) * 0.00333333) - 0.010797753) / 0.98920225
      end

      kernel x: F32, returns: F32
      def dense(x)
        return (685.0 + 300.0 * Math.log([0.98920225 * x + 0.010797753, 0.000001].max) * 0.43429448) / 1023.0
      end

      # A light in one of the spaces: 0 linear, 1 for a screen, 2 for video, 3 log, 4 a film's density.
      kernel space: I32, x: F32, returns: F32
      def into(space, x)
        out = x
        out = screen([x, 0.0].max) if space == 1
        out = video([x, 0.0].max) if space == 2
        out = log_of(x) if space == 3
        out = dense(x) if space == 4
        return out
      end

      kernel space: I32, y: F32, returns: F32
      def out_of(space, y)
        out = y
        out = light([y, 0.0].max) if space == 1
        out = unvideo([y, 0.0].max) if space == 2
        out = unlog(y) if space == 3
        out = undense(y) if space == 4
        return out
      end

      # Turns a picture's numbers into light, multiplied by its alpha where it is not yet.
      kernel image: F32[3], space: I32, multiplied: BOOL
      def take(image, space, multiplied)
        parallel(image.dim(0)) do |py|
          image.dim(1).times do |px|
            by = multiplied ? image[py, px, 3] : 1.0
            3.times { |c| image[py, px, c] = by * out_of(space, image[py, px, c]) }
          end
        end
      end
    end
  end
end
