# frozen_string_literal: true

module Vumbral
  module Torture
    # Mutates mesh, picture and shot files: each is read, or refused with one sentence, and what was read once
    # can be read again.
    class Files
      def initialize(home, random, seconds)
        @workshop = Studio::Workshop.new(home)
        @random = random
        @seconds = seconds
        @tried = @taken = 0
        @failures = []
      end

      def words = "#{@tried} mutations, #{@taken} still read, the others refused with a sentence"

      # @return [Array<String>]
      def call
        seeds = models
        limit = Process.clock_gettime(Process::CLOCK_MONOTONIC) + @seconds
        while Process.clock_gettime(Process::CLOCK_MONOTONIC) < limit && @failures.size < 10
          try(*seeds.sample(random: @random))
        end
        @failures
      end

      private

      def models
        bowl = Demo::Models.bowl
        shot = Studio::Starters.build("burst", "Seed").to_json
        coloured = "o Töpf\nv 0 0 0 1 0 0\nv 1 0 0 0 1 0\nv 0 1 0 0 0 1\nvt 0 0\nvt 1 0\nvt 0 1\nf 1/1 2/2 3/3\n"
        text = "solid Töpf\nfacet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 1 0 0\nvertex 0 1 " \
"0\nendloop\nendfacet\nendsolid\n"
        png = Studio::Pixels.png(Kernel::Buffer.new(:u8, 16, 32, 3).fill(200))
        jpeg = Vips::Image.new_from_buffer(png, "").write_to_buffer(".jpg")
        plate = Geometry::Builders.torus(0.4, 0.1, sides: 5, around: 3)
        poses = Array.new(3) { |n| Geometry::Pose.new([0.1 * n, 0.0, 0.0], [9.0 * n, 0.0, 0.0], [1.0, 1.0, 1.0]) }
        moving =
          Formats::GLTF::Writer
            .new(24.0)
            .add("plate", plate, poses: poses)
            .add("dough", plate, shapes: [plate.transformed(poses[1].transform).points])
            .bytes
        svg =
          "<svg><g transform='rotate(20)'><path d='M10 10 C 20 0 40 0 50 10 S 80 40 50 60 q-20 10 -30 -10 a10 8 30 " \
            "1 0 -5 -5 Z'/><circle cx='35' r='8'/></g><text>x</text></svg>"
        [
          ["m.svg", svg], ["h.ply", Formats::PLY.write(plate)], ["i.ply", PLY_TEXT], ["j.glb", moving],
          ["k.gltf", loose(moving)], ["values.gltf", loose(moving)], ["a.obj", Formats::OBJ.write(bowl)[0, 6000]],
          ["b.obj", coloured], ["c.stl", Formats::STL.write(Geometry::Builders.box([1.0, 1.0, 1.0]))], ["d.stl", text],
          ["e.png", png], ["f.jpg", jpeg], ["g.json", shot], ["g.json", shot]
        ]
      end

      PLY_TEXT = "ply\nformat ascii 1.0\nelement vertex 3\nproperty float x\nproperty float y\nproperty float " \
        "z\nproperty uchar red\nproperty uchar green\n" \
        "property uchar blue\nelement face 1\nproperty list uchar int vertex_indices\nend_header\n0 0 0 1 2 3\n1 0 0 " \
          "4 5 6\n0 1 0 7 8 9\n3 0 1 2\n"

      # The same file as .gltf, with its data in it.
      def loose(glb)
        length = glb.byteslice(12, 4).unpack1("L<")
        json = JSON.parse(glb.byteslice(20, length))
        json["buffers"][0]["uri"] = "data:application/octet-stream;base64,#{[glb.byteslice(28 + length..)].pack("m0")}"
        JSON.generate(json)
      end

      def try(name, bytes)
        @tried += 1
        changed = name.start_with?("values") ? revalued(bytes) : mutated(bytes.b)
        read(name, changed)
        @taken += 1
      rescue Refused => error
        sound =
          error.message.encoding == Encoding::UTF_8 && error.message.valid_encoding? &&
          error.message.match?(/\S.*\.\z/m)
        unless sound && JSON.generate(error.message)
          keep(name, changed,
            "no sentence: #{error.message.inspect[0, 200]}")
        end
      rescue => error
        keep(name, changed, "#{error.class}: #{error.message[0, 160]} at #{error.backtrace.first}")
      end

      def read(name, bytes)
        case name
        when /obj|stl|ply|gl/
          digest = @workshop.assets.bring(bytes, name)[:digest]
          Studio::Workshop.new(@workshop.home.path).assets.mesh(digest) if (@tried % 20).zero?
        when /svg/ then @workshop.assets.drawing(@workshop.assets.bring_drawing(bytes, name)[:digest])
        when /png|jpg/ then @workshop.assets.picture(@workshop.assets.bring_picture(bytes, name)[:digest])
        else
          document = Shot::Document.load(bytes)
          raise "a saved shot reads differently" unless Shot::Document.load(document.to_json) == document

          Shot::Timeline.new(document).rows
          Gas::Plan.new(document, :draft).at(document.first_frame)
        end
      end

      def keep(name, bytes, words)
        path = File.join(Dir.tmpdir, "vumbral-torture-#{@tried}-#{name}")
        File.binwrite(path, bytes)
        @failures << "#{words} (kept as #{path})"
      end

      # A file whose form stays whole while its values do not.
      def revalued(json)
        data = JSON.parse(json)
        @random.rand(1..3).times do
          places = holders(data)
          holder, key = places.sample(random: @random)
          if holder
            holder[key] = [
              -1, 0, 1, 7, 99_999_999, 1.5, 1e39, nil, "", "x", [], {}, [0], true,
              holder[key].is_a?(Integer) ? holder[key] + 1 : 5126
            ].sample(random: @random)
          end
        end
        JSON.generate(data)
      end

      # Every place in it that holds something.
      def holders(data)
        pairs = data.is_a?(Hash) ? data.to_a : data.each_with_index.map { |value, n| [n, value] }
        pairs.flat_map do |key, value|
          [[data, key]] + ((value.is_a?(Hash) || value.is_a?(Array)) ? holders(value) : [])
        end
      end

      def mutated(bytes)
        bytes = bytes.dup
        @random.rand(1..4).times { bytes = change(bytes) }
        bytes
      end

      BITS = ["\xFF\xFE".b, "\0".b, "1e39".b, "-1".b, "999999999".b, "nan".b, "{}".b, "[]".b, "null".b, "\n".b, "\"".b,
        "99999999999999999999".b].freeze

      def change(bytes)
        return BITS.sample(random: @random) if bytes.empty?

        at = @random.rand(bytes.bytesize)
        length = @random.rand(1..12)
        case @random.rand(6)
        when 0 then bytes.tap { bytes.setbyte(at, @random.rand(256)) }
        when 1 then bytes.byteslice(0, at) + bytes.byteslice(at + length..).to_s
        when 2 then bytes.byteslice(0, at) + BITS.sample(random: @random) + bytes.byteslice(at..)
        when 3 then bytes.byteslice(0, at)
        when 4 then bytes.byteslice(0,
          at) + bytes.byteslice(@random.rand(bytes.bytesize), length) + bytes.byteslice(at..)
        else bytes.sub(/-?\d+(\.\d+)?/n, BITS.sample(random: @random))
        end
      end
    end
  end
end
