# frozen_string_literal: true

module Vumbral
  module Light
    # A picture all around as light: its brightest places as suns of their own, which throw shadows, and what is left as
    # light from all sides, in nine numbers a colour (Ramamoorthi & Hanrahan 2001). The picture is a whole turn wide and
    # half a turn high; its middle lies along -z.
    class Environment
      # The picture in which bright places are looked for, and the one that a view shows.
      HIGH, WIDE = 128, 256
      SMALL = [32, 64].freeze
      # What is brighter than so many times the mean belongs to a sun; how far one reaches, radians; how many there may
      # be.
      BRIGHT, REACH, SUNS = 6.0, 0.25, 6
      # What a cosine leaves of each of the nine shapes, for three colours.
      FADED = ([1.0] * 3 + [2.0 / 3.0] * 9 + [0.25] * 15).freeze
      # So many are kept.
      KEPT = 8

      # A bright place: the way to it, red, green and blue that fall straight on a surface, and half its width
      # (tangent).
      Sun = Struct.new(:way, :light, :size)

      # @return [Array<Sun>] brightest first
      attr_reader :suns
      # @return [Kernel::Buffer] f32 [h, w, 3], of the size asked for
      attr_reader :picture, :small
      # @return [Array<Float>] 27: red, green, blue of each of nine shapes ({SkyKernels#shapes}), as light that a white
      #   sheet gives back
      attr_reader :soft
      # @return [Array<Float>] red, green and blue that fall on a level sheet, suns and all
      attr_reader :level

      @kept = {}
      @lock = Mutex.new

      # @param digest [String]; @param meshes [#coloured]
      # @return [Environment]
      def self.of(digest, meshes)
        picture = meshes.coloured(digest)
        @lock.synchronize do
          @kept.shift if @kept.size >= KEPT && !@kept.key?(digest)
          @kept[digest] ||= new(picture)
        end
      end

      # The mean colour of a picture, at a luminance of 1. @return [Array<Float>]
      def self.mean(digest, meshes) =
        shrunk(digest, meshes).then { |mean| mean.map { |c| c / brightness(digest, meshes) } }

      # The luminance of a picture in the mean. @return [Float]
      def self.brightness(digest, meshes) =
        shrunk(digest, meshes).then { |r, g, b| [0.2126 * r + 0.7152 * g + 0.0722 * b, 1e-6].max }

      def self.shrunk(digest, meshes) =
        Kernel::Buffer.new(:f32, 1, 1, 3).tap { |out| Grid::ShrinkKernels.mean(out, meshes.coloured(digest)) }.to_a
      private_class_method :shrunk

      # @param coloured [Kernel::Buffer] f32 [h, w, 4], linear
      def initialize(coloured)
        height = [coloured.dim(0), 1024].min
        @picture = shrunk(coloured, height, 2 * height)
        @small = shrunk(coloured, *SMALL)
        @rows = shrunk(coloured, HIGH, WIDE).to_a.each_slice(3).to_a
        @ways = Array.new(HIGH) { |j| Array.new(WIDE) { |i| way(j, i) } }.flatten(1)
        @parts =
          Array
            .new(HIGH) do |j|
              (Math.sin((j + 1) * Math::PI / HIGH - Math::PI / 2) - Math.sin(j * Math::PI / HIGH - Math::PI / 2)) * 2 *
                Math::PI / WIDE
            end
            .flat_map { |part| [part] * WIDE }
        @level = falling
        @suns = found
        @soft = softened
      end

      private

      def shrunk(from, height, width) =
        Kernel::Buffer.new(:f32, height, width, 3).tap { |out| Grid::ShrinkKernels.mean(out, from) }

      def way(j, i)
        up = Math::PI * (0.5 - (j + 0.5) / HIGH)
        turn = 2 * Math::PI * ((i + 0.5) / WIDE - 0.5)
        [Math.sin(turn) * Math.cos(up), Math.sin(up), -Math.cos(turn) * Math.cos(up)]
      end

      def luminance(colour) = 0.2126 * colour[0] + 0.7152 * colour[1] + 0.0722 * colour[2]

      # On a level sheet from the upper half.
      def falling
        3.times.map do |c|
          @rows.each_index.sum { |n| @ways[n][1].positive? ? @rows[n][c] * @ways[n][1] * @parts[n] : 0.0 }
        end
      end

      # Takes the bright places out of the picture.
      def found
        bright = @rows.map { |colour| luminance(colour) }
        most = BRIGHT * bright.zip(@parts).sum { |value, part| value * part } / (4 * Math::PI)
        left = bright.each_index.select { |n| bright[n] > most }.sort_by { |n| -bright[n] }
        suns = []
        while left.any? && suns.size < SUNS
          near, left = left.partition { |n| dot(@ways[n], @ways[left[0]]) > Math.cos(REACH) }
          suns << taken(near, bright, most)
        end
        suns.sort_by { |sun| -luminance(sun.light) }
      end

      def taken(near, bright, most)
        light, middle, spread = [0.0] * 3, [0.0] * 3, 0.0
        weights = near.map { |n| (bright[n] - most) * @parts[n] }
        near.zip(weights) { |n, weight| 3.times { |c| middle[c] += weight * @ways[n][c] } }
        middle = Geometry::Vectors.unit(middle)
        near.zip(weights) do |n, weight|
          spread += weight * (1.0 - dot(@ways[n], middle)) * 2.0
          over = 1.0 - most / bright[n]
          3.times { |c| light[c] += @rows[n][c] * over * @parts[n] }
          @rows[n] = @rows[n].map { |value| value * (1.0 - over) }
        end
        # An even disc is as wide as this for its mean square.
        Sun.new(middle, light, Math.tan([Math.sqrt(2.0 * spread / weights.sum), 0.004].max))
      end

      def dot(a, b) = a[0] * b[0] + a[1] * b[1] + a[2] * b[2]

      # What a white sheet gives back of it, by how the sheet lies. Shapes of a higher degree fall off by the cosine's
      # own part in them: 1, 2/3, 1/4.
      def softened
        sums = Array.new(27, 0.0)
        @rows.each_index do |n|
          shapes = SkyKernels.shapes(*@ways[n])
          9.times { |k| 3.times { |c| sums[3 * k + c] += @rows[n][c] * shapes[k] * @parts[n] } }
        end
        sums.zip(FADED).map { |sum, share| sum * share }
      end
    end
  end
end
