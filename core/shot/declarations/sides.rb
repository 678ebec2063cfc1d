# frozen_string_literal: true

module Vumbral
  module Shot
    module Declarations
      # The six sides of a box, open or closed.
      module Sides
        LABELS = {x0: "Left (−x)", x1: "Right (+x)", y0: "Floor", y1: "Ceiling", z0: "Back (−z)",
                  z1: "Front (+z)"}.freeze

        # @param kind [Kind] in the making; @param open [Array<Symbol>] sides that are open unless one says otherwise
        def self.declare(kind, open: LABELS.keys - [:y0], help: "Open: gas leaves and air comes in. Closed: a wall.")
          LABELS.each do |side, label|
            kind.instance_exec do
              switch :"open_#{side}", label, default: open.include?(side), help: help
            end
          end
        end
      end
    end
  end
end
