# frozen_string_literal: true

module Vumbral
  module CLI
    # Handing on from the command line: one export, many shots, a folder that is watched.
    class ExportCommands < PastCommands
      desc "export SHOT", "Hand frames on as files"
      option :as, type: :string, enum: Studio::Exports::FORMATS.keys
      option :saved, type: :string, desc: "A saved export of the shot (its id), in place of all but --out"
      option :out, type: :string, required: true, desc: "A folder"
      option :frames, type: :string, desc: "A-B: what there is of these"
      option :size, type: :string, desc: "WxH in pixels, for pictures"
      option :passes, type: :string, desc: "For exr, besides the picture: #{Studio::Exports::PASSES.keys.join(",")}"
      option :props, type: :string, desc: "For obj, ply and glb, only these: prop-1,prop-2"
      option :finish, type: :boolean, default: true, desc: "With the layers of the finish, where there are some"
      option :called, type: :string, desc: "What files are called, with {shot} and {frame}"
      option :beside,
        type: :boolean,
        default: false,
        desc: "With a log of every setting, the shot as a file and a sheet of prints"
      def export(shot)
        result =
          follow(
            options[:saved] ? workshop.exports.start_saved(shot, options[:saved], out: options[:out]) : started(shot),
            "Export"
          )
        answer(result) do
          say "#{result[:files]} files (#{result[:bytes] / 1024} KB) in #{result[:folder]}: frames #{result[:frames]}" \
            "#{"; #{result[:missing]} have not been run" unless result[:missing].empty?}."
        end
      end

      desc "batch SHOT …", "Run shots and hand each on by its saved exports"
      option :out, type: :string, required: true, desc: "A folder, in which each shot gets one"
      option :draft, type: :boolean, default: false, desc: "Drafts in place of full runs"
      def batch(*shots)
        raise Refused.new("Name the shots.", code: "bad_command") if shots.empty?

        failed = []
        done = shots.map do |shot|
          {shot: shot, exports: work.shot(shot)}.tap { |row| say told(row) unless options[:json] }
        rescue Refused => error
          # The others are gone on with.
          failed << shot
          {shot: shot, error: error.message}.tap { |row| say "#{shot}: #{row[:error]}" unless options[:json] }
        end
        answer(done) {
          say "#{done.size - failed.size} of #{done.size} shots were handed " \
          "on#{"; not #{failed.join(", ")}" if failed.any?}."
        }
        exit(1) if failed.any?
      end

      desc "watch FOLDER", "Run and hand on whatever shot is laid into a folder, as a file or packed"
      option :out, type: :string, required: true, desc: "A folder, in which each shot gets one"
      option :draft, type: :boolean, default: false, desc: "Drafts in place of full runs"
      option :once, type: :boolean, default: false, desc: "Only what lies there now"
      def watch_folder(folder)
        raise Refused.new("There is no folder #{folder}.", code: "no_folder") unless File.directory?(folder)

        say "Watching #{folder}; Ctrl-C ends it." unless options[:once] || options[:json]
        loop do
          work.folder_of(folder) do |name, outcome|
            answer(file: name, outcome: outcome) do
              say outcome.is_a?(String) ? "#{name}: #{outcome}" : told({shot: name, exports: outcome})
            end
          end
          break if options[:once]

          sleep 2
        end
      end
      map "watch" => :watch_folder

      private

      def started(shot)
        unless options[:as]
          raise Refused.new("Say --as and a format, or --saved and a saved export.", code: "bad_command")
        end

        passes, props = options.values_at(:passes, :props).map { |list| list.to_s.split(",").map(&:strip) }
        named = options[:called] ? {name: options[:called]} : {}
        workshop.exports.start(
          shot, options[:as], out: options[:out], frames: frames, size: size, passes: passes, props: props,
          finish: options[:finish], beside: options[:beside], **named
        )
      end

      def work =
        @work ||=
          Studio::Batch.new(workshop, options[:out], quality: options[:draft] ? "draft" : "full") do |job, words|
            follow(job, words)
          end

      def told(row) =
        "#{row[:shot]}: #{row[:exports].map { |one| "#{one[:export]} (#{one[:files]} files)" }.join(", ")}"
    end
  end
end
