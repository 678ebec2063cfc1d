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

      # What a browser's volumes may have along an axis.
      MOST_ACROSS = 2048

      # @raise [Refused] for a plan that would not fit
      def check(plan)
        if plan.rooms.size > 1 && plan.span.max > MOST_ACROSS
          raise Refused.new("The chambers lie so far apart that #{plan.span.max} voxels would be between their ends; " \
            "#{MOST_ACROSS} is the most. " \
            "Move them together, or make the voxel size at least " \
              "#{format("%.3g", plan.voxel * plan.span.max / MOST_ACROSS / ((plan.quality == :draft) ? plan.document.the(:chamber)[:draft] : 1.0) * 1.01)} m.", code: "too_large")
        end
        room = (memory * SHARE).to_i
        return if plan.memory <= room

        nz, ny, nx = plan.size
        least = plan.voxel * Math.cbrt(plan.memory.to_f / room)
        chamber = plan.document.the(:chamber)
        least /= chamber[:draft] if plan.quality == :draft
        raise Refused.new(
          "The chamber would have #{nx} × #{ny} × #{nz} voxels and need #{giga(plan.memory)}, but there are " \
            "#{giga(room)}; make it smaller, or the voxel size at least #{format("%.3g", least * 1.01)} m.",
          code: "too_large"
        )
      end

      # @param plan [Liquid::Plan, nil]
      # @raise [Refused] for one that would not fit
      def check_liquid(plan)
        room = (memory * SHARE).to_i
        return if plan.nil? || plan.memory <= room

        nz, ny, nx = plan.size
        least = plan.voxel * Math.cbrt(plan.memory.to_f / room) / ((plan.quality == :draft) ? plan.node[:draft] : 1.0)
        raise Refused.new("The liquid would have #{nx} × #{ny} × #{nz} voxels and some #{(plan.drops / 1e6).round(1)} million particles, and need #{giga(plan.memory)}, but there are #{giga(room)}; make its box smaller, " \
          "or its voxel size at least #{format("%.3g", least)} m.", code: "too_large")
      end

      private

      def giga(bytes) = format("%.1f GB", bytes / 1e9)
    end
  end
end
