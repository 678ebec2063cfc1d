# frozen_string_literal: true

require "json"

module Vumbral
  module Studio
    # The runs of a shot, each with the settings that made it: looked at again, laid against another, brought back.
    class PastRuns
      # So many are listed, the newest.
      LISTED = 60
      # Pixels of the small picture of one.
      PICTURE = [192, 108].freeze

      def initialize(workshop)
        @workshop = workshop
      end

      # Those that have frames still, and the newest.
      # @return [Array<Hash>] number, quality, at, changed, there (frames), of, picture, and the cache that keeps it
      def list(shot_id)
        kept = @workshop.caches.of_runs(shot_id)
        rows = table.where(shot_id: shot_id).reverse(:id).limit(LISTED).all
        rows |= table.where(id: kept.keys).all if kept.any?
        made = rows.to_h { |row| [row[:id], frames_of(row)] }
        known = @workshop.frames.known(made.values.flatten.uniq)
        rows.sort_by { |row| -row[:id] }.filter_map.with_index do |row, n|
          there = made[row[:id]].count { |key| known.include?(key) }
          next if there.zero? && n.positive?

          {
            number: row[:number], quality: row[:quality], at: row[:created_at], changed: row[:changed], there: there,
            of: made[row[:id]].size, revision: row[:revision], picture: File.exist?(picture(row)), cache: kept[row[:id]]
          }
        end
      end

      # @raise [Refused]
      def fetch(shot_id, number)
        table.first(shot_id: shot_id, number: number) ||
          raise(Refused.new("There is no run #{number} of this shot.", code: "unknown_run"))
      end

      # @return [Shot::Document] as it was
      # @raise [Refused]
      def document(shot_id, number) = document_of(fetch(shot_id, number))

      # All that differs between a run and another, or the shot as it stands.
      def differences(shot_id, number, other = nil)
        from = other ? document(shot_id, other) : @workshop.shots.document(shot_id)
        Differences.between(from, document(shot_id, number))
      end

      # Brings a run's settings back as the shot's, all or some, as a step that can be undone.
      # @param rows [Array<Hash>, nil] as {Shot::Taking} takes them
      def bring_back(shot_id, number, rows: nil, by: nil) =
        @workshop.shots.take_from(shot_id, document(shot_id, number), "run #{number}", rows: rows, by: by)

      # Its frames, in the light and the look of the shot as it stands, so that two runs differ by what was run alone.
      # @return [Array<Hash>] frame, key, light, lit, liquid and facts of each, as {Runs#state} tells them
      def rows(shot_id, number)
        row = fetch(shot_id, number)
        now = @workshop.shots.document(shot_id)
        keys, wet = [row[:keys], row[:liquid_keys]].map { |text| JSON.parse(text) }
        facts = @workshop.frames.facts((keys + wet).uniq)
        first = row[:first_frame] || now.first_frame
        Array.new([keys.size, wet.size].max) do |n|
          key, liquid = [keys[n], wet[n]].map { |one| one if facts.key?(one) }
          light = key && @workshop.views.light_key(now, first + n)
          {
            frame: first + n, state: (key || liquid) ? "fresh" : "none", key: key, light: light,
            lit: key && @workshop.views.made?(key, light), liquid: liquid, facts: facts[key || liquid]
          }
        end
      end

      # Lets go of a run, with the frames that nothing else needs. One that is kept is let go there first.
      # @return [Integer] bytes that were given back
      # @raise [Refused]
      def take_away(shot_id, number)
        row = fetch(shot_id, number)
        if @workshop.caches.of_runs(shot_id).key?(row[:id])
          raise Refused.new("Run #{number} is kept; let the kept run go first.", code: "kept")
        end

        @workshop.jobs.cancel(row[:job_id]) if row[:job_id]
        table.where(id: row[:id]).delete
        FileUtils.rm_f(picture(row))
        used = @workshop.holdings.used.to_set
        @workshop.holdings.give_back(frames_of(row).reject { |key| used.include?(key) })
      end

      # @return [String] where its small picture stands
      def picture(row) = @workshop.home.within("runs", row[:shot_id], format("%06d.png", row[:number]))

      # Makes the small picture of a run that has ended.
      # @param row [Hash] of the run
      # @return [void] what cannot be drawn has none
      def draw(row)
        seen = rows(row[:shot_id], row[:number]).select { |one| one[:key] || one[:liquid] }
        return if seen.empty?

        # Where it has come to most, rather than its thin end.
        at =
          seen.select { |one| one[:key] }.max_by { |one| one[:facts]&.fetch("size", nil)&.reduce(:*).to_i } ||
          seen[seen.size / 2]
        # By itself, so that what was lit for other pictures stays.
        pixels = Painting.new(@workshop).glance(document_of(row), at[:frame], at[:key], PICTURE, coarse: true)
        @workshop.home.write(picture(row), Pixels.png(pixels))
      rescue Refused
        nil
      end

      private

      def table = @workshop.db[:runs]

      def frames_of(row) = row.values_at(:keys, :liquid_keys).flat_map { |keys| JSON.parse(keys) }.uniq

      def document_of(row)
        revision =
          @workshop.shots.revision(row[:shot_id], row[:revision]) ||
          raise(Refused.new("The settings of run #{row[:number]} are gone.", code: "unknown_run"))
        @workshop.shots.read(revision[:document])
      end
    end
  end
end
