# frozen_string_literal: true

module Vumbral
  module Light
    # Light inside a volume. A lamp is one row of `lamps` f32 [n, 8]: 0 for a sun, 1 for a point,
    # more for a ball of that radius (m) above 1; the direction to the sun or the point's place; red, green, blue; 1 if it casts
    # shadows. Props come as a {Geometry::BVH}'s `corners` and `boxes`. The grid's corner is at
    # `cx, cy, cz`, metres.
    module VolumeKernels
      extend Kernel::Library

      OCTAVES = 4
      # After Wrenninge, Kulla & Lundqvist 2013: each further bounce is dimmer and sees less in its way.
      DIMMER = 0.6
      THINNER = 0.42
      ISOTROPIC = 0.07957747 # 1 / 4π

      # Where a ray enters and leaves the box, in units of its direction; leaves before it enters
      # where it misses.
      kernel nx: I32, ny: I32, nz: I32, voxel: F32, cx: F32, cy: F32, cz: F32, ox: F32, oy: F32, oz: F32, dx: F32,
        dy: F32, dz: F32, returns: [F32, F32]
      def crossing(nx, ny, nz, voxel, cx, cy, cz, ox, oy, oz, dx, dy, dz)
        ix = Geometry::RayKernels.inverse(dx)
        iy = Geometry::RayKernels.inverse(dy)
        iz = Geometry::RayKernels.inverse(dz)
        ax = (cx - ox) * ix
        bx = (cx + nx * voxel - ox) * ix
        ay = (cy - oy) * iy
        by = (cy + ny * voxel - oy) * iy
        az = (cz - oz) * iz
        bz = (cz + nz * voxel - oz) * iz
        first = [[ax, bx].min, [ay, by].min, [az, bz].min, 0.0].max
        last = [[ax, bx].max, [ay, by].max, [az, bz].max].min
        return first, last
      end

      # Density along a ray of length one per unit, up to `most`: density times metres. Steps are
      # a voxel, a little longer each time.
      kernel smoke: F32[3], voxel: F32, cx: F32, cy: F32, cz: F32, ox: F32, oy: F32, oz: F32, dx: F32, dy: F32,
        dz: F32, most: F32, returns: F32
      def depth(smoke, voxel, cx, cy, cz, ox, oy, oz, dx, dy, dz, most)
        strides(smoke, voxel, cx, cy, cz, ox, oy, oz, dx, dy, dz, most, 1.0)
      end

      # The same with a first step of `pace` voxels.
      kernel smoke: F32[3], voxel: F32, cx: F32, cy: F32, cz: F32, ox: F32, oy: F32, oz: F32, dx: F32, dy: F32,
        dz: F32, most: F32, pace: F32, returns: F32
      def strides(smoke, voxel, cx, cy, cz, ox, oy, oz, dx, dy, dz, most, pace)
        first, last = crossing(smoke.dim(2), smoke.dim(1), smoke.dim(0), voxel, cx, cy, cz, ox, oy, oz, dx, dy, dz)
        finish = [last, most].min
        per = 1.0 / voxel
        step = pace * voxel
        t = first
        sum = 0.0
        while t < finish
          length = [step, finish - t].min
          m = t + 0.5 * length
          x = (ox + m * dx - cx) * per - 0.5
          y = (oy + m * dy - cy) * per - 0.5
          z = (oz + m * dz - cz) * per - 0.5
          sum += length * Grid::Sampling.linear(smoke, x, y, z)
          t += length
          step *= 1.04
        end
        sum
      end

      # Direction and distance from a place to a lamp, and how much nearness counts.
      kernel lamps: F32[2], n: I32, x: F32, y: F32, z: F32, returns: [F32, F32, F32, F32, F32]
      def towards(lamps, n, x, y, z)
        dx = lamps[n, 1]
        dy = lamps[n, 2]
        dz = lamps[n, 3]
        distance = 1e9
        gain = 1.0
        if lamps[n, 0] > 0.5
          dx -= x
          dy -= y
          dz -= z
          distance = [Math.sqrt(dx * dx + dy * dy + dz * dz), 0.02].max
          dx /= distance
          dy /= distance
          dz /= distance
          # A lamp with a size is never nearer than that.
          size = lamps[n, 0] - 1.0
          gain = 1.0 / (distance * distance + size * size)
        end
        return dx, dy, dz, distance, gain
      end

      # How much of a light that has come through a depth of smoke goes on within it, all
      # directions alike, over several bounces.
      kernel depth: F32, returns: F32
      def scattered(depth)
        sum = 0.0
        dim = 1.0
        thin = 1.0
        OCTAVES.times do |n|
          sum += dim * Math.exp(-thin * depth)
          dim *= DIMMER
          thin *= THINNER
        end
        sum * ISOTROPIC
      end

      # Is there smoke in a cell or one that touches it?
      kernel smoke: F32[3], k: I32, j: I32, i: I32, returns: BOOL
      def near_smoke(smoke, k, j, i)
        found = false
        ([k - 1, 0].max..[k + 1, smoke.dim(0) - 1].min).each do |c|
          ([j - 1, 0].max..[j + 1, smoke.dim(1) - 1].min).each do |b|
            ([i - 1, 0].max..[i + 1, smoke.dim(2) - 1].min).each do |a|
              found = true if smoke[c, b, a] > 0.0001
            end
          end
        end
        found
      end

      # The light that each voxel passes on to the eye, red, green and blue: `rgb` f32 [3, z, y, x].
      # `sky` holds three numbers. Voxels without smoke near stay dark, for nobody asks them.
      kernel rgb: F32[4], smoke: F32[3], lamps: F32[2], sky: F32[1], corners: F32[2], boxes: F32[2],
        voxel: F32, cx: F32, cy: F32, cz: F32, thickness: F32
      def light(rgb, smoke, lamps, sky, corners, boxes, voxel, cx, cy, cz, thickness)
        parallel(smoke.dim(0), uneven: true) do |k|
          smoke.dim(1).times do |j|
            smoke.dim(2).times do |i|
              if near_smoke(smoke, k, j, i)
                x = cx + (i + 0.5) * voxel
                y = cy + (j + 0.5) * voxel
                z = cz + (k + 0.5) * voxel
                # The sky is above: what hangs over a place shades it a little.
                open = 0.4 + 0.6 * Math.exp(-0.35 * thickness * depth(smoke, voxel, cx, cy, cz, x, y, z, 0.0, 1.0, 0.0,
                  1e9))
                r = sky[0] * open
                g = sky[1] * open
                b = sky[2] * open
                lamps.dim(0).times do |n|
                  dx, dy, dz, distance, gain = towards(lamps, n, x, y, z)
                  passed = scattered(0.0)
                  if lamps[n, 7] > 0.5
                    if Geometry::RayKernels.blocked(corners, boxes, x, y, z, dx, dy, dz, distance)
                      passed = 0.0
                    else
                      passed = scattered(thickness * depth(smoke, voxel, cx, cy, cz, x, y, z, dx, dy, dz, distance))
                    end
                  end
                  r += gain * passed * lamps[n, 4]
                  g += gain * passed * lamps[n, 5]
                  b += gain * passed * lamps[n, 6]
                end
                rgb[0, k, j, i] = r
                rgb[1, k, j, i] = g
                rgb[2, k, j, i] = b
              end
            end
          end
        end
      end
    end
  end
end
