# frozen_string_literal: true

module Vumbral
  module Studio
    # A draft that runs while a dial is under the hand: of edits that are not kept, so coarse that it keeps up, and let
    # go of afterwards.
    class LiveDraft
      # So many cells keep up.
      CELLS = 32**3
      # Frames of each are told by this.
      KIND = "live"

      def initialize(workshop)
        @workshop = workshop
      end

      # Begins one, instead of the one before.
      # @param edits [Array<Hash>] as {Shot::Edits} takes them; the shot stays as it is
      # @return [Hash, nil] :job, :voxel and the frame from which on it is another; nil where nothing of it can be run
      #   so
      # @raise [Refused] for edits that are refused
      def start(shot_id, edits)
        shot = @workshop.shots.fetch(shot_id)
        before = @workshop.shots.document(shot[:id])
        return unless edits.is_a?(Array) && edits.any? && edits.all? { |edit| runs?(before, edit) }

        document = coarse(Shot::Edits.apply(before, edits)[0])
        return if @workshop.runs.still?(document) || @workshop.liquids.any?(document)

        plan = plan(document)
        was = plan(coarse(before)).keys
        # What the shot has to run comes when the hand has let go.
        cut = cut_off(shot[:id])
        [KIND, "run"].each { |kind| @workshop.jobs.cancel_of(shot[:id], kind: kind) }
        {
          job: @workshop.jobs.add(KIND, shot[:id], {document: document.to_json, cut: cut}), voxel: plan.voxel,
          first: plan.keys.find { |frame, key| was[frame] != key }&.first
        }
      end

      # Ends it: its frames are let go, and what the shot has to run goes on.
      def finish(shot_id)
        shot = @workshop.shots.fetch(shot_id)[:id]
        cut = cut_off(shot)
        @workshop.jobs.cancel_of(shot, kind: KIND)
        tidy(shot)
        return if @workshop.jobs.active(shot).any? { |job| job[:kind] == "run" }

        cut ? @workshop.runs.start(shot, cut) : @workshop.runs.follow(shot)
      end

      # Lets go of frames that live drafts have left, of a shot or of all.
      def tidy(shot_id = nil)
        rows = @workshop.db[:jobs].where(kind: KIND)
        rows = rows.where(shot_id: shot_id) if shot_id
        left = rows.exclude(state: %w[queued running]).select_map(%i[id payload])
        return if left.empty?

        keys =
          left
            .flat_map do |_, payload|
              plan(@workshop.shots.read(JSON.parse(payload)["document"])).then do |plan|
                plan.keys.values + @workshop.runs.shown_keys(plan).values
              end
            end
            .uniq
        used = @workshop.holdings.used.to_set
        @workshop.holdings.let_go(keys.reject { |key| used.include?(key) })
        @workshop.db[:jobs].where(id: left.map(&:first)).delete
      end

      # @return [Gas::Plan] of a document of one
      def plan(document) = @workshop.runs.plan_of(document, "draft")

      private

      # Which run was going on before. @return [String, nil] its quality
      def cut_off(shot_id)
        run = @workshop.jobs.active(shot_id).find { |job| job[:kind] == "run" }
        return @workshop.runs.fetch(JSON.parse(run[:payload])["run"])[:quality] if run

        @workshop.db[:jobs]
          .where(kind: KIND, shot_id: shot_id)
          .select_map(:payload)
          .filter_map { |payload| JSON.parse(payload)["cut"] }
          .last
      end

      # Whether an edit sets something that is run.
      def runs?(document, edit)
        node = edit.is_a?(Hash) && document.nodes[edit["node"]]
        dial = node && %w[set key].include?(edit["do"]) && node.kind.dials[edit["dial"].to_s.to_sym]
        dial && dial.touches == :run
      end

      # With voxels so large that it keeps up; never finer than its draft.
      def coarse(document)
        factor = (plan(document).cells / CELLS.to_f)**(1.0 / 3.0)
        return document if factor <= 1.0

        chamber = document.the(:chamber)
        dial = chamber.kind.dials[:draft]
        document.put(chamber.set(:draft, (chamber[:draft] * factor).clamp(dial.range.begin, dial.range.end)))
      end
    end
  end
end
