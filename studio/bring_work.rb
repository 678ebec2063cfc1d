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
        found = bring
        forget
        found
      rescue Errno::ENOENT
        raise Refused.new("#{files[0]["name"]} was lost when Vumbral stopped; bring it again.", code: "no_file")
      rescue Refused
        forget
        raise
      end

      private

      def files = @task.payload["files"] || [@task.payload.slice("file", "name")]

      def paths =
        @paths ||=
          files.to_h do |row|
            [File.basename(row["name"]), @task.workshop.home.within("incoming", File.basename(row["file"]))]
          end

      def forget = paths.each_value { |path| FileUtils.rm_f(path) }

      def bring
        name, path = paths.first
        return @assets.bring_picture(File.binread(path), name) if @task.payload["as"] == "picture"
        return @assets.volumes.bring(File.binread(path), name) if @task.payload["as"] == "volume"
        return @task.workshop.bundles.unpack(path, name).slice(:id, :name) if @task.payload["as"] == "bundle"
        return @task.workshop.plates.bring_table(File.binread(path), name) if @task.payload["as"] == "table"
        return @assets.bring_drawing(File.binread(path), name) if @task.payload["as"] == "drawing"

        meshes = paths.select { |given, _| Formats::Meshes.mesh?(given) }
        return @assets.bring(File.binread(path), name) if meshes.empty?
        return sequence(meshes) if meshes.size > 1

        (name, path), beside = meshes.first, paths.except(meshes.keys[0])
        @assets.bring(
          File.binread(path), name, beside: beside.transform_values { |other| File.binread(other) },
          rate: @task.payload.fetch("rate", 24.0)
        )
      end

      # Read one at a time.
      def sequence(meshes)
        done = 0
        @assets.bring_sequence(meshes.transform_values { |path|
          lambda do
            @task.progress(done, meshes.size, "reading") && (done += 1)
            File.binread(path)
          end
        })
      end
    end
  end
end
