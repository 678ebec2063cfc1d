# frozen_string_literal: true

module Vumbral
  module Studio
    # Takes one print apart by what lights it.
    class BalanceWork
      def initialize(task)
        @task = task
      end

      # @return [Hash] :parts
      def call
        {
          parts:
            @task
              .workshop
              .balances
              .make(@task.shot, @task.payload["number"]) do |done, count|
                @task.progress(done, count, "taking the light apart")
              end
        }
      end
    end
  end
end
