# frozen_string_literal: true

module Vumbral
  module Studio
    # Frames as people write them.
    module FrameList
      MOST_RUNS = 6

      module_function

      # @param frames [Array<Integer>] in order
      # @return [String] for example "1-12, 14 and 20-36"; "" for none
      def words(frames)
        runs =
          frames
            .slice_when { |a, b| b != a + 1 }
            .map { |run| (run.size > 1) ? "#{run.first}-#{run.last}" : run.first.to_s }
        runs = runs.first(MOST_RUNS - 1) + ["#{runs.size - MOST_RUNS + 1} more runs of frames"] if runs.size > MOST_RUNS
        (runs.size > 1) ? "#{runs[0...-1].join(", ")} and #{runs.last}" : runs.join
      end
    end
  end
end
