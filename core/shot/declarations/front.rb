# frozen_string_literal: true

module Vumbral
  module Shot
    module Declarations
      Front = Kind.new(:front, "Front", plural: "Fronts", chapter: :props,
        help: "Runs over a prop's surface from where it begins: fire over paper, wet over clay. Maps " \
          "take their strength from its age.") do
        group "Where it runs" do
          choice :starts, "Begins", default: "places",
            choices: {
              places: "at picked places", faces: "at picked faces", box: "in a box", sweep: "as a plane that sweeps",
              after: "where another front began"
            }, help: "From places and from a box it goes along the surface; a plane goes straight through space."
          node :prop, "Over prop", default: nil, of: :prop, only: {starts: %w[places faces box sweep]},
            help: "The prop whose surface it crosses."
          places :places, "Places", unit: "m", default: [], range: -10_000.0..10_000.0, only: {starts: %w[places]},
            help: "Where it begins, as seen from the prop. Without one, at its lowest point."
          places :faces, "Faces", unit: "m", default: [], range: -10_000.0..10_000.0, of: :faces,
            only: {starts: %w[faces]},
            help: "Faces of the prop that it begins at, each by its middle as seen from the prop."
          vector :box_position, "Box's middle", unit: "m", default: [0.0, 0.0, 0.0], range: -10_000.0..10_000.0,
            slider: -3.0..3.0, only: {starts: %w[box]}, help: "As seen from the prop."
          vector :box_size, "Box's size", unit: "m", default: [0.3, 0.3, 0.3], range: 0.0001..10_000.0,
            slider: 0.05..3.0, only: {starts: %w[box]}, help: "All points of the prop in it are where the front begins."
          vector :sweep_position, "Plane through", unit: "m", default: [0.0, 0.0, 0.0], range: -10_000.0..10_000.0,
            slider: -3.0..3.0, only: {starts: %w[sweep]}, help: "A place on it as it begins, as seen from the prop."
          vector :sweep_way, "Plane goes", default: [1.0, 0.0, 0.0], range: -1000.0..1000.0, slider: -1.0..1.0,
            only: {starts: %w[sweep]}, help: "The way it goes; what lies behind it is reached at once."
          node :after, "After front", default: nil, of: :front, only: {starts: %w[after]},
            help: "It runs as that one did, later."
          switch :reversed, "Runs backwards", default: false, only: {starts: %w[places faces box sweep]},
            help: "Begins where it would end, and ends where it would begin."
        end
        group "How fast" do
          number :speed, "Speed", unit: "m/s", default: 0.3, range: 0.0..1000.0, slider: 0.0..3.0, keyed: true,
            help: "Along the surface. 0.05 is smouldering paper, 0.3 dry leaves, 2 a flash."
          number :uneven, "Unevenness", default: 0.3, range: 0.0..1.0, only: {starts: %w[places faces box sweep]},
            help: "How much faster and slower it is from place to place. 0 runs in even rings."
          number :uneven_size, "Patches", unit: "m", default: 0.25, range: 0.001..1000.0, slider: 0.02..2.0,
            only: {starts: %w[places faces box sweep]}, help: "Across the largest of its slow and fast patches."
          whole :octaves, "Octaves", default: 3, range: 1..6, only: {starts: %w[places faces box sweep]},
            help: "Each adds patches of half the size."
          whole :seed, "Other patches", default: 1, range: 0..1_000_000, slider: 1..50,
            only: {starts: %w[places faces box sweep]}, help: "Another number puts them elsewhere."
          node :paced_by, "Paced by", default: nil, of: :texture, only: {starts: %w[places faces box sweep]},
            help: "A texture, as it is on the first frame: at full speed where it is 1, twice as fast where it is " \
              "2, and held up where it is 0."
          number :paced, "How much of it", default: 1.0, range: 0.0..10.0, slider: 0.0..1.0,
            only: {starts: %w[places faces box sweep]}, help: "0 leaves the texture out; above 1 its differences grow."
        end
        group "When" do
          whole :first, "From frame", time: :from, default: 1, range: 0..100_000, slider: 1..240,
            only: {starts: %w[places faces box sweep]}, help: "The frame on which it begins."
          whole :delay, "Frames later", time: :length, default: 24, range: 0..100_000, slider: 0..120,
            only: {starts: %w[after]}, help: "How many frames after the other one it begins."
          number :behind, "Metres behind", unit: "m", default: 0.0, range: 0.0..1000.0, slider: 0.0..1.0,
            help: "How far it stays behind where it would be."
          whole :freeze, "Stops at frame", time: :to, default: 0, range: 0..100_000, slider: 0..240, zero: "never",
            help: "From this frame on it stays as it is."
        end
      end
    end
  end
end
