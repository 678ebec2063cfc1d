# frozen_string_literal: true

module Vumbral
  module Formats
    # Loops that unpack volumes.
    module VDBReadKernels
      extend Kernel::Library

      # Values that stand where a mask is on; elsewhere one of two, by another mask.
      kernel out: F32[1], values: F32[1], mask: U8[1], chosen: U8[1], first: F32, second: F32
      def spread(out, values, mask, chosen, first, second)
        at = 0
        out.size.times do |n|
          if ((mask[n / 8] >> (n % 8)) & 1) == 1
            out[n] = values[at]
            at = [at + 1, values.size - 1].min
          else
            out[n] = ((chosen[n / 8] >> (n % 8)) & 1) == 1 ? second : first
          end
        end
      end

      kernel out: F32[1], halves: F16[1]
      def widen(out, halves)
        out.size.times { |n| out[n] = halves[n] }
      end

      # Leaves of 8³, z fastest, into an array [z, y, x]; `places` i32 [n, 3] x, y, z.
      kernel out: F32[3], places: I32[2], values: F32[2]
      def lay(out, places, values)
        parallel(places.dim(0)) do |n|
          512.times do |v|
            out[places[n, 2] + (v & 7), places[n, 1] + ((v >> 3) & 7), places[n, 0] + (v >> 6)] = values[n, v]
          end
        end
      end

      # A cube that is alike all through, as far as it lies in the array.
      kernel out: F32[3], place: I32[1], edge: I32, value: F32
      def fill(out, place, edge, value)
        ([place[2], 0].max...[place[2] + edge, out.dim(0)].min).each do |k|
          ([place[1], 0].max...[place[1] + edge, out.dim(1)].min).each do |j|
            ([place[0], 0].max...[place[0] + edge, out.dim(2)].min).each { |i| out[k, j, i] = value }
          end
        end
      end

      # An LZ4 block: runs of bytes as they are, and of what stood some way before.
      # @return how many bytes came out; -1 where it leads outside
      kernel out: U8[1], data: U8[1], returns: I32
      def lz4(out, data)
        at = 0
        to = 0
        wrong = false
        while at < data.size && !wrong
          token = data[at] + 0
          at += 1
          count = token >> 4
          if count == 15
            more = 255
            while more == 255 && at < data.size
              more = data[at] + 0
              count += more
              at += 1
            end
          end
          wrong = at + count > data.size || to + count > out.size
          if !wrong
            count.times { |n| out[to + n] = data[at + n] }
            at += count
            to += count
          end
          if !wrong && at + 1 < data.size
            back = data[at] + 256 * data[at + 1]
            at += 2
            again = token & 15
            if again == 15
              more = 255
              while more == 255 && at < data.size
                more = data[at] + 0
                again += more
                at += 1
              end
            end
            again += 4
            wrong = back == 0 || back > to || to + again > out.size
            if !wrong
              again.times { |n| out[to + n] = out[to + n - back] }
              to += again
            end
          end
        end
        wrong ? -1 : to
      end

      # Bytes of numbers that lay sorted by their place in them.
      kernel out: U8[1], data: U8[1], width: I32
      def ordered(out, data, width)
        count = data.size / width
        count.times { |n| width.times { |c| out[n * width + c] = data[c * count + n] } }
        (data.size - count * width).times { |n| out[count * width + n] = data[count * width + n] }
      end
    end
  end
end
