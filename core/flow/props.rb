# frozen_string_literal: true

module Vumbral
  module Flow
    # The bodies and particles that a run meets, made ready once.
    class Props
      KEPT = 200
      # So many of those that move by themselves.
      MOVING = 8
      # How far back particles look for where they were, frames.
      SPAN = 0.1

      def initialize(plan, meshes)
        @plan = plan
        @meshes = meshes
        @bodies = {}
        @moving = {}
        @firsts = {}
        @ends = {}
        @swarms = {}
      end

      # @param outline [Hash]; @param pose [Geometry::Pose]
      # @return [Geometry::Body]
      def body(outline, pose)
        # What moves by itself is another body at every moment.
        kept, most = pose.at ? [@moving, MOVING] : [@bodies, KEPT]
        kept.delete(kept.keys.first) if kept.size > most
        kept[[outline, pose.scale, pose.at]] ||= Geometry::Body
          .new(outline, pose.scale, @meshes, pose.at, before: pose.at && @firsts[outline])
          .tap { |body| @firsts[outline] ||= body if pose.at }
      end

      # A body that moves by itself as it is at both ends of the frame.
      # @return [Array(Geometry::Mesh, Geometry::Mesh), nil] nil where it does not, or its triangles are others
      def ends(outline, from, to)
        return if from.at == to.at

        key = [outline, from.scale, from.at, to.at]
        @ends.delete(@ends.keys.first) if @ends.size > MOVING
        @ends[key] ||= [from, to].map { |pose| Geometry::Body.sized(outline, from.scale, @meshes, pose.at) }
          .then { |ends| Geometry::Clip.alike?(*ends) ? [ends] : [nil] }
        @ends[key][0]
      end

      # A frame's settings with every broken prop in its pieces.
      def parted(settings)
        whole = ->(row) { row["bodies"] ? row.merge("bodies" => Geometry::Bodies.parts(row["bodies"], @meshes)) : row }
        bodies =
          %w[solids tank]
            .select { |name| settings.key?(name) }
            .to_h { |name| [name, Geometry::Bodies.parts(settings[name], @meshes)] }
        rows =
          %w[sources inflows kicks forces]
            .select { |name| settings.key?(name) }
            .to_h { |name| [name, settings[name].map(&whole)] }
        settings.merge(bodies, rows, "forces" => rows["forces"].map { |force| patterned(force) })
      end

      # A force that is strong by a texture has that as kernels take it, and one that goes by spray has the spray.
      def patterned(force)
        force = force.merge("pattern" => Maps::Patterns.buffer([force["texture"]], @meshes)) if force["texture"]
        force["spray"] ? force.merge("drops" => @meshes.sprayed(force["spray"])) : force
      end

      def swarm(id) = @swarms[id] ||= Particles::Swarm.new(Geometry::Throws.new(@plan.document, id), @meshes)

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

      # How strong a source is at each corner of a body's triangles.
      # @param maps [Array<Hash>] from {Geometry::MapRows.of}
      # @return [Kernel::Buffer] f32 [m, 3]
      def strengths(maps, outline, pose)
        key = [maps, outline, pose]
        return @strengths[1] if @strengths && @strengths[0] == key

        @strengths = [
          key,
          Maps::Layers.new(maps, @meshes).at(Geometry::Shapes.build(outline, @meshes, pose.at), outline, pose.transform)
        ]
        @strengths[1]
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
          source["bodies"].flat_map do |body|
            %w[from to].map { |moment| box(body["outline"], Geometry::Pose.of(body[moment])) }
          end
        end
        boxes.empty? ? nil : [boxes.map(&:first).transpose.map(&:min), boxes.map(&:last).transpose.map(&:max)]
      end

      private

      # What moves by itself is not made ready for that alone.
      def box(outline, pose)
        return body(outline, pose).bounds(pose.rigid) unless pose.at

        Geometry::Body.box(Geometry::Body.sized(outline, pose.scale, @meshes, pose.at), pose.rigid)
      end

      def particles(source, part)
        time = @frame - 1 + part
        swarm(source["emitter"]).alive(time, time - SPAN).map { |row| row[3, 3] + row[0, 3] }
      end

      # Of points that are weak somewhere fewer feed, always the same ones.
      def strong(rows, source, body)
        pose = Geometry::Pose.of(body["to"])
        values = strengths(source["maps"], body["outline"], pose).to_a
        at = Array.new(rows.size, 0.0)
        Geometry::Shapes
          .build(body["outline"], @meshes, pose.at)
          .triangles
          .to_a
          .each_with_index { |point, corner| at[point] = values[corner] }
        rows.each_index.select { |n| at[n] > (n * 0.618034) % 1.0 }.map { |n| rows[n] }
      end

      def corners(source, part)
        source["bodies"].flat_map do |body|
          from, to = Geometry::Pose.of(body["from"]), Geometry::Pose.of(body["to"])
          before, now = [from.towards(to, part - 1.0), from.towards(to, part)].map { |pose|
            Geometry::Shapes
              .build(body["outline"], @meshes, pose.at)
              .transformed(pose.transform)
              .points
              .to_a
              .each_slice(3)
              .to_a
          }
          # Where there are other points than before, none has come from anywhere.
          before = now if before.size != now.size
          rows = before.zip(now).map { |a, b| a + b }
          source["maps"] ? strong(rows, source, body) : rows
        end
      end
    end
  end
end
