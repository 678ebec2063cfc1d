# frozen_string_literal: true

require "digest"
require "json"
require "zstd-ruby"

module Vumbral
  module Studio
    # Meshes that somebody brought, kept by what is in them.
    class Assets
      LARGEST = 100 * 1024 * 1024
      MESHES_IN_MEMORY = 8
      PICTURES_IN_MEMORY = 8
      # Coloured pictures have at most so many pixels along an edge.
      COLOURED_EDGE = 2048
      # So many names of parts are told.
      MOST_PARTS = 200

      # @return [String] a file's name without its folders
      def self.plain(name) = File.basename(Formats::Text.utf8(name.to_s).gsub(/[[:cntrl:]]/, "").tr("\\", "/"))[0, 120]

      def initialize(workshop)
        @workshop = workshop
        @meshes = {}
        @clips = {}
      end

      # @param path [String] a file on this machine; what it needs beside it is found there
      # @return [Hash] digest, name and facts
      def bring_file(path, rate: 24.0)
        raise Refused.new("There is no file #{path}.", code: "no_file") unless File.file?(path)

        check_size(File.size(path), File.basename(path))
        bring(File.binread(path), File.basename(path), beside: Beside.new(File.dirname(path), LARGEST), rate: rate)
      end

      # @param bytes [String]
      # @param name [String] of the file; its ending tells the format
      # @param beside [Hash{String => String}] what came with it, by their names
      # @param rate [Float] frames a second in which its motion is taken
      # @raise [Refused]
      def bring(bytes, name, beside: {}, rate: 24.0)
        name = Assets.plain(name)
        check_size(bytes.bytesize, name)
        take(Formats::Meshes.model(bytes, name: name, beside: beside, rate: rate), name)
      end

      # A numbered sequence of files as one mesh that moves.
      # @param files [Hash{String => #call}] what gives the content of each, by their names
      # @raise [Refused]
      def bring_sequence(files)
        sequence = Formats::Sequence.of(files.keys.map { |name| Assets.plain(name) })
        meshes =
          sequence.names.map do |name|
            files.find { |given, _| Assets.plain(given) == name }[1].call.then do |bytes|
              check_size(bytes.bytesize, name) || Formats::Meshes.read(bytes, name: name)
            end
          end
        take(Formats::Model.new(meshes, left_out: sequence.gaps), sequence.title, step: sequence.step)
      end

      # Keeps what a file holds.
      # @return [Hash] digest, name, facts
      def take(model, name, step: 1)
        digest = model.moves? ? keep_clip(model, step) : model.mesh.digest
        @workshop.home.write(path(digest), MeshFile.pack(model.mesh)) unless model.moves?
        @workshop.home.write(others_path(digest), JSON.generate(model.others.map(&:to_h))) if model.others.any?
        facts = JSON.generate(facts(model))
        # The same mesh again is called what it was called last.
        @workshop.db[:assets].insert_conflict(target: :digest, update: {name: name, facts: facts})
          .insert(digest: digest, name: name, facts: facts, created_at: @workshop.now)
        fetch(digest)
      end

      # Each part of a mesh as one of its own. @return [Array<Hash>] as {#fetch}
      def apart(digest)
        name = fetch(digest)[:name]
        clip = clip(digest)
        frames = clip ? clip.frames.map { |frame| one(frame) } : [one(digest)]
        raise Refused.new("The parts of #{name} are not the same at every frame; bring it as one.", code: "not_alike") if frames.map { |mesh| mesh.parts.map(&:to_a) }.uniq.size > 1
        raise Refused.new("#{name} has #{frames[0].parts.size} parts; #{MOST_PARTS} is the most that can be props of their own.", code: "too_many") if frames[0].parts.size > MOST_PARTS

        frames
          .map(&:apart)
          .transpose
          .map { |part| take(Formats::Model.new(part, rate: clip&.rate), part[0].parts[0].name, step: clip&.step || 1) }
      end

      # What stands beside a mesh in its file. @return [Array<Hash>] "name", "kind" and "poses", one for each frame
      def others(digest) = File.exist?(others_path(digest)) ? JSON.parse(File.read(others_path(digest))) : []

      # Keeps a picture that a source takes its strength from.
      # @return [Hash] digest, name, facts
      # @raise [Refused]
      def bring_picture(bytes, name)
        name = Assets.plain(name)
        check_size(bytes.bytesize, name)
        grey = Pixels.read(bytes, name)
        digest = Digest::SHA256.hexdigest(bytes)[0, 24]
        keep_pixels(picture_path(digest), grey)
        keep_pixels(colour_path(digest), Pixels.read_colours(bytes, name, COLOURED_EDGE))
        facts = {width: grey.dim(1), height: grey.dim(0)}
        @workshop.db[:assets].insert_conflict(:ignore).insert(digest: digest, name: name, facts: JSON.generate(facts),
          created_at: @workshop.now, kind: "picture")
        fetch(digest)
      end

      # Keeps the outlines of an SVG file.
      # @return [Hash] digest, name, facts
      # @raise [Refused]
      def bring_drawing(bytes, name)
        name = Assets.plain(name)
        check_size(bytes.bytesize, name)
        drawing = Formats::SVG.read(bytes, name: name)
        rings = JSON.generate(drawing.contours.rings)
        digest = Digest::SHA256.hexdigest(rings)[0, 24]
        @workshop.home.write(drawing_path(digest), rings)
        facts = {
          outlines: drawing.contours.rings.size, points: drawing.contours.rings.sum(&:size), left_out: drawing.left_out
        }
        @workshop.db[:assets].insert_conflict(target: :digest, update: {name: name}).insert(
          digest: digest, name: name, facts: JSON.generate(facts), created_at: @workshop.now, kind: "drawing"
        )
        fetch(digest)
      end

      # @return [Geometry::Contours]
      def drawing(digest)
        (@drawings ||= {})[digest] ||= Geometry::Contours.new(JSON.parse(File.read(drawing_path(digest))))
      rescue Errno::ENOENT
        raise Refused.new("The drawing of a prop is gone; bring it again.", code: "unknown_drawing")
      end

      # @return [Kernel::Buffer] f32 [h, w], brightness 0 to 1, the first row on top
      def picture(digest)
        @pictures ||= {}
        @pictures[digest] ||= pixels(picture_path(digest))
      rescue Errno::ENOENT
        raise Refused.new("A picture that the shot uses is gone; bring it again.", code: "unknown_picture")
      end

      # @return [Kernel::Buffer] f32 [h, w, 4], linear red, green, blue and alpha, the first row on top
      def coloured(digest)
        @coloured ||= {}
        @coloured.shift if @coloured.size >= PICTURES_IN_MEMORY && !@coloured.key?(digest)
        @coloured[digest] ||= begin
          pixels(colour_path(digest), 4)
        rescue Errno::ENOENT
          # One that was brought before colours were kept.
          grey = picture(digest)
          Kernel::Buffer.of(:f32, grey.to_a.flat_map { |value| [value, value, value, 1.0] }, *grey.shape, 4)
        end
      end

      # Keeps a mesh that nobody brought: a piece of one, say. @return [String] its digest
      def keep(mesh)
        @workshop.home.write(path(mesh.digest), MeshFile.pack(mesh)) unless File.exist?(path(mesh.digest))
        @workshop.db[:assets].insert_ignore.insert(digest: mesh.digest, name: "", facts: "{}",
          created_at: @workshop.now)
        mesh.digest
      end

      # Keeps meshes one after the other as one that moves. @param digests [Array<String>] @return [String] its digest
      def keep_frames(digests, rate: nil, step: 1)
        row = JSON.generate(rate: rate, step: step, frames: digests)
        Digest::SHA256.hexdigest(row)[0, 24].tap do |digest|
          @workshop.home.write(clip_path(digest), row)
          @clips.delete(digest)
        end
      end

      # @return [Hash, nil] all that is written down of one
      def row(digest) = @workshop.db[:assets][digest: digest.to_s]

      # @return [Hash] digest, name, facts
      def fetch(digest)
        row = @workshop.db[:assets][digest: digest.to_s]
        unless row
          raise Refused.new("There is no mesh #{digest.to_s[0, 40].inspect}; bring its file again.",
            code: "unknown_mesh")
        end

        {digest: row[:digest], name: row[:name], facts: JSON.parse(row[:facts])}
      end

      def list(kind = "mesh") =
        @workshop.db[:assets]
          .where(kind: kind)
          .exclude(name: "")
          .order(:created_at)
          .select_map(:digest)
          .map { |digest| fetch(digest) }

      # @param at [Float, nil] frames of the shot that it has moved by itself; `rate` and `after` as
      #   {Geometry::Clip#place}
      # @return [Geometry::Mesh]
      def mesh(digest, at = nil, rate = 24.0, after = "hold")
        clip = clip(digest)
        return one(digest) unless clip

        clip.mesh(at ? clip.place(at, rate, after) : 0.0) { |frame| one(frame) }
      end

      # @param outline [Hash] of a prop that is the surface of a sculpt, as {Geometry::Shapes.outline}
      # @return [Geometry::Mesh]
      def surface(outline) = Sculpt::Skin.surface(outline, self)

      # @param outline [Hash] of a prop that is the surface of a liquid
      # @return [Geometry::Mesh]
      def liquid(outline) =
        Sculpt::Skin.without_crumbs(@workshop.liquids.surface(outline["frame"]), outline["least_part"])

      # @param key [String] of a liquid's frame
      # @return [Liquid::Kept, nil] its spray
      def sprayed(key) = @workshop.liquids.sprayed(key)

      # @param key [String] of a liquid's frame
      # @return [Kernel::Buffer] f32 [n, 3], how fast each point of its surface goes, m/s
      def liquid_speeds(key) = @workshop.liquids.speeds(key)

      # @return [Volumes] those that were brought
      def volumes = @volumes ||= Volumes.new(@workshop, self)

      # @return [Volumes::Found] of a file that was brought
      def volume(digest) = volumes.fetch(digest)

      # @return [Volumes::Found] a frame of a run, by its key
      def frame(key) = volumes.frame(key)

      # What a sculpt comes to on a lattice, as a texture reads it.
      # @param edge [Integer] places along each axis
      # @return [Array(Kernel::Buffer, Array<Float>, Float)] f32 [edge, edge, edge], the lowest corner of the box and
      #   how long it is, metres
      def carved(recipe, edge) = Sculpt::Frame.cube(Sculpt::Carving.new(recipe, self).call, edge)

      # @param row [Array] from {Geometry::Textures.row}
      # @return [Kernel::Buffer] with what it is read from, as kernels take it
      def pattern(row) = Maps::Patterns.buffer([row], self)

      # @param place [Float] a frame of its own, see {Geometry::Clip#place}
      # @return [Geometry::Mesh]
      def mesh_at(digest, place) = clip(digest)&.mesh(place) { |frame| one(frame) } || one(digest)

      # @return [Geometry::Clip, nil] the frames of a mesh that moves by itself
      def clip(digest)
        return @clips[digest] if @clips.key?(digest)

        path = clip_path(digest)
        @clips[digest] = (
          if File.exist?(path)
            JSON
              .parse(File.read(path))
              .then { |row| Geometry::Clip.new(row["frames"], rate: row["rate"], step: row["step"]) }
          end
        )
      end

      # Refuses a file for its size alone. @param bytes [Integer]
      def check_size(bytes, name)
        return if bytes <= LARGEST

        raise Refused.new("#{name} has #{bytes / 1024 / 1024} MB; bring files of at most #{LARGEST / 1024 / 1024} MB, thinned if need be.", code: "file_too_large")
      end

      private

      def drawing_path(digest) =
        @workshop.home.within("meshes", "#{digest.to_s[/\A[0-9a-f]{8,64}\z/] || "none"}.outline")

      def keep_pixels(path, pixels) =
        @workshop.home.write(path, Zstd.compress(pixels.shape.first(2).pack("L<2") + pixels.bytes, level: 3))

      def pixels(path, *bands)
        raw = Zstd.decompress(File.binread(path))
        height, width = raw.unpack("L<2")
        Kernel::Buffer.new(:f32, height, width, *bands, bytes: raw[8..])
      end

      def colour_path(digest) = picture_path(digest).sub(/grey\z/, "colour")

      def picture_path(digest)
        @workshop.home.within("pictures", "#{digest.to_s[/\A[0-9a-f]{8,64}\z/] || "none"}.grey")
      end

      def path(digest) = @workshop.home.within("meshes", "#{digest[/\A[0-9a-f]{8,64}\z/] || "none"}.mesh")

      def clip_path(digest) = @workshop.home.within("meshes", "#{digest[/\A[0-9a-f]{8,64}\z/] || "none"}.clip")

      def others_path(digest) = clip_path(digest).sub(/clip\z/, "others")

      # A mesh that does not move, or one frame.
      def one(digest)
        @meshes.delete(@meshes.keys.first) if @meshes.size > MESHES_IN_MEMORY
        @meshes[digest] ||= begin
          fetch(digest)
          MeshFile.unpack(File.binread(path(digest)))
        end
      rescue MeshFile::Damaged
        raise Refused.new("The file of the mesh #{digest} is damaged; bring it again.", code: "damaged")
      rescue Errno::ENOENT
        raise Refused.new("The file of the mesh #{digest} is gone; bring it again.", code: "unknown_mesh")
      end

      # Frames that are the same are kept once. @return [String] the clip's digest
      def keep_clip(model, step) = keep_frames(model.frames.map { |mesh| keep(mesh) }, rate: model.rate, step: step)

      def facts(model)
        mesh = model.mesh
        ends = model.frames.map(&:bounds)
        {
          triangles: mesh.count, points: mesh.points.dim(0), parts: mesh.parts.first(MOST_PARTS).map(&:name),
          low: ends.map(&:first).transpose.map(&:min), high: ends.map(&:last).transpose.map(&:max),
          open_edges: mesh.open_edges, frames: model.frames.size, rate: model.rate, coloured: !mesh.colours.nil?,
          placed: !mesh.places.nil?, left_out: model.left_out,
          others: model.others.map { |other| {name: other.name, kind: other.kind} }
        }
      end
    end
  end
end
