# frozen_string_literal: true

module Vumbral
  module Studio
    # Makes one picture that a layer of the finish shows.
    class ElementWork
      def initialize(task)
        @task = task
        @elements = task.workshop.elements
      end

      # @return [Hash] :name
      def call
        name = @task.payload["name"]
        @elements.fetch(@elements.asked(@task.payload), name) do |done, count|
          @task.progress(done, count, "exposing") if count > 1
        end
        {name: name}
      end
    end
  end
end
