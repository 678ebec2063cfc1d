# frozen_string_literal: true

module Vumbral
  module Geometry
    # Cuts a surface into parts that can be laid flat one by one: each grows from its largest face over its neighbours
    # as long as these face much the same way, is seen from there, and no two of its faces come to lie on each other.
    class Charts
      # Faces of a mesh by number, and of each its corners on the plane, metres.
      Chart = Struct.new(:faces, :places)
      # A face is seen from the side no flatter than this, by the cosine.
      FLATTEST = 0.15
      # Whether faces lie on each other is asked in a raster so fine, cells on the whole surface.
      CELLS = 262_144
      private_constant :FLATTEST, :CELLS

      # @param mesh [Mesh]; @param cone [Float] degrees that a face may be turned off its part's middle
      def initialize(mesh, cone)
        @edges = Operations::Edges.new(mesh)
        @triangles, @points = @edges.triangles, @edges.points
        @ways = @triangles.map { |a, b, c| Vectors.cross(*[b, c].map { |n| Vectors.minus(@points[n], @points[a]) }) }
        @areas = @ways.map { |way| 0.5 * Vectors.length(way) }
        @least = Math.cos(cone * Math::PI / 180)
        @cell = Math.sqrt([@areas.sum, 1e-12].max / CELLS)
      end

      # @return [Array<Chart>] every face is in one of them
      def to_a
        free = Array.new(@triangles.size, true)
        largest = (0...@triangles.size).sort_by { |n| [-@areas[n], n] }
        largest.each_with_object([]) do |seed, all|
          next unless free[seed]

          chart = chart(seed, grown(seed, free))
          chart.faces.each { |face| free[face] = false }
          all << chart
        end
      end

      private

      # Faces on the other sides of a face's edges.
      def beside(face)
        @beside ||= begin
          by_edge = Hash.new { |all, key| all[key] = [] }
          @triangles.each_with_index do |(a, b, c), n|
            [[a, b], [b, c], [c, a]].each { |p, q| by_edge[@edges.key(p, q)] << n }
          end
          @triangles.each_with_index.map do |(a, b, c), n|
            [[a, b], [b, c], [c, a]].flat_map { |p, q| by_edge[@edges.key(p, q)] } - [n]
          end
        end
        @beside[face]
      end

      # What may belong to a part, and the way that it faces on the whole.
      def grown(seed, free)
        sum, seen, waiting = @ways[seed].dup, {seed => true}, [seed]
        until waiting.empty?
          beside(waiting.shift).each do |face|
            next if seen[face] || !free[face] || !faces?(face, sum)

            seen[face] = true
            waiting << face
            sum = sum.zip(@ways[face]).map { |a, b| a + b }
          end
        end
        [seen, sum]
      end

      # Faces without a size face any way.
      def faces?(face, way, least = @least)
        long = Vectors.length(way) * 2.0 * @areas[face]
        long <= 0.0 || Vectors.dot(@ways[face], way) >= least * long
      end

      # What of that can lie flat side by side.
      def chart(seed, (members, way))
        across, along = plane(Vectors.unit(way))
        flat = Hash.new { |all, n| all[n] = [across, along].map { |axis| Vectors.dot(axis, @points[n]) } }
        taken, kept, seen, waiting = {}, [], {seed => true}, [seed]
        until waiting.empty?
          face = waiting.shift
          cells = covered(@triangles[face].map { |n| flat[n] })
          next if face != seed && (!faces?(face, way, FLATTEST) || cells.any? { |cell| taken[cell] })

          cells.each { |cell| taken[cell] = true }
          kept << face
          beside(face).each { |other| waiting << other if members[other] && !seen[other] && (seen[other] = true) }
        end
        Chart.new(kept, kept.map { |face| @triangles[face].map { |n| flat[n] } })
      end

      # Two ways across another, so that the part is seen from outside.
      def plane(way)
        least = way.each_with_index.min_by { |c, _| c.abs }[1]
        across = Vectors.unit(Vectors.cross([0.0, 0.0, 0.0].tap { |axis| axis[least] = 1.0 }, way))
        [across, Vectors.cross(way, across)]
      end

      # Cells of the raster whose middles lie within a flat triangle.
      def covered(corners)
        (ax, ay), (bx, by), (cx, cy) = corners.map { |place| place.map { |c| c / @cell } }
        double = (bx - ax) * (cy - ay) - (cx - ax) * (by - ay)
        return [] if double.abs < 1e-12

        ([ay, by, cy].min - 0.5).ceil.upto(([ay, by, cy].max - 0.5).floor).flat_map do |row|
          y = row + 0.5
          ends = [[ax, ay, bx, by], [bx, by, cx, cy], [cx, cy, ax, ay]].filter_map do |px, py, qx, qy|
            px + (y - py) / (qy - py) * (qx - px) if (py <= y) != (qy <= y)
          end
          next [] if ends.size < 2

          (ends.min - 0.5).ceil.upto((ends.max - 0.5 - 1e-9).floor).map { |column| [row, column] }
        end
      end
    end
  end
end
