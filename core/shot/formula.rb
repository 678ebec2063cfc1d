# frozen_string_literal: true

require "parslet"

module Vumbral
  module Shot
    # A formula that somebody typed: usual infix arithmetic on numbers, as a short program for
    # {FormulaKernels}. Nothing in it is ever compiled, loops or calls outside the list.
    #
    #   0.5 + 0.5 * sin(8 * y - 3 * t)      if(near_edge > 0.2, 1, noise(4 * x, 4 * y, 4 * z))
    class Formula
      MOST_LENGTH = 1000
      MOST_STEPS = 400
      MOST_DEPTH = 24
      # What a formula may ask for, in the order in which the kernel finds it.
      VARIABLES = {"frame" => "the frame", "t" => "seconds since the first frame", "x" => "place, metres", "y" => "height, metres", "z" => "place, metres",
                   "u" => "place in the box, 0 to 1", "v" => "height in the box, 0 to 1", "w" => "place in the box, 0 to 1", "value" => "what was there before", "seed" => "the shot's seed"}.freeze
      # And what one may ask for that stands in a sculpt; these come behind the others.
      CHANNELS = {"density" => "the sculpt's density by then", "heat" => "its heat, kelvin above the air",
                  "fuel" => "its fuel"}.freeze
      # Name, number of arguments; the place in the list is what the kernel goes by.
      FUNCTIONS = {"add" => 2, "subtract" => 2, "multiply" => 2, "divide" => 2, "power" => 2, "negative" => 1,
                   "less" => 2, "more" => 2, "equal" => 2, "both" => 2, "either" => 2,
                   "if" => 3, "sin" => 1, "cos" => 1, "abs" => 1, "sqrt" => 1, "exp" => 1, "floor" => 1, "min" => 2,
                   "max" => 2, "clamp" => 3, "mix" => 3, "smooth" => 3, "noise" => 3,
                   "mod" => 2, "not" => 1}.freeze
      TYPED = FUNCTIONS.keys - %w[add subtract multiply divide power negative less more equal both either not]

      # A dial of the shot in square brackets: [lamp-1.strength], [coil.position.y].
      REFERENCE = /\[([^\[\]]*)\]/

      # The grammar, loosest first.
      class Grammar < Parslet::Parser
        rule(:gap) { match('\s').repeat }
        rule(:number) {
          (match("[0-9]").repeat(1) >> (str(".") >> match("[0-9]").repeat(1))
          .maybe >> (match("[eE]") >> match("[+-]").maybe >> match("[0-9]").repeat(1)).maybe).as(:number) >> gap
        }
        rule(:name) { (match("[a-z]") >> match("[a-z_0-9]").repeat).as(:name) >> gap }
        rule(:call) do
          name >> str("(") >> gap >>
            (either.as(:argument) >> (str(",") >> gap >> either.as(:argument)).repeat).repeat(0, 1).as(:arguments) >>
            str(")") >> gap
        end
        rule(:group) { str("(") >> gap >> either >> str(")") >> gap }
        rule(:reference) { str("[") >> match('[^\[\]]').repeat(1).as(:reference) >> str("]") >> gap }
        rule(:atom) { number | call.as(:call) | name.as(:variable) | reference | group }
        rule(:power) do
          (atom.as(:left) >> (str("^").as(:operator) >> gap >> sign.as(:right)).repeat(1, 1).as(:rest)).as(:chain) |
            atom
        end
        rule(:sign) { (str("-") >> gap >> sign.as(:negative)) | power }
        rule(:product) do
          (sign.as(:left) >> (match("[*/%]").as(:operator) >> gap >> sign.as(:right)).repeat(1).as(:rest)).as(:chain) |
            sign
        end
        rule(:sum) do
          (product.as(:left) >> (match("[+-]").as(:operator) >> gap >> product.as(:right)).repeat(1).as(:rest)).as(
            :chain
          ) | product
        end
        rule(:comparison) {
          (sum.as(:left) >> ((str("<=") | str(">=") | str("==") | str("<") | str(">"))
          .as(:operator) >> gap >> sum.as(:right)).repeat(1, 1).as(:rest)).as(:chain) | sum
        }
        rule(:both) do
          (comparison.as(:left) >> (str("and").as(:operator) >> gap >> comparison.as(:right)).repeat(1).as(:rest)).as(
            :chain
          ) | comparison
        end
        rule(:either) do
          (both.as(:left) >> (str("or").as(:operator) >> gap >> both.as(:right)).repeat(1).as(:rest)).as(:chain) | both
        end
        rule(:formula) { gap >> either }
        root(:formula)
      end

      OPERATORS = {"+" => "add", "-" => "subtract", "*" => "multiply", "/" => "divide", "%" => "mod", "^" => "power",
                   "<" => "less", ">" => "more", "==" => "equal", "and" => "both", "or" => "either"}.freeze
      # A step of the program: 0 a number, 1 a variable, from 2 on a function.
      NUMBER, VARIABLE, FUNCTION = 0, 1, 2
      DIVIDING = %w[divide mod power].map { |name| FUNCTION + FUNCTIONS.keys.index(name) }.freeze

      # @return [Hash{Integer => String}] dials that it asks for, as they were typed, by their step in the program
      attr_reader :text, :references

      # @param text [String]
      # @param dials [Boolean] whether it may ask for other dials of the shot
      # @param channels [Boolean] whether it may ask for {CHANNELS}
      # @param own [Integer] so many names of its own it may have, which stand for numbers
      # @raise [Refused] with the position of what is wrong
      def initialize(text, dials: false, channels: false, own: 0)
        @text = text.to_s
        @dials = dials
        @variables = VARIABLES.keys + (channels ? CHANNELS.keys : [])
        @own, @names, @named = own, [], {}
        @references = {}
        refuse("is longer than #{MOST_LENGTH} characters") if @text.length > MOST_LENGTH
        refuse("is nested too deeply") if @text.count("(") > 4 * MOST_DEPTH
        @steps = []
        @deepest = 0
        emit(parsed, 0)
        refuse("is too long a calculation") if @steps.size > MOST_STEPS
        refuse("is nested too deeply") if @deepest > MOST_DEPTH
      end

      # @return [Array<String>] its own names, in the order in which they come up
      attr_reader :names

      # @param values [Hash{String => Numeric}] what its own names stand for; 0 where it is not said
      # @return [Formula] itself
      def with(values)
        @named.each { |step, name| @steps[step] = [NUMBER, values.fetch(name, 0.0)] }
        @program = nil
        self
      end

      # @return [Boolean] whether it changes from frame to frame
      def moves? = @steps.any? { |kind, number| kind == VARIABLE && number < 2 }

      # @return [Boolean] whether its value depends on the place
      def spatial? = @steps.any? { |kind, number| kind == VARIABLE && number.between?(2, 7) }

      # @return [Boolean] whether it asks for {CHANNELS}
      def channels? = @steps.any? { |kind, number| kind == VARIABLE && number >= VARIABLES.size }

      # @return [Boolean] whether anything is divided in it
      def divides? = @steps.any? { |kind, _| DIVIDING.include?(kind) }

      # What {FormulaKernels} carry a formula out at.
      # @param first [Array<Float>] centre of the first cell; @param low [Array<Float>] the box's lowest
      #   corner; @param size [Array<Float>] its size; metres
      # @return [Kernel::Buffer] f32 [13]
      def self.setting(frame:, time:, seed:, first:, voxel:, low:, size:)
        Kernel::Buffer.of(:f32, [frame, time, seed, *first, voxel, *low, *size].map(&:to_f))
      end

      # Its value at a frame, where no place counts.
      # @param before [Numeric] what `value` is; @param given [Hash{Integer => Numeric}] of {#references}, by their step
      # @return [Float]
      def number(frame:, time:, seed:, before: 0.0, given: {})
        setting =
          Formula.setting(
            frame: frame, time: time, seed: seed, first: [0.0] * 3, voxel: 1.0, low: [0.0] * 3, size: [1.0] * 3
          )
        steps = @steps.each_with_index.map { |step, n| given.key?(n) ? [NUMBER, given[n]] : step }
        FormulaKernels.value(
          Kernel::Buffer.of(:f32, steps.flatten.map(&:to_f), steps.size, 2), setting, 0.0, 0.0, 0.0, before.to_f
        )[
          0
        ]
      end

      # @return [Kernel::Buffer] f32 [steps, 2]
      def program = @program ||= Kernel::Buffer.of(:f32, @steps.flatten.map(&:to_f), @steps.size, 2)

      private

      def parsed
        Grammar.new.parse(@text)
      rescue Parslet::ParseFailed => error
        at = deepest(error.parse_failure_cause).pos.charpos
        there = @text[at..].to_s.strip[0, 12]
        refuse("does not read as a formula at character #{at + 1}#{" (\"#{there}\")" unless there.empty?}")
      rescue SystemStackError
        refuse("is nested too deeply")
      end

      def deepest(cause)
        [cause, *cause.children.map { |child| deepest(child) }].max_by { |c| c.pos.charpos }
      end

      def emit(tree, depth)
        @deepest = [@deepest, depth].max
        refuse("is nested too deeply") if depth > MOST_DEPTH
        if tree.key?(:number) then @steps << [NUMBER, tree[:number].to_s.to_f]
        elsif tree.key?(:variable) then variable(tree[:variable][:name])
        elsif tree.key?(:reference) then reference(tree[:reference])
        elsif tree.key?(:call) then call(tree[:call], depth)
        elsif tree.key?(:negative)
          emit(tree[:negative], depth + 1)
          function("negative")
        else
          chain(tree[:chain], depth)
        end
      end

      def variable(name)
        number = @variables.index(name.to_s)
        return own(name.to_s) if number.nil? && (@names.include?(name.to_s) || @names.size < @own)

        number || refuse("uses #{name} at character #{name.offset + 1}, but there are only: " \
"#{@variables.join(", ")}")
        @steps << [VARIABLE, number]
      end

      def own(name)
        @names |= [name]
        @named[@steps.size] = name
        @steps << [NUMBER, 0.0]
      end

      def reference(name)
        refuse("asks for another dial (#{name.to_s[0, 40]}), which only a formula of a dial can") unless @dials
        @references[@steps.size] = name.to_s.strip
        @steps << [NUMBER, 0.0]
      end

      def call(tree, depth)
        name = tree[:name]
        unless TYPED.include?(name.to_s)
          refuse("calls #{name} at character #{name.offset + 1}, but there are only: #{TYPED.join(", ")}")
        end
        arguments =
          [tree[:arguments]].flatten.reject { |argument| argument == "" }.map { |argument| argument[:argument] }.compact
        wanted = FUNCTIONS[name.to_s]
        unless arguments.size == wanted
          refuse("gives #{name} #{arguments.size} numbers at character #{name.offset + 1}; it takes #{wanted}")
        end
        arguments.each_with_index { |argument, n| emit(argument, depth + 1 + n) }
        function(name.to_s)
      end

      def chain(tree, depth)
        emit(tree[:left], depth + 1)
        tree[:rest].each do |part|
          emit(part[:right], depth + 2)
          case (operator = part[:operator].to_s)
          when "<=" then function("more") && function("not")
          when ">=" then function("less") && function("not")
          else function(OPERATORS.fetch(operator))
          end
        end
      end

      def function(name) = @steps << [FUNCTION + FUNCTIONS.keys.index(name), 0]

      def refuse(reason)
        raise Refused.new("The formula #{@text[0, 60].inspect} #{reason}.", code: "bad_formula")
      end
    end
  end
end
