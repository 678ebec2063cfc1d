# frozen_string_literal: true

# What it costs a run that its source, and perhaps collider, moves by its file: a mesh of some 20,000 triangles that is
# squeezed one way and the other at an even volume, so that it feeds as much as the same one standing still. The two
# runs are measured in turn.
#
#   bundle exec ruby bench/moving_mesh.rb [draft|full]
require_relative "support"
require "tmpdir"

module Vumbral
  module MovingMesh
    module_function

    def call(quality = "draft", frames: (quality == "full") ? 4 : 16, rounds: (quality == "full") ? 3 : 5)
      Dir.mktmpdir do |home|
        @workshop = Studio::Workshop.new(home)
        @worker = Studio::Worker.new(@workshop)
        ball = Geometry::Builders.sphere(0.3, divisions: 5)
        shapes = Array.new(25) { |n| ball.with(ball.transformed(squeeze(1.0 + 0.3 * Math.sin(n / 4.0))).points) }
        digest = @workshop.assets.take(Formats::Model.new(shapes, rate: 24.0), "squeezed.glb")[:digest]
        {"a source" => false, "a source that stands in the way" => true}.each do |what, collider|
          still, moving = [false, true].map { |plays| shot(digest, plays, collider, frames) }
          times = Array.new(rounds) { |n| [still, moving].map { |shot| seconds(shot, n, quality) } }
          best = times.transpose.map(&:min)
          puts format(
            "%s of %d triangles, %d frames: %.2f s still, %.2f s moving, %+.0f %%", what, ball.count, frames,
            *best, 100 * (best[1] / best[0] - 1.0)
          )
        end
      end
    end

    def squeeze(by) = Geometry::Transform.place(scale: [by, 1.0, 1.0 / by])

    def shot(digest, plays, collider, frames)
      id = @workshop.shots.create("Ball", starter: "plume", prop: digest)[:id]
      set(
        id,
        "prop-1" => {
          "plays" => plays, "collider" => collider
        },
        "source-1" => {
          "carried" => 100.0
        },
        "general" => {
          "last" => frames
        }
      )
      id
    end

    def set(id, dials)
      @workshop.shots.edit(
        id,
        dials.flat_map do |node, row|
          row.map { |dial, value| {"do" => "set", "node" => node, "dial" => dial, "value" => value} }
        end
      )
    end

    # Another seed, so that nothing is used again.
    def seconds(id, seed, quality)
      set(id, "general" => {"seed" => 1000 + seed})
      job = @workshop.runs.start(id, quality)[:job_id]
      @worker.run_one(job)
      JSON.parse(@workshop.jobs.fetch(job)[:result])["seconds"]
    end
  end
end

Vumbral::MovingMesh.call(*ARGV)
