# frozen_string_literal: true

module Vumbral
  module Geometry
    # Volume, centre and inertia of closed meshes of even density, by tetrahedra to the origin (Tonon 2004).
    module Weight
      module_function

      # @param mesh [Mesh]; @param scale [Array<Float>]
      # @return [Array(Float, Array<Float>, Array<Array<Float>>)] volume, centre of mass, and the tensor about it for a
      #   density of one
      def of(mesh, scale = [1.0] * 3)
        points = mesh.points.to_a.each_slice(3).map { |point| point.zip(scale).map { |c, s| c * s } }
        volume, sum, products = 0.0, [0.0] * 3, Array.new(3) { [0.0] * 3 }
        mesh.triangles.to_a.each_slice(3) do |triangle|
          a, b, c = triangle.map { |n| points[n] }
          six =
            a[0] * (b[1] * c[2] - b[2] * c[1]) - a[1] * (b[0] * c[2] - b[2] * c[0]) + a[2] * (b[0] * c[1] - b[1] * c[0])
          volume += six / 6.0
          3.times do |i|
            s = a[i] + b[i] + c[i]
            sum[i] += six / 24.0 * s
            (i..2).each do |j|
              products[i][j] += six / 120.0 * (s * (a[j] + b[j] + c[j]) + a[i] * a[j] + b[i] * b[j] + c[i] * c[j])
            end
          end
        end
        centre = sum.map { |s| s / volume }
        [volume, centre, tensor(products, volume, centre)]
      end

      def tensor(products, volume, centre)
        about =
          Array.new(3) { |i| Array.new(3) { |j| products[[i, j].min][[i, j].max] - volume * centre[i] * centre[j] } }
        trace = about[0][0] + about[1][1] + about[2][2]
        Array.new(3) { |i| Array.new(3) { |j| ((i == j) ? trace : 0.0) - about[i][j] } }
      end
      private_class_method :tensor
    end
  end
end
