# frozen_string_literal: true

module Vumbral
  module Picture
    # Loops for {Passes}.
    module PassKernels
      extend Kernel::Library

      # What four places of each pixel see: `seen` i32 [h, w, 4] (a body, or -1), how far off, and how the surfaces lie
      # in the mean.
      kernel seen: I32[3], depth: F32[3], normal: F32[3], view: F32[1], scene: Picture::Scene
      def look(seen, depth, normal, view, scene)
        parallel(seen.dim(0), uneven: true) do |py|
          seen.dim(1).times do |px|
            x = 0.0
            y = 0.0
            z = 0.0
            4.times do |s|
              ax, ay = EyeKernels.place(s)
              dx, dy, dz = EyeKernels.direction(view, px + ax, py + ay)
              t, found, b, g =
                Geometry::RayKernels.first_hit(
                  scene.corners, scene.boxes, Geometry::Ray.new(view[0], view[1], view[2], dx, dy, dz),
                  MarchKernels::NONE
                )
              depth[py, px, s] = t
              seen[py, px, s] = -1
              if found >= 0
                seen[py, px, s] = scene.owner[found]
                nx, ny, nz =
                  SurfaceKernels.normal(
                    scene, Spot.new(t, found, b, g, 0.0), Geometry::Ray.new(view[0], view[1], view[2], dx, dy, dz)
                  )
                x += nx
                y += ny
                z += nz
              end
            end
            length = Math.sqrt(x * x + y * y + z * z)
            per = length > 1e-6 ? 1.0 / length : 0.0
            normal[py, px, 0] = per * x
            normal[py, px, 1] = per * y
            normal[py, px, 2] = per * z
          end
        end
      end

      # The nearest of four depths: `out` f32 [h, w, 1].
      kernel out: F32[3], depth: F32[3]
      def nearest(out, depth)
        parallel(out.dim(0)) do |py|
          out
            .dim(1)
            .times do |px|
              out[py, px, 0] = [depth[py, px, 0], depth[py, px, 1], depth[py, px, 2], depth[py, px, 3]].min
            end
        end
      end

      # Numbers of what a pixel sees with how much of it each covers, most first.
      kernel out: F32[3], seen: I32[3], numbers: F32[1]
      def rank(out, seen, numbers)
        parallel(seen.dim(0)) do |py|
          count = local_f32(4)
          seen.dim(1).times do |px|
            4.times do |s|
              count[s] = 0.0
              mine = seen[py, px, s]
              first = 1
              4.times do |o|
                other = seen[py, px, o]
                if mine >= 0 && other >= 0 && numbers[mine] == numbers[other]
                  count[s] = count[s] + 0.25
                  first = 0 if o < s
                end
              end
              # Counted where it is first met.
              count[s] = 0.0 if first == 0
            end
            4.times do |k|
              best = 0
              3.times { |n| best = n + 1 if count[n + 1] > count[best] }
              out[py, px, 2 * k] = count[best] > 0.0 ? numbers[seen[py, px, best]] : 0.0
              out[py, px, 2 * k + 1] = count[best]
              count[best] = 0.0
            end
          end
        end
      end

      # Where a place of the world lies in a picture, pixels.
      kernel view: F32[1], x: F32, y: F32, z: F32, returns: [F32, F32]
      def seen_at(view, x, y, z)
        a = x - view[0]
        b = y - view[1]
        c = z - view[2]
        far = (a * view[3] + b * view[4] + c * view[5]) / (view[3] * view[3] + view[4] * view[4] + view[5] * view[5])
        right = (a * view[6] + b * view[7] + c * view[8]) / (view[6] * view[6] + view[7] * view[7] + view[8] * view[8])
        up =
          (a * view[9] + b * view[10] + c * view[11]) / (view[9] * view[9] + view[10] * view[10] + view[11] * view[11])
        per = far > 1e-6 ? 1.0 / far : 0.0
        return (0.5 + 0.5 * right * per) * view[12], (0.5 - 0.5 * up * per) * view[13]
      end

      # How far what a pixel sees has come since the frame before. `ways` f32 [bodies, 12], from where each is to where
      # it was.
      kernel out: F32[3], seen: I32[3], depth: F32[3], ways: F32[2], view: F32[1], before: F32[1]
      def motion(out, seen, depth, ways, view, before)
        parallel(out.dim(0)) do |py|
          out.dim(1).times do |px|
            o = seen[py, px, 0]
            dx, dy, dz = EyeKernels.direction(view, px + 0.375, py + 0.125)
            # What lies behind everything only turns with the camera.
            far = o >= 0 ? depth[py, px, 0] : 1e6
            x = view[0] + far * dx
            y = view[1] + far * dy
            z = view[2] + far * dz
            a = x
            b = y
            c = z
            if o >= 0
              a = ways[o, 0] * x + ways[o, 1] * y + ways[o, 2] * z + ways[o, 3]
              b = ways[o, 4] * x + ways[o, 5] * y + ways[o, 6] * z + ways[o, 7]
              c = ways[o, 8] * x + ways[o, 9] * y + ways[o, 10] * z + ways[o, 11]
            end
            u, v = seen_at(before, a, b, c)
            out[py, px, 0] = px + 0.375 - u
            out[py, px, 1] = py + 0.125 - v
          end
        end
      end

      # Heat times the way through it, up to the first surface of a pixel.
      kernel out: F32[3], depth: F32[3], view: F32[1], heat: F32[3], lattice: Grid::Lattice
      def heat(out, depth, view, heat, lattice)
        parallel(out.dim(0), uneven: true) do |py|
          per = 1.0 / lattice.voxel
          out.dim(1).times do |px|
            dx, dy, dz = EyeKernels.direction(view, px + 0.5, py + 0.5)
            first, last =
              Light::VolumeKernels.crossing(heat, lattice, Geometry::Ray.new(view[0], view[1], view[2], dx, dy, dz))
            last = [last, depth[py, px, 0]].min
            sum = 0.0
            t = first + 0.5 * lattice.voxel
            while t < last
              sum +=
                lattice.voxel *
                Grid::Sampling.linear(
                  heat, per * (view[0] + t * dx - lattice.x), per * (view[1] + t * dy - lattice.y),
                  per * (view[2] + t * dz - lattice.z)
                )
              t += lattice.voxel
            end
            out[py, px, 0] = sum
          end
        end
      end
    end
  end
end
