# frozen_string_literal: true

require "digest"
require "json"

module Vumbral
  module Studio
    # Runs that somebody wants to keep: each has a name, its frames stay whatever becomes of the shot, and it can be
    # placed in any shot again, or handed on.
    class Caches
      # The liquid of one, as {Shot::Document} asks for it.
      # @!attribute keys [Hash{Integer => String}] its frames
      Water = Struct.new(:workshop, :keys, :document) do
        # @return [Numeric] the frame that is so many frames after the first, within what there is
        def at(gone) = (keys.each_key.first + gone).clamp(keys.each_key.first, keys.keys.last)

        # @return [String, nil] nil where it is gone
        def key(frame) = keys[frame]&.then { |key| key if workshop.frames.frame?(key) }

        # @return [Float] how long it is from a frame to the next, seconds of its own
        def lasts(frame) = document.of(:liquid).sum { |liquid| liquid[:time_scale, frame] } / document.rate

        # @return [Integer] how many frames of it are there
        def there = workshop.frames.known(keys.values).size
      end

      # Stands for the liquid of a kept run alone, where it is handed on.
      Maker = Struct.new(:water, :liquids) do
        def key(_, frame) = water&.key(frame)

        def kept(digest) = liquids.kept(digest)

        def rise(...) = liquids.rise(...)
      end

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
        table[digest: digest.to_s] ||
          raise(
            Refused.new("The kept run #{digest.to_s[0, 24].inspect} is not here; choose another.", code: "unknown_run")
          )
      end

      # Keeps a run of a shot.
      # @param name [String, nil]; @return [Hash] as {#list} tells it
      # @raise [Refused]
      def keep_run(shot_id, number, name = nil)
        row = @workshop.past_runs.fetch(shot_id, number)
        keep(
          row[:shot_id], named(name || "#{@workshop.shots.fetch(shot_id)[:name]}, run #{number}"),
          JSON.parse(row[:keys]), liquid: JSON.parse(row[:liquid_keys]), run_id: row[:id], quality: row[:quality],
          document: @workshop.past_runs.document(shot_id, number), first_frame: row[:first_frame]
        )
      end

      # Keeps variations of a test strip.
      # @param cells [Array<Integer>]; @return [Array<Hash>]
      # @raise [Refused]
      def keep_cells(shot_id, number, cells)
        row = @workshop.strips.fetch(shot_id, number)
        unless cells.is_a?(Array) && cells.any?
          raise Refused.new("Mark the variations that shall be kept first.", code: "bad_value")
        end

        strip = @workshop.strips.strip(row)
        cells.map do |n|
          document = @workshop.strips.document(row, n)
          shown =
            strip
              .axes
              .zip(strip.values(n))
              .map { |axis, value| "#{axis.label.sub(/ of .*/, "")} #{strip.show(axis, value)}" }
          keep(
            row[:shot_id], named(shown.join(", ")[NAME.end.then { |most| 0...most }]), JSON.parse(row[:keys])[n].to_a,
            liquid: JSON.parse(row[:liquid_keys])[n].to_a, strip_id: row[:id], cell: n, quality: row[:quality],
            document: document, first_frame: row[:first_frame]
          )
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
        [@frames, @documents, @waters].compact.each { |kept| kept.delete(row[:digest]) }
        used = @workshop.holdings.used.to_set
        @workshop.holdings.give_back(keys_of(row).reject { |key| used.include?(key) })
      end

      # Hands several on, each in a folder of its own.
      # @param digests [Array<String>]; @param as [String] as for {Exports#start}
      # @return [Array<Integer>] jobs
      # @raise [Refused]
      def export(digests, as)
        unless digests.is_a?(Array) && digests.any?
          raise Refused.new("Choose the kept runs that shall be handed on.", code: "bad_value")
        end

        digests
          .map { |digest| fetch(digest) }
          .map do |row|
            @workshop.exports.start_kept(row, frames_of(row, wet?(row, as) ? :liquid_keys : :keys).to_a, as)
          end
      end

      # What places one in a shot: its gas as a sculpt, its liquid as a prop that looks as it did.
      # @return [Array<Hash>] edits, as {Shot::Edits} takes them
      # @raise [Refused]
      def placing(digest)
        row = fetch(digest)
        liquid =
          water(row[:digest]) &&
          {
            "kind" => "prop",
            "dials" => looks(water(row[:digest]).document).merge("shape" => "liquid", "kept" => row[:digest])
          }
        gas =
          holds(row).include?("gas") &&
          {
            "kind" => "sculpt",
            "dials" => {
              "from" => "cache", "cache" => row[:digest], "voxel" => row[:voxel], "draft" => 1.0
            }
          }
        [gas, liquid].select(&:itself).map { |edit| {"do" => "add", "name" => row[:name]}.merge(edit) }
      end

      # @return [Array<String>] the frames of all that are kept
      def keys = table.select(:keys, :liquid_keys).all.flat_map { |row| keys_of(row) }.uniq

      # @return [Hash{Integer => String}] the caches of a shot's runs, by the run's row
      def of_runs(shot_id) = table.where(shot_id: shot_id).exclude(run_id: nil).select_hash(:run_id, :digest)

      # @return [Hash{Integer => String}] the key of each frame that it has; none where it is gone
      def frames(digest)
        @frames ||= {}
        @frames[digest] ||= table[digest: digest]&.then { |row| frames_of(row) } || (return {})
      end

      # @return [Water, nil] its liquid, where it has one
      def water(digest)
        @waters ||= {}
        @waters[digest] ||= table[digest: digest]&.then do |row|
          if JSON.parse(row[:liquid_keys]).any?
            Water.new(@workshop, frames_of(row, :liquid_keys), @workshop.shots.read(row[:document]))
          end
        end
      end

      # @param text [String] the shot as it was; @return [Shot::Document] whose liquid is that of a kept run
      def kept_document(digest, text) = @workshop.shots.read(text).made_by(Maker.new(water(digest), @workshop.liquids))

      # @return [Shot::Document] what made it, which is asked of every moment between two frames
      def document(digest) = (@documents ||= {})[digest] ||= @workshop.shots.read(fetch(digest)[:document])

      private

      def table = @workshop.db[:caches]

      # What the prop that showed a shot's liquid was made of.
      def looks(document)
        prop = document.of(:prop).find { |node| node[:shape] == "liquid" } or return Waters::WATER
        prop.values.reject { |dial, _| %i[node nodes].include?(prop.kind.dial(dial).type) }.transform_keys(&:to_s)
      end

      # @return [Array<String>] all frames of one
      def keys_of(row) = row.values_at(:keys, :liquid_keys).flat_map { |text| JSON.parse(text) }.compact

      # Whether what is handed on is of its liquid: so is all of one that has no gas.
      def wet?(row, as) = Exports::KEPT_LIQUID.include?(as) || (as != "vdb" && !holds(row).include?("gas"))

      # @return [Array<String>] "gas", "liquid": what of it is there
      def holds(row) = there(row).select { |_, count| count.positive? }.keys

      # @return [Hash{String => Integer}] how many frames of its gas and of its liquid are there
      def there(row) =
        {"gas" => :keys, "liquid" => :liquid_keys}.transform_values do |column|
          @workshop.frames.known(JSON.parse(row[column]).compact).size
        end

      def frames_of(row, column = :keys) =
        JSON.parse(row[column]).each_with_index.to_h { |key, n| [row[:first_frame] + n, key] }

      def keep(shot_id, name, keys, document:, liquid:, **from)
        if @workshop.frames.known((keys + liquid).compact).empty?
          raise Refused.new("Nothing of it has been run that could be kept.", code: "not_run")
        end

        digest = Digest::SHA256.hexdigest(JSON.generate(liquid.any? ? [shot_id, keys, liquid] : [shot_id, keys]))[0, 24]
        table.insert_conflict(target: :digest, update: {name: name}).insert(
          digest: digest, name: name, shot_id: shot_id, document: document.to_json, keys: JSON.generate(keys),
          liquid_keys: JSON.generate(liquid), voxel: @workshop.runs.plan_of(document, from[:quality]).voxel,
          created_at: @workshop.now, **from
        )
        show(fetch(digest))
      end

      def named(name)
        name = name.to_s.strip
        return name if NAME.cover?(name.size)

        raise Refused.new("A kept run needs a name of #{NAME.begin} to #{NAME.end} characters.", code: "bad_name")
      end

      def show(row)
        sizes = row.values_at(:keys, :liquid_keys).map { |text| JSON.parse(text).size }
        there = there(row)
        row.slice(:digest, :name, :note, :quality, :voxel).merge(
          shot: row[:shot_id], first: row[:first_frame], last: row[:first_frame] + sizes.max - 1,
          there: there.values.max, holds: there.select { |_, count| count.positive? }.keys, at: row[:created_at],
          run: row[:run_id] && @workshop.db[:runs].where(id: row[:run_id]).get(:number),
          strip: row[:strip_id] && @workshop.db[:strips].where(id: row[:strip_id]).get(:number), cell: row[:cell]
        )
      end
    end
  end
end
