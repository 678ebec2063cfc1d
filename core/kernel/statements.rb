# frozen_string_literal: true

module Vumbral
  module Kernel
    # The statements of the kernel subset.
    module Statements
      private

      # Emits a body. With `result`, its last expression becomes the method's value.
      def block(statements, result: nil)
        nodes = statements ? statements.body : []
        nodes.each_with_index.map do |node, index|
          (result && index == nodes.size - 1) ? final(node, result) : statement(node)
        end.join
      end

      # The last statement of a kernel that gives something back.
      def final(node, result)
        case node
        when Prism::ReturnNode then statement(node)
        when Prism::IfNode
          refuse(node, "this if ends the kernel, so it needs an else") unless node.subsequent
          "if (#{condition(node.predicate)}) {\n#{block(node.statements, result: result)}} else {\n" \
"#{final_else(node.subsequent, result)}}\n"
        when Prism::ArrayNode then give_back(node, node.elements)
        else give_back(node, [node])
        end
      end

      def final_else(node, result)
        node.is_a?(Prism::ElseNode) ? block(node.statements, result: result) : final(node, result)
      end

      def statement(node)
        case node
        when Prism::LocalVariableWriteNode then write_local(node)
        when Prism::LocalVariableOperatorWriteNode then operate_local(node)
        when Prism::MultiWriteNode then write_several(node)
        when Prism::IndexOperatorWriteNode then operate_element(node)
        when Prism::IfNode, Prism::UnlessNode then branch(node)
        when Prism::WhileNode then "while (#{condition(node.predicate)}) {\n#{block(node.statements)}}\n"
        when Prism::BreakNode then leave(node, "break")
        when Prism::NextNode then leave(node, "continue")
        when Prism::ReturnNode then give_back(node, returned(node))
        when Prism::CallNode then call_statement(node)
        else refuse(node, "#{describe(node)} cannot stand in a kernel")
        end
      end

      def returned(node)
        values = node.arguments&.arguments || []
        (values.size == 1 && values[0].is_a?(Prism::ArrayNode)) ? values[0].elements : values
      end

      def give_back(node, values)
        refuse(node, "a kernel cannot return out of parallel") if @scopes.any?(&:parallel)
        wanted = [@signature.returns].flatten.compact
        return "return;\n" if wanted.empty? && values.empty?

        refuse(node, "gives back #{values.size} values but declares #{wanted.size}") unless values.size == wanted.size
        codes = values.zip(wanted).map { |value, type| coerce(expression(value), type.compute) }
        return "return #{codes[0]};\n" unless @signature.returns.is_a?(Array)

        "return (#{return_type}){#{codes.join(", ")}};\n"
      end

      def leave(node, word)
        refuse(node, "there is no loop around this") if @loops.to_a.empty?
        refuse(node, "parallel cannot be left early") if word == "break" && @loops.last == :parallel
        "#{word};\n"
      end

      def write_local(node)
        value = node.value
        return reduce(node, value) if reduction?(value)
        return local_array(node, value) if value.is_a?(Prism::CallNode) && value.receiver.nil? && %i[local_f32
          local_i32].include?(value.name)

        given = expression(value)
        type = assignable(node, node.name, given.type)
        "#{node.name} = #{coerce(given, type)};\n"
      end

      def operate_local(node)
        current = lookup(node.name) or refuse(node, "#{node.name} has no value yet")
        sum = binary(node, node.binary_operator, Translator::Expr.new(node.name.to_s, current), expression(node.value))
        type = assignable(node, node.name, sum.type)
        "#{node.name} = #{coerce(sum, type)};\n"
      end

      def local_array(node, call)
        size = constant_number(call.arguments.arguments[0])
        (@local_sizes ||= {})[node.name] = size
        declare(node.name, Types::ArrayType.new((call.name == :local_f32) ? Types::F32 : Types::I32, 1))
        ""
      end

      def write_several(node)
        names = node.lefts
        if node.value.is_a?(Prism::ArrayNode)
          given = node.value.elements.map { |element| expression(element) }
          temporaries = given.map { fresh("t") }
          set =
            given
              .zip(temporaries)
              .map { |value, name| "#{Types::C_NAMES.fetch(value.type)} #{name} = #{value.code};\n" }
              .join
          values = given.zip(temporaries).map { |value, name| Translator::Expr.new(name, value.type) }
        else
          tuple = expression(node.value)
          refuse(node, "the right side gives one value") unless tuple.type.is_a?(Array)
          name = fresh("r")
          set = "#{Translator.return_type(tuple.type)} #{name} = #{tuple.code};\n"
          values = tuple.type.each_with_index.map { |type, i| Translator::Expr.new("#{name}.v#{i}", type.compute) }
        end
        refuse(node, "#{names.size} names for #{values.size} values") unless names.size == values.size

        # The braces keep the temporaries to themselves; locals are declared further out.
        "{ #{set}#{names.zip(values).map { |target, value| assign_target(target, value) }.join} }\n"
      end

      def assign_target(target, value)
        case target
        when Prism::LocalVariableTargetNode
          type = assignable(target, target.name, value.type)
          "#{target.name} = #{coerce(value, type)};\n"
        when Prism::IndexTargetNode
          place, type = element(target, target.receiver, target.arguments.arguments, write: true)
          "#{place} = #{coerce(value, type)};\n"
        else refuse(target, "only locals and array elements can be assigned")
        end
      end

      def operate_element(node)
        place, type = element(node, node.receiver, node.arguments.arguments, write: true)
        sum = binary(node, node.binary_operator, Translator::Expr.new(place, type), expression(node.value))
        "#{place} = #{coerce(sum, type)};\n"
      end

      def branch(node)
        test = condition(node.predicate)
        test = "!(#{test})" if node.is_a?(Prism::UnlessNode)
        code = "if (#{test}) {\n#{block(node.statements)}}"
        rest = node.is_a?(Prism::UnlessNode) ? node.else_clause : node.subsequent
        return "#{code}\n" unless rest

        inner = rest.is_a?(Prism::ElseNode) ? block(rest.statements) : branch(rest)
        "#{code} else {\n#{inner}}\n"
      end

      def call_statement(node)
        return element_write(node) if node.name == :[]=
        return parallel_loop(node) if node.receiver.nil? && node.name == :parallel
        return cell_loop(node) if node.receiver.nil? && node.name == :each_cell
        return loop_statement(node) if node.block

        "#{expression(node, statement: true).code};\n"
      end

      def element_write(node)
        *index, value = node.arguments.arguments
        place, type = element(node, node.receiver, index, write: true)
        "#{place} = #{coerce(expression(value), type)};\n"
      end

      def parallel_loop(node)
        count, uneven = parallel_arguments(node)
        variable, body = body_of(node, :parallel)
        "#pragma omp parallel for num_threads(vt_threads) schedule(#{uneven ? "dynamic, 1" : "static"})\n" \
          "for (int32_t #{variable} = 0; #{variable} < #{count}; #{variable}++) #{row("void", variable, body)};\n"
      end

      # All cells of a three-dimensional array, layers in parallel.
      def cell_loop(node)
        given = node.arguments&.arguments.to_a
        variables = node.block&.parameters&.parameters&.requireds.to_a.map(&:name)
        unless given.size == 1 && variables.size == 3
          refuse(node, "each_cell takes an array and a block of three numbers")
        end
        name = name_of(given[0])
        type = name && lookup(name)
        unless type.is_a?(Types::ArrayType) && type.rank == 3
          refuse(node, "each_cell goes over a three-dimensional array")
        end
        refuse(node, "each_cell cannot stand inside a loop or another parallel") if @loops.to_a.any?
        k, j, i = variables
        body =
          nested([[k, :parallel], [j, :loop], [i, :loop]]) do
            node.block.body.body.map { |inner| statement(inner) }.join
          end
        rows = "for (int32_t #{j} = 0; #{j} < #{name}_n1; #{j}++) {\n" \
          "for (int32_t #{i} = 0; #{i} < #{name}_n2; #{i}++) {\n#{body}} }\n"
        "#pragma omp parallel for num_threads(vt_threads) schedule(static)\n" \
          "for (int32_t #{k} = 0; #{k} < #{name}_n0; #{k}++) #{row("void", k, rows)};\n"
      end

      # The body of loops in one another; what it declares lives in the innermost.
      def nested(loops)
        loops.each do |variable, kind|
          @scopes.push(Translator::Scope.new({variable => :i32}, kind == :parallel))
          (@loops ||= []).push(kind)
        end
        code = yield
        @scopes.last.locals.delete(loops.last[0])
        declarations(@scopes.last) + code
      ensure
        loops.each { @loops.pop && @scopes.pop }
      end

      # Each row of a parallel loop is a function of its own: there the compiler still knows
      # that arrays do not overlap, which it forgets inside an OpenMP region.
      def row(returns, variable, body)
        outer = @scopes.last.locals.map do |name, type|
          type.is_a?(Types::ArrayType) ? "#{type.element.store} *restrict #{name}" : "#{Types::C_NAMES.fetch(type)} " \
