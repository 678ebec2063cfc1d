# frozen_string_literal: true

module Vumbral
  module Preflight
    # Whether sculpts begin with something and their steps have what they need.
    class Sculpting
      # Words for what the dials of steps name.
      WORDS = {other: "prop", other_sculpt: "sculpt", volume_of: "sculpt", texture: "texture", points_of: "prop",
               flying: "emitter", mask_prop: "prop", mask_sculpt: "sculpt", mask_texture: "texture"}.freeze
      # What each way of beginning does nothing without.
      BEGINS = {"sculpt" => [:other, "sculpt"], "file" => [:volume, "file"], "particles" => [:emitter, "emitter"],
                "cache" => [:cache, "kept run"]}.freeze

      def initialize(survey)
        @document = survey.document
      end

      # @return [Array<Finding>]
      def findings
        @document.of(:sculpt).flat_map { |sculpt| [homeless(sculpt), circling(sculpt), unfed(sculpt)].compact } +
          @document.of(:step).flat_map { |step| [lost(step), lacking(step), masked(step), solo(step)].compact } +
          @document.of(:prop).filter_map { |prop| hollow(prop) } +
          (@document.of(:texture) + @document.of(:step)).filter_map { |node| cut_short(node) }
      end

      private

      def homeless(sculpt)
        return if %w[region run].include?(sculpt[:from])
        return absent(sculpt, *BEGINS[sculpt[:from]]) if BEGINS.key?(sculpt[:from])
        if [sculpt[:prop], *sculpt[:also]].compact.any? { |id|
             @document.nodes[id] && @document.on?(@document.node(id))
           }
          return
        end

        prop = @document.of(:prop).find { |node| node[:shape] != "plane" && node[:surface_of] != sculpt.id }
        Finding.new(
          code: "sculpt_of_nothing", node: sculpt.id, dial: :prop,
          text: "#{sculpt.name} begins with nothing; choose its prop.",
          remedy: prop && Finding.remedy("Begin with #{prop.name}", sculpt.id, prop: prop.id)
        )
      end

      def absent(sculpt, dial, word)
        return if sculpt[dial] && (%i[volume cache].include?(dial) || @document.nodes[sculpt[dial]])

        Finding.new(
          code: "sculpt_of_nothing", node: sculpt.id, dial: dial,
          text: "#{sculpt.name} begins with nothing; choose its #{word}."
        )
      end

      def circling(sculpt)
        return unless Geometry::Recipes.circle?(@document, sculpt)

        Finding.new(
          code: "sculpt_in_circle",
          node: sculpt.id,
          text:
            "#{sculpt.name} is made of itself, over other sculpts or a prop that is its surface, so it is empty; " \
              "choose another where the circle closes."
        )
      end

      # One that begins with a run has nothing where nothing feeds it.
      def unfed(sculpt)
        return unless sculpt[:from] == "run" && @document.of(:source).empty?

        Finding.new(
          code: "sculpt_without_run",
          node: sculpt.id,
          dial: :from,
          text:
            "#{sculpt.name} begins with the run of the shot, but no source feeds one; add a source, or begin with " \
              "something else."
        )
      end

      def lost(step)
        return if @document.nodes[step[:sculpt]]

        Finding.new(
          code: "step_of_nothing", node: step.id, dial: :sculpt, text: "#{step.name} belongs to no sculpt; choose one."
        )
      end

      def lacking(step)
        dial = Geometry::Recipes::Needs.dial(step)
        return if dial.nil? || @document.nodes[step[dial]]

        Finding.new(
          code: "step_without", node: step.id, dial: dial,
          text: "#{step.name} does nothing until you choose its #{WORDS[dial]}."
        )
      end

      def masked(step)
        dial = Geometry::Recipes::Needs::MASKS[step[:mask]]
        return if dial.nil? || @document.nodes[step[dial]]

        Finding.new(
          code: "step_without", node: step.id, dial: dial,
          text: "#{step.name} counts nowhere until you choose the #{WORDS[dial]} that it is bound to."
        )
      end

      # What is looked at only for now is easily forgotten.
      def solo(step)
        sculpt = @document.nodes[step[:sculpt]]
        return if !step[:upto] || sculpt.nil? || Geometry::Recipes.steps(@document, sculpt).last == step

        Finding.new(
          code: "sculpt_up_to", node: step.id, dial: :upto,
          text: "#{step.name} is the last that is carried out; what comes after it is left out.",
          remedy: Finding.remedy("Carry all steps out", step.id, upto: false)
        )
      end

      # A loop of other length than the shot jumps where that begins again.
      def cut_short(node)
        loops, long = node[:loops], @document.last_frame - @document.first_frame + 1
        return if !loops.positive? || (long % loops).zero? || !node.kind.dial(:loops).counts?(node)

        Finding.new(
          code: "loop_that_jumps",
          node: node.id,
          dial: :loops,
          text:
            "#{node.name} loops over #{loops} frames, but the shot has #{long}, so it jumps where the shot begins " \
              "again.",
          remedy: Finding.remedy("Loop over #{long} frames", node.id, loops: long)
        )
      end

      def hollow(prop)
        return if prop[:shape] != "sculpt" || @document.nodes[prop[:surface_of]]

        sculpt = @document.of(:sculpt).first
        Finding.new(
          code: "surface_of_nothing", node: prop.id, dial: :surface_of,
          text: "#{prop.name} is the surface of a sculpt, but of none that is there; choose it.",
          remedy: sculpt && Finding.remedy("Choose #{sculpt.name}", prop.id, surface_of: sculpt.id)
        )
      end
    end
  end
end
