# frozen_string_literal: true

require "digest"
require "json"

module Vumbral
  module Studio
    # The props of a shot as the view draws them: each body's shape, and where it stands at every
    # frame if it moves. Kept by what they depend on, for breaking takes a moment.
    class Bodies
      VERSION = 1

      def initialize(workshop)
        @workshop = workshop
      end

      # @return [String] a name for all that the bodies depend on
      def key(document)
        props = document.of(:prop).map(&:to_h)
        boxes = [document.the(:chamber), *document.of(:annex)].flat_map { |chamber| [chamber[:position], chamber[:size]] }
        Digest::SHA256.hexdigest(JSON.generate([VERSION, props, document.first_frame, document.last_frame, document.rate, *boxes]))[0, 24]
      end

      # @return [Array<Hash>, nil] nil where they have to be made by a worker first
      def known(document)
        path = path(document)
        return JSON.parse(File.read(path)) if File.exist?(path)

        make(document) if document.of(:prop).none? { |node| Geometry::Breaking.breaks?(node) }
      end

      # Works the bodies out and keeps them.
      def make(document)
        rows = document.of(:prop).flat_map { |node| of(document, node) }
        @workshop.home.write(path(document), JSON.generate(rows))
        JSON.parse(JSON.generate(rows))
      end

      private

      def path(document) = @workshop.home.within("bodies", "#{key(document)}.json")

      def of(document, node)
        return [still(node, Geometry::Shapes.outline(node))] unless Geometry::Breaking.breaks?(node) || %i[position turn scale shown].any? { |dial| node.curves.key?(dial) }

        frames = (document.first_frame..document.last_frame).to_a
        whole, broken = frames.partition { |frame| !Geometry::Breaking.broken?(node, frame) }
        shown = ->(frame) { node[:shown, frame] }
        rows = [{prop: node.id, outline: Geometry::Shapes.outline(node), first: frames.first, poses: frames.map { |frame| (whole.include?(frame) && shown.call(frame)) ? flat(Geometry::Bodies.pose(node, frame)) : nil }}]
        broken.empty? ? rows : rows + pieces(document, node, frames, broken, shown)
      end

      def still(node, outline)
        {prop: node.id, outline: outline, pose: node[:shown] ? flat(Geometry::Bodies.pose(node, nil)) : nil}
      end

      # Pieces are meshes of their own, so that the browser can ask for them.
      def pieces(document, node, frames, broken, shown)
        cut = Geometry::Breaking.cut(Geometry::Shapes.outline(node), node[:pieces], node[:piece_seed], @workshop.assets)
        digests = cut.map { |piece| @workshop.assets.keep(piece.mesh) }
        places = broken.to_h { |frame| [frame, Geometry::Bodies.parts([Geometry::Bodies.of(document, node, frame)], @workshop.assets).to_h { |body| [body["outline"]["n"], flat(body["to"])] }] }
        digests.each_with_index.map do |digest, n|
          {prop: node.id, outline: {shape: "mesh", mesh: digest}, first: frames.first, poses: frames.map { |frame| shown.call(frame) ? places.dig(frame, n) : nil }}
        end
      end

      def flat(pose) = pose.values_at("position", "turn", "scale").flatten.map { |c| c.round(5) }
    end
  end
end
