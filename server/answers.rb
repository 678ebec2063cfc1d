# frozen_string_literal: true

require "json"

module Vumbral
  module Server
    # How routes read what was asked and answer it.
    module Answers
      STATUS = {
        "not_json" => 400, "bad_body" => 400, "bad_path" => 400, "unknown_path" => 404, "unknown_shot" => 404,
        "unknown_node" => 404,
        "unknown_mesh" => 404, "unknown_job" => 404, "unknown_print" => 404, "unknown_strip" => 404,
        "unknown_run" => 404, "unknown_point" => 404, "kept" => 409, "unknown_export" => 404, "no_frame" => 404,
        "nothing_to_do" => 409, "unknown_machine" => 404, "not_yours" => 409, "other_version" => 409,
        "not_allowed" => 403, "server_full" => 507, "damaged" => 422, "not_run" => 409, "conflict" => 409,
        "others_step" => 409, "on_the_shelf" => 409, "file_too_large" => 413, "disk_full" => 507, "internal" => 500
      }.freeze

      def answer(data, status = 200)
        halt status, {"content-type" => "application/json"}, JSON.generate(data)
      end

      def refuse(message, code, status, details = nil)
        halt status,
          {"content-type" => "application/json"},
          JSON.generate({error: message, code: code}.merge(details || {}))
      end

      # @return [Hash] the request's JSON object
      # @raise [Refused]
      def json_body
        check_length(EarlyLimit::JSON_LIMIT, "The request")
        text = raw_body.force_encoding(Encoding::UTF_8)
        raise Refused.new("The body is not UTF-8 text.", code: "not_json") unless text.valid_encoding?

        data = text.empty? ? {} : Formats::JsonText.parse(text, "The body")
        return data if data.is_a?(Hash)

        raise Refused.new("The body must be a JSON object.", code: "bad_body")
      end

      # Refuses a body for its size before it is looked at.
      def check_length(most, name)
        length = request.content_length.to_i
        return if length <= most

        raise Refused.new(
          "#{name} has #{length / 1024 / 1024} MB; #{most / 1024 / 1024} MB is the most.", code: "file_too_large"
        )
      end

      # Puts a file that was sent where a worker finds it, and waits until it was read.
      # @return [Hash] what it was found to be
      def bring(kind)
        read([keep_file], kind)
      end

      # Has files that were kept read by a worker.
      # @param files [Array<Hash>] :file and :name of each
      def read(files, kind, rest = {})
        job = workshop.jobs.add(kind, nil, {files: files, as: kind}.merge(rest))
        JSON.parse(await(job, "The file is still being read; look for it again in a while.")[:result])
      end

      # Keeps the body as a file that was sent. @return [Hash] :file, which it is asked for by, and :name
      def keep_file
        name = params["name"].to_s
        if name.empty?
          raise Refused.new("Say the file's name with ?name=, for its ending tells the format.", code: "bad_value")
        end

        workshop.assets.check_size(request.content_length.to_i, File.basename(name)[0, 80])
        file = "#{Process.pid}-#{rand(1 << 64).to_s(36)}"
        workshop.home.write(workshop.home.within("incoming", file), raw_body)
        {file: file, name: name}
      end

      # @return [Array<Hash>] file and name of each, of a body that names files which were kept
      def files_given(asked = json_body)
        files = asked["files"]
        unless files.is_a?(Array) && files.size.between?(1, 4000) &&
            files.all? { |row| row.is_a?(Hash) && row.values_at("file", "name").all?(String) }
          raise Refused.new("Files come as a list of objects, each with file and name.", code: "bad_value")
        end
        files.map { |row| row.slice("file", "name") }
      end

      # The shot with edits that are not kept.
      # @return [Shot::Document]
      def followed(shot, edits)
        document = workshop.shots.document(shot)
        (edits.is_a?(Array) && edits.any?) ? Vumbral::Shot::Edits.apply(document, edits)[0] : document
      end

      # Pixels of a picture to look at.
      # @raise [Refused] for too few or too many
      def look_size(value)
        size_given(value).tap do |size|
          unless size&.all? { |n| n.between?(16, 2048) }
            raise Refused.new("A picture to look at has 16 to 2048 pixels each way.", code: "out_of_range")
          end
        end
      end

      # A frame with all layers, once all that it needs is made: "frame", and perhaps "edits" that are not kept, and the
      # "part" of it that is wanted in full.
      # @return [Array(Shot::Document, Kernel::Buffer, Integer)] the shot, the picture as {Studio::Finishing#look} gives
      #   it, the frame
      def looked(id, asked, size)
        shot = workshop.shots.fetch(id)[:id]
        document = followed(shot, asked["edits"])
        frame = number(asked["frame"], "The frame").clamp(document.first_frame, document.last_frame)
        rushes = Studio::Rushes.of(workshop, shot, document, [frame], quiet: true)
        part = Studio::Pixels.part(asked["part"], size)
        workshop
          .finishing
          .missing(rushes, frame, size, part: part)
          .map { |payload| workshop.jobs.add("element", shot, payload) }
          .each { |job| await(job, "The picture is still being made; ask again in a while.") }
        held = asked["edits"].is_a?(Array) ? asked["edits"].dig(0, "node") : nil
        [document, workshop.finishing.look(rushes, frame, size, held: held, part: part), frame]
      end

      # Who asks: a window's own name, sent along with each change.
      def by
        given = request.get_header("HTTP_X_VUMBRAL_WINDOW")
        given && given[/\A[\w-]{1,60}\z/]
      end

      # How long a request waits for a worker.
      PATIENCE = 120.0

      # Waits until a worker has done a short job. @return [Hash] its row
      def await(job, otherwise)
        until %w[done failed cancelled].include?((row = workshop.jobs.fetch(job))[:state])
          raise Refused.new(otherwise, code: "busy") if workshop.now - row[:created_at] > PATIENCE

          sleep 0.01
        end
        raise Refused.new("It is not wanted any more.", code: "cancelled") if row[:state] == "cancelled"
        raise Refused.new(row[:error], code: row[:code]) unless row[:state] == "done"

        row
      end

      # The bytes that were sent, whatever they were called.
      def raw_body
        request.body.rewind if request.body.respond_to?(:rewind)
        request.body.read.to_s
      end

      # A whole number from the request.
      def number(value, name)
        whole = value.is_a?(Integer) ? value : Integer(value.to_s, 10, exception: false)
        whole || raise(Refused.new("#{name} must be a whole number, not #{value.inspect[0, 40]}.", code: "bad_value"))
      end

      def frames_given(range)
        return unless range
        unless range.is_a?(Array) && range.size == 2
          raise Refused.new("Frames come as [first, last].",
            code: "bad_value")
        end

        number(range[0], "The first frame")..number(range[1], "The last frame")
      end

      def size_given(size)
        return unless size
        unless size.is_a?(Array) && size.size == 2
          raise Refused.new("A size comes as [width, height].",
            code: "bad_value")
        end

        size.map { |n| number(n, "A size") }
      end

      # Content that never changes under its address.
      def forever(path, type, encoding: nil)
        raise Refused.new("That is not here any more; run the shot again.", code: "no_frame") unless File.exist?(path)

        headers "content-encoding" => encoding if encoding
        cache_control :private, :immutable, max_age: 31_536_000
        send_file path, type: type, disposition: nil
      end

      # Answers a step back or on.
      def moved(asked, step)
        workshop.runs.follow(params["id"]) if asked["follow"]
        answer(shot_answer(params["id"]).merge(label: step[:label]))
      end

      # A shot with all that the desk needs to begin with. `event` is told first, so that who listens from
      # there on misses nothing.
      def shot_answer(id)
        event = workshop.events.last
        row = workshop.shots.fetch(id)
        document = workshop.shots.document(row[:id])
        {
          id: row[:id], name: document.name, head: row[:head], event: event,
          trouble: workshop.home.trouble(workshop.now), document: document.to_h, steps: workshop.shots.steps(row[:id]),
          timeline: Shot::Timeline.new(document).rows,
          scene: Picture::Renderer.scene(document, document.first_frame, workshop.assets),
          lights_change: Picture::SceneCourse.changes?(document),
          bodies: workshop.bodies.key(document), led: Geometry::Hanging.places(document),
          eye: Picture::Camera.path(document),
          jobs: workshop.jobs.active(row[:id]).map { |job| workshop.jobs.show(job) }
        }
      end
    end
  end
end
