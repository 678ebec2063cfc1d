# frozen_string_literal: true

module Vumbral
  module Picture
    # What one sees through: cards with holes, thin cloth, dust. Behind `hits`' four surfaces a pixel has how many panes
    # there are before them, and of each, near ones first, its depth, red, green, blue (as much as it covers) and how
    # much it covers.
    module PaneKernels
      extend Kernel::Library

      # Where panes begin, numbers of one, and how many a pixel may have.
      FIRST, WIDTH, MOST = 16, 5, 4
      # What covers less than this is not there.
      LEAST = 0.002
      # So often a ray may go through nothing but holes.
      HOLES = 16

      # Surfaces that are nowhere, and no panes.
      kernel hits: F32[3]
      def begin_far(hits)
        parallel(hits.dim(0)) do |py|
          hits.dim(1).times do |px|
            hits.dim(2).times { |c| hits[py, px, c] = c < FIRST ? MarchKernels::NONE : 0.0 }
          end
        end
      end

      # Pixels that are not wanted any more: what is nearer than everything hides all.
      kernel hits: F32[3], wanted: U8[2]
      def leave(hits, wanted)
        parallel(hits.dim(0)) do |py|
          hits.dim(1).times do |px|
            MarchKernels::SAMPLES.times { |s| hits[py, px, 4 * s] = -1.0 } if wanted[py, px] == 0
          end
        end
      end

      # Colours of a picture as another one's times `gain` [3], or with these added; alpha stays.
      kernel image: F32[3], part: F32[3], gain: F32[1], anew: BOOL
      def sum(image, part, gain, anew)
        parallel(image.dim(0)) do |py|
          image.dim(1).times do |px|
            3.times { |c| image[py, px, c] = (anew ? 0.0 : image[py, px, c]) + gain[c] * part[py, px, c] }
          end
        end
      end

      # How much a prop covers where a ray meets it.
      kernel scene: Picture::Scene, spot: Picture::Spot, pixel: F32, returns: F32
      def covers(scene, spot, pixel)
        o = scene.owner[spot.triangle]
        found = scene.made[o, GlossKernels::OPACITY]
        if scene.made[o, GlossKernels::PICTURE] > -0.5
          _r, _g, _b, alpha = PictureKernels.seen(scene, spot, pixel)
          found *= alpha
        end
        found.clamp(0.0, 1.0)
      end

      # How dark shadows make a place: `plain` are the lamps without any.
      kernel scene: Picture::Scene, spot: Picture::Spot, ray: Geometry::Ray, plain: F32[2], sky: F32[1],
        air: Picture::Air, lattice: Grid::Lattice, shaded: F32, returns: F32
      def shadow(scene, spot, ray, plain, sky, air, lattice, shaded)
        red, green, blue =
          SurfaceKernels.shade(
            scene, spot, ray, plain, sky,
            Air.new(air.smoke, air.up, 0.0, air.left, air.open, air.x, air.y, air.z, air.voxel, air.hazy), lattice, 0.01
          )
        (1.0 - shaded / [0.2126 * red + 0.7152 * green + 0.0722 * blue, 1e-9].max).clamp(0.0, 1.0)
      end

      # All panes before the surfaces; each pixel is looked at in four places, and what is seen in several of them is
      # lit once. `plain` are the lamps without their shadows.
      kernel hits: F32[3], view: F32[1], scene: Picture::Scene, lamps: F32[2], plain: F32[2], sky: F32[1],
        air: Picture::Air, lattice: Grid::Lattice
      def look(hits, view, scene, lamps, plain, sky, air, lattice)
        parallel(hits.dim(0), uneven: true) do |py|
          wide = EyeKernels.wide(view)
          seen = local_f32(24)
          hits.dim(1).times do |px|
            24.times { |c| seen[c] = 0.0 }
            turn = 6.2831853 * ((MarchKernels.offset(px, py) + view[14]) % 1.0)
            MarchKernels::SAMPLES.times do |s|
              ax, ay = EyeKernels.place(s)
              ox, oy, oz, dx, dy, dz = EyeKernels.ray(view, px + ax, py + ay)
              from = 0.0
              k = 0
              tries = 0
              while k < MOST && tries < HOLES
                t, found, b, g = Geometry::RayKernels.first_hit(scene.corners, scene.boxes,
                  Geometry::Ray.new(ox + from * dx, oy + from * dy, oz + from * dz, dx, dy, dz), MarchKernels::NONE)
                far = from + t
                if found < 0 || far > hits[py, px, 4 * s]
                  tries = HOLES
                else
                  cover = covers(scene, Spot.new(far, found, b, g, turn), wide * far)
                  if cover > LEAST
                    # Lit where it is first seen; the other places of the pixel take that.
                    if seen[6 * k] < 0.5 || scene.owner[found] != seen[6 * k + 5].to_i
                      red, green, blue =
                        SurfaceKernels.shade(
                          scene, Spot.new(far, found, b, g, turn), Geometry::Ray.new(ox, oy, oz, dx, dy, dz), lamps,
                          sky, air, lattice, wide * far
                        )
                      # Of a catcher only the shadow is there.
                      catches = scene.made[scene.owner[found], GlossKernels::AS] > 0.5
                      shade = 1.0
                      if catches
                        shade =
                          shadow(
                            scene, Spot.new(far, found, b, g, turn), Geometry::Ray.new(ox, oy, oz, dx, dy, dz), plain,
                            sky, air, lattice, 0.2126 * red + 0.7152 * green + 0.0722 * blue
                          )
                        red = 0.0
                        green = 0.0
                        blue = 0.0
                      end
                      seen[6 * k] = 1.0 + shade
                      seen[6 * k + 1] = far
                      seen[6 * k + 2] = red
                      seen[6 * k + 3] = green
                      seen[6 * k + 4] = blue
                      seen[6 * k + 5] = scene.owner[found] + 0.0
                    end
                    keep(hits, py, px, k, seen, 0.25 * cover * [seen[6 * k] - 1.0, 1e-6].max)
                    k += 1
                  end
                  from = far + 0.00005 * (1.0 + far)
                end
              end
            end
          end
        end
      end

      # Adds what a place of a pixel sees of its k-th pane.
      kernel hits: F32[3], py: I32, px: I32, k: I32, seen: F32[1], share: F32
      def keep(hits, py, px, k, seen, share)
        at = FIRST + 1 + WIDTH * k
        before = hits[py, px, at + 4]
        hits[py, px, at] = (hits[py, px, at] * before + seen[6 * k + 1] * share) / (before + share)
        3.times { |c| hits[py, px, at + 1 + c] = hits[py, px, at + 1 + c] + share * seen[6 * k + 2 + c] }
        hits[py, px, at + 4] = before + share
        hits[py, px, FIRST] = [hits[py, px, FIRST], k + 1.0].max
      end

      # Lays the n-th pane of a pixel over what lies behind it. `left` is how much of each surface still comes through,
      # `sum` the light so far. How much the pane leaves.
      kernel hits: F32[3], py: I32, px: I32, n: I32, left: F32[1], sum: F32[1], returns: F32
      def lay(hits, py, px, n, left, sum)
        at = FIRST + 1 + WIDTH * n
        keep = 1.0 - hits[py, px, at + 4]
        share = 0.0
        MarchKernels::SAMPLES.times do |s|
          if hits[py, px, 4 * s] > hits[py, px, at]
            share += 0.25 * left[s]
            left[s] = left[s] * keep
          end
        end
        3.times { |c| sum[c] = sum[c] + share * hits[py, px, at + 1 + c] }
        keep
      end
    end
  end
end
