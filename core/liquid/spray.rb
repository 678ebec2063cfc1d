# frozen_string_literal: true

module Vumbral
  module Liquid
    # Particles of spray, foam and bubbles, which go with a liquid without moving it (Ihmsen et al. 2012). `at` f32 [n,
    # 3] cells from the chamber's corner, `speed` f32 [n, 3] m/s, `life` f32 [n, 2] seconds that each has been there and
    # has left as foam, `kind` i32 [n] 0 in the air, 1 on the liquid, 2 within it; `id` i32 [n].
    Spray = Kernel::Record.of(at: Kernel::Types::F32[2], speed: Kernel::Types::F32[2], life: Kernel::Types::F32[2],
      kind: Kernel::Types::I32[1], id: Kernel::Types::I32[1]) do
      include Joined

      # @param count [Integer] @return [Spray]
      def self.of(count)
        new(Kernel::Buffer.new(:f32, count, 3), Kernel::Buffer.new(:f32, count, 3), Kernel::Buffer.new(:f32, count, 2),
          Kernel::Buffer.new(:i32, count), Kernel::Buffer.new(:i32, count))
      end
    end
  end
end
