# frozen_string_literal: true

module Vumbral
  module Studio
    # What the layers of a frame show, for {Finish::Composite}.
    class Layered
      # How far around a lamp's place is looked for what hides it, parts of the frame's height.
      ROUND = 0.006

      # @param rushes [Rushes]; @param sharp [Boolean] without blur
      # @param bare [Boolean] without what stands behind everything
      # @param part [Array<Integer>, nil] what of the shot is wanted in full, as {Elements::Asked} has it
      def initialize(workshop, rushes, frame, size, sharp: false, bare: false, part: nil, progress: nil)
        @workshop, @rushes, @frame, @size = workshop, rushes, frame, size
        @sharp, @bare, @part, @progress = sharp, bare, part, progress
        @names = {}
      end

      # As the picture is exposed and balanced, for white is 1 there, as it is in a plate.
      def shot(layer, frame, backdrop)
        if layer["finished"]
          return (
            whole(layer, frame) do |within, layers|
              return Finish::Composite.new(layers, within, *@size, full: @size).image
            end
          )
        end

        image = fetch(asked("shot", layer, frame, backdrop && !@bare))
        gains = gains(layer, frame)
        if gains.all? { |gain| (gain - 1.0).abs < 1e-6 }
          image
        else
          image.copy.tap { |out| Finish::GradeKernels.multiply(out, Kernel::Buffer.of(:f32, gains)) }
        end
      end

      # @param whole [Boolean] whether each of its pixels is wanted
      def plate(digest, frame, space, whole = true) =
        @workshop.plates.picture(digest, frame, space, high: (whole || !@sharp) ? nil : @size[1])

      def table(digest) = @workshop.plates.table(digest)

      def pass(name, layer) = fetch(asked(name, layer, moment(layer)))

      # How far props are, without one. @return [Kernel::Buffer] f32 [h, w, 1], metres
      def before(prop) = fetch(before_asked(prop))

      # @param row [Hash] from {Finish::Stack} @return [Kernel::Buffer] as {Geometry::TextureKernels} take it
      def texture(row) = Maps::Patterns.buffer([row[:texture]], @workshop.assets)

      # The shape of a prop, whatever stands before it. @return [Kernel::Buffer] f32 [h, w, 4], of which alpha counts
      def matte(prop) = fetch(matte_asked(prop))

      # How much of a lamp is hidden by props before it and by gas.
      # @param spot [Array<Float>] from {Finish::Spots.of}
      def cover(layer, spot)
        return 0.0 unless spot[2]

        depth, gas = pass("depth", layer), pass("cover", layer)
        reach = [(ROUND * @size[1]).round, 1].max
        x, y = [0, 1].map { |axis| (spot[axis] * @size[axis]).floor }
        near = (-reach..reach).to_a.product((-reach..reach).to_a).select { |dx, dy| dx * dx + dy * dy <= reach * reach }
          .map { |dx, dy| [(y + dy).clamp(0, @size[1] - 1), (x + dx).clamp(0, @size[0] - 1)] }
        near.sum { |j, i| (depth[j, i, 0] < 0.98 * spot[2]) ? 1.0 : gas[j, i, 0] } / near.size
      end

      # A name for what {#shot} and {#pass} give.
      def name(layer) = layer["finished"] ? names_within(layer) : named(layer)

      # @param layers [Array<Hash>] @return [Array<Hash>] what is not there yet
      def missing(layers)
        mine =
          needs(layers)
            .reject { |_, name| @workshop.elements.there?(name) }
            .map { |asked, name| @workshop.elements.to_job(asked, name) }
        mine + finished(layers) { |within, theirs| within.missing(theirs) }
      end

      # Makes what is not there yet. @param layers [Array<Hash>]
      def gather(layers)
        needs(layers).each { |asked, _| fetch(asked) }
        finished(layers) { |within, theirs| within.gather(theirs) }
      end

      private

      def fetch(asked) = @workshop.elements.fetch(asked, name_of(asked), &@progress)

      # @return [Array] what layers ask for, with their names
      def needs(layers) =
        layers.flat_map { |layer| asked_of(layer) }.map { |asked| [asked, name_of(asked)] }.uniq(&:last)

      # The other shots that come with their own layers. @yield as {#whole} @return [Array] all that was given
      def finished(layers, &block)
        layers
          .select { |layer| layer["finished"] }
          .flat_map { |layer| layer["at"].flat_map { |frame, _| whole(layer, frame, &block) } }
      end

      # Another shot with its own layers. @yield [Layered, layers] what they show, and they
      def whole(layer, frame)
        rushes = @rushes.of(layer)
        behind = @bare || !layer["behind"]
        within =
          (@within ||= {})[[layer["shot"], frame, behind]] ||= Layered.new(
            @workshop, rushes, frame, @size, sharp: @sharp, bare: behind, part: @part, progress: @progress
          )
        yield within, rushes.stack.at(frame)
      end

      def names_within(layer)
        layer["at"].map do |frame, _|
          whole(layer, frame) { |within, layers| layers.map { |theirs| [theirs, within.name(theirs)] } }
        end + [passes(layer).map { |asked| name_of(asked) }]
      end

      def named(layer)
        asked_of(layer).map { |asked| name_of(asked) } + tables(layer) +
          (shows?(layer) ? layer["at"].map { |frame, _| gains(layer, frame) } : []) + [@bare]
      end

      # Whether it shows a shot, this one or another.
      def shows?(layer) = %w[shot other].include?(layer["what"])

      # The frame that a layer shows most of.
      def moment(layer) = shows?(layer) ? layer["at"].max_by(&:last)[0] : @frame

      def gains(layer, frame) =
        (@gains ||= {})[[layer["shot"], frame]] ||= Picture::Film.new(
          Picture::Film.settings(@rushes.document_of(layer), frame)
        ).gains

      # What of the shot a layer, its effects and its masks ask for. @return [Array<Elements::Asked>]
      def asked_of(layer)
        pictures = (shows?(layer) && !layer["finished"]) ? layer["at"].map { |frame, _| asked("shot", layer, frame, !@bare && layer["behind"]) } : []
        pictures + passes(layer)
      end

      def passes(layer)
        wants = layer["effects"].flat_map { |effect| passes_of(effect) } + (layer["deep"] ? %w[depth] : [])
        masks = layer["masks"] + layer["effects"].flat_map { |effect| effect["masks"] }
        wants.uniq.map { |want| asked(want, layer, moment(layer)) } +
          masks.filter_map { |mask| mask["prop"] }.uniq.map { |prop| matte_asked(prop) } +
          (layer["before"] ? [before_asked(layer["before"]["prop"])] : [])
      end

      def before_asked(prop) =
        Elements::Asked.new(
          @rushes.document, @frame, nil, {"without" => prop, "part" => "props"}, @size, "depth", @sharp, false
        )

      # As if it were seen, whether or not it is.
      def matte_asked(prop)
        document = (@mattes ||= {})[prop] ||= @rushes.document.with_on(prop, :shown, :pictured)
        Elements::Asked.new(
          document, @frame, nil, {"seen" => [prop], "held" => [], "part" => "props"}, @size, "shot", @sharp, false
        )
      end

      def passes_of(effect)
        case effect["what"]
        when "shimmer" then (effect["by"] == "heat") ? %w[heat] : []
        when "defocus" then %w[depth]
        when "motion" then %w[motion]
        when "flare" then (effect["source"] == "lamp" && effect["spot"]&.[](2)) ? %w[depth cover] : []
        else []
        end
      end

      def tables(layer) = layer["effects"].filter_map { |effect| effect["table"] }

      def asked(want, layer, frame, backdrop = false)
        whole =
          Elements::Asked.new(
            @rushes.document_of(layer), frame, @rushes.key(layer, frame), Finish::Shown.told(layer), @size, want,
            @sharp, backdrop ? true : false
          )
        return whole if @part.nil? || want == "motion" || @workshop.elements.there?(name_of(whole))

        whole.dup.tap { |asked| asked.part = @part }
      end

      # Asked for again and again.
      def name_of(asked) =
        @names[
          [asked.document.object_id, asked.frame, asked.layer, asked.want, asked.backdrop, asked.part]
        ] ||= @workshop.elements.name(asked)
    end
  end
end