"#{name}"
        end
        parameters = ["int32_t #{variable}", *parameters(), *outer]
        name = "#{Translator.symbol(@signature)}_#{fresh("row")}"
        @rows << "static __attribute__((noinline)) #{returns} #{name}(#{parameters.join(", ")}) {\n#{body}}\n"
        "#{name}(#{parameters.map { |parameter| parameter[/\w+\z/] }.join(", ")})"
      end

      def parallel_arguments(node)
        refuse(node, "parallel cannot stand inside a loop or another parallel") if @loops.to_a.any?
        count, options = node.arguments&.arguments
        refuse(node, "parallel needs a count") unless count
        [coerce(expression(count), :i32), !options.nil?]
      end

      def reduction?(node)
        node.is_a?(Prism::CallNode) && node.receiver.nil? && %i[parallel_sum parallel_max].include?(node.name)
      end

      # Each row's value is kept and added in order, so that reruns give the same bytes.
      def reduce(node, call)
        count, = parallel_arguments(call)
        rows = fresh("rows")
        number = fresh("n")
        variable, body = body_of(call, :parallel) { |last| "return #{coerce(expression(last), :f64)};\n" }
        assignable(node, node.name, :f64)
        fold = if call.name == :parallel_sum
          "#{node.name} += #{rows}[row];"
        else
          # What is not a number stays.
          "if (#{node.name} == #{node.name} && !(#{rows}[row] <= #{node.name})) #{node.name} = #{rows}[row];"
        end
        "{ int32_t #{number} = #{count};\ndouble *#{rows} = (double *)malloc(sizeof(double) * (#{number} + 1));\n" \
          "#pragma omp parallel for num_threads(vt_threads) schedule(static)\n" \
          "for (int32_t #{variable} = 0; #{variable} < #{number}; #{variable}++) #{rows}[#{variable}] = " \
