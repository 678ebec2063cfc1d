# frozen_string_literal: true

module Vumbral
  module Sculpt
    # A step that was carried out before, on values that differ in some bricks only: it is done in those alone, and in
    # those that they reach; elsewhere all is as it was. Each brick comes out as it would if all were done anew.
    class Again
      # Steps whose values depend on no others, on those within so many metres by these dials, or on some cells around.
      BY_ITSELF = %w[number texture sculpt ripples formula limit remap colour density grow shell combine erode].freeze
      METRES = {"blur" => [1.5, "radius"], "sharpen" => [1.5, "radius"], "warp" => [Moves::FARTHEST, "far"],
                "fray" => [Moves::FARTHEST, "far"], "flow" => [4.0, "far"]}.freeze
      # With more bricks than this share it is not worth it.
      MOST = 0.5

      # @return [Boolean] whether a step can be done so
      def self.can?(step) =
        (BY_ITSELF.include?(step["what"]) || METRES.key?(step["what"]) || step["what"] == "median") && !step.key?("run")

      # @param before [Hash{Symbol => Field}] what went into the step then; @param after [Hash] what came out
      # @param now [Hash] what goes in now
      def initialize(before, after, now, step)
        @before, @after, @now, @step = before, after, now, step
      end

      # @yield [Hash{Symbol => Field}] the channels in fewer bricks, on which the step is to be done
      # @return [Hash{Symbol => Field}, nil] what comes out; nil where all has to be done anew
      def call
        return unless alike?

        done = changed
        return @after if done.none?(1)
        return if done.sum > MOST * done.size

        # What a step reads around them has to be there too.
        some = yield(@now.transform_values { |field| field.within(wider(done)) })
        @after.to_h { |name, field| [name, field.joined(some.fetch(name), buffer(done))] }
      end

      private

      # On the same lattice, with the same channels.
      def alike?
        @before.keys == @now.keys &&
          @now.all? do |name, field|
            field.lattice == @before[name].lattice && field.counts == @before[name].counts &&
              field.as == @before[name].as
          end
      end

      # @return [Array<Integer>] 1 for each brick that comes out differently, as far as can be told
      def changed
        marks = Kernel::Buffer.new(:u8, *@now[:density].counts)
        @now.each do |name, field|
          next if field.equal?(@before[name])

          boxes = Kernel::Buffer.new(:i32, field.index.size, 6)
          AgainKernels.unlike(boxes, @before[name].cells, field.cells)
          AgainKernels.reached(marks, boxes, reach)
        end
        marks.bytes.bytes
      end

      # Cells that a value comes from, each way.
      def reach
        factor, dial = METRES[@step["what"]]
        return (factor * @step[dial] / @now[:density].voxel + 2.0).ceil if factor

        (@step["what"] == "median") ? @step["cells"] : 0
      end

      # Bricks that are read for those that are done.
      def wider(done)
        marks = buffer(done)
        return marks if reach.zero?

        Kernel::Buffer.new(:u8, *marks.shape).tap { |all| AgainKernels.wider(all, marks, (reach + 15) / 16) }
      end

      def buffer(marks) = Kernel::Buffer.of(:u8, marks, *@now[:density].counts)
    end
  end
end
