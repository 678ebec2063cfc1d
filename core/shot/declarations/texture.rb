# frozen_string_literal: true

module Vumbral
  module Shot
    module Declarations
      Texture = Kind.new(:texture, "Texture", plural: "Textures", chapter: :light,
        help: "A pattern in space, made once and used by as many things as want it: fog, materials, looks.") do
        group "What it is", touches: :light do
          choice :what, "Pattern", default: "noise",
            choices: {
              noise: "noise", cells: "cells", bands: "folded bands", stripes: "stripes", fall: "a shape that falls off",
              picture: "a picture", formula: "a formula", front: "a front's age", sculpt: "a sculpt"
            },
            help: "Noise is clouds; cells are cracked clay; bands are wood and marble; stripes are slats; a shape " \
              "that falls off is strong at a plane, a place or a line."
          choice :basis, "Kind of noise", default: "soft",
            choices: {soft: "soft", billows: "billows", ridges: "ridges"}, only: {what: %w[noise bands]},
            help: "Billows are puffed, ridges are veined."
          choice :measure, "Told by", default: "nearest",
            choices: {
              nearest: "distance to the middle", second: "distance to the second", edges: "distance to the edge"
            }, only: {what: %w[cells]}, help: "What each place of a cell is told by."
          number :gap, "Gap", default: 0.12, range: 0.0..1.0, only: {what: %w[cells], measure: %w[edges]},
            help: "How wide the gaps between the cells are."
          number :cell_value, "Cell's value", default: 1.0, range: -10.0..10.0, slider: 0.0..1.0,
            only: {what: %w[cells], measure: %w[edges]}, help: "What it is within a cell."
          number :gap_value, "Gap's value", default: 0.0, range: -10.0..10.0, slider: 0.0..1.0,
            only: {what: %w[cells], measure: %w[edges]}, help: "What it is in a gap."
          number :folds, "Folds", default: 6.0, range: 0.1..200.0, slider: 1.0..24.0, only: {what: %w[bands]},
            help: "How often the noise is folded into a band."
          number :band, "Band's thickness", default: 0.4, range: 0.0..1.0, only: {what: %w[bands stripes]},
            help: "How much of it is band; the rest is between bands."
          number :edge, "Softness", default: 0.5, range: 0.001..1.0, only: {what: %w[bands stripes]},
            help: "How softly a band ends."
          switch :round, "Round", default: false, only: {what: %w[stripes]},
            help: "Rings about its axis, not flat sheets."
          number :bend, "Bent by", default: 0.2, range: 0.0..10.0, slider: 0.0..2.0, only: {what: %w[stripes]},
            help: "How far noise bends the stripes, in stripes."
          choice :shape, "Falls off from", default: "point",
            choices: {plane: "a plane", point: "a place", line: "its upright line"}, only: {what: %w[fall]},
            help: "Where it is whole."
          choice :course, "How it falls", default: "soft",
            choices: {straight: "straight", square: "with the square", soft: "softly"}, only: {what: %w[fall]},
            help: "Its course from 1 to 0 over its size."
          picture :picture, "Picture", default: nil, only: {what: %w[picture]},
            help: "Its brightness. It stands upright and faces along z; turn it to lay it down."
          switch :repeats, "Repeats", default: true, only: {what: %w[picture]},
            help: "Again beside itself; off, there is nothing around it."
          text :formula, "Formula", default: "0.5 + noise(6 * x, 6 * y, 6 * z)", only: {what: %w[formula]},
            help: "A number for each place of a box as large as its size, whose middle is where it begins: x, y " \
              "and z go from -0.5 to 0.5. Also: frame, t, seed. Beyond the box it is as at its edge."
          node :front, "Front", default: nil, of: :front, only: {what: %w[front]},
            help: "How young it is at the nearest place of its prop."
          number :rise, "Rises in", unit: "s", default: 0.1, range: 0.0..1000.0, slider: 0.0..2.0,
            only: {what: %w[front]}, help: "How long after the front has come it is whole."
          number :lasts, "Lasts", unit: "s", default: 1.0, range: 0.0..10_000.0, slider: 0.0..5.0,
            only: {what: %w[front]}, help: "How long it stays whole."
          number :fall, "Falls in", unit: "s", default: 0.5, range: 0.0..1000.0, slider: 0.0..5.0,
            only: {what: %w[front]}, help: "How long it takes to go."
          node :sculpt, "Sculpt", default: nil, of: :sculpt, only: {what: %w[sculpt]},
            help: "How dense it is at each place; seen or not. So it shapes fog, masks, sources and paint."
          whole :octaves, "Octaves", default: 3, range: 1..8, only: {what: %w[noise cells bands stripes]},
            help: "Each further one is half as large and half as strong."
          whole :seed, "Other pattern", default: 1, range: 0..1_000_000, slider: 1..50,
            help: "Another number looks elsewhere."
        end
        group "Where", touches: :light do
          node :follows, "Goes with", default: nil, of: :prop,
            help: "A prop that it lies on and moves with; without one it stands in the world."
          number :size, "Size", unit: "m", default: 0.5, range: 0.0001..10_000.0, slider: 0.05..5.0, keyed: true,
            help: "Of its largest features; of a shape, how far it reaches."
          vector :stretch, "Stretch", default: [1.0, 1.0, 1.0], range: 0.001..1000.0, slider: 0.1..5.0, keyed: true,
            help: "Factors of its size along x, y, z."
          vector :turn, "Turn", unit: "°", default: [0.0, 0.0, 0.0], range: -3600.0..3600.0, slider: -180.0..180.0,
            keyed: true, help: "About x, then y, then z."
          vector :offset, "Offset", unit: "m", default: [0.0, 0.0, 0.0], range: -10_000.0..10_000.0, slider: -5.0..5.0,
            keyed: true, help: "Where it begins."
        end
        group "How it moves", touches: :light do
          vector :drift, "Drifts", unit: "m/s", default: [0.0, 0.0, 0.0], range: -1000.0..1000.0, slider: -2.0..2.0,
            help: "How fast it goes along; evenly, so that it may loop."
          number :change, "Changes", unit: "per s", default: 0.0, range: 0.0..100.0, slider: 0.0..4.0,
            only: {what: %w[noise bands stripes]}, help: "How often it becomes another pattern in its place."
        end
        group "How it loops", touches: :light do
          whole :loops, "Loops over", unit: "frames", default: 0, range: 0..100_000, slider: 0..240, zero: "never",
            time: :length,
            help: "After so many frames it is as it was: it drifts over a whole number of features and changes a " \
              "whole number of times, nearest to what it is told. Its pattern repeats after the way that it drifts."
        end
        group "What comes of it", touches: :light do
          number :brightness, "Brightness", default: 0.0, range: -10.0..10.0, slider: -1.0..1.0, keyed: true,
            help: "Added to it."
          number :contrast, "Contrast", default: 1.0, range: 0.0..100.0, slider: 0.0..5.0, keyed: true,
            help: "About its middle: 1 leaves it, 4 is nearly black and white."
          number :gamma, "Gamma", default: 1.0, range: 0.05..20.0, slider: 0.2..4.0, keyed: true,
            help: "Above 1 lifts what is dark, below 1 lowers it."
          switch :inverted, "The other way round", default: false, help: "Strong where it was weak."
          ramp :ramp, "Ramp", default: [], range: 0.0..1.0, values: 0.0..10.0, of: :number,
            help: "What its values become; without a stop they stay."
          number :factor, "Factor", default: 1.0, range: -1000.0..1000.0, slider: 0.0..4.0, keyed: true,
            help: "Multiplies it in the end."
        end
      end
    end
  end
end
