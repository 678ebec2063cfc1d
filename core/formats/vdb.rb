# frozen_string_literal: true

require "digest"
require "zlib"

module Vumbral
  module Formats
    # OpenVDB volumes (file format 224), written without the library: float and vector grids in
    # trees of the usual 5-4-3 branching, zip-compressed.
    module VDB
      MAGIC = 0x56444220
      FORMAT = 224
      LIBRARY = [10, 0].freeze
      ZIP = 1

      # A grid to write: `values` and `active` as {VDBTree} takes them.
      # @!attribute components [Integer] 1 for float, 3 for vectors
      Grid = Struct.new(:name, :components, :background, :places, :values, :masks, :kind, :half, keyword_init: true)

      module_function

      # A frame as a file: grids `density`, `temperature` (kelvin), `v` (metres a second, on
      # each voxel's lower faces, as the class `staggered` says), and `fuel` where the gas has any. Of a sculpt
      # `density` alone.
      # @param bricks [Grid::Bricks]
      # @param voxel [Float] metres; @param corner [Array<Float>] the lowest corner, metres
      # @param ambient [Float] kelvin, the temperature of everything that is not stored
      # @param only [Array<String>, nil] the grids that are written, if they are there
      # @param half [Boolean] in half precision
      # @param inside [Array(Array<Float>, Array<Float>), nil] the corners of a box, metres: voxels with their centres
      #   outside are left out
      # @return [String]
      def frame(bricks, voxel:, corner:, ambient:, only: nil, half: false, inside: nil)
        # Voxels are numbered from the chamber's own corner, so that frames fit on each other.
        origin = corner.zip(bricks.origin.reverse).map { |c, cell| c + (0.5 - cell) * voxel }
        box =
          inside &&
          inside[0].zip(origin).map { |c, o| ((c - o) / voxel).ceil } +
          inside[1].zip(origin).map { |c, o| ((c - o) / voxel).floor }
        leaves = Leaves.new(bricks, ambient, half: half, box: box)
        grids = [leaves.grid("density", :smoke, 0.0, "fog volume")]
        # What is built without a run has no more.
        grids << leaves.grid("temperature", :heat, ambient, "unknown") if bricks.channel?(:heat)
        grids << leaves.vectors("v") if bricks.channel?(:x)
        grids << leaves.grid("fuel", :fuel, 0.0, "fog volume") if bricks.channel?(:fuel)
        grids << leaves.grid("burning", :burning, 0.0, "fog volume") if bricks.channel?(:burning)
        grids << leaves.grid("age", :age, 0.0, "unknown") if bricks.channel?(:age)
        write(only ? grids.select { |grid| only.include?(grid.name) } : grids, voxel: voxel, origin: origin)
      end

      # How far places are from a surface, as one grid `surface` of the class `level set`: metres, negative inside,
      # exact within the band and its width beyond.
      # @param distance [Kernel::Buffer] f32 [z, y, x]; @param voxel [Float]; @param first [Array<Float>] the centre of
      #   its first cell; @param band [Float] metres
      # @return [String]
      def surface(distance, voxel:, first:, band:)
        near, held = Array.new(2) { Kernel::Buffer.new(:f32, *distance.shape) }
        VDBKernels.near(near, held, distance, band)
        leaves = Leaves.new(Vumbral::Grid::Bricks.gather(distance.shape, [0, 0, 0], {smoke: near, distance: held}), 0.0)
        write([leaves.grid("surface", :distance, band, "level set")], voxel: voxel, origin: first)
      end

      # @param grids [Array<Grid>]
      # @param origin [Array<Float>] where the voxel 0, 0, 0 has its centre
      # @return [String] a whole file
      def write(grids, voxel:, origin:)
        out = [MAGIC, FORMAT, *LIBRARY, 1].pack("q<L<L<L<C")
        body = grids.map { |grid| [grid, head(grid, voxel, origin), *VDBTree.new(grid).parts] }
        out << uuid(body)
        out << meta("creator" => ["string", "Vumbral"]) << [grids.size].pack("l<")
        body.each { |grid, start, topology, buffers| append(out, grid, start, topology, buffers) }
        out
      end

      def append(out, grid, start, topology, buffers)
        out << string(grid.name) <<
          string("Tree_#{(grid.components == 1) ? "float" : "vec3s"}_5_4_3#{"_HalfFloat" if grid.half}") << string("")
        first = out.bytesize + 24
        blocks = first + start.bytesize + topology.bytesize
        out << [first, blocks, blocks + buffers.bytesize].pack("q<3") << start << topology << buffers
      end

      # Compression, metadata and transform of a grid.
      def head(grid, voxel, origin)
        scale = [voxel] * 3
        facts = {"class" => ["string", grid.kind], "name" => ["string", grid.name],
                 "is_saved_as_half_float" => ["bool", grid.half ? true : false]}
        facts["vector_type"] = ["string", "contravariant absolute"] if grid.components == 3
        [ZIP].pack("L<") + meta(facts) + string("UniformScaleTranslateMap") +
          [origin, scale, scale, [1.0 / voxel] * 3, [1.0 / voxel**2] * 3, [0.5 / voxel] * 3].flatten.pack("E18")
      end

      # The same content has the same name, so that the same shot gives the same bytes.
      def uuid(body)
        hex = Digest::SHA256.hexdigest(body.map { |parts| parts.drop(1).join }.join)
        [hex[0, 8], hex[8, 4], hex[12, 4], hex[16, 4], hex[20, 12]].join("-")
      end

      def meta(entries)
        [entries.size].pack("L<") + entries.map do |name, (type, value)|
          bytes = if type == "bool"
            [value ? 1 : 0].pack("C")
          else
            value.b
          end
          string(name) + string(type) + [bytes.bytesize].pack("L<") + bytes
        end.join
      end

      def string(text) = [text.bytesize].pack("L<") + text.b

      # What goes through the file's zip compression: its size first, negative where it does not shrink.
      def zipped(bytes)
        small = Zlib.deflate(bytes)
        (small.bytesize < bytes.bytesize) ? [small.bytesize].pack("q<") + small : [-bytes.bytesize].pack("q<") + bytes
      end

      # Brings a frame's bricks into leaves of 8³ voxels, z fastest.
      class Leaves
        # @param half [Boolean] in half precision; @param box [Array<Integer>, nil] the lowest and the highest voxel
        #   that counts
        def initialize(bricks, ambient, half: false, box: nil)
          @bricks, @ambient, @half, @box = bricks, ambient, half, box
          @masks = Kernel::Buffer.new(:u8, bricks.count * 8, 64)
          VDBKernels.masks(@masks, bricks.values, bricks.channels.index(:heat) || 0) if bricks.count.positive?
          oz, oy, ox = bricks.origin
          @places = bricks.places.to_a.each_slice(3).flat_map do |k, j, i|
            8.times.map { |n| [ox + 16 * i + 8 * (n & 1), oy + 16 * j + 8 * (n >> 1 & 1), oz + 16 * k + 8 * (n >> 2)] }
          end
          if box && @places.any?
            VDBKernels.clip(
              @masks, Kernel::Buffer.of(:i32, @places.flatten, @places.size, 3), Kernel::Buffer.of(:i32, box)
            )
          end
        end

        def grid(name, channel, background, kind)
          build(name, 1, [background], kind, [@bricks.channels.index(channel)], (channel == :heat) ? @ambient : 0.0)
        end

        def vectors(name)
          build(name, 3, [0.0, 0.0, 0.0], "staggered", %i[x y z].map { |c| @bricks.channels.index(c) }, 0.0)
        end

        private

        def build(name, components, background, kind, channels, shift)
          values = Kernel::Buffer.new(:f32, @bricks.count * 8, 512, components)
          if @bricks.count.positive?
            channels.each_with_index { |channel, c| VDBKernels.leaves(values, @bricks.values, channel, c, shift) }
          end
          VDBKernels.still(values, @masks, Kernel::Buffer.of(:f32, background)) if @box && @bricks.count.positive?
          if @half
            small = Kernel::Buffer.new(:f16, *values.shape)
            VDBKernels.halve(small, values)
            values = small
          end
          Grid.new(
            name: name, components: components, background: background, places: @places, values: values, masks: @masks,
            kind: kind, half: @half
          )
        end
      end
      private_class_method :append, :head, :uuid, :meta, :string
    end
  end
end
