# frozen_string_literal: true

module Vumbral
  module Liquid
    # A liquid in which nothing goes on: gravity m/s² downwards; viscosity m²/s; tension of its surface by its density,
    # m³/s²; own: which share of their speed's gain particles keep to themselves (0 calm, 1 lively); swirl: how much of
    # the change of speed over space they carry; even: how quickly particles that crowd make room.
    STILL = {gravity: 9.81, viscosity: 0.0, tension: 0.0, own: 0.0, swirl: 1.0, even: 0.5, accuracy: 1e-4,
             cells_a_substep: 2.0, substeps_least: 1, substeps_most: 16}.freeze

    # How a liquid behaves, at one moment.
    Settings = Struct.new(*STILL.keys, keyword_init: true) do
      # @return [Settings] with what is given, else as {STILL}
      def self.still(**changes) = new(**STILL, **changes)
    end
    # Of the earth, m/s².
    Settings::GRAVITY = 9.81
  end
end
