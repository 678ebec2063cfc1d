# frozen_string_literal: true

require "json"

module Vumbral
  module Light
    # A frame as the browser's view takes it, eight bits a number. Square roots are stored, which
    # keeps faint smoke smooth.
    #
    # Bytes: length of the head (u32), the head as JSON (cells along x, y, z, voxel and corner in
    # metres, the largest smoke, heat, light and fire, and the lamps that stand for the fire on props), then light's
    # red, green, blue and the smoke (4 for each voxel), then fire's red, green, blue and the heat (4 for each), x
    # fastest.
    module ViewVolume
      # What else can be looked at: the name of a channel, how it is found, its unit.
      SEEN = {"fuel" => "", "speed" => "m/s", "pressure" => "", "divergence" => "1/s", "temperature" => "K",
              "smoke" => "", "velocity" => "m/s", "burning" => "per s", "age" => "s"}.freeze

      module_function

      # @param medium [Medium]
      # @param light [Kernel::Buffer] f32 [3, z, y, x]; @param fire [Fire, nil]
      # @return [String]
      def encode(medium, light, fire)
        smoke = medium.smoke
        heat = medium.heat || Kernel::Buffer.new(:f32, *smoke.shape)
        emission = fire ? fire.emission : Kernel::Buffer.new(:f32, 3, *smoke.shape)
        peaks = Kernel::Buffer.new(:f32, 4)
        ViewKernels.peaks(peaks, smoke, heat, light, emission)
        lit, hot = Array.new(2) { Kernel::Buffer.new(:u8, *smoke.shape, 4) }
        ViewKernels.encode(lit, light, smoke, peaks[2], peaks[0])
        ViewKernels.encode(hot, emission, heat, peaks[3], peaks[1])
        packed(
          {size: smoke.shape.reverse, voxel: medium.voxel, corner: medium.corner, smoke: peaks[0], heat: peaks[1],
           light: peaks[2], fire: fire ? peaks[3] : 0.0, lamps: fire ? fire.for_props(8) : []}, lit.bytes + hot.bytes
        )
      end

      # Fogs as a view takes them: a head as before (cells, voxel, corner, and `head`), then what they send on for each
      # metre to all sides and how thick they are, four floats of sixteen bits for each place, then the same of what
      # they send of lamps, and then of the way to those.
      # @param thick [Kernel::Buffer] f32 [z, y, x]; @param parts [Array<Kernel::Buffer>] f32 [3, z, y, x] each
      # @return [String]
      def fog(thick, *parts, head)
        bytes =
          parts.map do |part|
            Kernel::Buffer.new(:u16, *thick.shape, 4).tap { |out| ViewKernels.halves(out, part, thick) }.bytes
          end
        packed(head.merge(size: thick.shape.reverse), bytes.join)
      end

      # One quantity of a frame: a head (size, voxel, corner, low, high, unit) and eight bits for each
      # voxel, even between low and high.
      # @param name [String] one of {SEEN}
      def channel(bricks, head, name, ambient)
        return arrows(bricks, head) if name == "velocity"

        field = quantity(bricks, head, name, ambient)
        ends = Kernel::Buffer.new(:f32, 2)
        ViewKernels.ends(ends, field)
        bytes = Kernel::Buffer.new(:u8, *field.shape)
        ViewKernels.level(bytes, field, ends[0], 1.0 / [ends[1] - ends[0], 1e-9].max)
        packed(
          {size: field.shape.reverse, voxel: head["voxel"], corner: head["corner"], low: ends[0], high: ends[1],
           unit: SEEN.fetch(name)}, bytes.bytes
        )
      end

      # Velocity as three signed bytes for each voxel, `high` (m/s) being 127.
      def arrows(bricks, head)
        parts = bricks.velocity
        top = [*parts.map { |part| Flow::FlowKernels.peak(part) }, 1e-6].max
        bytes = Kernel::Buffer.new(:u8, *bricks.size, 3)
        parts.each_with_index { |part, n| ViewKernels.signed(bytes, part, n, 127.0 / top) }
        packed(
          {size: bricks.size.reverse, voxel: head["voxel"], corner: head["corner"], low: 0.0, high: top,
           unit: "m/s"}, bytes.bytes
        )
      end

      # @return [Kernel::Buffer] f32 [z, y, x]
      def quantity(bricks, head, name, ambient)
        return bricks.field(name.to_sym) if %w[fuel pressure smoke burning age].include?(name)

        return bricks.divergence(head["voxel"]) if name == "divergence"

        out = Kernel::Buffer.new(:f32, *bricks.size)
        if name == "temperature" then ViewKernels.raise_by(out, bricks.field(:heat), ambient)
        else ViewKernels.speed(out, *bricks.velocity)
        end
        out
      end

      def packed(head, body)
        head = JSON.generate(head)
        head = head.ljust((head.bytesize + 3) / 4 * 4, " ")
        [head.bytesize].pack("L<") + head + body
      end
      private_class_method :packed, :arrows
    end
  end
end
