# frozen_string_literal: true

require "fileutils"

module Vumbral
  module Studio
    # Writes frames as files, one after the other.
    class ExportWork
      # So many rendered frames wait to be finished, and so many finished ones to be written, while others are made.
      RENDERED = 1
      FINISHED = 1
      # Voxels about a surface in which distances are told.
      BAND = 3
      # What other machines help with: what takes longer to make than to send.
      DIVIDED = (Exports::PICTURES + Movie::FORMATS.keys + %w[vdb-surface]).freeze

      def initialize(task)
        @task = task
        @workshop = task.workshop
        @document = document(*task.payload.values_at("document", "kept"))
        @names = ExportNames.new(task.payload, task.shot)
        @pictures = ExportPictures.new(task, @document)
        @beside = ExportBeside.new(task, @document, @names)
      end

      # @return [Hash] folder, number of files, bytes, and which frames they are and which were not there
      def call
        out = @task.payload["out"]
        make(out)
        @workshop.exports.remember(@task.shot, out, @task.payload["document"])
        return moving(out) if @task.payload["as"] == "glb"
        return movie(out) if Movie::FORMATS.key?(@task.payload["as"])
        return scene(out) if @task.payload["as"] == "usda"
        return bundle(out) if @task.payload["as"] == "zip"

        keys = @task.payload["keys"]
        written(keys) { |key, frame| content(key, frame) }
        @task.progress(keys.size, keys.size)
        told(files: keys.size, bytes: keys.sum { |frame, _| File.size?(@names.frame(frame)).to_i })
      end

      # Some of its frames alone, see {CutWork}. @return [Hash] how many
      def cut
        out, first = @task.payload.values_at("out", "first")
        make(out)
        pictures = film ? ExportPictures.new(@task, @document, alpha: film.alpha?) : @pictures
        written(
          @task.payload["keys"], path: ->(index, _) { File.join(out, CutWork.name(first + index)) }
        ) { |key, frame| film ? drawn(pictures, key, frame) : content(key, frame) }
        {frames: @task.payload["keys"].size}
      end

      private

      # @return [Movie, nil] where all frames come to one file
      def film =
        @film ||= Movie::FORMATS.key?(@task.payload["as"]) ? Movie.new(@task.payload["as"], @document.rate) : nil

      # @param kept [String, nil] the kept run whose liquid it is about
      def document(text, kept) = kept ? @workshop.caches.kept_document(kept, text) : @workshop.shots.read(text)

      # Makes frames, finishes those that are made and writes those that are finished, all meanwhile. What was written
      # before the work was cut off is there whole.
      # @yield [key, frame] makes a frame; gives what finishes it, or nothing where there is none. That gives the file's
      #   content, or what still has to be called for it
      # @param total [Integer] steps of all the work
      def written(keys, total: keys.size, path: ->(_, frame) { @names.frame(frame) }, &make)
        return divided(keys, total, path) if divided?(keys)

        done = @task.done
        write = ->((index, frame, content)) {
          @workshop.home.write(path[index, frame], content.is_a?(Proc) ? content.call : content) if content
          done = index + 1
        }
        Meanwhile.run(FINISHED, write) do |finished|
          Meanwhile.run(RENDERED, ->((index, frame, made)) { finished << [index, frame, made&.call] }) do |rendered|
            keys.each_with_index.drop(@task.done).each do |(frame, key), index|
              @task.progress(done, total, "writing frame #{frame}")
              rendered << [index, frame, make.call(key, frame)]
            end
          end
        end
      end

      # A part is not divided again.
      def divided?(keys) =
        DIVIDED.include?(@task.payload["as"]) && !@task.payload.key?("first") && keys.size > 1 &&
          @workshop.machines.any?

      # By all machines; what they made is taken up in order.
      def divided(keys, total, path)
        slices = keys.each_with_index.each_slice(keys.size.fdiv(Farm::Division.parts(@workshop, keys.size)).ceil).to_a
        whole = @task.payload.except("keys", "out").merge("all" => keys.map(&:first))
        ended = 0
        Farm::Division
          .new(@task)
          .call(
            "cut",
            slices.map { |slice| {whole: @task.id, export: whole, keys: slice.map(&:first), first: slice[0][1]} }
          ) do |done|
            @task.progress(
              ended = [keys.size * done / slices.size, ended].max, total,
              "writing frames on #{@workshop.machines.working.size + 1} machines"
            )
          end
        folder = @workshop.home.within("cuts", @task.id.to_s)
        keys.each_with_index do |(frame, _), index|
          File
            .join(folder, CutWork.name(index))
            .then { |file| FileUtils.mv(file, path[index, frame]) if File.exist?(file) }
        end
        @beside.take(folder)
        FileUtils.rm_rf(folder)
      end

      # What is said in the end, with what lies beside the files.
      def told(files:, bytes:, frames: @task.payload["keys"].map(&:first), missing: @task.payload["missing"].to_s)
        more = @beside.write
        {
          folder: @task.payload["out"], files: files + more.size, bytes: bytes + more.sum { |path| File.size(path) },
          frames: FrameList.words(frames), missing: missing
        }
      end

      def content(key, frame)
        case @task.payload["as"]
        when "vdb"
          -> { volume(key, frame) }
        when "vdb-surface"
          -> { distance(@document.made(frame)) }
        when "points"
          emitters.all(frame).then { |points| -> { Formats::PLY.points(points) } }
        when "drops"
          @workshop.liquids.points(@document.made(frame)).then { |points| -> { Formats::PLY.points(points) } }
        when "ply", "obj"
          surface(key, frame)
        when *Exports::PICTURES
          drawn(@pictures, key, frame)
        end
      end

      # The props as a mesh, or a kept run's liquid.
      def surface(key, frame)
        mesh, speeds =
          if @task.payload["kept"]
            [@workshop.liquids.surface(key), -> { @workshop.liquids.speeds(key) }]
          else
            [standing.at(frame), -> { standing.speeds(frame) }]
          end
        mesh && -> { (@task.payload["as"] == "obj") ? Formats::OBJ.write(mesh) : Formats::PLY.write(mesh, speeds.call) }
      end

      def drawn(pictures, key, frame) =
        pictures.render(key, frame).then { |rendered| -> { pictures.finish(rendered, @beside) } }

      def emitters = @emitters ||= EmitterPoints.new(@document, @workshop.assets)

      def standing =
        @standing ||=
          Geometry::Standing.new(
            @document, @workshop.assets, only: @task.payload["props"].then { |ids| ids if ids&.any? }
          )

      # All props in one file that moves.
      def moving(out)
        frames = @task.payload["keys"].map(&:first)
        @task.progress(0, frames.size, "writing the props")
        writer = Formats::GLTF::Writer.new(@document.rate)
        standing
          .tracks(frames)
          .each do |track|
            @task.check ||
              writer.add(track.name, track.mesh, colour: track.colour, poses: track.poses, shapes: track.shapes)
          end
        path = @names.all("glb")
        @workshop.home.write(path, writer.bytes)
        @task.progress(frames.size, frames.size)
        told(files: 1, bytes: File.size(path))
      end

      # The volumes of a scene, then that itself.
      def scene(out)
        keys = @task.payload["keys"]
        name = ->(frame) { format("%s.%04d.vdb", File.basename(@names.bare), frame) }
        there = keys.select(&:last)
        there.each_with_index.drop(@task.done).each do |(frame, key), n|
          @task.progress(n, keys.size + 1, "writing frame #{frame}")
          @workshop.home.write(File.join(out, name[frame]), volume(key, frame))
        end
        path = @names.all("usda")
        @workshop.home.write(
          path,
          SceneExport
            .new(@workshop, @document, keys.map(&:first))
            .text(there.to_h { |frame, _| [frame, name[frame]] }) { @task.check }
        )
        told(files: there.size + 1, bytes: Dir[File.join(out, "*")].sum { |file| File.size(file) })
      end

      # The whole shot as one file.
      def bundle(out)
        path =
          @workshop.bundles.pack(@document, @names.all("zip")) { |done, total| @task.progress(done, total, "packing") }
        told(files: 1, bytes: File.size(path), frames: (@document.first_frame..@document.last_frame).to_a, missing: "")
      end

      # Pictures first, which stay if the work is cut off, then all of them as one file.
      def movie(out)
        pictures = ExportPictures.new(@task, @document, alpha: film.alpha?)
        keys = @task.payload["keys"]
        folder = File.join(out, ".#{@task.shot}-pictures")
        FileUtils.mkdir_p(folder)
        written(
          keys, total: 2 * keys.size, path: ->(index, _) { File.join(folder, format("%06d.png", index + 1)) }
        ) { |key, frame| drawn(pictures, key, frame) }
        path = @names.all(film.ending)
        film.encode(File.join(folder, "%06d.png"), path) do |done|
          @task.progress(keys.size + [done, keys.size].min, 2 * keys.size, "writing the movie")
        end
        FileUtils.rm_rf(folder)
        told(files: 1, bytes: File.size(path))
      end

      def make(folder)
        FileUtils.mkdir_p(folder)
        raise Refused.new("The folder #{folder} cannot be written.", code: "no_folder") unless File.writable?(folder)
      rescue SystemCallError
        raise Refused.new("The folder #{folder} cannot be made.", code: "no_folder")
      end

      def volume(key, frame)
        bricks, head = @workshop.frames.read(key)
        grids, half = @task.payload.values_at("grids", "half")
        Formats::VDB.frame(
          bricks, voxel: head["voxel"], corner: head["corner"], ambient: @document.the(:chamber)[:ambient], only: grids,
          half: half, inside: box(frame)
        )
      end

      # The lowest and the highest corner of what a volume is clipped to. @return [Array<Array<Float>>, nil]
      def box(frame)
        id = @task.payload["clip"]
        id &&
          (@clip ||= Geometry::Standing.new(@document.with_on(id, :shown), @workshop.assets, only: [id])).at(
            frame
          ).bounds
      end

      # From a liquid's surface, on the grid that it was made on.
      def distance(key)
        cells, corner, whole = @workshop.liquids.lattice(key)
        voxel = 0.5 * whole
        first = corner.map { |c| c - (BAND - 0.5) * voxel }
        size = cells.map { |n| 2 * n + 2 * BAND }
        field =
          Geometry::Operations::Remesh::Grid.new(size, first, voxel).distance(
            @workshop.liquids.surface(key), BAND * voxel
          )
        Formats::VDB.surface(field, voxel: voxel, first: first, band: BAND * voxel)
      end
    end
  end
end
