# frozen_string_literal: true

module Vumbral
  module Picture
    # Lamps that are seen themselves, as props that shine and throw no shadow.
    module SeenLamps
      module_function

      # @param document [Shot::Document]; @param frame [Numeric]; @param textures [Array<Array>] rows of those of the
      #   shot
      # @return [Array<Hash>] as {PropScene.settings}
      def rows(document, frame, textures)
        lamps = document.of(:lamp).each_with_index.select { |node, _| node[:seen] }
        return [] if lamps.empty?

        first = document.of(:sun).size
        rows = Light::Lamps.rows(document, frame)
        lamps.filter_map { |node, n| row(node, rows[first + n], textures) }
      end

      def row(node, lamp, textures)
        outline, pose, area = (node[:as] == "area") ? sheet(lamp) : ball(lamp)
        return unless area.positive?

        # As bright as it must be for its light a metre away.
        light = lamp[Light::LampKernels::RED, 3].map { |c| c / area }
        {
          "prop" => node.id,
          "made" => [
            0.0, 0.5, 0.0, *light, -1.0, 0.0, -1.0, 0.0, -1.0, 0.0, -1.0, 0.0, 0.0, 1.0, 0.0, 0.0, 1.5, 0.0, 0.0, 0.0,
            0.0, 1.0, -1.0, 0.0, 0.0, 1.0
          ],
          "textures" => textures,
          "body" => {
            "outline" => outline, "from" => pose, "to" => pose
          },
          "colour" => [0.0] * 3,
          "uneven" => 0.0,
          "uneven_size" => 1.0,
          "casts" => false,
          **((node[:as] == "area" && node[:picture]) ? {"picture" => node[:picture], "shows" => true} : {})
        }
      end

      def ball(lamp)
        radius = lamp[Light::LampKernels::SIZE] - 1.0
        [
          {"shape" => "sphere", "radius" => radius, "divisions" => 3},
          Geometry::Pose.new(lamp[Light::LampKernels::PLACE, 3], [0.0] * 3, [1.0] * 3).to_data,
          Math::PI * radius * radius
        ]
      end

      # A card whose front is where the light goes.
      def sheet(lamp)
        way, across = lamp[Light::LampKernels::WAY, 3], lamp[Light::LampKernels::ACROSS, 3]
        up = Geometry::Vectors.cross(way, across)
        turn = Geometry::Transform.new([across, up, way].transpose.map { |row| row + [0.0] }).angles
        wide, high = lamp[Light::LampKernels::EDGE, 2].map { |half| 2.0 * half }
        [
          {"shape" => "card", "size" => [wide, high, 1.0]},
          Geometry::Pose.new(lamp[Light::LampKernels::PLACE, 3], turn, [1.0] * 3).to_data, wide * high
        ]
      end
      private_class_method :row, :ball, :sheet
    end
  end
end
