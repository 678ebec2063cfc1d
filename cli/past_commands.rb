# frozen_string_literal: true

module Vumbral
  module CLI
    # What was tried before: runs, kept runs and the history of a shot.
    class PastCommands < FinishCommands
      desc "runs SHOT", "List a shot's runs with what changed, keep one, bring its settings back, or give its room back"
      option :keep, type: :numeric, desc: "Keep this run"
      option :name, type: :string, desc: "Under this name"
      option :bring_back, type: :numeric, desc: "The shot gets the settings of this run"
      option :take_away, type: :numeric, desc: "Let this run go, with the frames that nothing else needs"
      def runs(shot)
        said =
          if options[:keep]
            "Kept as #{workshop.caches.keep_run(shot, options[:keep].to_i, options[:name])[:name]}."
          elsif options[:bring_back]
            workshop.past_runs.bring_back(shot, options[:bring_back].to_i)[:label]
          elsif options[:take_away]
            format("%.1f MB were given back.", workshop.past_runs.take_away(shot, options[:take_away].to_i) / 1e6)
          end
        rows = workshop.past_runs.list(workshop.shots.fetch(shot)[:id])
        answer({said: said, runs: rows}.compact) do
          rows.each do |row|
            say format(
              "%5d  %-5s  %4d of %-4d %s %s", row[:number], row[:quality], row[:there], row[:of],
              row[:cache] ? "★" : " ", row[:changed]
            )
          end
          say said if said
        end
      end

      desc "kept", "List the runs that are kept, hand them on, or let one go"
      option :export, type: :string, desc: "Digests of those to hand on, with commas"
      option :as,
        type: :string,
        default: "vdb",
        desc: "What as: vdb, png, exr, mp4, …; of a liquid ply, obj, drops or vdb-surface"
      option :place, type: :string, desc: "The digest of one that is placed in the shot of --in"
      option :in, type: :string, desc: "The shot that it is placed in"
      option :let_go, type: :string, desc: "The digest of one that is kept no longer"
      def kept
        jobs = options[:export] ? workshop.caches.export(options[:export].split(","), options[:as]) : []
        folders = jobs.map { |job| follow(job, "Export")[:folder] }
        if options[:place] && options[:in].nil?
          raise Refused.new("Say which shot it is placed in: --in SHOT.", code: "bad_value")
        end

        workshop.shots.edit(options[:in], workshop.caches.placing(options[:place])) if options[:place]
        given = options[:let_go] ? workshop.caches.let_go(options[:let_go]) : nil
        rows = workshop.caches.list
        answer({folders: folders, given: given, kept: rows}.compact) do
          rows.each do |row|
            say format(
              "%s  %-5s  frames %d to %d  %s", row[:digest], row[:quality], row[:first], row[:last], row[:name]
            )
          end
          folders.each { |folder| say folder }
          say format("%.1f MB were given back.", given / 1e6) if given
        end
      end

      desc "history SHOT", "Tell all that was tried in a shot, or go to a point of it"
      option :go, type: :numeric, desc: "The number of the point"
      def history(shot)
        workshop.shots.go_to(shot, options[:go].to_i) if options[:go]
        found = workshop.history.of(shot)
        answer(found) do
          found[:points].each do |point|
            made = point[:runs].map { |number| "R#{number}" } + point[:prints].map { |number| "P#{number}" }
            say format(
              "%s%5d  %s%s%s", (point[:number] == found[:head]) ? ">" : " ", point[:number], "| " * point[:line],
              point[:labels].last(2).join(", "), made.empty? ? "" : "  (#{made.join(" ")})"
            )
          end
        end
      end
    end
  end
end
