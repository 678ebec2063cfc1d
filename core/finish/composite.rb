# frozen_string_literal: true

require "digest"
require "json"

module Vumbral
  module Finish
    # Layers over each other, with what their effects and masks do: linear light until the end.
    class Composite
      # How layers are laid, as {BlendKernels#lay} counts them.
      BLENDS = %w[over add screen multiply overlay soft difference lighter darker inside outside bright
        nearer].each_with_index.to_h.freeze
      # Where each effect is found.
      EFFECTS = {Colours => %w[exposure balance grade contrast curves saturation tint table key],
                 Lights => %w[glow flare flash wrap],
                 Lens => %w[blur smear zoom motion defocus sharpen denoise grain vignette fringes dust bars crop
                   straight bent], Heat => %w[shimmer]}
        .flat_map { |room, names| names.map { |name| [name, room] } }.to_h.freeze
      # Effects that change what lies below their layer.
      BELOW = %w[flash shimmer].freeze

      # @param layers [Array<Hash>] from {Stack#at}
      # @param sources [#shot, #plate, #table, #pass, #cover, #name] what layers show:
      #   shot(layer, frame, backdrop) f32 [h, w, 4]; plate(digest, frame, space, whole) f32 [h', w', 4], both
      #   multiplied by alpha, and where it need not be whole perhaps halved;
      #   table(digest) a {Formats::Cube}; pass(name, layer) "heat" and "depth" f32 [h, w, 1], "motion" f32 [h, w, 2],
      #   or nil; cover(layer, spot) what hides a spot there, 0 to 1; name(layer) a name for what shot and pass give
      # @param full [Array(Integer, Integer)] pixels of the picture in its whole size
      # @param cache [#[], #[]=, nil] keeps pictures under names
      # @param under [String, nil] id of a layer that will change again and again: what lies below it is kept too
      # @param apart [Hash, nil] takes up what each layer shows by itself, with its effects, under its id
      def initialize(layers, sources, width, height, full: [width, height], cache: nil, **how)
        @layers, @sources, @width, @height, @full, @cache = layers, sources, width, height, full, cache
        @under, @apart = how.values_at(:under, :apart)
      end

      # @yield [n] before each layer
      # @return [Kernel::Buffer] f32 [h, w, 4], linear red, green, blue and alpha, multiplied by it; with a cache it is
      #   the one that is kept, not to be changed
      def image
        names = names()
        from = @cache ? (0...@layers.size).to_a.reverse.find { |n| @cache[names[n]] } : nil
        return @cache[names[from]] if from && from == @layers.size - 1

        below = from ? @cache[names[from]].copy : Kernel::Buffer.new(:f32, @height, @width, 4)
        ((from ? from + 1 : 0)...@layers.size).each do |n|
          yield n if block_given?
          below = laid(@layers[n], below, n)
          @cache[names[n]] = below.copy if @cache && @under && @layers[n + 1]&.fetch("id") == @under
        end
        @cache[names.last] = below if @cache && names.any?
        below
      end

      private

      # All that the picture depends on up to each layer.
      def names
        @layers.each_with_object([]) do |layer, names|
          names << Digest::SHA256.hexdigest(JSON.generate([names.last, @width, @height, layer, @sources.name(layer)]))
        end
      end

      # @return [Kernel::Buffer] what lies below, with a layer over it
      def laid(layer, below, at)
        own = own(layer)
        return below if own.nil? && layer["what"] != "change"

        work = Work.new(own || below.copy, below, layer, @sources)
        layer["effects"].each { |effect| done(effect, work) }
        @apart[layer["id"]] = work.image if @apart && !work.changes?
        mask = Masks.new(layer["masks"], work.image, asked(layer)).field
        mask = nearer(layer, at, mask) if layer["blend"] == "nearer"
        mask = unhidden(layer, mask) if layer["before"]
        share = layer["opacity"] / 100.0
        if work.changes? && layer["blend"] == "over"
          BlendKernels.mix(work.below, work.image, mask, share)
        else
          BlendKernels.lay(work.below, work.image, mask, BLENDS.fetch(layer["blend"]), share)
        end
        work.below
      end

      def done(effect, work)
        share = effect["strength"] / 100.0
        return if share.zero?

        work.dials = effect
        what = effect["what"]
        mask = Masks.new(effect["masks"], work.image, asked(work.layer)).field
        behind = BELOW.include?(what)
        before = (behind ? work.behind : work.image).copy unless share >= 1.0 && mask.equal?(Masks::EVERYWHERE)
        EFFECTS.fetch(what).public_send(what, work)
        return unless before

        BlendKernels.mix(before, behind ? work.behind : work.image, mask, share)
        behind ? work.behind = before : work.image = before
      end

      # A mask where a layer of the shot is nearer than all of them below it.
      def nearer(layer, at, mask)
        mine = depth(layer) or return mask
        out = Kernel::Buffer.new(:f32, @height, @width)
        MaskKernels.everywhere(out)
        @layers.first(at).each { |other| depth(other)&.then { |depth| MaskKernels.nearer(out, mine, depth) } }
        MaskKernels.join(out, mask, 2, 1.0, false) unless mask.equal?(Masks::EVERYWHERE)
        out
      end

      # A mask where nothing of the shot stands before what a layer goes with.
      def unhidden(layer, mask)
        depth = @sources.before(layer["before"]["prop"]) or return mask
        out = Kernel::Buffer.new(:f32, @height, @width)
        MaskKernels.beyond(out, depth, 0.98 * layer["before"]["far"])
        MaskKernels.join(out, mask, 2, 1.0, false) unless mask.equal?(Masks::EVERYWHERE)
        out
      end

      def depth(layer) = layer["deep"] ? @sources.pass("depth", layer) : nil

      # What masks of a layer ask for.
      Asked = Struct.new(:sources, :layer, :lay) do
        def matte(prop) = sources.matte(prop)

        def texture(row) = sources.texture(row)

        # An empty plate, as the layer's own picture lies.
        def clean(mask) = lay.call(sources.plate(mask["clean"], mask["clean_at"], layer.fetch("space", "told")), layer)
      end
      private_constant :Asked

      def asked(layer) = Asked.new(@sources, layer, method(:placed))

      # What a layer shows, in its place. @return [Kernel::Buffer, nil]
      def own(layer)
        case layer["what"]
        when "shot", "other"
          together(layer) { |frame| placed(@sources.shot(layer, frame, layer["behind"]), layer) }
        when "plate"
          together(layer) do |frame|
            placed(@sources.plate(layer["plate"], frame, layer["space"], whole?(layer)), layer)
          end
        when "colour", "gradient"
          placed(filled(layer), layer)
        when "words"
          Letters.image(layer, @width, @height)&.then { |image| placed(image, layer) }
        end
      end

      # Whether a plate is wanted pixel by pixel, or may come smaller where the frame is small.
      def whole?(layer) =
        layer["fit"] == "pixels" || layer["scale"] > 100.0 ||
          [layer["pinned"], layer["pair"], layer["moved_with"]&.first].any?

      # A moment between two frames.
      def together(layer)
        at = layer["at"]
        first = yield(at[0][0])
        # Effects change what they are given.
        return layer["effects"].empty? ? first : first.copy if at.size == 1

        first = first.copy
        after = yield(at[1][0])
        return Between.new(first, after).at(at[1][1]) if layer["moved"]

        first.tap { BlendKernels.mix(first, after, Masks::EVERYWHERE, at[1][1]) }
      end

      def filled(layer)
        colours =
          %w[colour other].map do |name|
            Kernel::Buffer.of(:f32, layer.fetch(name, layer["colour"]).map { |c| c * layer["bright"] } + [1.0])
          end
        angle = layer.fetch("angle", 0.0) * Math::PI / 180.0
        Kernel::Buffer
          .new(:f32, @height, @width, 4)
          .tap { |out| BlendKernels.fill(out, *colours, Math.cos(angle), Math.sin(angle)) }
      end

      # A picture where its layer puts it.
      def placed(image, layer)
        to, scale = Placed.through(layer, image.dim(1), image.dim(0), [@width, @height], @full)
        return image if to == Placed::SAME && image.shape == [@height, @width, 4]

        # Much smaller ones are made small first, so that nothing shimmers.
        while scale < 0.5 && image.shape.first(2).min > 8
          half = Kernel::Buffer.new(:f32, *image.shape.first(2).map { |n| (n + 1) / 2 }, 4)
          SoftKernels.halve(half, image)
          to = to.first(6).map { |n| n / 2.0 } + to.last(3)
          image, scale = half, scale * 2.0
        end
        Kernel::Buffer
          .new(:f32, @height, @width, 4)
          .tap { |out| WarpKernels.place(out, image, Kernel::Buffer.of(:f32, to)) }
      end
    end
  end
end
