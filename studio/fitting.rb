# frozen_string_literal: true

module Vumbral
  module Studio
    # Fits the chamber to what is to be in it.
    class Fitting
      TO = %w[prop sources run].freeze
      # Room around what it is fitted to, in parts of its largest side, and above sources, from which smoke rises.
      ROOM, RISE = 0.12, 1.5

      def initialize(workshop)
        @workshop = workshop
      end

      # @param to [String] "prop" (the given one), "sources" over all their time, or "run": what the last one filled
      # @return [Hash] the step, see {Shots#step}
      # @raise [Refused] where there is nothing to fit to
      def call(shot_id, to, node: nil, by: nil)
        document = @workshop.shots.document(shot_id)
        low, high, words =
          case to
          when "prop"
            around(bodies(document, document.node(node.to_s)), document) + [document.node(node.to_s).name]
          when "sources"
            around(fed(document), document, RISE) + ["its sources"]
          when "run"
            filled(shot_id, document) + ["what the last run filled"]
          else
            raise Refused.new(
              "A chamber is fitted to #{TO[..-2].join(", ")} or #{TO[-1]}, not #{to.inspect[0, 20]}.",
              code: "bad_value"
            )
          end
        @workshop.shots.step(shot_id, edits(low, high), "Chamber fitted to #{words}", by: by)
      end

      private

      # Around a mark means around all that goes with it.
      def bodies(document, node)
        return [node] unless Shot::Groups.mark?(node)

        all =
          document
            .of(:prop)
            .select { |prop| !Shot::Groups.mark?(prop) && Shot::Groups.over(document, prop).include?(node) }
        if all.empty?
          raise Refused.new(
            "Nothing with a body goes with #{node.name} that the chamber could be fitted to.", code: "bad_value"
          )
        end

        all
      end

      def fed(document)
        props =
          document
            .of(:source)
            .flat_map { |source| [source[:prop], *source[:also]].compact }
            .uniq
            .map { |id| document.node(id) }
        if props.empty?
          raise Refused.new("There is no source with a prop to fit the chamber to; add one first.", code: "no_source")
        end

        props
      end

      # With room around, at every frame on which anything moves.
      def around(props, document, rise = 0.0)
        wrong = props.find { |prop| prop.kind.name != :prop }
        raise Refused.new("#{wrong.name} is no prop to fit the chamber to.", code: "bad_value") if wrong

        survey = Preflight::Survey.new(document, @workshop.assets)
        boxes = props.product(survey.frames).map { |prop, frame| survey.bounds(prop, frame) }
        low, high = boxes.map(&:first).transpose.map(&:min), boxes.map(&:last).transpose.map(&:max)
        room = ROOM * low.zip(high).map { |a, b| b - a }.max
        low, high = low.map { |c| c - room }, high.map { |c| c + room }
        high[1] += rise * (high[0] - low[0] + high[2] - low[2])
        [low, high]
      end

      def filled(shot_id, document)
        heads = %w[full draft].lazy.map { |quality| heads(shot_id, quality) }.find(&:any?)
        unless heads
          raise Refused.new(
            "No frame of the shot has been run since the last change; run a draft first.", code: "not_run"
          )
        end

        low = heads.map { |corner, _| corner }.transpose.map(&:min)
        high = heads.map { |_, far| far }.transpose.map(&:max)
        [low, high]
      end

      # Lowest and highest corner of what is in each frame that was run.
      def heads(shot_id, quality)
        plan = @workshop.runs.plan(shot_id, quality)
        there = @workshop.frames.facts(plan.keys.values)
        plan.keys.values.select { |key| there.key?(key) }.filter_map do |key|
          bricks, head = @workshop.frames.read(key)
          size = bricks.size.reverse
          next if size.any?(&:zero?)

          [head["corner"], head["corner"].zip(size).map { |c, n| c + n * head["voxel"] }]
        end
      end

      def edits(low, high)
        size = low.zip(high).map { |a, b| (b - a).round(3).clamp(0.05, 10_000.0) }
        place = [0.5 * (low[0] + high[0]), low[1], 0.5 * (low[2] + high[2])].map { |c| c.round(3) }
        # In the world, whatever it goes with.
        [
          {"do" => "place", "node" => "chamber", "position" => place},
          {"do" => "set", "node" => "chamber", "dial" => "size", "value" => size}
        ]
      end
    end
  end
end
