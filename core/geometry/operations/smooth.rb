# frozen_string_literal: true

module Vumbral
  module Geometry
    # One part of {Operations}.
    module Operations
      # Brings each point towards its neighbours and back again a little further, so that bumps go and the size stays
      # (Taubin 1995). Open edges stay where they are.
      module Smooth
        TOWARDS, BACK = 0.63, -0.64

        module_function

        # @return [Mesh]
        def call(mesh, row, _meshes)
          edges = Edges.new(mesh)
          starts, others = edges.neighbours
          held = Kernel::Buffer.new(:u8, edges.count)
          edges.open.flatten.each { |n| held[n] = 1 }
          from, to = Array.new(2) { edges.mesh.points.copy }
          row["rounds"].times do
            [TOWARDS, BACK].each do |share|
              OperationKernels.relax(to, from, starts, others, held, share)
              from, to = to, from
            end
          end
          edges.mesh.with(from)
        end
      end
    end
  end
end
