# frozen_string_literal: true

module Vumbral
  module Light
    # The sky of clear to hazy air for a height of the sun, as a table that is made once and looked up (after
    # Hillaire 2020; see {AtmosphereKernels}).
    module Atmosphere
      # Rows by height over the horizon, columns by compass way from the sun.
      ROWS, COLUMNS = 24, 16
      GLOW = [8, 24].freeze
      # How much one step of haze takes in a kilometre at the ground: 2 sees some forty kilometres far.
      HAZE = 0.09
      # What the ground far around returns.
      GROUND = 0.2
      # So many skies are kept.
      KEPT = 16

      @kept = {}
      @lock = Mutex.new

      class << self
        # @param haze [Float] 1 is air without any; @param sun [Float] the sine of the sun's height
        # @return [Array<Float>] [ROWS, COLUMNS, 6] flattened, as {SkyKernels} looks it up
        def table(haze, sun)
          key = [haze.round(4), sun.round(5)]
          @lock.synchronize do
            @kept.shift if @kept.size >= KEPT && !@kept.key?(key)
            @kept[key] ||= made(*key)
          end
        end

        # What comes straight from the sun to the ground.
        # @return [Array<Float>] red, green and blue, 0 to 1
        def sunlight(haze, sun) = AtmosphereKernels.through(air(haze), 0.05, sun)

        private

        def air(haze) = Kernel::Buffer.of(:f32, [HAZE * (haze - 1.0), GROUND])

        def made(haze, sun)
          glow = Kernel::Buffer.new(:f32, *GLOW, 3)
          AtmosphereKernels.scatter_again(glow, air(haze))
          Kernel::Buffer.new(:f32, ROWS, COLUMNS, 6).tap { |table|
            AtmosphereKernels.look_up(table, glow, air(haze), sun)
          }.to_a
        end
      end
    end
  end
end
