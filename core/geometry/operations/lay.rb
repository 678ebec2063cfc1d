# frozen_string_literal: true

module Vumbral
  module Geometry
    # One part of {Operations}.
    module Operations
      # Says where each corner lies in a picture.
      module Lay
        FLAT, BOX, CYLINDER, BALL = 0, 1, 2, 3
        WAYS = {"flat" => FLAT, "box" => BOX, "cylinder" => CYLINDER, "ball" => BALL}.freeze

        module_function

        # @return [Mesh]
        def call(mesh, row, _meshes)
          return unwrapped(mesh, row) if row["lay_as"] == "parts"

          places = Kernel::Buffer.new(:f32, mesh.count, 6)
          turn = row["lay_turn"] * Math::PI / 180
          OperationKernels.lay(
            places, mesh.points, mesh.triangles, WAYS.fetch(row["lay_as"]), 1.0 / row["lay_size"], Math.cos(turn),
            Math.sin(turn)
          )
          unless [row["lay_aside"], row["lay_above"]].all? { |far| far.to_f.zero? }
            OperationKernels.slide(places, -row["lay_aside"].to_f, -row["lay_above"].to_f)
          end
          Mesh.new(mesh.points, mesh.triangles, mesh.parts, places: places, paint: mesh.paint, colours: mesh.colours)
        end

        # Part by part, none over another, all of them at one scale.
        def unwrapped(mesh, row)
          welded = Welding.welded(mesh)
          charts = Charts.new(mesh, row["lay_cone"]).to_a
          values = Array.new(welded.count)
          charts.zip(Atlas.new(charts, row["lay_gap"]).places) do |chart, places|
            chart.faces.zip(places) { |face, corners| values[face] = corners }
          end
          Mesh.new(
            welded.points, welded.triangles, welded.parts,
            places: Kernel::Buffer.of(:f32, values.flatten, welded.count, 6), paint: welded.paint,
            colours: welded.colours
          )
        end
      end
    end
  end
end
