# frozen_string_literal: true

module Vumbral
  module Picture
    # What lies before surfaces, for {Passes}: gas and what one sees through.
    module VeilKernels
      extend Kernel::Library

      # How much the gas before the first surface covers, `cover` f32 [h, w], and how far what is seen of it has come
      # since the frame before, in pixels, as much as it covers: `moved` f32 [h, w, 2].
      kernel cover: F32[2], moved: F32[3], depth: F32[3], view: F32[1], before: F32[1], gas: Picture::Drift,
        lattice: Grid::Lattice
      def gas(cover, moved, depth, view, before, gas, lattice)
        parallel(cover.dim(0), uneven: true) do |py|
          per = 1.0 / lattice.voxel
          step = 0.5 * lattice.voxel
          cover.dim(1).times do |px|
            dx, dy, dz = EyeKernels.direction(view, px + 0.5, py + 0.5)
            first, last =
              Light::VolumeKernels.crossing(
                gas.smoke, lattice, Geometry::Ray.new(view[0], view[1], view[2], dx, dy, dz)
              )
            last = [last, depth[py, px, 0]].min
            left = 1.0
            u = 0.0
            v = 0.0
            t = first + 0.5 * step
            while t < last && left > 0.002
              x = view[0] + t * dx
              y = view[1] + t * dy
              z = view[2] + t * dz
              i = per * (x - lattice.x)
              j = per * (y - lattice.y)
              k = per * (z - lattice.z)
              thick = gas.thickness * step * [Grid::Sampling.linear(gas.smoke, i, j, k), 0.0].max
              if thick > 0.00001
                kept = Math.exp(-thick)
                share = left * (1.0 - kept)
                a, b =
                  PassKernels.seen_at(
                    before, x - gas.seconds * Grid::Sampling.linear(gas.along, i, j, k),
                    y - gas.seconds * Grid::Sampling.linear(gas.up, i, j, k),
                    z - gas.seconds * Grid::Sampling.linear(gas.across, i, j, k)
                  )
                u += share * (px + 0.5 - a)
                v += share * (py + 0.5 - b)
                left *= kept
              end
              t += step
            end
            cover[py, px] = 1.0 - left
            moved[py, px, 0] = u
            moved[py, px, 1] = v
          end
        end
      end

      # The nearest of what one sees through: which `who` i32 [h, w] (-1 for none), and how much of the pixel it covers.
      kernel who: I32[2], cover: F32[2], depth: F32[3], view: F32[1], scene: Picture::Scene
      def pane(who, cover, depth, view, scene)
        parallel(who.dim(0), uneven: true) do |py|
          who.dim(1).times do |px|
            who[py, px] = -1
            sum = 0.0
            4.times do |s|
              ax, ay = EyeKernels.place(s)
              dx, dy, dz = EyeKernels.direction(view, px + ax, py + ay)
              from = 0.0
              tries = 0
              while tries < PaneKernels::HOLES
                t, found, b, g =
                  Geometry::RayKernels.first_hit(
                    scene.corners, scene.boxes,
                    Geometry::Ray.new(view[0] + from * dx, view[1] + from * dy, view[2] + from * dz, dx, dy, dz),
                    MarchKernels::NONE
                  )
                from += t
                if found < 0 || from > depth[py, px, s]
                  tries = PaneKernels::HOLES
                else
                  covered = PaneKernels.covers(scene, Spot.new(from, found, b, g, 0.0), 0.001 * from)
                  if covered > PaneKernels::LEAST
                    who[py, px] = scene.owner[found] if who[py, px] < 0
                    sum += 0.25 * covered if who[py, px] == scene.owner[found]
                    tries = PaneKernels::HOLES
                  end
                  from += 0.00005 * (1.0 + from)
                end
              end
            end
            cover[py, px] = sum
          end
        end
      end

      # Lays what covers pixels before numbers in pairs ({PassKernels#rank}); those that cover most are first. `numbers`
      # are those of `who`.
      kernel out: F32[3], who: I32[2], cover: F32[2], numbers: F32[1]
      def lay(out, who, cover, numbers)
        parallel(out.dim(0)) do |py|
          out.dim(1).times do |px|
            share = cover[py, px]
            n = who[py, px]
            if n >= 0 && share > 0.001
              number = numbers[n]
              4.times { |k| out[py, px, 2 * k + 1] *= 1.0 - share }
              # The same one may be seen behind it too; else the one that covers least gives way.
              at = 3
              4.times { |k| at = k if out[py, px, 2 * k] == number && out[py, px, 2 * k + 1] > 0.0 }
              share += out[py, px, 2 * at] == number ? out[py, px, 2 * at + 1] : 0.0
              if share > out[py, px, 2 * at + 1]
                out[py, px, 2 * at] = number
                out[py, px, 2 * at + 1] = share
              end
              while at > 0 && out[py, px, 2 * at + 1] > out[py, px, 2 * at - 1]
                a = out[py, px, 2 * at - 2]
                b = out[py, px, 2 * at - 1]
                out[py, px, 2 * at - 2] = out[py, px, 2 * at] + 0.0
                out[py, px, 2 * at - 1] = out[py, px, 2 * at + 1] + 0.0
                out[py, px, 2 * at] = a
                out[py, px, 2 * at + 1] = b
                at -= 1
              end
            end
          end
        end
      end

      # How far what pixels see has moved, with what gas covers of them: `motion` and `moved` f32 [h, w, 2].
      kernel motion: F32[3], cover: F32[2], moved: F32[3]
      def blend(motion, cover, moved)
        parallel(motion.dim(0)) do |py|
          motion.dim(1).times do |px|
            2.times { |c| motion[py, px, c] = (1.0 - cover[py, px]) * motion[py, px, c] + moved[py, px, c] }
          end
        end
      end
    end
  end
end
