# frozen_string_literal: true

require "ruby-progressbar"

module Vumbral
  module CLI
    # A job's progress on a terminal: a bar with the time left. Silent where nobody looks.
    class Progress
      def initialize(title, quiet: false, output: $stderr)
        return if quiet || !output.tty?

        @bar = ProgressBar.create(title: title, total: nil, format: "%t |%B| %c/%C %e", output: output)
      end

      # @param job [Hash] a job's row
      def show(job)
        return unless @bar && job[:total].positive?

        @bar.total = job[:total] unless @bar.total == job[:total]
        @bar.progress = job[:done].clamp(0, job[:total])
      end
    end
  end
end
