# frozen_string_literal: true

require "json"

module Vumbral
  module Shot
    # A shot: its name and its nodes. Never changed in place; {Edits} make new ones.
    class Document
      FORMAT = "vumbral-shot"
      VERSION = 5
      MOST_NODES = 2000
      REMEDY = "Bring a file that Vumbral saved (its name ends in .shot.json)."

      attr_reader :name, :nodes

      # @param nodes [Hash{String => Node}] by id, in order
      # @param maker [#key, #kept, #rise, nil] tells which frame of a simulation stands for a document and a frame of
      #   it, if there is one, the liquid of a kept run by its digest, and how far a prop is above what it stands on
      def initialize(name, nodes, maker = nil)
        @name = name
        @maker = maker
        @nodes = nodes.transform_values { |node| node.of(self) }.freeze
      end

      # A shot with what every shot has, and nothing else.
      def self.blank(name)
        new(name, Kinds.all.values.select(&:needed?).to_h { |kind|
          [kind.name.to_s, Node.new(kind.name.to_s, kind,
            kind.label)]
        })
      end

      # @raise [Refused] naming the node that is not there, and those that are
      def node(id)
        @nodes[id.to_s] ||
          raise(
            Refused.new(
              "There is no #{id.to_s[0, 60].inspect} in the shot #{@name}; there are: " \
                "#{@nodes.keys.first(40).join(", ")}.",
              code: "unknown_node"
            )
          )
      end

      # @return [Array<Node>] those of a kind that count: not what is switched off, or left out by *only this*
      def of(kind) = Groups.on(self, all_of(kind))

      # @return [Array<Node>] all of a kind, whatever its switches say
      def all_of(kind) = @nodes.values.select { |node| node.kind.name == kind }

      # @return [Boolean] whether a node counts
      def on?(node) = of(node.kind.name).include?(node)

      # @return [Array<Node>] what is done to a prop's shape, in order
      def operations(prop) =
        of(:operation).select { |node| node[:prop] == prop }.sort_by.with_index { |node, n| [node[:order], n] }

      # The one node of a kind that every shot has.
      def the(kind) = @nodes.fetch(kind.to_s)

      # The look that the picture shows.
      def look = @nodes[the(:picture)[:look]] || of(:look).first

      def first_frame = the(:general)[:first]

      def last_frame = the(:general)[:last]

      def rate = the(:general)[:rate]

      # @return [Float] how much a rate a second of a node has come to by a frame
      def gone(node, dial, frame) = Timing.gone(self, node, dial, frame)

      def renamed(name) = Document.new(name, @nodes, @maker)

      def put(node) = Document.new(@name, @nodes.merge(node.id => node), @maker)

      def without(id) = Document.new(@name, @nodes.except(id), @maker)

      # @param maker [#key]
      # @return [Document] the same, for those who want to see what was simulated
      def made_by(maker) = Document.new(@name, @nodes, maker)

      # @param prop [Node, nil] one that shows a liquid, which may be that of a kept run
      # @return [String, nil] the frame of the liquid that is there and seen at a frame
      def made(frame, prop = nil)
        return @maker&.key(self, Playing.poured(self, frame)[0]) unless prop&.[](:kept)

        kept(prop, frame) { |run, at| run.key(at.round) }
      end

      # @param node [Node] a sculpt that begins with what was made before
      # @return [Numeric] the frame of that which is seen at a frame
      def moment(node, frame) = Playing.moment(self, node, frame)

      # @return [Float] how many frames of that go by from the frame before to this one
      def pace(node, frame) = Playing.frames(self, node, frame)

      # @return [Float] see {Playing.flow_pace}
      def flow_pace(node, frame) = Playing.flow_pace(self, node, frame)

      # @return [Float] how long a frame lasts where gas flows, seconds
      def lasts(frame) = Playing.lasts(self, frame)

      # @return [Hash] the same of a run, as a recipe tells it; see {Playing.of}
      def playing(node, frame) = Playing.of(self, node, frame)

      # @return [Float] how far the liquid's surface is led from there along its motion, seconds
      def led(frame, prop = nil)
        return Playing.poured(self, frame)[1] unless prop&.[](:kept)

        kept(prop, frame) { |run, at| ((at - at.round) * run.lasts(at.round)).round(6) } || 0.0
      end

      # @return [Float] how much of the liquid's own time passes from the frame before to this one, seconds
      def flown(frame, prop = nil)
        return Playing.pace(self, frame) unless prop&.[](:kept)

        kept(prop, frame) { |run, at| (at - run.at(Playing.placed(prop, frame - 1))) * run.lasts(at.round) } || 0.0
      end

      def to_h = {format: FORMAT, version: VERSION, name: @name, nodes: @nodes.values.map(&:to_h)}

      def to_json(*) = JSON.generate(to_h)

      # The same with switches of a node on, whatever it, its keys and its groups say.
      # @return [Document]
      def with_on(id, *dials)
        put(
          dials
            .reduce(node(id)) { |node, dial| node.set(dial, true) }
            .then { |node| node.with(curves: node.curves.except(*dials), switches: node.switches | [Node::BARE]) }
        )
      end

      # @return [Boolean] whether a prop is seen at a frame, by its own switch and those of its groups
      def shown?(prop, frame = nil) = Groups.shown?(self, prop, frame)

      # @return [Boolean] whether that changes over the frames
      def comes_and_goes?(prop) = Groups.comes_and_goes?(self, prop)

      # @yield [run, at] the liquid of a kept run, and the frame of it that a prop shows; not where it is gone
      def kept(prop, frame) = @maker&.kept(prop[:kept])&.then { |run| yield run, run.at(Playing.placed(prop, frame)) }
      private :kept

      # @return [Float, nil] metres that a prop which stands on what is below must rise at a frame (below 0: sink); nil
      #   where nothing is there, or nobody can tell
      def rise(prop, frame)
        return unless prop[:rests] && @maker

        @rises ||= {}
        at = [prop.id, frame || first_frame]
        @rises.fetch(at) do
          # What faces a thing that stands on it asks for that again: there it is as its own place says.
          rising = Thread.current[:rising] ||= []
          return if rising.include?([object_id, at])

          rising.push([object_id, at])
          begin
            @rises[at] = @maker.rise(self, prop, at[1])
          ensure
            rising.pop
          end
        end
      end

      def ==(other) = other.is_a?(Document) && to_h == other.to_h

      # Reads a saved shot, of this version or an older one, and checks every value in it.
      # @param text [String] JSON
      # @raise [Refused]
      def self.load(text, from: "The shot file")
        text = text.dup.force_encoding(Encoding::UTF_8)
        raise Refused.new("#{from} is not UTF-8 text. #{REMEDY}", code: "not_json") unless text.valid_encoding?

        Reader.new(Formats::JsonText.parse(text, from, remedy: REMEDY), from).document
      end
    end
  end
end
