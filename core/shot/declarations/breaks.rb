# frozen_string_literal: true

module Vumbral
  module Shot
    module Declarations
      # How a prop falls into pieces, and how these fly.
      module Breaks
        # @param kind [Kind] in the making
        def self.declare(kind)
          kind.instance_exec do
            group "Breaking", except: {shape: %w[mark]} do
              switch :breaks, "Breaks", default: false,
                help: "Falls into pieces that are blown apart. It must be closed. The pieces feed and block like " \
                  "the prop, meet each other, and land on closed props that stand in the way."
              whole :break_frame, "At frame", time: :at, default: 10, range: 0..100_000, slider: 1..120,
                only: {breaks: [true]}, help: "The frame on which it is in pieces."
              whole :pieces, "Pieces", default: 14, range: 2..500, slider: 2..60, only: {breaks: [true]},
                help: "How many there are. 14 is a lid, 40 is rubble."
              whole :piece_seed, "Other cut", default: 1, range: 0..1_000_000, slider: 1..50, only: {breaks: [true]},
                help: "Another number cuts it differently."
              number :outer, "Shell", unit: "m", default: 0.0, range: 0.0..1000.0, slider: 0.0..0.5, zero: "none",
                only: {breaks: [true]},
                help: "How deep its outside breaks into pieces of its own, finer or coarser than what lies below."
              whole :outer_pieces, "Pieces of the shell", default: 24, range: 2..500, slider: 2..120,
                only: {breaks: [true]}, help: "How many the shell breaks into."
              choice :grain, "Breaks into", default: "shards",
                choices: {shards: "shards", splinters: "splinters", slabs: "slabs"}, only: {breaks: [true]},
                help: "Shards are as long as wide; splinters run along the grain like wood, slabs lie across it " \
                  "like slate."
              vector :grain_way, "Grain", default: [0.0, 1.0, 0.0], range: -1000.0..1000.0, slider: -1.0..1.0,
                only: {breaks: [true], grain: %w[splinters slabs]},
                help: "The way along which splinters are long and slabs are thin."
              number :gather, "Denser about a place", default: 0.0, range: 0.0..1.0, only: {breaks: [true]},
                help: "How many of the pieces are small ones about the place below: where it was hit."
              vector :gather_at, "That place", unit: "m", default: [0.0, 0.0, 0.0], range: -10_000.0..10_000.0,
                slider: -3.0..3.0, only: {breaks: [true]}, help: "As seen from the prop."
              number :keep, "Part that stays whole", unit: "m", default: 0.0, range: 0.0..10_000.0, slider: 0.0..2.0,
                zero: "none", only: {breaks: [true]}, help: "Radius about the place below in which it does not break."
              vector :keep_at, "Its middle", unit: "m", default: [0.0, 0.0, 0.0], range: -10_000.0..10_000.0,
                slider: -3.0..3.0, only: {breaks: [true]}, help: "As seen from the prop."
              whole :held_until, "Held until frame", time: :at, default: 0, range: 0..100_000, slider: 0..120,
                zero: "not held", only: {breaks: [true]}, help: "The pieces stay where they are until then."
              node :break_front, "Let go by front", default: nil, of: :front, only: {breaks: [true]},
                help: "Each piece is let go when this front comes to it."
              pieces :taken, "Taken away", default: [], only: {breaks: [true]},
                help: "Pieces that are not there once it breaks, picked in the view."
              whole :again, "Breaks again at frame", time: :at, default: 0, range: 0..100_000, slider: 0..120,
                zero: "never", only: {breaks: [true]},
                help: "The frame on which its pieces break once more, wherever they are then."
              whole :again_pieces, "Each into", default: 3, range: 2..40, slider: 2..8, only: {breaks: [true]},
                help: "How many pieces each of them becomes."
              number :again_push, "Parted by", unit: "m/s", default: 0.8, range: 0.0..1000.0, slider: 0.0..5.0,
                only: {breaks: [true]}, help: "How fast what they become is pushed apart."
              vector :blast, "Blast centre", unit: "m", default: [0.0, 0.0, 0.0], range: -10_000.0..10_000.0,
                slider: -5.0..5.0, only: {breaks: [true]}, help: "Where the blast comes from."
              number :blast_reach, "Blast reach", unit: "m", default: 3.0, range: 0.001..10_000.0, slider: 0.5..10.0,
                only: {breaks: [true]}, help: "How far it is felt; at half of it, a quarter is left."
              number :blast_strength, "Blast strength", unit: "m/s", default: 7.0, range: 0.0..1000.0,
                slider: 0.0..20.0, only: {breaks: [true]},
                help: "Speed of a piece at the blast's centre. 0 lets it only fall apart."
              number :spin, "Spin", unit: "°/s", default: 260.0, range: 0.0..10_000.0, slider: 0.0..1000.0,
                only: {breaks: [true]}, help: "How fast the pieces turn, about axes of their own."
              number :falls, "Gravity", default: 1.0, range: -10.0..10.0, slider: 0.0..2.0, only: {breaks: [true]},
                help: "1 falls as on earth."
              number :floor, "Floor", unit: "m", default: 0.0, range: -10_000.0..10_000.0, slider: -2.0..2.0,
                only: {breaks: [true]}, help: "Height at which the pieces land."
              number :bounce, "Bounce", default: 0.3, range: 0.0..1.0, only: {breaks: [true]},
                help: "Share of its speed with which a piece leaves the floor again."
              number :scrape, "Friction of pieces", default: 0.45, range: 0.0..1.0, only: {breaks: [true]},
                help: "How hard it is to slide along the floor and each other: 0 is ice, 0.5 clay."
              switch :drop_outside, "Drop what leaves", default: true, only: {breaks: [true]},
                help: "Pieces that leave the chamber are let go."
              switch :inside_own, "Other colour inside", default: false, only: {breaks: [true]},
                help: "The faces where it broke have a colour of their own."
              colour :inside, "Colour inside", default: [0.5, 0.3, 0.2], range: 0.0..1.0,
                only: {breaks: [true], inside_own: [true]}, help: "Of the faces where it broke (linear)."
            end
          end
        end
      end
    end
  end
end
