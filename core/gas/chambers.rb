# frozen_string_literal: true

module Vumbral
  module Gas
    # All chambers of a shot, frame by frame: each {Domain} by itself, with its own substeps and its own
    # part that follows the content.
    class Chambers
      # @param plan [Plan]; @param meshes [#mesh] gives the mesh of a digest
      def initialize(plan, meshes)
        props = Flow::Props.new(plan, meshes)
        @stages = plan.domains.map { |domain| Stage.new(plan, meshes, domain: domain, props: props) }
      end

      # @return [Array<State>] one for each domain, with nothing in it yet
      def still = @stages.map(&:still)

      # @param states [Array<State>] of the frame before; taken over
      # @return [Array(Array<State>, Report)]
      def advance(states, frame)
        done = @stages.zip(states).map { |stage, state| stage.advance(state, frame) }
        [done.map(&:first), Report.joined(done.map(&:last))]
      end
    end
  end
end
