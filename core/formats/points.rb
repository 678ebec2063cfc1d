# frozen_string_literal: true

module Vumbral
  module Formats
    # Points that came in.
    module Points
      FARTHEST = 1.0e9

      module_function

      # @param numbers [Array<Numeric>] x y z, x y z, …
      # @return [Kernel::Buffer] f32 [n, 3]
      # @raise [Refused] where one is no number or lies too far away
      def checked(numbers, name)
        within(Kernel::Buffer.of(:f32, numbers.map(&:to_f), numbers.size / 3, 3), name)
      end

      # @param points [Kernel::Buffer] f32 [n, 3]; the same is given back
      def within(points, name)
        return points if points.dim(0).zero? || Geometry::MeshKernels.farthest(points) <= FARTHEST

        n = points.to_a.each_slice(3).find_index { |point| point.any? { |c| !(c.abs <= FARTHEST) } }
        raise Refused.new(
          "Point #{n + 1} of #{name} is not three finite numbers within 1e9 of the origin.", code: "bad_mesh"
        )
      end
    end
  end
end
