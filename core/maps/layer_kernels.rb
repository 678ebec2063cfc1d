# frozen_string_literal: true

module Vumbral
  module Maps
    # Loops over the points and corners of a surface, for what is strong where.
    module LayerKernels
      extend Kernel::Library

      # Where each corner of each triangle is: `places` f32 [3m, 3].
      kernel places: F32[2], points: F32[2], triangles: I32[2]
      def corners(places, points, triangles)
        parallel(triangles.dim(0)) do |t|
          9.times { |c| places[3 * t + c / 3, c % 3] = points[triangles[t, c / 3], c % 3] + 0.0 }
        end
      end

      # What a value of each point is at the corners.
      kernel out: F32[1], values: F32[1], triangles: I32[2]
      def spread(out, values, triangles)
        parallel(triangles.dim(0)) { |t| 3.times { |c| out[3 * t + c] = values[triangles[t, c]] + 0.0 } }
      end

      # How strong a front is by its age: nothing before it comes, then rising, staying and falling, all in seconds.
      # `out` has the frames on which it comes; `setting` frame, rate, rise, lasts (0: for ever), fall.
      kernel out: F32[1], setting: F32[1]
      def aged(out, setting)
        parallel(out.size) do |n|
          age = (setting[0] - out[n]) / setting[1]
          value = 0.0
          if age >= 0.0
            value = setting[2] > 0.0 ? [age / setting[2], 1.0].min : 1.0
            past = age - setting[2] - setting[3]
            value = setting[4] > 0.0 ? [1.0 - past / setting[4], 0.0].max : 0.0 if setting[3] > 0.0 && past > 0.0
          end
          out[n] = value
        end
      end

      # 1 within a box, and less towards its sides: `setting` its middle, size, and which part of it is soft.
      kernel out: F32[1], places: F32[2], setting: F32[1]
      def box(out, places, setting)
        parallel(out.size) do |n|
          value = 1.0
          3.times do |c|
            far = (places[n, c] - setting[c]).abs / (0.5 * setting[3 + c])
            value = [value, edge(far, setting[6])].min
          end
          out[n] = value
        end
      end

      # The same of a ball: its middle, radius, and its soft part.
      kernel out: F32[1], places: F32[2], setting: F32[1]
      def ball(out, places, setting)
        parallel(out.size) do |n|
          x = places[n, 0] - setting[0]
          y = places[n, 1] - setting[1]
          z = places[n, 2] - setting[2]
          out[n] = edge(Math.sqrt(x * x + y * y + z * z) / setting[3], setting[4])
        end
      end

      # How near places are to a body, beside what is there: 1 within it. `setting` leads from the world to the body's
      # tree (12), then how far it reaches, and its soft part.
      # @param filled whether it has an inside
      kernel out: F32[1], places: F32[2], tree: Geometry::Tree, setting: F32[1], filled: BOOL
      def near(out, places, tree, setting, filled)
        parallel(out.size, uneven: true) do |n|
          a = places[n, 0]
          b = places[n, 1]
          c = places[n, 2]
          x = setting[0] * a + setting[1] * b + setting[2] * c + setting[3]
          y = setting[4] * a + setting[5] * b + setting[6] * c + setting[7]
          z = setting[8] * a + setting[9] * b + setting[10] * c + setting[11]
          far, nearest = Geometry::BVHKernels.closest(tree.corners, tree.boxes, x, y, z, setting[12], -1)
          value = nearest < 0 ? 0.0 : edge(far / setting[12], setting[13])
          if filled && Geometry::BVHKernels.box_distance(tree.boxes, 0, x, y, z) <= 0.0
            value = 1.0 if Geometry::BVHKernels.winding(tree.corners, tree.boxes, tree.far, x, y, z) > 0.5
          end
          out[n] = [out[n], value].max
        end
      end

      kernel out: F32[1], factor: F32
      def times(out, factor)
        parallel(out.size) { |n| out[n] *= factor }
      end

      # 1 inside, 0 beyond 1, smooth over the soft part before it.
      kernel far: F32, soft: F32, returns: F32
      def edge(far, soft)
        s = soft > 0.0 ? ((1.0 - far) / soft).clamp(0.0, 1.0) : (far <= 1.0 ? 1.0 : 0.0)
        s * s * (3.0 - 2.0 * s)
      end

      # Noise from 0 to 1: `setting` patches a metre, octaves, time, seed, the level that is half, and how hard the
      # way from 0 to 1 is.
      kernel out: F32[1], places: F32[2], setting: F32[1]
      def noise(out, places, setting)
        parallel(out.size) do |n|
          sum = 0.0
          whole = 0.0
          weight = 1.0
          times = setting[0]
          setting[1].to_i.times do |o|
            sum +=
              weight *
              Grid::Noise.value(
                places[n, 0] * times, places[n, 1] * times, places[n, 2] * times, setting[2] * (o + 1),
                setting[3].to_i + 17 * o
              )
            whole += weight
            weight *= 0.5
            times *= 2.0
          end
          out[n] = (0.5 + setting[5] * (sum / whole - setting[4])).clamp(0.0, 1.0)
        end
      end

      # A picture at the corners' texture places, f32 [m, 6].
      kernel out: F32[1], places: F32[2], picture: F32[2]
      def picture(out, places, picture)
        parallel(places.dim(0)) do |t|
          3.times { |c| out[3 * t + c] = Geometry::MapKernels.pixel(picture, places[t, 2 * c], places[t, 2 * c + 1]) }
        end
      end

      # A formula at each corner; `out` has what `value` is.
      kernel out: F32[1], places: F32[2], program: F32[2], setting: F32[1]
      def formula(out, places, program, setting)
        parallel(out.size) do |n|
          found, _nothing =
            Shot::FormulaKernels.value(program, setting, places[n, 0], places[n, 1], places[n, 2], out[n])
          out[n] = found.clamp(0.0, 1.0)
        end
      end

      # As bytes, for the view.
      kernel out: U8[2], values: F32[2]
      def bytes(out, values)
        parallel(out.dim(0)) { |t| 3.times { |c| out[t, c] = (255.0 * values[t, c]).round } }
      end

      # Joins a layer with what there was: `how` as {Layers::HOW} counts.
      kernel sum: F32[1], layer: F32[1], how: I32, opacity: F32, inverted: BOOL
      def fold(sum, layer, how, opacity, inverted)
        parallel(sum.size) do |n|
          v = inverted ? 1.0 - layer[n] : layer[n] + 0.0
          s = sum[n]
          s *= 1.0 - opacity + opacity * v if how == 0
          s += opacity * v if how == 1
          s -= opacity * v if how == 2
          s = [s, opacity * v].max if how == 3
          sum[n] = s.clamp(0.0, 1.0)
        end
      end
    end
  end
end
