# frozen_string_literal: true

module Vumbral
  module Kernel
    # The expressions of the kernel subset: each becomes C code with a type.
    module Expressions
      COMPARISONS = %i[< > <= >= == !=].freeze
      ARITHMETIC = %i[+ - * / % ** & | ^ << >>].freeze
      MATH = %i[sqrt sin cos tan exp log atan2 acos asin atan sinh cosh tanh].freeze
      RANKS = {bool: 0, i32: 1, i64: 2, f32: 3, f64: 4}.freeze

      private

      def expression(node, statement: false)
        case node
        when Prism::IntegerNode then whole_number(node.value)
        when Prism::FloatNode then fraction(node.value)
        when Prism::TrueNode then make("1", :bool)
        when Prism::FalseNode then make("0", :bool)
        when Prism::ParenthesesNode then parenthesised(node)
        when Prism::LocalVariableReadNode then read_local(node)
        when Prism::ConstantReadNode, Prism::ConstantPathNode then constant(node)
        when Prism::AndNode then make("(#{condition(node.left)} && #{condition(node.right)})", :bool)
        when Prism::OrNode then make("(#{condition(node.left)} || #{condition(node.right)})", :bool)
        when Prism::IfNode then ternary(node)
        when Prism::CallNode then call(node, statement: statement)
        else refuse(node, "#{describe(node)} cannot stand in a kernel")
        end
      end

      def make(code, type, literal = nil) = Translator::Expr.new(code, type, literal)

      def describe(node)
        node.class.name.split("::").last.delete_suffix("Node").gsub(/(?<=[a-z])([A-Z])/) { " #{$1}" }.downcase
      end

      def whole_number(value)
        make(value.to_s + ((value.abs > 0x7fffffff) ? "LL" : ""), (value.abs > 0x7fffffff) ? :i64 : :i32)
      end

      def fraction(value) = make("#{value}f", :f32, value)

      def parenthesised(node)
        refuse(node, "one expression belongs in these parentheses") unless node.body && node.body.body.size == 1
        inner = expression(node.body.body[0])
        make("(#{inner.code})", inner.type, inner.literal)
      end

      def read_local(node)
        type = lookup(node.name) or refuse(node, "#{node.name} has no value yet")
        make(node.name.to_s, type)
      end

      def constant(node)
        value = resolve(node)
        case value
        when Integer then whole_number(value)
        when Float then fraction(value)
        else refuse(node, "#{node.slice} is not a number")
        end
      end

      # Looks a constant up as Ruby would from inside the library.
      def resolve(node)
        nesting = @signature.owner.name.split("::")
        nesting.size.downto(0) do |count|
          home = Object.const_get((nesting.first(count).join("::").empty? ? "Object" : nesting.first(count).join("::")))
          return (
            node.slice.split("::").reduce(home) { |at, name| at.const_get(name, at.equal?(home) ? count.zero? : false) }
          )
        rescue NameError
          next
        end
        refuse(node, "there is no constant #{node.slice}")
      end

      def constant_number(node)
        number = node.is_a?(Prism::IntegerNode) ? node.value : resolve(node)
        number.is_a?(Integer) ? number : refuse(node, "a fixed whole number belongs here")
      end

      def condition(node)
        given = expression(node)
        refuse(node, "a condition must be true or false, this is a number") unless given.type == :bool
        given.code
      end

      def ternary(node)
        refuse(node, "this if needs an else to be a value") unless node.subsequent.is_a?(Prism::ElseNode)
        yes, no = [node.statements, node.subsequent.statements].map do |part|
          refuse(node, "one expression belongs in each branch of a value") unless part&.body&.size == 1
          expression(part.body[0])
        end
        type = common(node, yes, no)
        literal = nil
        make("(#{condition(node.predicate)} ? #{coerce(yes, type)} : #{coerce(no, type)})", type, literal)
      end

      def common(node, *values)
        return :bool if values.all? { |value| value.type == :bool }

        values.each do |value|
          refuse(node, "a number belongs here") unless RANKS.key?(value.type) && value.type != :bool
        end
        # A literal fraction takes the precision of what it stands beside.
        types = values.map { |value| (value.literal && values.any? { |other| other.type == :f64 }) ? :f64 : value.type }
        types.max_by { |type| RANKS.fetch(type) }
      end

      def coerce(value, type)
        return value.literal.to_s if value.literal && type == :f64
        return value.code if value.type == type
        unless RANKS.key?(value.type)
          raise OutsideSubset,
            "#{@signature.file}:#{@signature.line}: an array or several values stand where a number belongs"
        end

        "(#{Types::C_NAMES.fetch(type)})(#{value.code})"
      end

      def call(node, statement: false)
        name = node.name
        receiver = node.receiver
        arguments = node.arguments&.arguments || []
        if receiver.nil? && @signature.owner.kernels.key?(name)
          return kernel_call(node, @signature.owner, arguments,
            statement)
        end
        return conversion(node, arguments) if receiver.nil?
        return math(node, arguments) if receiver.is_a?(Prism::ConstantReadNode) && receiver.name == :Math
        return read_part(node) if part?(node)
        return kernel_call(node, library(receiver), arguments, statement) if library?(receiver, name)

        return element_read(node, receiver, arguments) if name == :[]
        return dimension(node, receiver, arguments) if name == :dim || name == :size
        return extreme(node, receiver) if receiver.is_a?(Prism::ArrayNode)
        if COMPARISONS.include?(name) || ARITHMETIC.include?(name)
          return binary(node, name, expression(receiver),
            expression(arguments[0]))
        end

        method_call(node, expression(receiver), arguments)
      end

      # A constant is a library of kernels, unless it is a number that is calculated with.
      def library?(receiver, name)
        constant = receiver.is_a?(Prism::ConstantReadNode) || receiver.is_a?(Prism::ConstantPathNode)
        constant && !(COMPARISONS + ARITHMETIC + %i[-@ to_f to_i abs]).include?(name)
      end

      def library(node)
        found = resolve(node)
        refuse(node, "#{node.slice} holds no kernels") unless found.respond_to?(:kernels)
        found
      end

      def kernel_call(node, owner, arguments, statement)
        signature = owner.kernels[node.name] or refuse(node, "#{node.name} is not a kernel of #{owner}")
        unless arguments.size == signature.arguments.size
          refuse(node,
            "#{node.name} takes #{signature.arguments.size} arguments")
        end
        refuse(node, "#{node.name} gives nothing back") if signature.returns.nil? && !statement
        @calls << signature
        codes =
          arguments
            .zip(signature.arguments)
            .flat_map { |given, (argument, type)| pass(given, type, signature, argument) }
        type = signature.returns.is_a?(Array) ? signature.returns : signature.returns&.compute
        make("#{Translator.symbol(signature)}(#{codes.join(", ")})", type || :void)
      end

      def conversion(node, arguments)
        type = {f64: :f64, i64: :i64}[node.name] or refuse(node, "there is no kernel #{node.name}")
        make(coerce(expression(arguments[0]), type), type)
      end

      def math(node, arguments)
        refuse(node, "Math.#{node.name} cannot stand in a kernel") unless MATH.include?(node.name)
        values = arguments.map { |argument| expression(argument) }
        type = (values.any? { |value| value.type == :f64 }) ? :f64 : :f32
        make("#{node.name}#{"f" if type == :f32}(#{values.map { |value| coerce(value, type) }.join(", ")})", type)
      end

      def element_read(node, receiver, arguments)
        place, type = element(node, receiver, arguments)
        make((type == :f32) ? "(float)#{place}" : place, type)
      end

      # @return [Array(String, Symbol)] the place in C and the type of what it holds
      def element(node, receiver, indices, write: false)
        name = name_of(receiver) or refuse(node, "only named arrays have elements")
        type = lookup(name)
        refuse(node, "#{name} is not an array") unless type.is_a?(Types::ArrayType)
        refuse(node, "#{name} has #{type.rank} dimensions, not #{indices.size}") unless indices.size == type.rank
        codes = indices.map { |index| index_code(index) }
        @written << name if write
        ["VT_AT#{type.rank}(#{name}, #{(codes + sizes_of(name, type)).join(", ")})", type.element.compute]
      end

      def index_code(node)
        given = expression(node)
        refuse(node, "an index is a whole number") unless %i[i32 i64].include?(given.type)
        given.code
      end

      def dimension(node, receiver, arguments)
        name = name_of(receiver)
        type = name && lookup(name)
        refuse(node, "only arrays have dimensions") unless type.is_a?(Types::ArrayType) && @signature.flat.key?(name)
        axis = (node.name == :size) ? 0 : constant_number(arguments[0])
        if axis >= type.rank || (node.name == :size && type.rank > 1)
          refuse(node,
            "#{name} has #{type.rank} dimensions")
        end
        make("#{name}_n#{axis}", :i32)
      end

      def extreme(node, list)
        refuse(node, "only min and max of a list can stand in a kernel") unless %i[min max].include?(node.name)
        values = list.elements.map { |element| expression(element) }
        type = common(node, *values)
        values
          .map { |value| coerce(value, type) }
          .reduce { |a, b| "vt_#{node.name}_#{type}(#{a}, #{b})" }
          .then { |code| make(code, type) }
      end

      def binary(node, operator, left, right)
        if COMPARISONS.include?(operator)
          type = common(node, left, right)
          return make("(#{coerce(left, type)} #{operator} #{coerce(right, type)})", :bool)
        end
        type = common(node, left, right)
        refuse(node, "true and false cannot be added") if type == :bool
        a, b = coerce(left, type), coerce(right, type)
        fractional = %i[f32 f64].include?(type)
        code = case operator
        when :** then power(node, left, right, type)
        when :/ then fractional ? "(#{a} / #{b})" : "vt_div_#{type}(#{a}, #{b})"
        when :% then "vt_mod_#{type}(#{a}, #{b})"
        when :&, :|, :^, :<<, :>>
          refuse(node, "#{operator} is for whole numbers") if fractional
          "(#{a} #{operator} #{b})"
        else "(#{a} #{operator} #{b})"
        end
        make(code, type)
      end

      def power(node, left, right, type)
        return "vt_square_#{type}(#{coerce(left, type)})" if right.code == "2"

        refuse(node, "whole numbers can only be squared") if %i[i32 i64].include?(type)
        "pow#{"f" if type == :f32}(#{coerce(left, type)}, #{coerce(right, type)})"
      end

      def method_call(node, value, arguments)
        f = (value.type == :f64) ? "" : "f"
        case node.name
        when :-@
          make("(-#{value.code})", value.type, value.literal && -value.literal)
        when :+@
          value
        when :!
          make("(!#{value.code})", :bool)
        when :abs
          make(
            %i[f32 f64].include?(value.type) ? "fabs#{f}(#{value.code})" : "vt_abs_#{value.type}(#{value.code})",
            value.type
          )
        when :to_i
          make("(int32_t)(#{value.code})", :i32)
        when :to_f
          make("(float)(#{value.code})", :f32)
        when :floor, :ceil
          make("(int32_t)#{node.name}#{f}(#{value.code})", :i32)
        when :round
          make("(int32_t)round#{f}(#{value.code})", :i32)
        when :clamp
          clamped(node, value, arguments)
        else
          refuse(node, "#{node.name} cannot stand in a kernel")
        end
      end

      def clamped(node, value, arguments)
        low, high = arguments.map { |argument| expression(argument) }
        type = common(node, value, low, high)
        make("vt_min_#{type}(vt_max_#{type}(#{coerce(value, type)}, #{coerce(low, type)}), #{coerce(high, type)})",
          type)
      end
    end
  end
end
