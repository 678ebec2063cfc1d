# frozen_string_literal: true

module Vumbral
  module Preflight
    # Whether fronts begin, get anywhere, and leave time to be seen.
    class Fronts
      # In fewer frames nobody sees a front run.
      FEW = 4

      def initialize(survey)
        @survey = survey
        @document = survey.document
      end

      # @return [Array<Finding>]
      def findings = @document.of(:front).flat_map { |front| of(front) } + unused

      private

      def of(front)
        row = Geometry::Front.row(@document, front, @document.last_frame)
        unless row
          return [
            finding(
              front, "front_nowhere", (front[:starts] == "after") ? :after : :prop,
              "#{front.name} has nothing to run over, so it never begins; choose a prop for it."
            )
          ]
        end

        arrivals, points = arrivals(front, row)
        reached = arrivals.select { |frame| frame <= @document.last_frame }
        if reached.size <= 1
          return [
            finding(
              front, "front_nowhere", :speed,
              "#{front.name} does not get anywhere by the last frame of the shot; let it begin earlier, or run faster."
            )
          ]
        end

        [at_once(front, arrivals), parted(front, arrivals, points)].compact
      rescue Refused => refused
        [finding(front, refused.code, (refused.code == "starts_nowhere") ? :box_position : :prop, refused.message)]
      end

      def arrivals(front, row)
        prop = @document.node(Geometry::Front.prop(@document, front))
        outline = Geometry::Shapes.outline(prop, document: @document, frame: @document.first_frame)
        mesh =
          Geometry::Shapes.build(
            outline, @survey.meshes, Geometry::Bodies.pose(prop, @document.first_frame, @document)["at"]
          )
        found = Geometry::Front.arrival(row, outline, mesh, @survey.meshes).to_a
        [found, found.count { |frame| frame >= Geometry::FrontKernels::NEVER }]
      end

      def at_once(front, arrivals)
        there = arrivals.select { |frame| frame < Geometry::FrontKernels::NEVER }
        frames = there.max - there.min
        return unless frames < FEW && front[:behind].zero?

        slower = (front[:speed] * frames / 48.0).clamp(0.001, 1000.0).round(3)
        text =
          "#{front.name} takes the whole of its prop within #{[frames.ceil, 1].max} frame#{"s" if frames > 1}; a " \
            "slower one is seen to run."
        finding(
          front, "front_at_once", :speed, text,
          front.curves.key?(:speed) ? nil : Finding.remedy("Let it take two seconds", front.id, speed: slower)
        )
      end

      def parted(front, arrivals, never)
        return if never.zero? || front.curves.key?(:speed) || front[:starts] == "sweep"

        share = (100.0 * never / arrivals.size).round
        finding(
          front, "front_parted", :places,
          "#{front.name} never reaches #{[share, 1].max} % of its prop, which is of several parts; pick a place on " \
            "each, or let a plane sweep over it."
        )
      end

      # Maps that have no front to go by.
      def unused
        alone =
          @document
            .of(:map)
            .select { |map| map[:what] == "near" && !@document.nodes.key?(map[:near].to_s) }
            .map do |map|
              Finding.new(
                code: "near_nothing", node: map.id, dial: :near,
                text: "#{map.name} goes by how near a prop is, but no prop is chosen, so it counts for nothing."
              )
            end
        alone +
          @document
            .of(:map)
            .select { |map| map[:what] == "front" && !@document.nodes.key?(map[:front].to_s) }
            .map do |map|
              Finding.new(
                code: "no_front", node: map.id, dial: :front,
                text: "#{map.name} goes by a front's age, but no front is chosen, so it counts for nothing."
              )
            end
      end

      def finding(front, code, dial, text, remedy = nil) =
        Finding.new(code: code, node: front.id, dial: dial, text: text, remedy: remedy)
    end
  end
end
