# frozen_string_literal: true

module Vumbral
  module Formats
    # One part of {GLTF}.
    module GLTF
      # The JSON of a file and the bytes that go with it.
      class Container
        MAGIC, JSON_CHUNK, BINARY_CHUNK = 0x46546C67, 0x4E4F534A, 0x004E4942
        # Bytes of all buffers together.
        MOST = 1 << 30

        attr_reader :json, :name

        # @param bytes [String]; @param beside [Hash{String => String}] other files by their names
        def initialize(bytes, name, beside)
          @name = name
          @beside = beside
          text = bytes.start_with?("glTF") ? chunks(bytes) : bytes
          @json = JsonText.parse(Text.utf8(text.delete_prefix("\xEF\xBB\xBF".b)), name, remedy: "Export it again.")
          bad("is not a glTF file") unless @json.is_a?(Hash)
          version = @json.dig("asset", "version").to_s
          bad("is glTF #{Text.excerpt(version)}, and only 2 is read") unless version.start_with?("2")
        end

        # @return [Array<Hash>] a list of the file, empty where it has none
        def list(key)
          rows = @json.fetch(key, [])
          bad("has no list under #{key}") unless rows.is_a?(Array) && rows.all?(Hash)
          rows
        end

        # @return [Hash] one row of a list
        def one(key, n, what)
          row = (n.is_a?(Integer) && n >= 0) ? list(key)[n] : nil
          row || bad("has no #{what} #{n.inspect[0, 20]}")
        end

        # @return [String] the bytes of a view on a buffer
        def view(n)
          view = one("bufferViews", n, "view")
          from, length = view.fetch("byteOffset", 0), view.fetch("byteLength")
          bytes = buffer(view.fetch("buffer"))
          unless [from, length].all?(Integer) && from >= 0 && length >= 0 && from + length <= bytes.bytesize
            bad("has a view past the end of its data")
          end
          bytes.byteslice(from, length)
        end

        # @return [Integer, nil] how far elements of a view lie apart, where it says so
        def stride(n)
          stride = one("bufferViews", n, "view")["byteStride"]
          if stride && !(stride.is_a?(Integer) && stride.between?(1, 65_536))
            bad("has a view with a stride of #{stride.inspect[0, 20]}")
          end
          stride
        end

        # @raise [Refused]
        def bad(words) = raise(Refused.new("#{@name} #{words}; export it again.", code: "bad_mesh"))

        private

        def chunks(bytes)
          magic, version, length = bytes.unpack("L<3")
          unless magic == MAGIC && length && length <= bytes.bytesize
            bad("is cut off: it should have #{length} bytes and has #{bytes.bytesize}")
          end
          bad("is GLB #{version}, and only 2 is read") unless version == 2
          at = 12
          json = nil
          while at + 8 <= length
            size, kind = bytes.byteslice(at, 8).unpack("L<2")
            bad("is cut off in the middle") if at + 8 + size > bytes.bytesize
            part = bytes.byteslice(at + 8, size)
            json ||= part if kind == JSON_CHUNK
            @binary ||= part if kind == BINARY_CHUNK
            at += 8 + size
          end
          json || bad("holds no JSON")
        end

        def buffer(n)
          (@buffers ||= {})[n] ||= begin
            row = one("buffers", n, "buffer")
            bytes = bytes_of(row["uri"])
            length = row.fetch("byteLength")
            unless length.is_a?(Integer) && length.between?(0, bytes.bytesize)
              bad("has #{bytes.bytesize} bytes of data where it says #{length.inspect[0, 20]}")
            end
            bytes
          end
        end

        def bytes_of(uri)
          return @binary || bad("has no data of its own") if uri.nil?
          return data(uri) if uri.start_with?("data:")

          wanted = File.basename(uri.gsub(/%(\h\h)/) { $1.hex.chr }.tr("\\", "/"))
          @beside[wanted] ||
            raise(
              Refused.new(
                "#{@name} keeps its numbers in #{Text.excerpt(wanted)}, which did not come with it; bring both " \
                  "together, or export one .glb.",
                code: "outside_file"
              )
            )
        end

        def data(uri)
          words, content = uri.split(",", 2)
          bad("has data that is not base64") unless content && words.end_with?(";base64")
          bad("has more than #{MOST >> 20} MB of data") if content.bytesize > MOST
          content.unpack1("m0")
        rescue ArgumentError
          bad("has data that is not base64")
        end
      end
    end
  end
end
