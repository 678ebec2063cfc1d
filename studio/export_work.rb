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
        return moving(out) if @task.payload["as"] == "glb"

        keys = @task.payload["keys"]
        # What was written before the work was cut off is there whole.
        keys.each_with_index.drop(@task.done).each do |(frame, key), index|
          @task.progress(index, keys.size, "writing frame #{frame}")
          content = content(key, frame)
          @workshop.home.write(path(frame), content) if content
        end
        @task.progress(keys.size, keys.size)
        {folder: out, files: keys.size, bytes: keys.sum { |frame, _| File.size?(path(frame)).to_i },
         frames: FrameList.words(keys.map(&:first)), missing: @task.payload["missing"].to_s}
      end

      private

      def content(key, frame)
        case @task.payload["as"]
        when "vdb" then volume(key)
        when "png" then picture(key, frame)
        else standing.at(frame)&.then { |mesh| (@task.payload["as"] == "obj") ? Formats::OBJ.write(mesh) : Formats::PLY.write(mesh) }
        end
      end

      def standing = @standing ||= Geometry::Standing.new(@document, @workshop.assets)

      # All props in one file that moves.
      def moving(out)
        frames = @task.payload["keys"].map(&:first)
        @task.progress(0, frames.size, "writing the props")
        writer = Formats::GLTF::Writer.new(@document.rate)
        standing.tracks(frames).each { |track| @task.check || writer.add(track.name, track.mesh, colour: track.colour, poses: track.poses, shapes: track.shapes) }
        path = File.join(out, "#{@task.shot}.glb")
        @workshop.home.write(path, writer.bytes)
        @task.progress(frames.size, frames.size)
        {folder: out, files: 1, bytes: File.size(path), frames: FrameList.words(frames), missing: ""}
      end

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
