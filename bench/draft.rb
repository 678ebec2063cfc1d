# frozen_string_literal: true

require_relative "support"
require "tmpdir"

module Vumbral
  module Bench
    # A draft of a starter with a liquid, with its surfaces and all that is kept of it, from a worker that has had
    # another one: when the first frame is there, and the last. `ruby bench/draft.rb [STARTER] [CELLS along an edge]
    # [FRAMES]`
    class Draft
      # Stands for a job that nobody waits for.
      Task = Struct.new(:workshop) do
        def progress(*, **) = nil

        def check = nil
      end

      def initialize(starter, edge, frames)
        @starter, @edge, @frames = starter, edge, frames
      end

      def call
        Dir.mktmpdir do |home|
          workshop = Studio::Workshop.new(home)
          2.times do |n|
            plan = plan(workshop, n)
            began, there = Process.clock_gettime(Process::CLOCK_MONOTONIC), []
            Studio::LiquidSimulation
              .new(Task.new(workshop), plan, last: n.zero? ? 2 : @frames) do |*, facts|
                there << [Process.clock_gettime(Process::CLOCK_MONOTONIC) - began, facts]
              end
              .call
            tell(plan, there) unless n.zero?
          end
        end
      end

      private

      # Of a chamber with as many cells as a cube of that edge.
      def plan(workshop, seed)
        id = workshop.shots.import(Studio::Starters.build(@starter, "Draft").to_json)[:id]
        workshop.shots.edit(
          id,
          [["general", "last", @frames], ["general", "seed", 7 + seed]].map do |node, dial, value|
            {"do" => "set", "node" => node, "dial" => dial, "value" => value}
          end
        )
        liquid = workshop.shots.document(id).of(:liquid)[0]
        cells = Liquid::Plan.of(workshop.shots.document(id), :draft).size.reduce(:*)
        draft = liquid[:draft] * Math.cbrt(cells.fdiv(@edge**3))
        workshop.shots.edit(
          id, [{"do" => "set", "node" => liquid.id, "dial" => "draft", "value" => [draft, 1.0].max.round(3)}]
        )
        Liquid::Plan.of(workshop.shots.document(id), :draft)
      end

      def tell(plan, there)
        facts = there.map(&:last)
        puts format(
          "%s, %s cells, %d frames: the first after %.2f s, the last after %.1f s; %d substeps, %.1f " \
            "iterations each, %d particles",
          @starter, plan.size.join("×"), there.size, there[0][0], there[-1][0], facts.sum { |row| row[:substeps] },
          facts.sum { |row| row[:iterations] }.fdiv(facts.sum { |row| row[:substeps] }), facts[-1][:drops]
        )
      end
    end
  end
end

starter, edge, frames = ARGV
Vumbral::Bench::Draft.new(starter || "plunge", (edge || 48).to_i, (frames || 96).to_i).call
