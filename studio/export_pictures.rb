# frozen_string_literal: true

module Vumbral
  module Studio
    # Frames of an export as pictures: of one file each, or as a movie takes them.
    class ExportPictures
      # @param task [Worker::Task] of an export
      # @param document [Shot::Document] the shot as it was when the export was asked for
      def initialize(task, document)
        @task, @document = task, document
        @workshop = task.workshop
      end

      # @param beside [ExportBeside] keeps small prints
      # @return [Proc] which gives the file's content, or that of a picture for a movie with or without alpha
      def made_for(key, frame, beside, alpha: nil)
        renderer, image = made(frame, key, bare: alpha.nil? ? !%w[jpg dpx].include?(@task.payload["as"]) && @task.payload.fetch("space", "screen") == "screen" : alpha)
        beside.small(frame) { renderer.develop(image) }
        alpha.nil? ? picture(renderer, image, key, frame) : still(renderer, image, alpha)
      end

      private

      # A frame as a picture, with alpha or as it is developed.
      def still(renderer, image, alpha)
        pixels = alpha ? renderer.cut_out(image) : renderer.develop(image)
        -> { Pixels.png(pixels) }
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

      # What takes the renderer is done at once; what only writes can wait for another frame to be made.
      def picture(renderer, image, key, frame)
        as = @task.payload["as"]
        space = @task.payload.fetch("space", "screen")
        return as_light(renderer, image, as, space) unless space == "screen"

        case as
        when "exr" then layered(renderer, image, frame, key, size)
        when "jpg" then renderer.develop(image).then { |pixels| -> { Pixels.jpeg(pixels) } }
        when "tif" then renderer.cut_out(image, deep: true).then { |pixels| -> { Pixels.tiff(pixels) } }
        when "dpx" then renderer.develop(image, deep: true).then { |pixels| -> { Movie.dpx(pixels) } }
        else renderer.cut_out(image, deep: as == "png16").then { |pixels| -> { Pixels.png(pixels) } }
        end
      end

      # Without the film's curve, before the background.
      def as_light(renderer, image, as, space)
        light = renderer.light(image)
        pixels = Kernel::Buffer.new(:u16, *light.shape)
        Finish::PackKernels.deep(pixels, light, Kernel::Buffer.of(:f32, renderer.gains), Finish::Colours::SPACES.fetch(space))
        {"png16" => -> { Pixels.png(pixels) }, "tif" => -> { Pixels.tiff(pixels) }, "dpx" => -> { Movie.dpx(pixels) }}.fetch(as)
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
        -> { Formats::EXR.write(channels, whole: ["depth.Z", *channels.keys.grep(/\A(#{Formats::IDMattes::LAYER}|heat|motion)/o)], told: told) }
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
        wanted = passes & Picture::Passes::NAMES
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
