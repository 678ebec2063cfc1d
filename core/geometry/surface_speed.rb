# frozen_string_literal: true

module Vumbral
  module Geometry
    # How fast the points of a surface go. Of the same triangles at another moment that is told outright; a surface that
    # is made anew, as those of sculpts are, tells only how fast it goes along its normals.
    module SurfaceSpeed
      module_function

      # @param now [Mesh]; @param later [Mesh, nil] at another moment; nothing stands still
      # @param seconds [Float] between them, below 0 where the other was before
      # @return [Kernel::Buffer] f32 [n, 3], m/s at each point of `now`
      def of(now, later, seconds)
        out = Kernel::Buffer.new(:f32, *now.points.shape)
        return out if later.nil? || later.count.zero? || now.count.zero?

        if Clip.alike?(now, later)
          MeshKernels.rates(out, now.points, later.points, 1.0 / seconds)
        else
          normals = Kernel::Buffer.new(:f32, *now.points.shape)
          MeshKernels.point_normals(normals, now.points, now.triangles)
          MeshKernels.towards(out, now.points, normals, BVH.new(later).tree, 1.0 / seconds)
        end
        out
      end
    end
  end
end
