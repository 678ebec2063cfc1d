# frozen_string_literal: true

module Vumbral
  # Carrying what the gas holds: sharp, without new extremes, and nothing made or lost.
  module Truth
    extend Gas

    def self.blob(steps)
      n = 64
      blob = Gas.field(n, n, n) { |k, j, i|
        Math.exp(-[k - 31.5, j - 47.5, i - 31.5].sum { |d|
          (d / n)**2
        } / (2 * 0.05**2))
      }
      way, smoke = Gas.turn(n), blob.copy
      transport = Flow::Transport.new([n, n, n], 1.0 / n, {})
      steps.times do
        transport.follow(way, 1.0 / steps)
        smoke, = transport.carry(smoke)
      end
      before, after = blob.to_a, smoke.to_a
      slope = ->(field) {
        (1...n - 1).flat_map { |j|
          (1...n - 1).map { |i|
            (field[31, j, i + 1] - field[31, j, i - 1]).abs
          }
        }.max
      }
      [
        after.max / before.max, slope.call(smoke) / slope.call(blob), after.sum / before.sum - 1.0,
        before.zip(after).sum { |a, b| (a - b).abs } / before.sum
      ]
    end

    {4 => [25, 0.96, "100 %, 139 %, +79 %, 0.90"],
     2 => [50, 0.95, "90 %, 91 %, +10 %, 0.22"]}.each do |cells, (steps, least, was)|
      Table.line("blob in one solid turn at 64, #{cells} cells a substep: peak, gradient, mass, L1 error", was: was,
        wanted: "at least #{(100 * least).round} %, 95 to 103 %, ±0.2 %, at most 0.025") do
        peak, slope, mass, off = blob(steps)
        [format("%.1f %%, %.1f %%, %+.3f %%, %.4f", 100 * peak, 100 * slope, 100 * mass, off),
          peak >= least && slope.between?(0.95, 1.03) && mass.abs <= 0.002 && off <= 0.025]
      end
    end

    def self.closed_box(frames, **settings)
      n = 40
      state = Vumbral::Gas::State.still([n, n, n])
      state.smoke.replace(Gas.ball(n, [20, 8, 20], 6))
      state.heat.replace(Gas.ball(n, [20, 8, 20], 6, 300.0))
      before = [Gas.total(state.smoke), Gas.total(state.heat)]
      solver = Gas.solver(n, 0.05, false)
      frames.times do
        state, =
          solver.step(
            state, seconds: 1 / 24.0,
            gas: Vumbral::Gas::Settings.calm(lift: 1.0, weight: 0.2, substeps_most: 4, **settings), feeds: []
          )
      end
      [state.smoke, state.heat].zip(before).map { |field, whole| Gas.total(field) / whole - 1.0 }
    end

    {
      "sharp" => [100, {}, "+73 %"], "with curl boost 2" => [100, {curl_boost: 2.0}, "+98 %"],
      "soft" => [100, {sharp: false}, "−17 %"], "stirred, 48 frames" => [48, {stir: 2.0, stir_cells: 10.0}, "+90 %"]
    }.each do |name, (frames, settings, was)|
      Table.line("closed box, #{name}: smoke, heat", was: was, wanted: "±1 % each") do
        off = closed_box(frames, **settings)
        [format("%+.3f %%, %+.3f %%", *off.map { |part| 100 * part }), off.all? { |part| part.abs <= 0.01 }]
      end
    end
  end
end
