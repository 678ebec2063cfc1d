# frozen_string_literal: true

require "zstd-ruby"

module Vumbral
  module Studio
    # Pictures of light as files, in halves.
    module HalfPicture
      module_function

      # @param image [Kernel::Buffer] f32 [h, w, channels]
      # @return [Array(String, Kernel::Buffer)] the file, and the picture as {.read} gives it
      def packed(image)
        halves = Kernel::Buffer.new(:f16, *image.shape)
        Finish::PackKernels.pack(halves, image)
        [Zstd.compress(image.shape.pack("L<3") + halves.bytes, level: 1), unpacked(halves)]
      end

      def unpacked(halves) =
        Kernel::Buffer.new(:f32, *halves.shape).tap { |image| Finish::PackKernels.unpack(image, halves) }

      # @param path [String]
      # @return [Kernel::Buffer, nil] as {.packed} took it, in halves; nothing where it is gone or damaged
      def read(path)
        raw = Zstd.decompress(File.binread(path))
        shape = raw.unpack("L<3")
        FileUtils.touch(path)
        unpacked(Kernel::Buffer.new(:f16, *shape, bytes: raw[12..]))
      rescue Errno::ENOENT, RuntimeError, ArgumentError
        nil
      end
    end
  end
end
