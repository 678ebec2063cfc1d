# frozen_string_literal: true

module Vumbral
  module Geometry
    # How the pieces of all broken props of a shot fly: held until their frame, blown, turning, falling, meeting each
    # other, a floor and what stands in their way, until they rest. A pure function of its settings.
    class Flight
      STEPS = 10
      # Beyond the chambers a piece is let go, metres.
      ROOM = 0.5
      NEVER = 1_000_000_000
      # Where a piece's numbers stand, see {Pile}.
      X, Q, V, W, LIGHT, GONE = 0, 3, 7, 10, 20, 26

      # @param world [Hash] from {Breaking.world}, without what moves
      # @param meshes [#mesh]
      def initialize(world, meshes)
        @world, @meshes = world, meshes
        @crowds = world["props"].map { |prop| Crowd.new(prop, meshes) }
        @frames = {}
        @last = @crowds.map { |crowd| crowd.settings["start"] }.min
        @pile = assembled
        @walls = Walls.new(world["walls"], meshes)
      end

      # @param poses [Hash{String => Array<Hash>}] where props and walls stand from one frame before the first of all on
      # @return [Hash{String => Array<Hash, nil>}] by prop, where each piece stands at a frame; nil once it was let go
      def at(frame, poses)
        frame = [frame, @first ||= @last].max
        unless @frames.key?(@first)
          @poses = poses
          @slack = {}
          begin_with
          part(@first)
          let_go(@first)
          loosen
          @frames[@first] = shown
        end
        @poses = poses
        step(@last) while @last < frame
        @frames.fetch(frame)
      end

      # Energy and momentum of what flies, for a density of one: kinetic (turning too) and by height, and m v.
      # @return [Array(Float, Float, Array<Float>)]
      def balance
        bodies
          .each_with_index
          .select { |row, _| row[LIGHT].positive? && row[GONE].zero? }
          .reduce([0.0, 0.0, [0.0] * 3]) do |(moving, high, momentum), (row, n)|
            mass = 1.0 / row[LIGHT]
            spin = row[W, 3]
            turning =
              weights[n].each_with_index.sum do |line, i|
                back(row, spin)[i] * line.zip(back(row, spin)).sum { |a, b| a * b }
              end
            [
              moving + 0.5 * mass * row[V, 3].sum { |c| c * c } + 0.5 * turning, high + mass * 9.81 * row[23] * row[1],
              momentum.zip(row[V, 3]).map { |a, b| a + mass * b }
            ]
          end
      end

      private

      def bodies = @pile.bodies.to_a.each_slice(29).to_a

      def weights = @weights ||= @crowds.flat_map { |crowd| crowd.members.map(&:inertia) }

      def back(row, way) = Transform.new(Crowd.rows(row[Q, 4]).map { |line| line + [0.0] }).inverse.apply(way)

      def members = @members ||= @crowds.flat_map { |crowd| crowd.members.map { |member| [crowd, member] } }

      def assembled
        all = @crowds.flat_map(&:members)
        starts = ->(lists) { Kernel::Buffer.of(:i32, lists.reduce([0]) { |sums, list| sums << sums.last + list.size }) }
        rows = ->(lists, width) { Kernel::Buffer.of(:f64, lists.flatten.map(&:to_f), lists.sum(&:size), width) }
        points, planes = all.map { |member| member.hull.points }, all.map { |member| member.hull.planes }
        tensors, inverse =
          %i[inertia inverse].map do |which|
            Kernel::Buffer.of(:f64, all.flat_map { |member| member[which].flatten }, all.size, 9)
          end
        Pile.new(
          Kernel::Buffer.new(:f64, all.size, 29), tensors, inverse, rows.call(points, 3), starts.call(points),
          rows.call(planes, 4), starts.call(planes)
        )
      end

      # What stands at the start, or comes in later, or was taken away.
      def begin_with
        members.each_with_index do |(crowd, member), n|
          put(n, member, pose_of(crowd.settings, @first), [0.0] * 3, [0.0] * 3, 0.0)
          @pile.bodies[n, GONE] = 1.0 if member.taken || member.parent
        end
      end

      def flies?(n) = @pile.bodies[n, LIGHT].positive?

      def gone?(n) = @pile.bodies[n, GONE].positive?

      # Puts what is held where its prop stands.
      def hold(frame)
        members.each_with_index do |(crowd, member), n|
          put(n, member, pose_of(crowd.settings, frame), [0.0] * 3, [0.0] * 3, 0.0) unless flies?(n) || gone?(n)
        end
      end

      def pose_of(settings, frame)
        list = @poses.fetch(settings["id"])
        Pose.of(list[(frame - @first + 1).clamp(0, list.size - 1)])
      end

      def put(n, member, pose, speed, spin, light)
        rigid = pose.rigid
        write(n, member, rigid.apply(member.centre) + Crowd.quaternion(rigid.rows), speed, spin, light)
      end

      # @param stands [Array<Float>] place and turn
      def write(n, member, stands, speed, spin, light)
        settings = member.settings
        row = [
          *stands, *speed, *spin, *stands, light, 2.0 * settings["scrape"], settings["bounce"], settings["falls"],
          settings["floor"], member.hull.radius, 0.0, 0.0, 0.0
        ]
        row.each_with_index { |value, c| @pile.bodies[n, c] = value }
      end

      # Frees what is due, with the motion of its prop and its blast.
      def let_go(frame)
        members.each_with_index do |(crowd, member), n|
          next if flies?(n) || gone?(n) || member.release > frame

          before, now = pose_of(crowd.settings, frame - 1), pose_of(crowd.settings, frame)
          carried = Transform.motion(before.rigid, now.rigid, now.rigid, 1.0 / @world["rate"])
          speed = carried.apply(now.rigid.apply(member.centre))
          spin =
            [
              carried.rows[2][1] - carried.rows[1][2], carried.rows[0][2] - carried.rows[2][0],
              carried.rows[1][0] - carried.rows[0][1]
            ].map { |c| 0.5 * c }
          put(n, member, now, speed, spin, 1.0 / member.mass)
          blow(n, member.blast, member.random)
        end
        @world["blasts"]
          .select { |blast| blast["frame"] == frame }
          .each { |blast| members.each_index { |n| blow(n, blast, members[n][1].random) if flies?(n) } }
      end

      # Pieces that break again: what they come to goes on as they went, and is pushed apart a little.
      # @return [Boolean] whether there were any
      def part(frame)
        due = members.each_with_index.select { |(_, member), _| member.parent && member.again == frame }
        due.each { |(crowd, member), n| come(crowd, member, n, frame) }
        due.map { |(crowd, member), _| number(crowd, member.parent) }.uniq.each { |n| @pile.bodies[n, GONE] = 1.0 }
        due.any?
      end

      # Where a member of a crowd stands in the pile.
      def number(crowd, n) =
        (@begins ||= @crowds.zip(@crowds.reduce([0]) { |sums, one| sums << sums.last + one.members.size })
          .to_h.compare_by_identity)[crowd] + n

      def come(crowd, member, n, frame)
        of = number(crowd, member.parent)
        # What was let go or taken before leaves nothing.
        return if member.taken || gone?(of)
        return put(n, member, pose_of(crowd.settings, frame), [0.0] * 3, [0.0] * 3, 0.0) unless flies?(of)

        parent = crowd.members[member.parent]
        place, turn, speed, spin =
          [X, Q, V, W].zip([3, 4, 3, 3]).map { |first, count| Array.new(count) { |c| @pile.bodies[of, first + c] } }
        way =
          Transform.new(Crowd.rows(turn).map { |row| row + [0.0] }).apply(
            member.centre.zip(parent.centre).map { |a, b| a - b }
          )
        push = Vectors.unit(way).map { |c| c * crowd.settings["push"] * member.random.rand(0.6..1.4) }
        carried = [
          spin[1] * way[2] - spin[2] * way[1], spin[2] * way[0] - spin[0] * way[2], spin[0] * way[1] - spin[1] * way[0]
        ]
        write(
          n, member, place.zip(way).map(&:sum) + turn, 3.times.map { |c| speed[c] + carried[c] + push[c] }, spin,
          1.0 / member.mass
        )
      end

      # Pieces that are in each other from the start may stay so.
      def loosen = near(1.0).each { |pair| @slack[pair] ||= PileKernels.overlap(@pile, *pair) }

      # Fades to nothing at its reach.
      def blow(n, blast, random)
        way = 3.times.map { |c| @pile.bodies[n, c] - blast["centre"][c] }
        far = Math.sqrt(way.sum { |c| c * c })
        share = (1.0 - far / blast["reach"]).clamp(0.0, 1.0)**2
        strength = blast["strength"] * share * random.rand(0.75..1.25)
        jitter = Array.new(3) { random.rand(-0.18..0.18) }
        axis = Vectors.unit(Array.new(3) { random.rand(-1.0..1.0) })
        whirl = blast["spin"] * Math::PI / 180 * random.rand(0.4..1.3) * (blast["strength"].positive? ? share : 0.3)
        Vectors.unit(way).each_with_index do |c, i|
          @pile.bodies[n, V + i] += (c + jitter[i]) * strength
          @pile.bodies[n, W + i] += axis[i] * whirl
        end
      end

      def near(seconds)
        count = @pile.bodies.dim(0)
        room = (count * (count - 1) / 2).clamp(1, 60 * count)
        pairs = Kernel::Buffer.new(:i32, room, 2)
        found = PileKernels.sort(pairs, @pile.bodies, seconds)
        pairs.to_a.each_slice(2).first([found, room].min)
      end

      def step(frame)
        seconds = 1.0 / @world["rate"]
        pairs = near(seconds)
        slack = pairs.map { |pair| narrowed(pair) }
        walls, fields = @walls.at(@poses, frame - @first + 2)
        touching = Kernel::Buffer.new(:f64, 60 * @pile.bodies.dim(0) + 200, 12)
        PileKernels.advance(
          @pile, Kernel::Buffer.of(:i32, pairs.empty? ? [0, 0] : pairs.flatten, [pairs.size, 1].max, 2),
          Kernel::Buffer.of(:f64, slack.empty? ? [NEVER] : slack), touching, walls, fields, seconds, STEPS
        )
        @last = frame + 1
        hold(@last)
        loosen if part(@last)
        let_go(@last)
        drop
        @frames[@last] = shown
      end

      # Pieces that were in each other from the start may stay so, until they come apart.
      def narrowed(pair)
        kept = @slack[pair] or return 0.0
        @slack[pair] = kept.positive? ? [kept, PileKernels.overlap(@pile, *pair)].min : 0.0
      end

      def drop
        low, high = @world["box"]
        return unless low

        members.each_with_index do |(crowd, _), n|
          next unless crowd.settings["drops"] && flies?(n)

          @pile.bodies[n, GONE] = 1.0 if 3.times.any? { |c|
            !@pile.bodies[n, c].between?(low[c] - ROOM, high[c] + ROOM)
          }
        end
      end

      def shown
        n = -1
        @crowds.to_h do |crowd|
          [crowd.settings["id"], crowd.members.map do |member|
            n += 1
            gone?(n) ? nil : member.pose(Array.new(7) { |c| @pile.bodies[n, c] })
          end]
        end
      end
    end
  end
end
