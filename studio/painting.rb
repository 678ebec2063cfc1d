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
      # @param settings [Hash] from {#settings}, perhaps changed
      # @yield [done, count] after each of the pictures that one with blur is made of
      # @return [Array(Picture::Renderer, Kernel::Buffer)] f32 [height, width, 4], see {Picture::Renderer#image}
      def image(document, frame, key, size, sharp: false, glow: true, settings: settings(document, frame), &progress)
        settings = Picture::Renderer.sharp(settings) if sharp
        renderer = Picture::Renderer.new(settings, @workshop.assets)
        [
          renderer,
          renderer.image(prepared(renderer, key), *size, sparks: glow ? sparks(document, frame) : nil, &progress)
        ]
      end

      # A picture to look at, without blur.
      # @param eye [Hash, nil] "position", "target", "focal" instead of the shot's camera
      # @param crop [Array<Float>, nil] only this part of it, which is as large as `size` says (left, top, right,
      #   bottom)
      # @param coarse [Boolean] lit coarsely and quickly
      # @return [Kernel::Buffer] u8 [height, width, 3]
      def glance(document, frame, key, size, eye: nil, crop: nil, coarse: false)
        settings = Picture::Renderer.sharp(settings(document, frame))
        settings = settings.merge("camera" => settings["camera"].except("roll").merge(eye)) if eye
        settings = settings.merge("camera" => settings["camera"].merge("crop" => crop)) if crop
        renderer = @last = Picture::Renderer.new(settings, @workshop.assets, before: @last)
        renderer.develop(renderer.image(prepared(renderer, key, coarse), *size, sparks: sparks(document, frame)))
      end

      # @return [Hash] as {Picture::Renderer.settings}, with particles that are seen as copies of props
      def settings(document, frame)
        settings = Picture::Renderer.settings(document, frame)
        @copies = [document, Picture::ParticleCopies.new(document, @workshop.assets)] unless @copies &&
          @copies[0].equal?(document)
        @copies[1].any? ? settings.merge("props" => settings["props"] + @copies[1].at(frame)) : settings
      end

      # @param settings [Hash] from {#settings}, perhaps changed
      # @return [Kernel::Buffer] f32 [height, width, 4]
      def of(settings, key, size)
        renderer = Picture::Renderer.new(settings, @workshop.assets)
        renderer.image(renderer.prepare(medium(key, moving: renderer.moves?)), *size)
      end

      # @return [Light::Medium, nil] the gas of a frame; nothing where none was run
      # @param moving [Boolean] whether it shall tell how it moves
      def medium(key, moving: false)
        return unless key

        bricks, head = @workshop.frames.read(key)
        Light::Medium.of(bricks, head, moving: moving)
      end

      private

      # One frame after the other, each goes on from the one before.
      # @return [Kernel::Buffer, nil] those of a frame
      def sparks(document, frame)
        @sparks = [document, Picture::Sparks.new(document, @workshop.assets)] unless @sparks &&
          @sparks[0].equal?(document)
        @sparks[1].at(frame) if @sparks[1].any?
      end

      def prepared(renderer, key, coarse = false)
        name = [key, renderer.lit_by, coarse]
        found = @lock.synchronize { (had = @kept.delete(name)) && (@kept[name] = had) }
        found || renderer.prepare(medium(key, moving: renderer.moves?), coarse: coarse).tap { |made| keep(name, made) }
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
