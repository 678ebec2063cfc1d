# frozen_string_literal: true

module Vumbral
  module Gas
    # Everything a gas is at one moment; enough to go on from exactly.
    #
    # Arrays are f32 `[z, y, x]`: `smoke` and `fuel` (density), `heat` (kelvin above the
    # surroundings), `thinned` (which share of a gas with fuel has gone from its volume by swelling, 0 to
    # 1), `spent` (how much of its air is used up, 0 to 1, in a gas that burns by it), `red green blue`
    # (smoke times its colour), `aged` (smoke times how long ago it came, s), `burning` (density of fuel that burns a
    # second) and `pressure` at centres, `u v w` (m/s) on faces, so one longer along their own axis. Fuel, colour, age
    # and what burns are nil in a gas that does not tell them. The arrays cover a part of the chamber that begins at
    # cell `origin` (z, y, x).
    State = Struct.new(:smoke, :heat, :fuel, :thinned, :spent, :red, :green, :blue, :u, :v, :w, :pressure, :time,
      :origin, :aged, :burning) do
      # Still, clean gas. @param size [Array<Integer>] cells along z, y, x
      # @param tells [Array<Symbol>] :aged and :burning, where it shall tell them
      def self.still(size, origin: [0, 0, 0], fuel: false, colour: false, air: false, tells: [])
        nz, ny, nx = size
        centre = -> { Kernel::Buffer.new(:f32, nz, ny, nx) }
        colours = Array.new(3) { colour ? centre.call : nil }
        new(
          centre.call, centre.call, fuel ? centre.call : nil, fuel ? centre.call : nil, air ? centre.call : nil,
          *colours, Kernel::Buffer.new(:f32, nz, ny, nx + 1), Kernel::Buffer.new(:f32, nz, ny + 1, nx),
          Kernel::Buffer.new(:f32, nz + 1, ny, nx), centre.call, 0.0, origin,
          *%i[aged burning].map { |name| tells.include?(name) ? centre.call : nil }
        )
      end

      # @return [Hash{Symbol => Kernel::Buffer}]
      def fields = to_h.except(:time, :origin).compact

      # @return [Array<Symbol>] what is carried at centres
      def scalars = %i[smoke heat fuel thinned spent red green blue aged].select { |name| self[name] }

      def size = smoke.shape

      # @return [Array<Symbol>] what it tells besides
      def tells = %i[aged burning].select { |name| self[name] }

      # @return [Flow::Faces] the velocity
      def faces = Flow::Faces.new(u, v, w)

      # @return [Float] the largest part of the velocity along any axis, m/s; not a number where
      #   any of it is none
      def speed = Flow::FlowKernels.fastest(faces)

      def copy
        twin = dup
        fields.each { |name, field| twin[name] = field.copy }
        twin
      end

      # The same gas on another part of the chamber: what lies outside is let go, what is new is
      # still and clean.
      # @param origin [Array<Integer>] first cell; @param size [Array<Integer>]
      def moved_to(origin, size)
        return self if origin == self.origin && size == self.size

        there = State.still(size, origin: origin, fuel: !fuel.nil?, colour: !red.nil?, air: !spent.nil?, tells: tells)
        there.time = time
        shift = origin.zip(self.origin).map { |a, b| a - b }
        fields.each { |name, field| Flow::CropKernels.paste(there[name], field, *shift) }
        there
      end
    end

    # What belongs to the mass of the gas, and is not thinned as it swells.
    State::BY_MASS = %i[heat thinned spent].freeze
  end
end
