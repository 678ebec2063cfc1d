# frozen_string_literal: true

module Vumbral
  # Small pictures and what layers show of them.
  module FinishHelp
    # What layers show in specs: pictures by their names.
    class Stand
      attr_reader :asked

      def initialize(shots: [], plate: nil, passes: {}, table: nil, cover: 0.0)
        @shots, @plate, @passes, @table, @cover, @asked = shots, plate, passes, table, cover, []
      end

      def shot(layer, frame, backdrop)
        @asked << [layer["id"], frame, backdrop]
        @shots.is_a?(Hash) ? @shots.fetch(layer["id"]) : @shots
      end

      def plate(_digest, frame, *) = @plate.respond_to?(:call) ? @plate.call(frame) : @plate

      def table(_) = @table

      def pass(name, layer) = @passes[name].then { |found| found.is_a?(Hash) ? found[layer["id"]] : found }

      def cover(*) = @cover

      def texture(row) = Maps::Patterns.buffer([row[:texture]], nil)

      # Something a metre away on the left.
      def before(_) = Kernel::Buffer.of(:f32, (0...12).flat_map { (0...16).map { |x| (x < 8) ? 1.0 : 1e9 } }, 12, 16, 1)

      # The left half.
      def matte(_) =
        Kernel::Buffer.of(
          :f32, (0...12).flat_map { (0...16).flat_map { |x| [0.0, 0.0, 0.0, (x < 8) ? 1.0 : 0.0] } }, 12, 16, 4
        )

      def name(layer) = layer["id"]
    end

    # Facts of plates.
    Facts = Struct.new(:frames, :rate) do
      def plate(_) = {"frames" => frames, "rate" => rate}

      def shot(_) = nil
    end

    # @yield [x, y] red, green, blue and alpha of each pixel
    # @return [Kernel::Buffer] f32 [h, w, 4]
    def painted(width, height) =
      Kernel::Buffer.of(:f32, (0...height).flat_map { |y| (0...width).flat_map { |x| yield(x, y) } }, height, width, 4)

    # One colour all over.
    def plain(*colour, width: 16, height: 12) = painted(width, height) { colour }

    def pixel(image, x, y) = (0...image.dim(2)).map { |c| image[y, x, c] }

    def layer(id, order = 0, **dials) =
      {
        "do" => "add", "kind" => "layer", "id" => id, "name" => id,
        "dials" => dials.transform_keys(&:to_s).merge("order" => order)
      }

    def effect(layer, what, order = 0, **dials)
      {
        "do" => "add", "kind" => "effect", "id" => "#{layer}-#{what}", "name" => what,
        "dials" => dials.transform_keys(&:to_s).merge("layer" => layer, "what" => what, "order" => order)
      }
    end

    def mask(to, what, order = 0, **dials)
      {
        "do" => "add", "kind" => "mask", "name" => what,
        "dials" => dials.transform_keys(&:to_s).merge("to" => to, "what" => what, "order" => order)
      }
    end

    def finished(edits) = Shot::Edits.apply(Shot::Document.blank("Finish"), edits)[0]

    def stack(edits, frame = 1, plates: nil) = Finish::Stack.new(finished(edits), plates).at(frame)

    # A finished picture of layers and what they show.
    def composite(edits, stand, width: 16, height: 12, frame: 1, plates: nil) =
      Finish::Composite.new(stack(edits, frame, plates: plates), stand, width, height).image
  end
end

RSpec::Matchers.define(:all_be_near) do |wanted, by|
  match { |got| got.size == wanted.size && got.zip(wanted).all? { |a, b| (a - b).abs <= by } }
  failure_message { |got| "wanted #{wanted.map { |n| n.round(6) }} within #{by}, got #{got.map { |n| n.round(6) }}" }
end
