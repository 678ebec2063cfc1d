# frozen_string_literal: true

require "rexml/document"
require "rexml/streamlistener"

module Vumbral
  module Formats
    # The outlines in an SVG file: paths, rectangles, circles, ellipses and polygons, moved and turned as it says.
    module SVG
      SHAPES = %w[path rect circle ellipse polygon polyline].freeze
      # These hold others and draw nothing themselves, or say something about the file.
      SILENT = %w[svg g a title desc metadata defs style switch].freeze
      # What stands in these is not drawn where it stands.
      HIDDEN = %w[defs clipPath mask symbol marker pattern].freeze
      ROUND = 48

      # Outlines, and what was left out.
      Drawing = Struct.new(:contours, :left_out)

      # Gathers outlines while the file is read, so that deep ones are no trouble.
      class Listener
        include REXML::StreamListener

        attr_reader :rings, :unknown

        def initialize(name)
          @name = name
          @rings = []
          @unknown = Hash.new(0)
          @frames = [SVGPath::SAME]
          @hidden = 0
        end

        def doctype(*) =
          raise(
            Refused.new(
              "#{@name} has a document type of its own, which is not read; save it again as plain SVG.",
              code: "bad_drawing"
            )
          )

        def tag_start(name, attributes)
          name = name.split(":").last
          @frames << SVGPath.times(@frames.last, SVGPath.transform(attributes["transform"].to_s))
          @hidden += 1 if HIDDEN.include?(name)
          return if @hidden.positive?
          return @unknown[name] += 1 unless SHAPES.include?(name) || SILENT.include?(name)
          return unless SHAPES.include?(name)

          outlines(name, attributes).each { |ring| @rings << ring.map { |point| SVGPath.apply(@frames.last, point) } }
          return if @rings.sum(&:size) <= Geometry::Contours::MOST_POINTS

          raise Refused.new(
            "#{@name} has outlines of more than #{Geometry::Contours::MOST_POINTS} points; simplify it first.",
            code: "bad_drawing"
          )
        end

        def tag_end(name)
          @frames.pop
          @hidden -= 1 if HIDDEN.include?(name.split(":").last)
        end

        private

        def outlines(name, attributes)
          number = ->(key, rest = 0.0) do
            Float(attributes[key].to_s[/\A\s*[-+]?[\d.]+(?:e[-+]?\d+)?/i], exception: false) || rest
          end
          case name
          when "path"
            SVGPath.rings(attributes["d"].to_s, @name)
          when "rect"
            x, y, w, h = number.call("x"), number.call("y"), number.call("width"), number.call("height")
            [[[x, y], [x + w, y], [x + w, y + h], [x, y + h]]]
          when "polygon", "polyline"
            [
              attributes["points"]
                .to_s
                .scan(SVGPath::NUMBER)
                .map(&:to_f)
                .each_slice(2)
                .select { |point| point.size == 2 }
            ]
          else
            across = (name == "circle") ? [number.call("r")] * 2 : [number.call("rx"), number.call("ry")]
            [
              Array.new(ROUND) do |n|
                (2 * Math::PI * n / ROUND).then do |angle|
                  [number.call("cx") + across[0] * Math.cos(angle), number.call("cy") + across[1] * Math.sin(angle)]
                end
              end
            ]
          end
        end
      end

      module_function

      # @param bytes [String]; @param name [String] for messages
      # @return [Drawing] its outlines with y upwards, one unit wide or high, about the origin
      # @raise [Refused]
      def read(bytes, name: "the file")
        text = Text.utf8(bytes.delete_prefix("\xEF\xBB\xBF".b))
        listener = Listener.new(name)
        REXML::Document.parse_stream(text, listener)
        left_out =
          listener.unknown.map do |what, count|
            "#{count} times #{Text.excerpt(what, 30)}, which has no outline, was left out."
          end
        contours = Geometry::Contours.new(scaled(listener.rings.select { |ring| ring.size > 2 }))
        return Drawing.new(contours, left_out) unless contours.empty?

        raise Refused.new(
          "#{name} holds no closed outlines; turn text and strokes into paths and save it again.",
          code: "empty_drawing"
        )
      rescue REXML::ParseException, ArgumentError => error
        raise Refused.new(
          "#{name} is not sound SVG (#{Text.excerpt(error.message.lines.first.to_s, 60)}); save it again.",
          code: "bad_drawing"
        )
      end

      def scaled(rings)
        return rings if rings.empty?

        (a, b), (c, d) = rings.flatten(1).transpose.map(&:minmax)
        size = [b - a, d - c].max
        return [] unless size.finite? && size.positive?

        rings.map { |ring| ring.map { |x, y| [(x - 0.5 * (a + b)) / size, (0.5 * (c + d) - y) / size] } }
      end
      private_class_method :scaled
    end
  end
end
