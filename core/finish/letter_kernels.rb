# frozen_string_literal: true

module Vumbral
  module Finish
    # Outlines filled.
    module LetterKernels
      extend Kernel::Library

      # Lines looked along within each row of pixels.
      LINES = 5

      # How much of each pixel lies inside outlines: `sides` f32 [n, 4] are x, y of both ends in pixels, rings of holes
      # go the other way round. `out` f32 [h, w].
      kernel out: F32[2], sides: F32[2]
      def fill(out, sides)
        w = out.dim(1)
        parallel(out.dim(0), uneven: true) do |py|
          w.times { |px| out[py, px] = 0.0 }
          LINES.times do |line|
            y = py + (line + 0.5) / LINES
            sides.dim(0).times do |n|
              ay = sides[n, 1]
              by = sides[n, 3]
              if (ay <= y && by > y) || (by <= y && ay > y)
                x = sides[n, 0] + (y - ay) / (by - ay) * (sides[n, 2] - sides[n, 0])
                by_line = (by > ay ? 1.0 : -1.0) / LINES
                # All that lies to the right of it is further in, or out; of its own pixel a part.
                i = x.floor.clamp(-1, w)
                if i < 0
                  out[py, 0] += by_line
                elsif i < w
                  part = x - i
                  out[py, i] += by_line * (1.0 - part)
                  out[py, i + 1] += by_line * part if i + 1 < w
                end
              end
            end
          end
          sum = 0.0
          w.times do |px|
            sum += out[py, px]
            out[py, px] = sum.abs.clamp(0.0, 1.0)
          end
        end
      end

      # A colour, f32 [3], as far as it covers: `out` f32 [h, w, 4], multiplied by alpha.
      kernel out: F32[3], cover: F32[2], colour: F32[1]
      def paint(out, cover, colour)
        parallel(out.dim(0)) do |py|
          out.dim(1).times do |px|
            3.times { |c| out[py, px, c] = cover[py, px] * colour[c] }
            out[py, px, 3] = cover[py, px]
          end
        end
      end
    end
  end
end
