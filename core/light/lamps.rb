# frozen_string_literal: true

module Vumbral
  module Light
    # The suns and lamps of a shot as rows of numbers, as {LampKernels} reads them.
    module Lamps
      # Numbers of a row.
      WIDTH = 20
      # Places along each side of a slide; it stands behind a row's own numbers.
      SLIDE = 64
      ROUND, SPOT, AREA = 0.0, 1.0, 2.0
      KINDS = {"point" => ROUND, "spot" => SPOT, "area" => AREA}.freeze
      # How light falls off with distance: to which power.
      FALLOFF = {"square" => 2.0, "straight" => 1.0, "none" => 0.0}.freeze
      # A light of 1 in a picture, lux.
      LUX = 1000.0
      # How much of the sun's light comes through the air when it begins to fail.
      SETTING = 0.02
      VOLUMES, PROPS = 1.0, 2.0
      LIGHTS = {"all" => 3.0, "volumes" => VOLUMES, "props" => PROPS}.freeze

      # Lamps that shine no way in particular are looked from as wide as this, degrees.
      AROUND = 90.0

      module_function

      # What a lamp sees, to look from it: as wide as its cone, to where it shines; without a way, to the chamber's
      # middle.
      # @param node [Shot::Node] a lamp
      # @return [Hash] "position", "target", and "focal" on a film 36 mm wide, mm
      def outlook(document, node, frame)
        position = Geometry::Hanging.point(document, node, :position, frame)
        around = node[:as] == "point"
        box = document.the(:chamber)
        middle =
          Geometry::Hanging
            .stood(document, box)
            .each_with_index
            .map { |c, axis| (axis == 1) ? c + 0.5 * box[:size][1] : c }
        half = 0.5 * ((node[:as] == "spot") ? node[:cone, frame] : AROUND) * Math::PI / 180
        {
          "position" => position, "target" => around ? middle : aimed(document, node, frame),
          "focal" => 18.0 / Math.tan(half)
        }
      end

      # @param document [Shot::Document]; @param frame [Numeric]
      # @return [Array<Array<Float>>] suns first
      def rows(document, frame)
        document.of(:sun).map { |sun| sun(sun, frame, document.the(:sky)[:haze]) } +
          document.of(:lamp).map { |lamp| lamp(document, lamp, frame) }
      end

      # A row of one that shines all round. @param first [Array<Float>] its first eight numbers
      def round(first, lights = LIGHTS["all"]) =
        first + [ROUND, 0.0, -1.0, 0.0, -1.0, 1.0, 1.0, 0.0, 0.0, 2.0, lights, 0.0]

      # What spots shine through: rows of textures ({Geometry::Textures}), as plain data. The picture of one fills the
      # cone.
      # @return [Hash{Integer => Array}] by the number of the lamp's row
      def slides(document, frame)
        suns = document.of(:sun).size
        document.of(:lamp).each_with_index.filter_map do |node, n|
          texture = (node[:as] == "spot") ? document.nodes[node[:slide]] : nil
          [suns + n, Geometry::Textures.flat(document, texture, frame)] if texture && document.on?(texture)
        end.to_h
      end

      # Pictures on sheets. @return [Hash{Integer => String}] digests by the number of the lamp's row
      def pictures(document)
        suns = document.of(:sun).size
        document
          .of(:lamp)
          .each_with_index
          .filter_map { |node, n| [suns + n, node[:picture]] if node[:as] == "area" && node[:picture] }
          .to_h
      end

      # The same rows with the light of those that have a picture in its mean colour; no brighter or darker.
      # @param pictures [Hash] from {.pictures}
      def tinted(rows, pictures, meshes)
        return rows if pictures.empty? || meshes.nil?

        rows.each_with_index.map do |row, n|
          next row unless pictures.key?(n)

          mean = Environment.mean(pictures[n], meshes)
          row.dup.tap { |tinted| 3.times { |c| tinted[LampKernels::RED + c] *= mean[c] } }
        end
      end

      # @param rows [Array<Array<Float>>]; @param slides [Hash] from {.slides}; @param meshes [#picture]
      # @return [Kernel::Buffer] f32 [n, WIDTH and, where any has one, a slide]
      def buffer(rows, slides, meshes)
        return Kernel::Buffer.of(:f32, rows.flatten, rows.size, WIDTH) if slides.empty?

        values = Kernel::Buffer.new(:f32, SLIDE, SLIDE)
        bytes = rows.each_with_index.map do |row, n|
          next row.pack("e*") + "\0" * (4 * SLIDE * SLIDE) unless slides.key?(n)

          Geometry::TextureKernels.look(
            values, Maps::Patterns.buffer([slides[n]], meshes), 0,
            Kernel::Buffer.of(:f32, [-0.5, 0.5, 0.0, 1.0, 0.0, 0.0, 0.0, -1.0, 0.0])
          )
          (row[0...-1] + [1.0]).pack("e*") + values.bytes
        end
        Kernel::Buffer.new(:f32, rows.size, WIDTH + SLIDE * SLIDE, bytes: bytes.join)
      end

      # Props that each lamp lights alone; nothing for all. @return [Array<Array<String>, nil>] in the order of {.rows}
      def links(document)
        document.of(:sun).map { nil } +
          document.of(:lamp).map { |lamp| lamp[:only_props].empty? ? nil : lamp[:only_props] }
      end

      def sun(node, frame, haze)
        around, height = [node[:around, frame], node[:height, frame]].map { |degrees| degrees * Math::PI / 180 }
        way = [Math.sin(around) * Math.cos(height), Math.sin(height), Math.cos(around) * Math.cos(height)]
        # Half of its width, as the tangent; below nothing, so that nobody takes it for a lamp's.
        round(
          [
            -Math.tan(node[:size, frame] * Math::PI / 360), *way,
            *aired(light(node[:colour, frame], node[:strength, frame]), node[:aired] && Math.sin(height), haze),
            node[:shadows] ? 1.0 : 0.0
          ]
        )
      end

      # A sun's light as the air colours it, as strong as before but where it sets.
      def aired(light, height, haze)
        return light unless height

        left = Atmosphere.sunlight(haze, height)
        full = [left.zip([0.2126, 0.7152, 0.0722]).sum { |c, share| c * share }, SETTING].max
        light.zip(left).map { |c, part| c * part / full }
      end

      def lamp(document, node, frame)
        place = Geometry::Hanging.point(document, node, :position, frame)
        kind = KINDS.fetch(node[:as])
        facing, across = (kind == ROUND) ? [[0.0, -1.0, 0.0], [1.0, 0.0, 0.0]] : facing(document, node, place, frame)
        # From afar a sheet is as a ball of about its size.
        size = (kind == AREA) ? 0.25 * (node[:wide, frame] + node[:high, frame]) : node[:radius, frame]
        first = [1.0 + size, *place, *light(tint(node, frame), strength(node, frame)), node[:shadows] ? 1.0 : 0.0]
        [
          *first, kind, *facing, *shape(node, kind, frame), *across, FALLOFF.fetch(node[:falloff]),
          LIGHTS.fetch(node[:lights]), 0.0
        ]
      end

      # The place that it shines at, in the world.
      def aimed(document, node, frame)
        prop = document.nodes[node[:aim]]
        if prop
          Geometry::Hanging.pose(document, prop, frame).position
        else
          Geometry::Hanging.point(document, node, :target, frame)
        end
      end

      # Which way it shines, and which way is across.
      def facing(document, node, place, frame)
        way = aimed(document, node, frame).zip(place).map { |a, b| a - b }
        way = Geometry::Vectors.unit((way.all? { |c| c.abs < 1e-9 }) ? [0.0, -1.0, 0.0] : way)
        side = (way[1].abs < 0.99) ? [way[2], 0.0, -way[0]] : [1.0, 0.0, 0.0]
        turn = node[:roll, frame] * Math::PI / 180
        side = Geometry::Vectors.unit(side)
        up = Geometry::Vectors.cross(way, side)
        [way, side.zip(up).map { |a, b| a * Math.cos(turn) + b * Math.sin(turn) }]
      end

      # Cosines of a cone's half angle, where it ends and where it begins to fade; half sizes of an area.
      def shape(node, kind, frame)
        return [0.5 * node[:wide, frame], 0.5 * node[:high, frame]] unless kind == SPOT

        half = node[:cone, frame] * Math::PI / 360
        [Math.cos(half), [Math.cos(half * (1.0 - node[:soft, frame])), Math.cos(half) + 1e-5].max]
      end

      def tint(node, frame)
        return node[:colour, frame] unless node[:kelvin] == "kelvin"

        rgb = BlackBody.rgb(node[:temperature, frame])
        rgb.map { |c| c / rgb.max }
      end

      # Light on a sheet a metre away, whatever it was told in.
      def strength(node, frame)
        given = node[:strength, frame] * 2.0**node[:stops, frame]
        case node[:measure]
        when "candela" then given / LUX
        when "lumen" then given / LUX / ((node[:as] == "area") ? Math::PI : 4.0 * Math::PI)
        else given
        end
      end

      def light(colour, strength) = colour.map { |c| c * strength }
      private_class_method :sun, :aired, :aimed, :lamp, :facing, :shape, :tint, :strength, :light
    end
  end
end
