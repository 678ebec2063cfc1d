# frozen_string_literal: true

module Vumbral
  # Plumes and thermals against what is published (Morton, Taylor & Turner 1956).
  module Truth
    # Sums over layers of the height.
    module PlumeKernels
      extend Kernel::Library

      # For each layer: heat times rise, heat, and heat squared.
      kernel sums: F64[2], heat: F32[3], rise: F32[3]
      def add(sums, heat, rise)
        parallel(heat.dim(1)) do |j|
          heat.dim(0).times do |k|
            heat.dim(2).times do |i|
              warm = heat[k, j, i]
              sums[j, 0] += warm * 0.5 * (rise[k, j, i] + rise[k, j + 1, i])
              sums[j, 1] += warm
              sums[j, 2] += warm * warm
            end
          end
        end
      end
    end

    # A narrow source of slightly warm gas, under much gravity, in a tall open box. It shakes about as fast as the gas
    # rises: one that is still has a smooth neck many widths long, whose speed the plume above takes long to lose.
    class SteadyPlume
      SIZE = [64, 108, 64].freeze
      VOXEL = 0.05
      WARMING, FRAMES, RATE = 200, 400, 24.0

      # By height in cells, in time's mean: flux of heat (K m/s cells), heat (K cells), and the area (cells)
      # that an even plume of as much heat would have. What the gas below gains meanwhile counts as flux,
      # for a plume is never quite steady.
      attr_reader :flux, :heat, :area

      def initialize
        @state = Vumbral::Gas::State.still(SIZE)
        @mean = Kernel::Buffer.new(:f32, *SIZE)
        sums = layers
        run(WARMING) { nil }
        before = heat_now
        run(FRAMES) do
          PlumeKernels.add(sums, @state.heat, @state.v)
          Flow::MatterKernels.add_held(@mean, @state.heat, 1.0 / FRAMES, Float::MAX)
        end
        gained = heat_now.zip(before).map { |last, first| (last - first) * VOXEL * RATE }
        @flux = rows(sums).map(&:first).each_with_index.map { |flux, j| (flux + gained.first(j + 1).sum) / FRAMES }
        PlumeKernels.add(still = layers, @mean, Kernel::Buffer.new(:f32, SIZE[0], SIZE[1] + 1, SIZE[2]))
        @heat = rows(still).map { |row| row[1] }
        @area = rows(still).map { |_, heat, square| heat * heat / [square, 1e-12].max }
      end

      private

      def layers = Kernel::Buffer.new(:f64, SIZE[1], 3)

      def rows(sums) = sums.to_a.each_slice(3).to_a

      def heat_now = rows(layers.tap { |now| PlumeKernels.add(now, @state.heat, @state.v) }).map { |row| row[1] }

      def run(frames)
        gas = Vumbral::Gas::Settings.calm(lift: 10.0, substeps_most: 8, curl_boost: 0.5)
        frames.times do
          shake
          @state, = solver.step(@state, seconds: 1 / RATE, gas: gas, feeds: [feed])
          yield
        end
      end

      def solver
        @solver ||=
          Vumbral::Gas::Solver.new(size: SIZE, voxel: VOXEL, open: Gas::SIDES.to_h { |side| [side, side != :y0] })
      end

      def feed
        middle = 0.5 * (SIZE[0] - 1)
        @feed ||= Gas.feed(Gas.field(*SIZE) { |k, j, i|
          ([k - middle, i - middle].sum { |d| d * d } < 6.5 && j.between?(1, 4)) ? 1.0 : 0.0
        }, smoke: 0.0, heat: 25.0, breakup: 0.8, breakup_speed: 8.0, velocity: shaking)
      end

      def shaking = @shaking ||= Grid::VectorField.still(SIZE)

      # Pushes of a frame, up to 1 m/s any way, where the source is.
      def shake
        @random ||= Random.new(7)
        across = (28..35).to_a
        [shaking.x, shaking.y, shaking.z].each do |part|
          across.product((1..4).to_a, across) { |k, j, i| part[k, j, i] = RATE * @random.rand(-1.0..1.0) }
        end
      end
    end

    # @return slope and value at 0 of the line through points
    def self.line_through(points)
      x, y = points.transpose.map { |list| list.sum / list.size }
      slope = points.sum { |a, b| (a - x) * (b - y) } / points.sum { |a, _| (a - x)**2 }
      [slope, y - slope * x]
    end

    def self.exponent(points) = line_through(points.map { |z, value| [Math.log(z), Math.log(value)] })[0]

    # Heights are counted from where the plume's width would be nothing.
    Table.line(
      "steady plume: flux of heat from bottom to top; speed and reduced gravity by height (exponents)", was: "doubles",
      wanted: "constant within 5 %; −0.33 and −1.67, each ±0.15"
    ) do
      plume = SteadyPlume.new
      heights = (44..92).step(3).to_a
      slope, at = line_through(heights.map { |j| [j.to_f, Math.sqrt(plume.area[j])] })
      from = -at / slope
      flux = heights.map { |j| plume.flux[j] }
      mean = flux.sum / flux.size
      speed = exponent(heights.map { |j| [j - from, plume.flux[j] / plume.heat[j]] })
      light = exponent(heights.map { |j| [j - from, plume.heat[j] / plume.area[j]] })
      [
        format(
          "%.1f to %.1f %% of its mean; %.2f and %.2f (from %.1f cells)", 100 * flux.min / mean, 100 * flux.max / mean,
          speed, light, from
        ),
        flux.max < 1.05 * mean && flux.min > 0.95 * mean && (speed + 1 / 3.0).abs < 0.15 && (light + 5 / 3.0).abs < 0.15
      ]
    end

    Table.line("sphere of light fluid: how it starts, as part of its reduced gravity", was: "not told",
      wanted: "two thirds, ±3 %") do
      # Large enough that the half force on the faces of its skin counts for little.
      n = 96
      state = Vumbral::Gas::State.still([n, n, n])
      ball = Gas.ball(n, [47.5] * 3, 13)
      state.heat.replace(Gas.ball(n, [47.5] * 3, 13, 20.0))
      state, = Gas.solver(n, 0.05, true).step(state, seconds: 0.01, gas: Vumbral::Gas::Settings.calm(lift: 1.0),
        feeds: [])
      inside = ball.to_a.each_with_index.filter_map { |value, m| m if value.positive? }
      rise = state.v.to_a
      # Each cell's mean of its lower and upper face.
      mean = inside.sum { |m|
        at = (m / n / n * (n + 1) + m / n % n) * n + m % n
        0.5 * (rise[at] + rise[at + n])
      } / inside.size / 0.01
      part = mean / (9.81 * 20.0 / 313.0)
      [format("%.3f", part), (part - 2 / 3.0).abs < 0.02]
    end

    Table.line("thermal: growth of its outline's half width with the height of its middle", was: "not told",
      wanted: "0.22 to 0.30") do
      n = 96
      state = Vumbral::Gas::State.still([n, n, n])
      random = Random.new(3)
      rough = Array.new(6) {
        [random.rand(0.2..0.9), random.rand(0.2..0.9), random.rand(0.2..0.9), random.rand(0..6.3)]
      }
      warm = Gas.field(n, n, n) do |k, j, i|
        r = Math.sqrt((k - 47.5)**2 + (j - 14)**2 + (i - 47.5)**2) + 0.5 * rough.sum { |a, b, c, d|
          Math.sin(a * i + b * j + c * k + d)
        }
        (r < 8.0) ? 40.0 : 0.0
      end
      state.heat.replace(warm)
      solver = Gas.solver(n, 0.03, true)
      places = (1..90).filter_map do |frame|
        state, = solver.step(state, seconds: 1 / 24.0, gas: Vumbral::Gas::Settings.calm(lift: 1.0, substeps_most: 4),
          feeds: [])
        [height_of(state.heat, 0.03), half_width(state.heat, 2.0, 0.03)] if frame >= 30 && (frame % 6).zero?
      end
      slope = (places[-1][1] - places[0][1]) / (places[-1][0] - places[0][0])
      [format("%.3f between %.2f and %.2f m", slope, places[0][0], places[-1][0]), slope.between?(0.22, 0.30)]
    end

    # @return height of a field's middle, metres
    def self.height_of(field, voxel) =
      voxel * Gas.layers(field).each_with_index.sum { |part, j| part * j } / Gas.total(field)

    # @return half of how wide a field's outline is, in the mean of two directions, metres
    def self.half_width(field, least, voxel)
      _, ny, nx = field.shape
      places = field.to_a.each_with_index.filter_map { |value, n| n if value > least }
      across = places.map { |n| n % nx }.minmax.reduce { |a, b| b - a }
      deep = places.map { |n| n / nx / ny }.minmax.reduce { |a, b| b - a }
      0.25 * (across + deep + 2) * voxel
    end
  end
end
