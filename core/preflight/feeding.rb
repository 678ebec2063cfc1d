# frozen_string_literal: true

module Vumbral
  module Preflight
    # Whether anything is fed at all: sources without an origin, never on, too cold to light their fuel,
    # or from a body without an inside.
    class Feeding
      def initialize(survey)
        @survey = survey
        @document = survey.document
      end

      # @return [Array<Finding>]
      def findings
        return [] if @document.all_of(:source).empty? && lit?
        return [nothing] if @survey.feeding.empty?

        @document.of(:source).filter_map { |source| origin(source) || never(source) || sheet(source) || cold(source) }
      end

      private

      # Whether something else makes a picture: a fog, a sculpt, a liquid, or a beam that is seen.
      def lit? =
        @document.of(:fog).any? || @document.of(:sculpt).any? || @document.of(:liquid).any? ||
          @document.of(:lamp).any? { |lamp| lamp[:as] == "spot" && (lamp[:beam].positive? || lamp.curves.key?(:beam)) }

      def nothing
        off = @document.all_of(:source).first if @document.of(:source).empty?
        return switched_off(off) if off

        source = @document.of(:source).first
        return origin(source) if source && @survey.origins(source).any?

        Finding.new(
          code: "no_source",
          node: source&.id,
          dial: source && :prop,
          remedy: source && first_prop(source),
          text:
            "Nothing feeds this shot: " \
              "#{source ? "choose the prop or the emitter that #{source.name} comes from" : "add a source"}."
        )
      end

      def first_prop(source)
        prop = @document.of(:prop).find { |node| node[:shape] != "plane" }
        prop && Finding.remedy("Feed from #{prop.name}", source.id, prop: prop.id)
      end

      def switched_off(source)
        Finding.new(code: "all_off", node: source.id, text: "Nothing feeds this shot: every source is switched off.",
          remedy: switch_on(source))
      end

      def switch_on(node)
        {label: "Switch #{node.name} on", edits: [{"do" => "switch", "node" => node.id, "off" => false}]}
      end

      def origin(source)
        return if @survey.origin?(source)

        off = @survey.origins(source).first
        if off
          return Finding.new(code: "origin_off", node: source.id, remedy: off.off? ? switch_on(off) : nil,
            text: "#{source.name} feeds nothing, for #{off.name} is switched off.")
        end

        dial = (source[:from] == "particles") ? :emitter : :prop
        Finding.new(code: "no_origin", node: source.id, dial: dial, remedy: (dial == :prop) ? first_prop(source) : nil,
          text: "#{source.name} feeds nothing, for no #{dial} is chosen for it.")
      end

      def never(source)
        return if @survey.active(source).any?

        frames = [@document.first_frame, @document.last_frame]
        outside = source[:first] > frames[1] || (source[:last].positive? && source[:last] < frames[0])
        Finding.new(code: "never_on", node: source.id, dial: outside ? :first : :strength,
          text: "#{source.name} never feeds: #{outside ? "its frames are outside the shot's, #{frames.join(" to ")}" : "its feeding is 0 throughout"}.",
          remedy: outside ? Finding.remedy("Feed from frame #{frames[0]} to the end", source.id, first: frames[0], last: 0) : Finding.remedy("Set its feeding to 1", source.id, strength: 1.0))
      end

      # A sheet has no inside; a torn body has one.
      def sheet(source)
        return unless source[:from] == "inside"

        prop = @survey.props_of(source).find { |node| !inside?(node) }
        prop &&
          Finding.new(
            code: "no_inside", node: source.id, dial: :from,
            remedy: Finding.remedy("Feed from the surface", source.id, from: "surface"),
            text: "#{source.name} feeds from the inside of #{prop.name}, which has none."
          )
      end

      def inside?(prop)
        mesh = @survey.shape(prop)
        mesh.volume.abs > 1e-4 * [mesh.area, 1e-12].max**1.5
      end

      # Fuel that nothing lights.
      def cold(source)
        chamber = @document.the(:chamber)
        frames = @survey.active(source).select { |frame| source[:fuel, frame].positive? }
        return if frames.empty? || frames.any? { |frame| hottest(chamber, frame) >= chamber[:ignite, frame] }

        ignite = frames.map { |frame| chamber[:ignite, frame] }.max
        Finding.new(
          code: "never_lights",
          node: source.id,
          dial: :temperature,
          text: "The fuel of #{source.name} never lights: it burns above #{ignite.round} K, and no source is that hot.",
          remedy:
            Finding.remedy(
              "Set its temperature to #{(ignite + 400).round} K", source.id, heats: true, warm_as: "hold",
              temperature: [ignite + 400.0, 6000.0].min
            )
        )
      end

      # The hottest that any source makes the gas. What is added by the second may reach anything.
      def hottest(chamber, frame)
        @survey.feeding.map do |source|
          next chamber[:ambient] unless source[:heats] && Shot::Timing.strength(source, frame).positive?

          (source[:warm_as] == "add") ? Float::INFINITY : source[:temperature, frame]
        end.max
      end
    end
  end
end
