# frozen_string_literal: true

module Vumbral
  module Picture
    # From rays to a picture of a volume.
    module MarchKernels
      extend Kernel::Library

      NONE = 1e30
      SAMPLES = 4
      BLOCK = 4
      # No step is thicker than this, or light at its middle says too little of it.
      THICKEST = 0.3
      # A step that is thinner than this may be twice as long.
      THIN = 0.01
      # So many entries of the table below where it begins, fire may be a step ahead.
      NEARLY = 120.0
      # What a ray still brings when it is given up.
      LEAST = 0.0005
      # From this optical depth of a voxel on, light is looked at more closely: so many cells of its way.
      DENSE = 0.35
      NEAR = 2.6

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

      # How far a ray goes along an axis until it leaves a block of four cells, in cells of its own length.
      kernel x: F32, d: F32, block: I32, returns: F32
      def leaving(x, d, block)
        edge = BLOCK * block - 0.5 + (d > 0.0 ? BLOCK : 0.0)
        d.abs > 0.000001 ? [(edge - x) / d, 0.0].max : 1000000.0
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

      # Adds a part of a picture to one.
      kernel sum: F32[3], image: F32[3], part: F32
      def add(sum, image, part)
        each_cell(sum) { |y, x, c| sum[y, x, c] += part * image[y, x, c] }
      end

      # How much light goes on in a direction, whose cosine with the light's own is given (Henyey & Greenstein
      # 1941); 1/4π where all directions are alike.
      kernel cosine: F32, g: F32, returns: F32
      def lobe(cosine, g)
        below = 1.0 + g * g - 2.0 * g * cosine
        Light::VolumeKernels::ISOTROPIC * (1.0 - g * g) / (below * Math.sqrt(below))
      end

      # Density times metres before a lamp at a place (cells; the ray's direction leads to the lamp): the next
      # `near` cells by themselves, and what was found beyond them.
      kernel volume: Picture::Filled, n: I32, near: F32, place: Geometry::Ray, voxel: F32, returns: F32
      def before(volume, n, near, place, voxel)
        sum = 0.0
        if near > 0.0
          6.times do |s|
            # Closer steps first.
            at = near * (s + 0.5) * (s + 0.5) * 0.02777778
            x = place.ox + at * place.dx
            y = place.oy + at * place.dy
            z = place.oz + at * place.dz
            sum += (2.0 * s + 1.0) * value(volume.smoke, x, y, z, volume.smooth) if within(volume.smoke, x, y, z)
          end
          sum *= 0.02777778 * near * voxel
        end
        x = place.ox + near * place.dx
        y = place.oy + near * place.dy
        z = place.oz + near * place.dz
        sum += Grid::Sampling.one_of(volume.depths, n, x, y, z) if within(volume.smoke, x, y, z)
        sum
      end

      # Is a place (cells) within a grid?
      kernel field: F32[3], x: F32, y: F32, z: F32, returns: BOOL
      def within(field, x, y, z)
        x > -0.5 && y > -0.5 && z > -0.5 && x < field.dim(2) - 0.5 && y < field.dim(1) - 0.5 && z < field.dim(0) - 0.5
      end

      # Light that has been scattered and still goes nearly the way it went: what comes through if a share `ahead`
      # of it goes on, less what comes straight.
      kernel depth: F32, straight: F32, ahead: F32, returns: F32
      def nearly(depth, straight, ahead)
        ahead > 0.01 ? Math.exp(-(1.0 - ahead) * depth) - straight : 0.0
      end

      # What lamps send through the smoke to the eye at a place: red, green, blue. `place` begins at the cells,
      # the ray says where that is and which way one looks; where `density` is thick, one looks closer.
      kernel volume: Picture::Filled, paint: Picture::Paint, lamps: F32[2], ray: Geometry::Ray, place: Geometry::Ray,
        density: F32, voxel: F32, returns: [F32, F32, F32]
      def lamplight(volume, paint, lamps, ray, place, density, voxel)
        r = 0.0
        g = 0.0
        b = 0.0
        # Where smoke is thick, what stands before a lamp changes much within a voxel.
        near = paint.shadow * voxel * density > DENSE ? NEAR : 0.0
        deep = Grid::Sampling.linear(volume.skin, (place.ox + 0.5) / volume.edge - 0.5,
          (place.oy + 0.5) / volume.edge - 0.5,
          (place.oz + 0.5) / volume.edge - 0.5)
        lamps.dim(0).times do |n|
          lx, ly, lz, _far, gain = Light::LampKernels.towards(lamps, n, ray.ox, ray.oy, ray.oz)
          share = 1.0
          wider = 1.0
          if paint.forward != 0.0 || paint.back_share > 0.0
            cosine = (lx * ray.dx + ly * ray.dy + lz * ray.dz).clamp(-1.0, 1.0)
            share = 12.5663706 * ((1.0 - paint.back_share) * lobe(cosine, paint.forward) +
              paint.back_share * lobe(cosine, paint.back))
            wider = 12.5663706 * ((1.0 - paint.back_share) * lobe(cosine, paint.forward * paint.forward) +
              paint.back_share * lobe(cosine, paint.back * paint.back))
          end
          depth = 0.0
          if lamps[n, 7] > 0.5
            depth = paint.shadow * before(volume, n, near, Geometry::Ray.new(place.ox, place.oy, place.oz, lx, ly,
              lz), voxel)
          end
          near_by = gain * Light::VolumeKernels::ISOTROPIC
          if volume.shaded && lamps[n, 7] > 0.5 && within(volume.smoke, place.ox, place.oy, place.oz)
            near_by *= Grid::Sampling.one_of(volume.open, n, place.ox, place.oy, place.oz)
          end
          straight = Math.exp(-depth)
          r += near_by * lamps[n, 4] * (share * straight + wider * nearly(depth, straight, paint.ahead * paint.red))
          g += near_by * lamps[n, 5] * (share * straight + wider * nearly(depth, straight, paint.ahead * paint.green))
          b += near_by * lamps[n, 6] * (share * straight + wider * nearly(depth, straight, paint.ahead * paint.blue))
          if deep > 0.02
            skin = deep * near_by
            r += skin * lamps[n, 4] * Light::VolumeKernels.skin(paint.thinner * depth, paint.soft_red)
            g += skin * lamps[n, 5] * Light::VolumeKernels.skin(paint.thinner * depth, paint.soft_green)
            b += skin * lamps[n, 6] * Light::VolumeKernels.skin(paint.thinner * depth, paint.soft_blue)
          end
        end
        return r * paint.red, g * paint.green, b * paint.blue
      end

      # Marches each pixel's ray through a volume and lays what is left of the surfaces behind it: `image` f32
      # [h, w, 4], red, green, blue and alpha over nothing. `hits` are surfaces ({SurfaceKernels}), `view` the
      # camera ({Camera#view}), `table` what glows ({Light::Fire#table}). What a step gives off is seen through its own smoke, in
      # closed form; steps are shorter where smoke is thick.
      kernel image: F32[3], hits: F32[3], view: F32[1], volume: Picture::Filled, paint: Picture::Paint, lamps: F32[2],
        table: F32[2], lattice: Grid::Lattice
      def march(image, hits, view, volume, paint, lamps, table, lattice)
        parallel(image.dim(0), uneven: true) do |py|
          per = 1.0 / lattice.voxel
          longest = volume.pace * lattice.voxel
          image.dim(1).times do |px|
            dx, dy, dz = SurfaceKernels.direction(view, px + 0.5, py + 0.5)
            first, last = Light::VolumeKernels.crossing(volume.smoke, lattice, Geometry::Ray.new(view[0], view[1],
              view[2], dx, dy, dz))
            # How much of each of the four surfaces' light comes through the smoke before it.
            left = local_f32(4)
            SAMPLES.times { |s| left[s] = 1.0 }
            sum = local_f32(3)
            3.times { |c| sum[c] = 0.0 }
            through = 1.0
            t = first + longest * ((offset(px, py) + view[14]) % 1.0)
            before = -1.0
            glowed = 0
            while t < last && through > LEAST
              x = (view[0] + t * dx - lattice.x) * per
              y = (view[1] + t * dy - lattice.y) * per
              z = (view[2] + t * dz - lattice.z) * per
              bi = ((x + 0.5) * 0.25).to_i.clamp(0, volume.busy.dim(2) - 1)
              bj = ((y + 0.5) * 0.25).to_i.clamp(0, volume.busy.dim(1) - 1)
              bk = ((z + 0.5) * 0.25).to_i.clamp(0, volume.busy.dim(0) - 1)
              if volume.busy[bk, bj, bi] == 0
                t += lattice.voxel * (0.02 + [leaving(x, dx, bi), leaving(y, dy, bj), leaving(z, dz, bk)].min)
                before = -1.0
              else
                before = density(volume, paint.moment, x, y, z) if before < 0.0
                # Where there is little, twice as long.
                length = [glowed == 0 && paint.thickness * longest * before < THIN ? 2.0 * longest : longest,
                  last - t].min
                glowed = 0
                # A step ends at a surface, so that none of the smoke before it is lost or doubled.
                SAMPLES.times do |s|
                  far = hits[py, px, 4 * s] - t
                  length = far > 0.0 && far < length ? far + 0.00001 : length
                end
                cells = length * per
                after = density(volume, paint.moment, x + cells * dx, y + cells * dy, z + cells * dz)
                halvings = 0
                while halvings < 5 && paint.thickness * length * [before, after].max > THICKEST
                  length *= 0.5
                  cells *= 0.5
                  after = density(volume, paint.moment, x + cells * dx, y + cells * dy, z + cells * dz)
                  halvings += 1
                end
                m = t + 0.5 * length
                seen = 0.0
                SAMPLES.times { |s| seen += hits[py, px, 4 * s] > m ? 0.25 : 0.0 }
                depth = paint.thickness * 0.5 * (before + after) * length
                kept = Math.exp(-depth)
                # The part of what a step of length one gives off that comes out of it.
                out = depth > 0.01 ? (1.0 - kept) / depth : 1.0 - 0.5 * depth
                mx, my, mz = moved(volume, paint.moment, x + 0.5 * cells * dx, y + 0.5 * cells * dy,
                  z + 0.5 * cells * dz)
                if volume.burns
                  at = (value(volume.glowing, mx, my, mz, volume.smooth) - paint.low) * paint.per
                  # Fire is near, and begins of a sudden.
                  glowed = 1 if at > -NEARLY
                  if at > 0.0
                    bright = seen * through * length * out
                    3.times { |c| sum[c] = sum[c] + bright * Light::ShapingKernels.read(table, c, at) }
                  end
                end
                if depth > 0.00001
                  r, g, b = lamplight(volume, paint, lamps, Geometry::Ray.new(view[0] + m * dx, view[1] + m * dy,
                    view[2] + m * dz, dx, dy, dz), Geometry::Ray.new(mx, my, mz, 0.0, 0.0, 0.0),
                    [before, after].max, lattice.voxel)
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
                  gain = seen * through * (1.0 - kept)
                  sum[0] = sum[0] + gain * r
                  sum[1] = sum[1] + gain * g
                  sum[2] = sum[2] + gain * b
                  SAMPLES.times { |s| left[s] = hits[py, px, 4 * s] > m ? left[s] * kept : left[s] }
                  through *= kept
                end
                t += length
                before = after
                t = last if seen == 0.0
              end
            end
            alpha = 0.0
            SAMPLES.times do |s|
              if hits[py, px, 4 * s] < NONE
                3.times { |c| sum[c] = sum[c] + 0.25 * left[s] * hits[py, px, 4 * s + 1 + c] }
                alpha += 0.25
              else
                alpha += 0.25 * (1.0 - left[s])
              end
            end
            3.times { |c| image[py, px, c] = sum[c] }
            image[py, px, 3] = alpha
          end
        end
      end
    end
  end
end
