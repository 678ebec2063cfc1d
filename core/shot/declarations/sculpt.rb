# frozen_string_literal: true

module Vumbral
  module Shot
    module Declarations
      Sculpt = Kind.new(:sculpt, "Sculpt", plural: "Sculpts", chapter: :sculpt,
        help: "A volume built by an ordered list of steps, without simulation: clouds, carved solids, " \
          "haze with a shape.") do
        group "What it begins with", touches: :sculpt do
          choice :from, "Begins with", default: "prop",
            choices: {
              prop: "the inside of props", skin: "the skin of props", points: "the corners of a prop",
              particles: "the particles of an emitter", region: "a box or a ball", sculpt: "another sculpt",
              file: "a volume from a file", run: "the run of the shot", cache: "a run that was kept"
            },
            help: "What the first step finds. Of props, points and regions that is the distance to their surface, " \
              "below 0 within; of volumes, their values."
          node :prop, "Prop", of: :prop, default: nil, only: {from: %w[prop skin points]},
            help: "Hide the prop unless it shall be seen too."
          nodes :also, "And", of: :prop, default: [], only: {from: %w[prop skin points]},
            help: "More props, as one body with the first."
          number :skin, "Skin's thickness", unit: "m", default: 0.05, range: 0.0001..100.0, slider: 0.005..0.5,
            keyed: true, only: {from: %w[skin]}, help: "Half of it lies to either side of the surface."
          node :emitter, "Emitter", of: :emitter, default: nil, only: {from: %w[particles]},
            help: "Whose particles they are, as they fly; they need not be seen."
          number :radius, "Radius", unit: "m", default: 0.05, range: 0.0001..100.0, slider: 0.005..0.5, keyed: true,
            only: {from: %w[points particles]}, help: "Of the ball about each corner or particle."
          choice :form, "Form", default: "box", choices: {box: "box", ball: "ball"}, only: {from: %w[region]},
            help: "What the region looks like."
          vector :middle, "Middle", unit: "m", default: [0.0, 1.0, 0.0], range: -10_000.0..10_000.0, slider: -3.0..3.0,
            keyed: true, only: {from: %w[region]}, help: "Where it is."
          vector :extent, "Lengths", unit: "m", default: [1.0, 1.0, 1.0], range: 0.0001..10_000.0, slider: 0.1..5.0,
            keyed: true, only: {from: %w[region]}, help: "How long it is along x, y and z."
          node :other, "Sculpt", of: :sculpt, default: nil, only: {from: %w[sculpt]},
            help: "It begins with what the other comes to in the end."
          volume :volume, "Volume", default: nil, only: {from: %w[file]}, help: "An OpenVDB file that you bring."
          cache :cache, "Kept run", default: nil, only: {from: %w[cache]},
            help: "A run of this shot or of another that was kept under a name, frame by frame."
        end
        group "How it plays", touches: :sculpt do
          choice :plays, "Plays", default: "as",
            choices: {as: "as it was made", speed: "at a speed", place: "frame by frame"},
            only: {from: %w[run cache sculpt]},
            help: "At another pace without running again: slower, held or backwards, in between its frames by its " \
              "own motion."
          number :speed, "Speed", default: 1.0, range: -100.0..100.0, slider: -2.0..2.0, keyed: true,
            only: {from: %w[run cache sculpt], plays: %w[speed]},
            help: "1 as it was made, 0.5 half as fast, 0 held, below 0 backwards."
          number :begins, "Begins with frame", default: 0.0, range: -100_000.0..100_000.0, slider: 1.0..96.0,
            only: {from: %w[run cache sculpt], plays: %w[speed]}, zero: "its first",
            help: "The frame of it that is seen on the first frame of the shot."
          number :place, "Frame", default: 1.0, range: -100_000.0..100_000.0, slider: 1.0..96.0, keyed: true,
            only: {from: %w[run cache sculpt], plays: %w[place]},
            help: "Which frame of it is seen; with keys it goes at any pace, and 12.5 is halfway to the next."
          choice :between, "Between frames", default: "led",
            choices: {led: "led along its motion", nearest: "the nearest frame"},
            only: {from: %w[run cache], plays: %w[speed place]},
            help: "What is seen between two frames; the nearest gives steps."
          whole :shift, "Later by", unit: "frames", time: :length, default: 0, range: -100_000..100_000,
            slider: -48..48, only: {from: %w[run cache sculpt], plays: %w[as]},
            help: "So many frames after the run itself; below 0 before it."
        end
        group "Where it stands", touches: :sculpt do
          vector :moved, "Moved", unit: "m", default: [0.0, 0.0, 0.0], range: -10_000.0..10_000.0, slider: -5.0..5.0,
            keyed: true, only: {from: %w[file run cache]}, help: "From where it was."
          vector :turned, "Turned", unit: "°", default: [0.0, 0.0, 0.0], range: -3600.0..3600.0, slider: -180.0..180.0,
            keyed: true, only: {from: %w[file run cache]},
            help: "About x, then y, then z of the world, where it begins."
          number :scaled, "Size", default: 1.0, range: 0.001..1000.0, slider: 0.1..4.0, keyed: true,
            only: {from: %w[file run cache]}, help: "A factor: 2 is twice as large."
          switch :mirrored, "Mirrored", default: false, only: {from: %w[file run cache]},
            help: "Left and right change places."
          switch :instead, "Instead of the run", default: true, only: {from: %w[run]},
            help: "The run itself is not seen; off, it stands beside it, as one more from the same frames."
        end
        group "Its voxels", touches: :sculpt do
          number :voxel, "Voxel size", unit: "m", default: 0.03, range: 0.001..100.0, slider: 0.01..0.1,
            help: "Smaller shows more and takes longer: half of it takes eight times as many."
          number :draft, "Larger in drafts by", default: 2.0, range: 1.0..8.0,
            help: "What is seen in Draft has voxels so many times larger, and comes so much sooner; prints, " \
              "exports and Full have them as they are."
          number :room, "Room around", unit: "m", default: 0.2, range: 0.0..1000.0, slider: 0.0..2.0,
            help: "How far beyond what it begins with it may reach."
          switch :shown, "Seen as a volume", default: true,
            help: "Off, it is there for others alone: as a surface, as a part of another sculpt, as a mask."
        end
      end

      # Dials that a step's formula gives names of its own to.
      NAMED = %i[named_a named_b named_c named_d named_e named_f].freeze

      Step = Kind.new(:step, "Step", plural: "Steps", chapter: :sculpt,
        help: "One thing after the other, done to the values of a sculpt: what was there before goes " \
          "in, what comes out goes on.") do
        belongs :sculpt
        group "What is done", touches: :sculpt do
          node :sculpt, "To sculpt", of: :sculpt, default: nil, help: "The sculpt whose values it changes."
          # Cards are put in order by hand, so no field shows it.
          whole :order, "Order", default: 0, range: 0..10_000, only: {what: []}, help: "Lower ones come first."
          choice :what, "It", default: "density",
            choices: {
              density: "makes density of the distance", distance: "makes distance of the values",
              grow: "grows or shrinks", open: "loses thin parts", close: "fills narrow gaps", shell: "leaves a shell",
              combine: "joins or cuts with another", texture: "takes a texture to it", number: "takes a number to it",
              sculpt: "takes a sculpt to it", ripples: "lets waves run", formula: "goes by a formula",
              remap: "goes through a curve", limit: "keeps what lies between", erode: "is eaten by noise",
              warp: "is bent by noise", fray: "frays its edges", flow: "drifts along a flow", mirror: "mirrors",
              repeat: "repeats", brush: "is brushed", blur: "blurs", median: "takes specks out", sharpen: "sharpens",
              relax: "relaxes", colour: "colours", resample: "takes other voxels"
            }, help: "One thing after the other, in the order of the cards."
          choice :channel, "Done to", default: "density", choices: {density: "density", heat: "heat", glow: "fuel"},
            only: {
              what: %w[texture number sculpt ripples formula remap limit erode warp fray flow brush blur median sharpen]
            },
            help: "Heat and fuel begin as the density is by then; the look's fire goes by them. Heat is in kelvin " \
              "above the air."
        end
        group "How", touches: :sculpt do
          number :inside, "Whole from", unit: "m", default: 0.1, range: 0.0001..1000.0, slider: 0.005..0.5, keyed: true,
            only: {what: %w[density]}, help: "So deep within, it is whole."
          number :outside, "Begins", unit: "m", default: 0.0, range: -1000.0..1000.0, slider: -0.1..0.5, keyed: true,
            only: {what: %w[density]}, help: "So far outside, it begins; below 0 only within."
          number :whole, "Density", default: 1.0, range: 0.0..1000.0, slider: 0.0..10.0, keyed: true,
            only: {what: %w[density]}, help: "What it is where it is whole."
          number :level, "From values of", default: 0.5, range: -1000.0..1000.0, slider: 0.0..1.0, keyed: true,
            only: {what: %w[distance]}, help: "Where values come to this, the surface lies; of distances it lies at 0."
          number :by, "By", unit: "m", default: 0.05, range: -100.0..100.0, slider: -0.3..0.3, keyed: true,
            only: {what: %w[grow]}, help: "How far its surface moves out; below 0 in."
          number :thin, "Thinner than", unit: "m", default: 0.05, range: 0.0001..100.0, slider: 0.005..0.3, keyed: true,
            only: {what: %w[open close]}, help: "What is thinner goes, or is filled; all else stays where it is."
          number :wall, "Wall", unit: "m", default: 0.05, range: 0.0001..100.0, slider: 0.005..0.3, keyed: true,
            only: {what: %w[shell]}, help: "How thick what is left of it is."
          choice :with, "With", default: "prop", choices: {prop: "a prop", sculpt: "a sculpt"},
            only: {what: %w[combine]}, help: "What the other is."
          node :other, "Prop", of: :prop, default: nil, only: {what: %w[combine], with: %w[prop]},
            help: "The other body."
          node :other_sculpt, "Sculpt", of: :sculpt, default: nil, only: {what: %w[combine], with: %w[sculpt]},
            help: "The other volume, as it is in the end; seen or not."
          node :volume_of, "Sculpt", of: :sculpt, default: nil, only: {what: %w[sculpt]},
            help: "Its values, as they are in the end; seen or not."
          choice :how, "Keeps", default: "cut",
            choices: {cut: "what lies outside the other", union: "both as one", intersect: "what both have"},
            only: {what: %w[combine]}, help: "What is left of the two."
          number :blend, "Rounded by", unit: "m", default: 0.0, range: 0.0..100.0, slider: 0.0..0.5, keyed: true,
            only: {what: %w[combine]}, help: "How softly one goes over into the other."
          node :texture, "Texture", of: :texture, default: nil, only: {what: %w[texture]},
            help: "The pattern; the same can lie on props and in fog."
          choice :sum, "It", default: "multiply",
            choices: {
              add: "is added", subtract: "is taken away", multiply: "multiplies", divide: "divides",
              difference: "the difference counts", greatest: "the greater counts", least: "the lesser counts",
              exclude: "what one alone has counts", mix: "takes its place"
            }, only: {what: %w[texture number sculpt ripples]}, help: "What is done with the values before."
          number :factor, "Times", default: 1.0, range: -1000.0..1000.0, slider: -4.0..4.0, keyed: true,
            only: {what: %w[texture sculpt ripples]}, help: "Its values are multiplied by this first."
          number :offset, "Plus", default: 0.0, range: -1000.0..1000.0, slider: -1.0..1.0, keyed: true,
            only: {what: %w[texture sculpt ripples]}, help: "Then this is added to them."
          number :amount, "Number", default: 1.0, range: -10_000.0..10_000.0, slider: -2.0..4.0, keyed: true,
            only: {what: %w[number erode sharpen]},
            help: "What is taken to it; of eating, how much is gone, from 0 to 1; of sharpening, how strong."
          text :formula, "Formula", default: "value", only: {what: %w[formula]}, named: NAMED,
            help: "A number for each place: x, y, z are metres, u, v, w go from 0 to 1 through the sculpt, value " \
              "is what was there before, density, heat and fuel what the sculpt has by then. Names of your own, " \
              "such as rate or reach, become dials below it."
          NAMED.each.with_index(1) do |name, n|
            number name, "Name #{n} of the formula", default: 1.0, range: -10_000.0..10_000.0, slider: -2.0..4.0,
              keyed: true, only: {what: %w[formula]}, help: "What a name of the formula's own stands for."
          end
          choice :along, "Along", default: "rolls", choices: {rolls: "rolls of noise", run: "the run of the shot"},
            only: {what: %w[flow]},
            help: "What carries it: rolls that flow neither out nor in, or the gas as it flows at this frame."
          number :seconds, "For", unit: "s", default: 0.2, range: -100.0..100.0, slider: 0.0..2.0, keyed: true,
            only: {what: %w[flow], along: %w[run]},
            help: "How long the gas carries it; below 0 back to where it came from."
          number :size, "Size", unit: "m", default: 0.3, range: 0.001..1000.0, slider: 0.05..2.0, keyed: true,
            only: {what: %w[warp fray flow erode]}, help: "Of the largest bends, rolls or bites."
          number :far, "How far", unit: "m", default: 0.08, range: 0.0..100.0, slider: 0.0..0.5, keyed: true,
            only: {what: %w[warp fray flow]}, help: "How far places are led aside."
          whole :octaves, "Fineness", default: 4, range: 1..8, only: {what: %w[fray erode]},
            help: "Each finer noise is half as large and half as strong."
          number :curl, "Curling", default: 0.3, range: 0.0..4.0, slider: 0.0..1.0, keyed: true, only: {what: %w[fray]},
            help: "How far the noise is bent by itself, in sizes."
          number :soft, "Softness", default: 0.15, range: 0.0..10.0, slider: 0.0..1.0, keyed: true,
            only: {what: %w[erode]}, help: "How softly what is left ends."
          number :change, "Changes", unit: "per s", default: 0.0, range: 0.0..100.0, slider: 0.0..4.0,
            only: {what: %w[warp fray flow erode]}, help: "How often it becomes another noise."
          whole :loops, "Loops over", unit: "frames", default: 0, range: 0..100_000, slider: 0..240, zero: "never",
            time: :length, only: {what: %w[warp fray flow erode ripples]},
            help: "After so many frames it is as it was, by the nearest whole number of changes."
          choice :points, "From points", default: "even",
            choices: {
              even: "in even rows", scattered: "scattered", corners: "at a prop's corners",
              particles: "at an emitter's particles"
            }, only: {what: %w[ripples]}, help: "Where the waves run out from."
          node :points_of, "Prop", of: :prop, default: nil, only: {what: %w[ripples], points: %w[corners]},
            help: "Whose corners they are; a prop copied onto points, or one of few faces."
          node :flying, "Emitter", of: :emitter, default: nil, only: {what: %w[ripples], points: %w[particles]},
            help: "Whose particles the waves run out from."
          number :spacing, "Points apart", unit: "m", default: 0.3, range: 0.005..1000.0, slider: 0.05..1.0,
            only: {what: %w[ripples], points: %w[even scattered]}, help: "On average."
          number :loose, "Loosened", default: 0.0, range: 0.0..1.0, keyed: true,
            only: {what: %w[ripples], points: %w[even]},
            help: "Up to 1 apart from their rows by chance, in parts of how far they are apart."
          number :drift, "Points drift", unit: "m", default: 0.0, range: 0.0..100.0, slider: 0.0..0.5, keyed: true,
            only: {what: %w[ripples], points: %w[even scattered]}, help: "How far noise leads them away and back."
          number :drift_rate, "Drift changes", unit: "per s", default: 0.5, range: 0.0..100.0, slider: 0.0..4.0,
            only: {what: %w[ripples], points: %w[even scattered]}, help: "How often they go elsewhere."
          number :waves, "Waves", unit: "per m", default: 4.0, range: 0.0..10_000.0, slider: 0.5..20.0, keyed: true,
            only: {what: %w[ripples]}, help: "How many there are along a metre."
          number :wave_speed, "Wave speed", unit: "m/s", default: 0.3, range: -1000.0..1000.0, slider: -2.0..2.0,
            only: {what: %w[ripples]}, help: "How fast they run out from their points."
          number :reach, "Reach", unit: "m", default: 0.4, range: 0.001..1000.0, slider: 0.05..2.0, keyed: true,
            only: {what: %w[ripples]}, help: "So far from a point there are none any more."
          number :decay, "Dies down", unit: "per m", default: 0.0, range: 0.0..1000.0, slider: 0.0..10.0, keyed: true,
            only: {what: %w[ripples]}, help: "How fast they grow weak on the way."
          switch :together, "All together", default: true, only: {what: %w[ripples]},
            help: "Waves of all points meet; off, at each place only the nearest point's counts."
          ramp :curve, "Curve",
            default: [
              {"at" => 0.0, "value" => 0.0, "pass" => "linear"},
              {"at" => 1.0, "value" => 1.0, "pass" => "linear"}
            ],
            range: 0.0..1.0, values: -10.0..10.0, of: :number, over: :before, only: {what: %w[remap]},
            help: "From what is least on the left to what is most on the right: what they become."
          choice :axis, "Along", default: "x", choices: {x: "x", y: "y", z: "z"}, only: {what: %w[mirror repeat]},
            help: "The axis that it goes by."
          number :at, "From", unit: "m", default: 0.0, range: -10_000.0..10_000.0, slider: -2.0..2.0, keyed: true,
            only: {what: %w[mirror repeat]}, help: "Where the mirror stands, or the first piece begins."
          number :period, "Every", unit: "m", default: 0.5, range: 0.001..10_000.0, slider: 0.05..2.0, keyed: true,
            only: {what: %w[repeat]}, help: "How long the piece is that comes again and again."
          whole :seed, "Other noise", default: 1, range: 0..1_000_000, slider: 1..50,
            only: {what: %w[warp fray flow erode ripples]}, help: "Another number is another noise."
          number :radius, "Radius", unit: "m", default: 0.05, range: 0.0..100.0, slider: 0.0..0.3, keyed: true,
            only: {what: %w[blur sharpen relax]}, help: "Of the bell that values are spread by."
          whole :cells, "Voxels around", default: 1, range: 1..2, only: {what: %w[median]},
            help: "The middle one of all values so near takes a voxel's place: specks go, edges stay."
          number :low, "Least", default: 0.0, range: -10_000.0..10_000.0, slider: 0.0..1.0, keyed: true,
            only: {what: %w[limit remap]}, help: "What is less counts as this: of keeping, it becomes nothing."
          number :high, "Most", default: 1.0, range: -10_000.0..10_000.0, slider: 0.0..2.0, keyed: true,
            only: {what: %w[limit remap]},
            help: "What is more counts as this: of keeping, it becomes 1; both the same cut sharply."
          number :finer, "Voxel size", unit: "m", default: 0.015, range: 0.001..100.0, slider: 0.005..0.1,
            only: {what: %w[resample]},
            help: "From this step on: rough first, finer for what comes last, or the other way round."
          colour :colour, "Colour", default: [0.9, 0.55, 0.3], keyed: true, only: {what: %w[colour]},
            help: "What smoke of it looks like, where the step counts."
          strokes :strokes, "Strokes", default: [], only: {what: %w[brush]},
            help: "Painted in the view: each adds, takes away, smooths or draws together."
          node :follows, "Goes with", of: :prop, default: nil, only: {what: %w[brush]},
            help: "A prop that the strokes were painted on and move with."
          number :strength, "How much of it", default: 1.0, range: 0.0..1.0, keyed: true,
            help: "0 leaves everything as it was before, 1 does the whole step."
        end
        group "Where", touches: :sculpt do
          choice :mask, "Only", default: "none",
            choices: {
              none: "everywhere", prop: "inside a prop", sculpt: "where a sculpt is dense", texture: "by a texture",
              painted: "where it is painted"
            }, help: "Where it counts."
          node :mask_prop, "Prop", of: :prop, default: nil, only: {mask: %w[prop]}, help: "Hidden or not."
          number :mask_soft, "Soft edge", unit: "m", default: 0.05, range: 0.0001..1000.0, slider: 0.005..0.5,
            keyed: true, only: {mask: %w[prop]}, help: "How softly it ends at its surface."
          node :mask_sculpt, "Sculpt", of: :sculpt, default: nil, only: {mask: %w[sculpt]},
            help: "From none where it is empty to all where it is 1."
          node :mask_texture, "Texture", of: :texture, default: nil, only: {mask: %w[texture]},
            help: "From none at 0 to all at 1; one that goes by a front follows it."
          strokes :mask_strokes, "Painted", default: [], only: {mask: %w[painted]},
            help: "Painted in the view: where strokes added, it counts."
          switch :mask_inverted, "The other way round", default: false, only: {mask: %w[prop sculpt texture painted]},
            help: "It counts outside instead."
          switch :upto, "Look up to here", default: false,
            help: "Steps after this one are left out, to see what it comes to."
        end
      end
    end
  end
end
