# frozen_string_literal: true

require "json"
require "zlib"
require "zstd-ruby"

module Vumbral
  module Studio
    # A mesh as it is kept on disk.
    module MeshFile
      Damaged = Class.new(StandardError)

      module_function

      # @return [String]
      def pack(mesh)
        head = JSON.generate(points: mesh.points.dim(0), triangles: mesh.count, parts: mesh.parts.map(&:to_a),
          places: !mesh.places.nil?, paint: !mesh.paint.nil?, colours: !mesh.colours.nil?)
        body =
          Zstd.compress(
            [mesh.points, mesh.triangles, mesh.places, mesh.paint, mesh.colours].compact.map(&:bytes).join, level: 3
          )
        [head.bytesize].pack("L<") + head.b + [Zlib.crc32(body)].pack("L<") + body
      end

      # @return [Geometry::Mesh]
      # @raise [Damaged]
      def unpack(bytes)
        length = bytes.unpack1("L<")
        head = JSON.parse(bytes[4, length])
        sum, body = bytes[4 + length, 4].unpack1("L<"), bytes[8 + length..]
        raise Damaged unless Zlib.crc32(body) == sum

        raw = Zstd.decompress(body)
        at = 0
        take = lambda do |type, *shape|
          length = shape.reduce(:*) * 4
          Kernel::Buffer.new(type, *shape, bytes: raw[at, length]).tap { at += length }
        end
        points, triangles = take.call(:f32, head["points"], 3), take.call(:i32, head["triangles"], 3)
        places = head["places"] ? take.call(:f32, head["triangles"], 6) : nil
        paint = head["paint"] ? take.call(:f32, head["points"]) : nil
        colours = head["colours"] ? take.call(:f32, head["triangles"], 9) : nil
        Geometry::Mesh.new(
          points, triangles, head["parts"].map { |part| Geometry::Mesh::Part.new(*part) }, places: places, paint: paint,
          colours: colours
        )
      rescue JSON::ParserError, TypeError
        raise Damaged
      end
    end
  end
end
