# frozen_string_literal: true

module Vumbral
  module Liquid
    # Loops of {Waves}.
    module WaveKernels
      extend Kernel::Library

      # Draws the speed at cells' centres to waves or to rest in zones before the sides.
      # @param sides [12] what each of x0 x1 z0 z1 does, how wide its zone is, how strongly it holds
      # @param swell [5] height above the line, radians a metre, radians a second, radians gone, depth
      kernel push: Grid::VectorField, faces: Flow::Faces, sides: F32[1], swell: F32[1], voxel: F32, dt: F32
      def draw(push, faces, sides, swell, voxel, dt)
        nz = push.x.dim(0)
        ny = push.x.dim(1)
        nx = push.x.dim(2)
        parallel(nz) do |k|
          nx.times do |i|
            4.times do |side|
              what = sides[3 * side]
              far = voxel * (side == 0 ? i + 0.5 : side == 1 ? nx - i - 0.5 : side == 2 ? k + 0.5 : nz - k - 0.5)
              near = 1.0 - far / sides[3 * side + 1]
              if what > 0.5 && near > 0.0
                held = 1.0 - Math.exp(-sides[3 * side + 2] * dt * near * near)
                ny.times do |j|
                  along = 0.0
                  up = 0.0
                  if what > 1.5
                    y = [voxel * (j + 0.5) - swell[4], swell[0]].min
                    both = Math.exp(swell[1] * y)
                    back = Math.exp(-swell[1] * (y + 2.0 * swell[4]))
                    deep = swell[0] * swell[2] / (1.0 - Math.exp(-2.0 * swell[1] * swell[4]))
                    phase = swell[1] * far - swell[3]
                    along = deep * (both + back) * Math.cos(phase)
                    up = deep * (both - back) * Math.sin(phase)
                  end
                  inwards = side % 2 == 0 ? along : -along
                  u = 0.5 * (faces.u[k, j, i] + faces.u[k, j, i + 1])
                  v = 0.5 * (faces.v[k, j, i] + faces.v[k, j + 1, i])
                  w = 0.5 * (faces.w[k, j, i] + faces.w[k + 1, j, i])
                  push.x[k, j, i] += held / dt * ((side < 2 ? inwards : 0.0) - u)
                  push.y[k, j, i] += held / dt * (up - v)
                  push.z[k, j, i] += held / dt * ((side < 2 ? 0.0 : inwards) - w)
                end
              end
            end
          end
        end
      end
    end
  end
end
