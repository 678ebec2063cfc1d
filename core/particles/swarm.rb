# frozen_string_literal: true

module Vumbral
  module Particles
    # The particles of one emitter, a pure function of the shot and the time: each is thrown at its
    # moment and flies on its own.
    class Swarm
      include Geometry::Vectors

      MOST = 200_000
      GRAVITY = 9.81
      # Surfaces kept that particles start from.
      SURFACES = 8

      # @param throws [Geometry::Throws, Geometry::Throws::Kept] of the emitter
      # @param meshes [#mesh] gives the mesh of a digest
      def initialize(throws, meshes)
        @throws = throws
        @meshes = meshes
        @seed = throws.seed
        @rate = throws.rate
        @rows = []
        @next = throws.first
        @left = 0.0
        @born = Kernel::Buffer.new(:f32, 0, 12)
      end

      # @param time [Float] frames, may lie between; @param before [Float] the moment before, frames
      # @return [Kernel::Buffer] f32 [n, 8] as {SwarmKernels#fly} writes it
      def at(time, before)
        grow(time.ceil)
        now = Kernel::Buffer.new(:f32, [@born.dim(0), 1].max, 8)
        now.fill(-1.0)
        SwarmKernels.fly(now, @born, time / @rate, before / @rate, 1.0 / 48, @seed) if @born.dim(0).positive?
        now
      end

      # @param n [Integer] which of {#at}
      # @return [Float] when it was thrown, seconds
      def birth(n) = @born[n, 6]

      # @return [Array<Array<Float>>] place, place before, part of its life gone, random number; of
      #   those that are there
      def alive(time, before) = at(time, before).to_a.each_slice(8).select { |row| row[6] >= 0.0 }

      private

      def grow(frame)
        return if frame < @next

        (@next..frame).each { |f| throw_at(f) }
        @next = frame + 1
        @born = Kernel::Buffer.of(:f32, @rows.flatten, @rows.size, 12)
      end

      def throw_at(frame)
        settings = @throws.at(frame)
        return unless settings

        wanted = settings["rate"] / @rate + @left
        count = [wanted.floor, MOST - @rows.size].min
        @left = wanted - wanted.floor
        random = Random.new(@seed * 1_000_003 + frame)
        starts = count.positive? ? places(settings, random, count) : []
        starts.each { |place| @rows << row(settings, place, frame, random) }
      end

      def row(settings, place, frame, random)
        speed = settings["speed"] * random.rand(0.6..1.2)
        [*place, *way(settings, random).map { |c|
          c * speed
        }, (frame - 1 + random.rand) / @rate, settings["life"] * random.rand(0.6..1.2),
          settings["drag"], settings["fall"] * GRAVITY, settings["stir"], settings["stir_size"]]
      end

      # A direction in the cone, even over its area.
      def way(settings, random)
        axis = unit(settings["direction"])
        cosine = 1.0 - random.rand * (1.0 - Math.cos(settings["spread"] * Math::PI / 180))
        sine, turn = Math.sqrt([1.0 - cosine * cosine, 0.0].max), random.rand * 2 * Math::PI
        side = unit(cross(axis, (axis[1].abs < 0.9) ? [0.0, 1.0, 0.0] : [1.0, 0.0, 0.0]))
        up = cross(side, axis)
        3.times.map { |i| axis[i] * cosine + sine * (side[i] * Math.cos(turn) + up[i] * Math.sin(turn)) }
      end

      def places(settings, random, count)
        bodies = Geometry::Bodies.parts(settings["bodies"], @meshes)
        return on_surface(bodies, random, count, settings["maps"]) unless bodies.empty?

        Array.new(count) do
          place = unit(Array.new(3) {
            random.rand(-1.0..1.0)
          }).map { |c| c * settings["start_size"] * Math.cbrt(random.rand) }
          place.zip(settings["position"]).map(&:sum)
        end
      end

      # Even over the surfaces of the bodies.
      def on_surface(bodies, random, count, maps = nil)
        meshes = bodies.map { |body| [body, surface(body)] }.select { |_, (_, _, area)| area.positive? }
        return [] if meshes.empty?

        total = meshes.sum { |_, (_, _, area)| area }
        strengths = maps && bodies.to_h { |body| [body, strengths(maps, body)] }
        Array.new(count) do
          pick = random.rand * total
          body, (points, triangles, areas) = meshes.map { |b, (mesh, sums, area)|
            [b, [mesh, sums, area]]
          }.find { |_, (_, _, area)| (pick -= area) <= 0 } || meshes.last
          n = triangles.bsearch_index { |sum| sum >= (pick + areas).clamp(0.0, areas) } || triangles.size - 1
          a, b, c = points[n]
          r, s = random.rand, random.rand
          r, s = 1 - r, 1 - s if r + s > 1
          place = 3.times.map { |i| a[i] + r * (b[i] - a[i]) + s * (c[i] - a[i]) }
          # Where it is weak, fewer start.
          if strengths && strengths[body][3 * n, 3].then { |p, q, o| (1.0 - r - s) * p + r * q + s * o } < random.rand
            next
          end

          Geometry::Pose.of(body["to"]).transform.apply(place)
        end.compact
      end

      # @return [Array<Float>] at the corners of a body's triangles
      def strengths(maps, body)
        pose = Geometry::Pose.of(body["to"])
        mesh = Geometry::Shapes.build(body["outline"], @meshes, pose.at)
        Maps::Layers.new(maps, @meshes).at(mesh, body["outline"], pose.transform).to_a
      end

      # Triangles of a body's mesh with their areas summed up.
      def surface(body)
        @surfaces ||= {}
        @surfaces.clear if @surfaces.size > SURFACES
        @surfaces[[body["outline"], body["to"]["at"]]] ||= begin
          mesh = Geometry::Shapes.build(body["outline"], @meshes, body["to"]["at"])
          points = mesh.points.to_a.each_slice(3).to_a
          triangles = mesh.triangles.to_a.each_slice(3).map { |t| t.map { |n| points[n] } }
          # Of what is only points all are alike.
          if triangles.empty?
            return (
              @surfaces[[body["outline"], body["to"]["at"]]] = [
                points.map { |point| [point] * 3 }, (1..points.size).map(&:to_f), points.size.to_f
              ]
            )
          end

          sum = 0.0
          sums = triangles.map { |a, b, c|
            sum += 0.5 * Math.sqrt(cross(b.zip(a).map { |x, y|
              x - y
            }, c.zip(a).map { |x, y|
                 x - y
               }).sum { |x| x * x })
          }
          [triangles, sums, sum]
        end
      end
    end
  end
end
