# frozen_string_literal: true

# What a step of a gas that fills its box costs, stage by stage: cells a second, and as a ratio to
# a plain copy of the same bytes in the same run.   ruby bench/gas.rb [edge ...]
require_relative "support"

module Vumbral
  module Bench
    # One full box.
    class GasBench
      def initialize(edge)
        @edge = edge
        @size = [edge] * 3
        @solver = Gas::Solver.new(size: @size, voxel: 0.02, open: Gas::Plan::SIDES.to_h { |side| [side, side != :y0] })
        @state = Gas::State.still(@size)
        noise(@state.smoke, 0.2, 1.0)
        noise(@state.heat, 10.0, 200.0)
        [@state.u, @state.v, @state.w].each { |faces| noise(faces, -1.0, 1.0) }
        cover = Kernel::Buffer.new(:f32, *@size)
        noise(cover, 0.0, 1.0)
        @feeds = [Gas::Feed.new(cover: cover, smoke: 0.1, fuel: 0.1, heat: 150.0, strength: 1.0, breakup: 0.5,
          breakup_cells: 8.0, breakup_speed: 2.0, seed: 1)]
      end

      def call
        puts "#{@edge}³, #{Kernel.threads} threads"
        copy = Bench.median(15) { Grid::PoissonKernels.copy(spare, @state.smoke) }
        stages.each { |name, fields, work| row(name, Bench.median(9, &work), copy * fields) }
        [
          ["whole step", {}], ["whole step, boosted", {curl_boost: 0.5}],
          ["whole step, boosted, stirred", {curl_boost: 0.5, stir: 1.0}], ["whole step, soft", {sharp: false}]
        ].each do |name, changes|
          seconds =
            Bench.median(7) do
              @state, = @solver.step(@state, seconds: 1 / 24.0, gas: gas(0.0).with(**changes), feeds: @feeds)
            end
          row(name, seconds, copy * 8)
        end
        fire(copy)
        puts format("  memory %d bytes a cell (forecast: %d)", memory / @edge**3, Gas::Plan::BYTES_PER_CELL)
      end

      private

      # Everything that a fire needs, filling the box, and with content in a tenth of it.
      def fire(copy)
        settings = gas(1.5).with(ignite: 400.0, burn_rate: 1.0, burn_heat: 800.0, burn_smoke: 0.5, burn_swell: 1.0,
          cooling: 500.0)
        state = Gas::State.still(@size, fuel: true)
        %i[smoke heat u v w].each { |name| state[name].replace(@state[name]) }
        noise(state.fuel, 0.0, 1.0)
        full = Bench.median(7) { @solver.step(state, seconds: 1 / 24.0, gas: settings, feeds: @feeds) }
        row("whole fire step", full, copy * 9)
        edge = (@edge * 0.1**(1 / 3.0) / 8).ceil * 8
        small = Gas::Solver.new(size: [edge] * 3, voxel: 0.02, open: Gas::Plan::SIDES.to_h { |side| [side, true] })
        part = state.moved_to([0, 0, 0], [edge] * 3)
        inside = Kernel::Buffer.new(:f32, edge, edge, edge)
        Flow::CropKernels.paste(inside, @feeds[0].cover, 0, 0, 0)
        feeds = [@feeds[0].dup.tap { |feed| feed.cover = inside }]
        cropped = Bench.median(7) { small.step(part, seconds: 1 / 24.0, gas: settings, feeds: feeds) }
        puts format("  with content in a tenth of the chamber (%d³ computed): %.2f of the whole fire step", edge,
          cropped / full)
      end

      def gas(stir)
        Gas::Settings.calm(
          lift: 1.0, weight: 0.2, curl_boost: 0.0, stir: stir, stir_cells: 16.0, stir_speed: 1.0, seed: 1,
          smoke_fade: Math.log(2.0) / 5.0, heat_fade: Math.log(2.0) / 1.0, accuracy: 1e-4, substeps_least: 1,
          substeps_most: 1, cells_a_substep: 4.0, sharp: true
        )
      end

      def stages
        projection = @solver.instance_variable_get(:@projection)
        transport = @solver.instance_variable_get(:@transport)
        [["feeding, break-up", 2, -> { @solver.instance_variable_get(:@feeding).feed(@state, @feeds[0], 0.04) }],
          ["forces", 8, -> { @solver.send(:accelerate, @state, 0.04, around) }],
          ["curl boost", 8, -> { boosted }],
          ["projection", 4, -> { projection.project(@state, 1e-4) }],
          ["finding ways", 3, -> { transport.follow(velocity, 0.04) }],
          ["velocity, sharp", 3, -> { transport.carry_velocity(velocity, spares) }],
          ["velocity, soft", 3, -> { transport.carry_velocity(velocity, spares, sharp: false) }],
          ["smoke and heat, sharp", 2, -> {
            %i[smoke heat].each { |name|
              @state[name], = transport.carry(@state[name])
            }
          }],
          ["smoke and heat, soft", 2, -> {
            %i[smoke heat].each { |name|
              @state[name], = transport.carry(@state[name], sharp: false)
            }
          }],
          ["fading", 2, -> {
            [@state.smoke, @state.heat].each { |f|
              Flow::MatterKernels.fade(f, solid, 0.999, 1e-5)
            }
          }]]
      end

      def around = Gas::Surroundings.plain(gas(0.0))

      def velocity = [@state.u, @state.v, @state.w]

      def spares = @spares ||= velocity.map(&:copy)

      def boosted
        boost = @boost ||= Flow::CurlBoost.new(@size)
        @whole ||= Kernel::Buffer.new(:f32, *@size).fill(1.0)
        boost.before(velocity)
        boost.after(spares, @solver.instance_variable_get(:@transport).ways, @whole, 0.5)
      end

      def row(name, seconds, copy)
        puts format("  %-28s %7.1f ms  %6.1f million cells/s  %5.1f × copy", name, seconds * 1000,
          @edge**3 / seconds / 1e6, seconds / copy)
      end

      def spare = @spare ||= Kernel::Buffer.new(:f32, *@size)

      def solid = @solid ||= Kernel::Buffer.new(:u8, *@size)

      # What the solver and the state hold.
      def memory
        found = {}
        look = lambda do |thing|
          case thing
          when Kernel::Buffer
            found[thing.object_id] = thing.bytesize
          when Array
            thing.each(&look)
          when Hash
            thing.each_value(&look)
          when Gas::State
            thing.fields.each_value(&look)
          when Gas::Solver, Flow::Projection, Gas::Burning, Gas::Radiation, Flow::Turbulence, Flow::Transport,
               Flow::CurlBoost, Grid::BoxPoisson
            thing.instance_variables.each { |name| look.call(thing.instance_variable_get(name)) }
          end
        end
        look.call([@solver, @state])
        found.values.sum
      end

      def noise(field, low, high)
        random = Random.new(field.size)
        field.replace(Kernel::Buffer.of(:f32, Array.new(field.size) { random.rand(low..high) }, *field.shape))
      end
    end
  end
end

edges = ARGV.map(&:to_i)
(edges.empty? ? [64, 128] : edges).each { |edge| Vumbral::Bench::GasBench.new(edge).call }
