# frozen_string_literal: true

module Vumbral
  module Geometry
    # Loops that move the points of a mesh.
    module DeformKernels
      extend Kernel::Library

      # Adds what other shapes of the same points differ by: `deltas` f32 [shapes, n * 3].
      kernel out: F32[2], points: F32[2], deltas: F32[2], weights: F32[1]
      def morph(out, points, deltas, weights)
        parallel(points.dim(0)) do |n|
          3.times do |c|
            sum = points[n, c]
            weights.size.times { |shape| sum += weights[shape] * deltas[shape, 3 * n + c] }
            out[n, c] = sum
          end
        end
      end

      # Carries points along with the joints that hold them: `matrices` f32 [joints, 12]; `joints` and `weights` have
      # as many columns as joints hold a point.
      kernel out: F32[2], points: F32[2], joints: I32[2], weights: F32[2], matrices: F32[2]
      def skin(out, points, joints, weights, matrices)
        parallel(points.dim(0)) do |n|
          3.times do |c|
            sum = 0.0
            joints.dim(1).times do |k|
              j = joints[n, k]
              sum += weights[n, k] * (matrices[j, 4 * c] * points[n, 0] + matrices[j, 4 * c + 1] * points[n, 1] +
                matrices[j, 4 * c + 2] * points[n, 2] + matrices[j, 4 * c + 3])
            end
            out[n, c] = sum
          end
        end
      end

      # Turns points about an axis, the more the further along it: `setting` is the axis, where it begins and ends along
      # it, the whole angle, a way that does not count here, and the box's middle.
      kernel out: F32[2], points: F32[2], setting: F32[1]
      def twist(out, points, setting)
        a = setting[0].to_i
        b = (a + 1) % 3
        c = (a + 2) % 3
        parallel(points.dim(0)) do |n|
          part = ((points[n, a] - setting[1]) / (setting[2] - setting[1])).clamp(0.0, 1.0)
          angle = setting[3] * part
          u = points[n, b] - setting[5 + b]
          v = points[n, c] - setting[5 + c]
          out[n, a] = points[n, a] + 0.0
          out[n, b] = setting[5 + b] + Math.cos(angle) * u - Math.sin(angle) * v
          out[n, c] = setting[5 + c] + Math.sin(angle) * u + Math.cos(angle) * v
        end
      end

      # Bends a stretch of an axis to part of a ring, towards a way (an angle about the axis); what lies beyond goes on
      # straight. Lengths along the middle stay.
      kernel out: F32[2], points: F32[2], setting: F32[1]
      def bend(out, points, setting)
        a = setting[0].to_i
        b = (a + 1) % 3
        c = (a + 2) % 3
        cosine = Math.cos(setting[4])
        sine = Math.sin(setting[4])
        whole = setting[2] - setting[1]
        curve = setting[3] / whole
        parallel(points.dim(0)) do |n|
          s = points[n, a] - setting[1]
          on = s.clamp(0.0, whole)
          u = cosine * (points[n, b] - setting[5 + b]) + sine * (points[n, c] - setting[5 + c])
          v = cosine * (points[n, c] - setting[5 + c]) - sine * (points[n, b] - setting[5 + b])
          angle = curve * on
          # Near to straight, the first terms of the series.
          along = curve.abs < 0.00001 ? on : Math.sin(angle) / curve
          aside = curve.abs < 0.00001 ? 0.5 * curve * on * on : (1.0 - Math.cos(angle)) / curve
          rest = s - on
          h = along - Math.sin(angle) * u + Math.cos(angle) * rest
          w = aside + Math.cos(angle) * u + Math.sin(angle) * rest
          out[n, a] = setting[1] + h
          out[n, b] = setting[5 + b] + cosine * w - sine * v
          out[n, c] = setting[5 + c] + sine * w + cosine * v
        end
      end

      # Carries points along with the eight corners of a box: `box` its lowest corner and size, `pulls` f32 [8, 3].
      kernel out: F32[2], points: F32[2], box: F32[1], pulls: F32[2]
      def pull(out, points, box, pulls)
        parallel(points.dim(0)) do |n|
          u = (points[n, 0] - box[0]) / box[3]
          v = (points[n, 1] - box[1]) / box[4]
          w = (points[n, 2] - box[2]) / box[5]
          3.times do |c|
            sum = points[n, c]
            8.times do |k|
              share = (k % 2 == 0 ? 1.0 - u : u) * (k / 2 % 2 == 0 ? 1.0 - v : v) * (k / 4 == 0 ? 1.0 - w : w)
              sum += share * pulls[k, c]
            end
            out[n, c] = sum
          end
        end
      end

      # Texture places of corners as places of points, in the plane; points at a seam take their last triangle's.
      kernel out: F32[2], places: F32[2], triangles: I32[2]
      def unrolled(out, places, triangles)
        triangles.dim(0).times do |t|
          3.times do |c|
            out[triangles[t, c], 0] = places[t, 2 * c]
            out[triangles[t, c], 1] = places[t, 2 * c + 1]
          end
        end
      end

      # Part of the way from points to others.
      kernel out: F32[2], from: F32[2], to: F32[2], part: F32
      def between(out, from, to, part)
        parallel(from.dim(0)) { |n| 3.times { |c| out[n, c] = from[n, c] + part * (to[n, c] - from[n, c]) } }
      end

      # Points so many seconds on, each at its own speed.
      kernel out: F32[2], from: F32[2], speeds: F32[2], seconds: F32
      def drift(out, from, speeds, seconds)
        parallel(from.dim(0)) { |n| 3.times { |c| out[n, c] = from[n, c] + seconds * speeds[n, c] } }
      end
    end
  end
end
