# frozen_string_literal: true

module Vumbral
  module Studio
    # Lights frames that are there for the browser, nearest to where it stands first.
    class LightWork
      # Fewer frames are not worth being sent.
      FEW = 3

      def initialize(task)
        @task = task
        @workshop = task.workshop
      end

      # @return [Hash] how many were lit
      def call
        lit = 0
        loop do
          before, rows = stamp, dark
          if rows.size > FEW && @workshop.machines.any?
            lit += divided(rows)
            return {lit: lit} if stamp == before

            next
          end
          # What was changed meanwhile is looked at anew.
          changed =
            rows.each_with_index.any? { |row, index| lit(row, index, rows.size) && (lit += 1) && stamp != before }
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

      # By all machines, those that are near first. @return [Integer] how many were lit
      def divided(rows)
        slices =
          rows
            .map { |row| row.values_at(:frame, :key, :light) }
            .each_slice(rows.size.fdiv(Farm::Division.parts(@workshop, rows.size)).ceil)
            .to_a
        payload = {document: @document.to_json, quality: @task.payload["quality"]}.merge(@task.payload.slice("run"))
        made =
          Farm::Division
            .new(@task)
            .call("lighting", slices.map { |slice| payload.merge(rows: slice) }) do |done|
              @task.progress(done, slices.size, "lighting")
            end
        made.sum { |part| part["lit"] }
      end

      def lit(row, index, count)
        unless @workshop.views.made?(row[:key], row[:light])
          @workshop.views.light(@document, *row.values_at(:frame, :key, :light))
        end
        @workshop.events.tell(
          "lit", @task.shot, frame: row[:frame], key: row[:key], light: row[:light], quality: @task.payload["quality"],
          **@task.payload.slice("run").transform_keys(&:to_sym)
        )
        @task.progress(index + 1, count, "lighting")
        true
      end
    end
  end
end
