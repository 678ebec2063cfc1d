# frozen_string_literal: true

module Vumbral
  module Studio
    # Makes the frame of a liquid, with its surface, of what the run has kept of it.
    class SkinWork
      def initialize(task)
        @workshop = task.workshop
        @asked = task.payload
      end

      # @return [Hash] the :frame
      def call
        plan = @workshop.liquids.plan(@workshop.shots.read(@asked["document"]), @asked["quality"])
        @workshop.liquids.dress(@asked["key"], @asked["frame"], plan, @asked["facts"].transform_keys(&:to_sym))
        {frame: @asked["frame"]}
      end
    end
  end
end
