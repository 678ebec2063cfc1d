# frozen_string_literal: true

require "json"
require "zlib"
require "zstd-ruby"

module Vumbral
  module Studio
    # Simulated frames on disk, each under the key of what made it. A frame holds the bricks
    # that have content; a checkpoint holds the whole state, enough to go on from exactly.
    class FrameStore
      LEVEL = 1

      def initialize(workshop)
        @workshop = workshop
      end

      # @return [Boolean]
      def frame?(key) = File.exist?(path(key))

      def checkpoint?(key) = File.exist?(path(key, "state"))

      # @param bricks [Grid::Bricks]
      # @param facts [Hash] what is worth knowing of the frame: seconds, speed, substeps, …
      # @return [Integer] bytes written
      # @param finer [Integer] how many times finer than the plan's its voxels are
      def write(key, frame, bricks, plan, facts, finer: 1)
        voxel = plan.voxel / finer
        head = {size: bricks.size, origin: bricks.origin, channels: bricks.channels, voxel: voxel, corner: bricks.corner(plan.corner, voxel), count: bricks.count, frame: frame}
        bytes = pack(head, bricks.places.bytes + bricks.values.bytes)
        @workshop.home.write(path(key), bytes)
        @workshop.db[:frames].insert_conflict(:replace).insert(key: key, frame: frame, bytes: bytes.bytesize, facts: JSON.generate(facts))
        bytes.bytesize
      end

      # @return [Array(Grid::Bricks, Hash)] the frame and its head (voxel, corner, frame)
      def read(key)
        head, body = unpack(path(key))
        split = head["count"] * 12
        places = Kernel::Buffer.new(:i32, head["count"], 3, bytes: body[0, split])
        channels = head["channels"].map(&:to_sym)
        values = Kernel::Buffer.new(:f16, head["count"], channels.size, Grid::Bricks::EDGE**3, bytes: body[split..])
        [Grid::Bricks.new(head["size"], places, values, channels: channels, origin: head["origin"]), head]
      end

      # Keeps a state whole. @param state [Gas::State]
      def write_checkpoint(key, state)
        shapes = state.fields.transform_values(&:shape)
        @workshop.home.write(path(key, "state"), pack({shapes: shapes, time: state.time, origin: state.origin}, state.fields.values.map(&:bytes).join))
      end

      # @return [Gas::State, nil] nil where there is none, or a damaged one
      def checkpoint(key)
        return unless checkpoint?(key)

        head, body = unpack(path(key, "state"))
        at = 0
        state = Gas::State.new
        head["shapes"].each do |name, shape|
          length = shape.reduce(:*) * 4
          state[name] = Kernel::Buffer.new(:f32, *shape, bytes: body[at, length])
          at += length
        end
        state.time, state.origin = head["time"], head["origin"]
        state
      rescue Refused
        nil
      end

      # @return [Hash{String => Hash}] facts of the frames that are here, by key
      def facts(keys)
        keys.each_slice(500).flat_map { |some| @workshop.db[:frames].where(key: some).select_map(%i[key facts bytes]) }
          .to_h { |key, facts, bytes| [key, JSON.parse(facts).merge("bytes" => bytes)] }
      end

      private

      def path(key, ending = "frame")
        raise Refused.new("#{key.to_s[0, 40].inspect} is not the key of a frame.", code: "bad_path") unless key.to_s.match?(/\A[0-9a-f]{32}\z/)

        @workshop.home.within("frames", key[0, 2], "#{key}.#{ending}")
      end

      def pack(head, body)
        head = JSON.generate(head)
        packed = Zstd.compress(body, level: LEVEL)
        ["VMBR", head.bytesize].pack("a4L<") + head + [Zlib.crc32(packed)].pack("L<") + packed
      end

      def unpack(path)
        bytes = File.binread(path)
        mark, length = bytes.unpack("a4L<")
        sum = bytes[8 + length, 4]&.unpack1("L<") if mark == "VMBR"
        body = sum && bytes[12 + length..]
        unless body && Zlib.crc32(body) == sum
          File.delete(path)
          raise Refused.new("A stored frame was damaged and has been taken away; run the shot again to make it anew.", code: "damaged")
        end
        [JSON.parse(bytes[8, length]), Zstd.decompress(body)]
      rescue Errno::ENOENT
        raise Refused.new("A stored frame is gone; run the shot again to make it anew.", code: "no_frame")
      end
    end
  end
end
