# frozen_string_literal: true

module Vumbral
  module Picture
    # Puts what belongs to triangles into the order of their tree.
    module SceneKernels
      extend Kernel::Library

      kernel normals: F32[2], colours: F32[2], owner: I32[1], from: F32[2], tints: F32[2], owners: I32[1], order: I32[1]
      def sort(normals, colours, owner, from, tints, owners, order)
        parallel(order.size) do |n|
          t = order[n]
          9.times { |c| normals[n, c] = from[t, c] }
          owner[n] = owners[t]
          5.times { |c| colours[n, c] = tints[owners[t], c] }
        end
      end
    end
  end
end
