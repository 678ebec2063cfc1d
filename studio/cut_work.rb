# frozen_string_literal: true

module Vumbral
  module Studio
    # Some frames of an export, left in the data folder for the whole to take up.
    class CutWork
      # @return [String] what a frame's file is called until then
      def self.name(index) = format("%06d.cut", index)

      def initialize(task)
        @export = ExportWork.new(Part.new(task))
      end

      # @return [Hash] how many
      def call = @export.cut

      # The task as an export takes it: its frames alone, in a folder of the house.
      Part = Struct.new(:task) do
        def workshop = task.workshop

        def id = task.id

        def shot = task.shot

        def done = 0

        def check = task.check

        def progress(...) = task.progress(...)

        def payload =
          @payload ||=
            task.payload["export"].merge(task.payload.slice("first")).merge(
              "keys" => task.payload["keys"], "out" => workshop.home.within("cuts", task.payload["whole"].to_s)
            )
      end
    end
  end
end
