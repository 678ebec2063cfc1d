# frozen_string_literal: true

module Vumbral
  module Sculpt
    # Loops of the steps that look at values around each.
    module FilterKernels
      extend Kernel::Library

      # A bell along x (0), y (1) or z (2), `sigma` in cells, cut at three of them; values beyond the edge are as at it.
      kernel out: F32[3], before: F32[3], axis: I32, sigma: F32
      def blur(out, before, axis, sigma)
        parallel(out.dim(0)) do |k|
          reach = [(3.0 * sigma).ceil, 96].min
          bell = local_f32(97)
          whole = 1.0
          bell[0] = 1.0
          reach.times do |n|
            bell[n + 1] = Math.exp(-0.5 * (n + 1.0) * (n + 1.0) / (sigma * sigma))
            whole += 2.0 * bell[n + 1]
          end
          out.dim(1).times do |j|
            out.dim(2).times do |i|
              sum = before[k, j, i] + 0.0
              reach.times do |n|
                m = n + 1
                near = axis == 0 ? before[k, j, [i - m, 0].max] : (axis == 1 ? before[k, [j - m, 0].max, i] : before[[k - m, 0].max, j, i])
                far = axis == 0 ? before[k, j, [i + m, before.dim(2) - 1].min] : (axis == 1 ? before[k, [j + m, before.dim(1) - 1].min, i] : before[[k + m, before.dim(0) - 1].min, j, i])
                sum += bell[m] * (near + far)
              end
              out[k, j, i] = sum / whole
            end
          end
        end
      end

      # The middle one of all values within so many cells each way (1 or 2), found by halving the range that it may lie in.
      kernel out: F32[3], before: F32[3], cells: I32
      def median(out, before, cells)
        parallel(out.dim(0)) do |k|
          near = local_f32(125)
          out.dim(1).times do |j|
            out.dim(2).times do |i|
              count = 0
              low = 1e30
              high = -1e30
              (-cells..cells).each do |c|
                z = (k + c).clamp(0, before.dim(0) - 1)
                (-cells..cells).each do |b|
                  y = (j + b).clamp(0, before.dim(1) - 1)
                  (-cells..cells).each do |a|
                    value = before[z, y, (i + a).clamp(0, before.dim(2) - 1)]
                    near[count] = value
                    low = [low, value].min
                    high = [high, value].max
                    count += 1
                  end
                end
              end
              out[k, j, i] = high > low ? middle(near, count, count / 2) : low
            end
          end
        end
      end

      # The value that `rank` others of some are less than (Hoare 1961); their order changes.
      kernel values: F32[1], count: I32, rank: I32, returns: F32
      def middle(values, count, rank)
        from = 0
        to = count - 1
        while from < to
          pivot = values[rank]
          a = from
          b = to
          while a <= b
            while values[a] < pivot
              a += 1
            end
            while values[b] > pivot
              b -= 1
            end
            if a <= b
              kept = values[a]
              values[a] = values[b]
              values[b] = kept
              a += 1
              b -= 1
            end
          end
          if rank <= b
            to = b
          elsif rank >= a
            from = a
          else
            from = to
          end
        end
        values[rank]
      end
    end
  end
end
