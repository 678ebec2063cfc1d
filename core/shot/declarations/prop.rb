# frozen_string_literal: true

module Vumbral
  module Shot
    module Declarations
      # Of what has no body.
      BODILESS = {shape: %w[mark]}.freeze
      private_constant :BODILESS
      Prop = Kind.new(:prop, "Prop", plural: "Props", chapter: :props,
        help: "An object: it can give off smoke, stand in its way, or just be seen.") do
        group "Shape" do
          choice :shape, "Shape", default: "sphere",
            help: "What it is. A mesh comes from a file that you bring. A mark is a place that others go with, " \
              "face or are sharp at, and a group of what goes with it: hidden, locked or off, they are so too.",
            choices: {
              sphere: "sphere", box: "box", cylinder: "cylinder", cone: "cone", capsule: "capsule", torus: "torus",
              coil: "coil", tube: "tube along a curve", plane: "plane", card: "picture card", backdrop: "backdrop",
              words: "letters", drawing: "drawing from a file", sculpt: "surface of a sculpt",
              liquid: "surface of the liquid", mark: "mark without a body", mesh: "mesh from a file"
            }
          node :surface_of, "Sculpt", of: :sculpt, default: nil, only: {shape: %w[sculpt]},
            help: "Where its values come to the threshold there is a surface; it moves and deforms with the sculpt."
          number :threshold, "Threshold", default: 0.5, range: 0.0001..10_000.0, slider: 0.01..2.0, keyed: true,
            only: {shape: %w[sculpt]}, help: "What is denser than this lies inside."
          number :least_part, "Least part", default: 0.0, range: 0.0..1.0, slider: 0.0..0.2,
            only: {shape: %w[sculpt liquid]},
            help: "Parts with less than this share of the largest one's surface are left out."
          cache :kept, "Kept run", default: nil, only: {shape: %w[liquid]},
            help: "A liquid of this shot or of another that was kept under a name, whatever this shot runs. " \
              "Without one it is the shot's own."
          whole :kept_from, "Begins at", time: :at, default: 1, range: -100_000..100_000, slider: 1..120,
            only: {shape: %w[liquid], kept: :set},
            help: "The frame of the shot on which the kept run's first frame is seen; before it, that stands still."
          number :kept_speed, "Its speed", default: 1.0, range: -100.0..100.0, slider: -2.0..2.0, keyed: true,
            only: {shape: %w[liquid], kept: :set},
            help: "1 as it was made, 0.5 half as fast, 0 held, below 0 backwards; between two frames its surface " \
              "is led along its motion."
          mesh :mesh, "Mesh", default: nil, only: {shape: %w[mesh]}, help: "The file that was brought in."
          choice :unit, "Unit of the file", default: "m", only: {shape: %w[mesh]},
            choices: {m: "metres", cm: "centimetres", mm: "millimetres", inch: "inches", foot: "feet"},
            help: "What 1 stands for in the file."
          choice :up, "Up in the file", default: "y", only: {shape: %w[mesh]}, choices: {y: "y", z: "z"},
            help: "Which of the file's axes points upwards."
          vector :size, "Size", unit: "m", default: [1.0, 1.0, 1.0], range: 0.0001..10_000.0, slider: 0.1..5.0,
            only: {shape: %w[box plane card backdrop]},
            help: "Full lengths along x, y and z before scaling."
          number :radius, "Radius", unit: "m", default: 0.5, range: 0.0001..10_000.0, slider: 0.05..3.0,
            only: {shape: %w[sphere cylinder cone capsule torus coil]},
            help: "From the middle to the outside; of a torus or a coil, to the middle of its tube."
          number :tall, "Height", unit: "m", default: 1.0, range: 0.0001..10_000.0, slider: 0.05..5.0,
            only: {shape: %w[cylinder cone capsule coil]},
            help: "Along its own axis."
          number :tube, "Tube radius", unit: "m", default: 0.15, range: 0.0001..10_000.0, slider: 0.02..1.0,
            only: {shape: %w[torus coil tube]},
            help: "How thick the ring is, or the coil, or the tube."
          number :top_radius, "Radius at its top", unit: "m", default: 0.5, range: 0.0..10_000.0, slider: 0.0..3.0,
            only: {shape: %w[coil]}, help: "Another one makes it narrower or wider on the way up."
          number :turns, "Turns", default: 5.0, range: 0.05..200.0, slider: 0.5..20.0, only: {shape: %w[coil]},
            help: "How often it winds about its axis."
          number :uneven, "Uneven", default: 0.0, range: 0.0..0.95, slider: 0.0..0.5, only: {shape: %w[coil]},
            help: "How much thicker and thinner it gets, as if rolled by hand."
          places :path, "Goes through", unit: "m", default: [[-0.5, 0.0, 0.0], [0.0, 0.3, 0.0], [0.5, 0.0, 0.0]],
            range: -10_000.0..10_000.0, of: :anywhere, only: {shape: %w[tube]},
            help: "Places in its own space, one after the other; click them in the view, on anything or on the ground."
          number :fold, "Fold", unit: "m", default: 0.5, range: 0.0..1000.0, slider: 0.0..3.0,
            only: {shape: %w[backdrop]},
            help: "How round the ground goes over into the wall."
          words :words, "Words", default: "Fair", only: {shape: %w[words]}, help: "What it says."
          choice :font, "Font", default: "bold", choices: {bold: "bold", regular: "regular"}, only: {shape: %w[words]},
            help: "Of the letters."
          number :letter, "Letter height", unit: "m", default: 0.5, range: 0.001..1000.0, slider: 0.05..3.0,
            only: {shape: %w[words]},
            help: "Of a capital."
          number :apart, "Letters apart", default: 0.0, range: -1.0..10.0, slider: -0.2..1.0, only: {shape: %w[words]},
            help: "Further room between them, in parts of their height."
          drawing :drawing, "Drawing", default: nil, only: {shape: %w[drawing]},
            help: "An SVG file whose outlines are raised."
          number :wide, "Drawing's size", unit: "m", default: 1.0, range: 0.001..10_000.0, slider: 0.1..5.0,
            only: {shape: %w[drawing]},
            help: "Along its longer side."
          number :depth, "Depth", unit: "m", default: 0.12, range: 0.0001..1000.0, slider: 0.01..1.0,
            only: {shape: %w[words drawing]},
            help: "How thick it is."
          number :bevel, "Rounded edge", unit: "m", default: 0.0, range: 0.0..100.0, slider: 0.0..0.1,
            only: {shape: %w[words drawing]},
            help: "How far its edges are rounded off."
          whole :bevel_steps, "Edge steps", default: 3, range: 1..24, only: {shape: %w[words drawing]},
            help: "Faces across a rounded edge."
          whole :pieces_deep, "Faces deep", default: 1, range: 1..200, slider: 1..24, only: {shape: %w[words drawing]},
            help: "Faces along its depth."
          whole :divisions, "Divisions", default: 4, range: 0..7, only: {shape: %w[sphere]},
            help: "Each makes four faces of one; 0 has twenty."
          whole :sides, "Sides", default: 48, range: 3..1024, slider: 3..128,
            only: {shape: %w[cylinder cone capsule torus coil]},
            help: "Faces around it; of a coil, for each turn."
          whole :around, "Faces around the tube", default: 24, range: 3..512, slider: 3..64,
            only: {shape: %w[torus coil tube]}, help: "Of a torus, a coil or a tube."
          whole :cells, "Cells", default: 1, range: 1..400, slider: 1..64, only: {shape: %w[box plane backdrop]},
            help: "Faces along each edge, for what shall be bent or moved by noise."
        end
        group "Its own motion" do
          switch :plays, "Moves by its file", default: false, only: {shape: %w[mesh]},
            help: "A file that holds motion plays it; off, it stands still as at its first frame."
          whole :plays_from, "Motion starts at", time: :at, default: 1, range: -100_000..100_000, slider: 1..120,
            only: {shape: %w[mesh], plays: [true]},
            help: "The frame of the shot on which its first frame is seen."
          number :plays_speed, "Motion speed", default: 1.0, range: 0.0..100.0, slider: 0.0..4.0,
            only: {shape: %w[mesh], plays: [true]},
            help: "1 plays it as fast as the file says, 0.5 half as fast."
          choice :plays_after, "After its end", default: "hold",
            choices: {hold: "stays as it is", again: "begins again", back: "goes back and forth"},
            only: {shape: %w[mesh], plays: [true]}, help: "What it does once its last frame has been seen."
        end
        group "Where it stands" do
          node :leader, "Goes with", default: nil, of: :prop,
            help: "A prop that takes it along: its place is then as seen from there. It stays where it stands when " \
              "you choose one."
          vector :position, "Position", unit: "m", default: [0.0, 0.0, 0.0], range: -10_000.0..10_000.0,
            slider: -5.0..5.0, keyed: true, help: "Of its own origin; simple shapes have theirs in the middle."
          switch :rests, "Stands on what is below", default: false, except: {shape: %w[liquid]},
            help: "It stands on whatever is under it at each frame, also where that moves, waves or is made anew. " \
              "Its own height only says on which of several things."
          number :rests_reach, "Finds it up to", unit: "m", default: 1.0, range: 0.0..1000.0, slider: 0.0..5.0,
            only: {rests: [true]},
            help: "So far above it things still count as under it: more over steep ground, less below a roof."
          vector :turn, "Turn", unit: "°", default: [0.0, 0.0, 0.0], range: -3600.0..3600.0, slider: -180.0..180.0,
            keyed: true, help: "About x, then y, then z."
          node :aim, "Faces", default: nil, of: :prop,
            help: "A prop that its front (along z) turns to, wherever that goes; its own turn comes on top."
          switch :to_camera, "Faces the camera", default: false,
            help: "Its front (along z) turns to the shot's camera: cards of dust, far trees."
          vector :scale, "Scale", default: [1.0, 1.0, 1.0], range: 0.0001..10_000.0, slider: 0.1..5.0, keyed: true,
            help: "Factors along its own axes."
        end
        Shake.declare(self, turns: true)
        group "What it does", except: BODILESS do
          switch :collider, "Stands in the way", default: false,
            help: "Gas flows around it, and is pushed when it moves. It should be closed, and at least two voxels " \
              "thick wherever nothing may leak."
          choice :body, "As", default: "solid", choices: {solid: "a solid body", shell: "a thin shell"},
            only: {collider: [true]},
            help: "A shell blocks only around its surface, so it can be open, or hollow with gas inside."
          number :shell, "Shell thickness", unit: "voxels", default: 2.0, range: 1.0..16.0, slider: 1.0..6.0,
            only: {collider: [true], body: %w[shell]},
            help: "2 is the least that lets nothing through."
          number :friction, "Friction", default: 0.0, range: 0.0..1.0, only: {collider: [true]},
            help: "0 lets the gas slip along it, 1 makes it stick."
          number :throws, "Throws spray", unit: "times", default: 1.0, range: 0.0..1000.0, slider: 0.0..4.0,
            keyed: true, zero: "none", only: {collider: [true]},
            help: "How much more spray than elsewhere a liquid throws where it meets this, within three voxels of it."
        end
        Breaks.declare(self)
        group "How it looks", touches: :picture, except: BODILESS do
          switch :shown, "Shown", default: true, keyed: true, except: nil,
            help: "Whether it is seen in the view and in pictures, and with a mark all that goes with it. Hidden " \
              "props still feed and block."
          switch :pictured, "Seen in pictures", default: true,
            help: "Off, it is seen while working only; it still throws shadows."
          choice :shown_as, "In pictures", default: "whole",
            choices: {
              whole: "as it is", catcher: "only the shadows on it", hole: "a hole that hides what is behind it"
            },
            help: "Shadows alone, or a hole, are for laying the picture over another: the ground there, a wall there."
          switch :receives, "Takes shadows", default: true, help: "Off, lamps light it whatever stands before them."
          switch :casts, "Casts shadows", default: true,
            help: "Off, light goes through it: a flame's shape about a lamp, a lamp's own glass."
          switch :own_colours, "Colours of the file", default: true, only: {shape: %w[mesh]},
            help: "Shows the colours that came with the mesh, where it has any; off, it has the one below."
          colour :colour, "Colour", default: [0.34, 0.3, 0.27], range: 0.0..1.0,
            help: "How much light it throws back (linear)."
          colour :second, "Second colour", default: [0.02, 0.018, 0.016], range: 0.0..1.0, keyed: true,
            driven: :mixed_by,
            help: "What it has where its maps are strong: char over paper, wet over clay. Without maps it counts " \
              "for nothing."
          node :mixed_by, "Second colour by", default: nil, of: :texture,
            help: "A texture: where it is strong, the prop has its second colour, besides where its maps say so."
          number :mixed_much, "How much of it", default: 1.0, range: 0.0..10.0, slider: 0.0..1.0, keyed: true,
            help: "0 leaves the texture out."
          number :between, "Glow between", default: 0.0, range: 0.0..10_000.0, slider: 0.0..20.0, keyed: true,
            help: "How bright it glows where it goes over from its colour to the second."
          colour :between_colour, "Colour of the glow", default: [1.0, 0.28, 0.04], range: 0.0..1.0, keyed: true,
            help: "Of the edge (linear)."
          number :uneven, "Unevenness", default: 0.0, range: 0.0..1.0,
            help: "How rough its surface looks: raw ground 0.7, plaster 0.2, glaze 0."
          number :uneven_size, "Patches", unit: "m", default: 0.6, range: 0.001..1000.0, slider: 0.05..5.0,
            help: "Across the largest of its bumps and stains."
          number :stones, "Stones", default: 0.0, range: 0.0..1.0, zero: "none",
            help: "How much of it is strewn with stones and grit: a swept yard 0.1, a field 0.4, gravel 1."
          number :stone_size, "Largest stones", unit: "m", default: 0.08, range: 0.0005..100.0, slider: 0.01..1.0,
            help: "Across. Most are smaller, down to grit."
        end
        group "Its picture", touches: :picture, except: BODILESS do
          picture :picture, "Picture", default: nil,
            help: "Takes the place of its colour, by its texture places; what shines itself shines as its picture does."
          switch :cut, "Its holes are open", default: true,
            help: "Where the picture is clear (alpha), one sees what is behind it."
        end
        group "What it is made of", touches: :picture, except: BODILESS do
          number :opacity, "Opacity", default: 1.0, range: 0.0..1.0, keyed: true,
            help: "Below 1 one sees through it: thin cloth 0.6, a card of dust 0.3. What one sees through casts no " \
              "shadow."
          switch :even_lit, "Lit from all sides alike", default: false,
            help: "As dust is: wherever light comes from, as much of it goes on to the eye."
          number :clear, "Clear", default: 0.0, range: 0.0..1.0, keyed: true,
            help: "How much of the light goes through it, bent: glass and water 1. What is behind is seen in plain " \
              "light, but for what clear things make of the sun's."
          number :bends, "Bends light", default: 1.5, range: 1.0..3.0, keyed: true,
            help: "Index: water 1.33, glass 1.5, gems 2.4. 1 leaves light straight."
          colour :clear_colour, "Colour within", default: [0.8, 0.92, 0.9], range: 0.0..1.0, keyed: true,
            help: "What is left of white light after the way below (linear)."
          number :clear_depth, "After", unit: "m", default: 0.5, range: 0.0001..1000.0, slider: 0.01..3.0, keyed: true,
            help: "So far through it, light has that colour."
          number :shine, "Shine", default: 0.0, range: 0.0..1.0, keyed: true,
            help: "How much light it throws back like glass does: raw clay 0, wax 0.3, glaze or water 0.5, gems 1."
          number :rough, "Roughness", default: 0.5, range: 0.0..1.0, keyed: true, driven: :roughened,
            help: "Of what shines: 0.05 is a mirror, 0.3 glaze, 0.6 old metal."
          node :roughened, "Roughness by", default: nil, of: :texture,
            help: "A texture that its roughness goes over into: worn and polished places."
          number :roughened_much, "How much of it", default: 0.5, range: 0.0..1.0, keyed: true,
            help: "0 leaves the texture out."
          number :metal, "Metal", default: 0.0, range: 0.0..1.0, keyed: true,
            help: "Metal throws all light back in its own colour."
          node :bumps, "Bumps by", default: nil, of: :texture,
            help: "A texture whose values stand out of its surface in the picture."
          number :bump_height, "Their height", unit: "m", default: 0.01, range: -10.0..10.0, slider: -0.05..0.05,
            keyed: true, help: "How far they stand out; below 0 they are hollows."
          number :light, "Shines itself", default: 0.0, range: 0.0..100_000.0, slider: 0.0..20.0, keyed: true,
            help: "Light of its own, which lights nothing else: a hot pot 2, a lamp's glass 10."
          colour :light_colour, "Colour of its light", default: [1.0, 0.6, 0.25], range: 0.0..1.0, keyed: true,
            help: "Of its own light (linear)."
          node :lit_by, "Its light by", default: nil, of: :texture,
            help: "A texture that its own light is multiplied by: embers in ash, windows in a wall."
          number :lit_much, "How much of it", default: 1.0, range: 0.0..1.0, keyed: true,
            help: "0 leaves the texture out."
        end
      end
    end
  end
end
