# frozen_string_literal: true

module Vumbral
  module Studio
    # Sparks for the view, frame by frame; the swarms are kept while the shot stays as it is.
    class Glimpses
      def initialize(workshop)
        @workshop = workshop
        @lock = Mutex.new
      end

      # @return [String] f32, ten numbers each, see {Picture::Sparks#at}
      def sparks(shot_id, frame)
        @lock.synchronize do
          document = @workshop.shots.document(shot_id)
          @sparks = Picture::Sparks.new(document, @workshop.assets) unless @document.equal?(document)
          @document = document
          frame = frame.clamp(document.first_frame, document.last_frame)
          @sparks.any? ? @sparks.at(frame).bytes : ""
        end
      end
    end
  end
end
