# frozen_string_literal: true

module Vumbral
  module Shot
    # One adjustable value, declared once. The API, the interface, the checks, the differences
    # between runs and the documentation all read it from here.
    class Dial
      TYPES = %i[number whole switch choice vector colour node nodes mesh picture drawing volume cache plate table shot
        text words line ramp places pieces variations overrides strokes].freeze
      # What becomes out of date when the dial moves.
      TOUCHES = %i[run surface sculpt light picture finish view].freeze

      attr_reader :name, :label, :type, :unit, :default, :range, :slider, :keyed, :help, :group, :choices, :of, :only,
        :except, :touches, :zero, :half_life, :mean_path, :values, :over, :units, :time, :driven, :named

      # @param range [Range, nil] what is accepted at all; @param slider [Range, nil] what the track covers
      # @param keyed [Boolean] whether it may change over time
      # @param of [Symbol, Array<Symbol>, nil] for references: the kind of node, or several
      # @param only [Hash, nil] shown only while another dial has one of these values, or, with :set, any at all
      # @param except [Hash, nil] not shown while another dial has one of these values
      # @param zero [String, nil] what 0 means, where it means something of its own
      # @param half_life [Boolean] whether it is a rate whose half-life is shown beside it
      # @param mean_path [Boolean] whether it is taken by the metre, and how far light goes on average is shown
      # @param units [Hash, nil] {dial: {its value: unit}}, where the unit depends on another dial of the node
      # @param values [Range, nil] of a ramp, what its stops may have; `range` is where they may stand
      # @param time [Symbol, nil] whether it is a frame of the shot: on which something begins (:from), ends (:to) or
      #   happens (:at); or a number of frames (:length)
      # @param driven [Symbol, nil] another dial of the node, which names the texture that it goes by
      # @param named [Array<Symbol>, nil] of a formula, dials of the node that its own names stand for, in order
      # @param over [Symbol, nil] of a ramp, the quantity that it goes over; `of` is :number or :colour
      def initialize(name, label, type:, default:, help:, unit: nil, range: nil, slider: nil, keyed: false, group: nil,
        choices: nil, of: nil, only: nil, touches: :run, zero: nil, half_life: false, mean_path: false, values: nil,
        over: nil, units: nil, time: nil, driven: nil, named: nil, except: nil)
        @name, @label, @type, @default, @help = name, label, type, default, help
        @unit, @range, @slider, @keyed, @group = unit, range, slider || range, keyed, group
        @choices, @of, @only, @touches, @zero, @half_life = choices, of, only, touches, zero, half_life
        @except = except
        @mean_path, @values, @over, @units, @time, @driven, @named = mean_path, values, over, units, time, driven, named
      end

      # @param value [Object] as it came in
      # @param place [String] how a message names this dial's node
      # @return [Object] the value as it is stored
      # @raise [Refused] naming the node, the dial, the value and what is allowed
      def check(value, place)
        case @type
        when :number
          number(value, place)
        when :whole
          whole(value, place)
        when :switch
          one_of(value, [true, false], place, "on or off (true or false)")
        when :choice
          one_of(value, @choices.keys.map(&:to_s), place, @choices.keys.join(", "))
        when :vector
          several(value, place, "three numbers") { |n| number(n, place) }
        when :colour
          several(value, place, "three numbers from 0 to 1 (red, green, blue)") { |n| number(n, place) }
        when :nodes
          list(value, place)
        when :node, :mesh, :picture, :drawing, :volume, :cache, :plate, :table, :shot, :text, :words, :line
          string(value, place)
        when :places
          places(value, place)
        when :pieces
          pieces(value, place)
        when :strokes
          Strokes.new(@label, place).check(value)
        when :variations, :overrides
          Varied.new(self, place).check(value)
        when :ramp
          Ramp::Check.new(self, place).call(value)
        end
      end

      # @return [String] a value as a person reads it
      def show(value)
        case @type
        when :number
          "#{plain(value)}#{" #{@unit}" if @unit}#{half(value) if @half_life}"
        when :whole
          "#{value}#{" #{@unit}" if @unit}"
        when :switch
          value ? "on" : "off"
        when :choice
          @choices.fetch(value.to_sym, value).to_s
        when :vector
          "#{value.map { |n| plain(n) }.join(", ")}#{" #{@unit}" if @unit}"
        when :nodes
          value.empty? ? "nothing" : value.join(", ")
        when :colour
          "##{value.map { |n| format("%02x", (n.clamp(0.0, 1.0) * 255).round) }.join}"
        when :places
          counted(value, "place")
        when :pieces
          value.empty? ? "none" : value.join(", ")
        when :strokes
          counted(value, "stroke")
        when :variations
          counted(value, "dial")
        when :overrides
          counted(value, "value")
        when :ramp
          if value.empty?
            "none"
          else
            "#{value.size} stop#{"s" if value.size > 1} from #{plain(value[0]["at"])} to #{plain(value[-1]["at"])}"
          end
        else
          value.to_s
        end
      end

      # @return [Boolean] whether it counts, by what the node's other dials say
      def counts?(node)
        (@only || {}).all? { |name, values| (values == :set) ? !node[name].nil? : values.include?(node[name]) } &&
          # What another dial says that does not count itself, says nothing.
          (@except || {}).none? { |name, values|
            values.include?(node[name]) &&
              node.kind.dials.fetch(name).counts?(node)
          }
      end

      # @return [Boolean] whether it names other nodes
      def reference? = @type == :node || @type == :nodes

      # A reference's value once a node is gone.
      def without(value, id) = (@type == :nodes) ? value - [id] : nil

      # @param formula [String] @return [Hash{String => Symbol}] its own names, each with the dial that it stands for
      def own_names(formula) = Formula.new(formula, channels: true, own: @named.to_a.size).names.zip(@named.to_a).to_h

      # The declaration as plain data.
      def to_h
        {
          name: @name, label: @label, type: @type, unit: @unit, default: @default, range: ends(@range),
          slider: ends(@slider), keyed: @keyed, help: @help, group: @group, choices: @choices, of: @of, only: @only,
          except: @except, touches: @touches, zero: @zero, half_life: @half_life || nil, mean_path: @mean_path || nil,
          values: ends(@values), over: @over, units: @units, time: @time, driven: @driven, named: @named
        }.compact
      end

      private

      def ends(range) = range && [range.begin, range.end]

      def counted(list, word) = list.empty? ? "none" : "#{list.size} #{word}#{"s" if list.size > 1}"

      def half(rate) = rate.positive? ? " (half in #{format("%.3g", Math.log(2.0) / rate)} s)" : ""

      def plain(number) = format("%.6g", number)

      def number(value, place)
        given = value
        value = Float(value, exception: false) if value.is_a?(String)
        refuse(given, place) unless value.is_a?(Numeric) && value.to_f.finite? && within?(value)
        value.to_f
      end

      def whole(value, place)
        given = value
        value = Integer(value, exception: false) if value.is_a?(String)
        value = value.to_i if value.is_a?(Float) && value.finite? && value == value.floor
        refuse(given, place) unless value.is_a?(Integer) && within?(value)
        value
      end

      def within?(value) = @range.nil? || @range.cover?(value)

      def one_of(value, allowed, place, words)
        value = {"true" => true, "on" => true, "false" => false, "off" => false}.fetch(value, value) if @type == :switch
        value = value.to_s if @type == :choice && value.is_a?(Symbol)
        return value if allowed.include?(value)

        raise Refused.new("#{@label} of #{place} cannot be #{value.inspect[0, 40]}; it is one of: #{words}.",
          code: "bad_value")
      end

      def several(value, place, words)
        value = value.split(",") if value.is_a?(String)
        unless value.is_a?(Array) && value.size == 3
          raise Refused.new("#{@label} of #{place} takes #{words}, not #{value.inspect[0, 40]}.", code: "bad_value")
        end
        value.map { |part| yield(part.is_a?(String) ? part.strip : part) }
      end

      # Many faces may be picked by a box.
      MOST_PLACES = 2000
      MOST_PIECES = 500
      private_constant :MOST_PLACES, :MOST_PIECES

      def pieces(value, place)
        if value.is_a?(Array) && value.size <= MOST_PIECES && value.all? { |n| n.is_a?(Integer) && !n.negative? }
          return value.uniq.sort
        end

        raise Refused.new(
          "#{@label} of #{place} takes a list of at most #{MOST_PIECES} pieces by their numbers, not " \
            "#{value.inspect[0, 40]}.",
          code: "bad_value"
        )
      end

      def places(value, place)
        if value.is_a?(Array) && value.size <= MOST_PLACES
          return value.map { |one| several(one, place, "three numbers each") { |n| number(n, place) } }
        end

        raise Refused.new(
          "#{@label} of #{place} takes a list of at most #{MOST_PLACES} places, not #{value.inspect[0, 40]}.",
          code: "bad_value"
        )
      end

      def list(value, place)
        value = value.split(",").map(&:strip) if value.is_a?(String)
        return value.uniq if value.is_a?(Array) && value.size <= 200 && value.all?(String)

        raise Refused.new("#{@label} of #{place} takes a list of names, not #{value.inspect[0, 40]}.",
          code: "bad_value")
      end

      def string(value, place)
        most = (@type == :text) ? 1000 : 200
        if value.nil? || (value.is_a?(String) && value.bytesize <= most)
          Formula.new(value, own: @named.to_a.size) if @type == :text && value
          Geometry::Lettering.check(value) if @type == :words && value
          return value
        end

        raise Refused.new("#{@label} of #{place} takes a name, not #{value.inspect[0, 40]}.", code: "bad_value")
      end

      def refuse(value, place)
        allowed = @range ? "from #{plain(@range.begin)} to #{plain(@range.end)}#{" #{@unit}" if @unit}" : "a number"
        raise Refused.new(
          "#{@label} of #{place} cannot be #{value.nil? ? "nothing" : value.to_s[0, 40]}; it goes #{allowed}.",
          code: "out_of_range"
        )
      end
    end
  end
end
