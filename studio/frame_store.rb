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
      # What a clock tells is no part of a frame, which is the same bytes every time.
      CLOCKED = %w[seconds paced refining].freeze

      def initialize(workshop)
        @workshop = workshop
      end

      # @return [Boolean] whether the whole frame is here: its row, and its file as long as the row says
      def frame?(key)
        bytes = table.where(key: key).get(:bytes)
        !bytes.nil? && File.size?(path(key)) == bytes
      end

      # @param keys [Array<String>] @return [Set<String>] those whose frames are there
      def there(keys)
        rows = keys.each_slice(500).flat_map { |some| table.where(key: some).select_map(%i[key bytes]) }
        rows.filter_map { |key, bytes| key if File.size?(path(key)) == bytes }.to_set
      end

      def checkpoint?(key) = File.exist?(path(key, "state"))

      # @param bricks [Grid::Bricks]
      # @param facts [Hash] what is worth knowing of the frame: seconds, speed, substeps, …
      # @param finer [Integer] how many times finer than the plan's its voxels are
      # @return [Integer] bytes written
      def write(key, frame, bricks, plan, facts, finer: 1)
        voxel = plan.voxel / finer
        head = {size: bricks.size, origin: bricks.origin, channels: bricks.channels, voxel: voxel,
                corner: bricks.corner(plan.corner, voxel), count: bricks.count, frame: frame,
                facts: facts.transform_keys(&:to_s).except(*CLOCKED)}
        bytes = pack(head, bricks.places.bytes + bricks.values.bytes)
        @workshop.home.write(path(key), bytes)
        record(key, frame, bytes.bytesize, facts)
        bytes.bytesize
      end

      # Those of sculpts are made now, where they are not there yet.
      # @return [Array(Grid::Bricks, Hash)] the frame and its head (voxel, corner, frame)
      def read(key)
        @workshop.sculpts.make(key) unless File.exist?(path(key))
        head, body = unpack(path(key))
        split = head["count"] * 12
        places = Kernel::Buffer.new(:i32, head["count"], 3, bytes: body[0, split])
        channels = head["channels"].map(&:to_sym)
        values = Kernel::Buffer.new(:f16, head["count"], channels.size, Grid::Bricks::EDGE**3, bytes: body[split..])
        [Grid::Bricks.new(head["size"], places, values, channels: channels, origin: head["origin"]), head]
      end

      # Keeps something else of a frame, as named buffers.
      # @param ending [String] what its file is called by; @param head [Hash]; @param buffers [Hash{Symbol =>
      #   Kernel::Buffer}]
      # @return [Integer] bytes written
      def write_part(key, ending, head, buffers)
        shapes = buffers.transform_values { |buffer| [buffer.type.name, buffer.shape] }
        bytes = pack({head: head, buffers: shapes}, buffers.values.map(&:bytes).join)
        @workshop.home.write(path(key, ending), bytes)
        bytes.bytesize
      end

      # @return [Array(Hash, Hash{Symbol => Kernel::Buffer}), nil] nil where there is none, or a damaged one
      def part(key, ending)
        return unless File.exist?(path(key, ending))

        head, body = unpack(path(key, ending))
        at = 0
        buffers = head["buffers"].to_h do |name, (type, shape)|
          length = shape.reduce(1, :*) * Kernel::Types::ALL.fetch(type.to_sym).bytes
          [name.to_sym, Kernel::Buffer.new(type.to_sym, *shape, bytes: body.byteslice(at, length)).tap { at += length }]
        end
        [head["head"], buffers]
      rescue Refused
        nil
      end

      # @return [Boolean] whether a frame has such a part
      def part?(key, ending) = File.exist?(path(key, ending))

      # A frame that is here whole and in which the same flows. @param flow [String] see {Liquid::Plan#flows}
      # @return [String, nil] its key
      def flowing(flow) = table.where(flow: flow).select_map(:key).find { |key| frame?(key) && part?(key, "skin") }

      # Gives a frame what another one has, without a copy where the disk allows that.
      # @param endings [Array<String>] parts that are there
      def share(from, key, endings)
        endings.each do |ending|
          next unless part?(from, ending)

          to = path(key, ending)
          FileUtils.mkdir_p(File.dirname(to))
          FileUtils.ln(path(from, ending), to, force: true)
        rescue NotImplementedError, Errno::EPERM, Errno::EMLINK, Errno::EXDEV, Errno::ENOTSUP
          @workshop.home.write(to, File.binread(path(from, ending)))
        end
      end

      # Keeps states whole. @param states [Array<Gas::State>] one for each domain
      def write_checkpoint(key, states)
        heads =
          states.map do |state|
            {shapes: state.fields.transform_values(&:shape), time: state.time, origin: state.origin}
          end
        @workshop.home.write(path(key, "state"),
          pack({states: heads}, states.flat_map { |state| state.fields.values.map(&:bytes) }.join))
      end

      # @return [Array<Gas::State>, nil] nil where there is none, or a damaged one
      def checkpoint(key)
        return unless checkpoint?(key)

        head, body = unpack(path(key, "state"))
        at = 0
        # One of before holds a single state.
        (head["states"] || [head]).map do |part|
          state = Gas::State.new
          part["shapes"].each do |name, shape|
            length = shape.reduce(:*) * 4
            state[name] = Kernel::Buffer.new(:f32, *shape, bytes: body[at, length])
            at += length
          end
          state.time, state.origin = part["time"], part["origin"]
          state
        end
      rescue Refused
        nil
      end

      # @return [Set<String>] those of some frames that are here; their files are not looked at
      def known(keys) = keys.each_slice(500).flat_map { |some| table.where(key: some).select_map(:key) }.to_set

      # @return [Hash{String => Hash}] facts of the frames that are here whole, by key
      def facts(keys)
        rows = keys.each_slice(500).flat_map { |some| table.where(key: some).select_map(%i[key facts bytes]) }
        rows
          .select { |key, _, bytes| File.size?(path(key)) == bytes }
          .to_h do |key, facts, bytes|
            [key, JSON.parse(facts).then { |all| all.merge("bytes" => bytes + all["beside"].to_i) }]
          end
      end

      # Brings files and rows together again after a kill: a frame without a row gets one from its own
      # head, a row without its file goes, and so does a file that was cut short.
      # @return [Hash] how many were found again, and how many are gone
      def reconcile
        rows = table.select_hash(:key, :bytes)
        files =
          Dir[@workshop.home.within("frames", "*", "*.frame")].to_h { |file| [File.basename(file, ".frame"), file] }
        gone = rows.reject { |key, bytes| files[key] && File.size?(files[key]) == bytes }.keys
        gone.each_slice(500) { |keys| table.where(key: keys).delete }
        found = files.except(*(rows.keys - gone)).count { |key, _| adopt(key) }
        {found: found, gone: gone.size}
      end

      # Finds a frame whose row is missing. @param told [Hash, nil] facts that it does not carry itself @return
      # [Boolean]
      def mend(key, told = nil) = File.exist?(path(key)) && adopt(key, told)

      private

      def table = @workshop.db[:frames]

      def record(key, frame, bytes, facts)
        flow = facts["flow"] || facts[:flow]
        table.insert_conflict(:replace).insert(
          key: key, frame: frame, bytes: bytes, facts: JSON.generate(facts), flow: flow
        )
      end

      # Gives a frame's file its row. @return [Boolean] whether the file was whole
      def adopt(key, told = nil)
        head, = unpack(path(key))
        # Frames of before did not carry their facts.
        return !File.delete(path(key)) unless head["facts"]

        # How long it took is not part of the file: the same frame has the same bytes.
        record(key, head["frame"], File.size(path(key)), {"seconds" => 0.0}.merge(head["facts"], told.to_h))
        true
      rescue Refused
        false
      end

      def path(key, ending = "frame")
        unless key.to_s.match?(/\A[0-9a-f]{32}\z/)
          raise Refused.new("#{key.to_s[0, 40].inspect} is not the key of a frame.",
            code: "bad_path")
        end

        @workshop.home.within("frames", key[0, 2], "#{key}.#{ending}")
      end

      def pack(head, body)
        head = JSON.generate(head)
        packed = Zstd.compress(body, level: LEVEL)
        ["VMBR", head.bytesize].pack("a4L<") + head.b + [Zlib.crc32(packed)].pack("L<") + packed
      end

      def unpack(path)
        bytes = File.binread(path)
        mark, length = bytes.unpack("a4L<")
        sum = bytes.byteslice(8 + length, 4)&.unpack1("L<") if mark == "VMBR" && length
        body = sum && bytes.byteslice(12 + length..)
        return [JSON.parse(bytes.byteslice(8, length)), Zstd.decompress(body)] if body && Zlib.crc32(body) == sum

        discard(path)
      rescue JSON::ParserError
        discard(path)
      rescue Errno::ENOENT
        raise Refused.new("A stored frame is gone; run the shot again to make it anew.", code: "no_frame")
      end

      # Takes a damaged file away with its row, so that nothing says that it is there.
      def discard(path)
        FileUtils.rm_f(path)
        table.where(key: File.basename(path, ".*")).delete if path.end_with?(".frame")
        raise Refused.new("A stored frame was damaged and has been taken away; run the shot again to make it anew.",
          code: "damaged")
      end
    end
  end
end
