# frozen_string_literal: true

module Vumbral
  module Studio
    # What would go wrong in a shot as it stands; kept while it stays as it is.
    class Preflights
      def initialize(workshop)
        @workshop = workshop
      end

      # @return [Array<Hash>] code, node, dial, text, remedy
      def of(shot_id)
        row = @workshop.shots.fetch(shot_id)
        stamp = [row[:id], *@workshop.shots.stamp(row)]
        return @kept[1] if @kept && @kept[0] == stamp

        @kept = [stamp, survey(@workshop.shots.document(row[:id])).map { |finding| finding.to_h.compact }]
        @kept[1]
      end

      private

      def survey(document)
        Preflight::Survey.new(document, @workshop.assets).findings + memory(document)
      rescue Refused => error
        # A mesh that is gone, say: that is what would go wrong.
        [Preflight::Finding.new(code: error.code, text: error.message)]
      end

      def memory(document)
        @workshop.machine.check(Gas::Plan.new(document, :full))
        []
      rescue Refused => error
        [Preflight::Finding.new(code: "too_large", node: "chamber", dial: :voxel, text: error.message)]
      end
    end
  end
end
