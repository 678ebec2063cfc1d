# frozen_string_literal: true

module Vumbral
  module Flow
    # Carries out the placed forces of a moment on one crop of the chamber.
    class Forces
      include Geometry::Vectors

      KINDS = {"push" => 0, "wind" => 1, "pull" => 2, "swirl" => 3, "drag" => 4}.freeze
      SHAPES = {"everywhere" => 0, "sphere" => 1, "box" => 2, "line" => 3}.freeze

      # @param voxel [Float] metres
      def initialize(size, voxel)
        @voxel = voxel
        @weight = Kernel::Buffer.new(:f32, *size)
      end

      # @param push [Grid::VectorField] acceleration at centres (m/s²), added to
      # @param force [Hash] plain settings: "what", "strength", "position", …
      # @param corner [Array<Float>] the crop's lowest corner, metres
      # @param distance [#call] gives the signed distance to a force's prop, for "cling"
      # @param dt [Float] seconds for which that is told
      # @param turbulence [#call] stirs, given strength, cells, time and weight
      def accelerate(state, push, force, corner, dt, turbulence:, distance: nil)
        weigh(force, corner)
        case force["what"]
        when "turbulence"
          turbulence.call(force, @weight)
        when "cling"
          distance && ForceKernels.cling(push, distance.call(force), @weight, force["strength"], force["reach"])
        when "spray"
          force["drops"] && ForceKernels.along(push, state.faces, @weight, spray(force, corner), force["strength"], dt)
        when "wipe"
          nil
        else
          ForceKernels.push(push, state.faces, @weight, KINDS.fetch(force["what"]), numbers(force), lattice(corner), dt)
        end
      end

      # Takes matter out where a force of the kind "wipe" says so.
      def wipe(state, force, corner, dt)
        weigh(force, corner)
        share = 1.0 - Math.exp(-force["strength"] * dt)
        state.scalars.each { |name| MatterKernels.wipe(state[name], @weight, share) }
      end

      private

      # The spray that flies, on the grid. @return [Kernel::Buffer] f32 [z, y, x, 4]
      def spray(force, corner)
        key = [force["spray"], corner]
        return @sprayed[1] if @sprayed && @sprayed[0] == key

        drops = force["drops"]
        sums = Kernel::Buffer.new(:f32, *@weight.shape, 4)
        ForceKernels.gather(sums, drops.places, drops.speeds, drops.kinds, lattice(corner)) if drops.count.positive?
        @sprayed = [key, sums]
        sums
      end

      def weigh(force, corner)
        to = (force["falloff"] == "line") ? force["line_end"] : force["extent"].map { |length| 0.5 * length }
        place = Kernel::Buffer.of(:f32, force["position"] + to + [force["reach"], force["soft"], 0.0, 0.0])
        ForceKernels.falloff(@weight, SHAPES.fetch(force["falloff"]), place, lattice(corner))
        if force["uneven"].to_f.positive?
          ForceKernels.unevenly(@weight, force["uneven"], force["uneven_size"], lattice(corner))
        end
        ForceKernels.textured(@weight, force["pattern"], lattice(corner)) if force["pattern"]
      end

      def lattice(corner) = Grid::Lattice.new(*corner.map { |c| c + 0.5 * @voxel }, @voxel)

      def numbers(force)
        way = unit(force["direction"])
        strength = force["strength"]
        list = case force["what"]
        when "push" then way.map { |c| c * strength } + [0.0] * 4
        when "wind" then way.map { |c| c * strength } + [0.0, 0.0, 0.0, force["grip"]]
        else force["position"] + way + [strength]
        end
        Kernel::Buffer.of(:f32, list)
      end
    end
  end
end
