# frozen_string_literal: true

module Vumbral
  module Geometry
    # Curves by their handles (de Casteljau 1959).
    module Bezier
      module_function

      # @param handles [Array<Array<Float>>] from the start over the handles to the end
      # @return [Array<Array<Float>>] points on it without the start, as many as there are steps
      def points(handles, steps)
        (1..steps).map do |n|
          t = n.to_f / steps
          row = handles
          row = row.each_cons(2).map { |a, b| a.zip(b).map { |x, y| x + t * (y - x) } } while row.size > 1
          row[0]
        end
      end
    end
  end
end
