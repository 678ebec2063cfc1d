# frozen_string_literal: true

module Vumbral
  module Geometry
    # Loops of {Operations}.
    module OperationKernels
      extend Kernel::Library

      # Each point a share of the way to the middle of its neighbours, but for those that are held.
      kernel to: F32[2], from: F32[2], starts: I32[1], others: I32[1], held: U8[1], share: F32
      def relax(to, from, starts, others, held, share)
        parallel(from.dim(0)) do |n|
          count = starts[n + 1] - starts[n]
          3.times do |c|
            sum = 0.0
            (starts[n]...starts[n + 1]).each { |k| sum += from[others[k], c] }
            moves = held[n] == 0 && count > 0
            to[n, c] = moves ? from[n, c] + share * (sum / count - from[n, c]) : from[n, c] + 0.0
          end
        end
      end

      # A unit normal for each point, by the angle that faces have there; up where there is none.
      kernel normals: F32[2], points: F32[2], triangles: I32[2]
      def normals(normals, points, triangles)
        triangles.dim(0).times do |t|
          x, y, z = MeshKernels.cross(points, triangles, t)
          wide = Math.sqrt(x * x + y * y + z * z)
          if wide > 0.0
            3.times do |n|
              a = triangles[t, n]
              b = triangles[t, (n + 1) % 3]
              c = triangles[t, (n + 2) % 3]
              along = 0.0
              3.times { |k| along += (points[b, k] - points[a, k]) * (points[c, k] - points[a, k]) }
              angle = Math.atan2(wide, along)
              normals[a, 0] += angle * x / wide
              normals[a, 1] += angle * y / wide
              normals[a, 2] += angle * z / wide
            end
          end
        end
        parallel(normals.dim(0)) do |n|
          far = Math.sqrt(normals[n, 0] * normals[n, 0] + normals[n, 1] * normals[n, 1] + normals[n, 2] * normals[n, 2])
          3.times { |k| normals[n, k] = far > 0.0 ? normals[n, k] / far : (k == 1 ? 1.0 : 0.0) }
        end
      end

      # Points along their normals by noise of several octaves, or by waves along a way. All together it goes from -1 to
      # 1, of which `rest` is the level that stays. `at` is where the noise is read; `setting` as {Operations::Displace}
      # lays it down: strength, bumps a metre, octaves, time, seed, kind, rest, way.
      kernel to: F32[2], from: F32[2], at: F32[2], normals: F32[2], setting: F32[1]
      def displace(to, from, at, normals, setting)
        kind = setting[5].to_i
        parallel(from.dim(0)) do |n|
          sum = 0.0
          whole = 0.0
          weight = 1.0
          times = setting[1]
          setting[2].to_i.times do |o|
            value = 0.0
            if kind == Operations::Displace::WAVES
              far = setting[7] * at[n, 0] + setting[8] * at[n, 1] + setting[9] * at[n, 2]
              value = Math.sin(6.2831853 * (far * times - setting[3]))
            else
              value =
                Grid::Noise.value(
                  at[n, 0] * times, at[n, 1] * times, at[n, 2] * times, setting[3] * (o + 1), setting[4].to_i + 17 * o
                )
            end
            value = 2.0 * value.abs - 1.0 if kind == Operations::Displace::BILLOWS
            value = 1.0 - 2.0 * value.abs if kind == Operations::Displace::RIDGES
            sum += weight * value
            whole += weight
            weight *= 0.5
            times *= 2.0
          end
          3.times { |c| to[n, c] = from[n, c] + setting[0] * (sum / whole - setting[6]) * normals[n, c] }
        end
      end

      # Points along their normals by a texture, 0 in and 1 out; `at` are their places in the world.
      kernel to: F32[2], from: F32[2], at: F32[2], normals: F32[2], rows: F32[2], strength: F32, rest: F32
      def press(to, from, at, normals, rows, strength, rest)
        parallel(from.dim(0)) do |n|
          value = 2.0 * TextureKernels.value(rows, 0, at[n, 0], at[n, 1], at[n, 2], 0.0) - 1.0
          3.times { |c| to[n, c] = from[n, c] + strength * (value - rest) * normals[n, c] }
        end
      end

      # Corners' places in a picture that is laid out in one of the ways of {Operations::Lay}.
      kernel places: F32[2], points: F32[2], triangles: I32[2], way: I32, per: F32, cosine: F32, sine: F32
      def lay(places, points, triangles, way, per, cosine, sine)
        parallel(triangles.dim(0)) do |t|
          ax, ay, az = MeshKernels.cross(points, triangles, t)
          first = 0.0
          3.times do |c|
            n = triangles[t, c]
            x = points[n, 0]
            y = points[n, 1]
            z = points[n, 2]
            u = x * per
            v = -z * per
            if way == Operations::Lay::BOX
              u = ax.abs >= ay.abs && ax.abs >= az.abs ? -z * per : x * per
              v = ay.abs > ax.abs && ay.abs > az.abs ? -z * per : y * per
            end
            if way > Operations::Lay::BOX
              u = Math.atan2(x, z) / 6.2831853
              v = way == Operations::Lay::CYLINDER ? y * per : Math.atan2(y, Math.sqrt(x * x + z * z)) / 3.1415927 + 0.5
              # No triangle goes the long way round.
              first = u if c == 0
              u += 1.0 if u < first - 0.5
              u -= 1.0 if u > first + 0.5
            end
            places[t, 2 * c] = cosine * u - sine * v
            places[t, 2 * c + 1] = sine * u + cosine * v
          end
        end
      end

      # Moves places in a picture.
      kernel places: F32[2], aside: F32, above: F32
      def slide(places, aside, above)
        parallel(places.dim(0)) do |t|
          3.times do |c|
            places[t, 2 * c] += aside
            places[t, 2 * c + 1] += above
          end
        end
      end

      # Two distances as one.
      kernel field: F32[3], other: F32[3], way: I32
      def combine(field, other, way)
        each_cell(field) do |k, j, i|
          a = field[k, j, i]
          b = other[k, j, i]
          field[k, j, i] = way == Operations::Combine::JOIN ? [a, b].min : (way == Operations::Combine::CUT ? [a, -b].max : [a, b].max)
        end
      end

      # Numbers the cells between eight distances through which the surface goes; -1 for the others.
      # @return how many there are, and how many edges between two distances it crosses
      kernel numbers: I32[3], field: F32[3], returns: [I32, I32]
      def count(numbers, field)
        points = 0
        quads = 0
        field.dim(0).times do |k|
          field.dim(1).times do |j|
            field.dim(2).times do |i|
              numbers[k, j, i] = -1
              inside = field[k, j, i] < 0.0
              if k + 1 < field.dim(0) && j + 1 < field.dim(1) && i + 1 < field.dim(2)
                below = 0
                8.times { |c| below += field[k + c / 4, j + c / 2 % 2, i + c % 2] < 0.0 ? 1 : 0 }
                if below > 0 && below < 8
                  numbers[k, j, i] = points
                  points += 1
                end
                if k > 0 && j > 0 && i > 0
                  quads += inside != (field[k, j, i + 1] < 0.0) ? 1 : 0
                  quads += inside != (field[k, j + 1, i] < 0.0) ? 1 : 0
                  quads += inside != (field[k + 1, j, i] < 0.0) ? 1 : 0
                end
              end
            end
          end
        end
        return points, quads
      end

      # One point in each numbered cell, in the middle of where its edges are crossed, and two triangles for each edge
      # that is.
      kernel points: F32[2], triangles: I32[2], numbers: I32[3], field: F32[3], lattice: Grid::Lattice
      def nets(points, triangles, numbers, field, lattice)
        made = 0
        field.dim(0).times do |k|
          field.dim(1).times do |j|
            field.dim(2).times do |i|
              centre(points, numbers[k, j, i], field, k, j, i, lattice) if numbers[k, j, i] >= 0
              if k > 0 && j > 0 && i > 0 && k + 1 < field.dim(0) && j + 1 < field.dim(1) && i + 1 < field.dim(2)
                inside = field[k, j, i] < 0.0
                3.times do |axis|
                  beyond = field[k + (axis == 2 ? 1 : 0), j + (axis == 1 ? 1 : 0), i + (axis == 0 ? 1 : 0)] < 0.0
                  if inside != beyond
                    # The cells around the edge, one after the other.
                    a = numbers[k, j, i]
                    b = axis == 0 ? numbers[k, j - 1, i] : numbers[k, j, i - 1]
                    c = axis == 0 ? numbers[k - 1, j - 1, i] : (axis == 1 ? numbers[k - 1, j, i - 1] : numbers[k, j - 1, i - 1])
                    d = axis == 2 ? numbers[k, j - 1, i] : numbers[k - 1, j, i]
                    # Seen from outside, anticlockwise.
                    turned = axis == 1 ? !inside : inside
                    triangles[made, 0] = a
                    triangles[made, 1] = turned ? b : c
                    triangles[made, 2] = turned ? c : b
                    triangles[made + 1, 0] = a
                    triangles[made + 1, 1] = turned ? c : d
                    triangles[made + 1, 2] = turned ? d : c
                    made += 2
                  end
                end
              end
            end
          end
        end
      end

      # The middle of where the surface crosses the edges of a cell.
      kernel points: F32[2], n: I32, field: F32[3], k: I32, j: I32, i: I32, lattice: Grid::Lattice
      def centre(points, n, field, k, j, i, lattice)
        x = 0.0
        y = 0.0
        z = 0.0
        count = 0
        8.times do |c|
          3.times do |axis|
            if (c >> axis) & 1 == 0
              o = c | (1 << axis)
              a = field[k + c / 4, j + c / 2 % 2, i + c % 2]
              b = field[k + o / 4, j + o / 2 % 2, i + o % 2]
              if (a < 0.0) != (b < 0.0)
                t = a / (a - b)
                x += (c & 1) + (axis == 0 ? t : 0.0)
                y += ((c >> 1) & 1) + (axis == 1 ? t : 0.0)
                z += ((c >> 2) & 1) + (axis == 2 ? t : 0.0)
                count += 1
              end
            end
          end
        end
        points[n, 0] = lattice.x + lattice.voxel * (i + x / count)
        points[n, 1] = lattice.y + lattice.voxel * (j + y / count)
        points[n, 2] = lattice.z + lattice.voxel * (k + z / count)
      end
    end
  end
end
