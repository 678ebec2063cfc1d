# frozen_string_literal: true

require "json"

module Vumbral
  module Studio
    module Farm
      # Work that is done in parts by several machines. This one does its share as well.
      class Division
        PAUSE = 0.03
        # So many parts for each machine, so that a slow one does not hold up all.
        EACH = 3

        # @return [Integer] into how many parts so many things are best divided; 1 where there is no other machine
        def self.parts(workshop, count)
          others = workshop.machines.working.size
          others.zero? ? 1 : [count, EACH * (others + 1)].min
        end

        # @param task [Worker::Task] of the whole
        def initialize(task)
          @task = task
          @workshop = task.workshop
        end

        # @param kind [String] of each part; @param payloads [Array<Hash>]
        # @yield [done] how many parts have ended
        # @return [Array<Hash>] what each came to, in order; or its sentence, where that was refused and `partly`
        # @raise [Refused] as the first one that could not be done, unless `partly`
        def call(kind, payloads, memory: nil, partly: false)
          begin_with(kind, payloads, memory)
          until (rows = open).empty?
            @task.check
            yield payloads.size - rows.size if block_given?
            waiting = rows.find { |row| row[:state] == "queued" }
            waiting ? Worker.new(@workshop).run_one(waiting[:id]) : sleep(PAUSE)
          end
          ended(partly)
        rescue Worker::Task::GivenBack
          # Gone on with when the whole is.
          parts.where(state: "queued").update(held: true)
          raise
        rescue Worker::Task::Stopped, Refused
          parts.where(state: %w[queued running]).select_map(:id).each { |id| @workshop.jobs.cancel(id) }
          raise
        end

        private

        def parts = @workshop.jobs.parts(@task.id)

        def open = parts.where(state: %w[queued running]).select(:id, :state).all

        # Those of before are gone on with.
        def begin_with(kind, payloads, memory)
          parts.where(state: %w[failed cancelled]).delete
          there = parts.select_map(:part)
          (0...payloads.size).each do |n|
            unless there.include?(n)
              @workshop.jobs.add(kind, @task.shot, payloads[n], of: [@task.id, n], memory: memory)
            end
          end
          parts.where(held: true).update(held: false)
          @workshop.jobs.offer(kind)
        end

        def ended(partly)
          rows = parts.all
          bad = rows.find { |row| row[:state] != "done" }
          if bad && !partly
            raise Refused.new(
              bad[:error] || "A part of it was stopped; start it again.", code: bad[:code] || "cancelled"
            )
          end

          rows.map { |row| row[:result] ? JSON.parse(row[:result]) : row[:error].to_s }.tap { parts.delete }
        end
      end
    end
  end
end
