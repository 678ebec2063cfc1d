# frozen_string_literal: true

module Vumbral
  module Maps
    # The rows of a shot's textures as kernels take them, with what some of them are read from behind these: pictures,
    # and lattices of a formula's values or of how young a front is.
    class Patterns
      WIDTH = Geometry::Textures::WIDTH
      # Pixels of a picture along its longer side, and places of a lattice along each.
      EDGE, LATTICE = 512, 40
      # Places of a sculpt's lattice along each axis.
      CARVED = 96
      # So many are kept.
      KEPT = 12

      @kept = {}
      @lock = Mutex.new

      # @param rows [Array<Array>] from {Geometry::Textures.rows}
      # @param meshes [#mesh, #picture]
      # @return [Kernel::Buffer] f32 [n, WIDTH]
      # @raise [Refused] where a picture is gone
      def self.buffer(rows, meshes)
        rows = [[0.0] * WIDTH] if rows.empty?
        start = rows.size
        data = []
        plain = rows.map do |row|
          numbers, more = row.first(WIDTH), row[WIDTH]
          next numbers unless more

          found = kept(more, meshes)
          numbers = numbers.dup
          numbers[1, 12] = found.space if found.space
          numbers[Geometry::TextureKernels::FIRST, 3] = [start, *found.size]
          data << found.bytes
          start += found.bytes.bytesize / (4 * WIDTH)
          numbers
        end
        Kernel::Buffer.new(:f32, start, WIDTH, bytes: plain.flatten.pack("e*") + data.join)
      end

      # Where it lies, if not where the texture's dials say; how wide and high; and its values in whole rows.
      Found = Struct.new(:space, :size, :bytes)

      def self.kept(more, meshes)
        @lock.synchronize do
          @kept.shift if @kept.size >= KEPT && !@kept.key?(more)
          @kept[more] ||= new(meshes).found(more)
        end
      end

      def initialize(meshes)
        @meshes = meshes
      end

      # @param more [Hash] what {Geometry::Textures.row} has behind its numbers
      # @return [Found]
      def found(more)
        case more["as"]
        when "picture" then picture(more["picture"])
        when "formula" then Found.new(nil, [LATTICE, LATTICE], rows(formula(more)))
        when "front" then front(more)
        when "sculpt" then sculpt(more)
        end
      end

      private

      def rows(values) = values.bytes + "\0" * (-values.bytes.bytesize % (4 * WIDTH))

      def picture(digest)
        image = @meshes.picture(digest)
        longer = image.shape.max.fdiv(EDGE)
        if longer > 1.0
          small = Kernel::Buffer.new(:f32, *image.shape.map { |n| [(n / longer).round, 1].max }, 1)
          Grid::ShrinkKernels.mean(small, Kernel::Buffer.new(:f32, *image.shape, 1, bytes: image.bytes))
          image = small
        end
        Found.new(nil, [image.dim(1), image.dim(0)], rows(image))
      end

      def formula(more)
        setting =
          Shot::Formula.setting(
            frame: more["frame"], time: more["time"], seed: more["seed"], first: [-0.5 + 0.5 / LATTICE] * 3,
            voxel: 1.0 / LATTICE, low: [-0.5] * 3, size: [1.0] * 3
          )
        Kernel::Buffer
          .new(:f32, LATTICE, LATTICE, LATTICE)
          .fill(1.0)
          .tap { |out| Shot::FormulaKernels.evaluate(out, Shot::Formula.new(more["formula"]).program, setting) }
      end

      # What a sculpt comes to, in a box about it.
      def sculpt(more)
        values, low, long = @meshes.carved(more["recipe"], CARVED)
        Found.new(
          Geometry::Transform
            .place(position: low.map { |c| c + 0.5 * long }, scale: [long] * 3)
            .inverse
            .rows
            .flatten
            .first(12),
          [CARVED, CARVED],
          rows(values)
        )
      end

      # How young it is at the nearest point of its prop, in a box about that.
      def front(more)
        pose = Geometry::Pose.of(more["body"]["to"])
        mesh = Geometry::Shapes.build(more["body"]["outline"], @meshes, pose.at)
        arrival = Geometry::Front.arrival(more["front"], more["body"]["outline"], mesh, @meshes)
        young = Kernel::Buffer.of(:f32, arrival.to_a)
        LayerKernels.aged(
          young,
          Kernel::Buffer.of(
            :f32, [more["front"]["frame"], more["front"]["rate"], more["rise"], more["lasts"], more["fall"]].map(&:to_f)
          )
        )
        world = mesh.transformed(pose.transform)
        low, high = world.bounds
        size = 1.2 * low.zip(high).map { |a, b| b - a }.max + 1e-3
        middle = low.zip(high).map { |a, b| 0.5 * (a + b) }
        out = Kernel::Buffer.new(:f32, LATTICE, LATTICE, LATTICE)
        PatternKernels.nearest(
          out, world.points, young, Kernel::Buffer.of(:f32, middle.map { |c| c - 0.5 * size } + [size / LATTICE])
        )
        Found.new(
          Geometry::Transform.place(position: middle, scale: [size] * 3).inverse.rows.flatten.first(12),
          [LATTICE, LATTICE], rows(out)
        )
      end
      private_class_method :kept
    end
  end
end
