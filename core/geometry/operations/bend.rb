# frozen_string_literal: true

module Vumbral
  module Geometry
    # One part of {Operations}.
    module Operations
      # Bends or twists a shape about its axis, between two heights of the box around it (Barr 1984).
      module Bend
        AXES = {"x" => 0, "y" => 1, "z" => 2}.freeze

        module_function

        # @return [Mesh]
        def call(mesh, row, _meshes)
          axis = AXES.fetch(row["axis"])
          low, high = mesh.bounds
          from, to =
            [row["bend_from"], row["bend_to"]].minmax.map { |part| low[axis] + part * (high[axis] - low[axis]) }
          return mesh if to - from < 1e-9

          middle = low.zip(high).map { |a, b| 0.5 * (a + b) }
          setting = [axis, from, to, row["angle"] * Math::PI / 180, row.fetch("towards", 0.0) * Math::PI / 180, *middle]
          points = Kernel::Buffer.new(:f32, *mesh.points.shape)
          if row["what"] == "twist"
            DeformKernels.twist(points, mesh.points, of(setting))
          else
            DeformKernels.bend(points, mesh.points, of(setting))
          end
          mesh.with(points)
        end

        def of(setting) = Kernel::Buffer.of(:f32, setting.map(&:to_f))
        private_class_method :of
      end
    end
  end
end
