# frozen_string_literal: true

require "json"
require "thor"

module Vumbral
  module CLI
    # What all commands share: where the data is, how they answer, and that a mistake is one sentence.
    class Base < Thor
      package_name "vumbral"

      class_option :home,
        type: :string,
        desc: "Data folder",
        default: ENV.fetch("VUMBRAL_HOME", File.join(ROOT, "var", "home"))
      class_option :json, type: :boolean, desc: "Answer as JSON"

      def self.exit_on_failure? = true

      # Turns whatever was refused into one sentence and an exit code.
      def self.start(given = ARGV, config = {})
        # Text is UTF-8, whatever the terminal's language is set to.
        given = given.map { |word| Formats::Text.utf8(word) }
        # So that mistakes in the command itself come here as well.
        super(given, {debug: true}.merge(config))
      rescue Refused => error
        leave(error.message, error.code, given)
      rescue Thor::Error => error
        leave(error.message.strip, "bad_command", given)
      rescue Studio::Database::Error => error
        full = Studio::Database.full?(error)
        leave(
          full ? "The disk is full; free some space and try again." : "The data is busy; try again.",
          full ? "disk_full" : "busy", given
        )
      rescue Errno::EPIPE
        exit 0
      rescue Interrupt
        warn "\nStopped; what was finished is kept."
        exit 130
      end

      def self.leave(message, code, given)
        given.include?("--json") ? puts(JSON.generate(error: message, code: code)) : warn(message)
        exit 1
      end
      private_class_method :leave

      private

      def workshop = @workshop ||= Studio::Workshop.new(options[:home])

      # As JSON, or as the block says it.
      def answer(data)
        options[:json] ? puts(JSON.generate(data)) : yield
      end

      def read_file(path)
        raise Refused.new("There is no file #{path}.", code: "no_file") unless File.file?(path)

        File.binread(path)
      end

      def frames
        return unless options[:frames]

        first, last = options[:frames].match(/\A(\d+)(?:-(\d+))?\z/)&.captures
        unless first
          raise Refused.new("Give frames as A-B, for example 1-48, not #{options[:frames].inspect}.", code: "bad_value")
        end

        first.to_i..(last || first).to_i
      end

      # Single frames and ranges, for example 8,14,24-26.
      def listed_frames
        parts = options[:frames].split(",").map { |part| part.strip.match(/\A(\d+)(?:-(\d+))?\z/)&.captures }
        if parts.empty? || parts.any?(&:nil?)
          raise Refused.new(
            "Give frames as a list, for example 8,14,24-26, not #{options[:frames].inspect}.", code: "bad_value"
          )
        end

        parts.flat_map { |first, last| (first.to_i..(last || first).to_i).first(1000) }.uniq
      end

      def size
        return unless options[:size]

        width, height = options[:size].match(/\A(\d+)x(\d+)\z/)&.captures
        unless width
          raise Refused.new(
            "Give a size as WxH, for example 640x360, not #{options[:size].inspect}.", code: "bad_value"
          )
        end

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

        raise Refused.new(
          job[:error] || "#{title} was stopped; what was finished is kept.", code: job[:code] || "cancelled"
        )
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
