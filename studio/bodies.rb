# frozen_string_literal: true

require "digest"
require "json"

module Vumbral
  module Studio
    # The props of a shot as the view draws them: each body's shape, and where it stands at every
    # frame if it moves. Kept by what they depend on, for breaking takes a moment.
    class Bodies
      VERSION = 10

      def initialize(workshop)
        @workshop = workshop
      end

      # @return [String] a name for all that the bodies depend on
      def key(document)
        props = (document.of(:prop) + document.of(:operation)).map(&:to_h)
        boxes =
          [document.the(:chamber), *document.of(:annex)].flat_map do |chamber|
            [Geometry::Hanging.stood(document, chamber), chamber[:size]]
          end
        # What pieces meet and what lets them go.
        props += (document.of(:blast) + document.of(:front)).map(&:to_h) if document
          .of(:prop)
          .any? { |node| Geometry::Breaking.breaks?(node) }
        # Where the camera is may turn them to it, or make their faces finer.
        seen =
          document.of(:prop).any? { |node| node[:to_camera] } ||
          document.of(:operation).any? { |node| node[:what] == "nearer" }
        props += [document.the(:camera).to_h] if seen
        # Formulas may ask for anything.
        asked =
          (document.of(:prop) + document.of(:operation)).any? do |node|
            node.curves.any? { |_, curve| curve.is_a?(Shot::Rule) }
          end
        # So may sculpts, by what they are made of.
        asked ||= document.of(:prop).any? { |node| node[:shape] == "sculpt" }
        props += [document.nodes.values.map(&:to_h)] if asked
        # A kept run may have been let go.
        props +=
          document
            .of(:prop)
            .filter_map { |node| node[:kept] && node[:shape] == "liquid" && @workshop.liquids.kept(node[:kept])&.there }
        Digest::SHA256.hexdigest(
          JSON.generate(
            [
              VERSION, props, document.the(:general)[:seed], document.first_frame, document.last_frame, document.rate,
              *boxes
            ]
          )
        )[
          0, 24
        ]
      end

      # @return [Array<Hash>, nil] nil where they have to be made by a worker first
      def known(document)
        path = path(document)
        return JSON.parse(File.read(path)) if File.exist?(path)

        if document
            .of(:prop)
            .none? { |node| Geometry::Breaking.breaks?(node) || built?(document, node) || node[:rests] }
          make(document)
        end
      end

      # Works the bodies out and keeps them.
      def make(document)
        rows = document.of(:prop).flat_map { |node| of(document, node) }
        @workshop.home.write(path(document), JSON.generate(rows))
        JSON.parse(JSON.generate(rows))
      end

      private

      def path(document) = @workshop.home.within("bodies", "#{key(document)}.json")

      # Whether something is done to its shape, which a worker does.
      def built?(document, node) = document.operations(node.id).any?

      # A body whose shape is built: a mesh of its own, or one for each frame where it changes.
      def built(document, node)
        frames = (document.first_frame..document.last_frame).to_a
        moves =
          Geometry::Shapes.plays?(node) ||
          document.operations(node.id).any? { |operation| Geometry::Operations.changes?(operation) }
        frames = frames.first(1) unless moves
        digests = frames.map do |frame|
          body = Geometry::Bodies.of(document, node, frame)
          @workshop.assets.keep(Geometry::Shapes.build(body["outline"], @workshop.assets, body["to"]["at"]))
        end
        whole = @workshop.assets.mesh(digests[0])
        (digests.uniq.size > 1) ? [@workshop.assets.keep_frames(digests), whole] : [digests[0], whole]
      end

      def of(document, node)
        return poured(document, node) if node[:shape] == "liquid"
        return surface(document, node) if node[:shape] == "sculpt" && !Geometry::Breaking.breaks?(node)
        return shaped(document, node) if built?(document, node) && !Geometry::Breaking.breaks?(node)
        return [still(document, node, outline(node))] unless moves?(document, node)

        frames = (document.first_frame..document.last_frame).to_a
        whole, broken = frames.partition { |frame| !Geometry::Breaking.broken?(node, frame) }
        shown = ->(frame) { document.shown?(node, frame) }
        poses =
          frames.map do |frame|
            if whole.include?(frame) && shown.call(frame)
              flat(Geometry::Bodies.pose(node, frame, document)) + at(document, node, frame)
            end
          end
        rows = [{prop: node.id, outline: outline(node), first: frames.first, poses: poses}.merge(dyed(node))]
        broken.empty? ? rows : rows + pieces(document, node, frames, broken, shown)
      end

      def shaped(document, node)
        digest, mesh = built(document, node)
        outline = {"shape" => "mesh", "mesh" => digest}
        dyed = (mesh.colours && node[:own_colours]) ? {dyed: true} : {}
        moves = @workshop.assets.clip(digest)
        unless moves || moves?(document, node)
          return [
            {
              prop: node.id, outline: outline,
              pose: document.shown?(node) ? flat(Geometry::Bodies.pose(node, nil, document)) : nil
            }.merge(dyed)
          ]
        end

        frames = (document.first_frame..document.last_frame).to_a
        poses =
          frames.each_with_index.map do |frame, n|
            flat(Geometry::Bodies.pose(node, frame, document)) + (moves ? [n.to_f] : []) if document.shown?(node, frame)
          end
        [
          {
            prop: node.id, outline: outline.merge(moves ? {"plays" => true} : {}), first: frames.first, poses: poses
          }.merge(dyed)
        ]
      end

      # One whose shape is made when it is looked at: each frame tells which of them it is.
      def surface(document, node)
        key, numbers = @workshop.surfaces.of(document, node)
        frames = (document.first_frame..document.last_frame).to_a
        poses =
          frames
            .zip(numbers)
            .map do |frame, number|
              flat(Geometry::Bodies.pose(node, frame, document)) + [number.to_f] if document.shown?(node, frame)
            end
        [{prop: node.id, outline: {"shape" => "sculpt", "surface" => key}, first: frames.first, poses: poses}]
      end

      # The liquid's own surface, whose shape each frame of a run has.
      def poured(document, node)
        frames = (document.first_frame..document.last_frame).to_a
        poses =
          frames.map do |frame|
            flat(Geometry::Bodies.pose(node, frame, document)) + [frame.to_f] if document.shown?(node, frame)
          end
        kept = node[:kept] ? {waters: frames.map { |frame| @workshop.liquids.placed(document, node, frame) }} : {}
        [
          {
            prop: node.id,
            outline: {
              "shape" => "liquid", "least_part" => node[:least_part]
            },
            first: frames.first,
            poses: poses
          }.merge(kept, altered(document, node, frames))
        ]
      end

      # What operations make of it is made when it is looked at.
      def altered(document, node, frames)
        return {} unless document.operations(node.id).any?

        {altered: frames.map { |frame| @workshop.liquids.alteration(Geometry::Operations.rows(document, node, frame)) }}
      end

      def still(document, node, outline)
        {
          prop: node.id, outline: outline,
          pose: document.shown?(node) ? flat(Geometry::Bodies.pose(node, nil, document)) : nil
        }.merge(dyed(node))
      end

      def moves?(document, node)
        Geometry::Breaking.breaks?(node) || Geometry::Shapes.plays?(node) || document.comes_and_goes?(node) ||
          Geometry::Bodies.goes?(document, node)
      end

      # Its shape as dials.
      def outline(node) =
        Geometry::Shapes.outline(node).except("plays").merge(Geometry::Shapes.plays?(node) ? {"plays" => true} : {})

      # Whether it has colours of its own.
      def dyed(node)
        return {} unless node[:shape] == "mesh" && node[:mesh] && node[:own_colours]

        @workshop.assets.fetch(node[:mesh])[:facts]["coloured"] ? {dyed: true} : {}
      end

      # Which frame of its file one that moves by itself is at, so that the same one has the same name.
      # @return [Array<Float>] none or one
      def at(document, node, frame)
        return [] unless Geometry::Shapes.plays?(node)

        clip = @workshop.assets.clip(node[:mesh])
        [clip ? clip.place(Geometry::Bodies.at(node, frame), document.rate, node[:plays_after]).round(4) : 0.0]
      end

      # Pieces are meshes of their own, so that the browser can ask for them.
      def pieces(document, node, frames, broken, shown)
        cut =
          Geometry::Breaking.cut(
            Geometry::Shapes.outline(node, document: document, frame: node[:break_frame]),
            Geometry::Breaking.cut_of(node), @workshop.assets
          )
        digests = cut.map { |piece| @workshop.assets.keep(piece.mesh) }
        places =
          broken.to_h do |frame|
            [
              frame,
              Geometry::Bodies
                .parts([Geometry::Bodies.of(document, node, frame)], @workshop.assets)
                .to_h { |body| [body["outline"]["n"], flat(body["to"])] }
            ]
          end
        digests.each_with_index.map do |digest, n|
          {
            prop: node.id,
            piece: n,
            inside: Geometry::Breaking.inside(cut[n].mesh),
            outline: {
              shape: "mesh", mesh: digest
            },
            first: frames.first,
            poses: frames.map { |frame| shown.call(frame) ? places.dig(frame, n) : nil }
          }
        end
      end

      def flat(pose) = pose.values_at("position", "turn", "scale").flatten.map { |c| c.round(5) }
    end
  end
end
