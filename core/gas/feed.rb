# frozen_string_literal: true

module Vumbral
  module Gas
    # A source at one moment: cover (f32 [z, y, x], 0 to 1); smoke and fuel a second, or what they
    # are held at with `hold`; heat: kelvin above the surroundings or nil, held unless `warm` (then
    # added each second); push: outward pressure (1/s); colour [r, g, b] or nil; velocity: a
    # {Grid::VectorField} (m/s) or nil, drawn to with `hold`, added each second otherwise; strength multiplies
    # all; break-up noise: amount, cells a feature, octaves, features a second.
    Feed = Struct.new(:cover, :smoke, :fuel, :heat, :warm, :push, :colour, :velocity, :velocity_hold, :hold,
      :strength, :breakup, :breakup_cells, :breakup_octaves, :breakup_speed, :seed, keyword_init: true)
  end
end
