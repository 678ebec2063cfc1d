# frozen_string_literal: true

module Vumbral
  module Studio
    # Lights frames that are there for the browser, nearest to where it stands first.
    class LightWork
      def initialize(task)
        @task = task
        @workshop = task.workshop
      end

      # @return [Hash] how many were lit
      def call
        lit = 0
        loop do
          before, rows = stamp, dark
          # What was changed meanwhile is looked at anew.
          changed = rows.each_with_index.any? { |row, index| lit(row, index, rows.size) && (lit += 1) && stamp != before }
          return {lit: lit} unless changed
        end
      end

      private

      def stamp = @workshop.shots.stamp(@workshop.shots.fetch(@task.shot))

      # Those that no lamp has lit yet, nearest first.
      def dark
        @document = @workshop.shots.document(@task.shot)
        run = @task.payload["run"]
        rows = (run ? @workshop.past_runs.rows(@task.shot, run) : @workshop.runs.state(@task.shot, @task.payload["quality"])[:rows]).select { |row| row[:key] && !row[:lit] }
        near = @task.payload["frame"] || 0
        rows.sort_by { |row| (row[:frame] >= near) ? row[:frame] - near : 1_000_000 - row[:frame] }
      end

      def lit(row, index, count)
        light(row, @document) unless @workshop.views.made?(row[:key], row[:light])
        @workshop.events.tell("lit", @task.shot, frame: row[:frame], key: row[:key], light: row[:light], quality: @task.payload["quality"], **@task.payload.slice("run").transform_keys(&:to_sym))
        @task.progress(index + 1, count, "lighting")
        true
      end

      # Frames that are alike are lit once.
      def light(row, document)
        bricks, head = @workshop.frames.read(row[:key])
        @workshop.views.make(row[:key], row[:light], bricks, head, @workshop.views.painter(document, row[:frame]))
      end
    end
  end
end
