# frozen_string_literal: true

module Vumbral
  module Shot
    # What acts in time, row by row: how strong each thing is at each frame.
    class Timeline
      TINTS = {source: "smoke", chamber: "speed", annex: "speed", force: "speed", emitter: "heat", sun: "light", lamp: "light",
               look: "heat", prop: "fog", operation: "fog", sculpt: "fog", step: "fog", front: "heat", blast: "heat"}.freeze
      # By which dial each kind that comes and goes is seen to act.
      ACTS = {source: :strength, inflow: :strength, kick: :strength, force: :strength, emitter: :rate, front: :speed}.freeze

      def initialize(document)
        @document = document
        @frames = (document.first_frame..document.last_frame).to_a
      end

      # @return [Array<Hash>] node, dial, name, tint, values (one a frame), peak, keys; and where there is such a
      #   thing: spans (dials that are frames), beyond, formula, slopes of each key
      def rows
        on = Kinds.all.each_key.flat_map { |kind| @document.of(kind).map(&:id) }.to_set
        @document.nodes.values.flat_map { |node| own(node).map { |row| row.merge(off: !on.include?(node.id)) } }
      end

      private

      # Kept as long as the thing itself, for most stay as they are from one change to the next.
      def own(node)
        node.remember([:timeline, @frames.first, @frames.last]) { dials(node).map { |dial| row(node, dial) } }
      end

      def dials(node)
        acts = ACTS[node.kind.name]
        return [] if node.kind.name == :marker

        # What is as it comes, and says nothing, is no row.
        silent = ->(dial) { dial.zero && node[dial.name].zero? }

        node.kind.dials.values.select do |dial|
          node.curves.key?(dial.name) || dial.name == acts ||
            (dial.time == :at && dial.counts?(node) && !silent.call(dial))
        end
      end

      def value(node, dial, frame)
        return (frame >= node[dial.name]) ? 1.0 : 0.0 if dial.time == :at
        return node[dial.name, frame] unless ACTS[node.kind.name] == dial.name
        return Timing.strength(node, frame) if %i[source inflow].include?(node.kind.name)
        return Timing.runs?(node, frame) ? node[:speed, frame] : 0.0 if node.kind.name == :front

        Timing.on?(node, frame) ? node[dial.name, frame] : 0.0
      end

      # How thick the ribbon is: the number itself, or how far a place has gone from its first.
      def thickness(value, first)
        case value
        when Array then Math.sqrt(value.flatten.zip(first.flatten).sum { |a, b| (a - b)**2 }).round(5)
        when true, false then value ? 1.0 : 0.0
        else value.to_f.round(5)
        end
      end

      def row(node, dial)
        values = @frames.map { |frame| value(node, dial, frame) }
        acts = ACTS[node.kind.name] == dial.name
        thick = values.map { |value| thickness(value, values.first) }
        {
          node: node.id, dial: dial.name, name: acts ? node.name : "#{node.name}: #{dial.label.downcase}",
          kind: node.kind.name, tint: TINTS.fetch(node.kind.name, "liquid"), values: thick,
          raw: values.first.is_a?(Numeric) ? nil : values, peak: [thick.map(&:abs).max, 1e-9].max,
          keys: node.keyed(dial.name).to_a
        }.merge(spans(node, dial, acts), course(node, dial))
      end

      # Frames among its dials, which are moved in the timeline like keys.
      def spans(node, dial, acts)
        times = acts ? node.kind.dials.values.select { |other| %i[from to].include?(other.time) } : [dial]
          .select { |own| own.time == :at }
        if times.empty?
          {}
        else
          {spans: times.map { |time| {dial: time.name, label: time.label, at: time.time, frame: node[time.name]} }}
        end
      end

      def course(node, dial)
        curve = node.keyed(dial.name)
        # Places have too many parts to be drawn as curves.
        slopes = (curve && dial.type != :places) ? {slopes: curve.slopes, beyond: [curve.before, curve.after]} : {}
        rule = node.rule(dial.name)
        rule ? slopes.merge(formula: rule.to_data, fixed: !dial.keyed || nil).compact : slopes
      end
    end
  end
end
