# frozen_string_literal: true

module Vumbral
  module Flow
    # A shot's sources at a frame as plain data; a source in a row is as many as it has copies, each
    # later, elsewhere and of another strength.
    class Sources
      # @param plan [Planning]; @param dials [Array<Symbol>] what is told of each
      def initialize(plan, frame, dials)
        @dials = dials
        @plan = plan
        @document = plan.document
        @frame = frame
      end

      # @yield [node, at] what else is to be told of one, which counts that frame
      # @return [Array<Hash>]
      def to_a(&more)
        @document.of(@plan.feeding).flat_map { |node| (0...node[:copies]).filter_map { |n| one(node, n, &more) } }
      end

      private

      def one(node, n)
        strength = Shot::Timing.copy_strength(node, n, @frame)
        return unless strength.positive?

        at = Shot::Timing.own_frame(node, n, @frame)
        numbers = @dials.to_h { |dial| [dial.to_s, Shot::Timing.copied(node, n, dial, at)] }
        numbers["colour"] = nil if numbers.key?("colour") && !node[:coloured]
        from = (node[:from] == "particles") ? {"emitter" => node[:emitter]} : {"bodies" => bodies(node, n)}
        return if from.values.all? { |value| value.nil? || value.empty? }

        maps = Geometry::MapRows.of(@document, node, at)
        numbers
          .merge(from, "strength" => strength, "copy" => n)
          .merge(maps.empty? ? {} : {"maps" => maps})
          .merge(block_given? ? yield(node, at) : {})
      end

      def bodies(node, n)
        shift = Shot::Timing.place(node, n)
        [node[:prop], *node[:also]].compact.uniq.flat_map { |id| @plan.bodies(id, @frame) }.map do |body|
          next body if shift.all?(&:zero?)

          body.merge(%w[from to].to_h { |moment|
            [moment, body[moment].merge("position" => body[moment]["position"].zip(shift).map(&:sum))]
          })
        end
      end
    end
  end
end
