# frozen_string_literal: true

module Vumbral
  module Finish
    # What effects make of colours, as a table that others can go on with: what a screen shows goes in and comes out.
    module Baked
      # Places along each edge, as most programs take them.
      EDGE = 33

      module_function

      # @param layer [Hash] from {Stack#at}
      # @return [Array(Array<Hash>, Array<String>)] effects that say of each colour what becomes of it, and what the
      #   others do
      def effects(layer)
        colours, others =
          layer["effects"].partition do |effect|
            Composite::EFFECTS.fetch(effect["what"]) == Colours && effect["what"] != "key" && effect["masks"].empty?
          end
        [colours, others.map { |effect| effect["what"] }]
      end

      # @param layer [Hash] from {Stack#at}
      # @param sources [#table] see {Composite}
      # @return [Formats::Cube] blue outermost
      def cube(layer, sources, title: "", edge: EDGE)
        lattice = Array.new(edge) { |n| n / (edge - 1.0) }
        values = lattice.flat_map { |b| lattice.flat_map { |g| lattice.flat_map { |r| [r, g, b, 1.0] } } }
        image = Kernel::Buffer.of(:f32, values, edge * edge, edge, 4)
        GradeKernels.take(image, Colours::SPACES.fetch("screen"), false)
        work = Work.new(image, image.copy, layer, sources)
        effects(layer)[0].each { |effect| done(effect, work) }
        colours = Kernel::Buffer.new(:f32, edge, edge, edge, 3)
        TableKernels.screened(colours, work.image)
        Formats::Cube.new(colours, title: title)
      end

      def done(effect, work)
        work.dials = effect
        before = work.image.copy
        Colours.public_send(effect["what"], work)
        BlendKernels.mix(before, work.image, Masks::EVERYWHERE, effect["strength"] / 100.0)
        work.image = before
      end
      private_class_method :done
    end
  end
end
