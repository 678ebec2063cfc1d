# frozen_string_literal: true

module Vumbral
  module Studio
    # What the layers of a frame show, for {Finish::Composite}.
    class Layered
      # How far around a lamp's place is looked for what hides it, parts of the frame's height.
      ROUND = 0.006

      # @param rushes [Rushes]; @param sharp [Boolean] without blur
      # @param bare [Boolean] without what stands behind everything
      def initialize(workshop, rushes, frame, size, sharp: false, bare: false, progress: nil)
        @workshop, @rushes, @frame, @size = workshop, rushes, frame, size
        @sharp, @bare, @progress = sharp, bare, progress
        @names = {}
      end

      # As the picture is exposed and balanced, for white is 1 there, as it is in a plate.
      def shot(layer, frame, backdrop)
        image = @workshop.elements.fetch(asked("shot", layer, frame, backdrop && !@bare), &@progress)
        gains = gains(layer, frame)
        (gains.all? { |gain| (gain - 1.0).abs < 1e-6 }) ? image : image.copy.tap { |out| Finish::GradeKernels.multiply(out, Kernel::Buffer.of(:f32, gains)) }
      end

      def plate(digest, frame, space) = @workshop.plates.picture(digest, frame, space)

      def table(digest) = @workshop.plates.table(digest)

      def pass(name, layer)
        @workshop.elements.fetch(asked(name, layer, moment(layer)))
      end

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
      def name(layer)
        wanted(layer).map { |want, frame, backdrop| name_of(asked(want, layer, frame, backdrop)) } + tables(layer) + (shows?(layer) ? layer["at"].map { |frame, _| gains(layer, frame) } : []) + [@bare]
      end

      # @param layers [Array<Hash>] @return [Array<Hash>] what is not there yet
      def missing(layers)
        layers.flat_map { |layer| wanted(layer).map { |want, frame, backdrop| asked(want, layer, frame, backdrop) } }
          .map { |asked| [asked, name_of(asked)] }.uniq { |_, name| name }.reject { |_, name| @workshop.elements.there?(name) }
          .map { |asked, name| @workshop.elements.to_job(asked, name) }
      end

      private

      # Whether it shows a shot, this one or another.
      def shows?(layer) = %w[shot other].include?(layer["what"])

      # The frame that a layer shows most of.
      def moment(layer) = shows?(layer) ? layer["at"].max_by(&:last)[0] : @frame

      def gains(layer, frame) = (@gains ||= {})[[layer["shot"], frame]] ||= Picture::Film.new(Picture::Film.settings(@rushes.document_of(layer), frame)).gains

      # What of the shot a layer and its effects ask for. @return [Array<Array>] what, which frame, and whether with what stands behind
      def wanted(layer)
        passes = layer["effects"].flat_map { |effect| passes_of(effect) }.uniq.map { |want| [want, moment(layer), false] }
        return passes unless shows?(layer)

        layer["at"].map { |frame, _| ["shot", frame, !@bare && layer["behind"]] } + passes
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
        Elements::Asked.new(@rushes.document_of(layer), frame, @rushes.key(layer, frame), Finish::Shown.told(layer), @size, want, @sharp, backdrop ? true : false)
      end

      # Asked for again and again.
      def name_of(asked) = @names[[asked.document.object_id, asked.frame, asked.layer, asked.want, asked.backdrop]] ||= @workshop.elements.name(asked)
    end
  end
end
