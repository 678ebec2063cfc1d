# frozen_string_literal: true

require "digest"
require "json"

module Vumbral
  module Studio
    # Pictures of the shot that layers of the finish lie over each other, kept on disk by what made them, so that a dial
    # of the finish makes none anew.
    class Elements
      # Raise it when pictures of the same settings change otherwise than by {Views::VERSION}.
      VERSION = 3
      # What is kept on disk, bytes; the longest unused go first.
      ROOM = 3 << 30
      # What is kept in memory, bytes.
      MEMORY = 160 << 20
      PASSES = %w[heat depth motion cover].freeze
      # Chapters that say nothing of where particles fly.
      BESIDE = %i[finish timeline camera light].freeze

      # What one is made of.
      # @!attribute frame [Integer]
      # @!attribute key [String, nil] of the gas
      # @!attribute layer [Hash] of {Finish::Shown.told}
      # @!attribute want [String] "shot", or one of {PASSES}
      # @!attribute sharp [Boolean] without blur, to look at
      # @!attribute part [Array<Integer>, nil] what of it is wanted in full (left, top, right and bottom, pixels); the
      #   rest comes coarsely. Not of motion, which is told in pixels
      Asked = Struct.new(:document, :frame, :key, :layer, :size, :want, :sharp, :backdrop, :part)
      # How much coarser that is, each way.
      COARSE = 4

      def initialize(workshop)
        @workshop = workshop
        @kept = {}
        @lock = Mutex.new
      end

      # @param asked [Asked] @return [String] the name of what it comes to
      def name(asked)
        document = asked.document
        settings = Finish::Shown.of(@workshop.painting.settings(document, asked.frame), asked.layer)
        beside = [
          VERSION, Views::VERSION, key(asked), asked.size, asked.want, asked.sharp, asked.backdrop, document.rate,
          sparks(document, asked.frame)
        ]
        beside << Picture::Camera.settings(document, asked.frame - 1) if asked.want == "motion"
        beside << asked.part if asked.part
        Digest::SHA256.hexdigest(JSON.generate([beside, settings.except("film")]))[0, 24]
      end

      def there?(name) = @lock.synchronize { @kept.key?(name) } || File.exist?(path(name))

      # @return [Kernel::Buffer] f32 [h, w, channels]; a shot's has its light multiplied by alpha
      # @yield [done, count] of the pictures that one with blur is made of
      def fetch(asked, name = name(asked), &progress)
        found = @lock.synchronize { (had = @kept.delete(name)) && (@kept[name] = had) }
        found || (HalfPicture.read(path(name)) || made(asked, name, &progress)).tap { |image| keep(name, image) }
      end

      # @return [Hash] what a worker needs for {#fetch}; see {#asked}
      def to_job(asked, name) =
        asked.to_h.transform_keys(&:to_s).merge("document" => asked.document.to_json, "name" => name)

      # @return [Asked]
      def asked(payload) =
        Asked.new(
          @workshop.shots.read(payload["document"]),
          *payload.values_at("frame", "key", "layer", "size", "want", "sharp", "backdrop", "part")
        )

      private

      # What may say where particles fly, if there are some: all but what only pictures and light go by.
      def sparks(document, frame)
        return [] if document.of(:emitter).empty?

        [frame] + document.nodes.each_value.reject { |node| BESIDE.include?(node.kind.chapter) }.map(&:to_h)
      end

      def path(name) = @workshop.home.within("elements", name[0, 2], "#{name}.half")

      def made(asked, name, &progress)
        image = (asked.want == "shot") ? picture(asked, &progress) : pass(asked)
        image = inset(image, asked, &progress) if asked.part
        bytes, same = HalfPicture.packed(image)
        @workshop.home.write(path(name), bytes)
        thin if rand(40).zero?
        # The same whether it was just made or is read.
        same
      end

      # Of the gas, if that is among it.
      def key(asked) = Finish::Shown.gas?(asked.layer) ? asked.key : nil

      # What of the frame is rendered, and of how many pixels.
      def settings(asked)
        settings = Finish::Shown.of(@workshop.painting.settings(asked.document, asked.frame), asked.layer)
        settings = Picture::Renderer.sharp(settings) if asked.sharp
        return [settings, asked.size] unless asked.part

        left, top, right, bottom = asked.part
        crop = asked.part.zip(asked.size * 2).map { |c, edge| c.fdiv(edge) }
        [settings.merge("camera" => settings["camera"].merge("crop" => crop)), [right - left, bottom - top]]
      end

      def picture(asked, &progress)
        settings, size = settings(asked)
        renderer, image =
          @workshop.painting.image(asked.document, asked.frame, key(asked), size, settings: settings, &progress)
        return image unless asked.backdrop

        image.copy.tap { |out| Finish::BlendKernels.back(out, renderer.behind(*size)) }
      end

      def pass(asked)
        settings, size = settings(asked)
        passes =
          Picture::Passes.new(
            settings, Picture::Camera.settings(asked.document, asked.frame - 1), @workshop.assets, *size,
            medium: @workshop.painting.medium(key(asked), moving: asked.want == "motion")
          )
        passes.public_send(asked.want)
      end

      # A part in its place, in all of the frame made coarsely.
      def inset(image, asked, &progress)
        rough =
          fetch(
            asked.dup.tap { |all| all.part, all.size = nil, asked.size.map { |n| [n / COARSE, 16].max } }, &progress
          )
        Kernel::Buffer.new(:f32, *asked.size.reverse, image.dim(2)).tap do |out|
          Finish::SoftKernels.spread(
            out, rough, rough.dim(0).fdiv(out.dim(0)), 0.0, Kernel::Buffer.of(:f32, [1.0] * image.dim(2))
          )
          Finish::WarpKernels.inset(out, image, asked.part[1], asked.part[0])
        end
      end

      def keep(name, image)
        @lock.synchronize do
          @kept[name] = image
          @kept.shift while @kept.size > 1 && @kept.sum { |_, kept| kept.bytesize } > MEMORY
        end
      end

      # What was not asked for longest goes where there is too much.
      def thin
        files =
          Dir[@workshop.home.within("elements", "*", "*.half")]
            .map { |file| [File.mtime(file), File.size(file), file] }
            .sort
        over = files.sum { |row| row[1] } - ROOM
        files.each do |_, size, file|
          break if over <= 0

          FileUtils.rm_f(file)
          over -= size
        end
      rescue Errno::ENOENT
        nil
      end
    end
  end
end
