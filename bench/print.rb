# frozen_string_literal: true

# How long prints take in a worker that has made one, with new light and with light that is there, and what they hold:
# smoke of 64³ with two lamps that throw shadows, once and many times scattered, and a fireball of 128³ with fire,
# ground and sky, as it is simulated and with finer detail, which is drawn and lit in voxels half as wide.
#   bundle exec ruby bench/print.rb
require_relative "support"
require "tmpdir"

module Vumbral
  module Bench
    # Prints of one shot, taken as a worker takes them.
    class Prints
      # What is told: shot, dials of the look that differ, frame, size, seconds wanted.
      TOLD = [
        ["smoke", {"bounces" => 0}, 36, [640, 360], 0.8], ["smoke", {"bounces" => 100}, 36, [640, 360], 1.5],
        ["smoke", {}, 36, [160, 90], 0.15], ["smoke", {}, 36, [1920, 1080], nil],
        ["fireball", {}, 18, [960, 540], 6.0], ["finer", {}, 18, [960, 540], nil], ["fireball", {}, 18, [1920, 1080], nil]
      ].freeze

      def initialize(home)
        @workshop = Studio::Workshop.new(home)
      end

      def make
        shot("smoke", "plume", [1.536, 1.536, 1.536], 0.024, 36, lamp)
        shot("fireball", "burst", [5.12, 5.12, 5.12], 0.04, 18, [])
        shot("finer", "burst", [5.12, 5.12, 5.12], 0.04, 18, [])
      end

      # @return [Array(Float, Float, Integer)] median seconds with new and with known light, and the most that the
      #   process held, MB
      def take(name, look, frame, size, _ = nil)
        set(name, "look", look)
        times = [true, false].map { |anew|
          Array.new(4) { |turn|
            # The sun a hair brighter, so that no light of another print is taken.
            set(name, "sun-1", {"strength" => 5.0 + 0.001 * turn}) if anew
            result(@workshop.prints.take(name, frame, size: size)).fetch("seconds")
          }.drop(1).sort[1]
        }
        times + [File.read("/proc/self/status")[/VmHWM:\s+(\d+)/, 1].to_i / 1024]
      end

      private

      def shot(name, starter, size, voxel, last, more)
        @workshop.shots.create(name, starter: starter)
        set(name, "chamber", {"size" => size, "voxel" => voxel})
        set(name, "general", {"last" => last})
        set(name, "detail", {"on" => name == "finer"})
        @workshop.shots.edit(name, more) if more.any?
        result(@workshop.runs.start(name, "full", views: false)[:job_id])
        rows = @workshop.runs.state(name, "full")[:rows]
        puts "#{name}: #{rows.last[:facts].values_at("size", "whole").inspect}"
      end

      def lamp = [{"do" => "add", "kind" => "lamp", "id" => "lamp", "name" => "Lamp",
                   "dials" => {"as" => "spot", "position" => [1.8, 2.2, 1.2], "target" => [0.0, 0.8, 0.0]}}]

      def set(name, node, values)
        edits = values.map { |dial, value| {"do" => "set", "node" => node, "dial" => dial, "value" => value} }
        @workshop.shots.edit(name, edits) if edits.any?
      end

      def result(id)
        Studio::Worker.new(@workshop).run_one(id)
        row = @workshop.jobs.fetch(id)
        raise row[:error] || row[:state] unless row[:state] == "done"

        JSON.parse(row[:result])
      end
    end
  end
end

if ARGV.any?
  told = Vumbral::Bench::Prints::TOLD.fetch(ARGV[1].to_i)
  puts format("%8.2f s, %.2f s with known light (%s wanted), %5d MB",
    *Vumbral::Bench::Prints.new(ARGV[0]).take(*told).insert(2, told.last || "–"))
else
  Dir.mktmpdir do |home|
    Vumbral::Bench::Prints.new(home).make
    Vumbral::Bench::Prints::TOLD.each_with_index do |(name, look, frame, size), row|
      print format("%-9s %-18s frame %d, %4dx%-4d ", name, look.map { |pair| pair.join(" ") }.join, frame, *size)
      $stdout.flush
      # Each in a process of its own, so that what it holds is its own.
      system(Vumbral::Studio::Worker::SURROUNDINGS, RbConfig.ruby, __FILE__, home, row.to_s) || abort
    end
  end
end
