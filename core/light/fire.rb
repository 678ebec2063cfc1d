# frozen_string_literal: true

module Vumbral
  module Light
    # The fire in a volume: what each voxel gives off, and a few lamps that stand for it where it
    # lights what is around.
    class Fire
      EDGE = 6
      MOST_LAMPS = 24

      # @param settings [Hash] "gain", "from", "offset", "rise", "glow", "ambient"
      # @param heat [Kernel::Buffer] f32 [z, y, x], kelvin above the surroundings
      def initialize(settings, heat, voxel, corner)
        @settings = settings
        @heat = heat
        @voxel = voxel
        @corner = corner
      end

      # @return [Boolean] whether anything glows
      def any? = @settings["gain"].positive? && Flow::FlowKernels.peak(@heat) + @settings["ambient"] > @settings["from"]

      # @return [Kernel::Buffer] f32 [3, z, y, x], light given off per metre
      def emission
        @emission ||= Kernel::Buffer.new(:f32, 3, *@heat.shape).tap do |rgb|
          FireKernels.emit(rgb, @heat, BlackBody.table, @settings["ambient"], @settings["gain"], @settings["from"],
            @settings["offset"], @settings["rise"])
        end
      end

      # Lamps in place of the fire: rows as in {VolumeKernels}, with their radius in the last column.
      # @return [Kernel::Buffer] f32 [n, 8]
      def lamps
        @lamps ||= begin
          counts = @heat.shape.map { |n| (n + EDGE - 1) / EDGE }
          blocks = Kernel::Buffer.new(:f32, counts.reduce(:*), 7)
          FireKernels.gather(blocks, emission, EDGE, counts[1], counts[2])
          rows = strongest(blocks.to_a.each_slice(7).select { |row| row[6].positive? })
          Kernel::Buffer.of(:f32, rows.flatten, rows.size, 8)
        end
      end

      private

      # What the weak ones would give is given by the strong ones.
      def strongest(blocks)
        kept = blocks.max_by(MOST_LAMPS) { |row| row[6] }
        return [] if kept.empty?

        share = blocks.sum { |row| row[6] } / kept.sum { |row| row[6] }
        kept.map { |row| lamp(row, share) }
      end

      def lamp(row, share)
        # A voxel of emission e gives e·volume of power over the whole sphere; a lamp's strength is
        # what falls on a surface a metre away, π times the radiance of a white sheet there.
        gain = share * @settings["glow"] * @voxel**3
        place = row[3, 3].each_with_index.map { |c, axis| @corner[axis] + (c + 0.5) * @voxel }
        [1.0, *place, *row[0, 3].map { |c| c * gain }, 0.5 * EDGE * @voxel]
      end
    end
  end
end
