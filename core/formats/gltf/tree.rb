# frozen_string_literal: true

module Vumbral
  module Formats
    # One part of {GLTF}.
    module GLTF
      # The nodes of a file's scene: who hangs on whom, and where each stands at a moment.
      class Tree
        MOST = 20_000

        # @return [Array<Integer>] the nodes of the scene, parents before children
        attr_reader :order

        # @param container [Container]; @param accessors [Accessors]
        def initialize(container, accessors)
          @container = container
          @accessors = accessors
          @nodes = container.list("nodes")
          container.bad("has #{@nodes.size} nodes; #{MOST} is the most") if @nodes.size > MOST
          @parents = {}
          @order = walk
          @motions = motions
        end

        def node(n) = @nodes[n]

        # Seconds until the last thing has come to rest.
        def last = @motions.values.flat_map { |paths| paths.values.map(&:last) }.max || 0.0

        # @return [Array<String>] animations that were not taken
        attr_reader :left_out

        def moves? = @motions.any?

        # @return [Hash{Integer => Geometry::Transform}] where each node stands in the world
        def places(seconds)
          @order.each_with_object({}) do |n, places|
            own = local(n, seconds)
            places[n] = @parents[n] ? places.fetch(@parents[n]) * own : own
          end
        end

        # @return [Array<Float>, nil] how much of each other shape a node's mesh has
        def weights(n, seconds) = @motions.dig(n, "weights")&.at(seconds) || @nodes[n]["weights"]

        private

        # A list of what is not yet looked at, not of calls: deep trees are no trouble.
        def walk
          scenes = @container.list("scenes")
          roots = scenes.empty? ? @nodes.each_index.to_a - @nodes.flat_map { |node| node.fetch("children", []) } : scenes.fetch(@container.json.fetch("scene", 0)).fetch("nodes", [])
          waiting = roots.reverse
          order = []
          seen = {}
          while (n = waiting.pop)
            @container.one("nodes", n, "node")
            @container.bad("has a node #{n} that hangs on itself, or on two others") if seen[n]
            seen[n] = true
            order << n
            children = @nodes[n].fetch("children", [])
            children.reverse_each { |child| waiting << child }
            children.each { |child| @parents[child] = n }
          end
          order
        end

        # All animations play at once unless two of them move the same thing: then only the first does.
        def motions
          rows = @container.list("animations").map { |animation| [animation, channels(animation)] }
          @left_out = []
          rows.each_with_object({}) do |(animation, channels), all|
            if channels.any? { |n, path, _| all.dig(n, path) }
              @left_out << (animation["name"] || "without a name").to_s
              next
            end
            channels.each { |n, path, motion| (all[n] ||= {})[path] = motion }
          end
        end

        def channels(animation)
          samplers = animation.fetch("samplers")
          animation.fetch("channels").filter_map do |channel|
            n, path = channel.fetch("target").values_at("node", "path")
            next unless n && (width = width(n, path))

            sampler = channel.fetch("sampler")
            sampler = samplers.fetch(sampler) if sampler.is_a?(Integer) && sampler >= 0
            [n, path, Motion.new(@accessors, sampler, width, @container)]
          end
        end

        def width(n, path)
          node = @container.one("nodes", n, "node")
          return Motion::WIDTHS[path] unless path == "weights"

          mesh = node["mesh"] && @container.one("meshes", node["mesh"], "mesh")
          mesh&.fetch("primitives")&.first&.fetch("targets", [])&.size
        end

        def local(n, seconds)
          node = @nodes[n]
          return matrix(n, node["matrix"]) if node["matrix"]

          moved = @motions.fetch(n, {})
          value = ->(path, rest, turning = false) do
            moved[path]&.at(seconds, turning: turning) || numbers(n, node[path] || rest, rest.size)
          end
          compose(
            value.call("translation", [0.0, 0.0, 0.0]), value.call("rotation", [0.0, 0.0, 0.0, 1.0], true),
            value.call("scale", [1.0, 1.0, 1.0])
          )
        end

        def numbers(n, values, size)
          if values.is_a?(Array) && values.size == size &&
              values.all? { |value| value.is_a?(Numeric) && value.to_f.finite? }
            return values.map(&:to_f)
          end

          @container.bad("has a node #{n} that does not say where it stands")
        end

        def matrix(n, values)
          columns = numbers(n, values, 16).each_slice(4).to_a
          Geometry::Transform.new(Array.new(3) { |row| columns.map { |column| column[row] } })
        end

        # Scaled, turned by a quaternion, moved.
        def compose(place, (x, y, z, w), scale)
          rows = [[1 - 2 * (y * y + z * z), 2 * (x * y - z * w), 2 * (x * z + y * w)],
            [2 * (x * y + z * w), 1 - 2 * (x * x + z * z), 2 * (y * z - x * w)],
            [2 * (x * z - y * w), 2 * (y * z + x * w), 1 - 2 * (x * x + y * y)]]
          Geometry::Transform.new(
            rows.each_with_index.map { |row, i| row.zip(scale).map { |a, s| a * s } + [place[i]] }
          )
        end
      end
    end
  end
end
