# frozen_string_literal: true

module Vumbral
  module Studio
    # Frames, and props as they stand at each frame, handed on in open formats.
    class Exports
      FORMATS = ExportSettings::KIND.dials[:as].choices.transform_keys(&:to_s).freeze
      # What an OpenEXR picture may hold besides.
      PASSES = ExportSettings::PASSES
      # These are pictures one by one.
      PICTURES = %w[png png16 exr jpg tif dpx].freeze
      # These are of the shot's liquid.
      LIQUID = %w[drops vdb-surface].freeze
      # Kept runs are handed on as these.
      KEPT = (%w[vdb] + PICTURES + Movie::FORMATS.keys).freeze
      # And their liquids as these.
      KEPT_LIQUID = (%w[ply obj] + LIQUID).freeze
      # What made it, beside its files.
      SHOT = ".shot.json"
      # These need no run.
      PROPS = %w[obj ply glb].freeze

      def initialize(workshop)
        @workshop = workshop
      end

      # @param as [String] png or vdb
      # @param out [String, nil] a folder on this machine; one in the data folder otherwise
      # @param frames [Range, nil] of the shot's frames: what there is of them is handed on. Without it all
      #   of the shot must be there
      # @param how [Hash] as {ExportSettings} takes it: passes, props, finish, name, …
      # @return [Integer] the job's id
      # @raise [Refused]
      def start(shot_id, as, out: nil, frames: nil, size: nil, **how)
        unless FORMATS.key?(as)
          raise Refused.new(
            "Exports are #{FORMATS.keys[..-2].join(", ")} or #{FORMATS.keys[-1]}, not #{as.to_s[0, 20].inspect}.",
            code: "bad_value"
          )
        end

        Movie.check if Movie::FORMATS.key?(as) || as == "dpx"
        how = ExportSettings.new(**how)
        document = @workshop.shots.document(shot_id)
        wanted = (frames ? checked(frames, document) : document.first_frame..document.last_frame).to_a
        base =
          how.to_job.merge(
            as: as, out: out ? File.expand_path(out) : own_folder(shot_id, as), document: document.to_json
          )
        return props(shot_id, base, wanted, document) if PROPS.include?(as)

        return points(shot_id, base, wanted, document) if as == "points"
        return scene(shot_id, base, wanted, document) if as == "usda"
        return @workshop.jobs.add("export", shot_id, base.merge(keys: [])) if as == "zip"

        if LIQUID.include?(as) && !@workshop.liquids.any?(document)
          raise Refused.new("The shot has no liquid, so there is nothing of one to hand on.", code: "no_liquid")
        end

        there = @workshop.runs.there(shot_id)
        if as == "vdb" && volumeless?(document) && @workshop.liquids.any?(document)
          raise Refused.new(
            "There is no volume in this shot: its liquid is handed on as a mesh (ply or obj), as distances " \
              "(vdb-surface) or as particles (drops).",
            code: "no_source"
          )
        end
        if as == "vdb" && volumeless?(document)
          raise Refused.new(
            "Nothing feeds this shot, so there is no volume to hand on; add a source and run it.",
            code: "no_source"
          )
        end

        found = wanted & there
        incomplete(there, wanted, frames) if found.empty? || (frames.nil? && found != wanted)
        keys = found.map { |frame| [frame, @workshop.runs.best(shot_id, frame)[1]] }
        @workshop.jobs.add(
          "export",
          shot_id,
          base.merge(
            keys: keys, missing: FrameList.words(wanted - found), size: size,
            layers: how.finish ? layers(shot_id, as, document, found, how.passes) : nil
          )
        )
      end

      # Hands on as a saved export says.
      # @param node_id [String]
      # @param out [String, nil] see {#start}
      # @return [Integer] the job's id
      # @raise [Refused]
      def start_saved(shot_id, node_id, out: nil)
        document = @workshop.shots.document(shot_id)
        node = document.node(node_id)
        raise Refused.new("#{node.name} is no saved export.", code: "bad_edit") unless node.kind.name == :export

        settings = ExportSettings.of(node, document)
        start(shot_id, settings.delete(:as), out: out, **settings)
      end

      # Hands a kept run on, as it was.
      # @param row [Hash] of the {Caches}; @param keys [Array<Array(Integer, String)>] its frames
      # @return [Integer] the job's id
      # @raise [Refused]
      def start_kept(row, keys, as)
        unless (KEPT + KEPT_LIQUID).include?(as)
          raise Refused.new("A kept run is handed on as #{(KEPT + KEPT_LIQUID).join(", ")}.", code: "bad_value")
        end

        Movie.check if Movie::FORMATS.key?(as) || as == "dpx"
        known = @workshop.frames.known(keys.map(&:last))
        found = keys.select { |_, key| known.include?(key) }
        if found.empty?
          raise Refused.new("#{row[:name]} holds nothing that could be handed on as #{as}.", code: "not_run")
        end

        missing = FrameList.words((keys - found).map(&:first))
        # Pictures of a liquid alone have no volume but that of sculpts.
        document = @workshop.shots.read(row[:document])
        if !KEPT_LIQUID.include?(as) &&
            @workshop.runs.still?(document)
          found =
            @workshop
              .sculpts
              .keys_of(document)
              .then { |stills| found.map { |frame, _| [frame, stills[frame]] } }
        end
        @workshop.jobs.add(
          "export",
          row[:shot_id],
          ExportSettings
            .new(finish: false, title: row[:name])
            .to_job
            .merge(
              kept: row[:digest], as: as,
              out: own_folder(row[:shot_id], "#{as}-#{row[:name].gsub(/[^A-Za-z0-9]+/, "-")[0, 30]}"),
              document: row[:document], keys: found, missing: missing, size: nil, layers: nil
            )
        )
      end

      # @return [Array<Hash>] exports in the data folder: name, files, bytes
      def list(shot_id)
        Dir[File.join(folder(shot_id), "*")].select { |path| File.directory?(path) }.sort.reverse.map do |path|
          files = Dir[File.join(path, "*")].sort
          {
            name: File.basename(path), files: files.map { |file| File.basename(file) },
            bytes: files.sum { |file| File.size(file) }
          }
        end
      end

      # Keeps what made an export in the data folder beside its files, where it is not seen.
      # @param out [String] its folder; @param document [String] the shot as it was
      def remember(shot_id, out, document)
        @workshop.home.write(File.join(out, SHOT), document) if shot_id && File.dirname(out) == folder(shot_id)
      end

      # @return [Shot::Document] what made an export in the data folder
      # @raise [Refused] for one that does not tell
      def document(shot_id, name)
        path = folder(shot_id, name, SHOT)
        unless File.file?(path)
          raise Refused.new(
            "What made the export #{name.to_s[0, 60]} is not known; it is of before, or gone.",
            code: "unknown_export"
          )
        end

        @workshop.shots.read(File.read(path, encoding: "UTF-8"))
      end

      # Brings the settings of an export back as the shot's, as a step that can be undone.
      def bring_back(shot_id, name, by: nil) =
        @workshop.shots.take_from(shot_id, document(shot_id, name), "the export #{name}", by: by)

      # @return [String] a place in the data folder
      def folder(shot_id, *rest) = @workshop.home.within("exports", shot_id, *rest)

      private

      # What the layers of all frames show. @return [Hash, nil] as {Rushes#to_job}
      def layers(shot_id, as, document, frames, passes)
        finish = @workshop.finishing
        if passes.include?("layers") && !finish.any?(document)
          raise Refused.new("The shot has no layers to hand on one by one; leave them out.", code: "bad_value")
        end
        return if !finish.any?(document) || !(PICTURES + Movie::FORMATS.keys).include?(as)
        if passes.include?("lamps")
          raise Refused.new(
            "What each lamp adds is told of the shot's own picture, not of a finished one; hand that on " \
              "without the finish, or leave the lamps out.",
            code: "bad_value"
          )
        end

        Rushes.of(@workshop, shot_id, document, frames).to_job
      end

      def volumeless?(document) = @workshop.runs.still?(document) && !@workshop.sculpts.shown?(document)

      # A scene needs no run; volumes are those that there are.
      def scene(shot_id, base, wanted, document)
        there = volumeless?(document) ? [] : @workshop.runs.there(shot_id)
        keys = wanted.map { |frame| [frame, there.include?(frame) ? @workshop.runs.best(shot_id, frame)[1] : nil] }
        @workshop.jobs.add(
          "export", shot_id,
          base.merge(keys: keys, missing: volumeless?(document) ? "" : FrameList.words(wanted - there))
        )
      end

      def props(shot_id, base, frames, document)
        if document.of(:prop).empty?
          raise Refused.new("The shot has no props to hand on; add one first.", code: "no_prop")
        end

        unknown = base[:props] - document.of(:prop).map(&:id)
        if unknown.any?
          raise Refused.new(
            "There is no prop #{unknown[0][0, 40].inspect} in the shot; there are: " \
              "#{document.of(:prop).map(&:id).join(", ")}.",
            code: "bad_value"
          )
        end

        @workshop.jobs.add("export", shot_id, base.merge(keys: frames.map { |frame| [frame, nil] }, missing: ""))
      end

      # Particles fly by the shot alone and need no run.
      def points(shot_id, base, frames, document)
        if document.of(:emitter).empty?
          raise Refused.new(
            "The shot has no emitter, so there are no particles to hand on; add one first.", code: "no_emitter"
          )
        end

        @workshop.jobs.add("export", shot_id, base.merge(keys: frames.map { |frame| [frame, nil] }, missing: ""))
      end

      def checked(frames, document)
        whole = document.first_frame..document.last_frame
        return frames if whole.cover?(frames.begin) && whole.cover?(frames.end) && frames.begin <= frames.end

        raise Refused.new("Frames #{frames.begin}-#{frames.end} are not in the shot; it goes from #{whole.begin} to " \
          "#{whole.end}.", code: "out_of_range")
      end

      # @raise [Refused] with the frames that there are
      def incomplete(there, wanted, told)
        if there.empty?
          raise Refused.new(
            "No frame of the shot has been run since the last change; run a draft first.", code: "not_run"
          )
        end
        missing = FrameList.words(wanted - there)
        remedy = told ? "run the rest first" : "name those to be handed on, or run the rest first"
        raise Refused.new(
          "Of the shot as it stands there are frames #{FrameList.words(there)}, but not #{missing}; #{remedy}.",
          code: "not_run",
          details: {
            there: FrameList.words(there), missing: missing
          }
        )
      end

      def own_folder(shot_id, as)
        base = "#{as}-#{Time.now.strftime("%Y%m%d-%H%M%S")}"
        ([base] + (2..99).map { |n| "#{base}-#{n}" })
          .map { |name| folder(shot_id, name) }
          .find { |path| !File.exist?(path) }
      end
    end
  end
end
