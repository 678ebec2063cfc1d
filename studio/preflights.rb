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
        # What frames tell that were made meanwhile.
        @kept[1] + (document.of(:sculpt).any? ? made(document).map { |finding| finding.to_h.compact } : [])
      end

      private

      def survey(document)
        Preflight::Survey.new(document, @workshop.assets).findings + memory(document)
      rescue Refused => error
        # A mesh that is gone, say: that is what would go wrong.
        [Preflight::Finding.new(code: error.code, text: error.message)]
      end

      def made(document)
        document.of(:prop).select { |prop| prop[:shape] == "sculpt" && prop[:shown] }.filter_map { |prop| flashing(document, prop) } + [unseen(document)].compact
      rescue Refused
        # Said by the survey.
        []
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
        facts = @workshop.frames.facts(@workshop.sculpts.keys_of(document, "draft").values.uniq).values.select { |row| row["most"] }
        return if facts.empty?

        sculpt = document.of(:sculpt).find { |node| node[:shown] }
        if facts.all? { |row| row["most"] < 0.01 }
          Preflight::Finding.new(code: "sculpt_unseen", node: sculpt.id, text: "Nothing is left of #{sculpt.name} after its steps; look at their small pictures for the one that takes it.")
        elsif facts.all? { |row| row["filled"] > 0.97 }
          Preflight::Finding.new(code: "sculpt_full", node: sculpt.id, text: "#{sculpt.name} fills all of its box, so that the box is seen; something was added where there was nothing. Keep what lies between, or bind the step to a prop.")
        end
      end

      def memory(document)
        @workshop.machine.check(Gas::Plan.new(document, :full))
        []
      rescue Refused => error
        [Preflight::Finding.new(code: "too_large", node: "chamber", dial: :voxel, text: error.message)]
      end
    end
  end
end
