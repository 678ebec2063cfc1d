# frozen_string_literal: true

module Vumbral
  module Geometry
    # Where a thing stands: moved, turned (degrees about x, then y, then z), scaled.
    class Transform
      # @return [Array<Array<Float>>] three rows of four
      attr_reader :rows

      def initialize(rows)
        @rows = rows
      end

      def self.identity = new([[1.0, 0.0, 0.0, 0.0], [0.0, 1.0, 0.0, 0.0], [0.0, 0.0, 1.0, 0.0]])

      # @param position [Array<Float>] metres
      # @param turn [Array<Float>] degrees
      # @param scale [Array<Float>]
      def self.place(position: [0.0, 0.0, 0.0], turn: [0.0, 0.0, 0.0], scale: [1.0, 1.0, 1.0])
        (cx, sx), (cy, sy), (cz, sz) =
          turn.map { |degrees| [Math.cos(degrees * Math::PI / 180), Math.sin(degrees * Math::PI / 180)] }
        rotation = [
          [cz * cy, cz * sy * sx - sz * cx, cz * sy * cx + sz * sx],
          [sz * cy, sz * sy * sx + cz * cx, sz * sy * cx - cz * sx],
          [-sy, cy * sx, cy * cx]
        ]
        new(rotation.each_with_index.map { |row, i| row.each_with_index.map { |r, j| r * scale[j] } + [position[i]] })
      end

      def apply(point) = @rows.map { |row| row[0] * point[0] + row[1] * point[1] + row[2] * point[2] + row[3] }

      # @return [Transform] what leads back
      def inverse
        a, b, c = @rows.map { |row| row.first(3) }
        cross = ->(p, q) { [p[1] * q[2] - p[2] * q[1], p[2] * q[0] - p[0] * q[2], p[0] * q[1] - p[1] * q[0]] }
        columns = [cross.call(b, c), cross.call(c, a), cross.call(a, b)]
        determinant = a.zip(columns[0]).sum { |x, y| x * y }
        turned = 3.times.map { |i| columns.map { |column| column[i] / determinant } }
        shift = @rows.map { |row| row[3] }
        Transform.new(turned.map { |row| row + [-row.zip(shift).sum { |x, y| x * y }] })
      end

      # This after another.
      def *(other)
        Transform.new(@rows.map do |row|
          4.times.map { |j| 3.times.sum { |i| row[i] * other.rows[i][j] } + ((j == 3) ? row[3] : 0.0) }
        end)
      end

      # What only turns, turned further about the world's axes by a small vector.
      # @param by [Array<Float>] radians
      # @return [Transform]
      def turned(by)
        angle = Math.sqrt(by.sum { |c| c * c })
        return self if angle < 1e-15

        x, y, z = by.map { |c| c / angle }
        c, s = Math.cos(angle), Math.sin(angle)
        d = 1.0 - c
        Transform.new(
          [
            [c + x * x * d, x * y * d - z * s, x * z * d + y * s, 0.0],
            [y * x * d + z * s, c + y * y * d, y * z * d - x * s, 0.0],
            [z * x * d - y * s, z * y * d + x * s, c + z * z * d, 0.0]
          ]
        ) * self
      end

      # The velocity field of a body that goes from one place to another in `seconds`, as a
      # transform from a place in the world at this moment to metres a second.
      def self.motion(from, now, to, seconds)
        back = now.inverse
        before, after = from * back, to * back
        new(after.rows.zip(before.rows).map { |a, b| a.zip(b).map { |x, y| (x - y) / seconds } })
      end

      # @return [Array<Float>] degrees about x, then y, then z, of one that only turns and moves
      def angles
        r = @rows
        y = Math.asin((-r[2][0]).clamp(-1.0, 1.0))
        # Straight up or down only the sum of the other two counts.
        if r[2][0].abs > 1.0 - 1e-9
          return [0.0, y, Math.atan2(-r[0][1], r[1][1])].map { |angle| angle * 180 / Math::PI }
        end

        found = [Math.atan2(r[2][1], r[2][2]), y, Math.atan2(r[1][0], r[0][0])].map { |angle| angle * 180 / Math::PI }
        Transform.near([0.0] * 3, found)
      end

      # The same turn in other angles, as near as can be to those of another.
      # @return [Array<Float>]
      def self.near(other, angles)
        x, y, z = angles
        [[x, y, z], [x + 180.0, 180.0 - y, z + 180.0]].map do |one|
          one.zip(other).map { |a, b| a - 360.0 * ((a - b) / 360.0).round }
        end
          .min_by { |one| one.zip(other).sum { |a, b| (a - b).abs } }
      end

      # @return [Boolean] whether it turns a shape inside out
      def mirrors?
        a, b, c = @rows
        (a[0] * (b[1] * c[2] - b[2] * c[1]) - a[1] * (b[0] * c[2] - b[2] * c[0]) + a[2] * (b[0] * c[1] - b[1] * c[0])).negative?
      end
    end
  end
end
