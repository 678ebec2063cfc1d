# frozen_string_literal: true

module Vumbral
  module Picture
    # How a volume looks: thickness (per metre of density 1) to the eye and to lamps; how much light goes on
    # (red, green, blue) and how much of it forwards and back (-1 to 1, with the second's share), how much thinner
    # it is for light that was scattered, and the mean cosine of its way; of such light
    # so much goes on (red, green, blue); fire: from
    # where on the table says how it glows, and how many of its entries make a unit; how many cells further a speed
    # of 1 m/s has carried the gas since its own moment, and how far apart pixels' moments are.
    Paint = Kernel::Record.of(thickness: Kernel::Types::F32, shadow: Kernel::Types::F32, red: Kernel::Types::F32,
      green: Kernel::Types::F32, blue: Kernel::Types::F32, forward: Kernel::Types::F32, back: Kernel::Types::F32,
      back_share: Kernel::Types::F32, thinner: Kernel::Types::F32, ahead: Kernel::Types::F32,
      soft_red: Kernel::Types::F32, soft_green: Kernel::Types::F32, soft_blue: Kernel::Types::F32,
      low: Kernel::Types::F32, per: Kernel::Types::F32,
      moment: Kernel::Types::F32, spread: Kernel::Types::F32)
  end
end
