# frozen_string_literal: true

module Vumbral
  module Gas
    # How finer detail draws the smoke aside: which part the first of two sets of coordinates has, fine
    # cells across one of the run, how far the smallest rolls reach (seconds over metres a cell), and cells
    # across the largest roll.
    Drawing = Kernel::Record.of(part: Kernel::Types::F32, finer: Kernel::Types::F32, reach: Kernel::Types::F32,
      size: Kernel::Types::F32)
  end
end
