# frozen_string_literal: true

module Vumbral
  module CLI
    # A job in one line.
    class JobLine
      # @param job [Hash] as {Studio::Jobs#show} gives it
      def initialize(job)
        @job = job
      end

      # @return [String]
      def text
        format("%5d  %-7s %-24s %-9s %s", @job[:id], @job[:kind], @job[:shot], @job[:state], remark).rstrip
      end

      private

      def remark
        return @job[:error] if @job[:error]

        [
          ("#{@job[:done]} of #{@job[:total]}" if @job[:total].positive?), @job[:note],
          ("#{@job[:left]} s left" if @job[:left]), ("taken up again" if @job[:resumed] && @job[:state] == "running")
        ].compact.join(", ")
      end
    end
  end
end
