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

      # What a frame is laid together from. @!attribute layers [Array<Hash>] from {Finish::Stack#at} @!attribute sources
      # [Layered]
      Gathered = Struct.new(:rushes, :layers, :size, :sources)

      def initialize(workshop)
        @workshop = workshop
        @kept = Kept.new(MEMORY)
        @one = Mutex.new
      end

      # @return [Boolean] whether a shot has layers that count
      def any?(document) = Finish::Stack.any?(document)

      # Whole quality.
      # @param rushes [Rushes]
      # @param bare [Boolean] without what stands behind everything, for pictures with alpha
      # @return [Gathered] what the layers of a frame show, rendered, so that it need only be laid over each other
      def gathered(rushes, frame, size, bare: false, &progress)
        sources = Layered.new(@workshop, rushes, frame, size, bare: bare, progress: progress)
        Gathered.new(rushes, rushes.stack.at(frame), size, sources).tap { |all| sources.gather(all.layers) }
      end

      # @param gathered [Gathered]
      # @param apart [Hash, nil] takes up what each layer shows by itself, by its id
      # @return [Kernel::Buffer] f32 [h, w, 4], linear red, green, blue and alpha, multiplied by it
      def image(gathered, apart: nil) = composite(*gathered.to_a, apart: apart).image

      # What has to be made before a frame can be looked at.
      # @param part [Array<Integer>, nil] as {#look}
      # @return [Array<Hash>] for jobs "element"
      def missing(rushes, frame, size, part: nil) = looked(rushes, frame, size, part).missing(rushes.stack.at(frame))

      # To look at, without blur.
      # @param held [String, nil] id of the node whose dial is under the hand
      # @param part [Array<Integer>, nil] what of the shot is wanted in full (left, top, right and bottom, pixels); the
      #   rest is coarse
      # @return [Kernel::Buffer] as {#image}, not to be changed
      def look(rushes, frame, size, held: nil, part: nil)
        @one.synchronize do
          composite(
            rushes, rushes.stack.at(frame), size, looked(rushes, frame, size, part), cache: @kept,
            under: held && layer_of(rushes.document, held)
          ).image
        end
      end

      # One layer alone as it lies in the frame, without effects and masks.
      # @return [Kernel::Buffer, nil] as {#image}; nothing where it shows nothing at that frame
      def plain(rushes, frame, layer_id, size)
        layer = rushes.stack.at(frame).find { |one| one["id"] == layer_id } or return
        bare =
          layer.merge(
            "effects" => [], "masks" => [], "blend" => "over", "opacity" => 100.0, "steady" => nil, "pair" => nil
          )
        composite(rushes, [bare], size, looked(rushes, frame, size)).image
      end

      # What lies below the shot's own picture, for the view to show behind it: plates, colours and words.
      # @return [Kernel::Buffer] u8 [h, w, 3], as a screen has it, without the picture's film
      def behind(rushes, frame, size)
        layers = rushes.stack.at(frame).take_while { |layer| !%w[shot other].include?(layer["what"]) }
        image = composite(rushes, layers, size, looked(rushes, frame, size)).image
        Kernel::Buffer.new(:u8, size[1], size[0], 3).tap { |out| Finish::PackKernels.screen(out, image) }
      end

      # A layer's picture to follow spots in. @return [Array(Kernel::Buffer, Kernel::Buffer)] as {#plain} (black where
      #   it shows nothing), and what is to be passed over, f32 [h, w], or one by one
      def followed(rushes, frame, layer_id, size)
        image = plain(rushes, frame, layer_id, size) || Kernel::Buffer.new(:f32, size[1], size[0], 4)
        [image, Finish::Masks.new(rushes.stack.ignored(layer_id, frame), image).field]
      end

      # What a layer's effects make of colours, as a table.
      # @return [Array(String, Array<String>)] a .cube file, and what its other effects do, which no table can hold
      # @raise [Refused] where none of them is of that kind
      def table(document, layer_id, frame)
        unless document.node(layer_id).kind.name == :layer
          raise Refused.new("#{document.node(layer_id).name} is no layer.", code: "bad_edit")
        end

        layer =
          Rushes.build(@workshop, nil, document, []).stack.at(frame).find { |one| one["id"] == layer_id } ||
          {"effects" => []}
        colours, others = Finish::Baked.effects(layer)
        if colours.empty?
          raise Refused.new(
            "#{document.node(layer_id).name} has no effect that only changes colours; a table holds nothing " \
              "else.",
            code: "nothing_to_do"
          )
        end

        [Finish::Baked.cube(layer, @workshop.plates, title: document.name).write, others]
      end

      # How grainy the lowest plate of a shot is.
      # @return [Finish::GrainMeasure::Found]
      # @raise [Refused] where there is no plate, or it does not tell
      def grain(document, frame)
        layer = Rushes.build(@workshop, nil, document, []).stack.at(frame).find { |one| one["what"] == "plate" }
        unless layer
          raise Refused.new(
            "There is no plate at frame #{frame} whose grain could be measured; add a layer with one.",
            code: "no_layer"
          )
        end

        Finish::GrainMeasure.of(@workshop.plates.picture(layer["plate"], layer["at"][0][0], layer["space"]))
      end

      # As a screen shows it: through the picture's film, with what stands behind everything.
      # @param image [Kernel::Buffer] from {#image}; a copy is changed
      # @return [Kernel::Buffer] u8 [h, w, 3]
      def developed(document, frame, image) = renderer(document, frame).develop(image)

      # @return [Picture::Renderer] which has the frame's film and what stands behind everything, but no props; layers
      #   are exposed and balanced already
      # @param settings [Hash] from {Painting#settings}
      def renderer(document, frame, settings = @workshop.painting.settings(document, frame))
        Picture::Renderer.new(
          settings.merge(
            "props" => [], "film" => settings["film"].merge("exposure" => 0.0, "warmth" => Picture::Film::NEUTRAL)
          ),
          @workshop.assets
        )
      end

      private

      # The layer that a node is, or belongs to. @return [String, nil]
      def layer_of(document, id)
        node = document.nodes[id] or return
        return node.id if node.kind.name == :layer

        node.kind.owner && layer_of(document, node[node.kind.owner])
      end

      def looked(rushes, frame, size, part = nil) = Layered.new(@workshop, rushes, frame, size, sharp: true, part: part)

      def composite(rushes, layers, size, sources, **how)
        picture = rushes.document.the(:picture)
        Finish::Composite.new(layers, sources, *size, full: [picture[:width], picture[:height]], **how)
      end
    end
  end
end
