# frozen_string_literal: true

module Vumbral
  module Kernel
    # Arguments on their way: parts of records, and what one kernel hands to another.
    module Passing
      private

      # Whether this is a part of a record.
      def part?(node)
        node.is_a?(Prism::CallNode) && node.receiver.is_a?(Prism::LocalVariableReadNode) &&
          @signature.arguments[node.receiver.name].is_a?(Record)
      end

      # @return [Symbol, nil] what a local, an argument or a part of a record is called in C
      def name_of(node)
        return node.name if node.is_a?(Prism::LocalVariableReadNode)

        Record.part(node.receiver.name, node.name) if part?(node)
      end

      def read_part(node)
        parts = @signature.arguments[node.receiver.name].parts
        type = parts[node.name] or
          refuse(node, "#{node.receiver.name} has no #{node.name}; it has: #{parts.keys.join(", ")}")
        make(name_of(node).to_s, type.is_a?(Types::ArrayType) ? type : type.compute)
      end

      def pass(node, type, signature, argument)
        return pass_record(node, type, signature, argument) if type.is_a?(Record)
        return [coerce(expression(node), type.compute)] unless type.is_a?(Types::ArrayType)

        name = name_of(node)
        refuse(node, "an array belongs here") unless name && lookup(name) == type
        pass_array(name, type, signature, argument)
      end

      def pass_array(name, type, signature, argument)
        @passed << [name, signature, argument]
        [name.to_s, *sizes_of(name, type)]
      end

      def sizes_of(name, type)
        @signature.flat.key?(name) ? type.rank.times.map { |axis| "#{name}_n#{axis}" } : [@local_sizes.fetch(name).to_s]
      end

      # A record goes on whole.
      def pass_record(node, type, signature, argument)
        return made_record(node, type, signature, argument) if node.is_a?(Prism::CallNode) && node.name == :new

        given = node.is_a?(Prism::LocalVariableReadNode) && @signature.arguments[node.name]
        refuse(node, "the record #{argument} belongs here") unless given.equal?(type)
        type.parts.flat_map do |part, inner|
          from = Record.part(node.name, part)
          inner.is_a?(Types::ArrayType) ? pass_array(from, inner, signature, Record.part(argument, part)) : [from.to_s]
        end
      end

      # A record made on the spot, `Ray.new(x, y, z)`.
      def made_record(node, type, signature, argument)
        values = node.arguments&.arguments.to_a
        refuse(node, "the record #{argument} belongs here") unless resolve(node.receiver).equal?(type)
        refuse(node, "#{node.receiver.slice} has #{type.parts.size} parts") unless values.size == type.parts.size
        type
          .parts
          .zip(values)
          .flat_map { |(part, inner), value| pass(value, inner, signature, Record.part(argument, part)) }
      end
    end
  end
end
