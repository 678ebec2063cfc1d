# frozen_string_literal: true

module Vumbral
  module Shot
    module Declarations
      Operation = Kind.new(:operation, "Operation", plural: "Operations", chapter: :props,
        help: "Changes a prop's shape: made finer, smoother, pierced, joined with another. They " \
          "follow each other in order.") do
        belongs :prop
        group "What is done" do
          node :prop, "To prop", default: nil, of: :prop, help: "The prop whose shape it changes."
          # Cards are put in order by hand, so no field shows it.
          whole :order, "Order", default: 0, range: 0..10_000, only: {what: []}, help: "Lower ones come first."
          choice :what, "It", default: "smooth",
            choices: {
              subdivide: "makes faces finer", nearer: "makes faces finer near the camera", smooth: "smooths",
              pierce: "takes faces away", thicken: "gives it thickness", close: "closes holes",
              remesh: "makes faces even and closed", combine: "joins or cuts with another prop",
              displace: "moves the surface by noise or waves", bend: "bends", twist: "twists",
              cage: "is pulled by corners", lay: "lays out texture places", recentre: "moves the origin",
              copies: "makes many of it"
            }, help: "One thing after the other, in the order of the cards."
        end
        group "How" do
          whole :steps, "Steps", default: 1, range: 1..6, slider: 1..4, keyed: true, only: {what: %w[subdivide]},
            help: "Each makes four faces of one."
          number :near_share, "Edges at most", unit: "of the way", default: 0.06, range: 0.001..10.0, slider: 0.01..0.5,
            only: {what: %w[nearer]},
            help: "How long an edge may be, as a part of how near the camera ever comes to it: 0.06 is some " \
              "hundred pixels, 0.02 some thirty."
          number :near_least, "But need not be below", unit: "m", default: 0.01, range: 0.0001..1000.0,
            slider: 0.005..0.5, only: {what: %w[nearer]},
            help: "Shorter edges are not halved any more, however near the camera is."
          switch :soft, "Rounds it off", default: true, only: {what: %w[subdivide]},
            help: "Off, the shape stays and only its faces become finer."
          whole :rounds, "Rounds", default: 8, range: 1..400, slider: 1..60, keyed: true, only: {what: %w[smooth]},
            help: "How often each point goes towards its neighbours. Its size is kept."
          number :share, "Share of faces", default: 0.25, range: 0.0..1.0, keyed: true, only: {what: %w[pierce]},
            help: "How many are taken away, picked at random."
          whole :seed, "Other pick", default: 1, range: 0..1_000_000, slider: 1..50,
            only: {what: %w[pierce displace copies]},
            help: "Another number picks, moves or places others."
          number :thickness, "Wall", unit: "m", default: 0.02, range: 0.0001..1000.0, slider: 0.002..0.3, keyed: true,
            only: {what: %w[thicken]},
            help: "How thick its wall becomes, half to either side."
          choice :remesh_by, "Faces by", default: "edge", choices: {edge: "their size", count: "how many"},
            only: {what: %w[remesh]}, help: "What is given; the other comes of it."
          whole :faces, "Faces", default: 5000, range: 20..1_000_000, slider: 200..50_000,
            only: {what: %w[remesh], remesh_by: %w[count]}, help: "About how many triangles it has then."
          number :edge, "Face size", unit: "m", default: 0.04, range: 0.0005..1000.0, slider: 0.01..0.3,
            only: {what: %w[remesh combine]}, except: {remesh_by: %w[count]},
            help: "How long the edges of the new faces are. Half of it makes four times as many faces."
          choice :how, "Keeps", default: "cut",
            choices: {cut: "what lies outside the other", union: "both as one", intersect: "what both have"},
            only: {what: %w[combine]}, help: "What is left of the two."
          choice :spread, "Copies stand", default: "surface",
            choices: {
              surface: "on another prop", inside: "anywhere within another prop", corners: "on another prop's corners",
              stroke: "along a way", grid: "in a grid", fitted: "in a grid fitted to another prop",
              box: "anywhere in a box"
            }, only: {what: %w[copies]}, help: "How they are spread."
          node :with, "Other prop", default: nil, of: :prop, only: {what: %w[combine copies]},
            except: {spread: %w[grid box]}, help: "It may be hidden; it stays a prop of its own."
          choice :bumps, "Bumps as", default: "soft",
            choices: {soft: "soft noise", billows: "billows", ridges: "ridges", waves: "waves", texture: "a texture"},
            only: {what: %w[displace]},
            help: "Soft goes in and out, billows are round and swell outwards, ridges are sharp, waves run along a " \
              "way; a texture moves it as it shows on it."
          node :texture, "Texture", default: nil, of: :texture, only: {what: %w[displace], bumps: %w[texture]},
            help: "As it lies in the world or on the prop that it goes with: 0 in, 1 out, more further. The same " \
              "can be seen as its colour or its bumps."
          number :strength, "By", unit: "m", default: 0.05, range: -1000.0..1000.0, slider: -0.3..0.3, keyed: true,
            only: {what: %w[displace]},
            help: "How far along its normals a point moves at most."
          number :size, "Bumps", unit: "m", default: 0.3, range: 0.001..1000.0, slider: 0.02..3.0, keyed: true,
            only: {what: %w[displace], bumps: %w[soft billows ridges waves]},
            help: "Across the largest of them."
          whole :octaves, "Octaves", default: 3, range: 1..8,
            only: {what: %w[displace], bumps: %w[soft billows ridges waves]}, help: "Each adds bumps of half the size."
          number :drift, "Drift", unit: "sizes/s", default: 0.0, range: -100.0..100.0, slider: -4.0..4.0,
            keyed: true, only: {what: %w[displace], bumps: %w[soft billows ridges waves]},
            help: "How fast the bumps change, or how fast waves run. 0: they stand."
          vector :along, "Waves along", default: [1.0, 0.0, 0.0], range: -1000.0..1000.0, slider: -1.0..1.0,
            keyed: true, only: {what: %w[displace], bumps: %w[waves]}, help: "The way they run."
          number :rest, "Level that stays", default: 0.0, range: -1.0..1.0, keyed: true, only: {what: %w[displace]},
            help: "0 moves as much out as in, -1 only out, 1 only in."
          choice :space, "Read in", default: "own",
            choices: {own: "its own space", surface: "its texture places", world: "the world"},
            only: {what: %w[displace], bumps: %w[soft billows ridges waves]},
            help: "Its own: the bumps go along with it. The world: it moves through them."
          choice :axis, "Along", default: "y", choices: {x: "x", y: "y", z: "z"}, only: {what: %w[bend twist]},
            help: "The axis that is bent or twisted."
          number :angle, "Angle", unit: "°", default: 45.0, range: -36_000.0..36_000.0, slider: -180.0..180.0,
            keyed: true, only: {what: %w[bend twist]}, help: "From where it begins to where it ends."
          number :towards, "Towards", unit: "°", default: 0.0, range: -3600.0..3600.0, slider: -180.0..180.0,
            keyed: true, only: {what: %w[bend]}, help: "The side to which it bends, about the axis."
          number :bend_from, "Begins at", default: 0.0, range: -10.0..10.0, slider: 0.0..1.0, keyed: true,
            only: {what: %w[bend twist]}, help: "0 is its lowest end, 1 its highest; what lies below stays as it is."
          number :bend_to, "Ends at", default: 1.0, range: -10.0..10.0, slider: 0.0..1.0, keyed: true,
            only: {what: %w[bend twist]}, help: "What lies above goes along straight."
          [
            "left below, back", "right below, back", "left above, back", "right above, back", "left below, front",
            "right below, front", "left above, front", "right above, front"
          ].each_with_index do |corner, n|
            vector :"corner_#{n}",
              "Corner #{corner}",
              unit: "m",
              default: [0.0, 0.0, 0.0],
              range: -10_000.0..10_000.0,
              slider: -1.0..1.0,
              keyed: true,
              only: {
                what: %w[cage]
              },
              help: "How far this corner of the box around the prop is pulled."
          end
          whole :number, "How many", default: 24, range: 1..20_000, slider: 1..200, keyed: true,
            only: {what: %w[copies], spread: %w[surface inside stroke box]},
            help: "Copies of it."
          places :way, "Along", unit: "m", default: [], range: -10_000.0..10_000.0, of: :anywhere,
            only: {what: %w[copies], spread: %w[stroke]},
            help: "Places in the prop's own space, one after the other: click them in the view, or draw with the " \
              "button held. On the other prop, if one is chosen."
          switch :ahead, "Face along it", default: true, only: {what: %w[copies], spread: %w[stroke]},
            help: "Their front (along z) goes along the way."
          choice :grid_by, "Fitted by", default: "counts", choices: {counts: "how many", step: "how far apart"},
            only: {what: %w[copies], spread: %w[fitted]},
            help: "The grid reaches from end to end of the other prop: with so many along each axis, or with as " \
              "many as have room."
          vector :counts, "Along each axis", default: [3.0, 1.0, 3.0], range: 1.0..2000.0, slider: 1.0..20.0,
            only: {what: %w[copies], spread: %w[grid fitted]}, except: {grid_by: %w[step]},
            help: "Copies along x, y and z."
          vector :step, "Apart", unit: "m", default: [0.5, 0.5, 0.5], range: -1000.0..1000.0, slider: 0.0..3.0,
            only: {what: %w[copies], spread: %w[grid fitted]},
            help: "From one to the next."
          vector :loose, "Loosened", unit: "m", default: [0.0, 0.0, 0.0], range: 0.0..1000.0, slider: 0.0..1.0,
            only: {what: %w[copies], spread: %w[grid fitted]},
            help: "How far each may stand off its place."
          vector :room, "Box", unit: "m", default: [2.0, 1.0, 2.0], range: 0.0..10_000.0, slider: 0.0..5.0,
            only: {what: %w[copies], spread: %w[box]},
            help: "Full lengths along x, y and z."
          switch :upright, "Stand upright", default: true, only: {what: %w[copies], spread: %w[surface corners stroke]},
            help: "Off, they lean as the surface does."
          number :size_vary, "Sizes vary", default: 0.2, range: 0.0..1.0, only: {what: %w[copies]},
            help: "0 makes all alike; 0.5 from half to half as large again."
          number :turn_vary, "Turns vary", unit: "°", default: 180.0, range: 0.0..180.0, only: {what: %w[copies]},
            help: "How far each may be turned about its own upright."
          vector :stray_low, "Drifts from", unit: "m", default: [0.0, 0.0, 0.0], range: -1000.0..1000.0,
            slider: -1.0..1.0, keyed: true, only: {what: %w[copies]},
            help: "How far each strays at least along x, y and z, by noise of its own; below 0 the other way."
          vector :stray_high, "Drifts to", unit: "m", default: [0.0, 0.0, 0.0], range: -1000.0..1000.0,
            slider: -1.0..1.0, keyed: true, only: {what: %w[copies]},
            help: "How far at most. The same as above shifts all alike."
          number :stray_speed, "Drift speed", unit: "per s", default: 0.0, range: 0.0..240.0, slider: 0.0..6.0,
            keyed: true, only: {what: %w[copies]},
            help: "How often each changes its way. 0: they stand where the noise put them."
          choice :lay_as, "Laid out", default: "flat",
            choices: {
              flat: "flat from above", box: "from six sides", cylinder: "around",
              ball: "around, closed above and below", parts: "unwrapped, part by part"
            }, only: {what: %w[lay]}, help: "How a picture comes to lie on it."
          number :lay_size, "Picture width", unit: "m", default: 1.0, range: 0.0001..10_000.0, slider: 0.1..5.0,
            keyed: true, only: {what: %w[lay]}, except: {lay_as: %w[parts]},
            help: "How wide one picture is; around, how much of the way round."
          number :lay_turn, "Picture turn", unit: "°", default: 0.0, range: -3600.0..3600.0, slider: -180.0..180.0,
            keyed: true, only: {what: %w[lay]}, except: {lay_as: %w[parts]}, help: "Turns the picture on the surface."
          number :lay_aside, "Picture to the right", default: 0.0, range: -1000.0..1000.0, slider: -1.0..1.0,
            keyed: true, only: {what: %w[lay]}, except: {lay_as: %w[parts]}, help: "By so many of its widths."
          number :lay_above, "Picture upwards", default: 0.0, range: -1000.0..1000.0, slider: -1.0..1.0, keyed: true,
            only: {what: %w[lay]}, except: {lay_as: %w[parts]}, help: "By so many of its heights."
          number :lay_cone, "Cut where it turns", unit: "°", default: 50.0, range: 5.0..85.0,
            only: {what: %w[lay], lay_as: %w[parts]},
            help: "A part ends where the surface is turned farther than this off the part's middle: less bends the " \
              "picture less, more leaves fewer seams."
          number :lay_gap, "Gap", default: 0.008, range: 0.0..0.2, slider: 0.0..0.05,
            only: {what: %w[lay], lay_as: %w[parts]},
            help: "Between parts, of the picture's width, so that colours do not bleed over."
          choice :pivot, "Origin", default: "middle",
            choices: {middle: "in its middle", under: "in the middle of its underside", place: "at a place"},
            only: {what: %w[recentre]}, help: "About which it is placed and turned."
          vector :pivot_at, "Place", unit: "m", default: [0.0, 0.0, 0.0], range: -10_000.0..10_000.0, slider: -2.0..2.0,
            only: {what: %w[recentre], pivot: %w[place]},
            help: "Of the new origin, as seen from the old one: a hinge, a foot."
        end
      end
    end
  end
end
