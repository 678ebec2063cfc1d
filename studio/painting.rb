# frozen_string_literal: true

module Vumbral
  module Studio
    # Makes pictures of frames. What was lit for one serves the next of the same frame, however its size, the
    # camera or the film have changed meanwhile.
    class Painting
      # So much of it is kept, bytes.
      MEMORY = 192 << 20

      def initialize(workshop)
        @workshop = workshop
        @kept = {}
        @lock = Mutex.new
      end

      # @param key [String] of the frame's file
      # @param sharp [Boolean] without blur, for pictures that are only looked over
      # @param glow [Boolean] with the particles that glow
      # @yield [done, count] after each of the pictures that one with blur is made of
      # @return [Array(Picture::Renderer, Kernel::Buffer)] f32 [height, width, 4], see {Picture::Renderer#image}
      def image(document, frame, key, size, sharp: false, glow: true, &progress)
        settings = Picture::Renderer.settings(document, frame)
        settings = Picture::Renderer.sharp(settings) if sharp
        renderer = Picture::Renderer.new(settings, @workshop.assets)
        [renderer, renderer.image(prepared(renderer, key), *size, sparks: glow ? sparks(document, frame) : nil, &progress)]
      end

      # A picture to look at, without blur.
      # @param eye [Hash, nil] "position", "target", "focal" instead of the shot's camera
      # @param coarse [Boolean] lit coarsely and quickly
      # @return [Kernel::Buffer] u8 [height, width, 3]
      def glance(document, frame, key, size, eye: nil, coarse: false)
        settings = Picture::Renderer.sharp(Picture::Renderer.settings(document, frame))
        settings = settings.merge("camera" => settings["camera"].merge(eye)) if eye
        renderer = Picture::Renderer.new(settings, @workshop.assets)
        renderer.develop(renderer.image(prepared(renderer, key, coarse), *size, sparks: sparks(document, frame)))
      end

      # @param settings [Hash] from {Picture::Renderer.settings}, perhaps changed
      # @return [Kernel::Buffer] f32 [height, width, 4]
      def of(settings, key, size)
        renderer = Picture::Renderer.new(settings, @workshop.assets)
        renderer.image(renderer.prepare(medium(renderer, key)), *size)
      end

      private

      # One frame after the other, each goes on from the one before.
      # @return [Kernel::Buffer, nil] those of a frame
      def sparks(document, frame)
        @sparks = [document, Picture::Sparks.new(document, @workshop.assets)] unless @sparks && @sparks[0].equal?(document)
        @sparks[1].at(frame) if @sparks[1].any?
      end

      def prepared(renderer, key, coarse = false)
        name = [key, renderer.lit_by, coarse]
        found = @lock.synchronize { (had = @kept.delete(name)) && (@kept[name] = had) }
        found || renderer.prepare(medium(renderer, key), coarse: coarse).tap { |made| keep(name, made) }
      end

      # @return [Light::Medium, nil] nothing where no gas was run
      def medium(renderer, key)
        return unless key

        bricks, head = @workshop.frames.read(key)
        Light::Medium.of(bricks, head, moving: renderer.moves?)
      end

      # What was not asked for longest goes first.
      def keep(name, made)
        @lock.synchronize do
          @kept[name] = made if made.bytesize <= MEMORY
          @kept.shift while @kept.sum { |_, ready| ready.bytesize } > MEMORY
        end
      end
    end
  end
end
