# frozen_string_literal: true

module Vumbral
  module Studio
    # Makes the surface of a liquid's frame of its particles, as the run left them.
    class SkinWork
      # Stands for the stage that made them.
      Sorted = Struct.new(:first)

      def initialize(task)
        @workshop = task.workshop
        @asked = task.payload
      end

      # @return [Hash] the :frame
      def call
        plan = @workshop.liquids.plan(@workshop.shots.read(@asked["document"]), @asked["quality"])
        state = LiquidStates.new(@workshop.frames).read(key, Farm::Skins::ENDING) || raise(Refused.new("The particles of frame #{@asked["frame"]} are gone; run the shot again.", code: "no_frame"))
        solver = Liquid::Solver.new(size: plan.size, voxel: plan.voxel, open: plan.open)
        solver.sort(state)
        @workshop.liquids.write(key, @asked["frame"], plan, state, Sorted.new(solver.first), @asked["facts"].transform_keys(&:to_sym))
        {frame: @asked["frame"]}
      end

      # @param result [Hash] of {#call}
      def settle(result)
        @workshop.frames.drop_part(key, Farm::Skins::ENDING)
        result
      end

      private

      def key = @asked["key"]
    end
  end
end
