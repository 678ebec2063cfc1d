# frozen_string_literal: true

module Vumbral
  module Studio
    # Makes a contact sheet.
    class SheetWork
      def initialize(task)
        @task = task
        @workshop = task.workshop
      end

      # @return [Hash] :sheet (its name) and :frames with their figures
      def call
        asked = @task.payload
        return {sheet: @workshop.sheets.keep(@task.shot, of_strip(asked)), frames: []} if asked["strip"]

        png, rows = @workshop.sheets.make(@task.shot, asked["frames"], asked["size"]) { |done, count|
          @task.progress(done, count, "sheet")
        }
        {sheet: @workshop.sheets.keep(@task.shot, png), frames: rows}
      end

      private

      # Variations of a test strip at a frame, as many beside each other as its first dial has values.
      def of_strip(asked)
        row = @workshop.strips.row(asked["strip"])
        strip, keys = @workshop.strips.strip(row), @workshop.strips.pictured(row, asked["frame"])
        @workshop
          .sheets
          .side_by_side(
            keys.map do |n, key|
              [
                strip.at(n),
                key,
                strip
                  .axes
                  .zip(strip.values(n))
                  .map { |axis, value| "#{axis.label} #{strip.show(axis, value)}" }
                  .join(", ")
              ]
            end,
            asked["frame"],
            asked["size"],
            strip.axes[0].values.size
          ) { |done, count| @task.progress(done, count, "sheet") }
      end
    end
  end
end
