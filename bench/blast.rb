# frozen_string_literal: true

# A blast from beginning to end, frames stored: the starter *Burst*, 90 frames, at least two substeps,
# second-order transport, the whole chamber computed.   ruby bench/blast.rb [72x96x72]
require_relative "support"
require "json"
require "tmpdir"

module Vumbral
  module Bench
    def self.blast(home, width, height, depth)
      workshop = Studio::Workshop.new(home)
      id = workshop.shots.create("Blast", starter: "burst")[:id]
      voxel = 4.6 / width
      values = {%w[chamber voxel] => voxel, %w[chamber size] => [width, height, depth].map { |n|
        n * voxel
      }, %w[chamber substeps_most] => 2, %w[chamber follow] => false}
      workshop.shots.edit(id, values.map { |(node, dial), value|
        {"do" => "set", "node" => node, "dial" => dial, "value" => value}
      })
      run = workshop.runs.start(id, "full", views: false)
      spent = seconds { Studio::Worker.new(workshop).run_one(run[:job_id]) }
      job = workshop.jobs.fetch(run[:job_id])
      abort job[:error] unless job[:state] == "done"
      peak = File.read("/proc/self/status")[/VmHWM:\s+(\d+)/, 1].to_i / 1024
      stored = workshop.db[:frames].sum(:bytes) / 1024 / 1024
      puts format("%d × %d × %d, 90 frames: %.0f s, %d MB stored, %d MB of memory at most", width, height, depth,
        spent, stored, peak)
    end
  end
end

size = (ARGV[0] || "72x96x72").split("x").map(&:to_i)
Dir.mktmpdir { |home| Vumbral::Bench.blast(home, *size) }
