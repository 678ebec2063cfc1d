# frozen_string_literal: true

module Vumbral
  module Gas
    # Everything a gas is at one moment; enough to go on from exactly.
    # Arrays are f32 `[z, y, x]`: `smoke` (density), `heat` (kelvin above the surroundings) and
    # `pressure` at centres, `u v w` (m/s) on faces, so one longer along their own axis.
    State = Struct.new(:smoke, :heat, :u, :v, :w, :pressure, :time) do
      # Still, clean gas. @param size [Array<Integer>] cells along z, y, x
      def self.still(size)
        nz, ny, nx = size
        centre = -> { Kernel::Buffer.new(:f32, nz, ny, nx) }
        new(centre.call, centre.call, Kernel::Buffer.new(:f32, nz, ny, nx + 1), Kernel::Buffer.new(:f32, nz, ny + 1, nx),
          Kernel::Buffer.new(:f32, nz + 1, ny, nx), centre.call, 0.0)
      end

      def fields = {smoke: smoke, heat: heat, u: u, v: v, w: w, pressure: pressure}

      def size = smoke.shape

      # @return [Float] the largest part of the velocity along any axis, m/s; not a number where
      #   any of it is none
      def speed
        peaks = [u, v, w].map { |faces| FlowKernels.peak(faces) }
        peaks.find(&:nan?) || peaks.max
      end

      def copy = self.class.new(*fields.values.map(&:copy), time)
    end
  end
end
