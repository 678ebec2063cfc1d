# frozen_string_literal: true

require "optparse"
require "tmpdir"
require_relative "server"
require_relative "kills"
require_relative "disk"
require_relative "files"
require_relative "editors"
require_relative "farm"

module Vumbral
  module Torture
    # Carries out the trials one after the other, each with its share of the time.
    class Torturer
      TRIALS = {"kills" => Kills, "disk" => Disk, "files" => Files, "editors" => Editors, "farm" => Farm}.freeze

      def initialize(arguments, output: $stdout)
        @minutes, @seed, @only = 5.0, Random.new_seed % 1_000_000, TRIALS.keys
        @output = output
        OptionParser.new do |options|
          options.on("--minutes N", Float) { |n| @minutes = n }
          options.on("--seed N", Integer) { |n| @seed = n }
          options.on("--only LIST", Array) { |list| @only = list & TRIALS.keys }
        end.parse!(arguments)
      end

      # @return [Boolean] whether nothing was lost
      def call
        @output.puts "Seed #{@seed}, #{@minutes} minutes: #{@only.join(", ")}"
        share = 60.0 * @minutes / @only.size
        failures = @only.each_with_index.flat_map { |name, n| trial(name, Random.new(@seed + n), share) }
        failures.each { |failure| @output.puts "FAILED: #{failure}" }
        @output.puts(failures.empty? ? "Nothing was lost." : "#{failures.size} failed; run again with --seed #{@seed}.")
        failures.empty?
      end

      private

      def trial(name, random, seconds)
        Dir.mktmpdir do |home|
          trial = TRIALS.fetch(name).new(home, random, seconds)
          failures = trial.call
          @output.puts "#{name}: #{trial.words}"
          @output.flush
          failures.map { |failure| "#{name}: #{failure}" }
        end
      end
    end
  end
end
