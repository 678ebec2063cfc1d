# frozen_string_literal: true

module Vumbral
  module Shot
    module Declarations
      # What the copies of an inflow may differ by.
      POURED = %i[skin point_size along velocity carried rough breakup breakup_size breakup_speed fade].freeze

      Inflow = Kind.new(:inflow, "Inflow", plural: "Inflows", chapter: :sources,
        help: "Pours liquid from a prop into the liquid chamber, or takes it away.") do
        group "What it does" do
          choice :does, "Does", default: "pour", choices: {pour: "pours", fill: "fills once", drain: "drains"},
            help: "Pours as long as it is on; fills its prop once, when it begins: a drop, a block of water; " \
              "drains what comes into it."
          colour :dye, "Colour", default: [0.7, 0.25, 0.12], range: 0.0..1.0, keyed: true, only: {does: %w[pour fill]},
            help: "Of what it pours, where the liquid has colours."
        end
        Giving.place(self)
        Giving.leave(self)
        Giving.strength(self)
        Giving.row(self, POURED)
      end
    end
  end
end
