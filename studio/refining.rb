# frozen_string_literal: true

module Vumbral
  module Studio
    # Gives the frames of a run their finer detail, once the run is there.
    class Refining
      # @param plan [Gas::Plan] of the run
      def initialize(workshop, document, plan)
        @workshop = workshop
        @document = document
        @plan = plan
        @keys = Gas::Detail.keys(plan)
      end

      # @return [Array<Integer>] frames whose detail is not there yet
      def missing(frames) = frames.reject { |frame| @workshop.frames.frame?(@keys[frame]) }

      # @yield [frame, key, facts] each frame as it is made
      # @return [Integer] how many were made
      def call(frames)
        wanted = missing(frames)
        return 0 if wanted.empty?

        detail = Gas::Detail.new(@plan, @workshop.assets)
        lap
        (@plan.frames.first..wanted.last).each do |frame|
          source = @plan.keys[frame]
          bricks, = @workshop.frames.read(source)
          fine = detail.call(bricks, frame, wanted: wanted.include?(frame))
          next unless fine

          finer = @document.the(:detail)[:finer]
          facts = @workshop.frames.facts([source])[source].except("bytes").merge("finer" => finer, "refining" => lap)
          @workshop.frames.write(@keys[frame], frame, fine, @plan, facts, finer: finer)
          yield frame, @keys[frame], facts
        end
        wanted.size
      end

      private

      # Seconds since it was asked last: from frame to frame, with all that is done besides.
      def lap
        before, @mark = @mark, Process.clock_gettime(Process::CLOCK_MONOTONIC)
        (@mark - (before || @mark)).round(4)
      end
    end
  end
end
