# frozen_string_literal: true

module Vumbral
  module Studio
    # Frames of a shot with all layers of its finish.
    class Finishing
      # What is kept of pictures on their way, bytes.
      MEMORY = 160 << 20

      # Keeps pictures by their names; the longest unused go first.
      class Kept
        def initialize(room)
          @room, @all, @lock = room, {}, Mutex.new
        end

        def [](name) = @lock.synchronize { (found = @all.delete(name)) && (@all[name] = found) }

        def []=(name, image)
          @lock.synchronize do
            @all[name] = image
            @all.shift while @all.size > 1 && @all.sum { |_, kept| kept.bytesize } > @room
          end
        end
      end

      def initialize(workshop)
        @workshop = workshop
        @kept = Kept.new(MEMORY)
        @one = Mutex.new
      end

      # @return [Boolean] whether a shot has layers that count
      def any?(document) = Finish::Stack.any?(document)

      # @return [Array<Integer>] frames of the shot that a finished frame shows
      def frames(document, frame) = (layers(document, frame).select { |layer| layer["what"] == "shot" }.flat_map { |layer| layer["at"].map(&:first) } + [frame]).uniq

      # Whole quality.
      # @param keys [Hash{Integer => String, nil}] of the gas, for the {#frames}
      # @param bare [Boolean] without what stands behind everything, for pictures with alpha
      # @param apart [Hash, nil] takes up what each layer shows by itself, by its id
      # @return [Kernel::Buffer] f32 [h, w, 4], linear red, green, blue and alpha, multiplied by it
      def image(document, frame, keys, size, bare: false, apart: nil, &progress)
        sources = Layered.new(@workshop, document, frame, keys, size, bare: bare, progress: progress)
        composite(document, frame, size, sources, apart: apart).image
      end

      # What has to be made before a frame can be looked at.
      # @return [Array<Hash>] for jobs "element"
      def missing(document, frame, keys, size) = Layered.new(@workshop, document, frame, keys, size, sharp: true).missing(layers(document, frame))

      # To look at, without blur.
      # @return [Kernel::Buffer] as {#image}
      def look(document, frame, keys, size)
        @one.synchronize { composite(document, frame, size, Layered.new(@workshop, document, frame, keys, size, sharp: true), @kept).image }
      end

      # One layer alone as it lies in the frame, without effects and masks.
      # @return [Kernel::Buffer, nil] as {#image}; nothing where it shows nothing at that frame
      def plain(document, frame, layer_id, keys, size)
        layer = layers(document, frame).find { |one| one["id"] == layer_id } or return
        bare = layer.merge("effects" => [], "masks" => [], "blend" => "over", "opacity" => 100.0, "steady" => nil, "pair" => nil)
        picture = document.the(:picture)
        Finish::Composite.new([bare], Layered.new(@workshop, document, frame, keys, size, sharp: true), *size, full: [picture[:width], picture[:height]]).image
      end

      # As a screen shows it: through the picture's film, with what stands behind everything.
      # @param image [Kernel::Buffer] from {#image}; a copy is changed
      # @return [Kernel::Buffer] u8 [h, w, 3]
      def developed(document, frame, image) = renderer(document, frame).develop(image)

      # @return [Picture::Renderer] which has the frame's film and what stands behind everything, but no props; layers are
      #   exposed and balanced already
      def renderer(document, frame)
        settings = @workshop.painting.settings(document, frame)
        Picture::Renderer.new(settings.merge("props" => [], "film" => settings["film"].merge("exposure" => 0.0, "warmth" => Picture::Film::NEUTRAL)), @workshop.assets)
      end

      # @return [Hash{Integer => String, nil}] the gas of frames as there is of them
      # @param quiet [Boolean] where there is none, a frame is seen without it
      def keys(shot_id, frames, quiet: false)
        there = quiet ? @workshop.runs.there(shot_id) : nil
        frames.to_h { |frame| [frame, (there && !there.include?(frame)) ? nil : @workshop.runs.best(shot_id, frame)[1]] }
      end

      private

      def layers(document, frame) = Finish::Stack.new(document, @workshop.plates).at(frame)

      def composite(document, frame, size, sources, kept = nil, apart: nil)
        picture = document.the(:picture)
        Finish::Composite.new(layers(document, frame), sources, *size, full: [picture[:width], picture[:height]], cache: kept, apart: apart)
      end
    end
  end
end
