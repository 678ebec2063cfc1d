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
        png, rows = @workshop.sheets.make(@task.shot, asked["frames"], asked["size"]) { |done, count|
          @task.progress(done, count, "sheet")
        }
        {sheet: @workshop.sheets.keep(@task.shot, png), frames: rows}
      end
    end
  end
end
