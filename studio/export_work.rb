# frozen_string_literal: true

require "fileutils"

module Vumbral
  module Studio
    # Writes frames as files, one after the other.
    class ExportWork
      # What files are called by that have no format's own name.
      ENDINGS = {"png16" => "png", "drops" => "ply", "vdb-surface" => "vdb"}.freeze
      # Voxels about a surface in which distances are told.
      BAND = 3

      def initialize(task)
        @task = task
        @workshop = task.workshop
        @document = @workshop.shots.read(task.payload["document"])
      end

      # @return [Hash] folder, number of files, bytes, and which frames they are and which were not there
      def call
        out = @task.payload["out"]
        make(out)
        return moving(out) if @task.payload["as"] == "glb"
        return movie(out) if Movie::FORMATS.key?(@task.payload["as"])
        return scene(out) if @task.payload["as"] == "usda"
        return bundle(out) if @task.payload["as"] == "zip"

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
        when "vdb-surface" then distance(@document.made(frame))
        when "drops" then Formats::PLY.points(@workshop.liquids.points(@document.made(frame)))
        when *Exports::PICTURES then picture(key, frame)
        else standing.at(frame)&.then { |mesh| (@task.payload["as"] == "obj") ? Formats::OBJ.write(mesh) : Formats::PLY.write(mesh, standing.speeds(frame)) }
        end
      end

      def standing = @standing ||= Geometry::Standing.new(@document, @workshop.assets, only: @task.payload["props"].then { |ids| ids if ids&.any? })

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

      # The volumes of a scene, then that itself.
      def scene(out)
        keys = @task.payload["keys"]
        name = ->(frame) { format("%s.%04d.vdb", @task.shot, frame) }
        there = keys.select(&:last)
        there.each_with_index.drop(@task.done).each do |(frame, key), n|
          @task.progress(n, keys.size + 1, "writing frame #{frame}")
          @workshop.home.write(File.join(out, name[frame]), volume(key))
        end
        path = File.join(out, "#{@task.shot}.usda")
        @workshop.home.write(path, SceneExport.new(@workshop, @document, keys.map(&:first)).text(there.to_h { |frame, _| [frame, name[frame]] }) { @task.check })
        {folder: out, files: there.size + 1, bytes: Dir[File.join(out, "*")].sum { |file| File.size(file) }, frames: FrameList.words(keys.map(&:first)), missing: @task.payload["missing"].to_s}
      end

      # The whole shot as one file.
      def bundle(out)
        path = @workshop.bundles.pack(@document, File.join(out, "#{@task.shot}.zip")) { |done, total| @task.progress(done, total, "packing") }
        {folder: out, files: 1, bytes: File.size(path), frames: FrameList.words((@document.first_frame..@document.last_frame).to_a), missing: ""}
      end

      # Pictures first, which stay if the work is cut off, then all of them as one file.
      def movie(out)
        film = Movie.new(@task.payload["as"], @document.rate)
        keys = @task.payload["keys"]
        folder = File.join(out, ".#{@task.shot}-pictures")
        FileUtils.mkdir_p(folder)
        keys.each_with_index.drop(@task.done).each do |(frame, key), n|
          @task.progress(n, 2 * keys.size, "making frame #{frame}")
          @workshop.home.write(File.join(folder, format("%06d.png", n + 1)), still(key, frame, film.alpha?))
        end
        path = File.join(out, "#{@task.shot}.#{film.ending}")
        film.encode(File.join(folder, "%06d.png"), path) { |done| @task.progress(keys.size + [done, keys.size].min, 2 * keys.size, "writing the movie") }
        FileUtils.rm_rf(folder)
        {folder: out, files: 1, bytes: File.size(path), frames: FrameList.words(keys.map(&:first)), missing: @task.payload["missing"].to_s}
      end

      # A frame as a picture, with alpha or as it is developed.
      def still(key, frame, alpha)
        renderer, image = made(frame, key, bare: alpha)
        Pixels.png(alpha ? renderer.cut_out(image) : renderer.develop(image))
      end

      # A frame as linear light, with the layers of the finish if it is wanted with them.
      # @param bare [Boolean] without what stands behind everything
      # @return [Array(Picture::Renderer, Kernel::Buffer)]
      def made(frame, key, bare: true)
        @task.payload["layers"] or return @workshop.painting.image(@document, frame, key, size)
        image = @workshop.finishing.image(rushes, frame, size, bare: bare, apart: @apart = (@task.payload["passes"].to_a.include?("layers") ? {} : nil)) { @task.check }
        [@workshop.finishing.renderer(@document, frame), image]
      end

      def size = @task.payload["size"] || @document.the(:picture).then { |picture| [picture[:width], picture[:height]] }

      def path(frame) = File.join(@task.payload["out"], format("%s.%04d.%s", @task.shot, frame, ENDINGS.fetch(@task.payload["as"], @task.payload["as"])))

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

      # From a liquid's surface, on the grid that it was made on.
      def distance(key)
        _, head = @workshop.frames.read(key)
        voxel = head["voxel"]
        first = head["corner"].map { |c| c - (BAND - 0.5) * voxel }
        size = head["size"].map { |n| n + 2 * BAND }
        field = Geometry::Operations::Remesh::Grid.new(size, first, voxel).distance(@workshop.liquids.surface(key), BAND * voxel)
        Formats::VDB.surface(field, voxel: voxel, first: first, band: BAND * voxel)
      end

      def picture(key, frame)
        renderer, image = made(frame, key, bare: !%w[jpg dpx].include?(@task.payload["as"]))
        case @task.payload["as"]
        when "exr" then layered(renderer, image, frame, key, size)
        when "jpg" then Pixels.jpeg(renderer.develop(image))
        when "tif" then Pixels.tiff(renderer.cut_out(image, deep: true))
        when "dpx" then Movie.dpx(renderer.develop(image, deep: true))
        else Pixels.png(renderer.cut_out(image, deep: @task.payload["as"] == "png16"))
        end
      end

      # Linear light, with what was asked for besides.
      def layered(renderer, image, frame, key, size)
        passes = @task.payload["passes"]
        channels = {"R" => [image, 0], "G" => [image, 1], "B" => [image, 2], "A" => [image, 3]}
        channels["depth.Z"] = [@task.payload["layers"] ? known(frame, key, size, "depth").depth : renderer.depths, 0] if passes.include?("depth")
        channels.merge!(more(passes, frame, key, size))
        told = {"comments" => "#{@document.name}, frame #{frame}; linear light, Rec. 709 primaries, colour multiplied by alpha; motion in pixels, right and down"}
        told.merge!(Formats::IDMattes.told(mattes.values + [smoke])) if passes.include?("masks")
        channels.merge!(lamps(image, frame, key, size)) if passes.include?("lamps")
        channels.merge!(apart) if @apart
        Formats::EXR.write(channels, whole: ["depth.Z", *channels.keys.grep(/\A(#{Formats::IDMattes::LAYER}|heat|motion)/o)], told: told)
      end

      def rushes = @rushes ||= Rushes.from(@workshop, @document, @task.payload["layers"])

      # What each layer of the finish shows by itself, by its name.
      def apart
        @apart.flat_map { |id, image| %w[R G B A].each_with_index.map { |c, n| ["#{Picture::Parts.layer(@document.node(id).name)}.#{c}", [image, n]] } }.to_h
      end

      # The layers, which come to the whole exactly, for the whole is made of them.
      def lamps(image, frame, key, size)
        parts = parts(frame, key, size)
        parts.values.each_with_index { |part, n| Picture::PaneKernels.sum(image, part, Kernel::Buffer.of(:f32, [1.0] * 3), n.zero?) }
        parts.flat_map { |name, part| %w[R G B].each_with_index.map { |c, n| ["#{name}.#{c}", [part, n]] } }.to_h
      end

      # Names of the props by their ids; those of the same name share a mask.
      def mattes = @mattes ||= @document.of(:prop).to_h { |prop| [prop.id, prop.name] }

      # The smoke's own mask has the name of its chamber.
      def smoke = @document.the(:chamber).name

      # What else is known of the pixels.
      def more(passes, frame, key, size)
        wanted = passes & Picture::Passes::NAMES.keys
        return {} if wanted.empty?

        found = known(frame, key, size, *wanted)
        wanted.map { |pass| layer(pass, found) }.reduce(:merge)
      end

      def known(frame, key, size, *wanted)
        Picture::Passes.new(@workshop.painting.settings(@document, frame), Picture::Camera.settings(@document, frame - 1), @workshop.assets, *size,
          medium: @workshop.painting.medium(key, moving: wanted.include?("motion")))
      end

      def layer(pass, found)
        case pass
        when "masks"
          masks = found.masks(mattes.transform_values { |name| Formats::IDMattes.number(name) }, gas: Formats::IDMattes.number(smoke))
          2.times.flat_map { |n| %w[R G B A].each_with_index.map { |c, i| ["#{Formats::IDMattes::LAYER}0#{n}.#{c}", [masks, 4 * n + i]] } }.to_h
        when "normal" then %w[X Y Z].each_with_index.to_h { |c, n| ["normal.#{c}", [found.normal, n]] }
        when "motion" then found.motion.then { |motion| {"motion.X" => [motion, 0], "motion.Y" => [motion, 1]} }
        when "heat" then {"heat.T" => [found.heat, 0]}
        end
      end

      # What each lamp, the sky and what glows adds.
      def parts(frame, key, size)
        names = (@document.of(:sun) + @document.of(:lamp)).map(&:name)
        settings = @workshop.painting.settings(@document, frame)
        Picture::Parts.of(settings, names).transform_values do |part|
          @task.check
          @workshop.painting.of(part, key, size)
        end
      end
    end
  end
end
