# frozen_string_literal: true

module Vumbral
  module Studio
    # Reads a plate that was sent to the server.
    class PlateWork < BringWork
      private

      def bring = @task.workshop.plates.bring(paths) { |done, total| @task.progress(done, total, "reading") }
    end
  end
end
