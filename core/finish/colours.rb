# frozen_string_literal: true

module Vumbral
  module Finish
    # Effects on colours. Each takes a {Work}.
    module Colours
      # Light that is white as it comes.
      NEUTRAL = 6500.0
      # Places of a curve's table.
      FINE = 1024
      SPACES = {"linear" => 0, "screen" => 1, "video" => 2, "log" => 3, "film" => 4}.freeze

      module_function

      def exposure(work) = multiply(work, [2.0**work["stops"]] * 3)

      # White of the wanted temperature (as {Picture::Film} has it), and green against magenta; brightness stays.
      def balance(work)
        gains =
          Light::BlackBody
            .rgb(NEUTRAL)
            .zip(Light::BlackBody.rgb(work["white"]))
            .map { |white, seen| white / [seen, 0.02].max }
        gains[1] *= 2.0**-work["green"]
        gains = gains.map { |gain| gain / (0.2126 * gains[0] + 0.7152 * gains[1] + 0.0722 * gains[2]) }
        multiply(work, gains)
      end

      def grade(work) = GradeKernels.grade(work.image, work["lift"], work["gamma"], work["gain"])

      def contrast(work) = GradeKernels.contrast(work.image, work["contrast"], work["pivot"])

      def curves(work)
        columns = %w[curve curve_red curve_green curve_blue].map { |name| course(work[name], 0.0, 1.0) }
        GradeKernels.curves(work.image, Kernel::Buffer.of(:f32, columns.transpose.flatten, FINE, 4))
      end

      def saturation(work)
        GradeKernels.saturate(work.image, Kernel::Buffer.of(:f32, turned(work["hue"])), work["saturation"])
        rows = [
          ["by_hue", 360.0, 1.0], ["hue_by_hue", 360.0, 0.0], ["bright_by_hue", 360.0, 1.0], ["by_bright", 1.0, 1.0]
        ]
        return if rows.all? { |name, _, _| work[name].empty? }

        columns = rows.map { |name, high, even| work[name].empty? ? [even] * FINE : course(work[name], 0.0, high) }
        GradeKernels.by_hue(work.image, Kernel::Buffer.of(:f32, columns.transpose.flatten, FINE, 4))
      end

      # A grey tints nothing: what a colour is over its own brightness.
      def tint(work)
        rows = %w[darks middles lights].flat_map do |name|
          colour = work[name]
          grey = 0.2126 * colour[0] + 0.7152 * colour[1] + 0.0722 * colour[2]
          colour.map { |c| grey.positive? ? c / grey : 1.0 }
        end
        GradeKernels.tint(work.image, Kernel::Buffer.of(:f32, rows))
      end

      def table(work)
        return unless work["table"]

        table = work.sources.table(work["table"])
        TableKernels.through(
          work.image, table.colours, Kernel::Buffer.of(:f32, table.low + table.high), SPACES.fetch(work["space"])
        )
      end

      # Cuts a colour out.
      def key(work)
        colour = Kernel::Buffer.of(:f32, work["colour"])
        mask = Kernel::Buffer.new(:f32, work.height, work.width)
        MaskKernels.coloured(mask, work.image, colour, work["near"], work["fall"])
        MaskKernels.cut(work.image, mask, colour, work["spill"])
      end

      def multiply(work, gains) = GradeKernels.multiply(work.image, Kernel::Buffer.of(:f32, gains))

      # A ramp's values, evenly from one end to the other; one without a stop leaves all as it is.
      def course(stops, low, high)
        return Array.new(FINE) { |n| n / (FINE - 1.0) } if stops.empty?

        ramp = Shot::Ramp.new(stops)
        Array.new(FINE) { |n| ramp.at(low + n * (high - low) / (FINE - 1.0))[0] }
      end

      # Turns hues about grey and keeps brightness: a turn about the axis of greys, sheared so that brightness lies
      # level (Haeberli 1993). Rows one after the other.
      def turned(degrees)
        angle = degrees * Math::PI / 180.0
        c, s = Math.cos(angle), Math.sin(angle)
        r, g, b = 0.2126, 0.7152, 0.0722
        [r + c * (1 - r) - s * r, g - c * g - s * g, b - c * b + s * (1 - b),
          r - c * r + s * 0.143, g + c * (1 - g) + s * 0.140, b - c * b - s * 0.283,
          r - c * r - s * (1 - r), g - c * g + s * g, b + c * (1 - b) + s * b]
      end
      private_class_method :multiply, :course, :turned
    end
  end
end
