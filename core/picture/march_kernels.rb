# frozen_string_literal: true

module Vumbral
  module Picture
    # From rays to a picture of a volume.
    module MarchKernels
      extend Kernel::Library

      NONE = 1e30
      SAMPLES = 4
      BLOCK = 4
      # Nor is a step through fog thicker than this, which is even enough.
      DENSEST = 1.5
      # A step that is thinner than this may be twice as long.
      THIN = 0.01
      # So many entries of the table below where it begins, fire may be a step ahead.
      NEARLY = 120.0
      # What a ray still brings when it is given up.
      LEAST = 0.0005
      # Fogs and beams at most ({Light::Haze::MOST}).
      VEILS = 12

      # A fixed pattern of offsets, even over small neighbourhoods (Jimenez 2014).
      kernel px: I32, py: I32, returns: F32
      def offset(px, py)
        (52.9829189 * ((0.06711056 * px + 0.00583715 * py) % 1.0)) % 1.0
      end

      # Marks blocks of four cells with smoke, or heat above `least`, in them or within two cells, as far as a spline
      # reaches, and `more`.
      kernel busy: U8[3], smoke: F32[3], heat: F32[3], burns: BOOL, least: F32, more: I32
      def mark(busy, smoke, heat, burns, least, more)
        parallel(busy.dim(0), uneven: true) do |bk|
          busy.dim(1).times do |bj|
            busy.dim(2).times do |bi|
              found = 0
              ([BLOCK * bk - 2 - more, 0].max...[BLOCK * bk + BLOCK + 2 + more, smoke.dim(0)].min).each do |k|
                ([BLOCK * bj - 2 - more, 0].max...[BLOCK * bj + BLOCK + 2 + more, smoke.dim(1)].min).each do |j|
                  if found == 0
                    ([BLOCK * bi - 2 - more, 0].max...[BLOCK * bi + BLOCK + 2 + more, smoke.dim(2)].min).each do |i|
                      found = 1 if smoke[k, j, i] > 0.0001 || (burns && heat[k, j, i] > least)
                    end
                  end
                end
              end
              busy[bk, bj, bi] = found
            end
          end
        end
      end

      # A field at a place (cells), smoothly or between points.
      kernel field: F32[3], x: F32, y: F32, z: F32, smooth: BOOL, returns: F32
      def value(field, x, y, z, smooth)
        smooth ? Grid::Spline.read(field, x, y, z) : Grid::Sampling.linear(field, x, y, z)
      end

      # Where the gas that a picture's moment shows at a place (cells) stands at its own.
      kernel volume: Picture::Filled, moment: F32, x: F32, y: F32, z: F32, returns: [F32, F32, F32]
      def moved(volume, moment, x, y, z)
        a = x
        b = y
        c = z
        if moment != 0.0
          a -= moment * Grid::Sampling.linear(volume.along, x, y, z)
          b -= moment * Grid::Sampling.linear(volume.up, x, y, z)
          c -= moment * Grid::Sampling.linear(volume.across, x, y, z)
        end
        return a, b, c
      end

      # Density at a place (cells) in a picture's moment.
      kernel volume: Picture::Filled, moment: F32, x: F32, y: F32, z: F32, returns: F32
      def density(volume, moment, x, y, z)
        a, b, c = moved(volume, moment, x, y, z)
        value(volume.smoke, a, b, c, volume.smooth)
      end

      # Marches each pixel's ray through a volume and all fogs, and lays what is left of the surfaces behind them:
      # `image` f32 [h, w, 4], red, green, blue and alpha over nothing. `hits` are surfaces ({SurfaceKernels}), `view`
      # the camera ({Camera#view}). What a step gives off is seen through its own smoke, in closed form; steps are
      # shorter where smoke is thick. What fogs send of lamps is left in `hits` beside the first depth, for
      # {HazeMarchKernels#lay}.
      kernel image: F32[3], hits: F32[3], view: F32[1], volume: Picture::Filled, paint: Picture::Paint, lamps: F32[2],
        haze: Light::HazeLight, lattice: Grid::Lattice
      def march(image, hits, view, volume, paint, lamps, haze, lattice)
        parallel(image.dim(0), uneven: true) do |py|
          per = 1.0 / lattice.voxel
          longest = volume.pace * lattice.voxel
          veils = [haze.veils.dim(0), VEILS].min
          image.dim(1).times do |px|
            ox, oy, oz, dx, dy, dz = EyeKernels.ray(view, px + 0.5, py + 0.5)
            first, last =
              Light::VolumeKernels.crossing(volume.smoke, lattice, Geometry::Ray.new(ox, oy, oz, dx, dy, dz))
            wanted = hits[py, px, 0] >= 0.0
            # Each pixel at a moment of its own.
            moment = paint.moment + paint.spread * (offset(px + 31, py + 71) - 0.5)
            # How much of each of the four surfaces' light comes through the smoke before it.
            left = local_f32(4)
            SAMPLES.times { |s| left[s] = 1.0 }
            sum = local_f32(3)
            3.times { |c| sum[c] = 0.0 }
            through = 1.0
            shift = (offset(px, py) + view[14]) % 1.0
            # Smoke begins a part of a step in; where there is none, so far off that it never does.
            begins = wanted && first < last ? first + longest * shift : NONE
            finish = wanted && first < last ? last : 0.0
            t = begins
            spans = local_f32(24)
            held = local_f32(11)
            got = local_f32(11)
            11.times { |c| held[c] = 0.0 }
            stays = -1.0
            fog = local_f32(3)
            3.times { |c| fog[c] = 0.0 }
            if veils > 0 && wanted
              far = 0.0
              SAMPLES.times { |s| far = [far, hits[py, px, 4 * s]].max }
              veils.times do |n|
                a, b = Light::HazeKernels.span(haze, n, haze.lamps, Geometry::Ray.new(ox, oy, oz, dx, dy, dz), far)
                spans[2 * n] = a
                spans[2 * n + 1] = b
                if b > a
                  t = [t, a].min
                  finish = [finish, b].max
                end
              end
            end
            before = -1.0
            glowed = 0
            walked = 0
            panes = hits.dim(2) > PaneKernels::FIRST ? hits[py, px, PaneKernels::FIRST].to_i : 0
            pane = 0
            while t < finish && through > LEAST
              while pane < panes && hits[py, px, PaneKernels::FIRST + 1 + PaneKernels::WIDTH * pane] <= t
                through *= PaneKernels.lay(hits, py, px, pane, left, sum)
                pane += 1
              end
              # The next step of a fog that one is in, or how far it is to the next one.
              wide = NONE
              slow = NONE
              ahead = NONE
              foggy = 0
              walked += 1
              jump = (shift + 0.618034 * walked) % 1.0
              veils.times do |n|
                if spans[2 * n + 1] > spans[2 * n] && t < spans[2 * n + 1]
                  if t < spans[2 * n]
                    ahead = [ahead, spans[2 * n] - t + 0.00001].min
                  else
                    foggy = 1
                    step = HazeMarchKernels.pace(haze, n, spans[2 * n], spans[2 * n + 1], t, jump)
                    wide = [wide, step].min if haze.veils[n, 0] > 2.5
                    slow = [slow, step].min if haze.veils[n, 0] < 2.5
                  end
                end
              end
              if foggy > 0
                # What changes slowly is looked at anew where the stretch that it was found for has ended.
                if t >= stays - 0.00001
                  slow = [slow, ahead, 10000.0].min
                  HazeMarchKernels.slow(haze, haze.lamps, Geometry::Ray.new(ox, oy, oz, dx, dy, dz), t, slow, held)
                  stays = t + slow
                end
                near = HazeMarchKernels.nearest(haze.lamps, ox + t * dx, oy + t * dy, oz + t * dz)
                wide = [wide, stays - t, HazeMarchKernels.close(near, jump)].min
              end
              wide = [wide, ahead].min
              x = (ox + t * dx - lattice.x) * per
              y = (oy + t * dy - lattice.y) * per
              z = (oz + t * dz - lattice.z) * per
              smoky = 0
              length = t < begins ? begins - t : NONE
              if t >= begins && t < last
                bi = ((x + 0.5) * 0.25).to_i.clamp(0, volume.busy.dim(2) - 1)
                bj = ((y + 0.5) * 0.25).to_i.clamp(0, volume.busy.dim(1) - 1)
                bk = ((z + 0.5) * 0.25).to_i.clamp(0, volume.busy.dim(0) - 1)
                smoky = 1
                if volume.busy[bk, bj, bi] == 0
                  smoky = 0
                  length = lattice.voxel * (0.02 + [PaceKernels.leaving(x, dx, bi), PaceKernels.leaving(y, dy, bj),
                    PaceKernels.leaving(z, dz, bk)].min)
                end
              end
              if smoky == 0
                length = [length, wide].min
                before = -1.0
              end
              if smoky == 0 && foggy == 0
                t += length
              else
                before = density(volume, moment, x, y, z) if smoky > 0 && before < 0.0
                if smoky > 0
                  # Where there is little, twice as long.
                  length = [glowed == 0 && paint.thickness * longest * before < THIN ? 2.0 * longest : longest,
                    last - t, wide].min
                end
                glowed = 0
                # A step ends at a surface, so that none of the smoke before it is lost or doubled.
                SAMPLES.times do |s|
                  far = hits[py, px, 4 * s] - t
                  length = far > 0.0 && far < length ? far + 0.00001 : length
                end
                if pane < panes
                  far = hits[py, px, PaneKernels::FIRST + 1 + PaneKernels::WIDTH * pane] - t
                  length = far > 0.0 && far < length ? far + 0.00001 : length
                end
                cells = length * per
                after = 0.0
                if smoky > 0
                  halvings = 0
                  thick = PaceKernels.thickest(through)
                  # What the step begins in tells of most halvings without a look at where it ends.
                  while halvings < 5 && paint.thickness * length * before > thick
                    length *= 0.5
                    cells *= 0.5
                    halvings += 1
                  end
                  after = density(volume, moment, x + cells * dx, y + cells * dy, z + cells * dz)
                  while halvings < 5 && paint.thickness * length * [before, after].max > thick
                    length *= 0.5
                    cells *= 0.5
                    after = density(volume, moment, x + cells * dx, y + cells * dy, z + cells * dz)
                    halvings += 1
                  end
                end
                if foggy > 0
                  length = [length, DENSEST / held[0]].min if smoky == 0 && held[0] * length > DENSEST
                  cells = length * per
                  11.times { |c| got[c] = held[c] }
                  HazeMarchKernels.quick(haze, haze.lamps, Geometry::Ray.new(ox, oy, oz, dx, dy, dz), t, length, got)
                end
                m = t + 0.5 * length
                seen = 0.0
                SAMPLES.times { |s| seen += hits[py, px, 4 * s] > m ? 0.25 : 0.0 }
                smoke = smoky > 0 ? paint.thickness * 0.5 * (before + after) * length : 0.0
                depth = foggy > 0 ? smoke + got[0] * length : smoke
                kept = Math.exp(-depth)
                # The part of what a step of length one gives off that comes out of it.
                out = depth > 0.01 ? (1.0 - kept) / depth : 1.0 - 0.5 * depth
                if foggy > 0
                  bright = seen * through * length * out
                  3.times do |c|
                    sum[c] = sum[c] + bright * got[1 + c]
                    fog[c] = fog[c] + bright * got[4 + c]
                  end
                end
                if smoky > 0
                  mx, my, mz = moved(volume, moment, x + 0.5 * cells * dx, y + 0.5 * cells * dy,
                    z + 0.5 * cells * dz)
                  if volume.burns
                    at = (value(volume.glowing, mx, my, mz, volume.smooth) - paint.low) * paint.per
                    # Fire is near, and begins of a sudden.
                    glowed = 1 if at > -NEARLY
                    if at > 0.0
                      bright = seen * through * length * out
                      3.times { |c| sum[c] = sum[c] + bright * Light::ShapingKernels.read(volume.table, c, at) }
                    end
                  end
                  if smoke > 0.00001
                    r, g, b = ScatterKernels.lamplight(volume, paint, lamps, Geometry::Ray.new(ox + m * dx, oy + m * dy,
                      oz + m * dz, dx, dy, dz), Geometry::Ray.new(mx, my, mz, 0.0, 0.0, 0.0),
                      [before, after].max, lattice.voxel, haze)
                    sr, sg, sb = Grid::Sampling.three(volume.soft, mx, my, mz)
                    if volume.tinted
                      tr, tg, tb = Grid::Sampling.three(volume.tint, mx, my, mz)
                      r = tr * (r + sr)
                      g = tg * (g + sg)
                      b = tb * (b + sb)
                    else
                      r += sr
                      g += sg
                      b += sb
                    end
                    gain = seen * through * (foggy > 0 ? smoke * out : 1.0 - kept)
                    sum[0] = sum[0] + gain * r
                    sum[1] = sum[1] + gain * g
                    sum[2] = sum[2] + gain * b
                  end
                end
                if depth > 0.00001
                  SAMPLES.times { |s| left[s] = hits[py, px, 4 * s] > m ? left[s] * kept : left[s] }
                  through *= kept
                end
                t += length
                before = smoky > 0 ? after : -1.0
                t = NONE if seen == 0.0
              end
            end
            while pane < panes
              PaneKernels.lay(hits, py, px, pane, left, sum)
              pane += 1
            end
            alpha = 0.0
            SAMPLES.times do |s|
              if hits[py, px, 4 * s] < NONE && hits[py, px, 4 * s + 1] > -0.5
                3.times { |c| sum[c] = sum[c] + 0.25 * left[s] * hits[py, px, 4 * s + 1 + c] }
                alpha += 0.25
              else
                alpha += 0.25 * (1.0 - left[s])
              end
            end
            3.times { |c| image[py, px, c] = sum[c] }
            image[py, px, 3] = alpha
            if veils > 0
              3.times { |c| hits[py, px, 1 + c] = fog[c] }
            end
          end
        end
      end
    end
  end
end
