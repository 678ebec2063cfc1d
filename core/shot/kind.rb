# frozen_string_literal: true

module Vumbral
  module Shot
    # A kind of node, with the dials that every node of it has.
    class Kind
      attr_reader :name, :label, :plural, :chapter, :dials, :help, :most, :owner

      # @param chapter [Symbol] where the desk shows it: props, sources, chamber, light
      # @param always [Symbol, nil] whether every shot has one, called like the kind: :one, and no more; :first, and may
      #   have more
      # @param most [Integer, nil] how many a shot may have
      def initialize(name, label, plural:, chapter:, help:, always: nil, most: nil, &declare)
        @name, @label, @plural, @chapter = name, label, plural, chapter
        @help, @always, @most = help, always, most
        @dials = {}
        @group = nil
        instance_exec(&declare)
      end

      def single? = @always == :one

      # @return [Boolean] whether nodes of this kind can be switched off: not what only the desk knows of
      def switched? = !needed? && @dials.each_value.any? { |dial| dial.touches != :view }

      # @return [Boolean] whether every shot has a node of this kind, with the kind's name as its id
      def needed? = !@always.nil?

      def to_h
        {name: @name, label: @label, plural: @plural, chapter: @chapter, help: @help, single: single?,
         first: @always == :first, most: @most, owner: @owner, switched: switched?, dials: @dials.values.map(&:to_h)}
      end

      # @raise [Refused] for a name that is no dial of this kind, with those that are
      def dial(name, place = @label)
        @dials[name.to_sym] || raise(Refused.new(
          "#{place} has no dial #{name.to_s[0, 40].inspect}; it has: #{@dials.keys.join(", ")}.", code: "unknown_dial"
        ))
      end

      private

      # Which of its dials names the thing that it belongs to, stands under and goes with.
      def belongs(dial) = @owner = dial

      # The dials declared in the block belong together under these words.
      # @param except [Hash, nil] see {Dial}
      def group(words, touches: :run, except: nil)
        @group, @touches, @except = words, touches, except
        yield
      ensure
        @group = @except = nil
      end

      def declare(name, label, type, options)
        @dials[name] = Dial.new(
          name, label, type: type, group: @group, touches: @touches || :run, except: @except, **options
        )
      end

      Dial::TYPES.each do |type|
        define_method(type) { |name, label, **options| declare(name, label, type, options) }
      end
    end
  end
end
