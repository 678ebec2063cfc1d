# frozen_string_literal: true

require "prism"

module Vumbral
  module Kernel
    # Finds the syntax tree of a method in the file that defines it.
    module Source
      module_function

      # @param signature [Signature]
      # @return [Prism::DefNode]
      def definition(signature)
        tree(signature.file).fetch([signature.name, signature.line])
      end

      def tree(file)
        @trees ||= {}
        @trees[file] ||= begin
          parsed = Prism.parse_file(file)
          raise OutsideSubset, "#{file}: does not parse" unless parsed.success?

          found = {}
          visit(parsed.value) { |node| found[[node.name, node.location.start_line]] = node }
          found
        end
      end

      def visit(node, &block)
        yield node if node.is_a?(Prism::DefNode)
        node.compact_child_nodes.each { |child| visit(child, &block) }
      end
      private_class_method :visit, :tree
    end
  end
end
