# frozen_string_literal: true

module Vumbral
  module Studio
    # Loads every kernel and library once, so that the first job does not wait for them.
    class Warmth
      def call
        LOADER.eager_load_dir(File.join(ROOT, "core"))
        Kernel.build_all
        nothing = Kernel::Buffer.new(:f32, 4, 4, 4)
        Grid::BoxPoisson.new([4, 4, 4], Gas::Plan::SIDES.to_h { |side| [side, true] }).solve(
          nothing, Kernel::Buffer.new(:f32, 4, 4, 4)
        )
        Pixels.png(Kernel::Buffer.new(:u8, 4, 4, 3))
      end
    end
  end
end
