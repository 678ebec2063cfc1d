# frozen_string_literal: true

module Vumbral
  module Picture
    # A volume made ready for pictures: as the look shows it, its fire, the light in it, what one marches
    # through, and the fogs around it.
    Prepared = Struct.new(:medium, :fire, :lit, :filled, :haze) do
      # @return [Integer] how much memory it holds
      def bytesize
        held = [medium.smoke, medium.heat, *medium.told.values, lit.depths, lit.open, lit.soft, lit.skylight.up,
          lit.skylight.down, *filled.to_a, *haze.to_a]
        held.grep(Kernel::Buffer).uniq(&:object_id).sum(&:bytesize)
      end
    end
  end
end
