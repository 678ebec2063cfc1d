# frozen_string_literal: true

module Vumbral
  module CLI
    # The command line: the same studio as in the browser.
    class Commands < ExportCommands
      desc "run SHOT", "Run the simulation; a draft unless --full"
      option :full, type: :boolean
      option :frames, type: :string, desc: "A-B: stop after B"
      def run_shot(shot)
        run = workshop.runs.start(shot, options[:full] ? "full" : "draft", frames: frames, views: false)
        result = follow(run[:job_id], "Run #{run[:number]}")
        answer(result.merge(run: run[:number], cells: run[:cells])) do
          surfaces = result[:surfaces] || result.dig(:liquid, :surfaces)
          if result[:seconds].nil?
            anew = surfaces ? "#{surfaces} surfaces of the liquid were made anew" : "Every frame is up to date"
            next say("#{anew}; nothing had to be run.")
          end

          say "#{result[:computed]} frames computed, #{result[:kept]} used again" \
            "#{", #{result[:refined]} refined" if result[:refined]} in #{result[:seconds]} s."
        end
      end
      map "run" => :run_shot

      desc "sheet SHOT", "Make a contact sheet of several frames, with figures"
      option :frames, type: :string, required: true, desc: "Frames, for example 8,14,24"
      option :size, type: :string, default: "480x270", desc: "WxH of each picture in pixels"
      option :out, type: :string, required: true, desc: "A PNG file"
      def sheet(shot)
        bar = Progress.new("Sheet", quiet: options[:json])
        png, rows =
          workshop.sheets.make(shot, listed_frames, size) { |done, total| bar.show({done: done, total: total}) }
        workshop.home.write(File.expand_path(options[:out]), png)
        answer(out: options[:out], frames: rows) do
          rows.each do |row|
            say format(
              "%5d  %s  %5.1f %% bright  %5.1f %% dark%s", row[:frame], row[:quality], 100 * row[:bright],
              100 * row[:dark], row[:peak] ? "  #{row[:peak].round} K" : ""
            )
          end
          say "Sheet: #{options[:out]}"
        end
      end

      desc "strip SHOT", "Run variations of one to three dials, and make a sheet of them"
      option :dial,
        type: :string,
        required: true,
        repeatable: true,
        desc: "NODE.DIAL=0,1,2 or =0..3/4 (even steps) or =1*2/4 (each twice the one before)"
      option :full, type: :boolean
      option :frame, type: :numeric, desc: "Of the sheet; the last one otherwise"
      option :sure, type: :boolean, desc: "Very many variations are meant"
      option :out, type: :string, desc: "A PNG file for the sheet"
      def strip(shot)
        row =
          workshop.strips.start(
            shot, options[:dial].map { |text| axis(text) }, quality: options[:full] ? "full" : "draft",
            sure: options[:sure]
          )
        result = follow(row[:job_id], "Test strip #{row[:number]}")
        sheet_of(row) if options[:out]
        shown =
          0
            .step(result[:runs] - 1, Shot::Strip::MANY)
            .flat_map { |from| workshop.strips.show(row[:shot_id], row[:number], from: from)[:cells].compact }
        answer(
          result.merge(
            strip: row[:number], cells: shown.map { |cell| cell.slice(:values, :figures, :done) }, out: options[:out]
          )
        ) do
          shown.each do |cell|
            say [
              cell[:shown].join(" × ").ljust(24),
              *cell[:figures].slice(:peak, :top, :left, :seconds).map { |name, value| "#{name} #{value}" }
            ].join("  ")
          end
          result[:failed].each { |sentence| say sentence }
          say "#{result[:runs]} variations, #{result[:computed]} frames " \
            "computed#{"; sheet: #{options[:out]}" if options[:out]}."
        end
      end

      desc "print SHOT", "Make a picture of a frame"
      option :frame, type: :numeric, required: true
      option :size, type: :string, desc: "WxH in pixels"
      option :out, type: :string, required: true, desc: "A PNG file"
      def print(shot)
        id = workshop.prints.take(shot, options[:frame].to_i, size: size)
        result = follow(id, "Print")
        row = workshop.shots.fetch(shot)
        workshop.home.write(
          File.expand_path(options[:out]), File.binread(workshop.prints.path(row[:id], result[:number]))
        )
        answer(result.merge(out: options[:out])) do
          say "Print #{result[:number]} of frame #{result[:frame]} (#{result[:quality]}) in #{result[:seconds]} s: " \
            "#{options[:out]}"
        end
      end

      desc "jobs", "List the newest jobs: what runs, waits and has ended"
      def jobs
        rows = workshop.jobs.recent.map { |job| workshop.jobs.show(job) }
        answer(rows) { rows.each { |row| say JobLine.new(row).text } }
      end

      desc "serve", "Start the server and its workers"
      option :port, type: :numeric, default: 4680
      option :host, type: :string, default: "127.0.0.1"
      option :workers, type: :boolean, default: true
      option :token,
        type: :string,
        default: ENV["VUMBRAL_TOKEN"],
        desc: "Asked of everybody; made up where it is not said, but for this machine alone"
      option :redis,
        type: :string,
        default: ENV["VUMBRAL_REDIS"],
        desc: "Redis that calls workers of other machines, for example redis://127.0.0.1:6379/0"
      def serve
        if options[:token] && options[:token].size < 16
          raise Refused.new("A token has at least 16 characters.", code: "bad_value")
        end

        Server::Launcher.new(
          Studio::Workshop.new(options[:home], redis: options[:redis]), host: options[:host], port: options[:port].to_i,
          workers: options[:workers], token: options[:token], json: options[:json]
        ).run
      end

      desc "job ID WHAT",
        "Have a job come first, hold it back, go on with it, do it again or stop it (first, hold, go-on, again, " \
          "stop)"
      def job(id, what)
        verb =
          {"first" => :first, "hold" => :hold, "go-on" => :go_on, "again" => :again, "stop" => nil}.fetch(what) do
            raise Refused.new(
              "A job is told first, hold, go-on, again or stop, not #{what[0, 40].inspect}.", code: "bad_command"
            )
          end
        row = verb ? workshop.queue.public_send(verb, id.to_i) : workshop.jobs.cancel(id.to_i)
        shown = workshop.jobs.show(row)
        answer(shown) { say JobLine.new(shown).text }
      end

      desc "room", "Tell what the data folder holds, and how much of it there may be"
      option :limit, type: :string, desc: "GB that frames may take, or none"
      option :clear,
        type: :string,
        desc: "What to give back: stale (frames that no shot needs as it stands), views, elements, …"
      def room
        workshop.room.limit = (options[:limit] == "none") ? nil : (Float(options[:limit], exception: false).to_f * (1 << 30)).round if options[:limit]
        given = options[:limit] ? workshop.room.keep_within : 0
        given += workshop.room.clear(options[:clear]) if options[:clear]
        found = workshop.room.of.merge(given: given)
        answer(found) do
          found[:parts].each { |part| say format("%9.1f MB  %-10s %s", part[:bytes] / 1e6, part[:name], part[:label]) }
          say format(
            "%9.1f MB  %-10s frames that no shot needs as it stands (%d)", found[:stale][:bytes] / 1e6, "stale",
            found[:stale][:frames]
          )
          say format("%.1f MB were given back.", given / 1e6) if given.positive?
        end
      end

      desc "worker", "Work off jobs: of this data folder, or of a server elsewhere (--server)"
      option :lanes, type: :string, desc: "long and short of this data folder; short, part and long of a server"
      option :parent, type: :numeric, hide: true
      option :server, type: :string, desc: "Address of the server to work for, for example https://host:4680"
      option :token, type: :string, default: ENV["VUMBRAL_TOKEN"], desc: "The server's token"
      option :redis,
        type: :string,
        default: ENV["VUMBRAL_REDIS"],
        desc: "The server's Redis, which calls; without it the worker asks by itself"
      option :name, type: :string, desc: "What this machine is called on the jobs page"
      option :cache, type: :string, desc: "Folder for what is fetched"
      option :room, type: :numeric, default: 20, desc: "GB that it may take"
      option :memory, type: :numeric, desc: "GB that work may take; most of what the machine has otherwise"
      option :cores, type: :numeric, desc: "Cores that work may use; all otherwise"
      option :bandwidth, type: :numeric, desc: "MB a second that are sent and fetched at most"
      def worker
        return Away.new(options).call if options[:server]

        worker =
          Studio::Worker.new(
            workshop, lanes: (options[:lanes] || "long,short").split(","), parent: options[:parent]&.to_i
          )
        %w[INT TERM].each { |signal| Signal.trap(signal) { worker.stop } }
        # The browser's requests come before the work.
        nice = [Process.getpriority(Process::PRIO_PROCESS, 0), 5].max
        Process.setpriority(Process::PRIO_PROCESS, 0, nice) if options[:parent]
        Studio::Warmth.new.call
        worker.run(leave: -> { exit!(0) })
      end

      desc "machines",
        "List the machines that work for this data folder; with --pause, --go-on or --let-go ID, tell one"
      option :pause, type: :string
      option :go_on, type: :string
      option :let_go, type: :string
      option :twice, type: :numeric, desc: "Share of what they make that is made twice and compared, 0 to 1"
      def machines
        %i[pause go_on let_go].each { |verb| options[verb] && workshop.machines.public_send(verb, options[verb]) }
        workshop.foreman.twice = options[:twice] if options[:twice]
        rows = workshop.machines.list
        answer(rows) do
          say "No other machine works for this data folder." if rows.empty?
          rows.each do |row|
            say format(
              "%-14s %-20s %3d cores %6.1f GB %7.2f  %-8s %s", row[:id] || "this machine", row[:name], row[:cores],
              row[:memory] / 1e9, row[:speed].to_f, row[:state], row[:trouble]
            ).rstrip
          end
        end
      end

      desc "demo", "Make the demo shots, unless they are there; their frames are made by the server's workers"
      def demo
        made = Demo::Maker.new(workshop).call
        answer(made) { made.each { |name| say "Made the demo shot #{name}." } }
      end

      desc "dials", "List every dial as Markdown"
      def dials
        kinds = Shot::Kinds.all.values
        answer(kinds.map(&:to_h)) { say DialList.new(kinds).text }
      end

      no_commands do
        # What is varied by one dial, as {Shot::Strip} takes it.
        def axis(text)
          place, course = text.split("=", 2)
          node, dial = place.to_s.split(".", 2)
          unless dial && course && !course.empty?
            raise Refused.new(
              "Give what varies as NODE.DIAL=VALUES, for example chamber.curl_boost=0,1,2, not #{text.inspect}.",
              code: "bad_value"
            )
          end

          {"node" => node, "dial" => dial}.merge(course(course))
        end

        def course(text)
          number = "(-?[0-9.]+(?:e-?[0-9]+)?)"
          if (found = text.match(%r{\A#{number}\.\.#{number}/(\d+)\z}o))
            {"from" => found[1].to_f, "to" => found[2].to_f, "count" => found[3].to_i}
          elsif (found = text.match(%r{\A#{number}\*#{number}/(\d+)\z}o))
            {"from" => found[1].to_f, "times" => found[2].to_f, "count" => found[3].to_i}
          else
            {"values" => text.split(",").map { |value| plain(value.strip) }}
          end
        end

        def plain(text)
          return text == "true" if %w[true false].include?(text)

          Integer(text, exception: false) || Float(text, exception: false) || text
        end

        def sheet_of(row)
          frame = (options[:frame] || workshop.strips.strip(row).at(0).last_frame).to_i
          made = follow(workshop.strips.sheet(row[:shot_id], row[:number], frame), "Sheet")
          workshop.home.write(
            File.expand_path(options[:out]), File.binread(workshop.sheets.path(row[:shot_id], made[:sheet]))
          )
        end
      end

      desc "kernels", "Build the computation's inner loops, unless they are built"
      def kernels
        bar = Progress.new("Kernels", quiet: options[:json])
        count = Kernel.build_all { |done, total| bar.show(done: done, total: total) }
        answer({built: count}) { nil }
      end
    end
  end
end
