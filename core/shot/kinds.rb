# frozen_string_literal: true

module Vumbral
  module Shot
    # All kinds of node there are.
    module Kinds
      class << self
        # @return [Hash{Symbol => Kind}] in the order of the work
        def all
          @all ||=
            [
              Declarations::General, Declarations::Marker, Declarations::Prop, Declarations::Operation,
              Declarations::Front, Declarations::Source, Declarations::Inflow, Declarations::Emitter, Declarations::Map,
              Declarations::Chamber, Declarations::Annex, Declarations::Detail, Declarations::Liquid,
              Declarations::Force, Declarations::Kick, Declarations::Blast, Declarations::Look, Declarations::Sun,
              Declarations::Lamp, Declarations::Sky, Declarations::Fog, Declarations::Texture, Declarations::Sculpt,
              Declarations::Step, Declarations::Camera, Declarations::SavedView, Declarations::Picture,
              Declarations::Layer, Declarations::Effect, Declarations::Mask, Declarations::Track, Declarations::Export
            ].to_h { |kind| [kind.name, kind] }.freeze
        end

        # @raise [Refused]
        def fetch(name)
          all[name.to_s.to_sym] || raise(Refused.new(
            "There is no kind #{name.to_s[0, 40].inspect}; there are: #{all.keys.join(", ")}.", code: "unknown_kind"
          ))
        end
      end
    end
  end
end
