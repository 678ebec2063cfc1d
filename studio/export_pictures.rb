# frozen_string_literal: true

module Vumbral
  module Studio
    # Frames of an export as pictures: of one file each, or as a movie takes them.
    class ExportPictures
      # A frame that is rendered, but not finished.
      # @!attribute image [Kernel::Buffer, Finishing::Gathered] the light itself, or what its layers show
      Rendered = Struct.new(:frame, :key, :settings, :renderer, :image)

      # @param task [Worker::Task] of an export
      # @param document [Shot::Document] the shot as it was when the export was asked for
      # @param alpha [Boolean, nil] whether a movie's pictures have alpha; nothing where each frame is a file
      def initialize(task, document, alpha: nil)
        @task, @document, @alpha = task, document, alpha
        @workshop = task.workshop
      end

      # One frame may be rendered while another is finished and a third one written.
      # @return [Rendered]
      def render(key, frame)
        settings = @workshop.painting.settings(@document, frame)
        unless @task.payload["layers"]
          return (
            Rendered.new(
              frame, key, settings, *@workshop.painting.image(@document, frame, key, size, settings: settings)
            )
          )
        end

        layers = @workshop.finishing.gathered(rushes, frame, size, bare: bare?) { @task.check }
        Rendered.new(frame, key, settings, @workshop.finishing.renderer(@document, frame, settings), layers)
      end

      # @param rendered [Rendered]
      # @param beside [ExportBeside] keeps small prints
      # @return [Proc] which gives the file's content
      def finish(rendered, beside)
        renderer = rendered.renderer
        rendered.image = laid(rendered.image) if rendered.image.is_a?(Finishing::Gathered)
        beside.small(rendered.frame) { renderer.develop(rendered.image) }
        @alpha.nil? ? picture(rendered) : still(renderer, rendered.image)
      end

      private

      # Without what stands behind everything.
      def bare? =
        if @alpha.nil?
          !%w[jpg dpx].include?(@task.payload["as"]) && @task.payload.fetch("space", "screen") == "screen"
        else
          @alpha
        end

      # With the layers of the finish.
      def laid(gathered)
        @apart = @task.payload["passes"].to_a.include?("layers") ? {} : nil
        @workshop.finishing.image(gathered, apart: @apart)
      end

      # A frame as a picture, with alpha or as it is developed.
      def still(renderer, image)
        pixels = @alpha ? renderer.cut_out(image) : renderer.develop(image)
        -> { Pixels.png(pixels) }
      end

      def size = @task.payload["size"] || @document.the(:picture).then { |picture| [picture[:width], picture[:height]] }

      # What takes the renderer is done at once; what only writes can wait for another frame to be made.
      def picture(rendered)
        renderer, image = rendered.renderer, rendered.image
        as = @task.payload["as"]
        space = @task.payload.fetch("space", "screen")
        return as_light(renderer, image, as, space) unless space == "screen"

        case as
        when "exr" then layered(rendered)
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
        Finish::PackKernels.deep(
          pixels, light, Kernel::Buffer.of(:f32, renderer.gains), Finish::Colours::SPACES.fetch(space)
        )
        {
          "png16" => -> { Pixels.png(pixels) }, "tif" => -> { Pixels.tiff(pixels) }, "dpx" => -> { Movie.dpx(pixels) }
        }.fetch(as)
      end

      # Linear light, with what was asked for besides.
      def layered(rendered)
        passes, image = @task.payload["passes"], rendered.image
        channels = {"R" => [image, 0], "G" => [image, 1], "B" => [image, 2], "A" => [image, 3]}
        if passes.include?("depth")
          channels["depth.Z"] = [
            @task.payload["layers"] ? known(rendered, "depth").depth : rendered.renderer.depths, 0
          ]
        end
        channels.merge!(more(passes, rendered))
        told = {
          "comments" =>
            "#{@document.name}, frame #{rendered.frame}; linear light, Rec. 709 primaries, colour multiplied by " \
              "alpha; motion in pixels, right and down"
        }
        told.merge!(Formats::IDMattes.told(mattes.values + [smoke])) if passes.include?("masks")
        channels.merge!(lamps(rendered)) if passes.include?("lamps")
        channels.merge!(apart) if @apart
        -> do
          Formats::EXR.write(
            channels, whole: ["depth.Z", *channels.keys.grep(/\A(#{Formats::IDMattes::LAYER}|heat|motion)/o)],
            told: told
          )
        end
      end

      def rushes = @rushes ||= Rushes.from(@workshop, @document, @task.payload["layers"])

      # What each layer of the finish shows by itself, by its name.
      def apart
        @apart
          .flat_map do |id, image|
            %w[R G B A].each_with_index.map do |c, n|
              ["#{Picture::Parts.layer(@document.node(id).name)}.#{c}", [image, n]]
            end
          end
          .to_h
      end

      # The layers, which come to the whole exactly, for the whole is made of them.
      def lamps(rendered)
        parts = parts(rendered)
        parts.values.each_with_index do |part, n|
          Picture::PaneKernels.sum(rendered.image, part, Kernel::Buffer.of(:f32, [1.0] * 3), n.zero?)
        end
        parts.flat_map { |name, part| %w[R G B].each_with_index.map { |c, n| ["#{name}.#{c}", [part, n]] } }.to_h
      end

      # Names of the props by their ids; those of the same name share a mask.
      def mattes = @mattes ||= @document.of(:prop).to_h { |prop| [prop.id, prop.name] }

      # The smoke's own mask has the name of its chamber.
      def smoke = @document.the(:chamber).name

      # What else is known of the pixels.
      def more(passes, rendered)
        wanted = passes & Picture::Passes::NAMES
        return {} if wanted.empty?

        found = known(rendered, *wanted)
        wanted.map { |pass| layer(pass, found) }.reduce(:merge)
      end

      def known(rendered, *wanted)
        Picture::Passes.new(
          rendered.settings, Picture::Camera.settings(@document, rendered.frame - 1), @workshop.assets, *size,
          medium: @workshop.painting.medium(rendered.key, moving: wanted.include?("motion"))
        )
      end

      def layer(pass, found)
        case pass
        when "masks"
          masks =
            found.masks(
              mattes.transform_values { |name| Formats::IDMattes.number(name) }, gas: Formats::IDMattes.number(smoke)
            )
          2
            .times
            .flat_map do |n|
              %w[R G B A].each_with_index.map { |c, i| ["#{Formats::IDMattes::LAYER}0#{n}.#{c}", [masks, 4 * n + i]] }
            end
            .to_h
        when "normal" then %w[X Y Z].each_with_index.to_h { |c, n| ["normal.#{c}", [found.normal, n]] }
        when "motion" then found.motion.then { |motion| {"motion.X" => [motion, 0], "motion.Y" => [motion, 1]} }
        when "heat" then {"heat.T" => [found.heat, 0]}
        end
      end

      # What each lamp, the sky and what glows adds.
      def parts(rendered)
        names = (@document.of(:sun) + @document.of(:lamp)).map(&:name)
        Picture::Parts.of(rendered.settings, names).transform_values do |part|
          @task.check
          @workshop.painting.of(part, rendered.key, size)
        end
      end
    end
  end
end
