# frozen_string_literal: true

module Vumbral
  module Picture
    # What flat triangles hide of the smooth surface that they stand for.
    module FacetKernels
      extend Kernel::Library

      # No highlight is widened further than this by how round a surface is within a pixel.
      WIDEST = 0.18

      # The place on the smooth surface over one on its triangle, or a little above it (Hanika 2021), from which lamps
      # are looked for: from the triangle itself those that stand low are hidden by its neighbours, all over it at
      # once. `ray` is the way from the eye.
      kernel scene: Picture::Scene, spot: Picture::Spot, ray: Geometry::Ray, returns: [F32, F32, F32]
      def lifted(scene, spot, ray)
        t = spot.triangle
        x = ray.ox + spot.far * ray.dx
        y = ray.oy + spot.far * ray.dy
        z = ray.oz + spot.far * ray.dz
        sx = x
        sy = y
        sz = z
        3.times do |n|
          share = n == 0 ? 1.0 - spot.b - spot.g : (n == 1 ? spot.b : spot.g)
          nx = scene.normals[t, 3 * n]
          ny = scene.normals[t, 3 * n + 1]
          nz = scene.normals[t, 3 * n + 2]
          below = (x - scene.corners[t, 3 * n]) * nx + (y - scene.corners[t, 3 * n + 1]) * ny +
            (z - scene.corners[t, 3 * n + 2]) * nz
          # Seen from behind, outwards is the other way.
          back = nx * ray.dx + ny * ray.dy + nz * ray.dz > 0.0
          below = back ? [below, 0.0].max : [below, 0.0].min
          sx -= share * below * nx
          sy -= share * below * ny
          sz -= share * below * nz
        end
        return sx, sy, sz
      end

      # How rough a surface is within a pixel so wide, where it is round (Tokuyoshi & Kaplanyan 2019): a highlight
      # narrower than a pixel would be there or not by chance.
      kernel scene: Picture::Scene, t: I32, rough: F32, pixel: F32, returns: F32
      def rounded(scene, t, rough, pixel)
        most = 0.0
        3.times do |n|
          m = (n + 1) % 3
          far = 1e-12
          apart = 0.0
          3.times do |c|
            way = scene.corners[t, 3 * m + c] - scene.corners[t, 3 * n + c]
            turn = scene.normals[t, 3 * m + c] - scene.normals[t, 3 * n + c]
            far += way * way
            apart += turn * turn
          end
          most = [most, apart / far].max
        end
        Math.sqrt(Math.sqrt(rough**4 + [most * pixel * pixel, WIDEST].min))
      end
    end
  end
end
