# frozen_string_literal: true

module Vumbral
  module Flow
    # Viscosity, exact in time and so stable for any amount: each part of the velocity decays by
    # exp(ν·dt ∇²), by the same diagonalisation as the pressure (Lynch, Rice &
    # Thomas 1964). Walls let the gas slide; across a closed wall nothing flows.
    class Viscosity
      def initialize(size, open)
        @size = size
        @open = open
        @solves = {}
      end

      # @param amount [Float] ν·dt/h², in cells
      def diffuse(state, amount)
        {u: 2, v: 1, w: 0}.each do |name, axis|
          field = state[name]
          (@solves[name] ||= Grid::Diffusion.new(field.shape, axis, @open)).diffuse(field, amount)
        end
      end
    end
  end
end
