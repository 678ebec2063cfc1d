# frozen_string_literal: true

module Vumbral
  module Geometry
    # A closed mesh as a shell of some depth and the core below it, both closed.
    module Shell
      # Faces of the core along the longest side.
      FACES = 28

      module_function

      # @param mesh [Mesh] closed; @param depth [Float] metres
      # @return [Array(Mesh, Mesh), nil] shell and core; nil where nothing lies so deep
      def of(mesh, depth)
        core = core(mesh, depth)
        return if core.empty?

        core = core.named(Cells::INSIDE)
        [Mesh.joined([mesh.named("outside"), core.flipped]), core]
      end

      # Where the distance to the surface is the depth.
      def core(mesh, depth)
        low, high = mesh.bounds
        edge = low.zip(high).map { |a, b| b - a }.max / FACES
        Operations::Remesh.surface(edge, [low, high], {"name" => "Shell"}) do |grid|
          field = grid.distance(mesh, depth + 3.0 * edge)
          Kernel::Buffer.of(:f32, field.to_a.map { |distance| distance + depth }, *field.shape)
        end
      end
      private_class_method :core
    end
  end
end
