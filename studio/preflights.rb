# frozen_string_literal: true

module Vumbral
  module Studio
    # What would go wrong in a shot as it stands; kept while it stays as it is.
    class Preflights
      def initialize(workshop)
        @workshop = workshop
      end

      # @return [Array<Hash>] code, node, dial, text, remedy
      def of(shot_id)
        row = @workshop.shots.fetch(shot_id)
        stamp = [row[:id], *@workshop.shots.stamp(row)]
        document = @workshop.shots.document(row[:id])
        @kept = [stamp, survey(document).map { |finding| finding.to_h.compact }] unless @kept && @kept[0] == stamp
        return @kept[1] if document.of(:sculpt).empty? && document.of(:liquid).empty? && placed(document).empty?

        # And what frames tell that were made meanwhile.
        @kept[1] + made(document).map { |finding| finding.to_h.compact }
      end

      private

      def survey(document)
        Preflight::Survey.new(document, @workshop.assets).findings + memory(document)
      rescue Refused => error
        # A mesh that is gone, say: that is what would go wrong.
        [Preflight::Finding.new(code: error.code, text: error.message)]
      end

      def made(document)
        surfaces =
          document
            .of(:prop)
            .select { |prop| prop[:shape] == "sculpt" && prop[:shown] && document.nodes[prop[:surface_of]] }
        surfaces.filter_map { |prop| hollow(document, prop) || flashing(document, prop) } +
          document.of(:step).filter_map { |step| astray(document, step) } +
          placed(document).filter_map { |prop| gone(document, prop) } + [unseen(document), lost(document)].compact
      rescue Refused
        # Said by the survey.
        []
      end

      # Props with the liquid of kept runs.
      def placed(document) = document.of(:prop).select { |prop| prop[:shape] == "liquid" && prop[:kept] }

      # One of which there is nothing to be seen.
      def gone(document, prop)
        return if (document.first_frame..document.last_frame).any? { |frame| document.made(frame, prop) }

        Preflight::Finding.new(
          code: "kept_gone", node: prop.id, dial: :kept,
          text: "#{prop.name} shows nothing: its kept run holds no liquid, or was let go.",
          remedy: Preflight::Finding.remedy("Show the shot's own", prop.id, kept: nil)
        )
      end

      # A surface whose threshold nothing comes to.
      def hollow(document, prop)
        return unless @workshop.surfaces.empty?(document, prop)

        Preflight::Finding.new(code: "surface_empty", node: prop.id, dial: :threshold, text: "#{prop.name} is empty: nothing of #{document.node(prop[:surface_of]).name} is as dense as its threshold.",
          remedy: prop.curves.key?(:threshold) ? nil : Preflight::Finding.remedy("Take half of it", prop.id, threshold: (0.5 * prop[:threshold]).round(4)))
      end

      # Strokes that were painted where their sculpt does not reach.
      def astray(document, step)
        sculpt = document.nodes[step[:sculpt]]
        return if step[:what] != "brush" || sculpt.nil? || step[:follows]

        low, high = @workshop.sculpts.reach(document, sculpt)
        outside = low ? step[:strokes].count { |stroke| stroke["places"].none? { |place| 3.times.all? { |a| place[a].between?(low[a] - stroke["radius"], high[a] + stroke["radius"]) } } } : 0
        return if outside.zero?

        Preflight::Finding.new(
          code: "stroke_outside",
          node: step.id,
          dial: :strokes,
          text:
            "#{outside} stroke#{"s" if outside > 1} of #{step.name} lie#{"s" if outside == 1} beyond what " \
              "#{sculpt.name} reaches and change#{"s" if outside == 1} nothing; leave more room around it.",
          remedy: Preflight::Finding.remedy("Twice the room", sculpt.id, room: [2.0 * sculpt[:room], 0.1].max)
        )
      end

      # A surface that is there on one frame and not on the next: its values cross the threshold all at once.
      def flashing(document, prop)
        frames = @workshop.surfaces.flashes(document, prop)
        return if frames.size < 2

        lower = (0.6 * prop[:threshold, frames[0]]).round(4)
        Preflight::Finding.new(code: "surface_flashes", node: prop.id, dial: :threshold,
          text: "#{prop.name} comes and goes at once at frame#{"s" if frames.size > 1} #{FrameList.words(frames)}: values cross its threshold everywhere together. Take another threshold, or let waves reach wider.",
          remedy: prop.curves.key?(:threshold) ? nil : Preflight::Finding.remedy("Take a threshold of #{lower}", prop.id, threshold: lower))
      end

      # Sculpts that came to nothing, or to all of their box, on every frame that was made.
      def unseen(document)
        facts =
          @workshop
            .frames
            .facts(@workshop.sculpts.keys_of(document, "draft").values.uniq)
            .values
            .select { |row| row["most"] }
        return if facts.empty?

        sculpt = document.of(:sculpt).find { |node| node[:shown] }
        if facts.all? { |row| row["most"] < 0.01 }
          Preflight::Finding.new(
            code: "sculpt_unseen",
            node: sculpt.id,
            text:
              "Nothing is left of #{sculpt.name} after its steps; look at their small pictures for the one that " \
                "takes it."
          )
        elsif facts.all? { |row| row["filled"] > 0.97 }
          Preflight::Finding.new(
            code: "sculpt_full",
            node: sculpt.id,
            text:
              "#{sculpt.name} fills all of its box, so that the box is seen; something was added where there was " \
                "nothing. Keep what lies between, or bind the step to a prop."
          )
        end
      end

      # A share of a liquid's particles that may leave it without a word.
      LOST = 0.03
      private_constant :LOST

      # A liquid of which much has left through open sides, as far as it was run.
      def lost(document)
        return unless @workshop.liquids.any?(document)

        facts = @workshop.frames.facts(@workshop.liquids.keys(document, "draft").values).values
        left, most = facts.sum { |row| row["left"].to_i }, facts.map { |row| row["drops"].to_i }.max.to_i
        return if most.zero? || left < LOST * (most + left)

        liquid = document.of(:liquid)[0]
        Preflight::Finding.new(
          code: "liquid_left",
          node: liquid.id,
          dial: :size,
          text:
            "#{(100.0 * left / (most + left)).round} % of #{liquid.name} left its box; make it larger, or close a " \
              "side, if that is not wanted."
        )
      end

      def memory(document)
        node = "chamber"
        @workshop.machine.check(Gas::Plan.new(document, :full))
        node = document.of(:liquid)[0]&.id
        @workshop.machine.check_liquid(Liquid::Plan.of(document, :full))
        []
      rescue Refused => error
        [Preflight::Finding.new(code: "too_large", node: node, dial: :voxel, text: error.message)]
      end
    end
  end
end
