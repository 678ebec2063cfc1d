# frozen_string_literal: true

require "fileutils"

module Vumbral
  module Studio
    # Reads a mesh or a picture that was sent to the server.
    class BringWork
      def initialize(task)
        @task = task
        @assets = task.workshop.assets
      end

      # The file goes once it is read or refused, but not when the worker is stopped meanwhile.
      def call
        path = @task.workshop.home.within("incoming", @task.payload["file"])
        found = bring(File.binread(path))
        FileUtils.rm_f(path)
        found
      rescue Errno::ENOENT
        raise Refused.new("#{@task.payload["name"]} was lost when Vumbral stopped; bring it again.", code: "no_file")
      rescue Refused
        FileUtils.rm_f(path)
        raise
      end

      private

      def bring(bytes)
        (@task.payload["as"] == "picture") ? @assets.bring_picture(bytes, @task.payload["name"]) : @assets.bring(bytes, @task.payload["name"])
      end
    end
  end
end
