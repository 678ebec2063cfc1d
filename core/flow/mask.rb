# frozen_string_literal: true

module Vumbral
  module Flow
    # How far a cell takes part in something, for each unit of what it holds: always, of smoke, of heat
    # (kelvin), of speed (m/s).
    Mask = Kernel::Record.of(everywhere: Kernel::Types::F32, smoke: Kernel::Types::F32, heat: Kernel::Types::F32,
      speed: Kernel::Types::F32)

    # By the words that a shot has for them.
    Mask::NAMED = {"everywhere" => Mask.new(1.0, 0.0, 0.0, 0.0), "content" => Mask.new(0.0, 4.0, 0.05, 0.0),
                   "smoke" => Mask.new(0.0, 2.0, 0.0, 0.0), "heat" => Mask.new(0.0, 0.0, 0.004, 0.0),
                   "speed" => Mask.new(0.0, 0.0, 0.0, 0.5)}.freeze
  end
end
