# frozen_string_literal: true

require "digest"
require "json"

module Vumbral
  module Studio
    # Frames of liquids: each has, under its key, its spray as a volume (like a frame of gas), its surface as a mesh,
    # and a part of its particles.
    class Liquids
      # Part of the name of what operations make of a surface: raise it when they make something else.
      ALTERED = 2
      # What a frame keeps of what flows in it.
      FLOWING = %w[skin drops spray].freeze
      # So many plans are remembered.
      KEPT = 12
      # Answers for one quality, whether its frames are there yet or not; see {Shot::Document#made}.
      Promised = Struct.new(:liquids, :quality) do
        def key(document, frame) = liquids.keys(document, quality)[frame]

        def kept(digest) = liquids.kept(digest)

        def rise(...) = liquids.rise(...)
      end

      def initialize(workshop)
        @workshop = workshop
        @plans = []
      end

      # @return [Boolean] whether a shot has a liquid that counts
      def any?(document) = document.of(:liquid).any?

      # @return [Liquid::Plan, nil]
      def plan(document, quality)
        kept = @plans.find { |one, name, _| one.equal?(document) && name == quality.to_s }
        return kept[2] if kept

        plan = Liquid::Plan.of(document, quality.to_sym)
        @plans = [[document, quality.to_s, plan], *@plans.first(KEPT - 1)]
        plan
      end

      # @return [Boolean] whether it throws spray, which is seen as a volume
      def spray?(document) = any?(document) && document.of(:liquid)[0][:spray]

      # @return [Hash{Integer => String}] of each frame; none where there is no liquid
      def keys(document, quality) = plan(document, quality)&.keys || {}

      # The best frame that there is; see {Shot::Document#made}.
      # @return [String, nil]
      def key(document, frame) = Runs::QUALITIES.reverse.filter_map { |quality| keys(document, quality)[frame] }.find { |key| @workshop.frames.frame?(key) }

      # The liquid of a kept run; see {Shot::Document#made}.
      # @return [Caches::Water, nil]
      def kept(digest) = @workshop.caches.water(digest)

      # See {Shot::Document#rise}.
      def rise(document, prop, frame)
        Geometry::Resting.lasting(document, prop, frame, @workshop.assets)
      rescue Refused
        # What cannot be made carries nothing; why is said where it is made.
        nil
      end

      # @param id [String] of a kick
      # @return [Hash] :caught and :of, particles in draft: of the frame before it where that was run, else of the pool
      # @raise [Refused]
      def caught(document, id)
        node, plan = document.node(id), plan(document, "draft")
        raise Refused.new("#{node.name} is no kick.", code: "bad_value") unless node.kind.name == :kick
        return {caught: 0, of: 0} unless plan

        kept = @caught
        kept = @caught = [document, {}] unless kept && kept[0].equal?(document)
        before = plan.keys[node[:first] - 1]
        before = nil unless before && @workshop.frames.frame?(before)
        kept[1][[id, before]] ||= count(plan, node, before)
      end

      # What a frame keeps of what flows in it: all that surfaces are made of, and what is handed on besides.
      # @param state [Liquid::State] its particles sorted
      # @param stage [Liquid::Stage] that it comes from; @param step [Float] seconds of its last substep
      # @return [Hash{String => Array(Hash, Hash)}] parts for {FrameStore#write_part}
      def flowing(plan, state, stage, step)
        skin = Liquid::Skin.of(state, stage.first, dyed: plan.dyed?, walls: stage.walls, clear: plan.clear)
        parts = {"skin" => [{voxel: plan.voxel, corner: plan.corner}, skin.to_h.compact],
                 "drops" => [{count: state.drops.count}, Liquid::Kept.of(state, plan, step).to_h]}
        spray = Liquid::Spraying.only(state.spray, plan.kinds)
        return parts if spray.count.zero?

        parts.merge("spray" => [{}, Liquid::Kept.spray(spray, plan).to_h.merge(life: spray.life.copy, kind: spray.kind.copy)])
      end

      # Makes the frame of what it keeps, with its surface.
      # @param facts [Hash] with :flowing, the bytes of what it keeps
      def dress(key, frame, plan, facts)
        mesh, bytes = put_surface(key, plan)
        facts = facts.merge(triangles: mesh.count, beside: facts[:flowing] + bytes)
        @workshop.frames.write(key, frame, spray(key, plan), plan, facts, finer: plan.surface["spray_fine"])
      end

      # Makes a frame of another one in which the same flows, without a run.
      # @param like [String] the key of that one
      # @return [Hash] its facts
      def dress_again(key, frame, plan, like)
        @workshop.frames.share(like, key, [*FLOWING, "state"])
        facts = @workshop.frames.facts([like]).fetch(like).except("bytes", "beside", "triangles").transform_keys(&:to_sym)
        dress(key, frame, plan, facts)
        facts
      end

      # A frame's surface as it would be made in another way.
      # @param name [String] as {#seen} tells it; @param dials [Hash] from {Liquid::Plan#surface}
      # @return [Geometry::Mesh] led along its motion as the name says; @raise [Refused] where it is gone
      def otherwise(name, dials)
        key, led = name.split("+")
        mesh, speeds, dyes = skinned(key, dials)
        drifted(made(mesh.points, mesh.triangles, dyes), speeds, led.to_f)
      end

      # @param key [String] of a frame
      # @return [Geometry::Mesh]
      # @raise [Refused] where it is gone
      def surface(key)
        @meshes ||= {}
        @meshes.shift if @meshes.size > 6
        @meshes[key] ||= parts(key, "surface").then { |parts| made(*parts.values_at(:points, :triangles, :dyes)) }
      end

      # @return [Kernel::Buffer] f32 [n, 3], how fast each point of {#surface} goes, m/s
      def speeds(key) = parts(key, "surface")[:speeds]

      # @return [Liquid::Kept] the particles that a frame keeps
      def drops(key) = Liquid::Kept.new(**parts(key, "drops"))

      # What a view shows of a prop with the liquid of a kept run, as {#seen} tells it.
      # @return [String, nil]
      def placed(document, prop, frame)
        key = document.made(frame, prop) or return
        led = document.led(frame, prop)
        led.zero? ? key : "#{key}+#{led}"
      end

      # What a view shows of the liquid at a frame: the key of the frame that it plays by then, and how far that is led
      # (s).
      # @yield [frame] the key of a frame, if it is there
      # @return [String, nil] "KEY" or "KEY+SECONDS", as {#shape} takes them apart
      def seen(document, frame)
        near, led = Shot::Playing.poured(document, frame)
        yield(near)&.then { |key| led.zero? ? key : "#{key}+#{led}" }
      end

      # @param least [Float] parts with less than this share of the largest one's area are left out
      # @param name [String] as {#seen} tells it
      # @return [String] the surface as the view takes it: how many points and triangles, places f32, three numbers a
      #   triangle, and a colour f32 for each point where there are any
      def shape(name, least = 0.0) = encoded(plain(name, least))

      # @param mesh [Geometry::Mesh] @return [String] as {#shape}
      def encoded(mesh)
        dyes = mesh.colours ? Geometry::Colours.points(mesh).bytes : ""
        [mesh.points.dim(0), mesh.count].pack("L<2") + mesh.points.bytes + mesh.triangles.bytes + dyes
      end

      # Keeps what operations do to a surface. @param rows [Array<Hash>] from {Geometry::Operations.rows}
      # @return [String, nil] a name for it; nothing where they do nothing
      def alteration(rows)
        return if rows.empty?

        text = JSON.generate([ALTERED, rows])
        Digest::SHA256.hexdigest(text)[0, 24].tap { |name| altered_path("#{name}.json").then { |path| @workshop.home.write(path, text) unless File.exist?(path) } }
      end

      # @param name [String] as {#seen} tells it; @param alteration [String] from {#alteration}
      # @return [String, nil] where it stands as {#shape} gives it; nil where it has to be made first
      # @raise [Refused] where there is no such alteration
      def altered(name, least, alteration)
        raise Refused.new("What is done to this surface is not known any more; look again.", code: "bad_path") unless alteration.match?(/\A\h{24}\z/) && File.exist?(altered_path("#{alteration}.json"))

        altered_file(name, least, alteration).then { |path| path if File.exist?(path) }
      end

      # @return [String] of its file, in the data folder
      def altered_name(name, least, alteration) = altered_file(name, least, alteration).delete_prefix("#{@workshop.home.path}/")

      # Makes one. @return [String] where it stands
      def alter(name, least, alteration)
        _, rows = JSON.parse(File.read(altered_path("#{alteration}.json")))
        mesh = begin
          Geometry::Operations.apply(plain(name, least), rows, @workshop.assets)
        rescue Refused
          # Nothing of it is left there.
          Geometry::Mesh.new(Kernel::Buffer.new(:f32, 0, 3), Kernel::Buffer.new(:i32, 0, 3))
        end
        @workshop.home.write(altered_file(name, least, alteration), encoded(mesh))
      end

      # @return [String] the particles that are kept, and all of the spray, f32: place, speed, age, number, kind (0 the
      #   liquid's own, 1 spray, 2 foam, 3 bubbles) and pressure (Pa)
      def points(key)
        key = key[/\A\h+/].to_s
        all = [drops(key), sprayed(key)].compact
        out = Kernel::Buffer.new(:f32, all.sum(&:count), 10)
        at = 0
        # Frames of before do not know what pressed on them.
        all.each do |kept|
          Liquid::FullKernels.rows(out, kept.places, kept.speeds, kept.ages, kept.ids, kept.kinds, kept.pressures || Kernel::Buffer.new(:f32, kept.count), at) if kept.count.positive?
          at += kept.count
        end
        out
      end

      # @return [Array(Array<Integer>, Array<Float>, Float)] what a frame was run in: cells along z, y, x, lowest corner
      #   and voxel, metres
      def lattice(key)
        head, parts = @workshop.frames.part(key, "skin")
        [parts[:counts].shape, head["corner"], head["voxel"]]
      end

      # @return [Liquid::Kept, nil] nil where there is none
      def sprayed(key) = @workshop.frames.part(key, "spray")&.then { |_, parts| Liquid::Kept.new(**parts.except(:life, :kind)) }

      private

      def plain(name, least)
        key, led = name.split("+")
        Sculpt::Skin.without_crumbs(led ? led(key, led.to_f) : surface(key), least)
      end

      def altered_path(name) = @workshop.home.within("surfaces", name[0, 2], name)

      def altered_file(name, least, alteration) = altered_path("#{alteration}-#{Digest::SHA256.hexdigest([name, least.to_f].join(" "))[0, 24]}.corners")

      # The surface of a frame, led along its motion for so many seconds.
      def led(key, seconds)
        drifted(surface(key), speeds(key), seconds)
      end

      def drifted(mesh, speeds, seconds)
        return mesh if seconds.zero? || mesh.empty?

        mesh.with(Kernel::Buffer.new(:f32, *mesh.points.shape).tap { |out| Geometry::DeformKernels.drift(out, mesh.points, speeds, seconds) })
      end

      # @param dyes [Kernel::Buffer, nil] a colour for each point
      def made(points, triangles, dyes) = Geometry::Mesh.new(points, triangles, colours: dyes && Geometry::Colours.corners(triangles, dyes))

      # The surface of what a frame keeps.
      # @return [Array(Geometry::Mesh, Kernel::Buffer, Kernel::Buffer)] how fast its points go, and perhaps their
      #   colours
      def skinned(key, dials)
        head, parts = @workshop.frames.part(key, "skin")
        raise Refused.new("The particles of this frame are gone; run the shot again to make it anew.", code: "no_frame") unless parts

        Liquid::Surface.new(head["voxel"], head["corner"], dials).mesh(Liquid::Skin.new(*parts.values_at(*Liquid::Skin.members)))
      end

      # @return [Array(Geometry::Mesh, Integer)] and the bytes that it takes
      def put_surface(key, plan)
        mesh, speeds, dyes = skinned(key, plan.surface)
        [mesh, @workshop.frames.write_part(key, "surface", {}, {points: mesh.points, triangles: mesh.triangles, speeds: speeds, dyes: dyes}.compact)]
      end

      def count(plan, node, before)
        stage = Liquid::Stage.new(plan, @workshop.assets)
        state = before ? back(plan, before) : stage.still
        share = before ? plan.ground["kept"] : 1.0
        frame = node[:first].clamp(plan.frames.first, plan.frames.last)
        [stage.caught(state, plan.kick(node, frame)), stage.amount(state)].map { |n| share.positive? ? (n / share).round : 0 }.then { |caught, of| {caught: caught, of: of} }
      end

      # The particles that a frame keeps, where they are.
      def back(plan, key)
        kept = drops(key)
        state = Liquid::State.empty(plan.size)
        state.drops = Liquid::Drops.of(kept.count).tap { |found| Liquid::FullKernels.cells(found.at, kept.places, Kernel::Buffer.of(:f32, [*plan.corner, plan.voxel])) if kept.count.positive? }
        state
      end

      # @return [Grid::Bricks] finer than the plan's cells
      def spray(key, plan)
        _, parts = @workshop.frames.part(key, "spray")
        spray = parts ? Liquid::Spray.new(parts[:places].copy, parts[:speeds], parts[:life], parts[:kind], parts[:ids]) : Liquid::Spray.of(0)
        Liquid::FullKernels.cells(spray.at, parts[:places], Kernel::Buffer.of(:f32, [*plan.corner, plan.voxel])) if parts
        Liquid::Spraying.density(spray, plan.size, *plan.surface.values_at("spray_fine", "spray_dense"))
      end

      # A frame of which a part is gone or damaged is let go, so that a run makes it anew.
      def parts(key, ending)
        found = @workshop.frames.part(key, ending) and return found.last

        @workshop.holdings.let_go([key]) if @workshop.frames.frame?(key)
        raise Refused.new("The liquid of this frame is gone; run the shot again to make it anew.", code: "no_frame")
      end
    end
  end
end
