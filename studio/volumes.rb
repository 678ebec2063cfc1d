# frozen_string_literal: true

require "digest"
require "json"
require "zstd-ruby"

module Vumbral
  module Studio
    # Volumes that somebody brought, and frames of runs, as sculpts begin with them.
    class Volumes
      # So many are kept in memory.
      KEPT = 2
      # What grids are called that hold heat; the rest of the world calls a density many names.
      HEAT = %w[temperature heat].freeze

      # `channels` f32 [z, y, x] by their names (density, heat, glow), all on one lattice; `distance` whether the
      # density is a distance.
      # @!attribute lattice [Grid::Lattice]
      # @!attribute flow [Grid::VectorField, nil] of a frame of a run, m/s at centres
      # @!attribute sparse [Sculpt::Field, nil] the density, of what has nothing else and is too fine to be told in full
      Found = Struct.new(:channels, :lattice, :distance, :flow, :sparse) do
        def channels = self[:channels] ||= {density: sparse.dense}
      end

      def initialize(workshop, assets)
        @workshop, @assets, @kept = workshop, assets, {}
      end

      # @return [Hash] digest, name and facts, as {Assets#fetch}
      # @raise [Refused] for what is no volume
      def bring(bytes, name)
        name = Assets.plain(name)
        @assets.check_size(bytes.bytesize, name)
        file = Formats::VDBReader.new(bytes, name).call
        grids = chosen(file.volumes)
        digest = Digest::SHA256.hexdigest(bytes)[0, 24]
        @workshop.home.write(path(digest), pack(grids))
        density = grids["density"]
        facts = {
          size: density.values.shape.reverse, voxel: density.voxel, grids: grids.size, range: extremes(density.values),
          level_set: density.level_set, left_out: file.left_out + (file.volumes - grids.values).map(&:name)
        }
        @workshop.db[:assets].insert_conflict(target: :digest, update: {name: name}).insert(
          digest: digest, name: name, facts: JSON.generate(facts), created_at: @workshop.now, kind: "volume"
        )
        @assets.fetch(digest)
      end

      # @return [Found]
      # @raise [Refused] where it is gone
      def fetch(digest)
        kept(digest) { unpack(File.binread(path(digest))) }
      rescue Errno::ENOENT
        raise Refused.new("A volume that a sculpt begins with is gone; bring it again.", code: "unknown_volume")
      end

      # @param key [String] of a frame of a run @return [Found]
      def frame(key)
        kept(key) do
          bricks, head = @workshop.frames.read(key)
          channels = {density: :smoke, heat: :heat, glow: :fuel}.select { |_, name| bricks.channel?(name) }
          voxel = head["voxel"]
          lattice = Grid::Lattice.new(*head["corner"].map { |c| c + 0.5 * voxel }, voxel)
          next Found.new(nil, lattice, false, nil, Sculpt::Field.sparse(bricks, lattice)) if bricks.channels == [:smoke]

          Found.new(
            channels.transform_values { |name| bricks.field(name) }, lattice, false,
            bricks.channel?(:x) ? bricks.velocity : nil
          )
        end
      end

      private

      def kept(key)
        found = @kept.delete(key) || yield
        @kept.shift if @kept.size >= KEPT
        @kept[key] = found
      end

      # The density, or what comes nearest to one, and perhaps heat on the same lattice.
      def chosen(volumes)
        density =
          volumes.find { |volume| volume.name == "density" } || volumes.find { |volume| !HEAT.include?(volume.name) } ||
          volumes[0]
        heat =
          volumes.find do |volume|
            HEAT.include?(volume.name) && (volume.voxel - density.voxel).abs < 1e-6 * density.voxel
          end
        {"density" => density, "heat" => heat}.compact
      end

      def extremes(values) = values.to_a.minmax.map { |value| value.round(4) }

      # Heat is told above what is around; both cover the box of the density.
      def pack(grids)
        rows =
          grids.map do |name, volume|
            {
              name: name, shape: volume.values.shape, place: volume.place, voxel: volume.voxel,
              background: volume.background, distance: volume.level_set
            }
          end
        head = JSON.generate(rows)
        [head.bytesize].pack("L<") + head +
          Zstd.compress(grids.values.map { |volume| volume.values.bytes }.join, level: 1)
      end

      def unpack(bytes)
        size = bytes.unpack1("L<")
        rows = JSON.parse(bytes.byteslice(4, size))
        body = Zstd.decompress(bytes.byteslice(4 + size..))
        at = 0
        fields = rows.map do |row|
          length = 4 * row["shape"].reduce(:*)
          Kernel::Buffer.new(:f32, *row["shape"], bytes: body.byteslice(at, length)).tap { at += length }
        end
        first = rows[0]
        lattice = Grid::Lattice.new(*first["place"], first["voxel"])
        channels = {density: fields[0]}
        channels[:heat] = over(fields[1], rows[1], fields[0], first) if rows[1]
        Found.new(channels, lattice, first["distance"])
      end

      def over(heat, row, density, first)
        out = Kernel::Buffer.new(:f32, *density.shape)
        shift = row["place"].zip(first["place"]).map { |a, b| ((a - b) / first["voxel"]).round }
        Sculpt::StepKernels.shifted(out, heat, Kernel::Buffer.of(:i32, shift), row["background"])
        out
      end

      def path(digest) = @workshop.home.within("volumes", "#{digest.to_s[/\A[0-9a-f]{8,64}\z/] || "none"}.volume")
    end
  end
end
