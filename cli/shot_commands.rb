# frozen_string_literal: true

module Vumbral
  module CLI
    # Shots from the command line: made, looked at, changed.
    class ShotCommands < Base
      desc "shots", "List the shots"
      option :away, type: :boolean, desc: "Those taken away"
      def shots
        listed = options[:away] ? workshop.shots.away : workshop.shots.list
        rows =
          listed.map { |row| {id: row[:id], name: row[:name], changed: Time.at(row[:changed_at]).strftime("%F %T")} }
        answer(rows) { rows.each { |row| say format("%-28s %-32s %s", row[:id], row[:name], row[:changed]) } }
      end

      desc "new STARTER", "Make a shot from a starter (#{Studio::Starters::ALL.keys.join(", ")})"
      option :name, type: :string, required: true
      option :prop, type: :string, desc: "A mesh file that becomes the source"
      def new(starter)
        prop = options[:prop] && workshop.assets.bring_file(options[:prop])[:digest]
        made(workshop.shots.create(options[:name], starter: starter, prop: prop), "Made")
      end

      desc "import FILE", "Bring in a saved shot"
      def import(file)
        made(workshop.shots.import(read_file(file), from: File.basename(file)), "Brought in")
      end

      desc "unpack FILE", "Bring in a whole shot that was packed (export --as zip)"
      def unpack(file)
        raise Refused.new("There is no file #{file}.", code: "no_file") unless File.file?(file)

        made(workshop.bundles.unpack(file, File.basename(file)), "Brought in")
      end

      desc "duplicate SHOT", "Make a copy, which shares the frames"
      def duplicate(shot)
        made(workshop.shots.duplicate(shot), "Made")
      end

      desc "take-away SHOT", "Take a shot off the shelf; it can be put back for thirty days"
      def take_away(shot)
        row = workshop.shots.take_away(shot)
        answer({taken_away: row[:id]}) { say "Took #{row[:id]} away; put-back #{row[:id]} puts it back." }
      end

      desc "put-back SHOT", "Put a shot back that was taken away"
      def put_back(shot)
        row = workshop.shots.put_back(shot)
        answer({put_back: row[:id]}) { say "Put #{row[:id]} back." }
      end

      desc "let-go SHOT", "End a shot that was taken away, with its frames, prints and exports, for good"
      option :yes, type: :boolean, desc: "Do not ask"
      def let_go(shot)
        row = workshop.shots.fetch(shot)
        raise Refused.new("Nothing was let go; say --yes to do it.", code: "not_sure") unless sure?(row[:name])

        workshop.shots.let_go(row[:id])
        answer({let_go: row[:id]}) { say "Let #{row[:id]} go." }
      end

      desc "bring SHOT FILE …",
        "Put a mesh into a shot: one file with what lies beside it, or a numbered sequence; or an OpenVDB volume"
      option :unit,
        type: :string,
        default: "m",
        enum: Geometry::Shapes::UNITS.keys,
        desc: "What 1 stands for in the file"
      option :up, type: :string, default: "y", enum: %w[y z], desc: "Which axis points upwards in the file"
      option :apart, type: :boolean, desc: "Each part as a prop of its own"
      option :others, type: :boolean, desc: "Its cameras and lamps too"
      def bring(shot, *files)
        raise Refused.new("Name a mesh file to bring.", code: "bad_command") if files.empty?

        return bring_volume(shot, files[0]) if files.size == 1 && File.extname(files[0]).casecmp?(".vdb")

        rate = workshop.shots.document(shot).rate
        asset = (files.size == 1) ? workshop.assets.bring_file(files[0], rate: rate) : workshop.assets.bring_sequence(files.to_h { |file| [File.basename(file), -> { read_file(file) }] })
        step =
          workshop.arrivals.call(
            shot, asset[:digest], unit: options[:unit], up: options[:up], apart: options[:apart],
            others: options[:others]
          )
        answer({changed: step[:label], head: step[:head], props: step[:props], mesh: asset}) do
          say step[:label]
          asset[:facts]["left_out"].each { |line| say line }
        end
      end

      desc "fit SHOT TO", "Fit the chamber to a prop (its id), to all sources, or to what the last run filled (run)"
      def fit(shot, to)
        changed(Studio::Fitting::TO.include?(to) ? workshop.fitting.call(shot, to) : workshop.fitting.call(shot, "prop", node: to))
      end

      desc "put-down SHOT PROP", "Let a prop down onto what is under it"
      option :frame, type: :numeric, default: 1, desc: "As things stand at this frame"
      def put_down(shot, prop) = changed(workshop.placing.put_down(shot, prop, options[:frame]))

      desc "bake SHOT PROP", "Swap a prop that moves for the same as a mesh of its own for each frame"
      def bake(shot, prop) = changed(workshop.arrivals.bake(shot, prop))

      desc "set SHOT NODE.DIAL VALUE", "Set a dial"
      def set(shot, dial, value)
        node, name = dial.split(".", 2)
        unless name
          raise Refused.new(
            "Name the dial as NODE.DIAL, for example chamber.voxel, not #{dial.inspect}.", code: "bad_value"
          )
        end
        changed(workshop.shots.edit(shot, [{"do" => "set", "node" => node, "dial" => name, "value" => value}]))
      end

      desc "edit SHOT FILE", "Carry out a list of edits from a JSON file (- for standard input), all or none"
      long_desc <<~TEXT
        The file holds what is sent over HTTP: a list of edits, or {"edits": [...], "head": N}, where N is the
        step that they were made on; if somebody else changed the same dials since, nothing is changed.
      TEXT
      def edit(shot, file)
        text = Formats::Text.utf8((file == "-") ? $stdin.read : read_file(file))
        given = Formats::JsonText.parse(text, file)
        given = {"edits" => given} unless given.is_a?(Hash)
        head = given["head"]
        unless head.nil? || head.is_a?(Integer)
          raise Refused.new("The head must be a whole number, not #{head.inspect[0, 40]}.", code: "bad_value")
        end

        changed(workshop.shots.edit(shot, given["edits"], head: head))
      end

      desc "undo SHOT", "Take the last step back"
      def undo(shot) = changed(workshop.shots.undo(shot))

      desc "redo SHOT", "Do the step that was taken back again"
      def redo(shot) = changed(workshop.shots.redo(shot))

      desc "show SHOT", "Show a shot's nodes and every dial off its default"
      def show(shot)
        document = workshop.shots.document(shot)
        answer(document.to_h) { Listing.new(document).lines.each { |line| say line } }
      end

      desc "preflight SHOT", "Say what would go wrong, before it does; the exit code is 2 if anything would"
      def preflight(shot)
        findings = workshop.preflights.of(shot)
        answer(findings) do
          say "Nothing was found." if findings.empty?
          findings.each do |finding|
            say "#{finding[:text]}#{" Remedy: #{finding[:remedy][:label]}." if finding[:remedy]}"
          end
        end
        exit 2 if findings.any?
      end

      private

      def bring_volume(shot, path)
        asset = workshop.assets.volumes.bring(read_file(path), File.basename(path))
        step = workshop.arrivals.volume(shot, asset)
        answer({changed: step[:label], head: step[:head], sculpt: step[:sculpt], volume: asset}) do
          say step[:label]
          asset[:facts]["left_out"].each { |name| say "#{name} was left out." }
        end
      end

      def sure?(name)
        return true if options[:yes]

        !options[:json] && $stdin.tty? && yes?("Let #{name} go with all its frames and prints, for good? (y/n)")
      end

      def made(row, word)
        answer({id: row[:id], name: row[:name]}) { say "#{word} the shot #{row[:id]}." }
      end

      def changed(step)
        answer({changed: step[:label], head: step[:head]}) { say step[:label] }
      end
    end
  end
end
