# frozen_string_literal: true

module Vumbral
  module Finish
    # What a lens, a shutter and film do to a picture: f32 [h, w, 4].
    module LensKernels
      extend Kernel::Library

      # A value between pixels; beyond the edge that of the edge.
      kernel image: F32[3], y: F32, x: F32, c: I32, returns: F32
      def at(image, y, x, c)
        v = y.clamp(0.0, image.dim(0) - 1.0)
        u = x.clamp(0.0, image.dim(1) - 1.0)
        j = [v.to_i, image.dim(0) - 2].min
        i = [u.to_i, image.dim(1) - 2].min
        fy = v - j
        fx = u - i
        a = image[j, i, c] + fx * (image[j, i + 1, c] - image[j, i, c])
        b = image[j + 1, i, c] + fx * (image[j + 1, i + 1, c] - image[j + 1, i, c])
        return a + fy * (b - a)
      end

      # Blurs each pixel along a way: `way` f32 [6] dx, dy, the point that stays, how much it moves away from there, and
      # how much of `motion` f32 [h, w, 2] (one pixel for none). Pixels.
      kernel out: F32[3], image: F32[3], way: F32[1], motion: F32[3], most: I32
      def along(out, image, way, motion, most)
        moved = motion.dim(0) > 1
        parallel(out.dim(0)) do |py|
          out.dim(1).times do |px|
            dx = way[0] + way[4] * (px + 0.5 - way[2])
            dy = way[1] + way[4] * (py + 0.5 - way[3])
            if moved
              dx += way[5] * motion[py, px, 0]
              dy += way[5] * motion[py, px, 1]
            end
            count = [Math.sqrt(dx * dx + dy * dy).to_i + 1, most].min
            4.times { |c| out[py, px, c] = 0.0 }
            weight = 1.0 / count
            count.times do |n|
              part = (n + 0.5) / count - 0.5
              v = (py + part * dy).clamp(0.0, image.dim(0) - 1.0)
              u = (px + part * dx).clamp(0.0, image.dim(1) - 1.0)
              j = [v.to_i, image.dim(0) - 2].min
              i = [u.to_i, image.dim(1) - 2].min
              fy = v - j
              fx = u - i
              a = weight * (1.0 - fy) * (1.0 - fx)
              b = weight * (1.0 - fy) * fx
              d = weight * fy * (1.0 - fx)
              e = weight * fy * fx
              4.times do |c|
                out[py, px, c] += a * image[j, i, c] + b * image[j, i + 1, c] + d * image[j + 1, i, c] +
                  e * image[j + 1, i + 1, c]
              end
            end
          end
        end
      end

      # Blurs by distance: `depth` f32 [h, w, 1] metres; `size` pixels across far behind what is sharp, at `sharp`
      # metres. What is sharp and nearer does not run into what is blurred behind it.
      kernel out: F32[3], image: F32[3], depth: F32[3], size: F32, sharp: F32, taps: I32
      def defocus(out, image, depth, size, sharp, taps)
        parallel(out.dim(0)) do |py|
          out.dim(1).times do |px|
            mine = depth[py, px, 0]
            own = [size * (1.0 - sharp / [mine, 0.001].max).abs, 2.0 * size].min
            # Something nearer may spread over this.
            wide = own
            8.times do |n|
              y = (py + size * 0.7 * Math.sin(0.785398 * n)).to_i.clamp(0, image.dim(0) - 1)
              x = (px + size * 0.7 * Math.cos(0.785398 * n)).to_i.clamp(0, image.dim(1) - 1)
              theirs = [size * (1.0 - sharp / [depth[y, x, 0], 0.001].max).abs, 2.0 * size].min
              wide = theirs if depth[y, x, 0] < mine && theirs > wide
            end
            whole = 1.0
            4.times { |c| out[py, px, c] = image[py, px, c] }
            if wide > 0.6
              taps.times do |n|
                r = wide * Math.sqrt((n + 0.5) / taps)
                y = (py + r * Math.sin(2.399963 * n) + 0.5).to_i.clamp(0, image.dim(0) - 1)
                x = (px + r * Math.cos(2.399963 * n) + 0.5).to_i.clamp(0, image.dim(1) - 1)
                theirs = [size * (1.0 - sharp / [depth[y, x, 0], 0.001].max).abs, 2.0 * size].min
                # What lies behind may come as far as this is blurred itself, what lies before as far as that is.
                reach = depth[y, x, 0] > mine + 0.02 * mine ? own : theirs
                weight = (reach - r + 1.0).clamp(0.0, 1.0)
                whole += weight
                4.times { |c| out[py, px, c] += weight * image[y, x, c] }
              end
            end
            4.times { |c| out[py, px, c] /= whole }
          end
        end
      end

      # Red and blue seen a little larger and smaller than green, about the middle.
      kernel out: F32[3], image: F32[3], amount: F32
      def fringes(out, image, amount)
        my = 0.5 * image.dim(0) - 0.5
        mx = 0.5 * image.dim(1) - 0.5
        parallel(out.dim(0)) do |py|
          out.dim(1).times do |px|
            out[py, px, 0] = at(image, my + (py - my) * (1.0 - amount), mx + (px - mx) * (1.0 - amount), 0)
            out[py, px, 1] = image[py, px, 1]
            out[py, px, 2] = at(image, my + (py - my) * (1.0 + amount), mx + (px - mx) * (1.0 + amount), 2)
            out[py, px, 3] = image[py, px, 3]
          end
        end
      end

      # Darker towards the corners. `inner` is where it begins, of the way to them; `round` 1 for a circle, 0 for the
      # frame's own shape.
      kernel image: F32[3], amount: F32, inner: F32, round: F32
      def vignette(image, amount, inner, round)
        w = 0.5 * image.dim(1)
        h = 0.5 * image.dim(0)
        # Of a circle both axes are measured alike.
        sx = round * Math.sqrt(0.5 * (w * w + h * h)) + (1.0 - round) * w
        sy = round * Math.sqrt(0.5 * (w * w + h * h)) + (1.0 - round) * h
        parallel(image.dim(0)) do |py|
          y = (py + 0.5 - h) / sy
          image.dim(1).times do |px|
            x = (px + 0.5 - w) / sx
            part = ((Math.sqrt(0.5 * (x * x + y * y)) - inner) / [1.0 - inner, 0.01].max).clamp(0.0, 1.0)
            by = [1.0 - amount * part * part * (3.0 - 2.0 * part), 0.0].max
            3.times { |c| image[py, px, c] *= by }
          end
        end
      end

      # Sharper by what a blur takes away.
      kernel image: F32[3], soft: F32[3], amount: F32
      def sharpen(image, soft, amount)
        parallel(image.dim(0)) do |py|
          image
            .dim(1)
            .times do |px|
              3.times do |c|
                image[py, px, c] = [image[py, px, c] + amount * (image[py, px, c] - soft[py, px, c]), 0.0].max
              end
            end
        end
      end

      # Each pixel of those about it that are like it (Tomasi & Manduchi 1998), by how a screen has them. `amount` is
      # how unlike they may be.
      kernel out: F32[3], image: F32[3], amount: F32
      def denoise(out, image, amount)
        per = 1.0 / (2.0 * amount * amount)
        parallel(out.dim(0)) do |py|
          out.dim(1).times do |px|
            mine =
              Math.sqrt([0.2126 * image[py, px, 0] + 0.7152 * image[py, px, 1] + 0.0722 * image[py, px, 2], 0.0].max)
            whole = 0.0
            4.times { |c| out[py, px, c] = 0.0 }
            (-2..2).each do |dy|
              y = (py + dy).clamp(0, image.dim(0) - 1)
              (-2..2).each do |dx|
                x = (px + dx).clamp(0, image.dim(1) - 1)
                off =
                  Math.sqrt([0.2126 * image[y, x, 0] + 0.7152 * image[y, x, 1] + 0.0722 * image[y, x, 2], 0.0].max) -
                  mine
                weight = Math.exp(-per * off * off - 0.25 * (dx * dx + dy * dy))
                whole += weight
                4.times { |c| out[py, px, c] += weight * image[y, x, c] }
              end
            end
            4.times { |c| out[py, px, c] /= whole }
          end
        end
      end

      # Grains of `size` pixels, another pattern for each frame. A light is made denser or thinner, most where it is
      # dark, and black is not quite black.
      kernel image: F32[3], amount: F32, size: F32, coloured: F32, frame: I32, seed: I32
      def grain(image, amount, size, coloured, frame, seed)
        per = 1.0 / size
        parallel(image.dim(0)) do |py|
          image.dim(1).times do |px|
            grey = grains(px * per, py * per, frame, seed)
            bright = 0.2126 * image[py, px, 0] + 0.7152 * image[py, px, 1] + 0.0722 * image[py, px, 2]
            by = amount / (1.0 + 1.6 * Math.sqrt([bright, 0.0].max))
            3.times do |c|
              n = coloured > 0.0 ? (1.0 - coloured) * grey + coloured * grains(px * per, py * per, frame, seed + 101 * (c + 1)) : grey
              image[py, px, c] = [image[py, px, c] * Math.exp(by * n) + 0.003 * by * n, 0.0].max
            end
          end
        end
      end

      # About -1.7 to 1.7, nearly a bell, even between lattice points.
      kernel x: F32, y: F32, frame: I32, seed: I32, returns: F32
      def grains(x, y, frame, seed)
        i = x.floor
        j = y.floor
        fx = x - i
        fy = y - j
        a = grain_at(i, j, frame, seed)
        b = grain_at(i + 1, j, frame, seed)
        c = grain_at(i, j + 1, frame, seed)
        d = grain_at(i + 1, j + 1, frame, seed)
        # Between points they would even out; that is made good.
        u = Math.sqrt((1.0 - fx) * (1.0 - fx) + fx * fx) * Math.sqrt((1.0 - fy) * (1.0 - fy) + fy * fy)
        return ((a + fx * (b - a)) + fy * ((c + fx * (d - c)) - (a + fx * (b - a)))) / u
      end

      kernel i: I32, j: I32, frame: I32, seed: I32, returns: F32
      def grain_at(i, j, frame, seed)
        h = Grid::Noise.hash4(i, j, frame, 7, seed)
        return 1.7 * (((h & 1023) + ((h >> 10) & 1023) + ((h >> 20) & 1023)) / 1534.5 - 1.0)
      end

      # Specks before the lens: `specks` f32 [n, 4] across, down, radius (pixels) and brightness.
      kernel image: F32[3], specks: F32[2], colour: F32[1]
      def dust(image, specks, colour)
        parallel(image.dim(0)) do |py|
          specks.dim(0).times do |n|
            dy = py + 0.5 - specks[n, 1]
            r = specks[n, 2]
            if dy.abs < r + 1.0
              from = (specks[n, 0] - r - 1.0).floor.clamp(0, image.dim(1))
              to = ((specks[n, 0] + r + 1.0).floor + 1).clamp(0, image.dim(1))
              (from...to).each do |px|
                dx = px + 0.5 - specks[n, 0]
                part = (1.0 - (dx * dx + dy * dy) / ((r + 0.5) * (r + 0.5))).clamp(0.0, 1.0)
                3.times { |c| image[py, px, c] += part * part * specks[n, 3] * colour[c] }
              end
            end
          end
        end
      end

      # Nothing beyond `edges` f32 [4], left, top, right and bottom, pixels.
      kernel image: F32[3], edges: F32[1]
      def crop(image, edges)
        parallel(image.dim(0)) do |py|
          image.dim(1).times do |px|
            seen =
              ([py + 1.0, edges[3]].min - [f64(py), edges[1]].max).clamp(0.0, 1.0) *
              ([px + 1.0, edges[2]].min - [f64(px), edges[0]].max).clamp(0.0, 1.0)
            4.times { |c| image[py, px, c] *= seen }
          end
        end
      end

      # Black above and below, or beside, what has the shape.
      kernel image: F32[3], shape: F32
      def bars(image, shape)
        h = image.dim(0)
        w = image.dim(1)
        high = [0.5 * (h - w / shape), 0.0].max
        wide = [0.5 * (w - h * shape), 0.0].max
        parallel(h) do |py|
          w.times do |px|
            seen =
              ([py + 1.0, h - high].min - [f64(py), high].max).clamp(0.0, 1.0) *
              ([px + 1.0, w - wide].min - [f64(px), wide].max).clamp(0.0, 1.0)
            3.times { |c| image[py, px, c] *= seen }
            image[py, px, 3] = 1.0 - seen * (1.0 - image[py, px, 3])
          end
        end
      end
    end
  end
end
