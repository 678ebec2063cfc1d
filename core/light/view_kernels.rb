# frozen_string_literal: true

module Vumbral
  module Light
    # Loops that make a frame small for the browser.
    module ViewKernels
      extend Kernel::Library

      # The largest smoke, heat and light, none of them zero.
      kernel peaks: F32[1], smoke: F32[3], heat: F32[3], light: F32[4]
      def peaks(peaks, smoke, heat, light)
        a = parallel_max(smoke.dim(0)) do |k|
          top = 0.0001
          smoke.dim(1).times { |j| smoke.dim(2).times { |i| top = [top, smoke[k, j, i]].max } }
          top
        end
        b = parallel_max(smoke.dim(0)) do |k|
          top = 1.0
          smoke.dim(1).times { |j| smoke.dim(2).times { |i| top = [top, heat[k, j, i]].max } }
          top
        end
        c = parallel_max(smoke.dim(0)) do |k|
          top = 0.0001
          3.times { |n| smoke.dim(1).times { |j| smoke.dim(2).times { |i| top = [top, light[n, k, j, i]].max } } }
          top
        end
        peaks[0] = a
        peaks[1] = b
        peaks[2] = c
      end

      kernel value: F32, per: F32, returns: I32
      def eight(value, per)
        (255.0 * Math.sqrt((value * per).clamp(0.0, 1.0)) + 0.5).to_i
      end

      kernel lit: U8[4], hot: U8[3], smoke: F32[3], heat: F32[3], light: F32[4], peaks: F32[1]
      def encode(lit, hot, smoke, heat, light, peaks)
        parallel(smoke.dim(0)) do |k|
          a = 1.0 / peaks[0]
          b = 1.0 / peaks[1]
          c = 1.0 / peaks[2]
          smoke.dim(1).times do |j|
            smoke.dim(2).times do |i|
              3.times { |n| lit[k, j, i, n] = eight(light[n, k, j, i], c) }
              lit[k, j, i, 3] = eight(smoke[k, j, i], a)
              hot[k, j, i] = eight(heat[k, j, i], b)
            end
          end
        end
      end
    end
  end
end
