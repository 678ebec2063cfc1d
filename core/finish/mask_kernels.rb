# frozen_string_literal: true

module Vumbral
  module Finish
    # Where in the frame something counts: f32 [h, w], 0 to 1. Lengths are pixels.
    module MaskKernels
      extend Kernel::Library

      # From nothing to all over a soft edge: `d` is the distance from it, below 0 inside.
      kernel d: F32, soft: F32, returns: F32
      def edge(d, soft)
        part = (0.5 - d / soft).clamp(0.0, 1.0)
        return part * part * (3.0 - 2.0 * part)
      end

      # An oval: `at` f32 [8] is its middle, half its width and height, cosine and sine of its turn, how far it is
      # grown, and how soft.
      kernel out: F32[2], at: F32[1]
      def oval(out, at)
        parallel(out.dim(0)) do |py|
          out.dim(1).times do |px|
            dx = px + 0.5 - at[0]
            dy = py + 0.5 - at[1]
            x = dx * at[4] + dy * at[5]
            y = dy * at[4] - dx * at[5]
            a = [at[2] + at[6], 0.01].max
            b = [at[3] + at[6], 0.01].max
            # The distance to it, to first order.
            k = Math.sqrt(x * x / (a * a) + y * y / (b * b))
            slope = Math.sqrt(x * x / (a * a * a * a) + y * y / (b * b * b * b))
            d = slope > 0.0000001 ? k * (k - 1.0) / slope : -[a, b].min
            out[py, px] = edge(d, at[7])
          end
        end
      end

      # A box, told as {#oval}.
      kernel out: F32[2], at: F32[1]
      def box(out, at)
        parallel(out.dim(0)) do |py|
          out.dim(1).times do |px|
            dx = px + 0.5 - at[0]
            dy = py + 0.5 - at[1]
            x = (dx * at[4] + dy * at[5]).abs - at[2]
            y = (dy * at[4] - dx * at[5]).abs - at[3]
            ox = [x, 0.0].max
            oy = [y, 0.0].max
            out[py, px] = edge(Math.sqrt(ox * ox + oy * oy) + [[x, y].max, 0.0].min - at[6], at[7])
          end
        end
      end

      # All on one side of a line and nothing on the other.
      kernel out: F32[2], at: F32[1]
      def ramp(out, at)
        parallel(out.dim(0)) do |py|
          out
            .dim(1)
            .times { |px| out[py, px] = edge((py + 0.5 - at[1]) * at[4] - (px + 0.5 - at[0]) * at[5] - at[6], at[7]) }
        end
      end

      # Within a closed line: `points` f32 [n, 3] across, down and how much softer the edge is there. A small picture,
      # whose pixels are `step` pixels wide.
      kernel out: F32[2], points: F32[2], grown: F32, soft: F32, step: F32
      def outline(out, points, grown, soft, step)
        last = points.dim(0)
        parallel(out.dim(0)) do |py|
          y = (py + 0.5) * step
          out.dim(1).times do |px|
            x = (px + 0.5) * step
            least = 1e30
            more = 0.0
            inside = false
            last.times do |n|
              m = n + 1 < last ? n + 1 : 0
              ax = points[n, 0]
              ay = points[n, 1]
              ex = points[m, 0] - ax
              ey = points[m, 1] - ay
              part = (((x - ax) * ex + (y - ay) * ey) / [ex * ex + ey * ey, 0.000001].max).clamp(0.0, 1.0)
              dx = x - ax - part * ex
              dy = y - ay - part * ey
              d = dx * dx + dy * dy
              if d < least
                least = d
                more = points[n, 2] + part * (points[m, 2] - points[n, 2])
              end
              if (ay > y) != (points[m, 1] > y) && x < ax + (y - ay) / ey * ex
                inside = !inside
              end
            end
            d = Math.sqrt(least)
            d = -d if inside
            out[py, px] = edge(d - grown, soft + more)
          end
        end
      end

      # By brightness, from nothing at `low` to all at `high`.
      kernel out: F32[2], image: F32[3], low: F32, high: F32
      def bright(out, image, low, high)
        per = 1.0 / [high - low, 0.00001].max
        parallel(out.dim(0)) do |py|
          out.dim(1).times do |px|
            grey = 0.2126 * image[py, px, 0] + 0.7152 * image[py, px, 1] + 0.0722 * image[py, px, 2]
            part = ((grey - low) * per).clamp(0.0, 1.0)
            out[py, px] = part * part * (3.0 - 2.0 * part)
          end
        end
      end

      # By what a picture covers.
      kernel out: F32[2], image: F32[3]
      def covered(out, image)
        parallel(out.dim(0)) do |py|
          out.dim(1).times { |px| out[py, px] = image[py, px, 3].clamp(0.0, 1.0) }
        end
      end

      # How far blue and red of a colour are off its brightness, over that (Rec. 709), so that light and shade do not
      # tell.
      kernel r: F32, g: F32, b: F32, returns: [F32, F32]
      def chroma(r, g, b)
        grey = 0.2126 * r + 0.7152 * g + 0.0722 * b
        over = [grey, 0.0001].max
        return (b - grey) / (1.8556 * over), (r - grey) / (1.5748 * over)
      end

      # By a colour: all within `near` of its hue and strength, nothing from `fall` further on.
      kernel out: F32[2], image: F32[3], colour: F32[1], near: F32, fall: F32
      def coloured(out, image, colour, near, fall)
        u, v = chroma(colour[0], colour[1], colour[2])
        parallel(out.dim(0)) do |py|
          out.dim(1).times do |px|
            a, b = chroma(image[py, px, 0], image[py, px, 1], image[py, px, 2])
            d = Math.sqrt((a - u) * (a - u) + (b - v) * (b - v))
            part = ((near + fall - d) / fall).clamp(0.0, 1.0)
            out[py, px] = part * part * (3.0 - 2.0 * part)
          end
        end
      end

      # Cuts out what a mask marks, and takes the colour's own hue from what is left, by `spill`.
      kernel image: F32[3], mask: F32[2], colour: F32[1], spill: F32
      def cut(image, mask, colour, spill)
        u, v = chroma(colour[0], colour[1], colour[2])
        length = [Math.sqrt(u * u + v * v), 0.0001].max
        u /= length
        v /= length
        parallel(image.dim(0)) do |py|
          image.dim(1).times do |px|
            r = image[py, px, 0]
            g = image[py, px, 1]
            b = image[py, px, 2]
            grey = 0.2126 * r + 0.7152 * g + 0.0722 * b
            a, c = chroma(r, g, b)
            over = spill * [a * u + c * v, 0.0].max
            a -= over * u
            c -= over * v
            blue = grey * (1.0 + 1.8556 * a)
            red = grey * (1.0 + 1.5748 * c)
            left = 1.0 - mask[py, px]
            image[py, px, 0] = left * [red, 0.0].max
            image[py, px, 1] = left * [(grey - 0.2126 * red - 0.0722 * blue) / 0.7152, 0.0].max
            image[py, px, 2] = left * [blue, 0.0].max
            image[py, px, 3] *= left
          end
        end
      end

      # What is not as in an empty picture, as a screen has both: not at all up to `near` in colour and brightness
      # together, wholly from `fall` more on.
      kernel out: F32[2], image: F32[3], clean: F32[3], near: F32, fall: F32
      def differs(out, image, clean, near, fall)
        parallel(out.dim(0)) do |py|
          out.dim(1).times do |px|
            sum = 0.0
            3.times do |c|
              d = GradeKernels.screen([image[py, px, c], 0.0].max) - GradeKernels.screen([clean[py, px, c], 0.0].max)
              sum += d * d
            end
            part = ((Math.sqrt(sum) - near) / fall).clamp(0.0, 1.0)
            out[py, px] = part * part * (3.0 - 2.0 * part)
          end
        end
      end

      # Values from nothing at `low` to all at `high`, or the other way round.
      kernel out: F32[2], values: F32[2], low: F32, high: F32
      def between(out, values, low, high)
        span = high - low
        parallel(out.dim(0)) do |py|
          out.dim(1).times do |px|
            part =
              span.abs < 0.000001 ? (values[py, px] < low ? 0.0 : 1.0) : ((values[py, px] - low) / span).clamp(0.0, 1.0)
            out[py, px] = part * part * (3.0 - 2.0 * part)
          end
        end
      end

      # All of it.
      kernel out: F32[2]
      def everywhere(out)
        parallel(out.dim(0)) do |py|
          out.dim(1).times { |px| out[py, px] = 1.0 }
        end
      end

      # All of it where nothing is nearer than `far`: `depth` f32 [h, w, 1], metres.
      kernel out: F32[2], depth: F32[3], far: F32
      def beyond(out, depth, far)
        parallel(out.dim(0)) do |py|
          out.dim(1).times { |px| out[py, px] = depth[py, px, 0] < far ? 0.0 : 1.0 }
        end
      end

      # Only where `mine` is nearer than `other`, or neither is anything: f32 [h, w, 1], metres.
      kernel out: F32[2], mine: F32[3], other: F32[3]
      def nearer(out, mine, other)
        parallel(out.dim(0)) do |py|
          out.dim(1).times { |px| out[py, px] = 0.0 if mine[py, px, 0] > other[py, px, 0] }
        end
      end

      # Joins a mask to those before it: 0 also counts, 1 is taken away, 2 both must count. `share` of it, `inverted` or
      # not.
      kernel out: F32[2], mask: F32[2], how: I32, share: F32, inverted: BOOL
      def join(out, mask, how, share, inverted)
        parallel(out.dim(0)) do |py|
          out.dim(1).times do |px|
            m = mask[py, px]
            m = 1.0 - m if inverted
            m *= share
            was = out[py, px]
            if how == 0
              out[py, px] = was + m - was * m
            elsif how == 1
              out[py, px] = was * (1.0 - m)
            else
              out[py, px] = was * m
            end
          end
        end
      end
    end
  end
end
