# frozen_string_literal: true

module Vumbral
  module Liquid
    # Loops of surface tension: how strongly a surface is curved, by how full cells are.
    module TensionKernels
      extend Kernel::Library

      # How full cells are, held between none and all.
      kernel out: F32[3], full: F32[3]
      def held(out, full)
        each_cell(out) { |k, j, i| out[k, j, i] = full[k, j, i].clamp(0.0, 1.0) }
      end

      # Softened along one axis (0 x, 1 y, 2 z), a quarter from each side; past the edge as at it.
      kernel out: F32[3], full: F32[3], axis: I32
      def soften(out, full, axis)
        nz = full.dim(0)
        ny = full.dim(1)
        nx = full.dim(2)
        each_cell(out) do |k, j, i|
          z = axis == 2 ? 1 : 0
          y = axis == 1 ? 1 : 0
          x = axis == 0 ? 1 : 0
          out[k, j, i] = 0.5 * full[k, j, i] + 0.25 * (full[[k - z, 0].max, [j - y, 0].max, [i - x, 0].max] + full[[k + z, nz - 1].min, [j + y, ny - 1].min, [i + x, nx - 1].min])
        end
      end

      # Where it will be a little later: carried along by the speed at cells' centres, half a cell at most.
      # @param cells how far a speed of 1 m/s leads, cells
      kernel out: F32[3], full: F32[3], faces: Flow::Faces, cells: F32
      def ahead(out, full, faces, cells)
        nz = full.dim(0)
        ny = full.dim(1)
        nx = full.dim(2)
        each_cell(out) do |k, j, i|
          u = (0.5 * cells * (faces.u[k, j, i] + faces.u[k, j, i + 1])).clamp(-0.5, 0.5)
          v = (0.5 * cells * (faces.v[k, j, i] + faces.v[k, j + 1, i])).clamp(-0.5, 0.5)
          w = (0.5 * cells * (faces.w[k, j, i] + faces.w[k + 1, j, i])).clamp(-0.5, 0.5)
          x = full[k, j, [i + 1, nx - 1].min] - full[k, j, [i - 1, 0].max]
          y = full[k, [j + 1, ny - 1].min, i] - full[k, [j - 1, 0].max, i]
          z = full[[k + 1, nz - 1].min, j, i] - full[[k - 1, 0].max, j, i]
          out[k, j, i] = full[k, j, i] - 0.5 * (u * x + v * y + w * z)
        end
      end

      # How much the surface is curved at cells near it, one over cells, outwards positive, times a factor: by the first
      # and second differences of how full they are (Goldman 2005). Nothing where there is no surface near.
      # @param most the most it is taken for, one over cells
      kernel out: F32[3], full: F32[3], most: F32, factor: F32
      def curve(out, full, most, factor)
        nz = full.dim(0)
        ny = full.dim(1)
        nx = full.dim(2)
        each_cell(out) do |k, j, i|
          value = 0.0
          if k > 0 && j > 0 && i > 0 && k < nz - 1 && j < ny - 1 && i < nx - 1
            x = 0.5 * (full[k, j, i + 1] - full[k, j, i - 1])
            y = 0.5 * (full[k, j + 1, i] - full[k, j - 1, i])
            z = 0.5 * (full[k + 1, j, i] - full[k - 1, j, i])
            steep = x * x + y * y + z * z
            if steep > 4e-4
              here = 2.0 * full[k, j, i]
              xx = full[k, j, i + 1] + full[k, j, i - 1] - here
              yy = full[k, j + 1, i] + full[k, j - 1, i] - here
              zz = full[k + 1, j, i] + full[k - 1, j, i] - here
              xy =
                0.25 * (full[k, j + 1, i + 1] - full[k, j + 1, i - 1] - full[k, j - 1, i + 1] + full[k, j - 1, i - 1])
              xz =
                0.25 * (full[k + 1, j, i + 1] - full[k + 1, j, i - 1] - full[k - 1, j, i + 1] + full[k - 1, j, i - 1])
              yz =
                0.25 * (full[k + 1, j + 1, i] - full[k + 1, j - 1, i] - full[k - 1, j + 1, i] + full[k - 1, j - 1, i])
              turned =
                x * x * (yy + zz) + y * y * (xx + zz) + z * z * (xx + yy) - 2.0 * (x * y * xy + x * z * xz + y * z * yz)
              value = factor * (-turned / (steep * Math.sqrt(steep))).clamp(-most, most)
            end
          end
          out[k, j, i] = value
        end
      end
    end
  end
end
