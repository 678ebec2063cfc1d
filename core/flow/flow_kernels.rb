# frozen_string_literal: true

module Vumbral
  module Flow
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
        each_cell(b) do |k, j, i|
          b[k, j, i] = u[k, j, i] - u[k, j, i + 1] + v[k, j, i] - v[k, j + 1, i] + w[k, j, i] - w[k + 1, j, i]
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

      # Upward acceleration at cell centres, metres a second squared, from what the gas holds: lift by
      # heat (`lift` times how much lighter it is than the surroundings at `ambient` kelvin, which is never
      # more than all of it), the weight of smoke and of fuel.
      kernel push: F32[3], smoke: F32[3], heat: F32[3], fuel: F32[3], lift: F32, ambient: F32, weight: F32,
        fuel_weight: F32
      def lift(push, smoke, heat, fuel, lift, ambient, weight, fuel_weight)
        each_cell(smoke) do |k, j, i|
          warm = heat[k, j, i]
          lighter = warm / [ambient + warm, 1.0].max
          push[k, j, i] = lift * lighter - weight * smoke[k, j, i] - fuel_weight * fuel[k, j, i]
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

      # What lies as far beyond the projected velocity as the unprojected one lies before it: `before`
      # is overwritten.
      kernel before: F32[3], projected: F32[3]
      def reflect(before, projected)
        each_cell(before) { |k, j, i| before[k, j, i] = 2.0 * projected[k, j, i] - before[k, j, i] }
      end

      # @return the largest value of a field, whatever its sign; not a number where any of it is none,
      #   or has no bound
      kernel a: F32[3], returns: F64
      def peak(a)
        largest = parallel_max(a.dim(0)) { |k| peak_of_layer(a, k) }
        largest
      end

      # @return the largest part of a velocity along any axis, m/s; not a number where any of it is none,
      #   or has no bound
      kernel faces: Flow::Faces, returns: F64
      def fastest(faces)
        largest = parallel_max(faces.w.dim(0)) do |k|
          found = peak_of_layer(faces.w, k)
          if k < faces.u.dim(0)
            found = larger(found, peak_of_layer(faces.u, k))
            found = larger(found, peak_of_layer(faces.v, k))
          end
          found
        end
        largest
      end

      # Column by column, for one value after another each waits for the one before.
      kernel a: F32[3], k: I32, returns: F32
      def peak_of_layer(a, k)
        most = local_f32(64)
        broken = local_f32(64)
        64.times do |column|
          most[column] = 0.0
          broken[column] = 0.0
        end
        a.dim(1).times do |j|
          first = 0
          while first < a.dim(2)
            [64, a.dim(2) - first].min.times do |column|
              amount = a[k, j, first + column].abs
              most[column] = amount > most[column] ? amount : most[column]
              broken[column] += amount - amount
            end
            first += 64
          end
        end
        found = most[0]
        wrong = broken[0]
        (1...64).each do |column|
          found = larger(found, most[column])
          wrong += broken[column]
        end
        found + wrong
      end

      kernel a: F32, b: F32, returns: F32
      def larger(a, b)
        b > a || b != b ? b : a
      end
    end
  end
end
