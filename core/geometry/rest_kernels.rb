# frozen_string_literal: true

module Vumbral
  module Geometry
    # Lets things down onto what is under them ({Resting}).
    module RestKernels
      extend Kernel::Library

      NOTHING = -1e30

      # How far things must rise so that no corner of them is below what lies under it, and one touches: below 0 where
      # all hang in the air; {NOTHING} where nothing is under any. `mine` are their corners, the place first in each
      # row; what is looked for begins at `top`.
      kernel mine: F32[2], corners: F32[2], boxes: F32[2], top: F32, returns: F64
      def rise(mine, corners, boxes, top)
        found = parallel_max(mine.dim(0)) do |n|
          far, _t, _b, _g =
            RayKernels.first_hit(corners, boxes, Ray.new(mine[n, 0], top, mine[n, 2], 0.0, -1.0, 0.0), 1e9)
          far < 1e9 ? top - far - mine[n, 1] : NOTHING
        end
        found
      end

      # The same by the corners of what lies under them, for something small may be under the middle of a large face.
      # `theirs` are those corners, `corners` and `boxes` the tree of the things; rays begin at `from`, below all of
      # these.
      kernel theirs: F32[2], corners: F32[2], boxes: F32[2], from: F32, top: F32, returns: F64
      def lift(theirs, corners, boxes, from, top)
        found = parallel_max(theirs.dim(0)) do |n|
          far = 1e9
          if theirs[n, 1] <= top
            far, _t, _b, _g =
              RayKernels.first_hit(corners, boxes, Ray.new(theirs[n, 0], from, theirs[n, 2], 0.0, 1.0, 0.0), 1e9)
          end
          far < 1e9 ? theirs[n, 1] - (from + far) : NOTHING
        end
        found
      end
    end
  end
end