"#{row("double", variable, body)};\n" \
          "#{node.name} = #{(call.name == :parallel_sum) ? "0.0" : "#{number} > 0 ? #{rows}[0] : 0.0"};\n" \
          "for (int32_t row = 0; row < #{number}; row++) { #{fold} }\nfree(#{rows}); }\n"
      end

      def variable_of(call)
        parameters = call.block&.parameters&.parameters
        refuse(call, "the block takes one number") unless parameters && parameters.requireds.size == 1
        parameters.requireds[0].name
      end

      # Emits a block's body in a scope of its own; yields the last node when it is a value.
      def body_of(call, kind)
        variable = variable_of(call)
        scope = Translator::Scope.new({variable => :i32}, kind == :parallel)
        @scopes.push(scope)
        (@loops ||= []).push(kind)
        nodes = call.block.body ? call.block.body.body : []
        code = if block_given?
          nodes[0...-1].map { |node| statement(node) }.join + yield(nodes.last)
        else
          nodes.map { |node| statement(node) }.join
        end
        scope.locals.delete(variable)
        [variable, declarations(scope) + code]
      ensure
        @loops.pop
        @scopes.pop
      end

      def loop_statement(node)
        from, test, step = loop_bounds(node)
        if node.block.parameters
          variable, body = body_of(node, :loop)
        else
          refuse(node, "the block takes one number")
        end
        first, limit, stride = fresh("a"), fresh("b"), fresh("s")
        "{ int32_t #{first} = #{from[0]}, #{limit} = #{from[1]}, #{stride} = #{step};\n(void)#{stride};\n" \
          "for (int32_t #{variable} = #{first}; #{variable} #{test} #{limit}; #{variable} += " \
"#{(step == "1" || step == "-1") ? step : stride}) {\n#{body}} }\n"
      end

      def loop_bounds(node)
        arguments = node.arguments&.arguments || []
        case node.name
        when :times then [["0", whole(node.receiver)], "<", "1"]
        when :upto then [[whole(node.receiver), whole(arguments[0])], "<=", "1"]
        when :downto then [[whole(node.receiver), whole(arguments[0])], ">=", "-1"]
        when :step then [[whole(node.receiver), whole(arguments[0])], "<=", whole(arguments[1])]
        when :each then range_bounds(node)
        else refuse(node, "#{node.name} with a block cannot stand in a kernel")
        end
      end

      def range_bounds(node)
        range = node.receiver
        range = range.body.body[0] if range.is_a?(Prism::ParenthesesNode)
        refuse(node, "each goes over a range of whole numbers") unless range.is_a?(Prism::RangeNode)
        [[whole(range.left), whole(range.right)], (range.operator == "...") ? "<" : "<=", "1"]
      end

      def whole(node)
        given = expression(node)
        refuse(node, "a loop counts whole numbers") unless %i[i32 i64].include?(given.type)
        given.code
      end
    end
  end
end
