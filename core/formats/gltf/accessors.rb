# frozen_string_literal: true

module Vumbral
  module Formats
    # One part of {GLTF}.
    module GLTF
      # Reads the numbers that a file keeps in its buffers.
      class Accessors
        # Component type => how it is unpacked, its bytes, and what stands for 1 where it is normalised.
        TYPES = {5120 => ["c", 1, 127.0], 5121 => ["C", 1, 255.0], 5122 => ["s<", 2, 32_767.0],
                 5123 => ["S<", 2, 65_535.0],
                 5125 => ["L<", 4, 4_294_967_295.0], 5126 => ["e", 4, 1.0]}.freeze
        WIDTHS = {"SCALAR" => 1, "VEC2" => 2, "VEC3" => 3, "VEC4" => 4, "MAT2" => 4, "MAT3" => 9, "MAT4" => 16}.freeze
        MOST = 24_000_000

        # @param container [Container]
        def initialize(container)
          @container = container
        end

        # @return [Integer] elements of an accessor
        def count(n) = head(n)[:count]

        # @return [Array<Numeric>] all its numbers in order, normalised ones from -1 or 0 to 1
        def numbers(n, width: nil)
          row = head(n)
          bad(n, "holds #{row[:width]} numbers an element, and #{width} are wanted") if width && row[:width] != width
          values = row[:view] ? strided(n, row) : Array.new(row[:count] * row[:width], 0)
          sparse(n, row, values) if row[:sparse]
          return values unless row[:normalised]

          whole = TYPES.fetch(row[:type])[2]
          values.map { |value| [value / whole, -1.0].max }
        end

        # @return [Kernel::Buffer] f32 [count, width]
        def floats(n, width)
          row = head(n)
          # As it lies in the file, most of the time.
          if row[:type] == 5126 && row[:view] && !row[:sparse] && row[:width] == width &&
              (@container.stride(row[:view]) || 4 * width) == 4 * width
            return Kernel::Buffer.new(:f32, row[:count], width, bytes: bytes(n, row, 4 * width * row[:count]))
          end

          Kernel::Buffer.of(:f32, numbers(n, width: width).map(&:to_f), row[:count], width)
        end

        private

        def bad(n, words) = @container.bad("has an accessor #{n} that #{words}")

        def head(n)
          (@heads ||= {})[n] ||= begin
            row = @container.one("accessors", n, "accessor")
            type, count, width = row["componentType"], row["count"], WIDTHS[row["type"]]
            bad(n, "is of an unknown type") unless TYPES.key?(type) && width
            unless count.is_a?(Integer) && count.between?(1, MOST / width)
              bad(n, "counts #{count.inspect[0, 20]} elements; #{MOST / width} is the most")
            end
            {
              type: type, count: count, width: width, view: row["bufferView"], from: row.fetch("byteOffset", 0),
              normalised: row["normalized"] == true && type != 5126, sparse: row["sparse"]
            }
          end
        end

        def bytes(n, row, length, view = row[:view], from = row[:from])
          found = @container.view(view)
          unless from.is_a?(Integer) && from >= 0 && from + length <= found.bytesize
            bad(n, "goes past the end of its data")
          end
          found.byteslice(from, length)
        end

        def strided(n, row)
          code, size, = TYPES.fetch(row[:type])
          code, size = [code * row[:width], size * row[:width]]
          stride = @container.stride(row[:view]) || size
          all = bytes(n, row, stride * (row[:count] - 1) + size)
          return all.unpack("#{TYPES.fetch(row[:type])[0]}*") if stride == size
          bad(n, "has elements that overlap") if stride < size

          Array.new(row[:count]) { |i| all.byteslice(stride * i, size).unpack(code) }.flatten
        end

        # What differs from the rest.
        def sparse(n, row, values)
          given = row[:sparse]
          count, places, changed = given.values_at("count", "indices", "values")
          unless count.is_a?(Integer) && count.between?(1, row[:count])
            bad(n, "has #{count.inspect[0, 20]} sparse elements")
          end
          code, size, = TYPES.fetch(places.fetch("componentType"))
          numbers =
            bytes(n, row, count * size, places.fetch("bufferView"), places.fetch("byteOffset", 0)).unpack("#{code}*")
          code, size, = TYPES.fetch(row[:type])
          width = row[:width]
          fresh =
            bytes(n, row, count * size * width, changed.fetch("bufferView"), changed.fetch("byteOffset", 0)).unpack(
              "#{code}*"
            )
          numbers.each_with_index do |place, i|
            bad(n, "has a sparse element #{place} of #{row[:count]}") if place >= row[:count]
            values[place * width, width] = fresh[i * width, width]
          end
        end
      end
    end
  end
end
