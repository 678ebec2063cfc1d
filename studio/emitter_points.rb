# frozen_string_literal: true

module Vumbral
  module Studio
    # The particles of a shot's emitters as points to hand on.
    class EmitterPoints
      def initialize(document, assets)
        @document, @assets, @swarms = document, assets, {}
      end

      # @return [Array<Array<Float>>] of each particle that is there: place, speed (m/s), age (s), number, which
      #   emitter, and width (m)
      def at(emitter, frame)
        swarm = @swarms[emitter.id] ||= Particles::Swarm.new(Geometry::Throws.new(@document, emitter.id), @assets)
        which = emitters.index { |one| one.id == emitter.id }.to_f
        swarm.at(frame, frame - 1).to_a.each_slice(8).with_index.select { |row, _| row[6] >= 0.0 }.map do |row, n|
          age = frame / @document.rate - swarm.birth(n)
          # What was thrown within the frame has come its way in less than that.
          time = [age, 1.0 / @document.rate].min
          speed = row[0, 3].zip(row[3, 3]).map { |now, before| time.positive? ? (now - before) / time : 0.0 }
          row[0, 3] + speed + [age, n.to_f, which, emitter[:width] * (0.6 + 0.8 * row[7])]
        end
      end

      # @return [Kernel::Buffer] f32 [n, 9], of all emitters, as {Formats::PLY.points} takes them; the kind is which
      #   emitter
      def all(frame)
        rows = emitters.flat_map { |emitter| at(emitter, frame) }
        Kernel::Buffer.of(:f32, rows.flat_map { |row| row.first(9) }, rows.size, 9)
      end

      private

      def emitters = @emitters ||= @document.of(:emitter)
    end
  end
end
