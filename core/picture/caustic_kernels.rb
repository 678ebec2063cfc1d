# frozen_string_literal: true

module Vumbral
  module Picture
    # Loops of {Caustics}. Places are told by how far they lie along two ways across the sun's, and how high towards it:
    # `lens` f32 [16] holds the sun's row among lamps (-1 for none), the way to it, the two ways across (9 numbers),
    # where the grid begins along both, its cell (m), from how high light comes, what counts as the same height, and as
    # the same place.
    module CausticKernels
      extend Kernel::Library

      # So many surfaces light goes through before it is given up.
      TURNS = 8
      # What is as clear as this bends light.
      CLEAR = 0.5
      NOTHING = -1e30

      # Where places lie: along, across, towards the sun.
      kernel lens: F32[1], x: F32, y: F32, z: F32, returns: [F32, F32, F32]
      def told(lens, x, y, z)
        return [
          x * lens[4] + y * lens[5] + z * lens[6], x * lens[7] + y * lens[8] + z * lens[9],
          x * lens[1] + y * lens[2] + z * lens[3]
        ]
      end

      # How far clear things reach: least and most along both ways, the highest of them, and of all.
      # @param out f32 [6]
      kernel out: F32[1], corners: F32[2], owner: I32[1], made: F32[2], lens: F32[1]
      def bounds(out, corners, owner, made, lens)
        out[0] = 1e30
        out[1] = -1e30
        out[2] = 1e30
        out[3] = -1e30
        out[4] = NOTHING
        out[5] = NOTHING
        corners.dim(0).times do |t|
          clear = made[owner[t], GlossKernels::CLEAR] > CLEAR
          3.times do |c|
            s, q, h = told(lens, corners[t, 3 * c], corners[t, 3 * c + 1], corners[t, 3 * c + 2])
            out[5] = [out[5], h].max
            if clear
              out[0] = [out[0], s].min
              out[1] = [out[1], s].max
              out[2] = [out[2], q].min
              out[3] = [out[3], q].max
              out[4] = [out[4], h].max
            end
          end
        end
      end

      # Follows the sun's light from each cell of the grid: through clear things to what stops it.
      # @param hits f32 [side, 7·side]: where it ends (along, across, height), what is left of it (red, green, blue,
      #   below 0 for none), and how high what it met first is, where that is clear
      kernel hits: F32[2], scene: Picture::Scene, lens: F32[1]
      def follow(hits, scene, lens)
        parallel(hits.dim(0), uneven: true) do |j|
          (hits.dim(1) / 7).times do |i|
            s = lens[10] + (i + 0.5) * lens[12]
            q = lens[11] + (j + 0.5) * lens[12]
            x = s * lens[4] + q * lens[7] + lens[13] * lens[1]
            y = s * lens[5] + q * lens[8] + lens[13] * lens[2]
            z = s * lens[6] + q * lens[9] + lens[13] * lens[3]
            dx = -lens[1]
            dy = -lens[2]
            dz = -lens[3]
            at = 7 * i
            7.times { |c| hits[j, at + c] = c < 3 ? 0.0 : (c < 6 ? -1.0 : NOTHING) }
            taken = local_f32(3)
            3.times { |c| taken[c] = 0.0 }
            last = 0
            inside = false
            going = true
            turns = 0
            while going && turns < TURNS
              off = turns == 0 ? 0.0 : 0.00005 * (1.0 + x.abs + y.abs + z.abs)
              t, found, b, g =
                Geometry::RayKernels.first_hit(
                  scene.corners, scene.boxes, Geometry::Ray.new(x + off * dx, y + off * dy, z + off * dz, dx, dy, dz),
                  1e30
                )
              if found < 0
                going = false
              else
                o = scene.owner[found]
                clear = scene.made[o, GlossKernels::CLEAR] > CLEAR
                x += (t + off) * dx
                y += (t + off) * dy
                z += (t + off) * dz
                along, across, high = told(lens, x, y, z)
                hits[j, at + 6] = high if turns == 0 && clear
                # What stops it within takes it up where it is.
                3.times { |c| taken[c] += inside ? t * ClearKernels.rate(scene, last, clear ? found : last, c) : 0.0 }
                if clear
                  nx, ny, nz =
                    SurfaceKernels.normal(scene, Spot.new(t, found, b, g, 0.0), Geometry::Ray.new(x, y, z, dx, dy, dz))
                  bends = scene.made[o, GlossKernels::BENDS]
                  px, py, pz, passed =
                    ClearKernels.onward(
                      Geometry::Ray.new(x, y, z, dx, dy, dz), nx, ny, nz, inside ? bends : 1.0 / bends
                    )
                  last = found
                  dx = px
                  dy = py
                  dz = pz
                  inside = !inside if passed > 0.5
                else
                  going = false
                  if turns > 0
                    hits[j, at] = along
                    hits[j, at + 1] = across
                    hits[j, at + 2] = high
                    3.times { |c| hits[j, at + 3 + c] = Math.exp(-taken[c]) }
                  end
                end
              end
              turns += 1
            end
          end
        end
      end

      # Adds up what ends at each cell, shared between four.
      # @param sums f32 [side, 5·side]: red, green, blue, height times how much, how much
      kernel sums: F32[2], hits: F32[2], lens: F32[1]
      def gather(sums, hits, lens)
        side = sums.dim(0)
        hits.dim(0).times do |j|
          side.times do |i|
            at = 7 * i
            if hits[j, at + 3] >= 0.0
              x = (hits[j, at] - lens[10]) / lens[12] - 0.5
              y = (hits[j, at + 1] - lens[11]) / lens[12] - 0.5
              a = x.floor.to_i
              b = y.floor.to_i
              4.times do |n|
                c = a + (n & 1)
                d = b + (n >> 1)
                if c >= 0 && d >= 0 && c < side && d < side
                  share = ((n & 1) == 0 ? 1.0 - (x - a) : x - a) * ((n >> 1) == 0 ? 1.0 - (y - b) : y - b)
                  3.times { |m| sums[d, 5 * c + m] += share * hits[j, at + 3 + m] }
                  sums[d, 5 * c + 3] += share * hits[j, at + 2]
                  sums[d, 5 * c + 4] += share
                end
              end
            end
          end
        end
      end

      # The grid as {#factor} reads it: light softened over neighbours, heights of what it met first, and where it ends.
      # @param map f32 [side, 5·side]
      kernel map: F32[2], sums: F32[2], hits: F32[2]
      def settle(map, sums, hits)
        side = sums.dim(0)
        parallel(side) do |j|
          side.times do |i|
            3.times do |m|
              sum = 0.0
              3.times do |d|
                3.times do |c|
                  y = (j + d - 1).clamp(0, side - 1)
                  x = (i + c - 1).clamp(0, side - 1)
                  sum += (d == 1 ? 0.5 : 0.25) * (c == 1 ? 0.5 : 0.25) * sums[y, 5 * x + m]
                end
              end
              map[j, 5 * i + m] = sum
            end
            map[j, 5 * i + 3] = hits[j, 7 * i + 6]
            map[j, 5 * i + 4] = sums[j, 5 * i + 4] > 0.0 ? sums[j, 5 * i + 3] / sums[j, 5 * i + 4] : NOTHING
          end
        end
      end

      # By how much clear things change the light of a lamp at a place: red, green, blue.
      kernel map: F32[2], lens: F32[1], n: I32, x: F32, y: F32, z: F32, returns: [F32, F32, F32]
      def factor(map, lens, n, x, y, z)
        red = 1.0
        green = 1.0
        blue = 1.0
        if lens[0] > -0.5 && lens[0].to_i == n
          side = map.dim(0)
          along, across, high = told(lens, x, y, z)
          u = (along - lens[10]) / lens[12] - 0.5
          v = (across - lens[11]) / lens[12] - 0.5
          if u >= 0.0 && v >= 0.0 && u < side - 1.0 && v < side - 1.0
            i = u.to_i
            j = v.to_i
            a = (u + 0.5).to_i
            b = (v + 0.5).to_i
            lit = high < map[b, 5 * a + 3] - lens[14] ? 0.0 : 1.0
            red = lit
            green = lit
            blue = lit
            if (high - map[b, 5 * a + 4]).abs < lens[15]
              fx = u - i
              fy = v - j
              red += soft(map, j, i, 0, fy, fx)
              green += soft(map, j, i, 1, fy, fx)
              blue += soft(map, j, i, 2, fy, fx)
            end
          end
        end
        return red, green, blue
      end

      kernel map: F32[2], j: I32, i: I32, m: I32, fy: F32, fx: F32, returns: F32
      def soft(map, j, i, m, fy, fx)
        low = map[j, 5 * i + m] + fx * (map[j, 5 * i + 5 + m] - map[j, 5 * i + m])
        top = map[j + 1, 5 * i + m] + fx * (map[j + 1, 5 * i + 5 + m] - map[j + 1, 5 * i + m])
        [low + fy * (top - low), MOST].min
      end

      # Light is not gathered more strongly than this.
      MOST = 12.0
    end
  end
end
