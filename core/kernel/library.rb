# frozen_string_literal: true

module Vumbral
  module Kernel
    # Raised when a kernel leaves the subset of Ruby that the translator knows.
    class OutsideSubset < StandardError; end

    # A kernel's declaration: its arguments with their types, what it gives back, and the
    # Ruby method that defines it.
    Signature = Struct.new(:name, :arguments, :returns, :method, :owner) do
      def file = method.source_location[0]

      # @return [Hash{Symbol => Types::Scalar, Types::ArrayType}] the arguments, records taken apart
      def flat
        @flat ||= arguments.each_with_object({}) do |(name, type), all|
          next all[name] = type unless type.is_a?(Record)

          type.parts.each { |part, inner| all[Record.part(name, part)] = inner }
        end
      end

      def line = method.source_location[1]

      def records? = flat.size != arguments.size || arguments.each_value.any?(Record)
    end

    # Extend a module with this to make its methods kernels:
    #
    #     module Fading
    #       extend Kernel::Library
    #
    #       kernel field: F32[3], factor: F32
    #       def fade(field, factor)
    #         parallel(field.dim(0)) do |k|
    #           field.dim(1).times { |j| field.dim(2).times { |i| field[k, j, i] *= factor } }
    #         end
    #       end
    #     end
    #
    # `each_cell(field) { |k, j, i| … }` says the same three loops in one. Arguments that belong together
    # travel as a {Record}.
    #
    # `Fading.fade(buffer, 0.5)` runs the built version; within {Kernel.reference} the same
    # call runs the method as plain Ruby.
    module Library
      def self.extended(base)
        base.include(Types, Reference)
        Kernel.libraries << base
      end

      # Declares the next method as a kernel.
      # @param returns [Types::Scalar, Array<Types::Scalar>, nil]
      # @param arguments [Hash{Symbol => Types::Scalar, Types::ArrayType, Record}] in order
      def kernel(returns: nil, **arguments)
        @pending = [arguments, returns]
      end

      # @return [Hash{Symbol => Signature}]
      def kernels = @kernels ||= {}

      def method_added(name)
        super
        return unless @pending

        arguments, returns = @pending
        @pending = nil
        method = instance_method(name)
        given = method.parameters.map(&:last)
        unless given == arguments.keys
          raise OutsideSubset,
            "#{method.source_location.join(":")}: #{name} takes #{given.join(", ")} but declares " \
              "#{arguments.keys.join(", ")}"
        end

        kernels[name] = Signature.new(name, arguments, returns, method, self)
        define_singleton_method(name) do |*values|
          Kernel.reference? ? ruby_host.public_send(name, *values) : native.call(name, values)
        end
      end

      # @api private
      def native = @native ||= Native.new(self)

      private

      def ruby_host = @ruby_host ||= Object.new.extend(self)
    end
  end
end
