# frozen_string_literal: true

require "digest"
require "json"
require "zlib"
require "zstd-ruby"

module Vumbral
  module Studio
    # Meshes that somebody brought, kept by what is in them.
    class Assets
      LARGEST = 100 * 1024 * 1024
      MESHES_IN_MEMORY = 8

      def initialize(workshop)
        @workshop = workshop
        @meshes = {}
      end

      # @param path [String] a file on this machine
      # @return [Hash] digest, name and facts
      def bring_file(path)
        raise Refused.new("There is no file #{path}.", code: "no_file") unless File.file?(path)

        check_size(File.size(path), File.basename(path))
        bring(File.binread(path), File.basename(path))
      end

      # @param bytes [String]
      # @param name [String] of the file; its ending tells the format
      # @raise [Refused]
      def bring(bytes, name)
        name = plain(name)
        check_size(bytes.bytesize, name)
        mesh = Formats::Meshes.read(bytes, name: name)
        low, high = mesh.bounds
        facts = {triangles: mesh.count, points: mesh.points.dim(0), parts: mesh.parts.map(&:name), low: low,
                 high: high, open_edges: mesh.open_edges}
        @workshop.home.write(path(mesh.digest), pack(mesh))
        # The same mesh again is called what it was called last.
        @workshop.db[:assets].insert_conflict(target: :digest, update: {name: name, facts: JSON.generate(facts)})
          .insert(digest: mesh.digest, name: name, facts: JSON.generate(facts), created_at: @workshop.now)
        fetch(mesh.digest)
      end

      # Keeps a picture that a source takes its strength from.
      # @return [Hash] digest, name, facts
      # @raise [Refused]
      def bring_picture(bytes, name)
        name = plain(name)
        check_size(bytes.bytesize, name)
        grey = Pixels.read(bytes, name)
        digest = Digest::SHA256.hexdigest(bytes)[0, 24]
        @workshop.home.write(picture_path(digest),
          Zstd.compress([grey.dim(0), grey.dim(1)].pack("L<2") + grey.bytes, level: 3))
        facts = {width: grey.dim(1), height: grey.dim(0)}
        @workshop.db[:assets].insert_conflict(:ignore).insert(digest: digest, name: name, facts: JSON.generate(facts),
          created_at: @workshop.now, kind: "picture")
        fetch(digest)
      end

      # @return [Kernel::Buffer] f32 [h, w], brightness 0 to 1, the first row on top
      def picture(digest)
        @pictures ||= {}
        @pictures[digest] ||= begin
          raw = Zstd.decompress(File.binread(picture_path(digest)))
          height, width = raw.unpack("L<2")
          Kernel::Buffer.new(:f32, height, width, bytes: raw[8..])
        end
      rescue Errno::ENOENT
        raise Refused.new("The picture that a source takes its strength from is gone; bring it again.",
          code: "unknown_picture")
      end

      # Keeps a mesh that nobody brought: a piece of one, say. @return [String] its digest
      def keep(mesh)
        @workshop.home.write(path(mesh.digest), pack(mesh)) unless File.exist?(path(mesh.digest))
        @workshop.db[:assets].insert_ignore.insert(digest: mesh.digest, name: "", facts: "{}",
          created_at: @workshop.now)
        mesh.digest
      end

      # @return [Hash] digest, name, facts
      def fetch(digest)
        row = @workshop.db[:assets][digest: digest.to_s]
        unless row
          raise Refused.new("There is no mesh #{digest.to_s[0, 40].inspect}; bring its file again.",
            code: "unknown_mesh")
        end

        {digest: row[:digest], name: row[:name], facts: JSON.parse(row[:facts])}
      end

      def list(kind = "mesh") = @workshop.db[:assets].where(kind: kind).exclude(name: "").order(:created_at).select_map(:digest).map { |digest| fetch(digest) }

      # @return [Geometry::Mesh]
      def mesh(digest)
        @meshes.delete(@meshes.keys.first) if @meshes.size > MESHES_IN_MEMORY
        @meshes[digest] ||= begin
          fetch(digest)
          unpack(File.binread(path(digest)), digest)
        end
      rescue Errno::ENOENT
        raise Refused.new("The file of the mesh #{digest} is gone; bring it again.", code: "unknown_mesh")
      end

      # Refuses a file for its size alone. @param bytes [Integer]
      def check_size(bytes, name)
        return if bytes <= LARGEST

        raise Refused.new("#{name} has #{bytes / 1024 / 1024} MB; bring files of at most #{LARGEST / 1024 / 1024} MB, thinned if need be.", code: "file_too_large")
      end

      private

      # A file's name without its folders.
      def plain(name)
        File.basename(Formats::Text.utf8(name.to_s).gsub(/[[:cntrl:]]/, "").tr("\\", "/"))[0, 120]
      end

      def picture_path(digest)
        @workshop.home.within("pictures", "#{digest.to_s[/\A[0-9a-f]{8,64}\z/] || "none"}.grey")
      end

      def path(digest) = @workshop.home.within("meshes", "#{digest[/\A[0-9a-f]{8,64}\z/] || "none"}.mesh")

      def pack(mesh)
        head = JSON.generate(points: mesh.points.dim(0), triangles: mesh.count, parts: mesh.parts.map(&:to_a),
          places: !mesh.places.nil?, paint: !mesh.paint.nil?)
        body = Zstd.compress([mesh.points, mesh.triangles, mesh.places, mesh.paint].compact.map(&:bytes).join, level: 3)
        [head.bytesize].pack("L<") + head.b + [Zlib.crc32(body)].pack("L<") + body
      end

      def damaged(digest)
        Refused.new("The file of the mesh #{digest} is damaged; bring it again.", code: "damaged")
      end

      def unpack(bytes, digest)
        length = bytes.unpack1("L<")
        head = JSON.parse(bytes[4, length])
        sum, body = bytes[4 + length, 4].unpack1("L<"), bytes[8 + length..]
        raise damaged(digest) unless Zlib.crc32(body) == sum

        raw = Zstd.decompress(body)
        at = 0
        take = lambda do |type, *shape|
          length = shape.reduce(:*) * 4
          Kernel::Buffer.new(type, *shape, bytes: raw[at, length]).tap { at += length }
        end
        points, triangles = take.call(:f32, head["points"], 3), take.call(:i32, head["triangles"], 3)
        places = head["places"] ? take.call(:f32, head["triangles"], 6) : nil
        paint = head["paint"] ? take.call(:f32, head["points"]) : nil
        Geometry::Mesh.new(points, triangles, head["parts"].map { |part| Geometry::Mesh::Part.new(*part) }, places: places, paint: paint)
      rescue JSON::ParserError, TypeError
        raise damaged(digest)
      end
    end
  end
end
