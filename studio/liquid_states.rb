# frozen_string_literal: true

module Vumbral
  module Studio
    # Whole states of a liquid on disk: to go on from.
    class LiquidStates
      # Parts of a state, as its file names them.
      DROPS = %i[at speed turn born id dye].freeze
      FACES = %i[u v w].freeze
      SPRAY = {spray_at: :at, spray_speed: :speed, spray_life: :life, spray_kind: :kind, spray_id: :id}.freeze

      # @param frames [FrameStore]
      def initialize(frames)
        @frames = frames
      end

      # @param key [String] of its frame; @param state [Liquid::State]
      # @return [Integer] bytes written
      def write(key, state)
        parts =
          DROPS
            .zip(state.drops.to_a)
            .to_h
            .merge(
              FACES.zip(state.faces.to_a).to_h, pressure: state.pressure, deep: state.deep,
              **SPRAY.transform_values { |name| state.spray[name] }
            )
        @frames.write_part(key, "state", {time: state.time, made: state.made, sprayed: state.sprayed}, parts)
      end

      # @return [Liquid::State, nil] nil where there is none, or a damaged one
      def read(key)
        head, parts = @frames.part(key, "state")
        return unless parts

        Liquid::State.new(
          Liquid::Drops.new(*DROPS.map { |name| parts[name] }), Flow::Faces.new(*FACES.map { |name| parts[name] }),
          parts[:pressure], head["time"], head["made"], Liquid::Spray.new(*SPRAY.keys.map { |name| parts[name] }),
          head["sprayed"], parts[:deep]
        )
      end
    end
  end
end
