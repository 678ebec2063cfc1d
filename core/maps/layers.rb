# frozen_string_literal: true

module Vumbral
  module Maps
    # What is strong where on a surface: a list of maps, each joined with what the ones before it came to.
    class Layers
      HOW = {"times" => 0, "plus" => 1, "minus" => 2, "most" => 3}.freeze

      # @param rows [Array<Hash>] from {Geometry::MapRows.of}; @param meshes [#mesh, #picture]
      def initialize(rows, meshes)
        @rows = rows
        @meshes = meshes
      end

      # @param mesh [Geometry::Mesh] in its own space; @param outline [Hash] what it is of
      # @param transform [Geometry::Transform] where it stands in the world
      # @return [Kernel::Buffer] f32 [m, 3], 0 to 1 at each corner
      # @raise [Refused]
      def at(mesh, outline, transform)
        count = 3 * mesh.count
        own = Kernel::Buffer.new(:f32, count, 3).tap { |out| LayerKernels.corners(out, mesh.points, mesh.triangles) }
        world = nil
        sum = Kernel::Buffer.new(:f32, count).fill(%w[times minus].include?(@rows[0]["how"]) ? 1.0 : 0.0)
        @rows.each do |row|
          places = (row["space"] == "own") ? own : world ||= moved(mesh, transform, count)
          LayerKernels.fold(
            sum, layer(row, mesh, outline, places, sum), HOW.fetch(row["how"]), row["opacity"], row["inverted"]
          )
        end
        Kernel::Buffer.new(:f32, mesh.count, 3, bytes: sum.bytes)
      end

      private

      def moved(mesh, transform, count)
        Kernel::Buffer
          .new(:f32, count, 3)
          .tap { |out| LayerKernels.corners(out, mesh.transformed(transform).points, mesh.triangles) }
      end

      def layer(row, mesh, outline, places, sum)
        out = Kernel::Buffer.new(:f32, 3 * mesh.count)
        case row["what"]
        when "front"
          front(out, row, mesh, outline)
        when "box"
          LayerKernels.box(out, places, of(*row["position"], *row["size"], row["soft"]))
        when "ball"
          LayerKernels.ball(out, places, of(*row["position"], row["radius"], row["soft"]))
        when "near"
          near(out, row, places)
        when "noise"
          LayerKernels.noise(
            out, places,
            of(1.0 / row["grain"], row["octaves"], row["time"] * row["change"], row["seed"], row["level"], row["hard"])
          )
        when "picture"
          picture(out, row, mesh)
        when "paint"
          LayerKernels.spread(out, paint(row, mesh), mesh.triangles)
        when "formula"
          formula(out, row, places, sum)
        end
        out
      end

      def of(*numbers) = Kernel::Buffer.of(:f32, numbers.map(&:to_f))

      def near(out, row, places)
        Geometry::Bodies.parts([row["body"]], @meshes).each do |part|
          pose = Geometry::Pose.of(part["to"])
          body = Geometry::Body.new(part["outline"], pose.scale, @meshes, pose.at)
          next if body.mesh.empty?

          LayerKernels.near(
            out, places, body.tree, of(*pose.rigid.inverse.rows.first(3).flatten, row["reach"], row["soft"]),
            body.inside?
          )
        end
        LayerKernels.times(out, row["times"]) if row["times"]
      end

      def front(out, row, mesh, outline)
        LayerKernels.spread(out, Geometry::Front.arrival(row["front"], outline, mesh, @meshes), mesh.triangles)
        LayerKernels.aged(out, of(row["front"]["frame"], row["front"]["rate"], row["rise"], row["lasts"], row["fall"]))
      end

      def picture(out, row, mesh)
        places =
          mesh.places ||
          raise(
            Refused.new(
              "#{row["name"]} reads a picture, but its prop has no texture places; lay them out first, or take " \
                "another map.",
              code: "no_texture_places"
            )
          )
        digest =
          row["picture"] ||
          raise(
            Refused.new(
              "#{row["name"]} takes its strength from a picture, but none was brought for it.", code: "no_picture"
            )
          )
        LayerKernels.picture(out, places, @meshes.picture(digest))
      end

      def paint(row, mesh)
        mesh.paint ||
          raise(
            Refused.new(
              "#{row["name"]} takes its strength from point colours, but its prop has none; export the mesh with " \
                "colours, or take another map.",
              code: "no_paint"
            )
          )
      end

      def formula(out, row, places, sum)
        LayerKernels.fold(out, sum, 3, 1.0, false)
        setting =
          Shot::Formula.setting(
            frame: row["frame"], time: row["time"], seed: row["seed_of_shot"], first: [0.0] * 3, voxel: 1.0,
            low: [0.0] * 3, size: [1.0] * 3
          )
        LayerKernels.formula(out, places, Shot::Formula.new(row["formula"]).program, setting)
      end
    end
  end
end
