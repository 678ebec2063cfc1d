# frozen_string_literal: true

module Vumbral
  module Studio
    # Runs the variations of a test strip one after the other, and lights them for the sheet.
    class StripWork
      # How far one variation is, as a part of all.
      Part = Struct.new(:task, :before, :total, :words) do
        def workshop = task.workshop

        def check = task.check

        def progress(done, _total, _note = nil, from_here: false) =
          task.progress(before + done, total, words, from_here: from_here && before.zero?)
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
        made = @workshop.machines.any? ? divided(strip.size, frames) : strip.size.times.map { |n| one(n, frames, strip.size) }
        failed = made.grep(String)
        {
          strip: @row[:number], runs: strip.size,
          computed: made.sum { |found| found.is_a?(Hash) ? found[:computed].to_i : 0 }, failed: failed.uniq
        }
      end

      # One that breaks leaves the others alone.
      # @param place [Integer] which; @param frames [Integer] of each; @param count [Integer] how many there are
      # @param alone [Boolean] a job of its own
      # @return [Hash, String] how many frames were :computed; why it could not be done
      def one(place, frames = 0, count = 1, alone: false)
        return {} if JSON.parse(@workshop.strips.row(@row[:id])[:dropped]).include?(place)

        document = @workshop.strips.document(@row, place)
        part = alone ? @task : Part.new(@task, place * frames, count * frames, "variation #{place + 1} of #{count}")
        plan, liquid = @workshop.strips.plan(@row, place), @workshop.strips.liquid_plan(@row, place)
        if liquid
          poured =
            LiquidSimulation.new(part, liquid) { |frame, key, _| tell(document, place, frame, nil, key) }.call
        end
        return poured if poured && plan.nil?
        return carved(document, part, place) unless plan

        Simulation.new(part, document, plan) { |frame, key, _| tell(document, place, frame, key) }.call
      rescue Refused => error
        error.message
      end

      private

      # By all machines, one variation each at a time.
      def divided(count, frames)
        memory = [@workshop.strips.plan(@row, 0), @workshop.strips.liquid_plan(@row, 0)].compact.sum(&:memory)
        Farm::Division
          .new(@task)
          .call(
            "variation", Array.new(count) { |n| {strip: @row[:id], place: n} }, memory: memory, partly: true
          ) do |done|
            @task.progress(
              done * frames, count * frames,
              "#{done} of #{count} variations, on #{@workshop.machines.working.size + 1} machines"
            )
          end
          .map { |made| made.is_a?(Hash) ? made["failed"] || made.transform_keys(&:to_sym) : made }
      end

      # Without a run there are sculpts to be made and lit.
      def carved(document, part, place)
        keys = @workshop.sculpts.keys(document, @row[:quality])
        keys.each_with_index do |(frame, key), n|
          light = @workshop.views.light_key(document, frame)
          @workshop.views.light(document, frame, key, light) unless @workshop.views.made?(key, light)
          tell(document, place, frame, key)
          part.progress(n + 1, keys.size)
        end
        {computed: 0}
      end

      def tell(document, place, frame, key, liquid = nil)
        @workshop.events.tell(
          "strip", @row[:shot_id], number: @row[:number], cell: place, frame: frame, key: key, liquid: liquid,
          light: @workshop.views.light_key(document, frame)
        )
      end
    end
  end
end
