# frozen_string_literal: true

require "digest"
require "json"

module Vumbral
  module Studio
    # Runs that somebody wants to keep: each has a name, its frames stay whatever becomes of the shot, and it can be placed
    # in any shot again, or handed on.
    class Caches
      NAME = 1..80
      NOTE = 2000

      def initialize(workshop)
        @workshop = workshop
      end

      # @return [Array<Hash>] those of all shots, or of one, newest first
      def list(shot_id = nil)
        rows = shot_id ? table.where(shot_id: shot_id) : table
        rows.reverse(:created_at).map { |row| show(row) }
      end

      # @raise [Refused]
      def fetch(digest)
        table[digest: digest.to_s] || raise(Refused.new("The kept run #{digest.to_s[0, 24].inspect} is not here; choose another.", code: "unknown_run"))
      end

      # Keeps a run of a shot.
      # @param name [String, nil]; @return [Hash] as {#list} tells it
      # @raise [Refused]
      def keep_run(shot_id, number, name = nil)
        row = @workshop.past_runs.fetch(shot_id, number)
        keep(row[:shot_id], named(name || "#{@workshop.shots.fetch(shot_id)[:name]}, run #{number}"), JSON.parse(row[:keys]),
          run_id: row[:id], quality: row[:quality], document: @workshop.past_runs.document(shot_id, number), first_frame: row[:first_frame])
      end

      # Keeps variations of a test strip.
      # @param cells [Array<Integer>]; @return [Array<Hash>]
      # @raise [Refused]
      def keep_cells(shot_id, number, cells)
        row = @workshop.strips.fetch(shot_id, number)
        raise Refused.new("Mark the variations that shall be kept first.", code: "bad_value") unless cells.is_a?(Array) && cells.any?

        strip = @workshop.strips.strip(row)
        cells.map do |n|
          document = @workshop.strips.document(row, n)
          shown = strip.axes.zip(strip.values(n)).map { |axis, value| "#{axis.label.sub(/ of .*/, "")} #{strip.show(axis, value)}" }
          keep(row[:shot_id], named(shown.join(", ")[NAME.end.then { |most| 0...most }]), JSON.parse(row[:keys])[n].to_a, strip_id: row[:id], cell: n, quality: row[:quality], document: document, first_frame: row[:first_frame])
        end
      end

      # @param name [String, nil]; @param note [String, nil]; what is nil stays
      # @raise [Refused]
      def tell(digest, name: nil, note: nil)
        row = fetch(digest)
        raise Refused.new("A note has at most #{NOTE} characters.", code: "out_of_range") if note.to_s.size > NOTE

        table.where(digest: row[:digest]).update({name: name && named(name), note: note&.to_s}.compact)
        show(fetch(digest))
      end

      # Lets one go, with the frames that nothing else needs.
      # @return [Integer] bytes that were given back
      def let_go(digest)
        row = fetch(digest)
        table.where(digest: row[:digest]).delete
        [@frames, @documents].compact.each { |kept| kept.delete(row[:digest]) }
        used = @workshop.holdings.used.to_set
        @workshop.holdings.give_back(JSON.parse(row[:keys]).reject { |key| used.include?(key) })
      end

      # Hands several on, each in a folder of its own.
      # @param digests [Array<String>]; @param as [String] as for {Exports#start}
      # @return [Array<Integer>] jobs
      # @raise [Refused]
      def export(digests, as)
        raise Refused.new("Choose the kept runs that shall be handed on.", code: "bad_value") unless digests.is_a?(Array) && digests.any?

        digests.map { |digest| fetch(digest) }.map { |row| @workshop.exports.start_kept(row, frames_of(row).to_a, as) }
      end

      # @return [Array<String>] the frames of all that are kept
      def keys = table.select_map(:keys).flat_map { |text| JSON.parse(text) }.uniq

      # @return [Hash{Integer => String}] the caches of a shot's runs, by the run's row
      def of_runs(shot_id) = table.where(shot_id: shot_id).exclude(run_id: nil).select_hash(:run_id, :digest)

      # @return [Hash{Integer => String}] the key of each frame that it has; none where it is gone
      def frames(digest)
        @frames ||= {}
        @frames[digest] ||= table[digest: digest]&.then { |row| frames_of(row) } || (return {})
      end

      # @return [Shot::Document] what made it, which is asked of every moment between two frames
      def document(digest) = (@documents ||= {})[digest] ||= @workshop.shots.read(fetch(digest)[:document])

      private

      def table = @workshop.db[:caches]

      def frames_of(row) = JSON.parse(row[:keys]).each_with_index.to_h { |key, n| [row[:first_frame] + n, key] }

      def keep(shot_id, name, keys, document:, **from)
        there = @workshop.frames.known(keys.compact)
        raise Refused.new("Nothing of it has been run that could be kept; a liquid alone is kept as an export.", code: "not_run") if there.empty?

        digest = Digest::SHA256.hexdigest(JSON.generate([shot_id, keys]))[0, 24]
        table.insert_conflict(target: :digest, update: {name: name}).insert(digest: digest, name: name, shot_id: shot_id, document: document.to_json, keys: JSON.generate(keys), voxel: @workshop.runs.plan_of(document, from[:quality]).voxel, created_at: @workshop.now, **from)
        show(fetch(digest))
      end

      def named(name)
        name = name.to_s.strip
        return name if NAME.cover?(name.size)

        raise Refused.new("A kept run needs a name of #{NAME.begin} to #{NAME.end} characters.", code: "bad_name")
      end

      def show(row)
        keys = JSON.parse(row[:keys])
        row.slice(:digest, :name, :note, :quality, :voxel).merge(shot: row[:shot_id], first: row[:first_frame], last: row[:first_frame] + keys.size - 1, there: @workshop.frames.known(keys).size, at: row[:created_at],
          run: row[:run_id] && @workshop.db[:runs].where(id: row[:run_id]).get(:number), strip: row[:strip_id] && @workshop.db[:strips].where(id: row[:strip_id]).get(:number), cell: row[:cell])
      end
    end
  end
end
