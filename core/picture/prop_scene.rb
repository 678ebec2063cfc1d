# frozen_string_literal: true

module Vumbral
  module Picture
    # The props that are seen, as one tree of triangles with normals and colours in its order.
    class PropScene
      # `names` are the props of its bodies; `ways` lead from where each body is to where it was a frame before.
      attr_reader :corners, :boxes, :mesh, :order, :names, :ways

      # @param links [Array<Array<String>, nil>] props that each lamp lights alone; nothing for all
      # @param shade [PropScene] what throws shadows
      # @param caustics [Array<Kernel::Buffer>] from {Caustics}
      # @return [Scene] as kernels take it
      def record(links = [], shade = self, caustics: Caustics.none)
        rows = links.flat_map { |only| @names.map { |name| (only.nil? || only.include?(name)) ? 1 : 0 } }
        rows = [1] if rows.empty?
        Scene.new(
          @corners, @boxes, @normals, @colours, @owner,
          Kernel::Buffer.of(:u8, rows, [links.size, 1].max, rows.size / [links.size, 1].max), @made, @textures,
          Sheen.table, shade.corners, shade.boxes, @places, @pictures, *caustics
        )
      end

      def empty? = @owner.size.zero?

      # @param props [Array<Hash>] from {.settings}
      # @param meshes [#mesh]
      # @param part [Float] how far they have come from where they were a frame before: 1 is all the way
      # @param before [PropScene, nil] of another moment, which makes this one sooner ready
      def initialize(props, meshes, part = 1.0, before: nil)
        @part = part
        @before = before
        props.empty? ? nothing : gather(props, meshes)
      end

      # @return [Array<Hash>] plain data
      def self.settings(document, frame)
        textures = Geometry::Textures.rows(document, frame)
        document.of(:prop).select { |node| node[:shape] != "mark" && document.shown?(node, frame) }.map { |node|
          {
            "prop" => node.id, "made" => Materials.row(document, node, frame, textures.keys),
            "textures" => textures.values, "body" => body(document, node, frame), "colour" => node[:colour],
            "uneven" => node[:uneven], "uneven_size" => node[:uneven_size]
          }.merge(
            (node[:shape] == "mesh" && !node[:own_colours]) ? {"plain" => true} : {}, inside(node, frame),
            mixed(document, node, frame), apart(node, frame), within(node, frame)
          )
        } + SeenLamps.rows(document, frame, textures.values)
      end

      # A liquid's surface drifts within the frame, for it has other triangles on each.
      def self.body(document, node, frame)
        body = Geometry::Bodies.of(document, node, frame)
        return body unless node[:shape] == "liquid" && body["outline"]["frame"] && !body["outline"].key?("operations")

        {
          "outline" => body["outline"].merge("drifts" => document.flown(frame, node)),
          "from" => body["from"].merge("at" => 0.0), "to" => body["to"].merge("at" => 1.0)
        }
      end

      # Whether it is out of the picture, or of the way of light; whether one sees through it, and its picture.
      def self.apart(node, frame)
        sheer = Materials.sheer?(node, frame)
        {
          "seen" => node[:pictured], "casts" => node[:casts] && !sheer && node[:clear, frame] < 0.5
        }.reject { |_, whether| whether }
          .merge(sheer ? {"sheer" => true} : {}, node[:picture] ? {"picture" => node[:picture]} : {})
      end

      # @param which [String] "seen", "casts" or "sheer"
      # @return [Array<Hash>] those of the props that are; what is seen through is not among those that are seen
      def self.those(props, which)
        return props.select { |prop| prop["sheer"] && prop["seen"] != false } if which == "sheer"

        props.reject { |prop| prop[which] == false || (which == "seen" && prop["sheer"]) }
      end

      # A clear liquid with colours takes light by these, within a depth of its own.
      def self.within(node, frame) =
        (node[:shape] == "liquid" && node[:clear, frame].positive?) ? {"per" => 1.0 / node[:clear_depth, frame]} : {}

      # What it has where it broke.
      def self.inside(node, frame) =
        (Geometry::Breaking.broken?(node, frame) && node[:inside_own]) ? {"inside" => node[:inside]} : {}

      # What its maps put over its own colour.
      def self.mixed(document, node, frame)
        maps = Geometry::MapRows.of(document, node, frame)
        return {} if maps.empty?

        {
          "mix" => {
            "maps" => maps, "colour" => node[:second, frame],
            "glow" => node[:between_colour, frame].map { |c| c * node[:between, frame] }
          }
        }
      end
      private_class_method :mixed, :inside, :apart, :within, :body

      private

      def gather(props, meshes)
        parts = props.flat_map { |prop|
          Geometry::Bodies.parts([prop["body"]],
            meshes).map { |body| prop.merge("body" => body) }
        }
        return nothing if parts.empty?

        @names = parts.map { |part| part["prop"] }
        @pictures, stood = Pictures.stack(parts.filter_map { |part| part["picture"] }, meshes)
        @textures = Maps::Patterns.buffer(parts[0]["textures"], meshes)
        @ways = parts.map { |part| way_back(part["body"]) }
        worlds = parts.map { |part| Geometry::Shapes.world(part["body"]["outline"].merge(pose(part["body"])), meshes) }
        made =
          parts
            .zip(worlds)
            .flat_map { |part, world| coloured(pictured(part, stood[part["picture"]], meshes), part, world) }
        @made = Kernel::Buffer.of(:f32, made, parts.size, Materials::WIDTH)
        @mesh = mesh = Geometry::Mesh.joined(worlds)
        bvh =
          Geometry::BVH.new(
            mesh, order: (@before&.mesh && Geometry::Clip.alike?(@before.mesh, mesh)) ? @before.order : nil
          )
        @order = bvh.order
        @before = nil
        @corners, @boxes = bvh.corners, bvh.boxes
        owners = worlds.each_with_index.flat_map { |world, i| [i] * world.count }
        tints = Kernel::Buffer.of(:f32, parts.flat_map { |part|
          [*part["colour"], part["uneven"],
            part["uneven_size"]]
        }, parts.size, 5)
        @normals = Kernel::Buffer.new(:f32, mesh.count, 9)
        @colours = Kernel::Buffer.new(:f32, mesh.count, 14)
        @owner = Kernel::Buffer.new(:i32, mesh.count)
        SceneKernels.sort(@normals, @colours, @owner, mesh.corner_normals, tints, Kernel::Buffer.of(:i32, owners),
          bvh.order)
        lay(parts, worlds, bvh.order)
        dye(parts, worlds, bvh.order)
        mix(parts, worlds, bvh.order, meshes)
      end

      # @return [Array<Float>] three rows of four
      def way_back(body)
        from, to = body.values_at("from", "to").map { |pose| Geometry::Pose.of(pose).transform }
        (from * to.inverse).rows.flatten.first(12)
      end

      def pictured(part, place, meshes)
        return part["made"] unless place

        made = part["made"][0...GlossKernels::PICTURE] + place + part["made"][GlossKernels::OPACITY..]
        return made unless part["shows"]

        # A lamp that shows a picture is as bright in the mean as without.
        per = Light::Environment.brightness(part["picture"], meshes)
        made.each_with_index.map do |value, n|
          n.between?(GlossKernels::LIGHT, GlossKernels::LIGHT + 2) ? value / per : value
        end
      end

      # Below 0 its triangles' colours say what is taken.
      def coloured(row, part, world)
        return row unless part["per"] && world.colours

        row.dup.tap { |made| made[GlossKernels::TAKES, 3] = [-part["per"], 0.0, 0.0] }
      end

      # Where each corner lies in its prop's picture.
      def lay(parts, worlds, order)
        @places = Kernel::Buffer.new(:f32, 1, 6)
        return if parts.none? { |part| part["picture"] }

        bytes =
          parts
            .zip(worlds)
            .map { |part, world| (part["picture"] && world.places) ? world.places.bytes : "\0" * (24 * world.count) }
            .join
        SceneKernels.lay(
          @places = Kernel::Buffer.new(:f32, order.size, 6), Kernel::Buffer.new(:f32, order.size, 6, bytes: bytes),
          order
        )
      end

      # Second colours, by the maps of their props.
      def mix(parts, worlds, order, meshes)
        return if parts.none? { |part| part["mix"] }

        bytes =
          parts
            .zip(worlds)
            .map { |part, world| part["mix"] ? strengths(part, meshes, world) : [-1.0].pack("e") * (3 * world.count) }
            .join
        seconds =
          Kernel::Buffer.of(
            :f32, parts.flat_map { |part| part["mix"] ? part["mix"]["colour"] + part["mix"]["glow"] : [0.0] * 6 },
            parts.size, 6
          )
        SceneKernels.mix(@colours, Kernel::Buffer.new(:f32, order.size, 3, bytes: bytes), seconds, @owner, order)
      end

      # Where it broke there was nothing that maps could lie on.
      def strengths(part, meshes, world)
        pose = Geometry::Pose.of(pose(part["body"]))
        outline = part["body"]["outline"]
        bytes =
          Maps::Layers
            .new(part["mix"]["maps"], meshes)
            .at(Geometry::Shapes.build(outline, meshes, pose.at), outline, pose.transform)
            .bytes
        return bytes unless part["inside"]

        first = Geometry::Breaking.inside(world)
        bytes.byteslice(0, 12 * first) + [-1.0].pack("e") * (3 * (world.count - first))
      end

      # The colours that come with a mesh, or that it has where it broke.
      def dye(parts, worlds, order)
        return if parts.zip(worlds).none? { |part, world| part["inside"] || (world.colours && !part["plain"]) }

        bytes = parts.zip(worlds).map { |part, world| dyes(part, world) }.join
        SceneKernels.dye(@colours, Kernel::Buffer.new(:f32, order.size, 9, bytes: bytes), order)
      end

      def dyes(part, world)
        return world.colours.bytes if world.colours && !part["plain"]

        first = part["inside"] ? Geometry::Breaking.inside(world) : world.count
        [-1.0].pack("e") * (9 * first) + ((part["inside"] || []) * 3).pack("e*") * (world.count - first)
      end

      def pose(body)
        return body["to"] unless @part < 1.0

        Geometry::Pose.of(body["from"]).towards(Geometry::Pose.of(body["to"]), @part).to_data
      end

      # A tree of one empty box that no ray enters.
      def nothing
        @names, @ways = [], []
        @made = Kernel::Buffer.new(:f32, 1, Materials::WIDTH)
        @textures = Kernel::Buffer.new(:f32, 1, Geometry::Textures::WIDTH)
        @corners = Kernel::Buffer.new(:f32, 0, 9)
        @boxes = Kernel::Buffer.of(:f32, [1e30, 1e30, 1e30, -1e30, -1e30, -1e30], 1, 6)
        @normals = Kernel::Buffer.new(:f32, 0, 9)
        @colours = Kernel::Buffer.new(:f32, 0, 14)
        @owner = Kernel::Buffer.new(:i32, 0)
        @places = Kernel::Buffer.new(:f32, 1, 6)
        @pictures = Kernel::Buffer.new(:f32, 1, 4)
      end
    end
  end
end
