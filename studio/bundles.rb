# frozen_string_literal: true

require "json"
require "zip"

module Vumbral
  module Studio
    # A whole shot as one ZIP file, with all files that it uses, which comes in again as it was.
    class Bundles
      SHOT, LIST, README = "shot.json", "files.json", "README.txt"
      # Types of dials that name files by their digests.
      TYPES = %i[mesh picture drawing volume plate table].freeze
      KINDS = %w[mesh picture drawing volume plate table].freeze
      # What may be in one; nothing else is taken out of it.
      ALLOWED = %r{\A(?:(?:meshes|pictures|volumes|tables)/[0-9a-f]{8,64}\.[a-z]{3,8}|plates/[0-9a-f]{8,64}/\d{6}\.[a-z]{3,5})\z}
      # So many bytes come out of one at most, and so many files.
      MOST, MOST_FILES = 8 << 30, 60_000
      TEXT = <<~WORDS
        A shot of Vumbral, with all that it uses.

        shot.json    the shot: its nodes with their dials, keys and formulas, as JSON
        files.json   what the files are called and what is known of them, by their digests
        meshes/      meshes: .ply for other programs; .mesh as they are read again, compressed with zstd: counts, then points
                     (f32, three each), triangles (i32, three corners each) and what else belongs to their corners; .clip lists
                     the frames of one that moves, .others what stood beside it, .outline is a drawing's rings as JSON
        pictures/    .grey and .colour, compressed with zstd: height and width (u32), then f32, one or four numbers a pixel, linear
        plates/      pictures of a plate as they came, one for each frame
        tables/      look-up tables (.cube)
        volumes/     volumes, compressed with zstd

        Bring the file in on the shelf, or with: bin/vumbral unpack FILE.zip
      WORDS

      def initialize(workshop)
        @workshop = workshop
      end

      # @param document [Shot::Document]; @param path [String] the file, which is there whole or not at all
      # @yield [done, total] after each file
      # @return [String] the path
      def pack(document, path)
        rows = digests(document).filter_map { |digest| @workshop.db[:assets][digest: digest] }
        files = rows.flat_map { |row| files_of(row[:digest]) }.uniq
        part = "#{path}.part"
        Zip::OutputStream.open(part) do |zip|
          {README => TEXT, SHOT => JSON.pretty_generate(document.to_h), LIST => list(rows)}.each do |name, text|
            text(zip, name, text)
          end
          files.each_with_index do |file, n|
            put(zip, file)
            yield n + 1, files.size
          end
          rows
            .select { |row| row[:kind] == "mesh" && !@workshop.assets.clip(row[:digest]) }
            .each { |row| still(zip, row[:digest]) }
        end
        File.rename(part, path)
        path
      ensure
        FileUtils.rm_f(part) if part
      end

      # @return [Hash] the shot's row
      # @raise [Refused] for what is no such file; nothing of it is kept then
      def unpack(path, name)
        Zip::File.open(path) do |zip|
          check(zip, name)
          text, rows = zip.read(SHOT), listed(zip.read(LIST), name)
          # Read first: a shot that is refused brings nothing along.
          Shot::Document.load(text, from: name)
          zip.each { |entry| take(entry) }
          rows.each { |row| @workshop.db[:assets].insert_ignore.insert(row.merge(created_at: @workshop.now)) }
          @workshop.shots.import(text, from: name)
        end
      rescue Zip::Error, Zlib::Error, Errno::ENOENT
        refuse(name, "cannot be read as a ZIP file; it may have been cut off")
      end

      private

      # Of a mesh that moves, those of its frames too.
      def digests(document)
        found =
          document
            .nodes
            .each_value
            .flat_map do |node|
              node
                .kind
                .dials
                .each_value
                .select { |dial| TYPES.include?(dial.type) }
                .filter_map { |dial| node.plain(dial.name) }
            end
            .uniq
        found.flat_map { |digest| [digest, *@workshop.assets.clip(digest)&.frames.to_a] }.uniq
      end

      def files_of(digest) =
        Dir[
          @workshop.home.within("{meshes,pictures,volumes,tables}", "#{digest}.*"),
          @workshop.home.within("plates", digest, "*")
        ].sort

      def list(rows) =
        JSON.pretty_generate(
          rows.map do |row|
            {digest: row[:digest], name: row[:name], kind: row[:kind], facts: JSON.parse(row[:facts])}
          end
        )

      def text(zip, name, text)
        zip.put_next_entry(name)
        zip.write(text)
      end

      # What is packed already is stored as it is.
      def put(zip, file)
        zip.put_next_entry(file.delete_prefix("#{@workshop.home.path}/"), nil, nil, Zip::Entry::STORED)
        File.open(file, "rb") { |from| IO.copy_stream(from, zip) }
      end

      def still(zip, digest)
        text(zip, "meshes/#{digest}.ply", Formats::PLY.write(@workshop.assets.mesh(digest)))
      end

      def check(zip, name)
        unless zip.find_entry(SHOT) && zip.find_entry(LIST)
          refuse(name, "is no shot of Vumbral: there is no #{SHOT} or #{LIST} in it")
        end
        refuse(name, "holds #{zip.size} files; #{MOST_FILES} is the most") if zip.size > MOST_FILES
        refuse(name, "would take more than #{MOST >> 30} GB") if zip.sum(&:size) > MOST
        odd = zip.map(&:name).find { |entry| ![SHOT, LIST, README].include?(entry) && !entry.match?(ALLOWED) }
        refuse(name, "holds a file that does not belong into a shot: #{odd[0, 60].inspect}") if odd
      end

      def listed(text, name)
        rows = Formats::JsonText.parse(text.dup.force_encoding(Encoding::UTF_8), name)
        whole =
          rows.is_a?(Array) &&
          rows.all? do |row|
            row.is_a?(Hash) && row["digest"].to_s.match?(/\A[0-9a-f]{8,64}\z/) && row["name"].is_a?(String) &&
              KINDS.include?(row["kind"]) && row["facts"].is_a?(Hash)
          end
        refuse(name, "has a list of files that cannot be read") unless whole
        rows.map do |row|
          {
            digest: row["digest"], name: Assets.plain(row["name"]), kind: row["kind"],
            facts: JSON.generate(row["facts"])
          }
        end
      end

      # What is there stays: it has the same digest.
      def take(entry)
        return if [SHOT, LIST, README].include?(entry.name) || entry.name.end_with?(".ply")

        path = @workshop.home.within(entry.name)
        @workshop.home.write(path, entry.get_input_stream.read) unless File.exist?(path)
      end

      def refuse(name, words) = raise(Refused.new("#{name} #{words}.", code: "bad_bundle"))
    end
  end
end
