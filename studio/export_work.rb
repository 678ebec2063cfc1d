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

      # @return [Hash] folder, number of files, bytes, and which frames they are and which were not there
      def call
        out = @task.payload["out"]
        make(out)
        keys = @task.payload["keys"]
        # What was written before the work was cut off is there whole.
        keys.each_with_index.drop(@task.done).each do |(frame, key), index|
          @task.progress(index, keys.size, "writing frame #{frame}")
          content = (@task.payload["as"] == "vdb") ? volume(key) : picture(key, frame)
          @workshop.home.write(path(frame), content)
        end
        @task.progress(keys.size, keys.size)
        {folder: out, files: keys.size, bytes: keys.sum { |frame, _| File.size?(path(frame)).to_i },
         frames: FrameList.words(keys.map(&:first)), missing: @task.payload["missing"].to_s}
      end

      private

      def path(frame) = File.join(@task.payload["out"], format("%s.%04d.%s", @task.shot, frame, @task.payload["as"]))

      def make(folder)
        FileUtils.mkdir_p(folder)
        raise Refused.new("The folder #{folder} cannot be written.", code: "no_folder") unless File.writable?(folder)
      rescue SystemCallError
        raise Refused.new("The folder #{folder} cannot be made.", code: "no_folder")
      end

      def volume(key)
        bricks, head = @workshop.frames.read(key)
        Formats::VDB.frame(bricks, voxel: head["voxel"], corner: head["corner"],
          ambient: @document.the(:chamber)[:ambient])
      end

      def picture(key, frame)
        size = @task.payload["size"] || @document.the(:picture).then { |picture| [picture[:width], picture[:height]] }
        renderer, image = @workshop.painting.image(@document, frame, key, size)
        Pixels.png(renderer.cut_out(image))
      end
    end
  end
end
