# frozen_string_literal: true

module Vumbral
  module Light
    # How often each value of a quantity is met in a frame, where there is anything at all.
    module Histogram
      BINS = 96
      # Values below these are nothing: smoke, fuel and what burns by density, heat by kelvin above the surroundings,
      # age by seconds.
      NOTHING = {"smoke" => 1e-3, "fuel" => 1e-3, "temperature" => 2.0, "burning" => 1e-2, "age" => 1e-3}.freeze

      module_function

      # @param bricks [Grid::Bricks]; @param name [String] one of {NOTHING}; @param ambient [Float] kelvin
      # @return [Hash] :low and :high in the quantity's own unit, :unit, and :counts of even bins between them
      # @raise [Refused]
      def of(bricks, name, ambient)
        least =
          NOTHING[name] ||
          raise(
            Refused.new(
              "There is no histogram of #{name.inspect[0, 40]}; there are: #{NOTHING.keys.join(", ")}.",
              code: "bad_value"
            )
          )
        field = bricks.field((name == "temperature") ? :heat : name.to_sym)
        high = [Flow::MatterKernels.highest(field), 2.0 * least].max
        layers = Kernel::Buffer.new(:i32, field.shape[0], BINS)
        HistogramKernels.count(layers, field, least, high)
        low = (name == "temperature") ? ambient : 0.0
        {low: low, high: low + high, unit: ViewVolume::SEEN.fetch(name),
         counts: layers.to_a.each_slice(BINS).to_a.transpose.map(&:sum)}
      end
    end
  end
end
