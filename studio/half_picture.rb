# frozen_string_literal: true

require "zstd-ruby"

module Vumbral
  module Studio
    # Pictures of light as files, in halves.
    module HalfPicture
      module_function

      # @param image [Kernel::Buffer] f32 [h, w, channels]
      # @return [String]
      def bytes(image)
        packed = Kernel::Buffer.new(:f16, *image.shape)
        Finish::PackKernels.pack(packed, image)
        Zstd.compress(image.shape.pack("L<3") + packed.bytes, level: 1)
      end

      # @param path [String]
      # @return [Kernel::Buffer, nil] as {.bytes} took it, in halves; nothing where it is gone or damaged
      def read(path)
        raw = Zstd.decompress(File.binread(path))
        shape = raw.unpack("L<3")
        packed = Kernel::Buffer.new(:f16, *shape, bytes: raw[12..])
        FileUtils.touch(path)
        Kernel::Buffer.new(:f32, *shape).tap { |image| Finish::PackKernels.unpack(image, packed) }
      rescue Errno::ENOENT, RuntimeError, ArgumentError
        nil
      end
    end
  end
end
