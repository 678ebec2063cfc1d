# frozen_string_literal: true

module Vumbral
  module Light
    # The fire in a volume: what each voxel gives off, and a few lamps that stand for it where it
    # lights what is around.
    class Fire
      EDGE = 4
      MOST_LAMPS = 24
      # Marks lamps that only props shade.
      PROPS_ONLY = 0.4
      # And so many where it lights smoke, which is near.
      MOST_NEAR = 64
      # So near to a lamp, in parts of its block, it is as bright as within an even block.
      INSIDE = 0.36

      # Entries of the table that says how gas glows.
      FINE = 1024
      # Gas hotter than this is no brighter.
      HOTTEST = 6000.0

      # @param look [Shot::Node]; @param ambient [Float] kelvin
      # @return [Hash] plain data
      def self.settings(look, frame, ambient)
        by = look[:fire_by]
        found = {"by" => by, "gain" => look[:fire, frame], "glow" => look[:glow, frame], "ambient" => ambient}
        if by == "heat"
          found.merge("from" => look[:fire_from, frame], "offset" => look[:fire_offset, frame],
            "rise" => look[:fire_rise, frame])
        else
          found.merge(%w[colours strength].to_h { |part| [part, look[:"fire_#{by.delete_suffix("_ramp")}_#{part}"]] })
        end
      end

      # @param settings [Hash] from {.settings}
      # @param field [Kernel::Buffer] f32 [z, y, x] that the fire follows: kelvin above the surroundings, or fuel
      def initialize(settings, field, voxel, corner)
        @settings = settings
        @field = field
        @voxel = voxel
        @corner = corner
      end

      attr_reader :field

      # @return [Boolean] whether anything glows
      def any? = @settings["gain"].positive? && ends[0] < ends[1] && Flow::FlowKernels.peak(@field) > ends[0]

      # What the field says of the glow: light given off per metre, from {#low} of the field on, {#per} entries
      # a unit. @return [Kernel::Buffer] f32 [{FINE}, 3]
      def table = @table ||= (@settings["by"] == "heat") ? black_body : ramps

      # @return [Float] below which nothing glows, in the field's own unit
      def low = ends[0]

      # @return [Float] entries of the table for each unit of the field
      def per = (FINE - 1) / (ends[1] - ends[0])

      # @return [Kernel::Buffer] f32 [3, z, y, x], light given off per metre
      def emission
        @emission ||= Kernel::Buffer.new(:f32, 3, *@field.shape).tap { |rgb|
          FireKernels.emit(rgb, @field, table,
            low, per)
        }
      end

      # Lamps in place of the fire, for what is around: rows as in {VolumeKernels}, with their radius in the last
      # column. @return [Kernel::Buffer] f32 [n, 8]
      def lamps = @lamps ||= rows(MOST_LAMPS)

      # Few lamps for props, wide enough that their light has no spots; smoke does not dim it.
      # @return [Array<Array<Float>>] rows as in {VolumeKernels}
      def for_props(most = MOST_LAMPS)
        ((most == MOST_LAMPS) ? lamps : rows(most)).to_a.each_slice(8).map { |row|
          Lamps.round([1.0 + 2.1 * row[7], *row[1, 6], PROPS_ONLY])
        }
      end

      # The same for the smoke in which it burns.
      def near_lamps = @near_lamps ||= rows(MOST_NEAR)

      private

      # Where the table begins and ends. Ramps begin where they first give light.
      def ends
        @ends ||= if @settings["by"] == "heat"
          [@settings["from"], [HOTTEST, @settings["from"] + 1.0].max].map { |kelvin| kelvin - @settings["ambient"] }
        elsif [colours, strength].any?(&:empty?) then [0.0, 0.0]
        else
          ramp_ends
        end
      end

      def ramp_ends
        low, high = colours.ends.zip(strength.ends).then { |(a, b)| [a.min, b.max] }
        # Light below the first stop goes on to nothing.
        low = 0.0 if strength.at(low)[0].positive?
        high = [high, low + 1e-3].max
        (@settings["by"] == "heat_ramp") ? [low - @settings["ambient"], high - @settings["ambient"]] : [low, high]
      end

      def colours = @colours ||= Shot::Ramp.new(@settings["colours"])

      def strength = @strength ||= Shot::Ramp.new(@settings["strength"])

      def places = Array.new(FINE) { |n| low + n / per }

      def ramps
        shift = (@settings["by"] == "heat_ramp") ? @settings["ambient"] : 0.0
        rows = places.map { |at| colours.at(at + shift).map { |c| c * strength.at(at + shift)[0] * @settings["gain"] } }
        Kernel::Buffer.of(:f32, rows.flatten, FINE, 3)
      end

      # Brightness as a power of the temperature, soft within 200 K of where it begins; a body of 1500 K glows
      # with the gain.
      def black_body
        rows = places.map do |at|
          kelvin = at + @settings["ambient"]
          edge = ((kelvin - @settings["from"]) / 200.0).clamp(0.0, 1.0)
          bright = edge * edge * (3.0 - 2.0 * edge) * ([kelvin, HOTTEST].min / 1500.0)**@settings["rise"]
          bright *= @settings["gain"]
          BlackBody.seen(kelvin + @settings["offset"]).map { |c| c * bright }
        end
        Kernel::Buffer.of(:f32, rows.flatten, FINE, 3)
      end

      def rows(most)
        rows = strongest(blocks, most)
        Kernel::Buffer.of(:f32, rows.flatten, rows.size, 8)
      end

      # The fire in blocks: its light and its middle.
      def blocks
        @blocks ||= begin
          counts = @field.shape.map { |n| (n + EDGE - 1) / EDGE }
          found = Kernel::Buffer.new(:f32, counts.reduce(:*), 7)
          FireKernels.gather(found, emission, EDGE, counts[1], counts[2])
          found.to_a.each_slice(7).select { |row| row[6].positive? }
        end
      end

      # What the weak ones would give is given by the strong ones, and each is as large as what it stands for.
      def strongest(blocks, most)
        kept = blocks.max_by(most) { |row| row[6] }
        return [] if kept.empty?

        share = blocks.sum { |row| row[6] } / kept.sum { |row| row[6] }
        kept.map { |row| lamp(row, share, share**(1.0 / 3.0)) }
      end

      def lamp(row, share, size)
        # A voxel of emission e gives e·volume of power over the whole sphere; a lamp's strength is
        # what falls on a surface a metre away, π times the radiance of a white sheet there.
        gain = share * @settings["glow"] * @voxel**3
        place = row[3, 3].each_with_index.map { |c, axis| @corner[axis] + (c + 0.5) * @voxel }
        [1.0, *place, *row[0, 3].map { |c| c * gain }, INSIDE * EDGE * @voxel * size]
      end
    end
  end
end
