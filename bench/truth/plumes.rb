# frozen_string_literal: true

module Vumbral
  # Plumes and thermals against what is published (Morton, Taylor & Turner 1956).
  module Truth
    # Sums over layers of the height.
    module PlumeKernels
      extend Kernel::Library

      # For each layer: heat times rise, rise squared and rise where it is warm, heat.
      kernel sums: F64[2], heat: F32[3], rise: F32[3]
      def add(sums, heat, rise)
        parallel(heat.dim(1)) do |j|
          heat.dim(0).times do |k|
            heat.dim(2).times do |i|
              warm = heat[k, j, i]
              w = 0.5 * (rise[k, j, i] + rise[k, j + 1, i])
              sums[j, 0] += warm * w
              sums[j, 3] += warm
              if warm > 0.02 && w > 0.0
                sums[j, 1] += w * w
                sums[j, 2] += w
              end
            end
          end
        end
      end
    end

    # A narrow source of slightly warm gas, under much gravity, in a tall open box.
    # @return by height in cells: buoyancy flux, momentum and volume flux, in time's mean; what the gas
    #   below has gained meanwhile counts as flux, for a plume is never quite steady
    def self.steady_plume
      nz, ny, nx = 56, 120, 56
      solver = Vumbral::Gas::Solver.new(size: [nz, ny, nx], voxel: 0.05, open: Gas::SIDES.to_h { |side|
        [side, side != :y0]
      })
      state = Vumbral::Gas::State.still([nz, ny, nx])
      cover = Gas.field(nz, ny, nx) { |k, j, i|
        ([k - 27.5, i - 27.5].sum { |d|
          d * d
        } < 6.5 && j.between?(1, 4)) ? 1.0 : 0.0
      }
      feed = Gas.feed(cover, smoke: 0.0, heat: 25.0, breakup: 0.4)
      sums = Kernel::Buffer.new(:f64, ny, 4)
      content = -> { Kernel::Buffer.new(:f64, ny, 4).tap { |now| PlumeKernels.add(now, state.heat, state.v) }.to_a.each_slice(4).map(&:last) }
      before, frames = nil, 420
      (260 + frames).times do |n|
        before = content.call if n == 260
        state, = solver.step(state, seconds: 1 / 24.0, gas: Vumbral::Gas::Settings.calm(lift: 10.0, substeps_most: 8),
          feeds: [feed])
        PlumeKernels.add(sums, state.heat, state.v) if n >= 260
      end
      gained = 0.0
      sums.to_a.each_slice(4).zip(before, content.call).map do |(flux, momentum, volume, _), first, last|
        gained += (last - first) * 0.05 * 24.0
        [(flux + gained) / frames, momentum / frames, volume / frames]
      end
    end

    def self.exponent(points)
      logs = points.map { |z, value| [Math.log(z), Math.log(value)] }
      x, y = logs.transpose.map { |list| list.sum / list.size }
      logs.sum { |a, b| (a - x) * (b - y) } / logs.sum { |a, _| (a - x)**2 }
    end

    Table.line("steady plume: buoyancy flux from bottom to top; speed and reduced gravity by height (exponents)", was: "doubles",
      wanted: "constant within 5 %; −0.33 and −1.67, each ±0.15") do
      rows = steady_plume
      heights = (44..100).step(3).to_a
      flux = heights.map { |j| rows[j][0] }
      speed = exponent(heights.map { |j| [j - 3.0, rows[j][1] / rows[j][2]] })
      light = exponent(heights.map { |j| [j - 3.0, rows[j][0] / rows[j][2]] })
      mean = flux.sum / flux.size
      [format("%.0f to %.0f %% of its mean; %.2f and %.2f", 100 * flux.min / mean, 100 * flux.max / mean, speed, light),
        flux.max < 1.05 * mean && flux.min > 0.95 * mean && (speed + 1 / 3.0).abs < 0.15 && (light + 5 / 3.0).abs < 0.15]
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
    def self.height_of(field, voxel) = voxel * Gas.layers(field).each_with_index.sum { |part, j| part * j } / Gas.total(field)

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
