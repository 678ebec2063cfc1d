# frozen_string_literal: true

module Vumbral
  module Picture
    # Coloured pictures as props show them: each with itself in halves, so that what is far off does not shimmer.
    module Pictures
      # So many are kept ready.
      KEPT = 12

      @kept = {}
      @lock = Mutex.new

      module_function

      # @param digests [Array<String>]; @param meshes [#coloured]
      # @return [Array(Kernel::Buffer, Hash{String => Array<Float>})] f32 [n, 4], linear red, green, blue and alpha of
      #   all pictures and their halves; and where each begins there, how wide and how high it is
      def stack(digests, meshes)
        at = 0
        bytes = []
        places = digests.uniq.to_h do |digest|
          picture, pyramid = of(digest, meshes)
          bytes << pyramid
          place = [at.to_f, picture.dim(1).to_f, picture.dim(0).to_f]
          at += pyramid.bytesize / 16
          [digest, place]
        end
        [at.zero? ? Kernel::Buffer.new(:f32, 1, 4) : Kernel::Buffer.new(:f32, at, 4, bytes: bytes.join), places]
      end

      # @return [Array(Kernel::Buffer, String)]
      def of(digest, meshes)
        picture = meshes.coloured(digest)
        @lock.synchronize do
          @kept.shift if @kept.size >= KEPT && !@kept.key?(digest)
          @kept[digest] ||= [picture, pyramid(picture)]
        end
      end

      def pyramid(picture)
        parts = [picture]
        while parts.last.shape.first(2).max > 1
          half = Kernel::Buffer.new(:f32, *parts.last.shape.first(2).map { |n| [n / 2, 1].max }, 4)
          PictureKernels.halve(half, parts.last)
          parts << half
        end
        parts.map(&:bytes).join
      end
      private_class_method :of, :pyramid
    end
  end
end
