# frozen_string_literal: true

module Vumbral
  module Picture
    # Rays through the pixels of a camera. `view` f32 [25] is the camera as {Camera#view} tells it.
    module EyeKernels
      extend Kernel::Library

      # Direction through a place in the picture, length one; the lens has no width.
      kernel view: F32[1], px: F32, py: F32, returns: [F32, F32, F32]
      def direction(view, px, py)
        a = 2.0 * px / view[12] - 1.0
        b = 1.0 - 2.0 * py / view[13]
        dx = view[3] + a * view[6] + b * view[9]
        dy = view[4] + a * view[7] + b * view[10]
        dz = view[5] + a * view[8] + b * view[11]
        per = 1.0 / Math.sqrt(dx * dx + dy * dy + dz * dz)
        return dx * per, dy * per, dz * per
      end

      # Where a ray through a place in the picture begins on the lens, and its direction. Each pixel turns the place
      # that the lens is looked through by its own, so that what is blurred is even and no ghosts of edges show.
      kernel view: F32[1], px: F32, py: F32, returns: [F32, F32, F32, F32, F32, F32]
      def ray(view, px, py)
        x = 0.0
        y = 0.0
        z = 0.0
        if view[23] > 0.0
          i = px.floor
          j = py.floor
          out = Math.sqrt((view[21] * view[21] + MarchKernels.offset(i + 59, j + 23)) % 1.0)
          turn = 6.2831853 * ((view[22] + MarchKernels.offset(i, j)) % 1.0)
          u = out * Math.cos(turn)
          v = out * Math.sin(turn)
          x = u * view[15] + v * view[18]
          y = u * view[16] + v * view[19]
          z = u * view[17] + v * view[20]
        end
        a = 2.0 * px / view[12] - 1.0
        b = 1.0 - 2.0 * py / view[13]
        # Every place of the lens sees the same at the distance that is sharp.
        dx = view[3] + a * view[6] + b * view[9] - x * view[23]
        dy = view[4] + a * view[7] + b * view[10] - y * view[23]
        dz = view[5] + a * view[8] + b * view[11] - z * view[23]
        per = 1.0 / Math.sqrt(dx * dx + dy * dy + dz * dz)
        return view[0] + x, view[1] + y, view[2] + z, dx * per, dy * per, dz * per
      end

      # How wide a pixel is at a distance of one, in the middle of the picture.
      kernel view: F32[1], returns: F32
      def wide(view)
        2.0 * Math.sqrt(view[6] * view[6] + view[7] * view[7] + view[8] * view[8]) / view[12]
      end

      # Where the four places are in which a pixel is looked at: on a turned square.
      kernel s: I32, returns: [F32, F32]
      def place(s)
        return [
          s == 0 ? 0.375 : (s == 1 ? 0.875 : (s == 2 ? 0.125 : 0.625)),
          s == 0 ? 0.125 : (s == 1 ? 0.375 : (s == 2 ? 0.625 : 0.875))
        ]
      end
    end
  end
end
