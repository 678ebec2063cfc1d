# frozen_string_literal: true

module Vumbral
  module Studio
    # Runs the variations of a test strip one after the other, and lights them for the sheet.
    class StripWork
      # How far one variation is, as a part of all.
      Part = Struct.new(:task, :before, :total, :words) do
        def workshop = task.workshop

        def check = task.check

        def progress(done, _total, _note = nil, from_here: false) = task.progress(before + done, total, words, from_here: from_here && before.zero?)
      end

      def initialize(task)
        @task = task
        @workshop = task.workshop
        @row = @workshop.strips.row(task.payload["strip"])
      end

      # @return [Hash] how many variations and frames were made, and what of them could not be
      def call
        strip = @workshop.strips.strip(@row)
        frames = JSON.parse(@row[:keys]).map(&:size).max
        made = strip.size.times.map { |n| one(n, frames, strip.size) }
        failed = made.grep(String)
        {strip: @row[:number], runs: strip.size, computed: made.sum { |found| found.is_a?(Hash) ? found[:computed].to_i : 0 }, failed: failed.uniq}
      end

      private

      # One that breaks leaves the others alone. @return [Hash, String]
      def one(place, frames, count)
        return {} if JSON.parse(@workshop.strips.row(@row[:id])[:dropped]).include?(place)

        document = @workshop.strips.document(@row, place)
        part = Part.new(@task, place * frames, count * frames, "variation #{place + 1} of #{count}")
        plan, liquid = @workshop.strips.plan(@row, place), @workshop.strips.liquid_plan(@row, place)
        poured = LiquidSimulation.new(part, liquid) { |frame, key, _| tell(document, place, frame, nil, key) }.call if liquid
        return poured if poured && plan.nil?
        return carved(document, part, place) unless plan

        Simulation.new(part, document, plan) { |frame, key, _| tell(document, place, frame, key) }.call
      rescue Refused => error
        error.message
      end

      # Without a run there are sculpts to be made and lit.
      def carved(document, part, place)
        keys = @workshop.sculpts.keys(document, @row[:quality])
        keys.each_with_index do |(frame, key), n|
          light = @workshop.views.light_key(document, frame)
          @workshop.views.make(key, light, *@workshop.frames.read(key), @workshop.views.painter(document, frame)) unless @workshop.views.made?(key, light)
          tell(document, place, frame, key)
          part.progress(n + 1, keys.size)
        end
        {computed: 0}
      end

      def tell(document, place, frame, key, liquid = nil)
        @workshop.events.tell("strip", @row[:shot_id], number: @row[:number], cell: place, frame: frame, key: key, liquid: liquid, light: @workshop.views.light_key(document, frame))
      end
    end
  end
end
