# frozen_string_literal: true

module Vumbral
  module Gas
    # Carries a gas state along its own velocity for one substep.
    class Transport
      # @param size [Array<Integer>] cells along z, y, x
      # @param voxel [Float] metres
      # @param open [Hash{Symbol => Boolean}] open sides bring in nothing but still air
      # @param solid [Kernel::Buffer, nil] u8; nil where there are no colliders
      def initialize(size, voxel, open, solid = nil)
        nz, ny, nx = size
        @voxel = voxel
        @solid = solid
        @open = %i[x0 x1 y0 y1 z0 z1].map { |side| open[side] ? 1.0 : 0.0 }
        @back = Array.new(3) { Kernel::Buffer.new(:f32, nz + 2, ny + 2, nx + 2) }
        @forth = Array.new(3) { Kernel::Buffer.new(:f32, nz + 2, ny + 2, nx + 2) }
        @spare = {}
      end

      # Colliders from here on. @param solid [Kernel::Buffer, nil]
      attr_writer :solid

      # @param state [State] its fields are exchanged for moved ones
      # @param sharp [Boolean] MacCormack; false is plain semi-Lagrangian, for drafts
      def call(state, dt, sharp: true)
        slide(state) if @solid
        find_ways(state, dt, sharp)
        state.scalars.each { |name| state[name] = moved(within(state[name]), [0, 0, 0], @open, sharp) }
        state.u, state.v, state.w = [[:u, [1, 0, 0]], [:v, [0, 1, 0]], [:w, [0, 0, 1]]].map do |name, axis|
          moved(state[name], axis, [0.0] * 6, sharp)
        end
      end

      private

      def find_ways(state, dt, sharp)
        TransportKernels.trace(*@back, state.u, state.v, state.w, dt / @voxel)
        ColliderKernels.halt(*@back, @solid, -1.0) if @solid
        @back.each { |d| TransportKernels.pad(d) }
        return unless sharp

        TransportKernels.arrive(*@forth, *@back)
        ColliderKernels.halt(*@forth, @solid, 1.0) if @solid
        @forth.each { |d| TransportKernels.pad(d) }
      end

      # The arrays not in use change places with those of the state, so none are made anew.
      def moved(src, axis, open, sharp)
        plain = spare(src.shape, :plain)
        TransportKernels.carry(plain, src, *@back, *axis, *open)
        return exchange(src, :plain) { plain } unless sharp

        better = spare(src.shape, :better)
        TransportKernels.correct(better, src, plain, *@back, *@forth, *axis)
        exchange(src, :better) { better }
      end

      def spare(shape, role) = @spare[[shape, role]] ||= Kernel::Buffer.new(:f32, *shape)

      def exchange(src, role)
        result = yield
        @spare[[src.shape, role]] = src
        result
      end

      def within(field)
        return field unless @solid

        extended = spare(field.shape, :within)
        ColliderKernels.extend(extended, field, @solid)
        exchange(field, :within) { extended }
      end

      def slide(state)
        state.u, state.v, state.w = [[:u, [1, 0, 0]], [:v, [0, 1, 0]], [:w, [0, 0, 1]]].map do |name, axis|
          slid = spare(state[name].shape, :slid)
          ColliderKernels.slide(slid, state[name], @solid, *axis)
          exchange(state[name], :slid) { slid }
        end
      end
    end
  end
end
