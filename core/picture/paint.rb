# frozen_string_literal: true

module Vumbral
  module Picture
    # How a volume looks: thickness (per metre of density 1) to the eye and to lamps; how much light goes on
    # (red, green, blue) and how much of it forwards and back (-1 to 1, with the second's share); fire: how
    # bright at 1500 K, from which temperature, colour offset, rise, and the surroundings (kelvin).
    Paint = Kernel::Record.of(thickness: Kernel::Types::F32, shadow: Kernel::Types::F32, red: Kernel::Types::F32,
      green: Kernel::Types::F32, blue: Kernel::Types::F32, forward: Kernel::Types::F32, back: Kernel::Types::F32,
      back_share: Kernel::Types::F32, gain: Kernel::Types::F32, from: Kernel::Types::F32,
      offset: Kernel::Types::F32, rise: Kernel::Types::F32, ambient: Kernel::Types::F32)
  end
end
