# frozen_string_literal: true

module Vumbral
  module Picture
    # How much of a lamp is seen from a place on a surface.
    module SightKernels
      extend Kernel::Library

      # How much of a lamp is seen from a place (the ray leads there, `reach` far). Of a wide sun, a ball or a sheet of
      # light three places are looked at, and nine more where they disagree.
      kernel scene: Picture::Scene, ray: Geometry::Ray, reach: F32, lamps: F32[2], n: I32, turn: F32, returns: F32
      def seen(scene, ray, reach, lamps, n, turn)
        open = 0.0
        if lamps[n, 0] < 0.0 || (lamps[n, 7] > 0.5 && (lamps[n, 0] > 1.0005 || lamps[n, 8] > 1.5))
          3.times { |s| open += aside(scene, ray, lamps, n, 0.8, turn + 2.0943951 * s) }
          if open > 0.5 && open < 2.5
            9.times { |s| open += aside(scene, ray, lamps, n, Math.sqrt((s + 0.5) / 9.0), turn + 1.0 + 2.3999632 * s) }
            open *= 0.08333333
          else
            open *= 0.33333333
          end
        elsif !Geometry::RayKernels.blocked(scene.shade, scene.shade_boxes, ray, reach)
          open = 1.0
        end
        open
      end

      # Is a place of a lamp seen? 1 or 0. `far` from its middle (0 to 1), `turn` around it.
      kernel scene: Picture::Scene, ray: Geometry::Ray, lamps: F32[2], n: I32, far: F32, turn: F32, returns: F32
      def aside(scene, ray, lamps, n, far, turn)
        dx, dy, dz, reach = towards(lamps, n, ray, far, turn)
        # What stands within a lamp's own ball does not hide it.
        reach -= [lamps[n, 0] - 1.0, 0.99 * reach].min if lamps[n, 0] > 0.5 && lamps[n, 8] < 1.5
        Geometry::RayKernels.blocked(scene.shade, scene.shade_boxes, Geometry::Ray.new(ray.ox, ray.oy, ray.oz, dx, dy,
          dz), reach) ? 0.0 : 1.0
      end

      # How much of a lamp smoke leaves to a place, from which the ray leads there, `distance` far. Before one so wide
      # that its shadow is softer than a voxel, in the mean of what comes of four places.
      kernel air: Picture::Air, lattice: Grid::Lattice, ray: Geometry::Ray, distance: F32, lamps: F32[2], n: I32,
        turn: F32, returns: F32
      def smoky(air, lattice, ray, distance, lamps, n, turn)
        first, last = Light::VolumeKernels.crossing(air.smoke, lattice, ray)
        far = [0.5 * (first + last), distance].min
        passed = 0.0
        if wide(lamps, n, distance) * far > lattice.voxel
          4.times do |s|
            dx, dy, dz, reach = towards(lamps, n, ray, Math.sqrt(0.25 * (s + 0.5)), turn + 2.3999632 * s)
            passed += 0.25 * Math.exp(-air.thickness * Light::VolumeKernels.depth(air.smoke, lattice,
              Geometry::Ray.new(ray.ox, ray.oy, ray.oz, dx, dy, dz), reach))
          end
        else
          passed = Math.exp(-air.thickness * Light::VolumeKernels.depth(air.smoke, lattice, ray, distance))
        end
        passed
      end

      # Half of how wide a lamp is seen from so far, as a tangent.
      kernel lamps: F32[2], n: I32, distance: F32, returns: F32
      def wide(lamps, n, distance)
        width = -lamps[n, 0]
        width = (lamps[n, 0] - 1.0) / distance if lamps[n, 0] > 0.5
        if lamps[n, Light::LampKernels::KIND] > 1.5
          width = [lamps[n, Light::LampKernels::EDGE], lamps[n, Light::LampKernels::EDGE + 1]].max / distance
        end
        width
      end

      # The way to a place of a lamp and how far it is: `far` from its middle (0 to 1), `turn` around it.
      kernel lamps: F32[2], n: I32, ray: Geometry::Ray, far: F32, turn: F32, returns: [F32, F32, F32, F32]
      def towards(lamps, n, ray, far, turn)
        dx = 0.0
        dy = 0.0
        dz = 0.0
        reach = 1e9
        if lamps[n, 0] < 0.0
          dx, dy, dz = Light::LampKernels.aside(lamps, n, far, turn)
        else
          px, py, pz = part_of(lamps, n, ray, far, turn)
          dx = px - ray.ox
          dy = py - ray.oy
          dz = pz - ray.oz
          reach = [Math.sqrt(dx * dx + dy * dy + dz * dz), 1e-4].max
          dx /= reach
          dy /= reach
          dz /= reach
        end
        return dx, dy, dz, reach
      end

      # A place on what shines: on a sheet, or on the disc of a ball that is turned to where the ray comes from.
      kernel lamps: F32[2], n: I32, ray: Geometry::Ray, far: F32, turn: F32, returns: [F32, F32, F32]
      def part_of(lamps, n, ray, far, turn)
        x = 0.0
        y = 0.0
        z = 0.0
        a = far * Math.cos(turn)
        b = far * Math.sin(turn)
        if lamps[n, 8] > 1.5
          # A disc drawn out to a square.
          per = far / [a.abs, b.abs, 1e-6].max
          x, y, z = Light::LampKernels.place(lamps, n, a * per, b * per)
        else
          size = lamps[n, 0] - 1.0
          flat = ray.dy.abs < 0.9
          ux = flat ? ray.dz : 0.0
          uy = flat ? 0.0 : -ray.dz
          uz = flat ? -ray.dx : ray.dy
          per = size / Math.sqrt(ux * ux + uy * uy + uz * uz)
          ux *= per
          uy *= per
          uz *= per
          x = lamps[n, 1] + a * ux + b * (ray.dy * uz - ray.dz * uy)
          y = lamps[n, 2] + a * uy + b * (ray.dz * ux - ray.dx * uz)
          z = lamps[n, 3] + a * uz + b * (ray.dx * uy - ray.dy * ux)
        end
        return x, y, z
      end
    end
  end
end
