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
          9.times { |c| colours[n, 5 + c] = 0.0 }
        end
      end

      # Where corners lie in pictures, in the tree's order.
      kernel places: F32[2], from: F32[2], order: I32[1]
      def lay(places, from, order)
        parallel(order.size) { |n| 6.times { |c| places[n, c] = from[order[n], c] + 0.0 } }
      end

      # What lies over a prop's own colour: `mixes` f32 [m, 3], how much of it at each corner, below 0 where there is
      # none; `seconds` f32 [props, 6], its colour and the glow of what is on its way there.
      kernel colours: F32[2], mixes: F32[2], seconds: F32[2], owner: I32[1], order: I32[1]
      def mix(colours, mixes, seconds, owner, order)
        parallel(order.size) do |n|
          t = order[n]
          if mixes[t, 0] >= 0.0
            3.times { |c| colours[n, 5 + c] = mixes[t, c] + 0.0 }
            6.times { |c| colours[n, 8 + c] = seconds[owner[n], c] + 0.0 }
          end
        end
      end

      # Triangles whose file gives them colours have the mean of their corners': `dyes` f32 [m, 9], below 0 for none.
      kernel colours: F32[2], dyes: F32[2], order: I32[1]
      def dye(colours, dyes, order)
        parallel(order.size) do |n|
          t = order[n]
          3.times { |c| colours[n, c] = (dyes[t, c] + dyes[t, 3 + c] + dyes[t, 6 + c]) / 3.0 } if dyes[t, 0] >= 0.0
        end
      end
    end
  end
end
