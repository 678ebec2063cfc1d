# frozen_string_literal: true

module Vumbral
  module Liquid
    # One liquid in its chamber, by particles and a grid (Zhu & Bridson 2005; Jiang et al. 2015). A step is a pure
    # function of the state and what is around it; the solver itself only holds working memory.
    class Solver
      # Part of what names a stored frame: raise it when the numbers change.
      VERSION = "liquid 6"
      # Cells around the liquid in which its speed is known.
      AROUND = 4
      # Of a cell, in one step, that crowded particles are moved.
      MOST_NUDGE = 0.2
      # Room for so many times the particles there are.
      SPARE = 1.1

      attr_reader :size, :voxel, :full, :matrix

      # @param size [Array<Integer>] cells along z, y, x
      # @param voxel [Float] metres
      # @param open [Hash{Symbol => Boolean}] sides x0 x1 y0 y1 z0 z1
      # @param band [Integer] cells below the surface down to which there are particles; 0 everywhere
      def initialize(size:, voxel:, open: {}, band: 0)
        @size = size
        @voxel = voxel
        @sides = Kernel::Buffer.of(:f32, %i[x0 x1 y0 y1 z0 z1].map { |side| open[side] ? 1.0 : 0.0 })
        @shape = Kernel::Buffer.of(:i32, size)
        @weights, @open, @before, @spare = Array.new(4) { Flow::Faces.still(size) }
        @moved = Flow::Faces.still(size)
        @known, @found = Array.new(2) { Marks.none(size) }
        @given, @full, @room, @about, @b, @crowd = Array.new(6) { Kernel::Buffer.new(:f32, *size) }
        @sums = Sums.none(size)
        @holes = Kernel::Buffer.new(:u8, *size)
        @busy = Kernel::Buffer.new(:u8, size[0] + 1, size[1] + 1)
        @push = Grid::VectorField.still(size)
        @grids = Multigrid.new(size)
        @level = Kernel::Buffer.new(:f32, *size)
        @matrix = @grids.matrix
        @band = Band.new(size, voxel, @sides, band) if band.positive?
        @came, @gone = Drops.of(0), 0
        @first, @second = Array.new(2) { Kernel::Buffer.new(:i32, size.reduce(:*) + 2) }
        @cells = @order = Kernel::Buffer.new(:i32, 0)
        block(Walls.none(size))
      end

      # Walls from here on. @param walls [Walls]; @param moving [Boolean] whether any of them moves
      def block(walls, moving: false)
        @walls = walls
        PressureKernels.uncover(@open, walls.far)
        PressureKernels.close(@open, @sides)
        PressureKernels.room(@room, walls.far)
        Walls.about(@about, @given, @room)
        return @moved.to_a.each { |field| field.fill(0.0) } unless moving

        WallKernels.faces(@moved, walls)
        # The chamber's own sides stand still, whatever goes near them.
        PressureKernels.close(@moved, @sides)
      end

      # How often a frame is divided. @param speed [Float] of the fastest liquid or wall
      # @return [Array(Integer, Boolean)] and whether more was wanted
      def self.substeps(speed, seconds, voxel, liquid)
        # What falls within the frame counts as well.
        cells = (speed + liquid.gravity.abs * seconds) * seconds / voxel
        wanted = cells.finite? ? [(cells / liquid.cells_a_substep).ceil, Tension.substeps(liquid.tension, seconds, voxel)].max : liquid.substeps_least
        count = wanted.clamp(liquid.substeps_least, [liquid.substeps_most, liquid.substeps_least].max)
        [count, wanted > count]
      end

      # Tells anew how deep there are particles, before what pours and kicks acts on them.
      # @param state [State] sorted after it
      # @param wanted [Kernel::Buffer, nil] u8 [z, y, x], 1 in cells that shall have particles
      # @return [Integer] how many particles left the chamber
      def renew(state, wanted = nil)
        return 0 unless @band

        SortKernels.count(@first, @second, cells(state)) unless state.drops.equal?(@sorted)
        gone, came = @band.renew(state, @came, @first, @room, @walls.far, wanted)
        exchange(gone, @came.with(came))
        sort(state)
      end

      # Has particles that are pressed together find room near by. @param state [State] sorted, and so again after it
      # @param swirl [Float] see {Settings}
      # @return [Integer] how many
      def relieve(state, swirl)
        came = Kernel::Buffer.new(:i32, @size.reduce(:*))
        CrowdKernels
          .relieve(state.drops, @first, state.deep, came, @walls.far, state.faces, swirl / @voxel)
          .tap do |moved|
            next if moved.zero?

            @sorted = nil
            sort(state)
          end
      end

      # What of still liquid is deep, before its particles are there. @param far [Kernel::Buffer] see {Band#begin}
      def deepen(state, far) = @band&.begin(state, far, @room)

      # @return [Array(Float, Float)] how many particles the deep cells stand for, and their energy, as
      #   {FullKernels.energy}
      def deep(state, gravity)
        out = Kernel::Buffer.new(:f64, 2)
        DeepKernels.energy(out, state.deep, @room, state.faces, gravity, @voxel) if @band
        out.to_a.reverse
      end

      # One substep.
      # @param state [State] taken over
      # @param liquid [Settings]
      # @yieldparam push [Grid::VectorField] acceleration at cells' centres (m/s²), to be added to; @yieldparam faces
      #   [Flow::Faces]; @yieldparam full [Kernel::Buffer]
      # @return [Hash] :iterations, :residual (of the speed), :left (particles that left)
      def substep(state, dt, liquid, &push)
        left = sort(state)
        return {iterations: 0, residual: 0.0, left: left}.tap { state.time += dt } if state.drops.count.zero? && !@band

        give(state, liquid.tension.positive? ? Tension::REACH : 1)
        # Only what particles keep of their own is told by it.
        keep(state.faces, @before) if liquid.own.positive?
        accelerate(state, dt, liquid, &push)
        thicken(state, dt, liquid)
        iterations, residual = project(state, dt, liquid)
        make_room(state, liquid) if liquid.even.positive?
        outwards(state.faces, AROUND)
        confine(state.faces)
        move(state, dt, liquid)
        @sorted = nil
        exchange(*@band.carry(state, @room, @walls.far, dt, liquid.swirl)) if @band
        state.time += dt
        {iterations: iterations, residual: residual, left: left}
      end

      # Sorts particles by cells and lets go of those outside. @return [Integer] how many those were
      def sort(state)
        drops = state.drops
        return 0 if drops.equal?(@sorted)

        cells = cells(state)
        inside = SortKernels.order(order = @order.head(cells.size), @first, @second, cells)
        SortKernels.take(sorted = shelf(state, inside), drops, @came, order)
        state.drops = @sorted = sorted
        left = cells.size - inside - @gone
        @came, @gone = Drops.of(0), 0
        left
      end

      # Where each cell's particles begin, after {#sort}.
      attr_reader :first

      private

      # Which cell each particle is in, with those that came.
      # @return [Kernel::Buffer] i32
      def cells(state)
        count = state.drops.count
        all = count + @came.count
        @cells, @order = Array.new(2) { Kernel::Buffer.new(:i32, (SPARE * all).ceil) } unless @cells.size.between?(
          all, 3 * all
        )
        SortKernels.cells(@cells, state.drops.at, @shape, 0)
        SortKernels.cells(@cells, @came.at, @shape, count) if @came.count.positive?
        @cells.head(all)
      end

      # Room for so many particles: what those before the last ones stood in is free again.
      def shelf(state, count)
        @whose, @shelves = state, [Drops.of(0), Drops.of(0)] unless state.equal?(@whose)
        @shelves.reverse!
        @shelves[0] = Drops.of((SPARE * count).ceil) unless @shelves[0].count.between?(count, 3 * count)
        @shelves[0].head(count)
      end

      # Particles that go, and others that come as they are sorted next.
      # @param gone [Integer]; @param came [Drops]
      def exchange(gone, came)
        @gone += gone
        @came = came
        @sorted = nil
      end

      # @param around [Integer] cells around the liquid in which its speed shall be known
      def give(state, around)
        faces = state.faces
        TransferKernels.busy(@busy, @first, state.deep, @shape, AROUND + 2)
        [*@sums.to_a, @given].each { |field| field.fill(0.0) }
        2.times { |odd| TransferKernels.give(@sums, @given, state.drops, @first, odd, @voxel) }
        @band&.give(@sums, @given, state)
        faces.to_a.zip(@weights.to_a, @known.to_a, @sums.to_a) { |parts| TransferKernels.settle(*parts) }
        PressureKernels.fullness(@full, @given, @about)
        HoleKernels.find(@holes, @full, @open, @busy)
        HoleKernels.fill(@full, @holes)
        outwards(faces, around)
      end

      def keep(faces, into) = faces.to_a.zip(into.to_a) { |from, to| Grid::PoissonKernels.copy(to, from) }

      # Carries speeds so many cells out of where they are known.
      def outwards(faces, cells)
        faces
          .to_a
          .zip(@known.to_a) { |field, known| cells.times { |pass| TransferKernels.further(field, known, @busy, pass) } }
      end

      def accelerate(state, dt, liquid)
        @push.x.fill(0.0)
        @push.y.fill(-liquid.gravity)
        @push.z.fill(0.0)
        yield @push, state.faces, @full if block_given?
        Flow::FlowKernels.push(*state.faces.to_a, *@push.to_a, dt)
      end

      def thicken(state, dt, liquid)
        return unless liquid.viscosity.positive?

        @viscosity ||= Viscosity.new(@size)
        @viscosity.slow(state.faces, @known, @open, @walls, liquid.viscosity * dt / @voxel**2)
      end

      def project(state, dt, liquid)
        jump = tense(state, dt, liquid)
        PressureKernels.equations(@matrix, @b, state.faces, @open, @moved, @full, jump)
        wanted = liquid.accuracy * [Flow::FlowKernels.fastest(state.faces), 1e-3].max
        iterations, left = @grids.solve(state.pressure, @b, wanted)
        PressureKernels.press(state.faces, @known, state.pressure, @full, @open, @weights, jump, @busy)
        [iterations, left]
      end

      # What the surface presses with; nothing without tension.
      def tense(state, dt, liquid)
        return @level unless liquid.tension.positive?

        @tension ||= Tension.new(@size)
        @tension.pressure(@full, state.faces, liquid.tension, dt, @voxel)
      end

      def confine(faces)
        keep(faces, @spare)
        MoveKernels.constrain(faces, @spare, @known, @open, @walls, @busy)
      end

      def move(state, dt, liquid)
        going = Kernel::Buffer.of(:f32, [liquid.own, liquid.swirl / @voxel, dt / @voxel, -liquid.gravity * dt])
        MoveKernels.carry(state.drops, state.faces, @before, @walls, @sides, going)
      end

      # Where particles crowd they are moved apart, by what one rough solution says (after Kugelstadt et al. 2019).
      def make_room(state, liquid)
        FullKernels.crowd(@crowd, @full, @matrix.own, liquid.even)
        return if Flow::FlowKernels.peak(@crowd) < 0.02

        way = @spare.tap { |faces| faces.to_a.each { |field| field.fill(0.0) } }
        PressureKernels.press(way, @found, @grids.roughly(@crowd), @full, @open, @weights, @level, @busy)
        MoveKernels.nudge(state.drops, way, @crowd, @walls, MOST_NUDGE)
      end
    end
  end
end
