# frozen_string_literal: true

module Vumbral
  module Truth
    # The lines of the table: what is measured, what it was, what is wanted, and how to find it.
    module Table
      Line = Struct.new(:name, :was, :wanted, :work)
      LINES = [] # rubocop:disable Style/MutableConstant

      module_function

      # @yieldreturn [Array(String, Boolean)] what was found, and whether that is as wanted
      def line(name, was:, wanted:, &work) = LINES << Line.new(name, was, wanted, work)

      # @param parts [Array<String>] only lines whose name holds one of these
      # @return [Boolean] whether all is as wanted
      def print(parts)
        lines = LINES.select { |line| parts.empty? || parts.any? { |part| line.name.include?(part) } }
        lines.map do |line|
          began = Process.clock_gettime(Process::CLOCK_MONOTONIC)
          found, good = line.work.call
          seconds = Process.clock_gettime(Process::CLOCK_MONOTONIC) - began
          puts format(
            "%s  %s\n      was %s · wanted %s\n      now %s  (%.0f s)", good ? "good" : "SHORT", line.name,
            line.was, line.wanted, found, seconds
          )
          $stdout.flush
          good
        end.all?
      end
    end
  end
end
