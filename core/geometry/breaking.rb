# frozen_string_literal: true

module Vumbral
  module Geometry
    # Props that break: cut into the cells of scattered points (Voronoi 1908), each closed again, and let fly together.
    # Everything is a pure function of the shot's dials and the frame.
    module Breaking
      # How a prop is cut.
      CUT = %i[pieces piece_seed gather gather_at grain grain_way keep keep_at outer outer_pieces again
        again_pieces].freeze
      FLIES = %i[falls floor bounce scrape].freeze
      KEPT = 12
      # So many pieces of one prop at most, those that it breaks into later too.
      MOST = 500

      module_function

      # @return [Boolean] whether the prop ever breaks
      def breaks?(node) = node.kind.name == :prop && node[:breaks]

      # @return [Boolean] whether the prop is in pieces at a frame
      def broken?(node, frame) = node[:breaks] && frame >= node[:break_frame]

      # What has to be known to follow the pieces of a prop. @return [Hash] plain data
      def settings(document, node, frame, box)
        {"prop" => node.id, "frame" => frame, "cut" => cut_of(node), **world(document, frame, box)}
      end

      # @return [Hash] plain data
      def cut_of(node)
        cut = CUT.to_h { |dial| [dial.to_s, node[dial]] }
        # When it breaks again does not say how.
        cut.merge("again" => cut["again"].positive?).tap { |row| row["again_pieces"] = 0 unless row["again"] }
      end

      # @return [Integer] how many pieces of its own it can have, all that come later too
      def most(node)
        first = node[:pieces] + (node[:outer].positive? ? node[:outer_pieces] : 0)
        node[:again].positive? ? first * (1 + node[:again_pieces]) : first
      end

      # All pieces of a shot that fly together, what stands in their way, and where these are until a frame.
      def world(document, frame, box)
        props = document.of(:prop).select { |node| breaks?(node) && node[:break_frame] <= frame }
        ways = document.of(:prop).select { |node| node[:collider] && !breaks?(node) }
        first = props.map { |node| node[:break_frame] }.min
        {"world" => {"rate" => document.rate, "box" => box, "props" => props.map { |node| prop(document, node, frame) },
                     "walls" => ways.map { |node| wall(document, node, first) }, "blasts" => blasts(document, frame)},
         "poses" => (props + ways).to_h { |node| [node.id, poses(document, node, first, frame)] }}
      end

      def prop(document, node, frame)
        start = node[:break_frame]
        blast = {
          "centre" => node[:blast], "reach" => node[:blast_reach], "strength" => node[:blast_strength],
          "spin" => node[:spin]
        }
        front = document.nodes[node[:break_front]]
        row = {
          "id" => node.id, "outline" => Shapes.outline(node, document: document, frame: start), "cut" => cut_of(node),
          "start" => start, "held" => node[:held_until], "scale" => node[:scale, start], "blast" => blast,
          "drops" => node[:drop_outside], "taken" => node[:taken], "again" => node[:again], "push" => node[:again_push]
        }
        row = row.merge(FLIES.to_h { |dial| [dial.to_s, node[dial]] })
        # What the front does later says nothing about now, but when it comes must not change on the way.
        row["front"] = Front.row(document, front, document.last_frame) if front
        row
      end

      def wall(document, node, frame)
        pose = Bodies.pose(node, frame, document)
        {
          "id" => node.id, "outline" => Shapes.outline(node, document: document, frame: frame),
          "scale" => pose["scale"], "at" => pose["at"]
        }
      end

      def blasts(document, frame)
        document.of(:blast).select { |node| node[:frame] <= frame }.map do |node|
          {
            "frame" => node[:frame], "centre" => Hanging.point(document, node, :position, node[:frame]),
            "reach" => node[:reach], "strength" => node[:strength], "spin" => node[:spin]
          }
        end
      end

      # One where it does not move.
      def poses(document, node, first, frame)
        frames = Bodies.goes?(document, node) ? (first - 1..[frame + 1, first].max) : [first]
        frames.map { |at| Hanging.pose(document, node, at).to_data }
      end

      # The pieces of a broken body. @param body [Hash] as {Bodies.of} gives it, with "broken"
      # @return [Array<Hash>] bodies of their own
      def parts(body, meshes)
        broken = body["broken"]
        pieces = cut(body["outline"], broken["cut"], meshes)
        flight, poses, id = flight(broken, meshes), broken["poses"], broken["prop"]
        from, to = flight.at(broken["frame"] - 1, poses).fetch(id), flight.at(broken["frame"], poses).fetch(id)
        pieces.each_index.filter_map do |n|
          next unless to[n]

          body.except("broken").merge(
            "outline" => {
              "shape" => "piece", "of" => body["outline"], "cut" => broken["cut"], "n" => n
            },
            "from" => from[n] || to[n],
            "to" => to[n]
          )
        end
      end

      # Kept while the settings stay the same, for it is asked frame by frame.
      def flight(broken, meshes)
        @flights ||= {}
        key = broken["world"]
        kept = @flights.delete(key)
        @flights.delete(@flights.keys.first) if @flights.size > KEPT
        # What moves has to have moved the same way.
        kept = nil if kept && kept[1].any? { |id, poses| !alike?(poses, broken["poses"].fetch(id)) }
        @flights[key] = [kept ? kept[0] : Flight.new(key, meshes), broken["poses"]]
        @flights[key][0]
      end

      def alike?(one, other)
        count = [one.size, other.size].min
        one.first(count) == other.first(count)
      end

      # Cuts a shape. @param cut [Hash] from {.cut_of}; @param meshes [#mesh] gives the mesh of a digest
      # @return [Array<Cells::Piece>] those that they break into again come after all others, with their parent's number
      # @raise [Refused] for a shape that is not closed
      def cut(outline, cut, meshes)
        @cuts ||= {}
        @cuts.delete(@cuts.keys.first) if @cuts.size > KEPT
        @cuts[[outline, cut]] ||= begin
          mesh = Shapes.build(outline, meshes)
          unless mesh.closed?
            raise Refused.new(
              "A prop that breaks must be closed, and this one has #{mesh.open_edges} open edges; close it, " \
                "or let it stay whole.",
              code: "not_closed"
            )
          end

          first = Cells.of(mesh, cut)
          count = first.size * (cut["again"] ? 1 + cut["again_pieces"] : 1)
          if count > MOST
            raise Refused.new(
              "A prop would come to #{count} pieces, and #{MOST} is the most; let there be fewer, or let each " \
                "break again into fewer.",
              code: "many_pieces"
            )
          end

          first + (if cut["again"]
                     first.each_with_index.flat_map { |piece, n| piece.whole ? [] : Cells.again(piece, cut, n) }
                   else
                     []
          end)
        end
      end

      # @param mesh [Mesh] a piece; @return [Integer] its first triangle that was inside before
      def inside(mesh) = mesh.parts.find { |part| part.name == Cells::INSIDE }&.first || mesh.count

      private_class_method :prop, :wall, :blasts, :poses, :flight, :alike?
    end
  end
end
