# frozen_string_literal: true

# How long each effect of the finish takes, and a frame of eight layers: bundle exec ruby bench/finish.rb [WIDTH HEIGHT]
require_relative "../lib/vumbral"

module Vumbral
  WIDTH, HEIGHT = ARGV.empty? ? [1920, 1080] : ARGV.map(&:to_i)

  # A bright ball before a dark room, with heat, depth and motion.
  class Stand
    def initialize
      rows = Array.new(HEIGHT * WIDTH) do |n|
        x, y = n % WIDTH - 0.4 * WIDTH, n / WIDTH - 0.5 * HEIGHT
        (Math.hypot(x, y) < 0.1 * HEIGHT) ? [6.0, 3.0, 0.6, 1.0] : [0.05 + 0.02 * (n % 7), 0.06, 0.08, 1.0]
      end
      @shot = Kernel::Buffer.of(:f32, rows.flatten, HEIGHT, WIDTH, 4)
      @passes = {"heat" => [40.0], "depth" => [7.0], "motion" => [9.0, 4.0]}
        .transform_values { |row| Kernel::Buffer.of(:f32, row * (HEIGHT * WIDTH), HEIGHT, WIDTH, row.size) }
      @table =
        Formats::Cube.read(
          "LUT_3D_SIZE 2\n#{[0, 1].product([0, 1], [0, 1]).map { |b, g, r| "#{r} #{g} #{b}" }.join("\n")}"
        )
    end

    def shot(*) = @shot

    def plate(*) = @shot

    def table(_) = @table

    def pass(name, _) = @passes[name]

    def cover(*) = 0.0

    def name(_) = "stand"
  end

  def self.seconds
    began = Process.clock_gettime(Process::CLOCK_MONOTONIC)
    yield
    Process.clock_gettime(Process::CLOCK_MONOTONIC) - began
  end

  def self.stack(edits)
    document, = Shot::Edits.apply(Shot::Document.blank("Bench"), edits)
    Finish::Stack.new(document, nil).at(3)
  end

  def self.layer(id, order, **dials) =
    {
      "do" => "add", "kind" => "layer", "id" => id, "name" => id,
      "dials" => dials.transform_keys(&:to_s).merge("order" => order)
    }

  def self.effect(layer, what, order = 0, **dials)
    {
      "do" => "add",
      "kind" => "effect",
      "name" => what,
      "dials" =>
        dials
          .transform_keys(&:to_s)
          .merge("layer" => layer, "what" => what, "order" => order, "table" => (what == "table") ? "any" : nil)
          .compact
    }
  end

  stand = Stand.new
  time = ->(edits) {
    layers = stack(edits)
    Finish::Composite.new(layers, stand, WIDTH, HEIGHT).image
    Array.new(3) { seconds { Finish::Composite.new(layers, stand, WIDTH, HEIGHT).image } }.min
  }
  bare = time.call([layer("low", 0), layer("high", 1, what: "change")])
  puts format("%-12s %.3f s", "two layers", bare)
  Shot::Kinds.fetch(:effect).dials[:what].choices.each_key do |what|
    took = time.call([layer("low", 0), layer("high", 1, what: "change"), effect("high", what.to_s)])
    puts format("%-12s %.3f s", what, took - bare)
  end
  eight = [
    layer("plate", 0, what: "shot"), layer("under", 1, blend: "multiply", opacity: 60.0), layer("smoke", 2),
    layer("fire", 3, blend: "screen"), layer("splash", 4, blend: "add", opacity: 20.0),
    layer("haze", 5, what: "gradient", blend: "soft"), layer("specks", 6, what: "colour", opacity: 5.0),
    layer("whole", 7, what: "change"), effect("fire", "shimmer"), effect("whole", "glow", 0),
    effect("whole", "grade", 1), effect("whole", "saturation", 2), effect("whole", "table", 3),
    effect("whole", "grain", 4)
  ]
  puts format("eight layers with glow, shimmer, grade, table and grain: %.3f s", time.call(eight))

  # Under the hand: what lies below the layer whose dial moves is kept, as the studio keeps it.
  kept = Studio::Finishing::Kept.new(1 << 30)
  [["whole", "grade"], ["whole", "glow"], ["fire", "shimmer"]].each do |layer, what|
    times = Array.new(5) do |n|
      moved =
        eight.map do |edit|
          if edit["kind"] == "effect" && edit["name"] == what
            edit.merge("dials" => edit["dials"].merge("strength" => 50.0 + n))
          else
            edit
          end
        end
      layers = stack(moved)
      seconds { Finish::Composite.new(layers, stand, WIDTH, HEIGHT, cache: kept, under: layer).image }
    end
    puts format("with %s of the layer %s dragged: %.3f s", what, layer, times.drop(1).min)
  end
end
