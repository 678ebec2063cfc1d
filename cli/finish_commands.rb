# frozen_string_literal: true

module Vumbral
  module CLI
    # The finish from the command line: what comes in for it, and spots that are followed.
    class FinishCommands < ShotCommands
      desc "plate FILE …", "Bring a plate: one movie, one picture, or pictures that are numbered through"
      def plate(*files)
        raise Refused.new("Name the files of the plate.", code: "bad_command") if files.empty?

        gone = files.find { |file| !File.file?(file) }
        raise Refused.new("There is no file #{gone}.", code: "no_file") if gone

        found = workshop.plates.bring(files.to_h { |file| [File.basename(file), file] })
        answer(found) do
          say "#{found[:name]}: #{found[:facts]["frames"]} frames of #{found[:facts]["width"]} × " \
            "#{found[:facts]["height"]} pixels. A layer shows it as its plate #{found[:digest]}."
          found[:facts]["left_out"].each { |line| say line }
        end
      end

      desc "table FILE", "Bring a look-up table, a .cube file"
      def table(file)
        found = workshop.plates.bring_table(read_file(file), File.basename(file))
        answer(found) { say "#{found[:name]}: an effect takes it as its table #{found[:digest]}." }
      end

      desc "colours SHOT LAYER", "Write what a layer's effects (its id) make of colours as a look-up table"
      option :frame, type: :numeric, desc: "Of effects that are keyed; the first one otherwise"
      option :out, required: true, desc: "The .cube file to write"
      def colours(shot, layer)
        document = workshop.shots.document(shot)
        text, others = workshop.finishing.table(document, layer, (options[:frame] || document.first_frame).to_i)
        workshop.home.write(File.expand_path(options[:out]), text)
        answer({out: options[:out], left_out: others}) do
          say "#{options[:out]} is written.#{" No table holds #{others.join(", ")}." if others.any?}"
        end
      end

      desc "track SHOT SPOT", "Follow a tracked spot (its id) from frame to frame; it becomes keys"
      option :from, type: :numeric, required: true, desc: "A frame on which it is where it shall be"
      option :to, type: :numeric, required: true, desc: "The last frame, or one before it to follow back"
      def track(shot, spot)
        result = follow(workshop.tracking.start(shot, spot, options[:from].to_i, options[:to].to_i), "Track")
        answer(result) {
          say "#{result[:name]} was followed over #{result[:found]} " \
          "frames#{"; it slipped at frame #{result[:slipped]}" if result[:slipped]}."
        }
      end

      desc "spots SHOT LAYER", "Find spots in a layer (its id) by themselves and follow them over the shot"
      option :frame, type: :numeric, required: true, desc: "The frame on which they are sought"
      option :count, type: :numeric, default: 24, desc: "At most so many"
      def spots(shot, layer)
        result = follow(workshop.sightings.find(shot, layer, options[:frame].to_i, options[:count].to_i), "Spots")
        answer(result) { say "#{result[:kept]} spots were followed, of #{result[:found]} that were found." }
      end

      desc "sight SHOT", "Take the camera from tracked spots; it becomes keys"
      option :from, type: :numeric, required: true, desc: "A frame on which the camera is set"
      option :how, default: "tripod", enum: %w[tripod free], desc: "free needs spots whose places are known"
      option :zooms, type: :boolean, default: false, desc: "Its focal length is sought too"
      def sight(shot)
        result =
          follow(workshop.sightings.solve(shot, options[:from].to_i, options[:how], zooms: options[:zooms]), "Camera")
        answer(result) do
          say "The camera is known on #{result[:frames]} frames; its spots lie #{result[:off]} pixels off in the mean."
          say "Left out on some frames: #{result[:wrong].join(", ")}." if result[:wrong].any?
        end
      end

      desc "pin SHOT PROP", "Put a prop (its id) where its tracked spots are; it becomes keys"
      def pin(shot, prop)
        result = follow(workshop.tracking.pin(shot, prop), "Pin")
        answer(result) do
          say "#{result[:name]} is pinned on #{result[:frames]} frames, #{result[:off]} pixels off in the mean."
        end
      end
    end
  end
end
