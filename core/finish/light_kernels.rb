# frozen_string_literal: true

module Vumbral
  module Finish
    # What bright light does: glow, flares, light thrown on what lies about. f32 [h, w, 4], or [h, w, 3] of light alone.
    module LightKernels
      extend Kernel::Library

      # Light above a threshold, in its own colour: `out` f32 [h, w, 3].
      kernel out: F32[3], image: F32[3], from: F32
      def bright(out, image, from)
        parallel(out.dim(0)) do |py|
          out.dim(1).times do |px|
            grey = 0.2126 * image[py, px, 0] + 0.7152 * image[py, px, 1] + 0.0722 * image[py, px, 2]
            part = grey > from ? (grey - from) / grey : 0.0
            3.times { |c| out[py, px, c] = part * image[py, px, c] }
          end
        end
      end

      # Adds light that covers nothing: `light` f32 [h, w, 3] to f32 [h, w, 4].
      kernel image: F32[3], light: F32[3]
      def add(image, light)
        parallel(image.dim(0)) do |py|
          image.dim(1).times { |px| 3.times { |c| image[py, px, c] += light[py, px, c] } }
        end
      end

      # Sums of each row of a picture of light: red, green, blue; brightness times the place across and down;
      # brightness.
      kernel rows: F32[2], light: F32[3]
      def sums(rows, light)
        parallel(light.dim(0)) do |py|
          6.times { |c| rows[py, c] = 0.0 }
          light.dim(1).times do |px|
            3.times { |c| rows[py, c] += light[py, px, c] }
            grey = 0.2126 * light[py, px, 0] + 0.7152 * light[py, px, 1] + 0.0722 * light[py, px, 2]
            rows[py, 3] += grey * (px + 0.5)
            rows[py, 4] += grey * (py + 0.5)
            rows[py, 5] += grey
          end
        end
      end

      # Lights what lies about a fire: `fire` f32 [6] is red, green, blue, its place in pixels, and how far away it is
      # down to a quarter, pixels.
      kernel image: F32[3], fire: F32[1]
      def throw(image, fire)
        per = 3.0 / (fire[5] * fire[5])
        parallel(image.dim(0)) do |py|
          y = py + 0.5 - fire[4]
          image.dim(1).times do |px|
            x = px + 0.5 - fire[3]
            fall = 1.0 / (1.0 + per * (x * x + y * y))
            3.times { |c| image[py, px, c] *= 1.0 + fall * fire[c] }
          end
        end
      end

      # Light from behind that comes round an edge: `behind` f32 [h, w, 4] blurred, `open` f32 [h, w, 4] the picture
      # blurred.
      kernel image: F32[3], behind: F32[3], open: F32[3], amount: F32
      def wrap(image, behind, open, amount)
        parallel(image.dim(0)) do |py|
          image.dim(1).times do |px|
            part = amount * image[py, px, 3] * (1.0 - open[py, px, 3]).clamp(0.0, 1.0)
            3.times { |c| image[py, px, c] += part * behind[py, px, c] }
          end
        end
      end

      # A light at a place between pixels, or nothing off the picture.
      kernel light: F32[3], y: F32, x: F32, c: I32, returns: F32
      def at(light, y, x, c)
        j = y.floor
        i = x.floor
        out = 0.0
        if j >= 0 && i >= 0 && j < light.dim(0) - 1 && i < light.dim(1) - 1
          fy = y - j
          fx = x - i
          a = light[j, i, c] + fx * (light[j, i + 1, c] - light[j, i, c])
          b = light[j + 1, i, c] + fx * (light[j + 1, i + 1, c] - light[j + 1, i, c])
          out = a + fy * (b - a)
        end
        return out
      end

      # Where light is: `rows` f32 [h, 2] the first and the last place of each row that has more than `least`; -1 where
      # none has.
      kernel rows: F32[2], light: F32[3], least: F32
      def bounds(rows, light, least)
        parallel(light.dim(0)) do |py|
          first = -1
          last = -1
          light.dim(1).times do |px|
            if light[py, px, 0] + light[py, px, 1] + light[py, px, 2] > least
              first = px if first < 0
              last = px
            end
          end
          rows[py, 0] = f64(first)
          rows[py, 1] = f64(last)
        end
      end

      # One ghost: the light seen again through the middle. `ghost` f32 [8]: how large it is (below 0 upside down) in
      # red, green and blue, the radius of its disc in pixels, and its tint in three parts, and how much brighter its
      # rim is. Only within `box` i32 [4], left, top, right and bottom.
      kernel out: F32[3], light: F32[3], ghost: F32[1], box: I32[1], taps: I32
      def ghost(out, light, ghost, box, taps)
        my = 0.5 * light.dim(0) - 0.5
        mx = 0.5 * light.dim(1) - 0.5
        reach = Math.sqrt(my * my + mx * mx)
        parallel(box[3] - box[1]) do |row|
          py = box[1] + row
          (box[0]...box[2]).each do |px|
            off = Math.sqrt((py - my) * (py - my) + (px - mx) * (px - mx)) / reach
            fade = (1.0 - off * off * 0.8).clamp(0.0, 1.0)
            3.times do |c|
              per = 1.0 / ghost[c]
              sum = 0.0
              taps.times do |n|
                part = Math.sqrt((n + 0.5) / taps)
                around = 2.399963 * n
                weight = 1.0 + ghost[7] * part * part
                sum +=
                  weight *
                  at(
                    light, my + (py - my + ghost[3] * part * Math.sin(around)) * per,
                    mx + (px - mx + ghost[3] * part * Math.cos(around)) * per, c
                  )
              end
              out[py, px, c] += fade * ghost[4 + c] * sum / taps
            end
          end
        end
      end

      # A line of light through what is bright: `way` f32 [4] its direction, `length` pixels to either side at which it
      # is nearly gone, and how bright it is. Only within `box` as {#ghost}.
      kernel out: F32[3], light: F32[3], way: F32[1], box: I32[1]
      def streak(out, light, way, box)
        dx = way[0]
        dy = way[1]
        length = way[2]
        gain = way[3]
        reach = length.to_i + 1
        per = 4.0 / length
        parallel(box[3] - box[1]) do |row|
          py = box[1] + row
          (box[0]...box[2]).each do |px|
            (-reach..reach).each do |n|
              weight = gain * Math.exp(-per * n.abs)
              3.times { |c| out[py, px, c] += weight * at(light, py + n * dy, px + n * dx, c) }
            end
          end
        end
      end
    end
  end
end
