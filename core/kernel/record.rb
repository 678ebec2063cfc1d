# frozen_string_literal: true

module Vumbral
  module Kernel
    # A few arguments of kernels that belong together, handed on as one: three faces of a velocity, a
    # grid's place and voxel, a tree of triangles. In a kernel its parts are read by their names
    # (`faces.u[k, j, i]`, `place.voxel`); to the compiler they are arguments like any other, so a record
    # costs nothing.
    #
    #     Faces = Kernel::Record.of(u: F32[3], v: F32[3], w: F32[3])
    #
    #     kernel faces: Faces, factor: F32
    #     def slow(faces, factor)
    module Record
      # @param parts [Hash{Symbol => Types::Scalar, Types::ArrayType}] in order
      # @yield what else the Struct shall know
      # @return [Class] a Struct of these parts
      def self.of(**parts, &more)
        Struct.new(*parts.keys) do
          extend Record

          const_set(:PARTS, parts.freeze)
          class_eval(&more) if more
        end
      end

      # @return [Hash{Symbol => Types::Scalar, Types::ArrayType}]
      def parts = self::PARTS

      # @return [Symbol] what a part of an argument is called among all arguments
      def self.part(argument, part) = :"#{argument}__#{part}"
    end
  end
end
