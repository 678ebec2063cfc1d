# frozen_string_literal: true

module Vumbral
  module Studio
    # A shot as a scene for other programs: camera, props, lamps, and the volume as files beside it.
    class SceneExport
      # @param frames [Array<Integer>]
      def initialize(workshop, document, frames)
        @workshop, @document, @frames = workshop, document, frames
      end

      # @param files [Hash{Integer => String}] names of OpenVDB files by frame
      # @yield after each thing
      # @return [String] USD text
      def text(files)
        scene = Formats::USDA.new(@document.name, @frames, @document.rate)
        camera(scene)
        @document.of(:prop).each { |prop| prop(scene, prop) && yield }
        lamps(scene)
        @document.of(:emitter).each { |emitter| particles(scene, emitter) && yield }
        drops(scene)
        scene.volume(@document.the(:chamber).name, files) if files.any?
        scene.text
      end

      private

      def camera(scene)
        picture = @document.the(:picture)
        scene.camera(
          @frames.map { |frame| Picture::Camera.settings(@document, frame) }, picture[:width].fdiv(picture[:height])
        )
      end

      # What cannot keep its triangles is told anew at each frame.
      def prop(scene, prop)
        standing(prop).tracks(@frames).each { |track| scene.prop(track) }
      rescue Refused
        scene.changing(prop.name, @frames.map { |frame| standing(prop).at(frame) }, prop[:colour])
      end

      # Each with its place, its speed, how wide it is and its number.
      def particles(scene, emitter)
        found = EmitterPoints.new(@document, @workshop.assets)
        rows =
          @frames.map do |frame|
            found
              .at(emitter, frame)
              .map { |row| row[0, 6] + [row[9], row[7]] }
              .then { |all| Kernel::Buffer.of(:f32, all.flatten, all.size, 8) }
          end
        scene.points(emitter.name, rows, wide: 6, ids: 7)
      end

      # What frames keep of a liquid's particles and its spray, half a voxel wide.
      def drops(scene)
        return unless @workshop.liquids.any?(@document)

        rows = @frames.map do |frame|
          key = @document.made(frame) or next Kernel::Buffer.new(:f32, 0, 9)
          wide = 0.5 * @workshop.liquids.lattice(key)[2]
          found = @workshop.liquids.points(key).to_a.each_slice(10).map { |row| row[0, 6] + [wide, row[7], row[8]] }
          Kernel::Buffer.of(:f32, found.flatten, found.size, 9)
        end
        scene.points("#{@document.of(:liquid)[0].name} particles", rows, wide: 6, ids: 7)
      end

      def standing(prop) = Geometry::Standing.new(@document, @workshop.assets, only: [prop.id])

      def lamps(scene)
        rows = @frames.map { |frame| Light::Lamps.rows(@document, frame) }
        suns = @document.of(:sun)
        suns.each_with_index do |sun, n|
          scene.lamp(sun.name, "sun", @frames.zip(rows).map { |frame, all| sun_row(sun, frame, all[n]) })
        end
        @document
          .of(:lamp)
          .each_with_index do |lamp, n|
            scene.lamp(
              lamp.name, lamp[:as], @frames.zip(rows).map { |frame, all| lamp_row(lamp, frame, all[suns.size + n]) }
            )
          end
        sky = @document.the(:sky)
        scene.sky(@frames.map { |frame| [sky[:colour, frame], sky[:strength, frame]] })
      end

      def sun_row(node, frame, row)
        {
          "position" => [0.0] * 3, "way" => row[Light::LampKernels::PLACE, 3].map { |c| -c },
          "light" => row[Light::LampKernels::RED, 3], "size" => node[:size, frame]
        }
      end

      def lamp_row(node, frame, row)
        way = row[Light::LampKernels::WAY, 3]
        {
          "position" => row[Light::LampKernels::PLACE, 3], "way" => way.all?(&:zero?) ? [0.0, -1.0, 0.0] : way,
          "light" => row[Light::LampKernels::RED, 3], "size" => node[:radius, frame], "cone" => node[:cone, frame],
          "wide" => node[:wide, frame], "high" => node[:high, frame]
        }
      end
    end
  end
end
