# frozen_string_literal: true

module Vumbral
  module Studio
    # What a shot keeps on disk.
    class Holdings
      # Folders that belong to one shot alone.
      FOLDERS = %w[prints sheets reels runs exports].freeze

      def initialize(workshop)
        @workshop = workshop
      end

      # @return [Hash] frames there are of the shot as it stands, of how many, in which quality, and the bytes of
      #   all that it keeps
      def of(shot_id)
        shot = @workshop.shots.fetch(shot_id)[:id]
        counts = Runs::QUALITIES.to_h { |quality| [quality, fresh(shot, quality)] }
        quality = counts.max_by { |name, count| [count, Runs::QUALITIES.index(name)] }[0]
        {frames: counts[quality], of: @workshop.runs.plan(shot, quality).frames.size,
         quality: quality, bytes: bytes(shot)}
      end

      # Lets the frames go that no other shot has use for, and all else of a shot on disk.
      def clear(shot_id)
        others = @workshop.db[:shots].exclude(id: shot_id).select_map(:id)
        used = (others.flat_map { |other| keys(other) } + @workshop.caches.keys).to_set
        gone = keys(shot_id).uniq.reject { |key| used.include?(key) }
        let_go(gone)
        FOLDERS.each { |folder| FileUtils.rm_rf(@workshop.home.within(folder, shot_id)) }
      end

      # @return [Array<String>] the frames that any shot has use for, and those that are kept
      def used = @workshop.db[:shots].select_map(:id).flat_map { |shot| keys(shot) } + @workshop.caches.keys

      # @return [Array<String>] the frames that shots have as they stand, those of strips, and those of runs that are
      #   kept
      def needed =
        @workshop.db[:shots].select_map(:id).flat_map { |shot| standing(shot) + @workshop.strips.keys_made(shot) } +
          @workshop.caches.keys

      # @param keys [Array<String>] of frames that are not wanted any more
      def let_go(keys)
        keys.each_slice(500) { |some| @workshop.db[:frames].where(key: some).delete }
        keys.each { |key| FileUtils.rm_f(files(key)) }
      end

      # As {#let_go}. @return [Integer] the bytes that it comes to
      def give_back(keys)
        keys = keys.compact
        bytes = keys.sum { |key| files(key).sum { |file| File.size?(file).to_i } }
        let_go(keys)
        bytes
      end

      private

      def fresh(shot, quality)
        document = @workshop.shots.document(shot)
        if @workshop.liquids.any?(document) && @workshop.runs.still?(document)
          return @workshop.frames.facts(@workshop.liquids.keys(document, quality).values).size
        end

        @workshop.frames.facts(@workshop.runs.shown_keys(@workshop.runs.plan(shot, quality)).values).size
      end

      def bytes(shot)
        here = FOLDERS.flat_map { |folder| Dir[@workshop.home.within(folder, shot, "**", "*")] }
        (here + keys(shot).uniq.flat_map { |key| files(key) }).sum { |file| File.file?(file) ? File.size(file) : 0 }
      end

      # Every frame that a shot was ever run to, and those that it would have as it stands.
      def keys(shot) = standing(shot) + @workshop.runs.keys_made(shot) + @workshop.strips.keys_made(shot)

      # Those that it has, or would have, as it stands.
      def standing(shot)
        document = @workshop.shots.document(shot)
        Runs::QUALITIES.flat_map do |quality|
          plan = @workshop.runs.plan(shot, quality)
          plan.keys.values + @workshop.runs.shown_keys(plan).values + @workshop.liquids.keys(document, quality).values +
            @workshop.sculpts.keys_of(document, quality).values
        end
      end

      def files(key)
        Dir[
          @workshop.home.within("frames", key[0, 2], "#{key}.*"), @workshop.home.within("views", key[0, 2], "#{key}-*"),
          @workshop.sculpts.path(key)
        ]
      end
    end
  end
end
