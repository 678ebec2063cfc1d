# frozen_string_literal: true

require "json"
require "thor"

module Vumbral
  module CLI
    # The command line: the same studio as in the browser.
    class Commands < Thor
      package_name "vumbral"

      class_option :home, type: :string, desc: "Data folder", default: ENV.fetch("VUMBRAL_HOME", File.join(ROOT, "var", "home"))
      class_option :json, type: :boolean, desc: "Answer as JSON"

      def self.exit_on_failure? = true

      desc "shots", "List the shots"
      def shots
        rows = workshop.shots.list.map { |row| {id: row[:id], name: row[:name], changed: Time.at(row[:changed_at]).strftime("%F %T")} }
        answer(rows) { rows.each { |row| say format("%-28s %-32s %s", row[:id], row[:name], row[:changed]) } }
      end

      desc "new STARTER", "Make a shot from a starter (#{Studio::Starters::ALL.keys.join(", ")})"
      option :name, type: :string, required: true
      option :prop, type: :string, desc: "A mesh file that becomes the source"
      def new(starter)
        prop = options[:prop] && workshop.assets.bring_file(options[:prop])[:digest]
        row = workshop.shots.create(options[:name], starter: starter, prop: prop)
        answer({id: row[:id], name: row[:name]}) { say "Made the shot #{row[:id]}." }
      end

      desc "import FILE", "Bring in a saved shot"
      def import(file)
        raise Refused.new("There is no file #{file}.", code: "no_file") unless File.file?(file)

        row = workshop.shots.import(File.read(file), from: File.basename(file))
        answer({id: row[:id], name: row[:name]}) { say "Brought in the shot #{row[:id]}." }
      end

      desc "set SHOT NODE.DIAL VALUE", "Set a dial"
      def set(shot, dial, value)
        node, name = dial.split(".", 2)
        raise Refused.new("Name the dial as NODE.DIAL, for example chamber.voxel, not #{dial.inspect}.", code: "bad_value") unless name

        label = workshop.shots.edit(shot, [{"do" => "set", "node" => node, "dial" => name, "value" => value}])[:label]
        answer({changed: label}) { say label }
      end

      desc "show SHOT", "Show a shot's nodes and every dial off its default"
      def show(shot)
        document = workshop.shots.document(shot)
        answer(document.to_h) { Listing.new(document).lines.each { |line| say line } }
      end

      desc "run SHOT", "Run the simulation; a draft unless --full"
      option :full, type: :boolean
      option :frames, type: :string, desc: "A-B: stop after B"
      def run_shot(shot)
        run = workshop.runs.start(shot, options[:full] ? "full" : "draft", frames: frames, views: false)
        result = follow(run[:job_id], "Run #{run[:number]}")
        answer(result.merge(run: run[:number], cells: run[:cells])) do
          say "#{result[:computed]} frames computed, #{result[:kept]} used again#{", #{result[:refined]} refined" if result[:refined]}#{" in #{result[:seconds]} s" if result[:seconds]}."
        end
      end
      map "run" => :run_shot

      desc "print SHOT", "Make a picture of a frame"
      option :frame, type: :numeric, required: true
      option :size, type: :string, desc: "WxH in pixels"
      option :out, type: :string, required: true, desc: "A PNG file"
      def print(shot)
        id = workshop.prints.take(shot, options[:frame].to_i, size: size)
        result = follow(id, "Print")
        row = workshop.shots.fetch(shot)
        workshop.home.write(File.expand_path(options[:out]), File.binread(workshop.prints.path(row[:id], result[:number])))
        answer(result.merge(out: options[:out])) { say "Print #{result[:number]} of frame #{result[:frame]} (#{result[:quality]}) in #{result[:seconds]} s: #{options[:out]}" }
      end

      desc "export SHOT", "Hand frames on as files"
      option :as, type: :string, required: true, enum: Studio::Exports::FORMATS.keys
      option :out, type: :string, required: true, desc: "A folder"
      option :frames, type: :string, desc: "A-B"
      option :size, type: :string, desc: "WxH in pixels, for pictures"
      def export(shot)
        result = follow(workshop.exports.start(shot, options[:as], out: options[:out], frames: frames, size: size), "Export")
        answer(result) { say "#{result[:files]} files (#{result[:bytes] / 1024} KB) in #{result[:folder]}" }
      end

      desc "serve", "Start the server and its workers"
      option :port, type: :numeric, default: 4680
      option :host, type: :string, default: "127.0.0.1"
      option :workers, type: :boolean, default: true
      def serve
        Server::Launcher.new(workshop, host: options[:host], port: options[:port].to_i, workers: options[:workers]).run
      end

      desc "worker", "Work off jobs"
      option :lanes, type: :string, default: "long,short"
      option :parent, type: :numeric, hide: true
      def worker
        worker = Studio::Worker.new(workshop, lanes: options[:lanes].split(","), parent: options[:parent]&.to_i)
        %w[INT TERM].each { |signal| Signal.trap(signal) { worker.stop } }
        # The browser's requests come before the work.
        Process.setpriority(Process::PRIO_PROCESS, 0, 5) if options[:parent]
        Studio::Warmth.new.call
        worker.run
      end

      desc "demo", "Make the demo shots, unless they are there"
      def demo
        made = Demo::Maker.new(workshop) { |job, title| follow(job, title) }.call
        answer(made) { made.each { |name| say "Made the demo shot #{name}." } }
      end

      desc "dials", "List every dial as Markdown"
      def dials
        kinds = Shot::Kinds.all.values
        answer(kinds.map(&:to_h)) { say DialList.new(kinds).text }
      end

      desc "kernels", "Build the computation's inner loops, unless they are built"
      def kernels
        bar = nil
        Kernel.build_all do |_, index, count|
          bar ||= Progress.new("Kernels", quiet: options[:json])
          bar.show(done: index, total: count)
        end
        count = Kernel.libraries.size
        answer({built: count}) { bar&.show(done: count, total: count) }
      end

      # Turns whatever was refused into one sentence and an exit code.
      def self.start(given = ARGV, config = {})
        super
      rescue Refused => error
        report(error.message, error.code, given)
        exit 1
      rescue Interrupt
        warn "\nStopped; what was finished is kept."
        exit 130
      end

      def self.report(message, code, given)
        given.include?("--json") ? puts(JSON.generate(error: message, code: code)) : warn(message)
      end

      private

      def workshop = @workshop ||= Studio::Workshop.new(options[:home])

      def answer(data)
        options[:json] ? puts(JSON.generate(data)) : yield
      end

      def frames
        return unless options[:frames]

        first, last = options[:frames].match(/\A(\d+)(?:-(\d+))?\z/)&.captures
        raise Refused.new("Give frames as A-B, for example 1-48, not #{options[:frames].inspect}.", code: "bad_value") unless first

        first.to_i..(last || first).to_i
      end

      def size
        return unless options[:size]

        width, height = options[:size].match(/\A(\d+)x(\d+)\z/)&.captures
        raise Refused.new("Give a size as WxH, for example 640x360, not #{options[:size].inspect}.", code: "bad_value") unless width

        [width.to_i, height.to_i]
      end

      # Does a job here, or watches the worker that took it.
      def follow(id, title)
        bar = Progress.new(title, quiet: options[:json])
        worker = Thread.new { Studio::Worker.new(Studio::Workshop.new(options[:home])).run_one(id) }
        worker.report_on_exception = false
        job = watch(id, bar)
        worker.join
        return JSON.parse(job[:result], symbolize_names: true) if job[:state] == "done"

        raise Refused.new(job[:error] || "#{title} was stopped; what was finished is kept.", code: job[:code] || "cancelled")
      rescue Interrupt
        workshop.jobs.cancel(id)
        worker&.join(10)
        raise
      end

      def watch(id, bar)
        loop do
          job = workshop.jobs.fetch(id)
          bar.show(job)
          return job unless %w[queued running].include?(job[:state])

          sleep 0.05
        end
      end
    end
  end
end
