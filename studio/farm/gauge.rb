# frozen_string_literal: true

require "etc"
require "json"

module Vumbral
  module Studio
    module Farm
      # How quick a machine is, by a small plume of our own.
      module Gauge
        # Voxels along an edge, frames that are run first, and those that are timed.
        EDGE, BEFORE, TIMED = 40, 2, 6

        module_function

        # @return [Float] millions of voxels a second
        def measure
          document = Starters.build("plume", "Gauge")
          edits =
            [
              ["chamber", "size", [1.0, 1.0, 1.0]], ["chamber", "voxel", 1.0 / EDGE], ["chamber", "draft", 1.0],
              ["general", "last", 48]
            ].map { |node, dial, value| {"do" => "set", "node" => node, "dial" => dial, "value" => value} }
          plan = Gas::Plan.new(Shot::Edits.apply(document, edits)[0], :draft)
          chambers = Gas::Chambers.new(plan, nil)
          state = chambers.still
          frames = plan.frames.first(BEFORE + TIMED)
          frames.first(BEFORE).each { |frame| state, = chambers.advance(state, frame) }
          began = clock
          work = frames.drop(BEFORE).sum do |frame|
            state, report = chambers.advance(state, frame)
            report.substeps * EDGE**3
          end
          (work / (clock - began) / 1e6).round(3)
        end

        # Measured once for a data folder and a version. @return [Float]
        def of(home)
          known(home) ||
            measure.tap do |speed|
              home.write(path(home), JSON.generate(version: Version.own, cores: cores, speed: speed))
            end
        end

        # @return [Float, nil] what was measured
        def known(home)
          kept = File.exist?(path(home)) ? JSON.parse(File.read(path(home))) : {}
          kept["speed"] if kept["version"] == Version.own && kept["cores"] == cores
        rescue JSON::ParserError
          nil
        end

        def path(home) = home.within("gauge.json")

        # @return [Integer] that work may use
        def cores = (ENV["OMP_NUM_THREADS"] || Etc.nprocessors).to_i

        def clock = Process.clock_gettime(Process::CLOCK_MONOTONIC)
      end
    end
  end
end
