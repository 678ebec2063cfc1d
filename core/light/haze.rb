# frozen_string_literal: true

module Vumbral
  module Light
    # The fogs of a shot and its visible beams: from settings to what kernels take.
    class Haze
      WIDTH = 40
      ALL, BOX, FIELD, BEAM = 0.0, 1.0, 2.0, 3.0
      # Cells of a prop's field along its longest side, and of the light's lattice in all.
      FIELD_CELLS, LIGHT_CELLS = 56, 16_000
      # More would be too slow to look at.
      MOST = 12

      # @param document [Shot::Document]; @param frame [Numeric]
      # @return [Hash] plain data
      def self.settings(document, frame)
        textures = Geometry::Textures.rows(document, frame)
        fogs = document.of(:fog).filter_map { |node| fog(document, node, frame, textures.keys) }
        beams = beams(document, frame)
        return {"veils" => []} if fogs.empty? && beams.empty?

        {"veils" => (fogs + beams).first(MOST), "textures" => textures.values, "around" => around(document, frame)}
      end

      def self.fog(document, node, frame, textures)
        prop = (node[:fills] == "prop") ? document.nodes[node[:prop]] : nil
        return if !node[:thickness, frame].positive? || (node[:fills] == "prop" && prop.nil?)

        at = textures.index(node[:texture]) || -1
        row = {
          "thickness" => node[:thickness, frame], "colour" => node[:colour, frame], "forward" => node[:forward, frame],
          "level" => node[:level, frame], "thins" => (node[:course] == "low") ? 1.0 / node[:thins, frame] : 0.0,
          "texture" => at, "textured" => node[:textured, frame], "soft" => node[:soft, frame], "reach" => node[:reach],
          "glow" => node[:glow_colour, frame].map { |c| c * node[:glow, frame] }, "around" => node[:around, frame]
        }
        prop ? row.merge("body" => Geometry::Bodies.of(document, prop, frame)) : row
      end

      # Lamps are counted as in {Lamps.rows}.
      def self.beams(document, frame)
        suns = document.of(:sun).size
        document.of(:lamp).each_with_index.filter_map do |node, n|
          if node[:as] == "spot" && node[:beam, frame].positive?
            {"lamp" => suns + n, "thickness" => node[:beam, frame], "soft" => node[:beam_soft, frame]}
          end
        end
      end

      # Places that the light's lattice must hold where a fog has no end of its own.
      def self.around(document, frame)
        box = document.the(:chamber)
        (x, y, z), (width, height, depth) = Geometry::Hanging.stood(document, box), box[:size]
        camera = document.the(:camera)
        lamps = document.of(:lamp).map { |lamp| Geometry::Hanging.point(document, lamp, :position, frame) }
        [
          [x - width, y, z - depth], [x + width, y + height, z + depth],
          *%i[position target].map { |dial| Geometry::Hanging.point(document, camera, dial, frame) }, *lamps
        ]
      end
      private_class_method :fog, :beams, :around

      # @param settings [Hash] from {.settings}; @param rig [Rig]
      def initialize(settings, rig, meshes)
        @settings, @rig, @meshes = settings, rig, meshes
        @fields = []
        @rows = settings["veils"].map { |row| row["lamp"] ? beam(row) : veil(row) }
      end

      def empty? = @rows.empty?

      # @param scene [#corners] props that throw shadows, see {Picture::PropScene}
      # @param smoke [Kernel::Buffer] what stands before lamps besides; @param lattice [Grid::Lattice] of it
      # @param coarse [Boolean] quickly, for a first look
      # @return [HazeLight]
      def light(scene, smoke, lattice, coarse: false)
        return nothing if empty?

        maps, faces = Shadows.new(@rig.lamps, scene, *box, coarse: coarse).made
        first, cell, counts = grid(coarse ? LIGHT_CELLS / 10 : LIGHT_CELLS)
        left, open =
          Kernel::Buffer.new(:f32, [@rig.lamps.dim(0), 1].max, *counts.reverse),
          Kernel::Buffer.new(:f32, *counts.reverse)
        known = [rows, fields, textures, maps, faces]
        # Nothing is known yet of what it fills in.
        blank =
          HazeLight.new(
            *known, Kernel::Buffer.new(:f32, 1, 1, 1, 1), Kernel::Buffer.new(:f32, 1, 1, 1), *first, cell, *sky, lamps
          )
        HazeFillKernels.fill(left, open, blank, lamps, smoke, lattice, @rig.thickness * @rig.shadow)
        HazeLight.new(*known, left, open, *first, cell, *sky, lamps)
      end

      # @param cells [Integer] as many in all
      # @return [Array] first place, cell, and counts along x, y, z of a lattice that holds all that may be lit
      def grid(cells)
        low, high = box
        size = low.zip(high).map { |a, b| [b - a, 1e-3].max }
        cell = [(size.reduce(:*) / cells)**(1.0 / 3.0), size.max / 96.0].max
        counts = size.map { |length| (length / cell).ceil + 1 }
        [low, cell, counts]
      end

      # @return [Hash, nil] of fog that has no end: how far it is seen, from where on and how fast it thins; nothing
      #   without
      def endless
        rows = @rows.select { |row| row[0] == ALL }
        if rows.any?
          {
            reach: rows.map { |row| row[HazeKernels::REACH] }.max, thins: rows.map { |row| row[HazeKernels::THINS] }.min
          }
        end
      end

      # @return [Float] how much light keeps its way, in the mean of all fogs
      def forward
        fogs = @rows.reject { |row| row[0] == BEAM }
        if fogs.empty?
          0.0
        else
          fogs.sum { |row| row[HazeKernels::THICK] * row[HazeKernels::FORWARD] } /
            fogs.sum { |row| row[HazeKernels::THICK] }
        end
      end

      # @return [Hash] of fogs in the mean: `colour`, and how thick those are that have no end, per metre
      def even
        fogs = @rows.reject { |row| row[0] == BEAM }
        whole = [fogs.sum { |row| row[HazeKernels::THICK] }, 1e-9].max
        colour = Array.new(3) { |c| fogs.sum { |row| row[HazeKernels::THICK] * row[2 + c] } / whole }
        {colour: colour, thick: fogs.sum { |row| (row[0] == ALL) ? row[HazeKernels::THICK] : 0.0 }}
      end

      private

      def rows = Kernel::Buffer.of(:f32, @rows.flatten, @rows.size, WIDTH)

      def fields =
        if @fields.empty?
          Kernel::Buffer.new(:f32, 1)
        else
          Kernel::Buffer.new(:f32, @fields.sum(&:size), bytes: @fields.map(&:bytes).join)
        end

      def textures
        @textures ||= Maps::Patterns.buffer(@settings["textures"], @meshes)
      end

      # Light from above and below in the mean.
      def sky = 3.times.map { |c| 0.5 * (@rig.sky[c] + @rig.sky[3 + c]) }

      def lamps = @rig.volume_lamps

      def nothing
        one = Kernel::Buffer.new(:f32, 1, 1, 1)
        HazeLight.new(
          Kernel::Buffer.new(:f32, 0, WIDTH), Kernel::Buffer.new(:f32, 1),
          Kernel::Buffer.new(:f32, 1, Geometry::Textures::WIDTH), Kernel::Buffer.new(:f32, 1),
          Kernel::Buffer.new(:f32, 0, 16), Kernel::Buffer.new(:f32, 1, 1, 1, 1), one, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0,
          Kernel::Buffer.new(:f32, 0, Lamps::WIDTH)
        )
      end

      def beam(row)
        numbers = [BEAM, row["thickness"], 1.0, 1.0, 1.0, 0.0, 0.0, 0.0, -1.0, 0.0, row["soft"]]
        (numbers + [0.0] * WIDTH).first(WIDTH).tap { |all| all[35] = row["lamp"].to_f }
      end

      def veil(row)
        numbers = [
          row["thickness"], *row["colour"], row["forward"], row["level"], row["thins"], row["texture"].to_f,
          row["textured"], row["soft"], row["reach"]
        ]
        place = row["body"] ? body(row["body"]) : [ALL, [0.0] * 12, [0.0] * 11]
        [place[0], *numbers, *place[1], *place[2], -1.0, *row["glow"], row["around"]]
      end

      # Boxes are exact, other shapes a field of distances.
      def body(body)
        pose = Geometry::Pose.of(body["to"])
        inverse = pose.rigid.inverse.rows.flatten.first(12)
        outline = body["outline"]
        if outline["shape"] == "box" && outline["operations"].nil?
          half = outline["size"].zip(pose.scale).map { |size, scale| 0.5 * size * scale }
          return [BOX, inverse, [*half, *[0.0] * 8]]
        end
        [FIELD, inverse, field(Geometry::Body.new(outline, pose.scale, @meshes, pose.at))]
      end

      def field(body)
        unless body.inside?
          raise Refused.new(
            "A fog fills a prop that is not closed, so that it has no inside; close the prop, or let the fog " \
              "fill the whole shot.",
            code: "not_closed"
          )
        end

        low, high = body.mesh.bounds
        cell = low.zip(high).map { |a, b| b - a }.max / FIELD_CELLS
        first = low.map { |c| c - 2.0 * cell }
        counts = low.zip(high).map { |a, b| ((b - a) / cell).ceil + 5 }
        distances = Kernel::Buffer.new(:f32, *counts.reverse).fill(4.0 * cell * FIELD_CELLS)
        body.distance(distances, Geometry::Transform.identity, first, cell, cell * FIELD_CELLS)
        begins = @fields.sum(&:size)
        @fields << distances
        [*high.zip(low).map { |a, b| 0.5 * (a - b) }, begins.to_f, *counts.map(&:to_f), cell, *first]
      end

      # Lowest and highest corner of all that may be lit.
      def box
        @box ||= begin
          corners = @rows.flat_map { |row| ends(row) }
          [corners.transpose.map(&:min), corners.transpose.map(&:max)]
        end
      end

      def ends(row)
        case row[0]
        when ALL then @settings["around"]
        when BEAM
          lamp = row[35].to_i
          place = 3.times.map { |c| @rig.lamps[lamp, LampKernels::PLACE + c] }
          [place, 3.times.map { |c| place[c] + 4.0 * @rig.lamps[lamp, LampKernels::WAY + c] }]
        else
          inverse = Geometry::Transform.new(row[12, 12].each_slice(4).to_a).inverse
          middle = (row[0] == FIELD) ? 3.times.map { |c| row[32 + c] + 0.5 * (row[28 + c] - 1) * row[31] } : [0.0] * 3
          8.times.map do |n|
            inverse.apply(3.times.map { |c| middle[c] + ((n >> c & 1).zero? ? -1.0 : 1.0) * row[24 + c] })
          end
        end
      end
    end
  end
end
