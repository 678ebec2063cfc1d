# frozen_string_literal: true

module Vumbral
  module Gas
    # What the substeps of a frame found out, added up. Amounts are density times cubic metres; speed is that which
    # the last of them left, m/s.
    Tally = Struct.new(:substeps, :iterations, :residual, :burnt, :left, :limited, :swell_limited, :full, :speed) do
      # @param speed [Float, nil] of the gas as the frame finds it
      def self.nothing(speed = nil) = new(0, 0, 0.0, 0.0, 0.0, false, false, false, speed)
    end

    # What one frame's step came to. `limited`: more substeps were wanted than are allowed;
    # `swell_limited`: expansion was held back, for it would have blown the step up; `full`: the chamber
    # could not grow as far as its content.
    Report = Struct.new(:substeps, :speed, :residual, :iterations, :smoke, :heat, :fuel, :peak_heat, :burnt, :left,
      :limited, :swell_limited, :full, keyword_init: true) do
      # @param state [State] as the frame leaves it; @param tally [Tally]; @param voxel [Float] metres
      def self.of(state, tally, voxel)
        total = ->(field) { field ? Flow::MatterKernels.total(field) * voxel**3 : 0.0 }
        new(
          smoke: total.call(state.smoke), heat: total.call(state.heat), fuel: total.call(state.fuel),
          peak_heat: Flow::MatterKernels.highest(state.heat), **tally.to_h
        )
      end

      # @param reports [Array<Report>] of chambers apart. @return [Report] of all together
      def self.joined(reports)
        return reports[0] if reports.size == 1

        most = ->(name) do
          reports.map(&name).then { |numbers| numbers.find { |n| n.is_a?(Float) && n.nan? } || numbers.max }
        end
        sum = ->(name) { reports.sum(&name) }
        new(**%i[substeps speed residual peak_heat].to_h { |name| [name, most.call(name)] },
          **%i[iterations smoke heat fuel burnt left].to_h { |name| [name, sum.call(name)] },
          **%i[limited swell_limited full].to_h { |name| [name, reports.any?(&name)] })
      end

      # @return [String, nil] the first quantity that is no longer a number
      def broken
        {"velocity" => speed, "smoke" => smoke, "temperature" => heat, "fuel" => fuel}.find { |_, number|
          !number.finite?
        }&.first
      end
    end
  end
end
