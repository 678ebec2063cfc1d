# frozen_string_literal: true

module Vumbral
  module Light
    # Light inside a volume. Lamps are rows as {LampKernels} has them, props come as a {Geometry::BVH}'s `corners` and
    # `boxes`.
    module VolumeKernels
      extend Kernel::Library

      ISOTROPIC = 0.07957747 # 1 / 4π
      # From this width on (half, as a tangent) a sun's shadows in smoke are soft.
      WIDE = 0.012
      # What so many mean free paths of smoke leave of a lamp is nothing.
      BLACK = 14.0

      # Where a ray enters and leaves a grid, in units of its direction; leaves before it enters
      # where it misses.
      kernel smoke: F32[3], lattice: Grid::Lattice, ray: Geometry::Ray, returns: [F32, F32]
      def crossing(smoke, lattice, ray)
        half = 0.5 * lattice.voxel
        ix = Geometry::RayKernels.inverse(ray.dx)
        iy = Geometry::RayKernels.inverse(ray.dy)
        iz = Geometry::RayKernels.inverse(ray.dz)
        ax = (lattice.x - half - ray.ox) * ix
        bx = (lattice.x - half + smoke.dim(2) * lattice.voxel - ray.ox) * ix
        ay = (lattice.y - half - ray.oy) * iy
        by = (lattice.y - half + smoke.dim(1) * lattice.voxel - ray.oy) * iy
        az = (lattice.z - half - ray.oz) * iz
        bz = (lattice.z - half + smoke.dim(0) * lattice.voxel - ray.oz) * iz
        first = [[ax, bx].min, [ay, by].min, [az, bz].min, 0.0].max
        last = [[ax, bx].max, [ay, by].max, [az, bz].max].min
        return first, last
      end

      # Density along a ray of length one per unit, up to `most`: density times metres. The first step is of
      # `pace` voxels, each a little longer than the one before. Beyond `enough` nobody asks how much more there is.
      kernel smoke: F32[3], lattice: Grid::Lattice, ray: Geometry::Ray, most: F32, pace: F32, enough: F32, returns: F32
      def strides(smoke, lattice, ray, most, pace, enough)
        first, last = crossing(smoke, lattice, ray)
        finish = [last, most].min
        per = 1.0 / lattice.voxel
        step = pace * lattice.voxel
        t = first
        sum = 0.0
        while t < finish && sum < enough
          length = [step, finish - t].min
          m = t + 0.5 * length
          sum += length * Grid::Sampling.linear(smoke, (ray.ox + m * ray.dx - lattice.x) * per,
            (ray.oy + m * ray.dy - lattice.y) * per, (ray.oz + m * ray.dz - lattice.z) * per)
          t += length
          step *= 1.04
        end
        sum
      end

      # The same in steps of about a voxel.
      kernel smoke: F32[3], lattice: Grid::Lattice, ray: Geometry::Ray, most: F32, returns: F32
      def depth(smoke, lattice, ray, most)
        strides(smoke, lattice, ray, most, 1.0, 1e30)
      end

      # How much density lies before a lamp, times metres; before a wide sun in the mean of what comes through.
      kernel smoke: F32[3], lattice: Grid::Lattice, ray: Geometry::Ray, most: F32, lamps: F32[2], n: I32,
        thickness: F32, returns: F32
      def depth_to(smoke, lattice, ray, most, lamps, n, thickness)
        found = 0.0
        if lamps[n, 0] > -WIDE
          found = depth(smoke, lattice, ray, most)
        else
          passed = 0.0
          4.times do |s|
            dx, dy, dz = LampKernels.aside(lamps, n, 0.7, 1.5708 * s + 0.7)
            passed += 0.25 * Math.exp(-thickness * depth(smoke, lattice, Geometry::Ray.new(ray.ox, ray.oy, ray.oz,
              dx, dy, dz), most))
          end
          found = -Math.log([passed, 1e-30].max) / thickness
        end
        found
      end

      # Marks cells with smoke.
      kernel near: U8[3], smoke: F32[3]
      def mark(near, smoke)
        each_cell(near) { |k, j, i| near[k, j, i] = smoke[k, j, i] > 0.0001 ? 1 : 0 }
      end

      # Widens what is marked by two cells along an axis (0 x, 1 y, 2 z): so far a spline reaches.
      kernel wide: U8[3], near: U8[3], axis: I32
      def widen(wide, near, axis)
        parallel(wide.dim(0)) do |k|
          wide.dim(1).times do |j|
            wide.dim(2).times { |i| wide[k, j, i] = near[k, j, i] }
            4.times do |m|
              n = m < 2 ? m - 2 : m - 1
              c = axis == 2 ? k + n : k
              b = axis == 1 ? j + n : j
              shift = axis == 0 ? n : 0
              if c >= 0 && b >= 0 && c < wide.dim(0) && b < wide.dim(1)
                ([0, -shift].max...(wide.dim(2) - [0, shift].max)).each do |i|
                  wide[k, j, i] = [wide[k, j, i], near[c, b, i + shift]].max
                end
              end
            end
          end
        end
      end

      # How much smoke lies between each voxel and each lamp that casts shadows: `depths` f32 [lamp, z, y, x],
      # density times metres; only where `near` says so.
      kernel depths: F32[4], smoke: F32[3], near: U8[3], lamps: F32[2], lattice: Grid::Lattice, thickness: F32
      def depths(depths, smoke, near, lamps, lattice, thickness)
        parallel(smoke.dim(0), uneven: true) do |k|
          smoke.dim(1).times do |j|
            smoke.dim(2).times do |i|
              if near[k, j, i] != 0
                x = lattice.x + i * lattice.voxel
                y = lattice.y + j * lattice.voxel
                z = lattice.z + k * lattice.voxel
                lamps.dim(0).times do |n|
                  if lamps[n, 7] > 0.5
                    dx, dy, dz, distance, gain = LampKernels.towards(lamps, n, x, y, z)
                    if gain > 0.0
                      depths[n, k, j, i] = depth_to(smoke, lattice, Geometry::Ray.new(x, y, z, dx, dy, dz), distance,
                        lamps, n, thickness)
                    end
                  end
                end
              end
            end
          end
        end
      end

      # Whether props leave each voxel's middle each lamp that casts shadows, 1 or 0: `seen` u8 [lamp, z, y, x]; only
      # where `near` says so, and of no wide sun, whose shadows have no edge within a voxel.
      kernel seen: U8[4], near: U8[3], lamps: F32[2], corners: F32[2], boxes: F32[2], lattice: Grid::Lattice
      def sighted(seen, near, lamps, corners, boxes, lattice)
        parallel(near.dim(0), uneven: true) do |k|
          near.dim(1).times do |j|
            near.dim(2).times do |i|
              if near[k, j, i] != 0
                lamps.dim(0).times do |n|
                  if lamps[n, 7] > 0.5 && lamps[n, 0] > -WIDE
                    x = lattice.x + lattice.voxel * i
                    y = lattice.y + lattice.voxel * j
                    z = lattice.z + lattice.voxel * k
                    free = free(lamps, n, Geometry::Ray.new(x, y, z, 0.0, 0.0, 0.0), -1.0, corners, boxes)
                    seen[n, k, j, i] = free ? 1 : 0
                  end
                end
              end
            end
          end
        end
      end

      # Does nothing stand between a place and a lamp? From 0 on, `turn` is where on a wide sun one looks.
      kernel lamps: F32[2], n: I32, place: Geometry::Ray, turn: F32, corners: F32[2], boxes: F32[2], returns: BOOL
      def free(lamps, n, place, turn, corners, boxes)
        dx, dy, dz, distance, _gain = LampKernels.towards(lamps, n, place.ox, place.oy, place.oz)
        dx, dy, dz = LampKernels.aside(lamps, n, 0.7, turn) if lamps[n, 0] < 0.0 && turn > -0.5
        # What stands within a lamp's own ball does not hide it.
        distance -= lamps[n, 0] - 1.0 if lamps[n, 0] > 1.0
        !Geometry::RayKernels.blocked(corners, boxes, Geometry::Ray.new(place.ox, place.oy, place.oz, dx, dy, dz),
          distance)
      end

      # How much of each lamp that casts shadows props leave to each voxel, 0 to 1: `open` f32 [lamp, z, y, x];
      # only where `near` says so. Where a voxel's neighbours see a lamp ({#sighted}) as it does, so do its corners.
      kernel open: F32[4], seen: U8[4], near: U8[3], lamps: F32[2], corners: F32[2], boxes: F32[2],
        lattice: Grid::Lattice
      def opened(open, seen, near, lamps, corners, boxes, lattice)
        parallel(near.dim(0), uneven: true) do |k|
          near.dim(1).times do |j|
            near.dim(2).times do |i|
              if near[k, j, i] != 0
                lamps.dim(0).times do |n|
                  if lamps[n, 7] > 0.5
                    even = lamps[n, 0] > -WIDE && alike(seen, near, n, k, j, i)
                    sum = even ? seen[n, k, j, i] : 0
                    count = even ? 1 : 0
                    # Four corners of the voxel, none beside another, and the other four where those disagree.
                    while !even && (count < 4 || (count < 8 && sum > 0 && (sum < 4 || count > 4)))
                      a = lattice.x + lattice.voxel * (i + (count & 1 == 0 ? 0.4 : -0.4))
                      b = lattice.y + lattice.voxel * (j + (count & 2 == 0 ? 0.4 : -0.4))
                      c =
                        lattice.z + lattice.voxel * (k + ((count ^ (count >> 1) ^ (count >> 2)) & 1 == 0 ? 0.4 : -0.4))
                      sum += 1 if free(lamps, n, Geometry::Ray.new(a, b, c, 0.0, 0.0, 0.0), 2.3999632 * count, corners,
                        boxes)
                      count += 1
                    end
                    open[n, k, j, i] = sum / count.to_f
                  end
                end
              end
            end
          end
        end
      end

      # Do a voxel's six neighbours see a lamp as it does? Those of which nothing is asked do not count.
      kernel seen: U8[4], near: U8[3], n: I32, k: I32, j: I32, i: I32, returns: BOOL
      def alike(seen, near, n, k, j, i)
        found = true
        6.times do |m|
          step = m & 1 == 0 ? 1 : -1
          c = (k + (m < 2 ? step : 0)).clamp(0, near.dim(0) - 1)
          b = (j + (m > 1 && m < 4 ? step : 0)).clamp(0, near.dim(1) - 1)
          a = (i + (m > 3 ? step : 0)).clamp(0, near.dim(2) - 1)
          found = false if near[c, b, a] != 0 && seen[n, c, b, a] != seen[n, k, j, i]
        end
        found
      end

      # How strongly the skin of deep smoke shows a lamp's light that was scattered again, for each unit of it
      # that came straight (the bands of Wrenninge, Kulla & Lundqvist 2013, fitted to Chandrasekhar 1950).
      kernel depth: F32, albedo: F32, returns: F32
      def skin(depth, albedo)
        a2 = albedo * albedo
        a4 = a2 * a2
        t = Math.exp(-0.05 * depth)
        t2 = t * t
        t4 = t2 * t2
        0.925 * albedo * t4 * t4 * t2 + 0.418 * a4 * t4 + 3.7 * a4 * a4 * a4 * a4 * t
      end

      # What a voxel sends to the eye in all, for views, before the smoke's own colour `scatter`: soft light, and
      # what lamps send straight.
      kernel rgb: F32[4], soft: F32[4], near: U8[3], depths: F32[4], open: F32[4], lamps: F32[2], scatter: F32[1],
        lattice: Grid::Lattice
      def whole(rgb, soft, near, depths, open, lamps, scatter, lattice)
        parallel(near.dim(0), uneven: true) do |k|
          near.dim(1).times do |j|
            near.dim(2).times do |i|
              if near[k, j, i] != 0
                3.times { |c| rgb[c, k, j, i] = soft[c, k, j, i] / [scatter[c], 0.004].max }
                lamps.dim(0).times do |n|
                  _dx, _dy, _dz, _far, gain = LampKernels.towards(lamps, n, lattice.x + i * lattice.voxel,
                    lattice.y + j * lattice.voxel, lattice.z + k * lattice.voxel)
                  gain *= ISOTROPIC * Math.exp(lamps[n, 7] > 0.5 ? -scatter[3] * depths[n, k, j, i] : 0.0)
                  gain *= open[n, k, j, i] if lamps[n, 7] > 0.5 && open.dim(3) == near.dim(2)
                  3.times { |c| rgb[c, k, j, i] += gain * lamps[n, 4 + c] }
                end
              end
            end
          end
        end
      end
    end
  end
end
