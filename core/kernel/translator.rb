# frozen_string_literal: true

require "prism"

module Vumbral
  module Kernel
    # Turns one kernel (a Ruby method) into a C function.
    #
    # The subset: arithmetic, comparison and logic; local variables whose type is that of
    # their first value; `if`/`unless`/`while`, ternaries, `n.times`, `a.upto(b)`,
    # `a.downto(b)`, `(a...b).each`, `break`, `next`, `return`; `array[k, j, i]`,
    # `array.dim(0)`; `Math.*`, `abs floor ceil round to_i to_f clamp`, `[a, b].min`;
    # number constants; calls of other kernels; and, at the outermost level,
    # `parallel(n) { |k| }`, `each_cell(array) { |k, j, i| }`, `parallel_sum` and `parallel_max`;
    # parts of a {Record}.
    # Whole numbers divide and take remainders as in Ruby (towards minus infinity).
    # Anything else raises {OutsideSubset} with file, line and reason.
    class Translator
      include Expressions
      include Passing
      include Statements

      Expr = Struct.new(:code, :type, :literal)
      # A scope in which locals may be declared: the function, or the body of a block.
      Scope = Struct.new(:locals, :parallel)

      attr_reader :signature, :calls, :written, :passed

      # @param signature [Signature]
      def initialize(signature)
        @signature = signature
        @calls = []
        @written = []
        @passed = []
        @rows = []
        @scopes = [Scope.new({}, false)]
        @counter = 0
      end

      # @return [String] the C definition of the kernel
      def translate
        definition = Source.definition(@signature)
        # The body goes first: it finds out which locals there are.
        body = block(definition.body, result: @signature.returns)
        @body = "{\n#{declarations(@scopes.last)}#{body}}\n"
      end

      # @return [String] the C function, once it was translated
      def definition = "#{@rows.join("\n")}\n#{head} #{@body}"

      # @return [Integer] how long it is, letters
      def size = @body.size

      # Whether it stands apart: is called, and not laid into those who call it.
      attr_accessor :apart

      # Whether it is laid into those who call it: what fills an array of the caller's as well as what gives a number
      # back. A kernel that is parallel itself gains nothing by it.
      def lay_in? = @signature.returns || @rows.empty?

      # @return [String] the C function's head
      def head
        way = @apart ? "__attribute__((noinline)) " : "inline __attribute__((always_inline)) "
        "static #{way if lay_in? || @apart}#{return_type} #{self.class.symbol(@signature)}(" \
"#{parameters.join(", ")})"
      end

      def return_type = self.class.return_type(@signature.returns)

      def parameters = @signature.flat.flat_map { |name, type| self.class.parameter(name, type) }

      def self.symbol(signature)
        "k_#{signature.owner.name.split("::").drop(1).join("_")}_#{c_name(signature.name)}"
      end

      # A kernel's name as C takes it; questions are asked in Ruby only.
      def self.c_name(name) = name.to_s.sub("?", "_p")

      def self.return_type(returns)
        case returns
        when nil then "void"
        when Array then "vt_#{returns.map(&:compute).join("_")}"
        else Types::C_NAMES.fetch(returns.compute)
        end
      end

      def self.parameter(name, type)
        return ["#{Types::C_NAMES.fetch(type.compute)} #{name}"] unless type.is_a?(Types::ArrayType)

        ["#{type.element.store} *restrict #{name}"] + type.rank.times.map { |axis| "int32_t #{name}_n#{axis}" }
      end

      private

      def refuse(node, reason)
        raise OutsideSubset, "#{@signature.file}:#{node.location.start_line}: #{reason}"
      end

      def declarations(scope)
        scope.locals.map do |name, type|
          case type
          when Types::ArrayType then "  #{type.element.store} #{name}[#{scope_size(name)}];\n"
          else "  #{Types::C_NAMES.fetch(type)} #{name} = 0;\n"
          end
        end.join
      end

      def scope_size(name) = @local_sizes.fetch(name)

      def lookup(name)
        argument = @signature.flat[name]
        return argument.is_a?(Types::ArrayType) ? argument : argument.compute if argument

        @scopes.reverse_each { |scope| return scope.locals[name] if scope.locals.key?(name) }
        nil
      end

      # Declares or checks the local that takes a value.
      def assignable(node, name, type)
        if @signature.arguments.key?(name) || @signature.flat.key?(name)
          refuse(node,
            "#{name} is an argument; give the changed value a name of its own")
        end
        found = lookup(name)
        return declare(name, type) unless found

        inner = @scopes.rindex { |scope| scope.parallel }
        home = @scopes.rindex { |scope| scope.locals.key?(name) }
        if inner && home < inner
          refuse(node,
            "#{name} belongs to the code outside parallel and cannot be written inside it; sum with parallel_sum")
        end
        if found == :i32 && %i[f32 f64].include?(type)
          refuse(node, "#{name} began as a whole number and becomes a fraction here; begin it with 0.0")
        end
        found
      end

      def declare(name, type)
        @scopes.last.locals[name] = type
      end

      def fresh(prefix)
        @counter += 1
        "#{prefix}_#{@counter}"
      end
    end
  end
end
