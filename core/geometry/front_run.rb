# frozen_string_literal: true

module Vumbral
  module Geometry
    # How far each place of a surface is from where a front begins, along the surface.
    class FrontRun
      # @param row [Hash] from {Front.row}
      # @param numbers [Kernel::Buffer] i32 [n], which place each of the mesh's points has
      # @param places [Kernel::Buffer] f32 [k, 3]
      def initialize(row, mesh, numbers, places)
        @row, @places = row, places
        triangles =
          Kernel::Buffer.new(:i32, mesh.count, 3).tap { |out| FrontKernels.renumber(out, mesh.triangles, numbers) }
        count = places.dim(0)
        starts, around = Kernel::Buffer.new(:i32, count + 1), Kernel::Buffer.new(:i32, 3 * mesh.count)
        FrontKernels.gather(starts, around, triangles)
        @sheet = Sheet.new(places, triangles, starts, around, FrontRun.slowness(row, places))
        @step = Math.sqrt(2.0 * mesh.area / [mesh.count, 1].max)
      end

      # @return [Kernel::Buffer] f32 [k], one for each metre at full speed; {FrontKernels::NEVER} where no way leads
      def distance
        count = @places.dim(0)
        arrival = Kernel::Buffer.new(:f32, count).fill(FrontKernels::NEVER)
        begin_where(arrival)
        FrontKernels.march(
          arrival, Kernel::Buffer.new(:u8, count), Kernel::Buffer.new(:i32, count),
          Kernel::Buffer.new(:i32, count).fill(-1), @sheet
        )
        arrival
      end

      # A plane goes straight through space.
      def self.swept(row, places)
        way = Vectors.unit(row["sweep_way"])
        out = Kernel::Buffer.new(:f32, places.dim(0))
        slow = slowness(row, places)
        from = row["sweep_position"].zip(row["scale"]).map { |a, b| a * b }
        FrontKernels.sweep(out, places, slow, Kernel::Buffer.of(:f32, from + way))
        out
      end

      def self.slowness(row, places)
        out = Kernel::Buffer.new(:f32, places.dim(0)).fill(1.0)
        if row["uneven"].positive?
          PaceKernels.slow(out, places, row["uneven"], 1.0 / row["uneven_size"], row["octaves"], row["seed"])
        end
        if row["pace"]
          pattern = Kernel::Buffer.of(:f32, row["pace"], 1, Textures::WIDTH)
          PaceKernels.pace(out, places, pattern, row["paced"])
        end
        out
      end

      private

      def begin_where(arrival)
        return begin_at_faces(arrival) if @row["starts"] == "faces"

        if row_box?
          middle, size =
            @row["box_position"].zip(@row["scale"]).map { |a, b| a * b },
            @row["box_size"].zip(@row["scale"]).map { |a, b| a * b }
          found = FrontKernels.within(arrival, @places, Kernel::Buffer.of(:f32, middle + size))
          return if found.positive?

          raise Refused.new(
            "#{@row["name"]} starts nowhere, for no point of its prop lies in its box; move the box onto the " \
              "surface, or make it larger.",
            code: "starts_nowhere"
          )
        end
        places = @row["places"].empty? ? [lowest] : @row["places"]
          .map { |place| place.zip(@row["scale"]).map { |a, b| a * b } }
        FrontKernels.begin_at(arrival, @sheet, Kernel::Buffer.of(:f32, places.flatten, places.size, 3), 1.5 * @step)
      end

      def begin_at_faces(arrival)
        if @row["faces"].empty?
          raise Refused.new(
            "#{@row["name"]} starts nowhere, for no face was picked for it; pick some in the view, or let it " \
              "begin at places.",
            code: "starts_nowhere"
          )
        end
        middles = @row["faces"].flat_map { |place| place.zip(@row["scale"]).map { |a, b| a * b } }
        FrontKernels.begin_at_faces(arrival, @sheet, Kernel::Buffer.of(:f32, middles, middles.size / 3, 3))
      end

      def row_box? = @row["starts"] == "box"

      # Where nobody picked a place it begins at the lowest.
      def lowest = @places.to_a.each_slice(3).min_by { |_, y, _| y }
    end
  end
end
