# frozen_string_literal: true

module Vumbral
  module Geometry
    # One part of {Operations}.
    module Operations
      # Takes faces away at random: with a larger share the same ones and more.
      module Pierce
        module_function

        # @return [Mesh]
        def call(mesh, row, _meshes)
          order = (0...mesh.count).to_a.shuffle(random: Random.new(row["seed"]))
          kept = order.drop((row["share"] * mesh.count).round).sort
          kept.empty? ? Mesh.from([], []) : mesh.only(kept, mesh.parts[0].name)
        end
      end
    end
  end
end
