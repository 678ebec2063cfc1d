# frozen_string_literal: true

module Vumbral
  module Formats
    # Loops that rearrange bricks of 16³ (x fastest) into leaves of 8³ (z fastest). Brick n gives
    # the leaves 8n to 8n + 7.
    module VDBKernels
      extend Kernel::Library

      # What is nearer to nothing is not active.
      SEEN = 0.0002
      HEAT_SEEN = 0.5

      # Where in its brick a leaf's voxel stands.
      kernel leaf: I32, v: I32, returns: I32
      def place(leaf, v)
        x = 8 * (leaf & 1) + (v >> 6)
        y = 8 * ((leaf >> 1) & 1) + ((v >> 3) & 7)
        z = 8 * ((leaf >> 2) & 1) + (v & 7)
        (z * 16 + y) * 16 + x
      end

      # Bits of the voxels that hold smoke or heat, which is channel `heat` (0 for none).
      kernel masks: U8[2], bricks: F16[3], heat: I32
      def masks(masks, bricks, heat)
        parallel(masks.dim(0)) do |leaf|
          64.times do |byte|
            bits = 0
            8.times do |bit|
              at = place(leaf & 7, 8 * byte + bit)
              if bricks[leaf / 8, 0, at] > SEEN || (heat > 0 && bricks[leaf / 8, heat, at].abs > HEAT_SEEN)
                bits += 1 << bit
              end
            end
            masks[leaf, byte] = bits
          end
        end
      end

      # Takes voxels out that lie outside of a box: `places` i32 [n, 3] are the leaves' lowest voxels, `box` i32 [6] the
      # lowest and the highest voxel that stays.
      kernel masks: U8[2], places: I32[2], box: I32[1]
      def clip(masks, places, box)
        parallel(masks.dim(0)) do |leaf|
          64.times do |byte|
            bits = 0
            8.times do |bit|
              v = 8 * byte + bit
              x = places[leaf, 0] + (v >> 6)
              y = places[leaf, 1] + ((v >> 3) & 7)
              z = places[leaf, 2] + (v & 7)
              stays = x >= box[0] && y >= box[1] && z >= box[2] && x <= box[3] && y <= box[4] && z <= box[5]
              bits += 1 << bit if stays && (masks[leaf, byte] >> bit) & 1 == 1
            end
            masks[leaf, byte] = bits
          end
        end
      end

      # What is not active is as everything that is not stored.
      kernel values: F32[3], masks: U8[2], background: F32[1]
      def still(values, masks, background)
        parallel(values.dim(0)) do |leaf|
          512.times do |v|
            if (masks[leaf, v >> 3] >> (v & 7)) & 1 == 0
              values.dim(2).times { |c| values[leaf, v, c] = background[c] }
            end
          end
        end
      end

      kernel half: F16[3], values: F32[3]
      def halve(half, values)
        parallel(half.dim(0)) do |leaf|
          512.times { |v| half.dim(2).times { |c| half[leaf, v, c] = values[leaf, v, c] } }
        end
      end

      # Distances held within a band, and how far inside of its outer edge each place is, which tells what is kept.
      kernel near: F32[3], held: F32[3], distance: F32[3], band: F32
      def near(near, held, distance, band)
        each_cell(distance) do |k, j, i|
          held[k, j, i] = distance[k, j, i].clamp(-band, band)
          near[k, j, i] = band - held[k, j, i]
        end
      end

      kernel values: F32[3], bricks: F16[3], channel: I32, component: I32, shift: F32
      def leaves(values, bricks, channel, component, shift)
        parallel(values.dim(0)) do |leaf|
          512.times { |v| values[leaf, v, component] = bricks[leaf / 8, channel, place(leaf & 7, v)] + shift }
        end
      end
    end
  end
end
