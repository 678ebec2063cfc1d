# frozen_string_literal: true

module Vumbral
  module Gas
    # What acts on the gas during a substep: settings, sources, placed forces (plain data), the lowest corner
    # of what is computed (metres), what gives the signed distance to a force's prop, the books. `swell` is
    # the wanted expansion (1/s), or nil where there is none.
    Surroundings = Struct.new(:gas, :feeds, :forces, :corner, :distance, :tally, :swell, keyword_init: true) do
      # @param gas [Settings]
      def self.plain(gas, feeds = [])
        new(gas: gas, feeds: feeds, forces: [], corner: [0.0, 0.0, 0.0], tally: Tally.nothing)
      end
    end
  end
end
