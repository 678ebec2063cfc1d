# frozen_string_literal: true

module Vumbral
  module Picture
    # From linear light to pixels.
    module FilmKernels
      extend Kernel::Library

      # How far each colour is drawn to grey before the curve, and away from it after: so bright light of
      # one hue runs to white, as dyes in film let it.
      CROSSTALK = 0.09
      # Puts a middle grey where it was.
      LEVEL = 0.72

      # What comes out of a film for one part of a colour: dark toe, straight middle, long shoulder (the rational
      # fit of Narkowicz 2015).
      kernel x: F32, returns: F32
      def curve(x)
        a = LEVEL * [x, 0.0].max
        (a * (2.51 * a + 0.03) / (a * (2.43 * a + 0.59) + 0.14)).clamp(0.0, 1.0)
      end

      # Linear light as a screen shows it (IEC 61966-2-1).
      kernel y: F32, returns: F32
      def screen(y)
        y <= 0.0031308 ? 12.92 * y : 1.055 * (y**0.41666667) - 0.055
      end

      # How much of what the soft top takes from a light goes to white.
      WHITENS = 0.15

      # A straight line whose brightest part bends over above 0.6: hue stays, and what is far brighter runs to white
      # (as Khronos PBR Neutral 2024 has it).
      kernel x: F32, y: F32, z: F32, returns: [F32, F32, F32]
      def soft(x, y, z)
        peak = [x, y, z].max
        scale = 1.0
        white = 0.0
        top = peak
        if peak > 0.6
          top = 0.6 + 0.4 * (1.0 - Math.exp(-2.5 * (peak - 0.6)))
          scale = top / peak
          white = 1.0 - 1.0 / (WHITENS * (peak - top) + 1.0)
        end
        r = scale * x
        g = scale * y
        b = scale * z
        return r + white * (top - r), g + white * (top - g), b + white * (top - b)
      end

      # Light of a pixel, red, green and blue, as `film` f32 [8] develops it: gains for red, green, blue; 0 plain,
      # 1 soft, 2 film; contrast; grain. Still linear.
      kernel film: F32[1], r: F32, g: F32, b: F32, returns: [F32, F32, F32]
      def tone(film, r, g, b)
        x = [r * film[0], 0.0].max
        y = [g * film[1], 0.0].max
        z = [b * film[2], 0.0].max
        if (film[4] - 1.0).abs > 0.0001
          x = 0.18 * (x / 0.18)**film[4]
          y = 0.18 * (y / 0.18)**film[4]
          z = 0.18 * (z / 0.18)**film[4]
        end
        if film[3] > 1.5
          grey = CROSSTALK * (0.2126 * x + 0.7152 * y + 0.0722 * z)
          x = curve((1.0 - CROSSTALK) * x + grey)
          y = curve((1.0 - CROSSTALK) * y + grey)
          z = curve((1.0 - CROSSTALK) * z + grey)
          grey = CROSSTALK * (0.2126 * x + 0.7152 * y + 0.0722 * z)
          x = (x - grey) / (1.0 - CROSSTALK)
          y = (y - grey) / (1.0 - CROSSTALK)
          z = (z - grey) / (1.0 - CROSSTALK)
        elsif film[3] > 0.5
          p, q, s = soft(x, y, z)
          x = p
          y = q
          z = s
        end
        return x.clamp(0.0, 1.0), y.clamp(0.0, 1.0), z.clamp(0.0, 1.0)
      end

      # A picture over what stands behind it: `out` and `behind` f32 [h, w, 3].
      kernel out: F32[3], image: F32[3], behind: F32[3]
      def over(out, image, behind)
        each_cell(out) { |py, px, c| out[py, px, c] = image[py, px, c] + (1.0 - image[py, px, 3]) * behind[py, px, c] }
      end

      # A pixel as a screen shows it, with its grain, 0 to 1.
      kernel light: F32[3], film: F32[1], py: I32, px: I32, returns: [F32, F32, F32]
      def shown(light, film, py, px)
        r, g, b = tone(film, light[py, px, 0], light[py, px, 1], light[py, px, 2])
        shift = 0.0
        if film[5] > 0.0
          # Two numbers make nearly a bell.
          chance = Grid::Noise.lattice(px, py, 0, 0, 77) + Grid::Noise.lattice(px, py, 1, 0, 78) - 1.0
          grey = screen(0.2126 * r + 0.7152 * g + 0.0722 * b)
          shift = film[5] * chance * (0.25 + grey * (1.0 - grey))
        end
        return [
          (screen(r) + shift).clamp(0.0, 1.0), (screen(g) + shift).clamp(0.0, 1.0), (screen(b) + shift).clamp(0.0, 1.0)
        ]
      end

      # Eight-bit pixels: `out` u8 [h, w, 3].
      kernel out: U8[3], light: F32[3], film: F32[1]
      def develop(out, light, film)
        parallel(light.dim(0)) do |py|
          light.dim(1).times do |px|
            r, g, b = shown(light, film, py, px)
            out[py, px, 0] = (255.0 * r + 0.5).to_i
            out[py, px, 1] = (255.0 * g + 0.5).to_i
            out[py, px, 2] = (255.0 * b + 0.5).to_i
          end
        end
      end

      # The same with sixteen bits: u16 [h, w, 3].
      kernel out: U16[3], light: F32[3], film: F32[1]
      def develop_deep(out, light, film)
        parallel(light.dim(0)) do |py|
          light.dim(1).times do |px|
            r, g, b = shown(light, film, py, px)
            out[py, px, 0] = (65_535.0 * r + 0.5).to_i
            out[py, px, 1] = (65_535.0 * g + 0.5).to_i
            out[py, px, 2] = (65_535.0 * b + 0.5).to_i
          end
        end
      end

      # A pixel's colour, not multiplied by its alpha, and that.
      kernel image: F32[3], film: F32[1], py: I32, px: I32, returns: [F32, F32, F32, F32]
      def plain(image, film, py, px)
        alpha = image[py, px, 3].clamp(0.0, 1.0)
        per = alpha > 0.0 ? 1.0 / alpha : 0.0
        r, g, b = tone(film, image[py, px, 0] * per, image[py, px, 1] * per, image[py, px, 2] * per)
        return r, g, b, alpha
      end

      # Eight-bit pixels with alpha and nothing behind, the colour not multiplied by it: u8 [h, w, 4].
      kernel out: U8[3], image: F32[3], film: F32[1]
      def cut_out(out, image, film)
        parallel(image.dim(0)) do |py|
          image.dim(1).times do |px|
            r, g, b, alpha = plain(image, film, py, px)
            out[py, px, 0] = (255.0 * screen(r) + 0.5).to_i
            out[py, px, 1] = (255.0 * screen(g) + 0.5).to_i
            out[py, px, 2] = (255.0 * screen(b) + 0.5).to_i
            out[py, px, 3] = (255.0 * alpha + 0.5).to_i
          end
        end
      end

      # The same with sixteen bits: u16 [h, w, 4].
      kernel out: U16[3], image: F32[3], film: F32[1]
      def cut_out_deep(out, image, film)
        parallel(image.dim(0)) do |py|
          image.dim(1).times do |px|
            r, g, b, alpha = plain(image, film, py, px)
            out[py, px, 0] = (65_535.0 * screen(r) + 0.5).to_i
            out[py, px, 1] = (65_535.0 * screen(g) + 0.5).to_i
            out[py, px, 2] = (65_535.0 * screen(b) + 0.5).to_i
            out[py, px, 3] = (65_535.0 * alpha + 0.5).to_i
          end
        end
      end

      # A picture at a quarter of its size, for what is soft anyway. Each pixel goes to the three that are nearest along
      # each axis, as it is told again by {#spread}: where light is counted does not jump as it moves.
      kernel out: F32[3], light: F32[3]
      def quarter(out, light)
        each_cell(out) do |py, px, c|
          sum = 0.0
          whole = 0.0
          ([4 * py - 4, 0].max...[4 * py + 8, light.dim(0)].min).each do |y|
            high = bell((y + 0.5) * 0.25 - 0.5 - py)
            ([4 * px - 4, 0].max...[4 * px + 8, light.dim(1)].min).each do |x|
              weight = high * bell((x + 0.5) * 0.25 - 0.5 - px)
              sum += weight * light[y, x, c]
              whole += weight
            end
          end
          out[py, px, c] = sum / whole
        end
      end

      # A quadratic spline, so far from its middle.
      kernel off: F32, returns: F32
      def bell(off)
        far = [1.5 - off.abs, 0.0].max
        off.abs < 0.5 ? 0.75 - off * off : 0.5 * far * far
      end

      # Blurs along an axis (0 down, 1 across) with a bell of the width `sigma`, pixels; a narrow one goes on until
      # nothing of it is seen even of a glint of the sun.
      kernel out: F32[3], light: F32[3], axis: I32, sigma: F32
      def blur(out, light, axis, sigma)
        reach = (3.0 * sigma + 3.0).ceil
        per = -0.5 / (sigma * sigma)
        parallel(out.dim(0)) do |py|
          out.dim(1).times do |px|
            red = 0.0
            green = 0.0
            blue = 0.0
            whole = 0.0
            (-reach..reach).each do |n|
              weight = Math.exp(per * n * n)
              y = (py + (axis == 0 ? n : 0)).clamp(0, light.dim(0) - 1)
              x = (px + (axis == 1 ? n : 0)).clamp(0, light.dim(1) - 1)
              red += weight * light[y, x, 0]
              green += weight * light[y, x, 1]
              blue += weight * light[y, x, 2]
              whole += weight
            end
            out[py, px, 0] = red / whole
            out[py, px, 1] = green / whole
            out[py, px, 2] = blue / whole
          end
        end
      end

      # Mixes a soft quarter-size picture in, by three pixels along each axis (a quadratic spline): between two of them
      # only, the grid of the small picture would be seen around what is very bright.
      kernel light: F32[3], soft: F32[3], share: F32
      def spread(light, soft, share)
        parallel(light.dim(0)) do |py|
          y = (py + 0.5) * 0.25 - 0.5
          j = y.round.to_i
          light.dim(1).times do |px|
            x = (px + 0.5) * 0.25 - 0.5
            i = x.round.to_i
            red = 0.0
            green = 0.0
            blue = 0.0
            3.times do |b|
              high = bell(y - (j + b - 1))
              row = (j + b - 1).clamp(0, soft.dim(0) - 1)
              3.times do |a|
                weight = high * bell(x - (i + a - 1))
                column = (i + a - 1).clamp(0, soft.dim(1) - 1)
                red += weight * soft[row, column, 0]
                green += weight * soft[row, column, 1]
                blue += weight * soft[row, column, 2]
              end
            end
            light[py, px, 0] += share * red
            light[py, px, 1] += share * green
            light[py, px, 2] += share * blue
          end
        end
      end

      # Makes a picture darker by what was spread.
      kernel light: F32[3], factor: F32
      def scale(light, factor)
        each_cell(light) { |py, px, c| light[py, px, c] *= factor }
      end
    end
  end
end
