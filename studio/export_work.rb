# frozen_string_literal: true

require "fileutils"

module Vumbral
  module Studio
    # Writes frames as files, one after the other.
    class ExportWork
      def initialize(task)
        @task = task
        @workshop = task.workshop
        @document = Shot::Document.load(task.payload["document"])
      end

      # @return [Hash] folder, number of files, bytes
      def call
        out = @task.payload["out"]
        make(out)
        keys = @task.payload["keys"]
        bytes = 0
        keys.each_with_index do |key, index|
          @task.progress(index, keys.size, "writing")
          frame = @task.payload["first"] + index
          content = (@task.payload["as"] == "vdb") ? volume(key) : picture(key, frame)
          bytes += content.bytesize
          @workshop.home.write(File.join(out, format("%s.%04d.%s", @task.shot, frame, @task.payload["as"])), content)
        end
        @task.progress(keys.size, keys.size)
        {folder: out, files: keys.size, bytes: bytes}
      end

      private

      def make(folder)
        FileUtils.mkdir_p(folder)
        raise Refused.new("The folder #{folder} cannot be written.", code: "no_folder") unless File.writable?(folder)
      rescue SystemCallError
        raise Refused.new("The folder #{folder} cannot be made.", code: "no_folder")
      end

      def volume(key)
        bricks, head = @workshop.frames.read(key)
        Formats::VDB.frame(bricks, voxel: head["voxel"], corner: head["corner"], ambient: @document.the(:chamber)[:ambient])
      end

      def picture(key, frame)
        bricks, head = @workshop.frames.read(key)
        settings = Light::Renderer.settings(@document, frame)
        @renderer = nil unless settings == @settings
        @settings = settings
        @renderer ||= Light::Renderer.new(settings, @workshop.assets)
        width, height = @task.payload["size"] || [@document.the(:picture)[:width], @document.the(:picture)[:height]]
        @sparks ||= Light::Sparks.new(@document, @workshop.assets)
        image = @renderer.image(Light::Medium.of(bricks, head), width, height, sparks: @sparks.any? ? @sparks.at(frame) : nil)
        Pixels.png(@renderer.cut_out(image))
      end
    end
  end
end
