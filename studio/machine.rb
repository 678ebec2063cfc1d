# frozen_string_literal: true

module Vumbral
  module Studio
    # What this computer has.
    class Machine
      # Kept free for everything else.
      SHARE = 0.8

      # @return [Integer] bytes of memory in all
      def memory
        @memory ||= File.exist?("/proc/meminfo") ? File.read("/proc/meminfo")[/MemTotal:\s+(\d+)/,
          1].to_i * 1024 : 8 * 1024**3
      end

      # @raise [Refused] for a plan that would not fit
      def check(plan)
        room = (memory * SHARE).to_i
        return if plan.memory <= room

        nz, ny, nx = plan.size
        least = plan.voxel * Math.cbrt(plan.memory.to_f / room)
        chamber = plan.document.the(:chamber)
        least /= chamber[:draft] if plan.quality == :draft
        raise Refused.new("The chamber would have #{nx} × #{ny} × #{nz} voxels and need #{giga(plan.memory)}, but there are #{giga(room)}; make it smaller, or the voxel size at least #{format("%.3g", least * 1.01)} m.", code: "too_large")
      end

      private

      def giga(bytes) = format("%.1f GB", bytes / 1e9)
    end
  end
end
