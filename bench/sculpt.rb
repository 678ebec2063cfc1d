# frozen_string_literal: true

# How long a sculpt takes: eight steps on 128³ from nothing, its median alone, a prop's distance field, and 64³ for a
# dragged dial. Usage: bundle exec ruby bench/sculpt.rb

require_relative "support"

module Vumbral
  STEPS = [{"what" => "density", "inside" => 0.1}, {"what" => "texture", "texture" => "cells", "sum" => "divide"},
    {"what" => "limit", "low" => 0.2, "high" => 1.5},
    {"what" => "warp", "far" => 0.05}, {"what" => "median", "cells" => 1}, {"what" => "formula", "formula" =>
      "value * (0.6 + noise(4 * x, 4 * y, 4 * z) + 0.5 * noise(9 * x, 9 * y, 9 * z) + 0.3 * noise(20 * x, 20 * y, 20 " \
        "* z))"},
    {"what" => "blur", "radius" => 0.03}, {"what" => "number", "sum" => "multiply", "amount" => 2.0}].freeze

  def self.recipe(cells, steps)
    add = ->(kind, id, dials) { {"do" => "add", "kind" => kind, "id" => id, "name" => id, "dials" => dials} }
    # A ball of 20,480 triangles that fills the lattice.
    edits = [
      add.call("prop", "ball", "shape" => "sphere", "radius" => 0.5, "divisions" => 5),
      add.call("texture", "cells", "what" => "cells", "size" => 0.2),
      add.call("sculpt", "cloud", "prop" => "ball", "voxel" => 1.1 / cells, "room" => 0.05)
    ]
    edits +=
      steps.each_with_index.map do |dials, n|
        add.call("step", "step-#{n}", dials.merge("sculpt" => "cloud", "order" => n))
      end
    Geometry::Recipes.of(Shot::Edits.apply(Shot::Document.blank("Bench"), edits)[0], 1)[0]
  end

  full = recipe(128, STEPS)
  fresh = lambda do |recipe|
    Sculpt::Kept.clear
    Sculpt::Carving.new(recipe, nil).call
  end
  fresh.call(full)
  carving = Sculpt::Carving.new(full, nil)
  puts "#{carving.begun.shape.reverse.join(" × ")} voxels, #{carving.begun.count} of #{carving.begun.index.size} bricks"
  puts format("distance field: %.3f s", Bench.median(3) { Sculpt::Beginning.new(full, nil, carving.band).call })
  STEPS.each_with_index do |step, n|
    before = carving.send(:upto, n)
    puts format("%-8s %.3f s", step["what"], Bench.median(3) { carving.send(:taken, before, full["steps"][n]) })
  end
  field = carving.send(:upto, 4)[:density]
  puts format("median of radius 2: %.3f s", Bench.median(3) { carving.send(:median, field, {"cells" => 2}) })
  puts format(
    "all eight from nothing: %.3f s at 128³, %.3f s at 64³", Bench.median(3) { fresh.call(full) },
    Bench.median(3) { fresh.call(recipe(64, STEPS)) }
  )
  # A ring in a box of 528³ cells, of which it fills some 8 in 100.
  ring = recipe(128, STEPS.first(6)).merge("voxel" => 2.4 / 512, "room" => 0.09)
  ring["bodies"] = [
    [0.95, 0.16, "torus", 0.0], [0.02, 0.0, "sphere", 1.1], [0.02, 0.0, "sphere", -1.1]
  ].map do |radius, tube, shape, up|
    {
      "outline" => {
        "shape" => shape, "radius" => radius, "tube" => tube, "sides" => 160, "around" => 64, "divisions" => 1
      },
      "to" => {
        "position" => [0.0, up, 0.0], "turn" => [0.0] * 3, "scale" => [1.0] * 3
      }
    }
  end
  wide = fresh.call(ring)
  peak = File.read("/proc/self/status")[/VmHWM:\s+(\d+)/, 1].to_i / 1024
  puts "#{wide.shape.reverse.join(" × ")} voxels, #{wide.count} of #{wide.index.size} bricks: #{format("%.1f s", Bench.median(1) { fresh.call(ring) })}, at most #{peak} MB"
  moved = 0.0
  last = ->(cells) { recipe(cells, STEPS[0..-2] + [STEPS.last.merge("amount" => moved += 0.1)]) }
  fresh.call(full)
  # A brush before all steps but the first; what comes after a stroke is done where that reaches.
  touched = 0.0
  stroked = -> do
    {
      "what" => "brush",
      "strokes" => [
        {
          "way" => "add", "radius" => 0.05, "strength" => 1.0, "hard" => 0.5, "frame" => 1,
          "places" => [[0.3, 0.4, 0.1 + (touched += 0.002), 1.0]]
        }
      ]
    }
  end
  brushed = -> { Sculpt::Carving.new(recipe(128, [STEPS[0], stroked.call, *STEPS.drop(1)]), nil).call }
  brushed.call
  puts format("a stroke before seven steps: %.3f s", Bench.median(5, &brushed))
  puts format("the last dial moves: %.3f s at 128³", Bench.median(5) { Sculpt::Carving.new(last.call(128), nil).call })
end
