# frozen_string_literal: true

require "digest"
require "json"

module Vumbral
  module Sculpt
    # What the steps of a sculpt begin with: distances to a surface, or values that are there already.
    class Beginning
      # So many cells along an edge at most, and so many bricks in its box; most of them are alike all through.
      LONGEST, MOST = 2048, 72_000

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
        when "points", "particles" then {density: points}
        when "sculpt" then Carving.new(@recipe["other"], @meshes).channels
        when "file" then given(@meshes.volume(@recipe["file"]))
        when "run" then given(run)
        else {density: bodies}
        end
      end

      # @return [Array(Array<Float>, Array<Float>)] the lowest and highest corner of what there is, without room around
      def box
        case @recipe["from"]
        when "region"
          @recipe
            .values_at("middle", "extent")
            .then { |middle, extent| [-0.5, 0.5].map { |half| middle.zip(extent).map { |c, e| c + half * e } } }
        when "sculpt"
          Beginning.new(@recipe["other"], @meshes, @band).box
        when "file"
          extent(@meshes.volume(@recipe["file"]))
        when "run"
          extent(run)
        when "particles"
          balls
        else
          around(Geometry::Bodies.parts(@recipe["bodies"], @meshes).map { |body| standing(body) })
        end
      end

      # How it goes along, where it was run or is moved as a whole.
      # @return [Drift::Source, nil]
      def drift
        case @recipe["from"]
        when "sculpt"
          Beginning
            .new(@recipe["other"], @meshes, @band)
            .drift
            &.tap { |source| source.pace *= @recipe.fetch("flows", 1.0) }
        when "file"
          @recipe["goes"] &&
            Drift::Source.new(nil, @meshes.volume(@recipe["file"]).lattice, stands, 0.0, @recipe["goes"])
        when "run"
          volume = run.then { |found| found.is_a?(Between) ? found.nearer : found }
          if volume.flow || @recipe["goes"]
            Drift::Source.new(volume.flow, volume.lattice, stands, @recipe.fetch("flows", 1.0), @recipe["goes"])
          end
        end
      end

      # Metres to the nearest of some bodies' surfaces.
      # @param parts [Array<Hash>] bodies as {Geometry::Bodies.of}; @param like [Field] whose lattice it lies on
      # @return [Field]
      def self.distance(parts, like, band, meshes)
        Geometry::Bodies.parts(parts, meshes).map { |part|
          part["goes"] ? gone(part, like, band, meshes) : told(*placed([part], meshes)[0], like, band)
        }.reduce { |one, other| one.with(other) { |out, a, b| StepKernels.combine(out, a, b, 1, 0.0) } }
      end

      # @param body [Geometry::Body]; @param rigid [Geometry::Transform] where it stands
      def self.told(body, rigid, like, band)
        near = Geometry::DistanceField.new(body, rigid, like.lattice, like.counts, band)
        blank = Field.even(like.lattice, like.counts, band, as: :distance)
        Field
          .new(*blank.to_a.tap { |all| all[2] = near.tiles })
          .replaced(near.marks) { |out, full| near.fill(out, full.places) }
      end

      # Of a body that goes about as it is: told once where it is at home, and read from there wherever it stands.
      def self.gone(part, like, band, meshes)
        pose = Geometry::Pose.of(part["to"])
        key = Digest::SHA256.digest(JSON.generate([part["outline"], pose.scale, pose.at, like.voxel, band]))
        home = Kept.fetch(key) do
          body = Geometry::Body.new(part["outline"], pose.scale, meshes, pose.at)
          low, high = body.mesh.bounds
          first = low.map { |c| c - band - 2.0 * like.voxel }
          counts = first.zip(high).map { |a, b| (((b - a + band) / like.voxel).ceil + 18) / 16 }
          {
            density:
              told(
                body, Geometry::Transform.place(position: [0.0] * 3),
                Field.even(Grid::Lattice.new(*first, like.voxel), counts.reverse, band, as: :distance), band
              )
          }
        end[:density]
        back = Kernel::Buffer.of(:f32, pose.rigid.inverse.rows.first(3).flatten)
        even = Field.even(like.lattice, like.counts, band, as: :distance)
        even.replaced(even.everywhere) do |out, full|
          FieldKernels.placed(out, full.places, like.lattice, home.cells, home.lattice, back, band)
        end
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
        field = Beginning.distance(@recipe["bodies"], blank(*box), @band, @meshes)
        wall = @recipe["skin"]
        wall ? field.each_value { |out, before| StepKernels.shell(out, before, wall) } : field
      end

      def points
        radius = @recipe["radius"]
        blank = blank(*balls)
        points = Points.new(places, @band + radius)
        blank.replaced(blank.everywhere) do |out, full|
          PointKernels.distance(out, full.places, blank.lattice, points.table, radius, @band)
        end
      end

      def places = @places ||= (@recipe["from"] == "particles") ? Points.flying(@recipe["thrown"], @meshes) : Points.corners(@recipe["bodies"], @meshes)

      # The box around a ball at each place; where there is none, around nothing much.
      def balls
        rows = (places.empty? ? [[0.0] * 3] : places).transpose
        [rows.map { |c| c.min - @recipe["radius"] }, rows.map { |c| c.max + @recipe["radius"] }]
      end

      def region
        middle, extent = @recipe.values_at("middle", "extent")
        blank = blank(*box)
        setting = Kernel::Buffer.of(:f32, middle + extent.map { |e| 0.5 * e })
        blank.replaced(blank.everywhere) do |out, full|
          StepKernels.region(out, full.places, blank.lattice, setting, @recipe["form"] == "ball", @band)
        end
      end

      # A frame of a run, or a moment between two.
      def run
        here = @meshes.frame(@recipe["run"])
        @recipe["next"] ? Between.new(here, @meshes.frame(@recipe["next"]), @recipe["part"], @recipe["lasts"]) : here
      end

      # A volume that is there: brought from a file, or a frame of a run, with what it holds as channels.
      # @param volume [#channels, #lattice, #distance, #sparse]
      def given(volume)
        source = volume.lattice
        # What stands as it was made keeps its cells.
        return {density: volume.sparse} if volume.sparse && !stands && @recipe["room"].zero?

        like = blank(*extent(volume))
        volume.channels.to_h do |name, dense|
          field =
            Field.of(
              padded(dense, volume.distance && name == :density), source,
              as: (volume.distance && name == :density) ? :distance : :density
            ).settled
          [name, stands ? placed(field, like) : field.laid(like)]
        end
      end

      def stands = @recipe["stands"] && Geometry::Transform.new(@recipe["stands"].each_slice(4).to_a)

      def extent(volume)
        source = volume.lattice
        low = [source.x, source.y, source.z]
        high = low.zip((volume.sparse || volume.channels[:density]).shape.reverse).map { |c, n| c + n * source.voxel }
        stands ? around_corners(low, high) : [low, high]
      end

      def around_corners(low, high)
        corners = 8.times.map { |n| stands.apply(3.times.map { |a| (n >> a & 1).zero? ? low[a] : high[a] }) }
        corners.transpose.map(&:minmax).transpose
      end

      # A field that was moved, turned or scaled; distances grow with it.
      def placed(field, like)
        outside = (field.as == :distance) ? field.tiles.to_a.max : 0.0
        inverse = Kernel::Buffer.of(:f32, stands.inverse.rows.first(3).flatten)
        even = Field.even(like.lattice, like.counts, outside, as: field.as)
        even
          .replaced(even.everywhere) do |out, full|
            FieldKernels.placed(out, full.places, like.lattice, field.cells, field.lattice, inverse, outside)
          end
          .then do |made|
            if field.as == :distance
              made.each_value do |out, before|
                StepKernels.scaled(out, before, @recipe["stands"].first(3).sum { |c| c * c }**0.5, 0.0)
              end
            else
              made
            end
          end
      end

      # In whole bricks; beyond a distance it is as far as any, beyond other values there is nothing.
      def padded(dense, distance)
        out = Kernel::Buffer.new(:f32, *dense.shape.map { |n| (n + 15) / 16 * 16 })
        out.fill(dense.to_a.max) if distance
        out.tap { StepKernels.put(out, dense) }
      end

      # The box of a body, for which it needs no tree.
      def standing(body)
        pose = Geometry::Pose.of(body["to"])
        Geometry::Body.box(Geometry::Body.sized(body["outline"], pose.scale, @meshes, pose.at), pose.rigid)
      end

      def around(all) = [all.map(&:first).transpose.map(&:min), all.map(&:last).transpose.map(&:max)]

      # @return [Field] of nothing, from `room` below a place to `room` above another, in whole bricks
      def blank(low, high)
        voxel, room = @recipe["voxel"], @recipe["room"]
        first = low.map { |c| ((c - room) / voxel).floor * voxel }
        cells = first.zip(high).map { |from, to| ((to + room - from) / voxel).ceil + 1 }
        counts = cells.map { |n| (n + 15) / 16 }
        if cells.max > LONGEST || counts.reduce(:*) > MOST
          raise Refused.new(
            "A sculpt of #{cells.join(" × ")} voxels is beyond what fits; make its voxels larger, or leave " \
              "less room around.",
            code: "too_large"
          )
        end

        given = %w[file run].include?(@recipe["from"])
        Field.even(
          Grid::Lattice.new(*first, voxel), counts.reverse, given ? 0.0 : @band, as: given ? :density : :distance
        )
      end
    end
  end
end
