# frozen_string_literal: true

module Vumbral
  module Light
    # Loops that make a frame small for the browser.
    module ViewKernels
      extend Kernel::Library

      # The largest smoke, heat, light and fire, none of them zero.
      kernel peaks: F32[1], smoke: F32[3], heat: F32[3], light: F32[4], fire: F32[4]
      def peaks(peaks, smoke, heat, light, fire)
        peaks[0] = most(smoke, 0.0001)
        peaks[1] = most(heat, 1.0)
        peaks[2] = most_of_three(light)
        peaks[3] = most_of_three(fire)
      end

      kernel field: F32[3], least: F32, returns: F64
      def most(field, least)
        found = parallel_max(field.dim(0)) do |k|
          top = least
          field.dim(1).times { |j| field.dim(2).times { |i| top = [top, field[k, j, i]].max } }
          top
        end
        found
      end

      kernel rgb: F32[4], returns: F64
      def most_of_three(rgb)
        found = parallel_max(rgb.dim(1)) do |k|
          top = 0.0001
          3.times { |n| rgb.dim(2).times { |j| rgb.dim(3).times { |i| top = [top, rgb[n, k, j, i]].max } } }
          top
        end
        found
      end

      kernel value: F32, per: F32, returns: I32
      def eight(value, per)
        (255.0 * Math.sqrt((value * per).clamp(0.0, 1.0)) + 0.5).to_i
      end

      # Three colours and a fourth number, by their largest.
      kernel out: U8[4], rgb: F32[4], field: F32[3], colour_peak: F32, field_peak: F32
      def encode(out, rgb, field, colour_peak, field_peak)
        parallel(field.dim(0)) do |k|
          a = 1.0 / field_peak
          c = 1.0 / colour_peak
          field.dim(1).times do |j|
            field.dim(2).times do |i|
              3.times { |n| out[k, j, i, n] = eight(rgb[n, k, j, i], c) }
              out[k, j, i, 3] = eight(field[k, j, i], a)
            end
          end
        end
      end

      # Three colours and a fourth number as sixteen bit floats.
      kernel out: U16[4], rgb: F32[4], field: F32[3]
      def halves(out, rgb, field)
        parallel(field.dim(0)) do |k|
          field.dim(1).times do |j|
            field.dim(2).times do |i|
              3.times { |n| out[k, j, i, n] = Formats::EXRKernels.half(rgb[n, k, j, i]) }
              out[k, j, i, 3] = Formats::EXRKernels.half(field[k, j, i])
            end
          end
        end
      end

      # Smallest and largest of a field.
      kernel ends: F32[1], field: F32[3]
      def ends(ends, field)
        low = parallel_max(field.dim(0)) do |k|
          most = -field[k, 0, 0]
          field.dim(1).times { |j| field.dim(2).times { |i| most = [most, -field[k, j, i]].max } }
          most
        end
        high = parallel_max(field.dim(0)) do |k|
          most = field[k, 0, 0]
          field.dim(1).times { |j| field.dim(2).times { |i| most = [most, field[k, j, i]].max } }
          most
        end
        ends[0] = -low
        ends[1] = high
      end

      kernel out: U8[3], field: F32[3], low: F32, per: F32
      def level(out, field, low, per)
        each_cell(field) do |k, j, i|
          out[k, j, i] = (255.0 * ((field[k, j, i] - low) * per).clamp(0.0, 1.0) + 0.5).to_i
        end
      end

      # One part of a velocity as signed bytes.
      kernel out: U8[4], field: F32[3], n: I32, per: F32
      def signed(out, field, n, per)
        each_cell(field) { |k, j, i| out[k, j, i, n] = (field[k, j, i] * per).round & 255 }
      end

      kernel out: F32[3], field: F32[3], by: F32
      def raise_by(out, field, by)
        each_cell(field) { |k, j, i| out[k, j, i] = field[k, j, i] + by }
      end

      # Metres a second.
      kernel out: F32[3], x: F32[3], y: F32[3], z: F32[3]
      def speed(out, x, y, z)
        each_cell(out) do |k, j, i|
          out[k, j, i] = Math.sqrt(x[k, j, i] * x[k, j, i] + y[k, j, i] * y[k, j, i] + z[k, j, i] * z[k, j, i])
        end
      end
    end
  end
end
