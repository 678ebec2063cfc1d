# frozen_string_literal: true

module Vumbral
  module Gas
    # Loops that burn fuel and let hot gas radiate. Fuel, smoke and colours are amounts in a volume
    # and thin as the gas swells; heat is kelvin and belongs to the mass. `growth` keeps how many
    # times its own volume a gas has gained since it was fed, so that a thin gas is told from a poor one.
    module FireKernels
      extend Kernel::Library

      # Burns fuel where it is hotter than the gap (after Feldman, O'Brien & Arikan 2003), by mass:
      # what a unit of fuel gives does not depend on how far its gas has swollen. `fire` holds: gap (K
      # above the surroundings), the most that burns in the step, kelvin and smoke for each unit.
      # `burnt` keeps how much burnt, in the volume it has now.
      kernel burnt: F32[3], smoke: F32[3], heat: F32[3], fuel: F32[3], growth: F32[3], fire: F32[1]
      def burn(burnt, smoke, heat, fuel, growth, fire)
        gap = fire[0]
        most = fire[1]
        gain = fire[2]
        soot = fire[3]
        parallel(burnt.dim(0)) do |k|
          burnt.dim(1).times do |j|
            burnt.dim(2).times do |i|
              volume = 1.0 + growth[k, j, i]
              there = [fuel[k, j, i], 0.0].max
              amount = there * volume < most ? there : most / volume
              amount = heat[k, j, i] > gap ? amount : 0.0
              fuel[k, j, i] = fuel[k, j, i] - amount
              heat[k, j, i] = heat[k, j, i] + gain * amount * volume
              smoke[k, j, i] = smoke[k, j, i] + soot * amount
              burnt[k, j, i] = amount
            end
          end
        end
      end

      # Lets the gas grow: `swell` per second. Volumes gained add up.
      kernel growth: F32[3], swell: F32[3], dt: F32
      def grow(growth, swell, dt)
        parallel(growth.dim(0)) do |k|
          growth.dim(1).times do |j|
            growth.dim(2).times do |i|
              faster = swell[k, j, i]
              if faster != 0.0
                growth[k, j, i] = (1.0 + growth[k, j, i]) * Math.exp(dt * faster) - 1.0
              end
            end
          end
        end
      end

      # Thins matter where the gas swells, so that what expands makes none; `swell` per second.
      kernel field: F32[3], swell: F32[3], dt: F32
      def dilute(field, swell, dt)
        parallel(field.dim(0)) do |k|
          field.dim(1).times do |j|
            field.dim(2).times do |i|
              grown = swell[k, j, i]
              if grown != 0.0
                field[k, j, i] *= Math.exp(-dt * grown)
              end
            end
          end
        end
      end
    end
  end
end
