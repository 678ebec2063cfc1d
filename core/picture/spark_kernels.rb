# frozen_string_literal: true

module Vumbral
  module Picture
    # Streaks of particles over a picture.
    module SparkKernels
      extend Kernel::Library

      # Lays glowing streaks over a picture: `sparks` f32 [n, 10] as {Sparks#at} gives them. What lies
      # behind props is hidden, smoke dims them.
      kernel image: F32[3], hits: F32[3], view: F32[1], sparks: F32[2], smoke: F32[3],
        thickness: F32, lattice: Grid::Lattice
      def sparks(image, hits, view, sparks, smoke, thickness, lattice)
        wide = view[6] * view[6] + view[7] * view[7] + view[8] * view[8]
        high = view[9] * view[9] + view[10] * view[10] + view[11] * view[11]
        sparks.dim(0).times do |n|
          ax = sparks[n, 0] - view[0]
          ay = sparks[n, 1] - view[1]
          az = sparks[n, 2] - view[2]
          bx = sparks[n, 3] - view[0]
          by = sparks[n, 4] - view[1]
          bz = sparks[n, 5] - view[2]
          da = ax * view[3] + ay * view[4] + az * view[5]
          db = bx * view[3] + by * view[4] + bz * view[5]
          if da > 0.01 && db > 0.01
            px = 0.5 * view[12] * (1.0 + (ax * view[6] + ay * view[7] + az * view[8]) / (da * wide))
            py = 0.5 * view[13] * (1.0 - (ax * view[9] + ay * view[10] + az * view[11]) / (da * high))
            qx = 0.5 * view[12] * (1.0 + (bx * view[6] + by * view[7] + bz * view[8]) / (db * wide))
            qy = 0.5 * view[13] * (1.0 - (bx * view[9] + by * view[10] + bz * view[11]) / (db * high))
            far = Math.sqrt(ax * ax + ay * ay + az * az)
            # Thinner than a pixel it is dimmer, not narrower.
            true_radius = 0.25 * sparks[n, 9] * view[12] / (da * Math.sqrt(wide))
            radius = [true_radius, 0.6].max
            dim = [true_radius / radius, 1.0].min
            passed = dim * Math.exp(-thickness * Light::VolumeKernels.strides(smoke, lattice,
              Geometry::Ray.new(view[0], view[1], view[2], ax / far, ay / far, az / far), far, 2.0,
              Light::VolumeKernels::BLACK / [thickness, 0.001].max))
            x0 = ([px, qx].min - radius - 1.0).floor.clamp(0, image.dim(1))
            x1 = ([px, qx].max + radius + 1.0).ceil.clamp(0, image.dim(1))
            y0 = ([py, qy].min - radius - 1.0).floor.clamp(0, image.dim(0))
            y1 = ([py, qy].max + radius + 1.0).ceil.clamp(0, image.dim(0))
            ux = qx - px
            uy = qy - py
            length = ux * ux + uy * uy + 1e-6
            (y0...y1).each do |y|
              (x0...x1).each do |x|
                t = (((x + 0.5 - px) * ux + (y + 0.5 - py) * uy) / length).clamp(0.0, 1.0)
                ex = x + 0.5 - px - t * ux
                ey = y + 0.5 - py - t * uy
                share = (radius + 0.5 - Math.sqrt(ex * ex + ey * ey)).clamp(0.0, 1.0) * (1.0 - 0.7 * t)
                if share > 0.0 && hits[y, x, 0] > far
                  3.times { |c| image[y, x, c] += share * passed * sparks[n, 6 + c] }
                end
              end
            end
          end
        end
      end
    end
  end
end
