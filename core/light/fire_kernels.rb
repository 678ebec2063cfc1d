# frozen_string_literal: true

module Vumbral
  module Light
    # Fire: light that hot gas gives off.
    module FireKernels
      extend Kernel::Library

      # A lamp that would add less than this share is left out.
      FAINT = 0.002

      # Light given off in each voxel, per metre: `rgb` f32 [3, z, y, x], as the table says of a field from
      # `low` on, `per` entries a unit ({Fire#table}).
      kernel rgb: F32[4], field: F32[3], table: F32[2], low: F32, per: F32
      def emit(rgb, field, table, low, per)
        parallel(field.dim(0), uneven: true) do |k|
          field.dim(1).times do |j|
            field.dim(2).times do |i|
              at = (field[k, j, i] - low) * per
              3.times { |c| rgb[c, k, j, i] = ShapingKernels.read(table, c, at) } if at > 0.0
            end
          end
        end
      end

      # The fire gathered into blocks of `edge` voxels: light `blocks` f32 [n, 7]: red, green, blue
      # (times volume in voxels) and the middle of it (voxels, weighted), for each block in turn.
      kernel blocks: F32[2], rgb: F32[4], edge: I32, by: I32, bx: I32
      def gather(blocks, rgb, edge, by, bx)
        parallel(blocks.dim(0), uneven: true) do |n|
          bk = n / (by * bx)
          bj = n / bx % by
          bi = n % bx
          red = 0.0
          green = 0.0
          blue = 0.0
          x = 0.0
          y = 0.0
          z = 0.0
          (bk * edge...[bk * edge + edge, rgb.dim(1)].min).each do |k|
            (bj * edge...[bj * edge + edge, rgb.dim(2)].min).each do |j|
              (bi * edge...[bi * edge + edge, rgb.dim(3)].min).each do |i|
                r = rgb[0, k, j, i]
                g = rgb[1, k, j, i]
                b = rgb[2, k, j, i]
                sum = r + g + b
                red += r
                green += g
                blue += b
                x += sum * i
                y += sum * j
                z += sum * k
              end
            end
          end
          total = [red + green + blue, 1e-12].max
          blocks[n, 0] = red
          blocks[n, 1] = green
          blocks[n, 2] = blue
          blocks[n, 3] = x / total
          blocks[n, 4] = y / total
          blocks[n, 5] = z / total
          blocks[n, 6] = red + green + blue
        end
      end

      # Whether a voxel that lies between this coarse cell and the next ones wants light.
      kernel near: U8[3], k: I32, j: I32, i: I32, edge: I32, returns: BOOL
      def wanted(near, k, j, i, edge)
        found = false
        ([(k - 1) * edge + 1, 0].max...[(k + 2) * edge - 1, near.dim(0)].min).each do |nk|
          ([(j - 1) * edge + 1, 0].max...[(j + 2) * edge - 1, near.dim(1)].min).each do |nj|
            ([(i - 1) * edge + 1, 0].max...[(i + 2) * edge - 1, near.dim(2)].min).each do |ni|
              found = true if near[nk, nj, ni] > 0
            end
          end
        end
        found
      end

      # How much of a lamp comes to a place, if nothing stands between; the nearest is held within its radius.
      kernel lamps: F32[2], n: I32, x: F32, y: F32, z: F32, returns: F32
      def reach(lamps, n, x, y, z)
        dx = lamps[n, 1] - x
        dy = lamps[n, 2] - y
        dz = lamps[n, 3] - z
        VolumeKernels::ISOTROPIC / [dx * dx + dy * dy + dz * dz, lamps[n, 7] * lamps[n, 7]].max
      end

      # Lights the smoke around by the lamps that stand for the fire, on a grid of its own, coarser
      # by `edge`: `rgb` f32 [3, z, y, x]. Lamps are rows as in {VolumeKernels}, with a radius in
      # column 7; the nearest light of a lamp is held within it. `near` marks where voxels want light: what is of use
      # to none stays dark. The smoke may lie on a coarser lattice, `thin`, than where light is asked for.
      kernel rgb: F32[4], smoke: F32[3], near: U8[3], lamps: F32[2], edge: I32, thickness: F32, lattice: Grid::Lattice,
        thin: Grid::Lattice
      def glow(rgb, smoke, near, lamps, edge, thickness, lattice, thin)
        parallel(rgb.dim(1), uneven: true) do |k|
          z = lattice.z + ((k + 0.5) * edge - 0.5) * lattice.voxel
          rgb.dim(2).times do |j|
            y = lattice.y + ((j + 0.5) * edge - 0.5) * lattice.voxel
            rgb.dim(3).times do |i|
              x = lattice.x + ((i + 0.5) * edge - 0.5) * lattice.voxel
              r = 0.0
              g = 0.0
              b = 0.0
              count = wanted(near, k, j, i, edge) ? lamps.dim(0) : 0
              # The one that would send most comes first, so that of the others little has to be followed.
              best = 0
              most = -1.0
              count.times do |n|
                sent = reach(lamps, n, x, y, z) * (lamps[n, 4] + lamps[n, 5] + lamps[n, 6])
                best = n if sent > most
                most = [most, sent].max
              end
              count.times do |m|
                n = m == 0 ? best : (m <= best ? m - 1 : m)
                gain = reach(lamps, n, x, y, z)
                # What adds next to nothing is not looked for, or no farther than it does.
                least = FAINT * (r + g + b) + 1e-12
                sent = gain * (lamps[n, 4] + lamps[n, 5] + lamps[n, 6])
                if sent > least
                  dx = lamps[n, 1] - x
                  dy = lamps[n, 2] - y
                  dz = lamps[n, 3] - z
                  far = Math.sqrt(dx * dx + dy * dy + dz * dz) + 1e-6
                  gain *= Math.exp(-thickness * VolumeKernels.strides(smoke, thin,
                    Geometry::Ray.new(x, y, z, dx / far, dy / far, dz / far), far, 2.0,
                    [VolumeKernels::BLACK, Math.log(sent / least)].min / thickness))
                  r += gain * lamps[n, 4]
                  g += gain * lamps[n, 5]
                  b += gain * lamps[n, 6]
                end
              end
              rgb[0, k, j, i] = r
              rgb[1, k, j, i] = g
              rgb[2, k, j, i] = b
            end
          end
        end
      end

      # How old smoke is, below 0 where there is none, with a soft edge between.
      kernel out: F32[3], age: F32[3], smoke: F32[3]
      def held_age(out, age, smoke)
        each_cell(out) do |k, j, i|
          share = (smoke[k, j, i] / 0.02).clamp(0.0, 1.0)
          out[k, j, i] = share * (age[k, j, i] + 1.0) - 1.0
        end
      end

      # The smoke's own colour: red, green, blue (smoke times colour) over smoke.
      kernel tint: F32[4], smoke: F32[3], red: F32[3], green: F32[3], blue: F32[3]
      def tint(tint, smoke, red, green, blue)
        each_cell(smoke) do |k, j, i|
          per = 1.0 / [smoke[k, j, i], 0.0005].max
          tint[0, k, j, i] = (red[k, j, i] * per).clamp(0.0, 1.0)
          tint[1, k, j, i] = (green[k, j, i] * per).clamp(0.0, 1.0)
          tint[2, k, j, i] = (blue[k, j, i] * per).clamp(0.0, 1.0)
        end
      end

      # Gives light the smoke's own colour.
      kernel rgb: F32[4], tint: F32[4], smoke: F32[3]
      def dye(rgb, tint, smoke)
        each_cell(smoke) { |k, j, i| 3.times { |c| rgb[c, k, j, i] *= tint[c, k, j, i] } }
      end
    end
  end
end
