# frozen_string_literal: true

require "digest"
require "json"

module Vumbral
  module Studio
    # Small pictures of textures, made at once, and of what the steps of sculpts come to.
    class Swatches
      SIZE = [132, 66].freeze
      # Of a step.
      SKETCH = [96, 72].freeze
      # Features across.
      WIDE = 4.0

      def initialize(workshop)
        @workshop = workshop
      end

      # @param frame [Integer, nil] the shot's first otherwise
      # @return [String] a PNG, brightness by the texture's value from 0 to 1
      # @raise [Refused] for what is no texture
      def texture(document, id, frame = nil)
        node = document.node(id)
        raise Refused.new("#{node.name} is no texture.", code: "bad_kind") unless node.kind.name == :texture

        frame ||= document.first_frame
        width, height = SIZE
        row = Maps::Patterns.buffer([Geometry::Textures.row(document, node, frame)], @workshop.assets)
        values = Kernel::Buffer.new(:f32, height, width)
        across = WIDE * node[:size, frame]
        down = across * height / width
        # An upright sheet before where it begins.
        x, y, z = node[:offset, frame]
        Geometry::TextureKernels.look(
          values, row, 0,
          Kernel::Buffer.of(:f32, [x - 0.5 * across, y + 0.5 * down, z, across, 0.0, 0.0, 0.0, -down, 0.0])
        )
        shades = values.to_a.map { |value| (255.0 * Geometry::Colours.encoded(value.clamp(0.0, 1.0))).round }
        Pixels.png(Kernel::Buffer.of(:u8, shades, height, width, 1))
      end

      # @param id [String] of a step, or of a sculpt for what it begins with
      # @return [String, Hash] where the picture stands; or what a worker has to make it of
      # @raise [Refused] for what is neither
      def step(document, id, frame)
        recipe = recipe(document, id, frame)
        path = sketch_path(Digest::SHA256.hexdigest(JSON.generate([Sculpts::VERSION, recipe]))[0, 24])
        File.exist?(path) ? path : {recipe: recipe, path: path}
      end

      # What a worker has to count how often values come up before a step, from what counts as least to what counts as
      # most.
      # @return [Hash]
      # @raise [Refused] for what is no step of a sculpt
      def values(document, id, frame)
        node = document.node(id)
        raise Refused.new("#{node.name} is no step of a sculpt.", code: "bad_kind") unless node.kind.name == :step

        low, high = %i[low high].map { |dial| node[dial, frame] }.sort
        {recipe: recipe(document, id, frame), ends: [low, [high, low + 1e-6].max]}
      end

      # @param recipe [Hash] as {#values} @return [Hash] as {Light::Histogram.of}, the ends as 0 and 1
      def tally(recipe, ends)
        {
          low: 0.0, high: 1.0, unit: "",
          counts: Sculpt::Carving.new(recipe, @workshop.assets).entering.tally(*ends, Light::Histogram::BINS)
        }
      end

      # @param recipe [Hash]; @param path [String] where the picture goes
      def sketch(recipe, path)
        field = Sculpt::Carving.new(recipe, @workshop.assets).shown
        @workshop.home.write(path, Pixels.png(Sculpt::Sketch.of(field, *SKETCH)))
      end

      private

      def recipe(document, id, frame)
        node = document.node(id)
        sculpt = (node.kind.name == :step) ? document.nodes[node[:sculpt]] : node
        raise Refused.new("#{node.name} is no step of a sculpt.", code: "bad_kind") unless sculpt&.kind&.name == :sculpt

        recipe = Geometry::Recipes.one(document, sculpt, frame, upto: (node if node != sculpt)&.id)
        recipe = Geometry::Recipes.at(recipe, draft: true)
        recipe = recipe&.merge("steps" => []) if node == sculpt
        @workshop.sculpts.resolved(recipe) ||
          raise(Refused.new("#{sculpt.name} begins with nothing yet.", code: "no_sculpt"))
      end

      def sketch_path(name) = @workshop.home.within("sketches", name[0, 2], "#{name}.png")
    end
  end
end
