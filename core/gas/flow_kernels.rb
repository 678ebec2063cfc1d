# frozen_string_literal: true

module Vumbral
  module Gas
    # Loops on the velocity itself: walls, divergence, pressure, curl, forces.
    module FlowKernels
      extend Kernel::Library

      # No flow through closed sides. `open` holds x0 x1 y0 y1 z0 z1, 0 for a closed side.
      kernel u: F32[3], v: F32[3], w: F32[3], open: F32[1]
      def close_walls(u, v, w, open)
        nz = u.dim(0)
        ny = u.dim(1)
        nx = v.dim(2)
        parallel(nz) do |k|
          ny.times do |j|
            u[k, j, 0] = open[0] > 0.0 ? u[k, j, 0] : 0.0
            u[k, j, nx] = open[1] > 0.0 ? u[k, j, nx] : 0.0
          end
          nx.times do |i|
            v[k, 0, i] = open[2] > 0.0 ? v[k, 0, i] : 0.0
            v[k, ny, i] = open[3] > 0.0 ? v[k, ny, i] : 0.0
          end
        end
        parallel(ny) do |j|
          nx.times do |i|
            w[0, j, i] = open[4] > 0.0 ? w[0, j, i] : 0.0
            w[nz, j, i] = open[5] > 0.0 ? w[nz, j, i] : 0.0
          end
        end
      end

      # Faces that touch a solid stand still.
      kernel u: F32[3], v: F32[3], w: F32[3], solid: U8[3]
      def stop_at_solids(u, v, w, solid)
        nz = u.dim(0)
        ny = u.dim(1)
        nx = v.dim(2)
        parallel(nz) do |k|
          ny.times do |j|
            nx.times do |i|
              if solid[k, j, i] != 0
                u[k, j, i] = 0.0
                u[k, j, i + 1] = 0.0
                v[k, j, i] = 0.0
                v[k, j + 1, i] = 0.0
              end
              # Each row writes its own planes of w only.
              below = k > 0 ? solid[k - 1, j, i] : 0
              w[k, j, i] = (solid[k, j, i] != 0 || below != 0) ? 0.0 : w[k, j, i]
            end
          end
        end
        parallel(ny) do |j|
          nx.times { |i| w[nz, j, i] = solid[nz - 1, j, i] != 0 ? 0.0 : w[nz, j, i] }
        end
      end

      # Faces that touch a solid move as it does; `su, sv, sw` hold its velocity there.
      kernel u: F32[3], v: F32[3], w: F32[3], solid: U8[3], su: F32[3], sv: F32[3], sw: F32[3]
      def move_at_solids(u, v, w, solid, su, sv, sw)
        nz = u.dim(0)
        ny = u.dim(1)
        nx = v.dim(2)
        parallel(nz) do |k|
          ny.times do |j|
            nx.times do |i|
              if solid[k, j, i] != 0
                u[k, j, i] = su[k, j, i]
                u[k, j, i + 1] = su[k, j, i + 1]
                v[k, j, i] = sv[k, j, i]
                v[k, j + 1, i] = sv[k, j + 1, i]
              end
              below = k > 0 ? solid[k - 1, j, i] : 0
              w[k, j, i] = (solid[k, j, i] != 0 || below != 0) ? sw[k, j, i] : w[k, j, i]
            end
          end
        end
        parallel(ny) do |j|
          nx.times { |i| w[nz, j, i] = solid[nz - 1, j, i] != 0 ? sw[nz, j, i] : w[nz, j, i] }
        end
      end

      # What flows into each cell, in metres a second: minus divergence times the cell's size.
      kernel b: F32[3], u: F32[3], v: F32[3], w: F32[3]
      def inflow(b, u, v, w)
        parallel(b.dim(0)) do |k|
          b.dim(1).times do |j|
            b.dim(2).times do |i|
              b[k, j, i] = u[k, j, i] - u[k, j, i + 1] + v[k, j, i] - v[k, j + 1, i] + w[k, j, i] - w[k + 1, j, i]
            end
          end
        end
      end

      # Takes the pressure's gradient off the velocity. `open` as in {PoissonKernels#apply}.
      kernel u: F32[3], v: F32[3], w: F32[3], p: F32[3], open: F32[1]
      def press(u, v, w, p, open)
        nz = p.dim(0)
        ny = p.dim(1)
        nx = p.dim(2)
        parallel(nz) do |k|
          ny.times do |j|
            (1...nx).each { |i| u[k, j, i] -= p[k, j, i] - p[k, j, i - 1] }
            u[k, j, 0] -= open[0] * p[k, j, 0]
            u[k, j, nx] += open[1] * p[k, j, nx - 1]
          end
          (1...ny).each do |j|
            nx.times { |i| v[k, j, i] -= p[k, j, i] - p[k, j - 1, i] }
          end
          nx.times do |i|
            v[k, 0, i] -= open[2] * p[k, 0, i]
            v[k, ny, i] += open[3] * p[k, ny - 1, i]
          end
          if k > 0
            ny.times { |j| nx.times { |i| w[k, j, i] -= p[k, j, i] - p[k - 1, j, i] } }
          end
        end
        parallel(ny) do |j|
          nx.times do |i|
            w[0, j, i] -= open[4] * p[0, j, i]
            w[nz, j, i] += open[5] * p[nz - 1, j, i]
          end
        end
      end

      # Curl of the velocity at cell centres times the cell's size (m/s), and its length.
      # Zero on the outermost cells.
      kernel cx: F32[3], cy: F32[3], cz: F32[3], length: F32[3], u: F32[3], v: F32[3], w: F32[3]
      def curl(cx, cy, cz, length, u, v, w)
        nz = cx.dim(0)
        ny = cx.dim(1)
        nx = cx.dim(2)
        parallel(nz) do |k|
          ny.times do |j|
            inner = k > 0 && k < nz - 1 && j > 0 && j < ny - 1
            nx.times do |i|
              cx[k, j, i] = 0.0
              cy[k, j, i] = 0.0
              cz[k, j, i] = 0.0
              length[k, j, i] = 0.0
            end
            if inner
              (1...(nx - 1)).each do |i|
                a = 0.25 * ((w[k, j + 1, i] + w[k + 1, j + 1, i]) - (w[k, j - 1, i] + w[k + 1, j - 1, i]) -
                  (v[k + 1, j, i] + v[k + 1, j + 1, i]) + (v[k - 1, j, i] + v[k - 1, j + 1, i]))
                b = 0.25 * ((u[k + 1, j, i] + u[k + 1, j, i + 1]) - (u[k - 1, j, i] + u[k - 1, j, i + 1]) -
                  (w[k, j, i + 1] + w[k + 1, j, i + 1]) + (w[k, j, i - 1] + w[k + 1, j, i - 1]))
                c = 0.25 * ((v[k, j, i + 1] + v[k, j + 1, i + 1]) - (v[k, j, i - 1] + v[k, j + 1, i - 1]) -
                  (u[k, j + 1, i] + u[k, j + 1, i + 1]) + (u[k, j - 1, i] + u[k, j - 1, i + 1]))
                cx[k, j, i] = a
                cy[k, j, i] = b
                cz[k, j, i] = c
                length[k, j, i] = Math.sqrt(a * a + b * b + c * c)
              end
            end
          end
        end
      end

      # Acceleration at cell centres, metres a second squared: lift from heat, weight of smoke,
      # and curl boost (vorticity confinement, Fedkiw, Stam & Jensen 2001; `boost` per second), where
      # the mask says so: `everywhere`, or by smoke, heat or the curl itself (see {Turbulence::MASKS}).
      kernel ax: F32[3], ay: F32[3], az: F32[3], smoke: F32[3], heat: F32[3], cx: F32[3], cy: F32[3], cz: F32[3],
        length: F32[3], lift: F32, weight: F32, boost: F32, everywhere: F32, by_smoke: F32, by_heat: F32, by_speed: F32
      def accelerate(ax, ay, az, smoke, heat, cx, cy, cz, length, lift, weight, boost, everywhere, by_smoke, by_heat,
        by_speed)
        nz = smoke.dim(0)
        ny = smoke.dim(1)
        nx = smoke.dim(2)
        parallel(nz) do |k|
          below = [k - 1, 0].max
          above = [k + 1, nz - 1].min
          ny.times do |j|
            under = [j - 1, 0].max
            over = [j + 1, ny - 1].min
            (1...(nx - 1)).each do |i|
              gx = length[k, j, i + 1] - length[k, j, i - 1]
              gy = length[k, over, i] - length[k, under, i]
              gz = length[above, j, i] - length[below, j, i]
              share = everywhere + by_smoke * smoke[k, j, i] + by_heat * heat[k, j, i].abs + by_speed * length[k, j, i]
              scale = boost * share.clamp(0.0, 1.0) / (Math.sqrt(gx * gx + gy * gy + gz * gz) + 1e-6)
              ax[k, j, i] = scale * (gy * cz[k, j, i] - gz * cy[k, j, i])
              ay[k, j, i] =
                scale * (gz * cx[k, j, i] - gx * cz[k, j, i]) + lift * heat[k, j, i] - weight * smoke[k, j, i]
              az[k, j, i] = scale * (gx * cy[k, j, i] - gy * cx[k, j, i])
            end
            # No curl is known at the ends of a row.
            ax[k, j, 0] = 0.0
            ay[k, j, 0] = lift * heat[k, j, 0] - weight * smoke[k, j, 0]
            az[k, j, 0] = 0.0
            ax[k, j, nx - 1] = 0.0
            ay[k, j, nx - 1] = lift * heat[k, j, nx - 1] - weight * smoke[k, j, nx - 1]
            az[k, j, nx - 1] = 0.0
          end
        end
      end

      # Adds an acceleration at centres to the faces between them.
      kernel u: F32[3], v: F32[3], w: F32[3], ax: F32[3], ay: F32[3], az: F32[3], dt: F32
      def push(u, v, w, ax, ay, az, dt)
        half = 0.5 * dt
        nx = ax.dim(2)
        ny = ax.dim(1)
        parallel(ax.dim(0)) do |k|
          ny.times do |j|
            (1...nx).each { |i| u[k, j, i] += half * (ax[k, j, i] + ax[k, j, i - 1]) }
            u[k, j, 0] += dt * ax[k, j, 0]
            u[k, j, nx] += dt * ax[k, j, nx - 1]
          end
          (1...ny).each do |j|
            nx.times { |i| v[k, j, i] += half * (ay[k, j, i] + ay[k, j - 1, i]) }
          end
          nx.times do |i|
            v[k, 0, i] += dt * ay[k, 0, i]
            v[k, ny, i] += dt * ay[k, ny - 1, i]
          end
          below = [k - 1, 0].max
          ny.times { |j| nx.times { |i| w[k, j, i] += half * (az[k, j, i] + az[below, j, i]) } }
        end
        nz = ax.dim(0)
        parallel(ny) do |j|
          nx.times { |i| w[nz, j, i] += dt * az[nz - 1, j, i] }
        end
      end

      # The largest part of the velocity along any axis, metres a second; not a number where any
      # of it is none.
      kernel a: F32[3], returns: F64
      def peak(a)
        largest = parallel_max(a.dim(0)) do |k|
          found = 0.0
          a.dim(1).times do |j|
            a.dim(2).times do |i|
              amount = a[k, j, i].abs
              found = amount > found || amount != amount ? amount : found
            end
          end
          found
        end
        largest
      end
    end
  end
end
