# frozen_string_literal: true

module Vumbral
  module Gas
    # Loops that burn fuel and let hot gas radiate. Fuel, smoke and colours are amounts in a volume
    # and thin as the gas swells; heat is kelvin and belongs to the mass. `thinned` keeps
    # which share of a gas has gone from a volume since it began to swell, so that a thin gas is told from
    # a poor one; it is a share of volume, so mixing averages it as it does fuel.
    module FireKernels
      extend Kernel::Library

      # Burns fuel where it is hotter than the gap (after Feldman, O'Brien & Arikan 2003), by mass:
      # what a unit of fuel gives does not depend on how far its gas has swollen. `fire` holds: gap (K
      # above the surroundings), the most that burns in the step, kelvin and smoke for each unit, and the
      # volumes of air that a unit needs. Without air (0) all burns at once; with it no more than has air,
      # which is then `spent`, and soot is made the more the richer the mixture. `burnt` keeps how much
      # burnt, in the volume it has now.
      kernel burnt: F32[3], smoke: F32[3], heat: F32[3], fuel: F32[3], thinned: F32[3], spent: F32[3], fire: F32[1]
      def burn(burnt, smoke, heat, fuel, thinned, spent, fire)
        gap = fire[0]
        most = fire[1]
        gain = fire[2]
        soot = fire[3]
        air = fire[4]
        each_cell(burnt) do |k, j, i|
          volume = 1.0 / [1.0 - thinned[k, j, i], 0.01].max
          there = [fuel[k, j, i], 0.0].max
          amount = there * volume < most ? there : most / volume
          amount = heat[k, j, i] > gap ? amount : 0.0
          made = soot
          if air > 0.0
            left = [1.0 - spent[k, j, i], 0.0].max
            amount = amount * volume * air < left ? amount : left / (volume * air)
            spent[k, j, i] += amount * volume * air
            wanted = (there - amount) * volume * air
            made = soot * (0.4 + 1.2 * wanted / (wanted + left + 0.01))
          end
          fuel[k, j, i] = fuel[k, j, i] - amount
          heat[k, j, i] = heat[k, j, i] + gain * amount * volume
          smoke[k, j, i] = smoke[k, j, i] + made * amount
          burnt[k, j, i] = amount
        end
      end

      # Burns soot off where it is hot and has air: `rate` a step, at 1000 K above the gap and beyond.
      kernel soot: F32[3], heat: F32[3], spent: F32[3], gap: F32, rate: F32
      def burn_off(soot, heat, spent, gap, rate)
        each_cell(soot) do |k, j, i|
          hot = (0.001 * (heat[k, j, i] - gap)).clamp(0.0, 1.0)
          if hot > 0.0
            soot[k, j, i] *= Math.exp(-rate * hot * (1.0 - spent[k, j, i]).clamp(0.0, 1.0))
          end
        end
      end

      # Lets what is denser than its neighbours swell, so that it drives what is around it outward: by
      # the sum of differences to the six times `rate` (1/s), held to `most`.
      kernel swell: F32[3], smoke: F32[3], rate: F32, most: F32
      def spread_out(swell, smoke, rate, most)
        parallel(swell.dim(0) - 2) do |n|
          k = n + 1
          (1...(swell.dim(1) - 1)).each do |j|
            (1...(swell.dim(2) - 1)).each do |i|
              beside = smoke[k, j, i - 1] + smoke[k, j, i + 1] + smoke[k, j - 1, i] + smoke[k, j + 1, i] +
                smoke[k - 1, j, i] + smoke[k + 1, j, i]
              swell[k, j, i] += (rate * (6.0 * smoke[k, j, i] - beside)).clamp(0.0, most)
            end
          end
        end
      end

      # Where the gas swells, 0 to 1: wholly at `rate` (1/s).
      kernel weight: F32[3], swell: F32[3], rate: F32
      def front(weight, swell, rate)
        parallel(weight.dim(0)) do |k|
          weight.dim(1).times { |j|
            weight.dim(2).times { |i|
              weight[k, j, i] = (swell[k, j, i] / rate).clamp(0.0, 1.0)
            }
          }
        end
      end

      # Lets the gas grow thinner: `swell` per second.
      kernel thinned: F32[3], swell: F32[3], dt: F32
      def grow(thinned, swell, dt)
        each_cell(thinned) do |k, j, i|
          faster = swell[k, j, i]
          if faster != 0.0
            thinned[k, j, i] = 1.0 - (1.0 - thinned[k, j, i]) * Math.exp(-dt * faster)
          end
        end
      end

      # Thins matter where the gas swells, so that what expands makes none; `swell` per second.
      kernel field: F32[3], swell: F32[3], dt: F32
      def dilute(field, swell, dt)
        each_cell(field) do |k, j, i|
          grown = swell[k, j, i]
          if grown != 0.0
            field[k, j, i] *= Math.exp(-dt * grown)
          end
        end
      end
    end
  end
end
