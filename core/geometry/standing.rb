# frozen_string_literal: true

module Vumbral
  module Geometry
    # The props of a shot as they stand at each frame, for handing them on.
    class Standing
      # One thing for a file that moves: its mesh at the first frame, where it stands at each, and its points at each
      # further one where it moves by itself.
      Track = Struct.new(:name, :mesh, :colour, :poses, :shapes)

      # @param document [Shot::Document]; @param meshes [#mesh] gives the mesh of a digest
      # @param only [Array<String>, nil] ids of props; all of them otherwise
      # @param coloured [Boolean] whether those that came without colours get their prop's
      def initialize(document, meshes, only: nil, coloured: true)
        @document = document
        @coloured = coloured
        @meshes = meshes
        @props = document.of(:prop).select { |prop| prop[:shape] != "mark" && (only.nil? || only.include?(prop.id)) }
      end

      # @return [Mesh, nil] all that is shown at a frame, in the world; nil where nothing is
      def at(frame)
        worlds = shown(frame).map { |prop| world(prop, frame) }
        Mesh.joined(worlds) unless worlds.empty?
      end

      # @return [Kernel::Buffer, nil] f32 [n, 3], how fast each point of {#at} goes, m/s
      def speeds(frame)
        way = (frame < @document.last_frame) ? 1 : -1
        there = frame.between?(@document.first_frame - way, @document.last_frame - way)
        found =
          shown(frame).map do |prop|
            poured(prop, frame) ||
              SurfaceSpeed.of(
                world(prop, frame), (there && @document.shown?(prop, frame + way)) ? world(prop, frame + way) : nil,
                way / @document.rate
              )
          end
        Kernel::Buffer.new(:f32, found.sum { |one| one.dim(0) }, 3, bytes: found.map(&:bytes).join) unless found.empty?
      end

      # @param frames [Array<Integer>]
      # @return [Array<Track>] of what is shown at any of them
      def tracks(frames)
        @props
          .select { |prop| frames.any? { |frame| @document.shown?(prop, frame) } }
          .flat_map { |prop| whole(prop, frames) + pieces(prop, frames) }
      end

      private

      # What is not there is too small to be seen, for files know no other way.
      NOWHERE = 1e-6
      private_constant :NOWHERE

      def shown(frame) = @props.select { |prop| @document.shown?(prop, frame) }

      # Of a liquid's surface it is known how fast its points go, unless something is done to it.
      def poured(prop, frame)
        unless prop[:shape] == "liquid" && @document.operations(prop.id).empty? && (key = @document.made(frame, prop))
          return
        end

        found = @meshes.liquid_speeds(key)
        return if found.dim(0) != world(prop, frame).points.dim(0)

        # Its own seconds may not be the shot's, and it may stand turned.
        pose, pace = Bodies.pose(prop, frame, @document), @document.flown(frame, prop) * @document.rate
        way = Transform.place(turn: pose["turn"], scale: pose["scale"].map { |scale| scale * pace })
        Kernel::Buffer
          .new(:f32, *found.shape)
          .tap { |out| MeshKernels.transform(out, found, Kernel::Buffer.of(:f64, way.rows.flatten)) }
      end

      # All of a prop where it stands at a frame; the last two are kept, for one frame's next is the next one's own.
      def world(prop, frame)
        @worlds ||= Hash.new { |all, id| all[id] = {} }
        kept = @worlds[prop.id]
        kept.shift if kept.size > 1 && !kept.key?(frame)
        kept[frame] ||= Mesh.joined(
          Bodies
            .parts([Bodies.of(@document, prop, frame)], @meshes)
            .map { |body| coloured(prop, Shapes.world(body["outline"].merge(body["to"]), @meshes)).named(prop.name) }
        )
      end

      def coloured(prop, mesh)
        return mesh if !@coloured || (mesh.colours && prop[:own_colours])

        Mesh.new(
          mesh.points, mesh.triangles, mesh.parts, places: mesh.places, paint: mesh.paint,
          colours: Colours.runs([[0, prop[:colour]], *inside(prop, mesh)], mesh.count)
        )
      end

      # What a piece has where it broke.
      def inside(prop, mesh)
        first = prop[:inside_own] ? Breaking.inside(mesh) : mesh.count
        (first < mesh.count) ? [[first, prop[:inside]]] : []
      end

      def whole(prop, frames)
        return [] if frames.all? { |frame| Breaking.broken?(prop, frame) }

        poses = frames.map { |frame| Pose.of(Bodies.pose(prop, frame, @document)) }
        meshes =
          frames
            .zip(poses)
            .map do |frame, pose|
              Shapes.build(Shapes.outline(prop, document: @document, frame: frame), @meshes, pose.at)
            end
        meshes = meshes.first(1) if meshes.uniq.size == 1
        there = frames.map { |frame| @document.shown?(prop, frame) && !Breaking.broken?(prop, frame) }
        [Track.new(prop.name, own(prop, meshes[0]), prop[:colour], seen(poses, there), shapes(prop, meshes))]
      end

      def pieces(prop, frames)
        return [] unless frames.any? { |frame| Breaking.broken?(prop, frame) }

        by_frame =
          frames.map do |frame|
            if Breaking.broken?(prop, frame)
              Bodies.parts([Bodies.of(@document, prop, frame)], @meshes).to_h { |body| [body["outline"], body["to"]] }
            else
              {}
            end
          end
        by_frame.flat_map(&:keys).uniq.each_with_index.map do |outline, n|
          last = Pose.of(by_frame.find { |bodies| bodies[outline] }[outline])
          poses = by_frame.map { |bodies| bodies[outline] ? last = Pose.of(bodies[outline]) : last }
          Track.new(
            "#{prop.name} piece #{n + 1}",
            piece(prop, Shapes.build(outline, @meshes)),
            prop[:colour],
            seen(
              poses, by_frame.zip(frames).map { |bodies, frame| bodies.key?(outline) && @document.shown?(prop, frame) }
            ),
            []
          )
        end
      end

      def piece(prop, mesh) = inside(prop, mesh).empty? ? mesh : coloured(prop, mesh)

      def own(prop, mesh) =
        if prop[:own_colours]
          mesh
        else
          Mesh.new(mesh.points, mesh.triangles, mesh.parts, places: mesh.places, paint: mesh.paint)
        end

      def seen(poses, there) =
        poses.zip(there).map { |pose, here| Pose.new(pose.position, pose.turn, here ? pose.scale : [NOWHERE] * 3) }

      def shapes(prop, meshes)
        return [] if meshes.size == 1
        return meshes.drop(1).map(&:points) if meshes.all? { |mesh| Clip.alike?(mesh, meshes[0]) }

        raise Refused.new(
          "The triangles of #{prop.name} change from frame to frame, which one moving file cannot hold; hand " \
            "it on as OBJ or PLY.",
          code: "not_alike"
        )
      end
    end
  end
end
