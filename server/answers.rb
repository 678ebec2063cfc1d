# frozen_string_literal: true

require "json"

module Vumbral
  module Server
    # How routes read what was asked and answer it.
    module Answers
      STATUS = {
        "not_json" => 400, "bad_body" => 400, "bad_path" => 400, "unknown_path" => 404, "unknown_shot" => 404, "unknown_node" => 404,
        "unknown_mesh" => 404, "unknown_job" => 404, "unknown_print" => 404, "unknown_run" => 404, "unknown_export" => 404, "no_frame" => 404,
        "nothing_to_do" => 409, "not_run" => 409, "file_too_large" => 413, "disk_full" => 507, "internal" => 500
      }.freeze

      def answer(data, status = 200)
        halt status, {"content-type" => "application/json"}, JSON.generate(data)
      end

      def refuse(message, code, status)
        halt status, {"content-type" => "application/json"}, JSON.generate(error: message, code: code)
      end

      # @return [Hash] the request's JSON object
      # @raise [Refused]
      def json_body
        length = request.content_length.to_i
        raise Refused.new("The request has #{length / 1024 / 1024} MB; #{App::LARGEST_JSON / 1024 / 1024} MB is the most.", code: "file_too_large") if length > App::LARGEST_JSON

        text = raw_body
        data = text.empty? ? {} : JSON.parse(text)
        return data if data.is_a?(Hash)

        raise Refused.new("The body must be a JSON object.", code: "bad_body")
      rescue JSON::ParserError => error
        raise Refused.new("The body is not JSON: #{error.message.dup.force_encoding("UTF-8").scrub("?")[0, 80].tr("\n", " ")}.", code: "not_json")
      end

      # Refuses a file for its size before it is read.
      def check_length(name)
        length, most = request.content_length.to_i, Studio::Assets::LARGEST
        return if length <= most

        raise Refused.new("#{File.basename(name)[0, 80]} has #{length / 1024 / 1024} MB; bring files of at most #{most / 1024 / 1024} MB, thinned if need be.", code: "file_too_large")
      end

      # How long a request waits for a worker.
      PATIENCE = 120.0

      # Waits until a worker has done a short job. @return [Hash] its row
      def await(job, otherwise)
        until %w[done failed cancelled].include?((row = workshop.jobs.fetch(job))[:state])
          raise Refused.new(otherwise, code: "busy") if workshop.now - row[:created_at] > PATIENCE

          sleep 0.02
        end
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
        raise Refused.new("Frames come as [first, last].", code: "bad_value") unless range.is_a?(Array) && range.size == 2

        number(range[0], "The first frame")..number(range[1], "The last frame")
      end

      def size_given(size)
        return unless size
        raise Refused.new("A size comes as [width, height].", code: "bad_value") unless size.is_a?(Array) && size.size == 2

        size.map { |n| number(n, "A size") }
      end

      # Content that never changes under its address.
      def forever(path, type, encoding: nil)
        raise Refused.new("That is not here any more; run the shot again.", code: "no_frame") unless File.exist?(path)

        headers "content-encoding" => encoding if encoding
        cache_control :private, :immutable, max_age: 31_536_000
        send_file path, type: type, disposition: nil
      end

      # A shot with all that the desk needs to begin with.
      def shot_answer(id)
        row = workshop.shots.fetch(id)
        document = workshop.shots.document(row[:id])
        {id: row[:id], name: document.name, head: row[:head], document: document.to_h, steps: workshop.shots.steps(row[:id]),
         score: Shot::Score.new(document).rows, scene: Light::Renderer.settings(document, document.first_frame),
         jobs: workshop.jobs.active(row[:id]).map { |job| workshop.jobs.show(job) }}
      end
    end
  end
end
