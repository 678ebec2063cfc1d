# frozen_string_literal: true

module Vumbral
  module Liquid
    # Keeps particles to a band below the surface: what lies deeper the grid carries alone, full to the brim (after
    # Ferstl, Ando, Wojtan, Westermann & Thuerey 2016). Particles that come into deep cells are let go; out of these as
    # many come up as the grid's speed carries across, so that nothing is made or lost but by chance.
    class Band
      # Cells further in that are carried with the deep ones, to take back what that blurs.
      BESIDE = 2
      # A surface is made of particles as deep as this.
      LEAST = 4
      # Nothing deep goes further in a step.
      MOST_CELLS = 8

      # @param size [Array<Integer>] cells along z, y, x; @param voxel [Float] metres
      # @param sides [Kernel::Buffer] of x0 x1 y0 y1 z0 z1, 1 for open ones
      # @param cells [Integer] so far below the surface there are particles, {LEAST} or more
      def initialize(size, voxel, sides, cells)
        @voxel, @sides, @cells = voxel, sides, [cells, LEAST].max
        @near, @nearly, @deeper, @given, @spare, @none = Array.new(6) { Kernel::Buffer.new(:u8, *size) }
        @rooms, @about, @spread = Array.new(3) { Kernel::Buffer.new(:f32, *size) }
        @listed = Kernel::Buffer.new(:i32, size.reduce(:*))
        @carried, @sharp = Array.new(2) { Flow::Faces.still(size) }
      end

      # What is deep in still liquid of a shape, before there are particles.
      # @param far [Kernel::Buffer] f32 [z, y, x], of cells' centres, negative inside; lies outside in deep cells then
      def begin(state, far, room)
        BandKernels.shape(@given, far, room)
        state.deep.replace(within(@given))
        BandKernels.leave_out(far, state.deep)
      end

      # Which cells are deep from here on: particles in these go, and those that are deep no longer get theirs.
      # @param state [State]; @param others [Drops] particles that belong to it as well
      # @param first [Kernel::Buffer] where each cell's begin, of all of them
      # @param room [Kernel::Buffer] f32 [z, y, x], which share of each cell lies outside walls; @param far
      #   [Kernel::Buffer] of {Walls}
      # @param wanted [Kernel::Buffer, nil] u8 [z, y, x], 1 in cells that shall have particles
      # @return [Array(Integer, Drops)] how many particles went, and those that came
      def renew(state, others, first, room, far, wanted)
        BandKernels.wet(@given, state.deep, first, room)
        within(@given)
        BandKernels.choose(state.deep, @given, @deeper, @nearly, wanted || @none)
        BandKernels.rooms(@rooms, state.deep, room)
        Walls.about(@about, @spread, @rooms)
        gone = [state.drops, others].sum { |drops| BandKernels.swallow(drops, state.deep).to_i }
        [gone, well(state, BandKernels.list(@listed, @given, @none, room), far, [0.0, 0.0])]
      end

      # Adds what deep cells hold to what particles give.
      def give(sums, given, state)
        DeepKernels.give(sums, state.faces, state.deep)
        BandKernels.fill(given, @about)
      end

      # After particles have gone on: those in deep cells go, others come up out of them, and the speed of these cells
      # is carried along.
      # @param dt [Float] seconds; @param swirl [Float] how much of the change of speed over space particles carry
      # @return [Array(Integer, Drops)] as {#renew}
      def carry(state, room, far, dt, swirl)
        step = dt / @voxel
        gone = BandKernels.swallow(state.drops, state.deep).to_i
        reach = DeepKernels.fastest(state.faces, state.deep) * step
        inner(@given, state.deep, (reach.finite? ? reach.ceil : 0).clamp(0, MOST_CELLS) + 1)
        came = well(state, BandKernels.list(@listed, state.deep, @given, room), far, [step, swirl])
        DeepKernels.carry(@carried, state.faces, @near, step)
        DeepKernels.sharpen(@sharp, @carried, state.faces, state.deep, step)
        state.faces, @sharp = @sharp, state.faces
        [gone, came]
      end

      private

      # Which cells lie deep, where `wet` is 1 at cells of liquid and of walls.
      def within(wet)
        inner(@near, wet, @cells - BESIDE)
        inner(@nearly, @near, BESIDE)
        inner(@deeper, @nearly, 1)
      end

      def inner(out, from, cells)
        return out.replace(from) if cells.zero?

        BandKernels.erode(out, from, 2, cells, @sides)
        BandKernels.erode(@spare, out, 1, cells, @sides)
        BandKernels.erode(out, @spare, 0, cells, @sides)
        out
      end

      # @param pace [Array<Float>] how far a speed of 1 m/s leads (cells), and which share of its change they carry
      def well(state, count, far, pace)
        return Drops.of(0) if count.zero?

        cells = Kernel::Buffer.new(:i32, count)
        cells.pointer[0, cells.bytesize] = @listed.pointer[0, cells.bytesize]
        marks = Kernel::Buffer.new(:i32, count, 2)
        # Another place in their eighths each time.
        seed = (state.made + (state.time * 1e5).round) % 1_000_003
        found = WellKernels.find(marks, cells, state.deep, state.faces, far, pace[0], seed)
        state.numbered(
          Drops
            .of(found)
            .tap do |drops|
              if found.positive?
                WellKernels.put(
                  drops, marks, cells, state.deep, state.faces, Kernel::Buffer.of(:f32, [*pace, 1.0 / @voxel]), seed
                )
              end
            end
        )
      end
    end
  end
end
