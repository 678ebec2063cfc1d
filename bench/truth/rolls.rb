# frozen_string_literal: true

module Vumbral
  # Rolls that live on, and get no energy from nowhere.
  module Truth
    # Four steady rolls in a closed box, an exact solution. @return what is left of the energy
    def self.cell_vortex(sharp)
      n = 64
      c = 2 * Math::PI
      state = Vumbral::Gas::State.still([8, n, n])
      state.u.replace(Gas.field(8, n, n + 1) { |_, j, i| Math.sin(c * i / n) * Math.cos(c * (j + 0.5) / n) })
      state.v.replace(Gas.field(8, n + 1, n) { |_, j, i| -Math.cos(c * (i + 0.5) / n) * Math.sin(c * j / n) })
      solver = Vumbral::Gas::Solver.new(size: [8, n, n], voxel: 1.0 / n, open: {})
      before = Gas.energy(state)
      # A turnover is a roll's width at its top speed: half a second.
      steps = (2 * 0.5 * n / 2.7).round
      steps.times do
        state, = solver.step(state, seconds: 1.0 / steps, gas: Vumbral::Gas::Settings.calm(sharp: sharp), feeds: [])
      end
      Gas.energy(state) / before
    end

    {true => ["sharp", 0.98], false => ["soft", 0.85]}.each do |sharp, (name, least)|
      Table.line("steady cell vortex at 64, 2.7 cells a step, #{name}: kinetic energy after two turnovers",
        was: "0.55", wanted: "at least #{least}") do
        left = cell_vortex(sharp)
        [format("%.4f", left), left.between?(least, 1.0)]
      end
    end

    # A plume in an open box whose source goes off after two seconds. @return energy at 3, 4 .. 7 s
    def self.dying(boost)
      n = 48
      state = Vumbral::Gas::State.still([n, n, n])
      solver = Gas.solver(n, 0.05, Gas::SIDES - [:y0])
      feed = Gas.feed(Gas.ball(n, [24, 6, 24], 5), smoke: 2.0, heat: 300.0, breakup: 0.5)
      settings = Vumbral::Gas::Settings.calm(lift: 1.0, weight: 0.2, curl_boost: boost, heat_fade: 0.7,
        substeps_most: 4)
      (1..168).filter_map do |frame|
        state, = solver.step(state, seconds: 1 / 24.0, gas: settings, feeds: (frame <= 48) ? [feed] : [])
        Gas.energy(state) * 0.5 * 0.05**3 if frame >= 72 && (frame % 24).zero?
      end
    end

    {0.0 => "not told", 1.0 => "not told", 2.0 => "0.21 → 0.36", 5.0 => "1.3 → 2.1"}.each do |boost, was|
      Table.line("open box, source off, curl boost #{boost.round}: kinetic energy from 3 s to 7 s", was: was,
        wanted: "falls") do
        found = dying(boost)
        [found.map { |e| format("%.3f", e) }.join(" → "), found.each_cons(2).all? { |a, b| b < a }]
      end
    end

    # Power put in by turbulence where nothing else goes on, whatever the voxels and the step.
    def self.stirred(n, rate)
      state = Vumbral::Gas::State.still([n, n, n])
      solver = Gas.solver(n, 1.6 / n, false)
      (2 * rate).times do
        state, =
          solver.step(
            state,
            seconds: 1.0 / rate,
            gas:
              Vumbral::Gas::Settings.calm(
                stir: 0.5, stir_cells: 0.5 * n / 1.6, stir_speed: 2.0, stir_mask: "everywhere"
              ),
            feeds: []
          )
      end
      0.5 * Gas.energy(state) / n**3
    end

    Table.line(
      "turbulence of 0.5 m²/s³ for 2 s, voxels h, h/2, and 48 steps a second for 24: energy a kilogramme",
      was: "depends on all three", wanted: "within 15 %"
    ) do
      found = [stirred(24, 24), stirred(48, 24), stirred(24, 48)]
      [found.map { |e| format("%.3f", e) }.join(", ") + " m²/s²", found.max / found.min < 1.15]
    end

    # How energy falls with the wave number along lines of the box, in gas that is stirred at half its width.
    def self.spectrum(boost)
      n = 64
      state = Vumbral::Gas::State.still([n, n, n])
      solver = Gas.solver(n, 1.0 / n, false)
      settings = Vumbral::Gas::Settings.calm(stir: 1.0, stir_cells: n / 2.0, stir_octaves: 1, stir_speed: 1.0,
        stir_mask: "everywhere", curl_boost: boost, substeps_most: 4)
      energy = Array.new(n / 2, 0.0)
      120.times do |frame|
        state, = solver.step(state, seconds: 1 / 24.0, gas: settings, feeds: [])
        add_spectrum(energy, state) if frame >= 60 && (frame % 12).zero?
      end
      slope = ->(waves) { exponent(waves.map { |k| [k, energy[k]] }) }
      [slope.call(4..12), slope.call(13..26)]
    end

    # Every eighth line of each part of the velocity across itself, eased to nothing at its ends.
    def self.add_spectrum(energy, state)
      n = state.size[0]
      ease = Array.new(n) { |i| 0.5 - 0.5 * Math.cos(2 * Math::PI * (i + 0.5) / n) }
      lines = (4...n - 4).step(8).to_a.product((4...n - 4).step(8).to_a).flat_map do |a, b|
        [(0...n).map { |i| state.v[a, b, i] }, (0...n).map { |j| state.w[a, j, b] }, (0...n).map { |k|
          state.u[k, a, b]
        }]
      end
      lines.each do |line|
        line = line.zip(ease).map { |x, e| x * e }
        energy.each_index do |k|
          re = line.each_with_index.sum { |x, i| x * Math.cos(2 * Math::PI * k * i / n) }
          im = line.each_with_index.sum { |x, i| x * Math.sin(2 * Math::PI * k * i / n) }
          energy[k] += re * re + im * im
        end
      end
    end

    [0.0, 0.5, 1.0].each do |boost|
      Table.line("spectrum of stirred gas at 64, curl boost #{boost}: exponent from k = 4 to 12, and beyond",
        was: "not told", wanted: "−1.67 ± 0.3, then steeper") do
        low, high = spectrum(boost)
        [format("%.2f, then %.2f", low, high), (low + 5 / 3.0).abs <= 0.3 && high < low]
      end
    end
  end
end
