# frozen_string_literal: true

module Vumbral
  module Preflight
    # Whether sculpts begin with something and their steps have what they need.
    class Sculpting
      # Steps that do nothing without another thing, by the dial that names it.
      NEEDS = {"combine" => [:other, "prop"], "texture" => [:texture, "texture"]}.freeze

      def initialize(survey)
        @document = survey.document
      end

      # @return [Array<Finding>]
      def findings = @document.of(:sculpt).flat_map { |sculpt| [homeless(sculpt), beside_run(sculpt)].compact } + @document.of(:step).flat_map { |step| [lost(step), lacking(step)].compact }

      private

      def homeless(sculpt)
        return if [sculpt[:prop], *sculpt[:also]].compact.any? { |id| @document.nodes[id] && @document.on?(@document.node(id)) }

        prop = @document.of(:prop).find { |node| node[:shape] != "plane" }
        Finding.new(code: "sculpt_of_nothing", node: sculpt.id, dial: :prop, text: "#{sculpt.name} begins with nothing; choose its prop.",
          remedy: prop && Finding.remedy("Begin with #{prop.name}", sculpt.id, prop: prop.id))
      end

      def beside_run(sculpt)
        return if @document.of(:source).empty?

        Finding.new(code: "sculpt_beside_run", node: sculpt.id, text: "#{sculpt.name} is not seen while a source feeds the shot: one volume is shown, and that is the run's. Switch the sources off, or put it into a shot of its own.")
      end

      def lost(step)
        return if @document.nodes[step[:sculpt]]

        Finding.new(code: "step_of_nothing", node: step.id, dial: :sculpt, text: "#{step.name} belongs to no sculpt; choose one.")
      end

      def lacking(step)
        dial, word = NEEDS[step[:what]]
        return if dial.nil? || @document.nodes[step[dial]]

        Finding.new(code: "step_without", node: step.id, dial: dial, text: "#{step.name} does nothing until you choose its #{word}.")
      end
    end
  end
end
