# frozen_string_literal: true

module Vumbral
  module Geometry
    # A mesh that moves by itself: one mesh for each of its frames, and how they follow each other. Between two
    # frames of the same triangles points go straight on; others stay as they were until the next.
    class Clip
      # What it does past its end.
      AFTER = %w[hold again back].freeze
      # So many frames' meshes are remembered.
      KIN = 4
      private_constant :KIN

      attr_reader :frames, :rate, :step

      # @param frames [Array<Object>] what names each frame's mesh; @param rate [Float, nil] how many there are in a
      #   second; nil where one is for so many frames of the shot as `step` says
      def initialize(frames, rate: nil, step: 1)
        @frames = frames
        @rate = rate
        @step = step
      end

      # @param at [Numeric] frames of the shot since it began; @param shot_rate [Numeric] how many of them in a second
      # @param after [String] of {AFTER}
      # @return [Float] which of its frames that is, from 0
      def place(at, shot_rate, after)
        last = @frames.size - 1
        return 0.0 if last.zero? || at <= 0.0

        place = @rate ? at * @rate / shot_rate.to_f : at / @step.to_f
        case after
        when "again" then place % last
        when "back" then last - (place % (2 * last) - last).abs
        else [place, last.to_f].min
        end
      end

      # @param place [Float] as {#place} gives it; @yieldparam frame [Object] @yieldreturn [Mesh]
      # @return [Mesh]
      def mesh(place)
        n = place.floor.clamp(0, @frames.size - 1)
        from = kin(@frames[n]) { |frame| yield(frame) }
        part = place - n
        return from if part < 1e-6 || n == @frames.size - 1

        to = kin(@frames[n + 1]) { |frame| yield(frame) }
        return from unless Clip.alike?(from, to)

        from.with(
          Kernel::Buffer
            .new(:f32, *from.points.shape)
            .tap { |out| DeformKernels.between(out, from.points, to.points, part) }
        )
      end

      # A frame's mesh, with the triangles of the others where they are the same, so that what is known of these is
      # known.
      def kin(frame)
        kept = @kin&.assoc(frame)
        return kept[1] if kept

        mesh = yield(frame)
        @first ||= mesh
        mesh = @first.with(mesh.points) if !mesh.equal?(@first) && mesh.places.nil? && mesh.paint.nil? &&
          mesh.colours.nil? && mesh.parts == @first.parts && Clip.alike?(mesh, @first)
        @kin = [[frame, mesh], *@kin.to_a.first(KIN - 1)]
        mesh
      end
      private :kin

      # @return [Boolean] whether two meshes have the same triangles over as many points
      def self.alike?(one, other)
        return true if one.equal?(other)
        return one.points.dim(0) == other.points.dim(0) if one.triangles.equal?(other.triangles)

        one.points.dim(0) == other.points.dim(0) && one.count == other.count &&
          one.triangles.bytes == other.triangles.bytes
      end
    end
  end
end
