# frozen_string_literal: true

module Vumbral
  module Geometry
    # Cuts a closed mesh into the cells of points scattered over it, as shards, long splinters or flat slabs. What is
    # cut keeps apart the faces that it had and those that came inside.
    class Cells
      # A piece about its own middle, where that stands in the whole, and whether it never breaks again.
      Piece = Struct.new(:mesh, :middle, :whole, :parent)

      # How much nearer things along the grain count.
      STRETCH = {"shards" => 1.0, "splinters" => 0.22, "slabs" => 3.5}.freeze
      # What is smaller than so much of the whole is dust and left out.
      DUST = 1e-7
      # The part of a piece that was inside before.
      INSIDE = "inside"

      # @param mesh [Mesh] closed; @param cut [Hash] from {Breaking.cut_of}
      # @return [Array<Piece>] those of a shell first
      def self.of(mesh, cut)
        shell, core = cut["outer"].positive? ? Shell.of(mesh, cut["outer"]) : nil
        below = cut.merge("outer" => 0.0)
        return new(mesh, Sites.new(mesh, below).to_a, cut).pieces unless core

        new(shell, Sites.new(mesh, cut).to_a, cut).pieces + new(core, Sites.new(core, below).to_a, cut).pieces
      end

      # @param sites [Array<Sites::Site>]
      def initialize(mesh, sites, cut)
        @mesh = mesh
        @sites = sites
        @way = Vectors.unit(cut["grain_way"])
        @stretch = STRETCH.fetch(cut["grain"])
      end

      # @return [Array<Piece>]
      def pieces
        places = @sites.map { |site| bend(site.place) }
        @heaviest = @sites.map(&:weight).max
        volume = @mesh.volume.abs
        whole = clipping
        @sites.each_index.filter_map { |n| made(cell(whole, places, n), volume, @sites[n].whole) }
      end

      # The pieces of a piece. @param number [Integer] which one it is
      # @return [Array<Piece>] none where it does not come apart
      def self.again(piece, cut, number)
        rest = {
          "pieces" => cut["again_pieces"], "piece_seed" => cut["piece_seed"] + 31 * number + 1, "gather" => 0.0,
          "keep" => 0.0, "outer" => 0.0
        }
        parts = of(piece.mesh, cut.merge(rest))
        return [] if parts.size < 2

        parts.map { |part| Piece.new(part.mesh, part.middle.zip(piece.middle).map(&:sum), false, number) }
      end

      private

      # Points in the same place are one, so that edges have two sides.
      def clipping
        places = {}
        numbers = @mesh.points.to_a.each_slice(3).map { |point| places[point] ||= places.size }
        triangles = @mesh.triangles.to_a.each_slice(3).map { |t| t.map { |n| numbers[n] } }
        first = Breaking.inside(@mesh)
        # Triangles that came to be lines close nothing.
        Clipping.new(
          places.keys, *[triangles[0...first], triangles[first..]].map { |rows| rows.select { |t| t.uniq.size == 3 } }
        )
      end

      def dot(a, b) = a[0] * b[0] + a[1] * b[1] + a[2] * b[2]

      # A place as distances to it count: nearer or farther along the grain.
      def bend(place)
        along = (@stretch - 1.0) * dot(place, @way)
        3.times.map { |c| place[c] + along * @way[c] }
      end

      def cell(whole, bent, n)
        site = bent[n]
        others =
          bent
            .each_index
            .reject { |m| m == n }
            .map { |m| [bent[m].zip(site).sum { |a, b| (a - b)**2 }, m] }
            .sort_by(&:first)
        left, reach = whole, nil
        others.each do |square, other|
          break if left.empty? || (square > 0.0 &&
            (square + @sites[n].weight - @heaviest) / (2.0 * Math.sqrt(square)) > (reach ||= reach(left, site)))
          next if square < 1e-18

          normal, offset = plane(site, bent[other], @sites[n].weight - @sites[other].weight)
          # Most planes pass the cell by.
          next unless beyond?(left.corners, normal, offset)

          left, reach = left.behind(normal, offset), nil
        end
        left
      end

      def beyond?(corners, normal, offset)
        x, y, z = normal
        corners.any? { |a, b, c| x * a + y * b + z * c > offset }
      end

      # How far the cell reaches from its site.
      def reach(cell, site) =
        Math.sqrt(cell.corners.map { |point| bend(point).zip(site).sum { |a, b| (a - b)**2 } }.max)

      # Halfway between two bent places, or nearer to the lighter one, as a plane in the prop's own space.
      def plane(site, other, heavier)
        across = other.zip(site).map { |a, b| a - b }
        offset = 0.5 * (dot(other, other) - dot(site, site) + heavier)
        normal = bend(across)
        length = Math.sqrt(dot(normal, normal))
        [normal.map { |c| c / length }, offset / length]
      end

      def made(left, volume, whole)
        return if left.empty?

        mesh = left.mesh
        return if mesh.volume.abs < DUST * volume

        low, high = mesh.bounds
        middle = low.zip(high).map { |a, b| 0.5 * (a + b) }
        Piece.new(mesh.transformed(Transform.place(position: middle.map(&:-@))), middle, whole)
      end
    end
  end
end
