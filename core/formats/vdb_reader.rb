# frozen_string_literal: true

require "zlib"
require "zstd-ruby"

module Vumbral
  module Formats
    # Reads the float grids of an OpenVDB file (file formats 222 to 224, trees of the usual 5-4-3 branching, voxels as
    # long each way and not turned).
    class VDBReader
      # Bits of what a grid's values went through.
      ZIP, ACTIVE, BLOSC = 1, 2, 4
      # So many voxels at most, in the box around what is there.
      MOST = 128_000_000
      # The edge of a leaf, of what lies above it, and above that, in voxels.
      LEAF, INNER, OUTER = 8, 128, 4096

      # A grid as it was read: `values` f32 [z, y, x], the first of them at `place` (metres, its centre).
      Volume = Struct.new(:name, :values, :place, :voxel, :background, :level_set)

      # @param bytes [String]; @param name [String] of the file, for messages
      def initialize(bytes, name)
        @in, @name = ByteReader.new(bytes) { cut_off }, name
      end

      # @return [Array<Volume>] the float grids
      # @return [Array<String>] names of grids of another kind, which were left out
      attr_reader :volumes, :left_out

      # @return [VDBReader] itself
      # @raise [Refused] for what is no such file
      def call
        head
        @left_out = []
        @volumes = Array.new(@in.i32.clamp(0, 1000)) { grid }.compact
        if volumes.empty?
          refuse(
            "holds no float grid#{"; it has #{left_out.join(", ")}" if left_out.any?}. Bring a density as a float grid."
          )
        end
        self
      end

      private

      def refuse(reason) = raise(Refused.new("#{@name} #{reason}", code: "bad_volume"))

      def cut_off = refuse("ends in the middle of its grids; copy or export it again.")

      def head
        refuse("is no OpenVDB file.") unless @in.size > 60 && @in.take(8) == [VDB::MAGIC].pack("q<")
        version = @in.u32
        unless (222..224).cover?(version)
          refuse("is of file format #{version}; 222 to 224 are read. Save it anew with a later library.")
        end
        @in.skip(8)
        refuse("has no places of its grids in it, as streams have; save it as a file.") if @in.u8.zero?
        @in.skip(36)
        meta
      end

      def meta
        @in.u32.clamp(0, 10_000).times.to_h do
          name, type = @in.string, @in.string
          bytes = @in.take(@in.u32)
          [name, (type == "bool") ? bytes.getbyte(0) != 0 : bytes]
        end
      end

      def grid
        name, type = @in.string, @in.string
        parent = @in.string
        start, _blocks, finish = @in.i64, @in.i64, @in.i64
        # A number behind a separator keeps grids of one name apart.
        name = name.split("\x1e")[0].to_s
        unless type.start_with?("Tree_float_5_4_3") && parent.empty?
          left_out << "#{name} (#{type.delete_prefix("Tree_")})"
          @in.at = finish
          return
        end
        @in.at = start
        read_grid(name, type.end_with?("_HalfFloat")).tap { @in.at = finish }
      end

      def read_grid(name, half)
        @packing = @in.u32
        facts = meta
        @half = half || facts["is_saved_as_half_float"] == true
        voxel, origin = transform
        @in.skip(4)
        @background = @in.f32
        @leaves, @fills = [], []
        tiles, children = @in.u32, @in.u32
        tiles.times { @fills << [@in.i32s(3), OUTER, @in.f32, @in.u8] }
        children.times { inner(@in.i32s(3), OUTER) }
        places = @leaves.map(&:first)
        values = Kernel::Buffer.new(:f32, @leaves.size, 512, bytes: @leaves.map { |_, mask| buffer(mask) }.join)
        laid(name, places, values, voxel, origin, facts["class"] == "level set")
      end

      # @return [Array(Float, Array<Float>)] a voxel's edge and where the voxel 0, 0, 0 has its centre, metres
      def transform
        kind = @in.string
        case kind
        when "UniformScaleMap", "ScaleMap"
          [scale(@in.f64s(3)), [0.0] * 3].tap { @in.skip(96) }
        when "UniformScaleTranslateMap", "ScaleTranslateMap"
          origin = @in.f64s(3)
          [scale(@in.f64s(3)), origin].tap { @in.skip(96) }
        when "TranslationMap"
          [1.0, @in.f64s(3)]
        when "AffineMap"
          rows = @in.f64s(16).each_slice(4).to_a
          unless [[0, 1], [0, 2], [1, 0], [1, 2], [2, 0], [2, 1]].all? { |a, b| rows[a][b].abs < 1e-9 }
            refuse("is turned or slanted; save it unturned.")
          end
          [scale(3.times.map { |n| rows[n][n] }), rows[3].first(3)]
        else
          refuse("stands in space in a way that is not read (#{kind[0, 40]}); save it unturned and with even voxels.")
        end
      end

      def scale(three)
        unless three.uniq.size == 1 || three.minmax.reduce(:-).abs < 1e-6 * three[0].abs
          refuse("has voxels that are not as long each way; resample it to even ones.")
        end
        refuse("has voxels of no size.") unless three[0].finite? && three[0].positive?
        three[0]
      end

      # A node of 32³ or 16³ children.
      def inner(origin, edge)
        side = (edge == OUTER) ? 32 : 16
        child = edge / side
        below, active = @in.take(side**3 / 8), @in.take(side**3 / 8)
        values = packed(side**3, active)
        each_on(below, side) { |place| node(place.zip(origin).map { |c, o| c * child + o }, child) }
        tiles(values, below, active, side) do |place, value, on|
          @fills << [place.zip(origin).map { |c, o| c * child + o }, child, value, on]
        end
      end

      # Where there is no child but something else than the background; that may stand for the inside of a surface.
      def tiles(values, below, active, side)
        values.unpack("e*").each_with_index do |value, n|
          on = active.getbyte(n / 8)[n % 8]
          next if below.getbyte(n / 8)[n % 8] == 1 || (on.zero? && value == @background)

          yield [n / (side * side), n / side % side, n % side], value, on
        end
      end

      def node(origin, edge)
        return inner(origin, edge) if edge == INNER

        @leaves << [origin, @in.take(64)]
      end

      def each_on(mask, side)
        mask.bytes.each_with_index do |byte, at|
          next if byte.zero?

          8.times do |bit|
            n = 8 * at + bit
            yield [n / (side * side), n / side % side, n % side], n if byte[bit] == 1
          end
        end
      end

      def buffer(mask)
        @in.skip(64)
        packed(512, mask)
      end

      # @return [String] f32 of all of a node's values
      def packed(count, mask)
        way = @in.u8
        first, second = (way == 1) ? -@background : @background, @background
        first = -@background if way == 3
        first = @in.f32 if [2, 4, 5].include?(way)
        second = @in.f32 if way == 5
        chosen = [3, 4, 5].include?(way) ? @in.take(mask.bytesize) : nil
        some = @packing.anybits?(ACTIVE) && way != 6
        held = some ? mask.unpack1("b*").count("1") : count
        values = floats(unpacked(held * (@half ? 2 : 4)), held)
        return values unless some && held < count

        spread(values, mask, chosen, count, [first, second])
      end

      def spread(values, mask, chosen, count, idle)
        out = Kernel::Buffer.new(:f32, count)
        bits = ->(text) { Kernel::Buffer.new(:u8, text.bytesize, bytes: text) }
        VDBReadKernels.spread(
          out, Kernel::Buffer.new(:f32, [values.bytesize / 4, 1].max, bytes: values.empty? ? "\0" * 4 : values),
          bits.call(mask), bits.call(chosen || "\0" * mask.bytesize), *idle
        )
        out.bytes
      end

      def floats(bytes, count)
        return bytes unless @half && count.positive?

        Kernel::Buffer
          .new(:f32, count)
          .tap { |out| VDBReadKernels.widen(out, Kernel::Buffer.new(:f16, count, bytes: bytes)) }
          .bytes
      end

      # @return [String] so many bytes
      def unpacked(count)
        # Of no halves nothing is said, of no floats how many bytes they take.
        return "" if @half && count.zero?
        return @in.take(count) unless @packing.anybits?(ZIP | BLOSC)

        size = @in.i64
        return @in.take(count) if size <= 0

        bytes = @packing.anybits?(BLOSC) ? Blosc.unpack(@in.take(size), count) : Zlib.inflate(@in.take(size))
        (bytes.bytesize == count) ? bytes : cut_off
      rescue Zlib::Error
        refuse("is damaged; copy or export it again.")
      end

      def laid(name, places, values, voxel, origin, level_set)
        fills = @fills.select { |*, active| active == 1 }
        if places.empty? && fills.empty?
          return Volume.new(name, Kernel::Buffer.new(:f32, 1, 1, 1), origin, voxel, @background, level_set)
        end

        low = (places + fills.map(&:first)).transpose.map(&:min)
        high = (places.map { |place| place.map { |c| c + LEAF } } +
          fills.map { |(place, edge)| place.map { |c| c + edge } }).transpose.map(&:max)
        size = low.zip(high).map { |a, b| b - a }
        if size.reduce(:*) > MOST
          refuse("would take #{size.join(" × ")} voxels for its grid #{name}; #{MOST} in all is the most. Thin it out.")
        end

        out = Kernel::Buffer.new(:f32, *size.reverse).fill(@background)
        @fills.each do |(place, edge, value)|
          VDBReadKernels.fill(out, Kernel::Buffer.of(:i32, place.zip(low).map { |c, l| c - l }), edge, value)
        end
        if places.any?
          VDBReadKernels.lay(
            out,
            Kernel::Buffer.of(:i32, places.flat_map { |place| place.zip(low).map { |c, l| c - l } }, places.size, 3),
            values
          )
        end
        Volume.new(name, out, origin.zip(low).map { |o, l| o + l * voxel }, voxel, @background, level_set)
      end
    end
  end
end
