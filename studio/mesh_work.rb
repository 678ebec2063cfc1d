# frozen_string_literal: true

module Vumbral
  module Studio
    # Reads a mesh that was sent to the server.
    class MeshWork
      def initialize(task)
        @task = task
      end

      def call
        path = @task.workshop.home.within("incoming", @task.payload["file"])
        @task.workshop.assets.bring(File.binread(path), @task.payload["name"])
      ensure
        FileUtils.rm_f(path) if path
      end
    end
  end
end
