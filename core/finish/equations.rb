# frozen_string_literal: true

module Vumbral
  module Finish
    # A few linear equations at once.
    module Equations
      module_function

      # Gauss's elimination, by the largest number that is left in each column.
      # @param rows [Array<Array<Float>>] n of them, n factors and what they come to
      # @return [Array<Float>, nil] nothing where they do not say it
      def solve(rows)
        rows = rows.map(&:dup)
        rows.each_index do |n|
          best = (n...rows.size).max_by { |row| rows[row][n].abs }
          return nil if rows[best][n].abs < 1e-12

          rows[n], rows[best] = rows[best], rows[n]
          (n + 1...rows.size).each do |row|
            factor = rows[row][n] / rows[n][n]
            rows[row] = rows[row].zip(rows[n]).map { |a, b| a - factor * b }
          end
        end
        found = Array.new(rows.size, 0.0)
        (rows.size - 1).downto(0) do |n|
          found[n] = (rows[n].last - (n + 1...rows.size).sum { |c| rows[n][c] * found[c] }) / rows[n][n]
        end
        found
      end
    end
  end
end
