# frozen_string_literal: true

module Vumbral
  module Flow
    # Loops on what the gas carries: feeding, fading, sums.
    module MatterKernels
      extend Kernel::Library

      # Where there is more than `least`: the first and the last cell along z, y and x; a first after the last where
      # there is nowhere.
      kernel out: I32[1], field: F32[3], least: F32
      def extent(out, field, least)
        out[0] = field.dim(0)
        out[2] = field.dim(1)
        out[4] = field.dim(2)
        3.times { |a| out[2 * a + 1] = -1 }
        field.dim(0).times do |k|
          field.dim(1).times do |j|
            field.dim(2).times do |i|
              if field[k, j, i] > least
                out[0] = [out[0], k].min
                out[1] = k
                out[2] = [out[2], j].min
                out[3] = [out[3], j].max
                out[4] = [out[4], i].min
                out[5] = [out[5], i].max
              end
            end
          end
        end
      end

      # A source's coverage (0 to 1 for each cell) thinned by drifting noise. `scale` is cells a
      # feature, `time` counts features; `amount` 0 leaves it whole, 1 thins it to nothing in places.
      # `place` holds seed, octaves, and which cell of the chamber the first one is (z, y, x).
      kernel dst: F32[3], cover: F32[3], amount: F32, scale: F32, time: F32, place: I32[1]
      def thin(dst, cover, amount, scale, time, place)
        parallel(dst.dim(0), uneven: true) do |k|
          places = local_f32(48)
          noise = local_f32(32)
          period = local_i32(4)
          4.times { |axis| period[axis] = 0 }
          dst.dim(1).times do |j|
            first = 0
            while first < dst.dim(2)
              count = [16, dst.dim(2) - first].min
              most = 0.0
              count.times { |n| most = [most, cover[k, j, first + n]].max }
              if most > 0.0
                16.times do |n|
                  places[n] = (place[4] + first + n + 0.5) / scale
                  places[16 + n] = (place[3] + j + 0.5) / scale
                  places[32 + n] = (place[2] + k + 0.5) / scale
                  noise[16 + n] = 0.0
                end
                fine = 1.0
                place[1].times do |octave|
                  Grid::Noise.row(noise, places, fine, fine * time, place[0] + octave, period, 0)
                  16.times { |n| noise[16 + n] += noise[n] / fine }
                  fine *= 2.0
                end
              end
              count.times do |n|
                value = cover[k, j, first + n]
                value *= (1.0 - amount * (0.5 - 0.9 * noise[16 + n])).clamp(0.0, 2.0) if value > 0.0
                dst[k, j, first + n] = value
              end
              first += 16
            end
          end
        end
      end

      # Adds matter at a rate: `amount` is rate times seconds.
      kernel field: F32[3], cover: F32[3], amount: F32
      def add(field, cover, amount)
        each_cell(field) { |k, j, i| field[k, j, i] += amount * cover[k, j, i] }
      end

      # How far a source draws a place in a step: twice in half of the step comes to the same. `pull` is a rate times
      # seconds.
      kernel cover: F32, pull: F32, returns: F32
      def drawn(cover, pull)
        cover > 0.0 ? 1.0 - Math.exp(-pull * cover) : 0.0
      end

      # Draws a field towards a value where the source covers it.
      kernel field: F32[3], cover: F32[3], value: F32, pull: F32
      def hold(field, cover, value, pull)
        each_cell(field) do |k, j, i|
          field[k, j, i] += drawn(cover[k, j, i], pull) * (value - field[k, j, i])
        end
      end

      # Adds `gain` times one field to another, and holds the sum to `most`.
      kernel dst: F32[3], src: F32[3], gain: F32, most: F32
      def add_held(dst, src, gain, most)
        each_cell(dst) do |k, j, i|
          sum = dst[k, j, i] + gain * src[k, j, i]
          dst[k, j, i] = sum > most ? most : sum
        end
      end

      # Takes matter away by a share that a weight gives (0 to 1).
      kernel field: F32[3], weight: F32[3], share: F32
      def wipe(field, weight, share)
        parallel(field.dim(0)) do |k|
          field.dim(1).times { |j|
            field.dim(2).times { |i|
              field[k, j, i] *= 1.0 - (share * weight[k, j, i]).clamp(0.0, 1.0)
            }
          }
        end
      end

      # Draws face velocities towards a wanted velocity at centres, where a source covers them.
      kernel faces: Flow::Faces, cover: F32[3], wanted: Grid::VectorField, pull: F32, add: F32
      def drive(faces, cover, wanted, pull, add)
        nz = cover.dim(0)
        ny = cover.dim(1)
        nx = cover.dim(2)
        parallel(nz) do |k|
          ny.times do |j|
            (1...nx).each do |i|
              share = 0.5 * (cover[k, j, i] + cover[k, j, i - 1])
              aim = 0.5 * (wanted.x[k, j, i] + wanted.x[k, j, i - 1])
              faces.u[k, j, i] += drawn(share, pull) * (aim - faces.u[k, j, i]) + share * add * aim
            end
          end
          (1...ny).each do |j|
            nx.times do |i|
              share = 0.5 * (cover[k, j, i] + cover[k, j - 1, i])
              aim = 0.5 * (wanted.y[k, j, i] + wanted.y[k, j - 1, i])
              faces.v[k, j, i] += drawn(share, pull) * (aim - faces.v[k, j, i]) + share * add * aim
            end
          end
          if k > 0
            ny.times do |j|
              nx.times do |i|
                share = 0.5 * (cover[k, j, i] + cover[k - 1, j, i])
                aim = 0.5 * (wanted.z[k, j, i] + wanted.z[k - 1, j, i])
                faces.w[k, j, i] += drawn(share, pull) * (aim - faces.w[k, j, i]) + share * add * aim
              end
            end
          end
        end
      end

      # Fades by a factor; what is nearer to nothing than `least` goes, and so does what is
      # inside solids.
      kernel field: F32[3], solid: U8[3], factor: F32, least: F32
      def fade(field, solid, factor, least)
        each_cell(field) do |k, j, i|
          value = factor * field[k, j, i]
          field[k, j, i] = value.abs < least || solid[k, j, i] != 0 ? 0.0 : value
        end
      end

      # The largest value, or nothing where all are below; not a number where any is none.
      kernel field: F32[3], returns: F64
      def highest(field)
        largest = parallel_max(field.dim(0)) do |k|
          found = 0.0
          field.dim(1).times do |j|
            field.dim(2).times do |i|
              value = field[k, j, i]
              found = value > found || value != value ? value : found
            end
          end
          found
        end
        largest
      end

      kernel field: F32[3], returns: F64
      def total(field)
        sum = parallel_sum(field.dim(0)) do |k|
          row = f64(0.0)
          field.dim(1).times { |j| field.dim(2).times { |i| row += field[k, j, i] } }
          row
        end
        sum
      end

      # Lets smoke grow older: `aged` is smoke times its age, and no less than nothing.
      kernel aged: F32[3], smoke: F32[3], dt: F32
      def grow_older(aged, smoke, dt)
        each_cell(aged) { |k, j, i| aged[k, j, i] = [aged[k, j, i] + dt * smoke[k, j, i], 0.0].max }
      end
    end
  end
end
