# frozen_string_literal: true

module Vumbral
  module Geometry
    # Where a thing stands at a moment: position (m), turn (degrees about x, then y, then z), scale; and for one
    # that moves by itself, how many frames it has done so.
    Pose = Struct.new(:position, :turn, :scale, :at) do
      # @param data [Hash] "position", "turn", "scale" and perhaps "at"
      def self.of(data) = new(data["position"], data["turn"], data["scale"], data["at"])

      # Part of the way to another: 0 here, 1 there.
      def towards(other, part)
        return self if self == other

        Pose.new(
          *to_a.first(3).zip(other.to_a).map { |from, to| from.zip(to).map { |a, b| a + part * (b - a) } },
          at && at + part * (other.at - at)
        )
      end

      def transform = Transform.place(position: position, turn: turn, scale: scale)

      # Without its scale: a rigid motion, which keeps distances.
      def rigid = Transform.place(position: position, turn: turn)

      def to_data = {"position" => position, "turn" => turn, "scale" => scale}.merge(at ? {"at" => at} : {})
    end
  end
end
