# frozen_string_literal: true

module Vumbral
  module Shot
    module Declarations
      Liquid = Kind.new(:liquid, "Liquid", plural: "Liquid", chapter: :chamber, most: 1,
        help: "A chamber that holds a liquid: a pool with a water line, what inflows pour in, what kicks throw up.") do
        group "The box" do
          Carried.declare(self)
          vector :position, "Floor centre", unit: "m", default: [0.0, 0.0, 0.0], range: -10_000.0..10_000.0,
            slider: -5.0..5.0, help: "The middle of its floor."
          vector :size, "Size", unit: "m", default: [1.6, 1.2, 1.6], range: 0.01..10_000.0, slider: 0.2..5.0,
            help: "Width, height and depth. Leave room above for what is thrown up."
          number :voxel, "Voxel size", unit: "m", default: 0.02, range: 0.0002..100.0, slider: 0.005..0.1,
            help: "Of a full run. Half the size shows thinner sheets and smaller drops, and takes some sixteen " \
              "times as long."
          number :draft, "Draft voxels", unit: "times larger", default: 2.0, range: 1.0..8.0, slider: 1.0..4.0,
            help: "A draft takes voxels this much larger."
        end
        group("Sides that are open") do
          Sides.declare(self, open: %i[y1], help: "Open: what comes there is let out. Closed: a wall that holds it.")
        end
        group "What it holds at first" do
          node :tank, "Tank", default: nil, of: :prop,
            help: "A closed prop whose inside holds the liquid. Without one, the box does."
          switch :pool, "Filled at first", default: true,
            help: "On, there is liquid up to the water line on the first frame."
          number :line, "Water line", unit: "m", default: 0.4, range: 0.0..10_000.0, slider: 0.0..3.0,
            only: {pool: [true]}, help: "How high it stands above the floor of the box."
        end
        group "Waves" do
          choice :waves_from, "Come in from", default: "none",
            choices: {none: "no side", x0: "left (−x)", x1: "right (+x)", z0: "the back (−z)", z1: "the front (+z)"},
            help: "A closed side from which waves run into the box, as on open water."
          number :wave_height, "Height", unit: "m", default: 0.1, range: 0.0..1000.0, slider: 0.0..1.0, keyed: true,
            only: {waves_from: %w[x0 x1 z0 z1]},
            help: "From trough to crest. Above a seventh of their length waves break."
          number :wave_length, "Length", unit: "m", default: 1.0, range: 0.01..10_000.0, slider: 0.2..10.0,
            only: {waves_from: %w[x0 x1 z0 z1]},
            help: "From crest to crest. Long ones run faster: how fast goes by gravity and the water line."
          choice :calms, "Let go at", default: "none", choices: {none: "no side", others: "all other sides"},
            help: "Closed sides that throw no waves back, as if the water went on beyond them."
          number :wave_zone, "Zone", unit: "m", default: 0.5, range: 0.001..10_000.0, slider: 0.1..5.0,
            help: "So far before such sides the liquid is led: half a wave's length or more lets nearly all of it go."
        end
        group "How it moves" do
          number :time_scale, "Time scale", default: 1.0, range: 0.0..100.0, slider: 0.0..3.0, keyed: true,
            help: "How fast time passes in the chamber: 0.5 is slow motion, 0 stands still."
          number :gravity, "Gravity", unit: "times", default: 1.0, range: -100.0..100.0, slider: 0.0..3.0, keyed: true,
            help: "Of the earth's."
          number :true_size, "True size", unit: "m", default: 1.0, range: 0.0001..10_000.0, slider: 0.05..5.0,
            help: "How long in truth what measures a metre here is. 0.1 is a cup built ten times too large: it " \
              "falls ten times as fast for its size."
          number :viscosity, "Viscosity", unit: "m²/s", default: 0.0, range: 0.0..1000.0, slider: 0.0..0.05,
            keyed: true, help: "How thick it is. 0 is water, 0.001 oil, 0.005 glaze, 0.02 honey."
          number :tension, "Surface tension", unit: "N/m", default: 0.0, range: 0.0..10_000.0, slider: 0.0..0.2,
            keyed: true, zero: "none",
            help: "How strongly its surface draws together into drops: water 0.073, oil 0.03, molten glass 0.3. It " \
              "shows on what is small: set the true size, or take more than is true. Small voxels need more " \
              "substeps with it."
          number :own, "Lively", default: 0.1, range: 0.0..1.0, keyed: true,
            help: "How much each particle keeps of its own speed. 0 is calm, 0.3 splashes, 1 is restless."
          number :swirl, "Keeps its turns", default: 1.0, range: 0.0..1.0,
            help: "How much small eddies last: 1 all that voxels can carry, 0 lets them die as in a thick soup."
        end
        group "Colours" do
          switch :dyed, "Has colours", default: false,
            help: "Each particle keeps the colour that it came with, so that liquids of several colours run into " \
              "each other. Clear ones are looked through by it, in place of the colour within."
          colour :dye, "Colour at first", default: [0.55, 0.78, 0.85], range: 0.0..1.0, only: {dyed: [true]},
            help: "Of what stands in the box or the tank on the first frame. What inflows pour has theirs."
        end
        group "How it plays", touches: :picture do
          choice :plays, "Plays", default: "as",
            choices: {as: "as it was made", speed: "at a speed", place: "frame by frame"},
            help: "What was run at another pace without running again: slower, held or backwards, its surface led " \
              "along its motion between frames."
          number :speed, "Speed", default: 1.0, range: -100.0..100.0, slider: -2.0..2.0, keyed: true,
            only: {plays: %w[speed]}, help: "1 as it was made, 0.5 half as fast, 0 held, below 0 backwards."
          number :begins, "Begins with frame", default: 0.0, range: -100_000.0..100_000.0, slider: 1.0..96.0,
            only: {plays: %w[speed]}, zero: "its first",
            help: "The frame of it that is seen on the first frame of the shot."
          number :place, "Frame", default: 1.0, range: -100_000.0..100_000.0, slider: 1.0..96.0, keyed: true,
            only: {plays: %w[place]},
            help: "Which frame of it is seen; with keys it goes at any pace, and 12.5 is halfway to the next."
        end
        group "Its surface", touches: :surface do
          number :grain, "Surface detail", unit: "times finer", default: 2.0, range: 1.0..4.0, slider: 1.0..3.0,
            help: "How much finer than the voxels its surface is drawn."
          number :round, "Drop size", unit: "voxels", default: 0.5, range: 0.1..3.0, slider: 0.3..1.2,
            help: "Radius that a single particle is drawn with. Small ones show fine spray; large ones close gaps."
          whole :smooth, "Smoothed", unit: "times", default: 2, range: 0..20, slider: 0..8,
            help: "How often bumps of single particles are evened out; edges of sheets and drops stay."
          number :sheets, "Holds thin parts", unit: "voxels", default: 3.0, range: 0.0..8.0, slider: 0.0..6.0,
            zero: "not at all",
            help: "Sheets and threads stay whole while their particles are no farther apart than this; beyond it " \
              "they tear. Less lets a crown burst into drops sooner."
        end
        group "What it keeps" do
          number :kept, "Particles kept", default: 0.25, range: 0.0..1.0,
            help: "Which part of the particles each frame keeps, for the view and for exports."
        end
        group "Spray, foam and bubbles" do
          switch :spray, "Throws spray", default: false,
            help: "Small drops and foam that the liquid throws off, seen as a volume by the look of the shot. They " \
              "do not move the liquid."
          switch :flies, "Spray in the air", default: true, only: {spray: [true]},
            help: "Off, what flies is neither seen nor handed on; it still falls and becomes foam."
          switch :foams, "Foam on it", default: true, only: {spray: [true]},
            help: "Off, what lies on the liquid is neither seen nor handed on."
          switch :bubbles, "Bubbles within it", default: true, only: {spray: [true]},
            help: "Off, what rises within the liquid is neither seen nor handed on."
          number :trapped, "From trapped air", unit: "per s", default: 1000.0, range: 0.0..100_000.0,
            slider: 0.0..4000.0, keyed: true, only: {spray: [true]}, zero: "none",
            help: "How many come of each particle in a second where the liquid runs into itself."
          number :trapped_from, "Beginning at", unit: "m/s", default: 0.1, range: 0.0..1000.0, slider: 0.0..2.0,
            keyed: true, only: {spray: [true]}, help: "How hard it must run into itself that any comes."
          number :trapped_to, "In full at", unit: "m/s", default: 0.8, range: 0.0..1000.0, slider: 0.0..4.0,
            keyed: true, only: {spray: [true]}, help: "From where on no more comes."
          number :crest, "From crests", unit: "per s", default: 1000.0, range: 0.0..100_000.0, slider: 0.0..4000.0,
            keyed: true, only: {spray: [true]}, zero: "none",
            help: "How many come of each particle in a second where a sharp edge goes forward."
          number :crest_from, "Sharp from", default: 0.3, range: 0.0..1.0, keyed: true, only: {spray: [true]},
            help: "How sharp an edge must be: 0.3 is an even surface, 0.6 a thin tip."
          number :crest_to, "Sharp to", default: 0.5, range: 0.0..1.0, keyed: true, only: {spray: [true]},
            help: "From where on no more comes."
          number :energy_from, "Needs energy", unit: "m²/s²", default: 0.25, range: 0.0..100_000.0, slider: 0.0..10.0,
            keyed: true, only: {spray: [true]}, help: "Slower liquid throws nothing: 0.5 is a metre a second."
          number :energy_to, "In full with", unit: "m²/s²", default: 2.0, range: 0.0..100_000.0, slider: 0.0..40.0,
            keyed: true, only: {spray: [true]}, help: "From where on no more comes."
          number :foam_life, "Foam lasts", unit: "s", default: 1.5, range: 0.01..1000.0, slider: 0.1..6.0, keyed: true,
            only: {spray: [true]}, help: "On the liquid; each a little more or less. In the air it goes on."
          number :spray_drag, "Air's drag", unit: "per s", default: 0.8, range: 0.0..100.0, slider: 0.0..6.0,
            keyed: true, only: {spray: [true]}, help: "How soon the air slows spray: heavy drops 0.3, mist 4."
          number :bubble_rise, "Bubbles rise", unit: "times gravity", default: 1.2, range: 0.0..100.0, slider: 0.0..4.0,
            keyed: true, only: {spray: [true]}, help: "How strongly bubbles are lifted."
          number :bubble_drag, "Water's drag", unit: "per s", default: 8.0, range: 0.0..1000.0, slider: 0.0..30.0,
            keyed: true, only: {spray: [true]}, help: "How much the liquid takes bubbles along."
          number :spray_dense, "Density", default: 0.05, range: 0.0..1000.0, slider: 0.0..1.0, touches: :surface,
            only: {spray: [true]}, help: "Of the volume that they are seen as."
          whole :spray_fine, "Fineness", unit: "cells a voxel", default: 8, range: 1..16, slider: 1..12,
            touches: :surface, only: {spray: [true]},
            help: "How fine that volume is. Foam wants small voxels and many particles; less makes mist of it."
          number :most, "At most", unit: "millions", default: 1.0, range: 0.001..20.0, slider: 0.1..4.0,
            only: {spray: [true]}, help: "More of them do not come."
        end
        group "Beads on it", touches: :picture do
          node :beads, "Spray seen as", default: nil, of: :prop, only: {spray: [true]},
            help: "A prop, which may be hidden itself: beads, petals, ash. Copies of it stand where spray, foam " \
              "and bubbles are, in the developed view and in pictures."
          number :bead_spray, "In the air", unit: "times", default: 1.0, range: 0.0..1000.0, slider: 0.0..2.0,
            only: {spray: [true]}, zero: "none", help: "How large they are there, of the prop's own size."
          number :bead_foam, "On the liquid", unit: "times", default: 1.0, range: 0.0..1000.0, slider: 0.0..2.0,
            only: {spray: [true]}, zero: "none", help: "How large they are there."
          number :bead_bubble, "Within it", unit: "times", default: 0.5, range: 0.0..1000.0, slider: 0.0..2.0,
            only: {spray: [true]}, zero: "none", help: "How large they are there."
          number :bead_vary, "Their sizes vary", default: 0.4, range: 0.0..1.0, only: {spray: [true]},
            help: "0 makes all alike."
          ramp :bead_life, "Size over their life", default: [], over: :life, range: 0.0..1.0, values: 0.0..4.0,
            of: :number, only: {spray: [true]},
            help: "How large they are from when they come (0) to when they go (1). Without stops they shrink in " \
              "the end."
        end
        group "How exact" do
          number :cells, "Cells a substep", default: 2.0, range: 0.25..16.0, slider: 0.5..4.0,
            help: "The fastest part may cross this many voxels before a frame is divided further."
          whole :substeps_least, "Substeps at least", default: 1, range: 1..64, slider: 1..8,
            help: "Each frame is divided at least so often."
          whole :substeps_most, "Substeps at most", default: 12, range: 1..200, slider: 1..24,
            help: "Each frame is divided at most so often."
          whole :band, "Particles down to", unit: "voxels", default: 0, range: 0..200, slider: 0..16,
            only: {dyed: [false]}, zero: "the bottom",
            help: "So far below the surface the liquid has particles, at least 4; what lies deeper the grid " \
              "carries alone, which saves time and memory in deep pools. 6 is good for most."
          number :even, "Makes room", default: 0.5, range: 0.0..1.0,
            help: "How quickly crowded particles are moved apart, which keeps the volume. 0 lets it sink."
          number :accuracy, "Accuracy", default: 2e-4, range: 1e-7..0.1, slider: 1e-6..1e-2,
            help: "Flow left over in a cell, as part of the top speed."
        end
      end
    end
  end
end
