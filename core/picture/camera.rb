# frozen_string_literal: true

module Vumbral
  module Picture
    # The camera: where it stands, what is sharp, and how long its shutter is open. A picture with blur is made
    # of several, each through another place of the lens and at another moment.
    class Camera
      SENSOR = 36.0
      # Steps of sequences that never repeat and fill a line, a square and a cube evenly (Roberts 2018): moments, places
      # of the lens, and of the pixel.
      ALONG = 0.6180339887
      OUT, AROUND = 0.7548776662, 0.5698402910
      ACROSS, DOWN = 0.8191725134, 0.6710436067

      # One of the pictures that a picture is made of: place in the lens (how far out, how far around, 0 to 1), offset
      # within a pixel (-0.5 to 0.5), frames since the shutter closed (0 or less), and where steps begin (0 to 1).
      Pass = Struct.new(:lens, :pixel, :moment, :phase)
      STILL = Pass.new([0.0, 0.0], [0.0, 0.0], 0.0, 0.0).freeze

      # @param document [Shot::Document]
      # @return [Hash] plain data
      def self.settings(document, frame)
        camera = document.the(:camera)
        found =
          %i[aperture focus samples refined noise denoise fireflies]
            .to_h { |dial| [dial.to_s, camera[dial, frame]] }
            .merge(place(document, frame), lens(camera, frame))
        prop = document.nodes[camera[:focus_on]]
        found["focus_at"] = Geometry::Bodies.pose(prop, frame, document)["position"] if prop
        pace = document.the(:chamber)[:time_scale, frame]
        found.merge(
          "shutter" => camera[:shutter, frame] / 360.0, "rate" => document.rate,
          **(((pace - 1.0).abs < 1e-9) ? {} : {"gas_pace" => pace})
        )
      end

      # @return [Hash] "focal" as on a film 36 mm wide and, where it is another, "film", mm
      def self.lens(camera, frame)
        film = camera[:film]
        {"focal" => camera[:focal, frame] * SENSOR / film}.merge((film == SENSOR) ? {} : {"film" => film})
      end

      # Where it stands and looks in the world. @return [Hash] "position", "target" and, where it leans, "roll" in
      # degrees
      def self.place(document, frame)
        camera = document.the(:camera)
        aim = document.nodes[camera[:aim]]
        position = Geometry::Hanging.point(document, camera, :position, frame)
        target = aim ? Geometry::Bodies.pose(aim, frame, document)["position"] : Geometry::Hanging.point(document, camera, :target, frame)
        {
          "position" => position,
          "target" => unsteady(position, target, Geometry::Shake.offset(document, camera, :turn, frame))
        }.merge(camera[:roll, frame].zero? ? {} : {"roll" => camera[:roll, frame]})
      end

      # What it looks at once it has turned up and aside by degrees; about the way it looks it does not turn.
      def self.unsteady(position, target, turn)
        return target if turn.first(2).all?(&:zero?)

        x, y, z = target.zip(position).map { |a, b| a - b }
        far = Math.sqrt(x * x + z * z)
        up, aside = turn.map { |degrees| degrees * Math::PI / 180 }
        height, around, length = Math.atan2(y, far) + up, Math.atan2(x, z) + aside, Math.hypot(far, y)
        position
          .zip([Math.sin(around) * Math.cos(height), Math.sin(height), Math.cos(around) * Math.cos(height)])
          .map { |a, b| a + length * b }
      end
      private_class_method :unsteady, :lens

      # @return [Array<Hash>] place and focal length at each frame of the shot; nothing where it stands still
      def self.path(document)
        camera = document.the(:camera)
        moves =
          %i[position target focal roll].any? { |dial| camera.curves.key?(dial) } || camera[:leader] || camera[:aim] ||
          Geometry::Shake.shakes?(camera)
        return [] unless moves

        (document.first_frame..document.last_frame).map do |frame|
          place(document, frame).merge(lens(camera, frame).slice("focal"))
        end
      end

      # @param settings [Hash] from {.settings}
      def initialize(settings)
        @settings = settings
      end

      # @return [Float] how long the shutter is open, frames
      def shutter = @settings["shutter"]

      # @return [Float] seconds of a frame
      def seconds = 1.0 / @settings["rate"]

      # @return [Float] seconds that pass in the chamber meanwhile
      def gas_seconds = seconds * @settings.fetch("gas_pace", 1.0)

      # In the order in which they are made, the first ones of which are spread as evenly as all are: one may stop
      # early.
      # @return [Array<Pass>]
      def passes
        return [STILL] unless shutter.positive? || radius.positive? || @settings["refined"]

        count = @settings["samples"]
        moments, rings = [ALONG, OUT].map { |by| even(count, by) }
        Array.new(count) do |n|
          Pass.new([Math.sqrt(rings[n]), AROUND * n % 1.0], [(0.5 + ACROSS * n) % 1.0 - 0.5,
            (0.5 + DOWN * n) % 1.0 - 0.5],
            -shutter * moments[n], (ALONG * n) % 1.0)
        end
      end

      # As kernels take it: place, then forward, right and up (right and up as long as half the picture, one
      # unit ahead), width and height in pixels, where steps begin; then the lens: right and up as long as its radius,
      # how far out and how far around on it one looks through (each 0 to 1; each pixel turns that by its own), one over
      # the distance that is sharp (0 for a lens without width), and 1 for one of several pictures.
      # @param through [Boolean] all pixels look through the same place of the lens
      # @return [Kernel::Buffer] f32 [25]
      def view(width, height, pass = STILL, through: false)
        right, up, ahead = cropped(width, height)
        place = @settings["position"]
        wide = radius.positive? && !pass.equal?(STILL)
        if wide && through
          # Every place of the lens sees the same at the distance that is sharp.
          out, turn = pass.lens
          off =
            along
              .zip(above)
              .map { |a, b| radius * out * (Math.cos(2 * Math::PI * turn) * a + Math.sin(2 * Math::PI * turn) * b) }
          place = place.zip(off).map(&:sum)
          ahead = ahead.zip(off).map { |a, b| a - b / distance }
        end
        ahead = ahead.zip(right, up).map { |a, b, c|
          a + 2.0 * (pass.pixel[0] * b / width - pass.pixel[1] * c / height)
        }
        lens = (wide && !through) ? [*along.map { |c| c * radius }, *above.map { |c| c * radius }, *pass.lens, 1.0 / distance] : [0.0] * 9
        Kernel::Buffer.of(
          :f32,
          place + ahead + right + up + [width.to_f, height.to_f, pass.phase] + lens + [pass.equal?(STILL) ? 0.0 : 1.0]
        )
      end

      # @return [Boolean] whether the lens has a width
      def wide? = radius.positive?

      # What is sharp, metres ahead of the camera: nearest, sharpest, farthest (nil: as far as one sees), for a
      # blur of a thousandth of the picture's width.
      # @return [Array<Float, nil>]
      def sharp
        return [0.0, distance, nil] if radius.zero?

        blur = 0.001 * SENSOR / @settings["focal"] / (2.0 * radius)
        [1.0 / (1.0 / distance + blur), distance, (1.0 / distance > blur) ? 1.0 / (1.0 / distance - blur) : nil]
      end

      private

      # Middles of as many equal parts of 0 to 1, one after the other far from those before.
      def even(count, by)
        order = (0...count).sort_by { |n| (by * n) % 1.0 }
        order.each_with_index.sort.map { |_, rank| (rank + 0.5) / count }
      end

      # Of the opening, metres.
      def radius =
        @settings["aperture"].positive? ? @settings["focal"] * film / SENSOR / @settings["aperture"] / 2000.0 : 0.0

      def film = @settings.fetch("film", SENSOR)

      def distance
        @distance ||= begin
          at = @settings["focus_at"]
          found = at ? at.zip(@settings["position"], forward).sum { |a, b, c| (a - b) * c } : @settings["focus"]
          [found, 0.02].max
        end
      end

      # Only a part of the picture ("crop": left, top, right, bottom, 0 to 1), which fills the pixels that are asked
      # for.
      # @return [Array<Array<Float>>] half the picture to the right and up, and the way to its middle
      def cropped(width, height)
        left, top, other, bottom = @settings["crop"] || [0.0, 0.0, 1.0, 1.0]
        right, up = half(width / (other - left), height / (bottom - top))
        ahead = forward.zip(right, up).map { |a, b, c| a + (left + other - 1.0) * b + (1.0 - top - bottom) * c }
        [right.map { |c| c * (other - left) }, up.map { |c| c * (bottom - top) }, ahead]
      end

      def half(width, height)
        half = 0.5 * SENSOR / @settings["focal"]
        [along.map { |c| c * half }, above.map { |c| c * half * height / width }]
      end

      def forward = @forward ||= unit(@settings["target"].zip(@settings["position"]).map { |a, b| a - b }, [0.0, 0.0,
        -1.0])

      def along = upright.zip(level).map { |up, along| lean[0] * along - lean[1] * up }

      def above = upright.zip(level).map { |up, along| lean[0] * up + lean[1] * along }

      # As if it did not lean.
      def level = @level ||= unit(cross(forward, [0.0, 1.0, 0.0]), [1.0, 0.0, 0.0])

      def upright = @upright ||= cross(level, forward)

      # Cosine and sine of how far it leans to the right.
      def lean =
        @lean ||= (@settings["roll"].to_f * Math::PI / 180.0).then { |angle| [Math.cos(angle), Math.sin(angle)] }

      def unit(vector, otherwise)
        length = Math.sqrt(vector.sum { |c| c * c })
        (length < 1e-9) ? otherwise : vector.map { |c| c / length }
      end

      def cross(a, b) = [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]]
    end
  end
end
