# frozen_string_literal: true

module Vumbral
  module Gas
    # The bodies and particles that a run meets, made ready once.
    class Props
      KEPT = 200
      # How far back particles look for where they were, frames.
      SPAN = 0.1

      def initialize(plan, meshes)
        @plan = plan
        @meshes = meshes
        @bodies = {}
        @swarms = {}
      end

      # @return [Geometry::Body]
      def body(outline, scale)
        @bodies.delete(@bodies.keys.first) if @bodies.size > KEPT
        @bodies[[outline, scale]] ||= Geometry::Body.new(outline, scale, @meshes)
      end

      # A frame's settings with every broken prop in its pieces.
      def parted(settings)
        whole = ->(row) { row["bodies"] ? row.merge("bodies" => Geometry::Bodies.parts(row["bodies"], @meshes)) : row }
        settings.merge("solids" => Geometry::Bodies.parts(settings["solids"], @meshes),
          "sources" => settings["sources"].map(&whole), "forces" => settings["forces"].map(&whole))
      end

      def swarm(id) = @swarms[id] ||= Swarm.new(@plan, id, @meshes)

      # The frame whose particles are asked for.
      attr_accessor :frame

      def formula(text) = (@formulas ||= {})[text] ||= Shot::Formula.new(text)

      # @return [Kernel::Buffer] f32 [h, w]
      # @raise [Refused] where a source has none
      def picture(digest)
        unless digest
          raise Refused.new("A source takes its strength from a picture, but none was brought for it.",
            code: "no_picture")
        end

        @meshes.picture(digest)
      end

      # Where a source's points were and are, with their radius.
      # @return [Kernel::Buffer] f32 [n, 7]
      def points(source, part)
        radius = [source["point_size"], 0.5 * @plan.voxel].max
        rows = (source["from"] == "particles") ? particles(source, part) : corners(source, part)
        Kernel::Buffer.of(:f32, rows.flat_map { |row| row + [radius] }, rows.size, 7)
      end

      # Lowest and highest corner of what a source covers in a frame, metres; nil for nothing.
      def bounds(source)
        boxes = if %w[points particles].include?(source["from"])
          [0.0, 1.0].flat_map { |part|
            points(source, part).to_a.each_slice(7).map { |row|
              [row[3, 3].map { |c|
                c - row[6]
              }, row[3, 3].map { |c|
                   c + row[6]
                 }]
            }
          }
        else
          source["bodies"].flat_map { |body| %w[from to].map { |moment| Geometry::Pose.of(body[moment]).then { |pose| body(body["outline"], pose.scale).bounds(pose.rigid) } } }
        end
        boxes.empty? ? nil : [boxes.map(&:first).transpose.map(&:min), boxes.map(&:last).transpose.map(&:max)]
      end

      private

      def particles(source, part)
        time = @frame - 1 + part
        swarm(source["emitter"]).alive(time, time - SPAN).map { |row| row[3, 3] + row[0, 3] }
      end

      def corners(source, part)
        source["bodies"].flat_map do |body|
          from, to = Geometry::Pose.of(body["from"]), Geometry::Pose.of(body["to"])
          mesh = Geometry::Shapes.build(body["outline"], @meshes)
          before, now = [from.towards(to, part - 1.0), from.towards(to, part)].map { |pose|
            mesh.transformed(pose.transform).points.to_a.each_slice(3).to_a
          }
          before.zip(now).map { |a, b| a + b }
        end
      end
    end
  end
end
