# frozen_string_literal: true

module Vumbral
  module Flow
    # Loops that keep matter out of solids. `solid` is 1 in the cells whose centre lies inside
    # a collider.
    module ColliderKernels
      extend Kernel::Library

      # Copies a field at centres, each solid cell taking the mean of the fluid ones beside it, so
      # that reading near a wall does not mix in the emptiness behind it.
      kernel dst: F32[3], src: F32[3], solid: U8[3]
      def extend(dst, src, solid)
        nz = src.dim(0)
        ny = src.dim(1)
        nx = src.dim(2)
        parallel(nz) do |k|
          ny.times do |j|
            nx.times do |i|
              value = src[k, j, i]
              if solid[k, j, i] != 0
                sum = 0.0
                count = 0.0
                6.times do |side|
                  x = (i + (side == 0 ? 1 : (side == 1 ? -1 : 0))).clamp(0, nx - 1)
                  y = (j + (side == 2 ? 1 : (side == 3 ? -1 : 0))).clamp(0, ny - 1)
                  z = (k + (side == 4 ? 1 : (side == 5 ? -1 : 0))).clamp(0, nz - 1)
                  if solid[z, y, x] == 0
                    sum += src[z, y, x]
                    count += 1.0
                  end
                end
                value = count > 0.0 ? sum / count : 0.0
              end
              dst[k, j, i] = value
            end
          end
        end
      end

      # Does a face lie between two solid cells? Sides outside the box count as what is within.
      kernel solid: U8[3], k: I32, j: I32, i: I32, fx: I32, fy: I32, fz: I32, returns: BOOL
      def buried(solid, k, j, i, fx, fy, fz)
        x0 = (i - fx).clamp(0, solid.dim(2) - 1)
        y0 = (j - fy).clamp(0, solid.dim(1) - 1)
        z0 = (k - fz).clamp(0, solid.dim(0) - 1)
        x1 = i.clamp(0, solid.dim(2) - 1)
        y1 = j.clamp(0, solid.dim(1) - 1)
        z1 = k.clamp(0, solid.dim(0) - 1)
        solid[z0, y0, x0] != 0 && solid[z1, y1, x1] != 0
      end

      # Faces inside a solid take the mean of the free faces beside them: gas slides along walls
      # (free slip). `fx, fy, fz` name the array's axis with a 1.
      kernel dst: F32[3], src: F32[3], solid: U8[3], fx: I32, fy: I32, fz: I32
      def slide(dst, src, solid, fx, fy, fz)
        nz = src.dim(0)
        ny = src.dim(1)
        nx = src.dim(2)
        parallel(nz) do |k|
          ny.times do |j|
            nx.times do |i|
              value = src[k, j, i]
              if buried(solid, k, j, i, fx, fy, fz)
                sum = 0.0
                count = 0.0
                6.times do |side|
                  x = (i + (side == 0 ? 1 : (side == 1 ? -1 : 0))).clamp(0, nx - 1)
                  y = (j + (side == 2 ? 1 : (side == 3 ? -1 : 0))).clamp(0, ny - 1)
                  z = (k + (side == 4 ? 1 : (side == 5 ? -1 : 0))).clamp(0, nz - 1)
                  if !buried(solid, z, y, x, fx, fy, fz)
                    sum += src[z, y, x]
                    count += 1.0
                  end
                end
                value = count > 0.0 ? sum / count : 0.0
              end
              dst[k, j, i] = value
            end
          end
        end
      end

      # Friction: free faces beside a solid take on its velocity, as far as its mark says (1 slips,
      # 255 sticks). `fx, fy, fz` name the array's axis with a 1; `moved` holds the solids' velocity,
      # and counts where `moving`.
      kernel faces: F32[3], solid: U8[3], moved: F32[3], moving: BOOL, fx: I32, fy: I32, fz: I32
      def rub(faces, solid, moved, moving, fx, fy, fz)
        each_cell(solid) do |k, j, i|
          x = i - fx
          y = j - fy
          z = k - fz
          if x >= 0 && y >= 0 && z >= 0 && solid[k, j, i] == 0 && solid[z, y, x] == 0
            grip = 0
            6.times do |side|
              # The four ways along which the face lies.
              dx = side == 0 ? 1 : (side == 1 ? -1 : 0)
              dy = side == 2 ? 1 : (side == 3 ? -1 : 0)
              dz = side == 4 ? 1 : (side == 5 ? -1 : 0)
              if dx * fx + dy * fy + dz * fz == 0
                a = (i + dx).clamp(0, solid.dim(2) - 1)
                b = (j + dy).clamp(0, solid.dim(1) - 1)
                c = (k + dz).clamp(0, solid.dim(0) - 1)
                grip = [grip, solid[c, b, a] - 1].max
              end
            end
            if grip > 0
              share = grip / 254.0
              goal = moving ? moved[k, j, i] : 0.0
              faces[k, j, i] += share * (goal - faces[k, j, i])
            end
          end
        end
      end
    end
  end
end
