# frozen_string_literal: true

module Vumbral
  module Sculpt
    # What the steps of a sculpt begin with: distances to a surface, or values that are there already.
    class Beginning
      # So many cells along an edge at most, and so many that are kept one by one.
      LONGEST, MOST = 2048, 64_000_000

      # @param recipe [Hash] from {Geometry::Recipes.of}; @param meshes [#mesh, #picture, #volume, #frame]
      # @param band [Float] distances are told so far, metres
      def initialize(recipe, meshes, band)
        @recipe, @meshes, @band = recipe, meshes, band
      end

      # @return [Hash{Symbol => Field}] its channels
      # @raise [Refused] where it has too many voxels
      def call
        case @recipe["from"]
        when "region" then {density: region}
        when "points" then {density: points}
        when "sculpt" then Carving.new(@recipe["other"], @meshes).channels
        when "file" then given(@meshes.volume(@recipe["file"]))
        when "run" then given(@meshes.frame(@recipe["run"]))
        else {density: bodies}
        end
      end

      # Metres to the nearest of some bodies' surfaces.
      # @param parts [Array<Hash>] bodies as {Geometry::Bodies.of}; @param like [Field] whose lattice it lies on
      # @return [Field]
      def self.distance(parts, like, band, meshes)
        placed(parts, meshes).map { |body, rigid|
          near = Geometry::DistanceField.new(body, rigid, like.lattice, like.counts, band)
          blank = Field.even(like.lattice, like.counts, band, as: :distance)
          Field.new(*blank.to_a.tap { |all| all[2] = near.tiles }).replaced(near.marks) { |out, full| near.fill(out, full.places) }
        }.reduce { |one, other| one.with(other) { |out, a, b| StepKernels.combine(out, a, b, 1, 0.0) } }
      end

      # @return [Array<Array(Geometry::Body, Geometry::Transform)>]
      def self.placed(parts, meshes)
        Geometry::Bodies.parts(parts, meshes).map do |body|
          pose = Geometry::Pose.of(body["to"])
          [Geometry::Body.new(body["outline"], pose.scale, meshes, pose.at), pose.rigid]
        end
      end

      private

      def bodies
        low, high = around(Beginning.placed(@recipe["bodies"], @meshes).map { |body, rigid| body.bounds(rigid) })
        field = Beginning.distance(@recipe["bodies"], blank(low, high), @band, @meshes)
        wall = @recipe["skin"]
        wall ? field.each_value { |out, before| StepKernels.shell(out, before, wall) } : field
      end

      def points
        radius = @recipe["radius"]
        places = Points.corners(@recipe["bodies"], @meshes)
        rows = places.transpose
        blank = blank(rows.map { |c| c.min - radius }, rows.map { |c| c.max + radius })
        points = Points.new(places, @band + radius)
        blank.replaced(blank.everywhere) { |out, full| PointKernels.distance(out, full.places, blank.lattice, points.table, radius, @band) }
      end

      def region
        middle, extent = @recipe.values_at("middle", "extent")
        blank = blank(middle.zip(extent).map { |c, e| c - 0.5 * e }, middle.zip(extent).map { |c, e| c + 0.5 * e })
        setting = Kernel::Buffer.of(:f32, middle + extent.map { |e| 0.5 * e })
        blank.replaced(blank.everywhere) { |out, full| StepKernels.region(out, full.places, blank.lattice, setting, @recipe["form"] == "ball", @band) }
      end

      # A volume that is there: brought from a file, or a frame of a run, with what it holds as channels.
      # @param volume [#channels, #lattice, #distance]
      def given(volume)
        source = volume.lattice
        low = [source.x, source.y, source.z]
        shape = volume.channels[:density].shape
        like = blank(low, low.zip(shape.reverse).map { |c, n| c + n * source.voxel })
        volume.channels.to_h { |name, dense| [name, Field.of(padded(dense, volume.distance && dense), source, as: (volume.distance && name == :density) ? :distance : :density).settled.laid(like)] }
      end

      # In whole bricks; beyond a distance it is as far as any, beyond other values there is nothing.
      def padded(dense, distance)
        out = Kernel::Buffer.new(:f32, *dense.shape.map { |n| (n + 15) / 16 * 16 })
        out.fill(dense.to_a.max) if distance
        out.tap { StepKernels.put(out, dense) }
      end

      def around(all) = [all.map(&:first).transpose.map(&:min), all.map(&:last).transpose.map(&:max)]

      # @return [Field] of nothing, from `room` below a place to `room` above another, in whole bricks
      def blank(low, high)
        voxel, room = @recipe["voxel"], @recipe["room"]
        first = low.map { |c| ((c - room) / voxel).floor * voxel }
        cells = first.zip(high).map { |from, to| ((to + room - from) / voxel).ceil + 1 }
        counts = cells.map { |n| (n + 15) / 16 }
        if cells.max > LONGEST || counts.reduce(:*) > 2 * MOST / 4096
          raise Refused.new("A sculpt of #{cells.join(" × ")} voxels is beyond what fits; make its voxels larger, or leave less room around.", code: "too_large")
        end

        given = %w[file run].include?(@recipe["from"])
        Field.even(Grid::Lattice.new(*first, voxel), counts.reverse, given ? 0.0 : @band, as: given ? :density : :distance)
      end
    end
  end
end
