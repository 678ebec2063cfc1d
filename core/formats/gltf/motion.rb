# frozen_string_literal: true

module Vumbral
  module Formats
    # One part of {GLTF}.
    module GLTF
      # One course over time of a node: its place, turn, scale or the weights of its shapes.
      class Motion
        WIDTHS = {"translation" => 3, "rotation" => 4, "scale" => 3}.freeze
        EASES = %w[LINEAR STEP CUBICSPLINE].freeze

        # @param width [Integer] numbers at each time
        def initialize(accessors, sampler, width, container)
          @ease = sampler.fetch("interpolation", "LINEAR")
          container.bad("has an animation that goes on #{@ease.inspect[0, 20]}") unless EASES.include?(@ease)
          @times = accessors.numbers(sampler.fetch("input"), width: 1).map(&:to_f)
          unless @times.all?(&:finite?) && @times.each_cons(2).all? { |a, b| a <= b }
            container.bad("has an animation whose times do not rise")
          end
          values = accessors.numbers(sampler.fetch("output")).map(&:to_f)
          rows = @times.size * ((@ease == "CUBICSPLINE") ? 3 : 1)
          unless values.size == rows * width && values.all?(&:finite?)
            container.bad("has an animation with #{values.size} numbers where #{rows * width} are wanted")
          end
          @rows = values.each_slice([width, 1].max).to_a
        end

        # @return [Float] seconds
        def last = @times.last

        # @param seconds [Float]; @param turning [Boolean] whether it is a quaternion
        # @return [Array<Float>]
        def at(seconds, turning: false)
          n = (@times.bsearch_index { |time| time > seconds } || @times.size) - 1
          found = if n.negative? then value(0)
          elsif n >= @times.size - 1 then value(@times.size - 1)
          else
            span = @times[n + 1] - @times[n]
            between(n, span.positive? ? (seconds - @times[n]) / span : 0.0, span, turning)
          end
          turning ? unit(found) : found
        end

        private

        def value(n) = (@ease == "CUBICSPLINE") ? @rows[3 * n + 1] : @rows[n]

        def between(n, t, span, turning)
          a, b = value(n), value(n + 1)
          case @ease
          when "STEP" then a
          when "CUBICSPLINE"
            # Cubic Hermite, with the tangents for a second.
            from, to = @rows[3 * n + 2], @rows[3 * n + 3]
            square, cube = t * t, t * t * t
            a.each_index.map do |i|
              (2 * cube - 3 * square + 1) * a[i] + span * (cube - 2 * square + t) * from[i] +
                (3 * square - 2 * cube) * b[i] + span * (cube - square) * to[i]
            end
          else turning ? turned(unit(a), unit(b), t) : a.zip(b).map { |x, y| x + t * (y - x) }
          end
        end

        # Along the shorter arc (Shoemake 1985).
        def turned(a, b, t)
          along = a.zip(b).sum { |x, y| x * y }
          b = b.map(&:-@) if along.negative?
          angle = Math.acos(along.abs.clamp(0.0, 1.0))
          return a.zip(b).map { |x, y| x + t * (y - x) } if angle < 1e-5

          p, q = [1.0 - t, t].map { |share| Math.sin(share * angle) / Math.sin(angle) }
          a.zip(b).map { |x, y| p * x + q * y }
        end

        def unit(q)
          length = Math.sqrt(q.sum { |c| c * c })
          length.positive? ? q.map { |c| c / length } : [0.0, 0.0, 0.0, 1.0]
        end
      end
    end
  end
end
