# frozen_string_literal: true

module Vumbral
  module Preflight
    # Whether there is a liquid, whether it is held, seen, and met by what shall move it.
    class Pouring
      def initialize(survey)
        @survey = survey
        @document = survey.document
        @liquid = @document.of(:liquid)[0]
      end

      # @return [Array<Finding>]
      def findings
        return [*missing, *dry] unless @liquid

        @plan = Liquid::Plan.new(@document, :full)
        @box = Box.of(@plan)
        [
          empty, line, deep, steep, narrow, ajar, unseen, *asked(Tanks),
          *@document.of(:inflow).map { |inflow| inflow(inflow) }, *asked(Kicks), *walls, *dry, *colourless
        ].compact
      end

      private

      def asked(checks) = checks.new(@survey, @liquid, @plan, @box).findings

      # What has no liquid to act on.
      def missing
        node =
          (@document.of(:inflow) + @document.of(:kick))[0] ||
          @document.of(:prop).find { |prop| prop[:shape] == "liquid" && prop[:kept].nil? && prop[:shown] }
        return [] unless node

        adds = {"do" => "add", "kind" => "liquid", "name" => "Liquid"}
        [
          Finding.new(
            code: "no_liquid", node: node.id,
            text: "#{node.name} has no liquid: the shot has no liquid chamber that counts.",
            remedy: @document.all_of(:liquid).empty? ? {label: "Add a liquid", edits: [adds]} : nil
          )
        ]
      end

      # Forces that go by spray of which there is none.
      def dry
        return [] if @liquid&.[](:spray)

        @document.of(:force).select { |force| force[:what] == "spray" }.map do |force|
          Finding.new(
            code: "no_spray",
            node: force.id,
            dial: :what,
            text:
              "#{force.name} goes along with spray, but " \
                "#{@liquid ? "#{@liquid.name} throws none" : "there is no liquid that throws any"}.",
            remedy: @liquid && Finding.remedy("Let it throw spray", @liquid.id, spray: true)
          )
        end
      end

      # Inflows with a colour that does not count.
      def colourless
        return [] if @liquid[:dyed]

        @document
          .of(:inflow)
          .select do |inflow|
            inflow.kind.dials[:dye].counts?(inflow) && (inflow.values.key?(:dye) || inflow.curves.key?(:dye))
          end
          .map do |inflow|
            Finding.new(
              code: "colour_idle", node: inflow.id, dial: :dye,
              text: "#{inflow.name} has a colour, but #{@liquid.name} has none, so it is not seen.",
              remedy: Finding.remedy("Let it have colours", @liquid.id, dyed: true)
            )
          end
      end

      def empty
        if @liquid[:pool] || @document.of(:inflow).any? { |inflow| inflow[:does] != "drain" && @survey.origin?(inflow) }
          return
        end

        Finding.new(
          code: "liquid_empty",
          node: @liquid.id,
          dial: :pool,
          text:
            "There is nothing in #{@liquid.name}: fill it up to a water line, or add an inflow and choose its prop.",
          remedy: Finding.remedy("Fill it at first", @liquid.id, pool: true)
        )
      end

      def line
        return if !@liquid[:pool] || @liquid[:line] < @liquid[:size][1] - 2 * @plan.voxel

        Finding.new(
          code: "liquid_full",
          node: @liquid.id,
          dial: :line,
          text:
            "The water line of #{@liquid.name} stands at the top of its box, so there is no room for anything to move.",
          remedy: Finding.remedy("Half of the box", @liquid.id, line: 0.5 * @liquid[:size][1])
        )
      end

      # Voxels below the water line, and particles, from which on those deep below are worth leaving out.
      DEEP, MANY, KEPT = 32, 2_000_000, 6
      private_constant :DEEP, :MANY, :KEPT

      def deep
        voxels = (@liquid[:line] / @plan.voxel).round
        return if @plan.drops < MANY || voxels < DEEP || @plan.band.positive? || @plan.dyed? || @liquid[:tank]

        Finding.new(
          code: "pool_deep",
          node: @liquid.id,
          dial: :band,
          text:
            "#{@liquid.name} is #{voxels} voxels deep and takes some #{(@plan.drops / 1e6).round} million " \
              "particles, most of them where nothing is seen.",
          remedy: Finding.remedy("Particles down to #{KEPT} voxels", @liquid.id, band: KEPT)
        )
      end

      def sends? = @liquid[:waves_from] != "none"

      # What would break as it comes in.
      def steep
        number = 2.0 * Math::PI / @liquid[:wave_length]
        most = 0.14 * @liquid[:wave_length] * Math.tanh(number * @liquid[:line])
        return if !sends? || @liquid.curves.key?(:wave_height) || @liquid[:wave_height] <= most

        Finding.new(
          code: "waves_break", node: @liquid.id, dial: :wave_height,
          text: "Waves of #{@liquid.name} are so high for their length that they break as they come in.",
          remedy: Finding.remedy("As high as they can be", @liquid.id, wave_height: (0.8 * most).round(4))
        )
      end

      # Zones that leave nothing between them.
      def narrow
        return if !sends? && @liquid[:calms] == "none"

        room = (if %w[z0 z1].include?(@liquid[:waves_from])
                  [2]
                else
                  (@liquid[:calms] == "none") ? [0] : [0, 2]
        end).map { |axis| @liquid[:size][axis] }.min
        return if 2.0 * @liquid[:wave_zone] < room

        Finding.new(
          code: "waves_room", node: @liquid.id, dial: :wave_zone,
          text: "The zones before the sides of #{@liquid.name} meet, so that nothing between them moves freely.",
          remedy: Finding.remedy("A quarter of the box", @liquid.id, wave_zone: (0.25 * room).round(3))
        )
      end

      # A side that waves cannot come from, for all runs out there.
      def ajar
        side = @liquid[:waves_from]
        return unless sends? && @liquid[:"open_#{side}"]

        Finding.new(
          code: "waves_open", node: @liquid.id, dial: :waves_from,
          text: "Waves of #{@liquid.name} come from a side that is open, so that all runs out there.",
          remedy: Finding.remedy("Close it", @liquid.id, "open_#{side}": false)
        )
      end

      def unseen
        if @document
            .of(:prop)
            .any? { |prop| prop[:shape] == "liquid" && prop[:kept].nil? && (prop[:shown] || prop.curves.key?(:shown)) }
          return
        end

        Finding.new(
          code: "liquid_unseen",
          node: @liquid.id,
          text: "#{@liquid.name} is not seen: no prop shows its surface.",
          remedy: {
            label: "Show its surface",
            edits: [
              {
                "do" => "add",
                "kind" => "prop",
                "name" => "Surface of #{@liquid.name}"[0, 80],
                "dials" => {
                  "shape" => "liquid", "clear" => 1.0, "bends" => 1.33, "shine" => 0.5, "rough" => 0.03,
                  "colour" => [0.02, 0.03, 0.03], "casts" => false
                }
              }
            ]
          }
        )
      end

      def inflow(node)
        unless @survey.origin?(node)
          return if @survey.origins(node).any?

          return (
            Finding.new(
              code: "inflow_nowhere", node: node.id, dial: (node[:from] == "particles") ? :emitter : :prop,
              text: "#{node.name} pours from nothing: choose the prop or the emitter that it comes from."
            )
          )
        end
        active =
          (@document.first_frame..@document.last_frame).select { |frame| Shot::Timing.strength(node, frame).positive? }
        if active.empty?
          return (
            Finding.new(
              code: "inflow_never", node: node.id, dial: :first,
              text: "#{node.name} is never on between frames #{@document.first_frame} and #{@document.last_frame}.",
              remedy: Finding.remedy("From the first frame on", node.id, first: @document.first_frame, last: 0)
            )
          )
        end
        outside(node, active) unless node[:from] == "particles"
      end

      # An inflow that never is inside.
      def outside(node, active)
        looked = active.select.with_index { |_, n| (n % [active.size / 8, 1].max).zero? }
        if @survey.props_of(node).any? { |prop| looked.any? { |frame| @box.meets?(@survey.bounds(prop, frame)) } }
          return
        end

        Finding.new(
          code: "inflow_outside", node: node.id, dial: :prop,
          text: "#{node.name} never is inside the box of #{@liquid.name}, so nothing comes from it."
        )
      end

      # Bodies in the liquid's way that are thinner than a voxel let it through.
      def walls
        @document
          .of(:prop)
          .select do |prop|
            prop[:collider] && prop[:body] == "solid" && prop[:shape] != "liquid" && prop.id != @liquid[:tank]
          end
          .filter_map do |prop|
            next unless @box.meets?(@survey.bounds(prop, @document.first_frame))

            mesh = @survey.shape(prop)
            size = prop[:scale].map(&:abs).min
            thick = mesh.closed? ? 2.0 * mesh.volume.abs / [mesh.area, 1e-12].max * size : 0.0
            next if thick >= @plan.voxel

            Finding.new(
              code: "wall_thin",
              node: prop.id,
              dial: :body,
              text:
                "#{prop.name} is thinner than a voxel of #{@liquid.name} (#{format("%.3g", @plan.voxel)} m), so that " \
                  "liquid would pass.",
              remedy: Finding.remedy("Stand in the way as a shell", prop.id, body: "shell", shell: 2.0)
            )
          end
      end
    end
  end
end
