# frozen_string_literal: true

module Vumbral
  module Studio
    # Which frames of a shot there are to look at, in one quality.
    class FrameStates
      # So many runs are looked through for a frame from before a change.
      LOOKED_BACK = 6
      private_constant :LOOKED_BACK

      # @param shot [Integer] its id; @param quality [String]
      def initialize(workshop, shot, quality)
        @workshop, @shot, @quality = workshop, shot, quality
        @runs = workshop.runs
      end

      # "fresh" are of the shot as it stands, "stale" of its last run before a change, or rough: its finer detail is
      # not there yet.
      # @return [Hash] quality, size, voxel and rows of frame, state, key, light, whether lit, facts, whether rough
      def call
        last = @runs.latest(@shot, @quality)
        keys = @runs.shown_keys(plan)
        facts = @workshop.frames.facts(keys.values)
        missing = keys.reject { |_, key| facts.key?(key) }.keys
        rough = rough(missing)
        before = before(missing - rough[:keys].keys)
        facts.merge!(rough[:facts], before[:facts])
        olds = before[:keys].merge(rough[:keys])
        rows = keys.map do |frame, key|
          state, shown = if facts.key?(key) then ["fresh", key]
          else
            olds[frame] ? ["stale", olds[frame]] : ["none", nil]
          end
          seen =
            shown &&
            @workshop.sculpts.beside(
              document, frame, @quality, shown, olds.merge(keys.select { |_, made| facts.key?(made) })
            )
          light = shown && @workshop.views.light_key(document, frame)
          {frame: frame, state: state, key: seen, light: light, lit: shown && @workshop.views.made?(seen, light),
           facts: facts[shown]}.merge(rough[:keys].key?(frame) ? {rough: true} : {})
        end
        rows = still if @runs.still?(document)
        rows = wet(rows) if @workshop.liquids.any?(document)
        {
          quality: @quality,
          size: plan.size.reverse,
          voxel: plan.voxel,
          corner: plan.corner,
          boxes: plan.boxes,
          memory: plan.memory,
          run: last && last[:number],
          forecast:
            Runs::QUALITIES.to_h { |name| [name, @workshop.forecast.whole(document, @runs.plan(@shot, name), @shot)] },
          foreseen: @workshop.forecast.last(@shot),
          rows: rows
        }.merge(room)
      end

      private

      def plan = @plan ||= @runs.plan(@shot, @quality)

      def document = plan.document

      # The boxes that are seen where they are not those of the gas alone.
      def room
        liquid = @workshop.liquids.plan(document, @quality)
        if @runs.still?(document)
          if document.of(:sculpt).any? && @workshop.sculpts.shown?(document)
            return @workshop.sculpts.room(document, @quality)
          end

          return {} unless liquid

          voxel = liquid.voxel
          return {
            size: liquid.size.reverse, voxel: voxel, corner: liquid.corner, boxes: [liquid.box(voxel)],
            memory: liquid.memory
          }
        end
        liquid ? {boxes: plan.boxes + [liquid.box(plan.voxel)], memory: plan.memory + liquid.memory} : {}
      end

      # The same rows with the liquid's frames: what there is of both tells how fresh a frame is.
      def wet(rows)
        keys = @workshop.liquids.keys(document, @quality)
        facts = @workshop.frames.facts(keys.values)
        old = before(keys.reject { |_, key| facts.key?(key) }.keys, :liquid_keys)
        facts.merge!(old[:facts])
        rows.map do |row|
          key = keys[row[:frame]]
          state = if facts.key?(key) then "fresh"
          else
            (key = old[:keys][row[:frame]]) ? "stale" : "none"
          end
          row = row.merge(key: nil, light: nil, lit: nil) if key.nil? && @runs.still?(document)
          seen =
            @workshop
              .liquids
              .seen(document, row[:frame]) { |frame| facts.key?(keys[frame]) ? keys[frame] : old[:keys][frame] }
          states = [state, *(@runs.still?(document) ? [] : [row[:state]])]
          row.merge(
            liquid: seen, state: %w[none stale fresh].find { |one| states.include?(one) },
            facts: key ? facts[key].merge(row[:facts] || {}) : row[:facts]
          )
        end
      end

      def still
        keys = @workshop.sculpts.keys_of(document, @quality)
        facts = @workshop.frames.facts(keys.values.uniq)
        (document.first_frame..document.last_frame).map do |frame|
          key = keys[frame]
          light = key && @workshop.views.light_key(document, frame)
          {
            frame: frame, state: facts.key?(key) ? "fresh" : "still", key: key, light: light,
            lit: key && @workshop.views.made?(key, light), facts: facts[key]
          }
        end
      end

      # What there is of some frames but for their finer detail.
      # @return [Hash] :keys by frame, :facts by key
      def rough(frames)
        return {keys: {}, facts: {}} unless Gas::Detail.on?(plan)

        keys = plan.keys.slice(*frames)
        facts = @workshop.frames.facts(keys.values)
        {keys: keys.select { |_, key| facts.key?(key) }, facts: facts}
      end

      # What the last runs left of some frames, the newest of each: the run that is going on may not have come
      # to a frame yet.
      # @return [Hash] :keys by frame, :facts by key
      def before(frames, column = :keys)
        found = {keys: {}, facts: {}}
        @workshop.db[:runs].where(shot_id: @shot, quality: @quality).reverse(:id).limit(LOOKED_BACK).each do |run|
          missing = frames - found[:keys].keys
          break if missing.empty?

          made = JSON.parse(run[column])
          first = first_frame_of(run)
          there =
            missing
              .select { |frame| frame >= first && made[frame - first] }
              .to_h { |frame| [frame, made[frame - first]] }
          facts = @workshop.frames.facts(there.values)
          found[:keys].merge!(there.select { |_, key| facts.key?(key) })
          found[:facts].merge!(facts)
        end
        found
      end

      # Runs of before did not keep it, and their revision may have been let go.
      def first_frame_of(run)
        run[:first_frame] || @workshop.shots.revision(run[:shot_id], run[:revision])
          &.then { |revision| Shot::Document.load(revision[:document]).first_frame } ||
          @workshop.shots.document(run[:shot_id]).first_frame
      end
    end
  end
end
