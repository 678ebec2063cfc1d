# frozen_string_literal: true

module Vumbral
  module Shot
    module Declarations
      # What all that gives off matter from props has in common: where it comes from, how it leaves, where and when it
      # is strong, and how it stands in a row.
      module Giving
        # @param kind [Kind] in the making
        def self.place(kind)
          kind.instance_exec do
            group "Where it comes from" do
              choice :from, "Comes from", default: "inside", choices: {inside: "the inside", surface: "the surface",
                                                                       points: "the points", particles: "particles"},
                help: "Inside fills the whole body; the surface feeds a skin around it, so it also works for open " \
                  "meshes and sheets; the points are the mesh's own corners; particles come from an emitter."
              node :prop, "From prop", default: nil, of: :prop, only: {from: %w[inside surface points]},
                help: "The object that gives off the matter."
              nodes :also, "And from", default: [], of: :prop, only: {from: %w[inside surface points]},
                help: "Further props that give off the same."
              node :emitter, "From emitter", default: nil, of: :emitter, only: {from: %w[particles]},
                help: "The emitter whose particles carry the matter."
              number :skin, "Skin", unit: "m", default: 0.06, range: 0.0001..100.0, slider: 0.01..0.5, keyed: true,
                only: {from: %w[surface]},
                help: "How thick the feeding skin is; at least a voxel is always reached."
              number :point_size, "Point size", unit: "m", default: 0.05, range: 0.0001..100.0, slider: 0.01..0.5,
                keyed: true, only: {from: %w[points particles]},
                help: "Radius that each point or particle feeds; at least a voxel is always reached."
            end
          end
        end

        # @yield further dials of how it leaves
        def self.leave(kind, &more)
          kind.instance_exec do
            group "How it leaves" do
              number :along, "Speed outward", unit: "m/s", default: 0.0, range: -1000.0..1000.0,
                slider: 0.0..20.0, keyed: true, help: "Straight out of the surface; negative sucks in."
              vector :velocity, "Speed of its own", unit: "m/s", default: [0.0, 0.0, 0.0], range: -1000.0..1000.0,
                slider: -10.0..10.0, keyed: true, help: "A direction and speed of its own, for jets."
              number :carried, "Prop's motion", unit: "%", default: 100.0, range: -1000.0..1000.0,
                slider: 0.0..200.0, keyed: true, help: "How much of the prop's own speed the matter takes along."
              instance_exec(&more) if more
              number :rough, "Rough speed", unit: "m/s", default: 0.0, range: 0.0..1000.0, slider: 0.0..10.0,
                keyed: true, help: "Uneven speed on top, in patches of the break-up's size."
              number :breakup, "Break-up noise", default: 0.6, range: 0.0..1.0, keyed: true,
                help: "How unevenly it feeds. 0 gives a smooth column, 1 leaves gaps."
              number :breakup_size, "Break-up size", unit: "m", default: 0.25, range: 0.001..1000.0, slider: 0.02..1.0,
                keyed: true, help: "Size of the uneven patches. About a third of the source looks natural."
              whole :breakup_octaves, "Break-up octaves", default: 2, range: 1..6,
                help: "Each further one is half as large and half as strong."
              number :breakup_speed, "Break-up speed", unit: "per s", default: 3.0, range: 0.0..100.0,
                slider: 0.0..12.0, help: "How often the patches change."
            end
          end
        end

        def self.strength(kind)
          kind.instance_exec do
            group "Where it is strong" do
              number :fade, "Fades outward", unit: "m", default: 0.0, range: 0.0..100.0, slider: 0.0..1.0,
                zero: "at once", keyed: true, only: {from: %w[inside surface]},
                help: "How far from the surface it still feeds, weaker and weaker. 0 ends at the surface."
              choice :map, "Strength from", default: "even",
                choices: {
                  even: "everywhere alike", picture: "a picture by the mesh's texture places",
                  paint: "the mesh's point colours", formula: "a formula"
                },
                help: "Thins what it feeds by place. A picture needs a mesh with texture places, paint one with " \
                  "colours; dark is nothing, white all."
              picture :picture, "Picture", default: nil, only: {map: %w[picture]},
                help: "Its brightness is the strength."
              text :formula, "Formula", default: "1", only: {map: %w[formula]},
                help: "A number for each place and frame, for example smooth(0.2, 0.6, noise(5 * x, 5 * y - t, 5 * " \
                  "z)). Names: frame, t, x, y, z, u, v, w (place in the box), seed."
            end
            group "When" do
              number :strength, "Feeding", unit: "times", default: 1.0, range: 0.0..100.0, slider: 0.0..2.0,
                keyed: true, help: "Multiplies everything it feeds. Set keys here to let it swell and die."
              whole :first, "From frame", time: :from, default: 1, range: 0..100_000, slider: 1..240,
                help: "The first frame on which it feeds."
              whole :last, "To frame", time: :to, default: 0, range: 0..100_000, slider: 0..240, zero: "the end",
                help: "The last frame on which it feeds. 0: as long as the shot lasts."
            end
          end
        end

        # @param copied [Array<Symbol>] what copies may differ by
        def self.row(kind, copied)
          kind.instance_exec do
            group "In a row" do
              whole :copies, "How many", default: 1, range: 1..60, slider: 1..20,
                help: "A row of the same source, each a step on from the one before: charges that go off one after " \
                  "the other."
              number :step_frames, "Frames apart", unit: "frames", time: :length, default: 6.0, range: -1000.0..1000.0,
                slider: 0.0..24.0, help: "How much later each goes off than the one before; keys go along."
              vector :step_place, "Place apart", unit: "m", default: [0.5, 0.0, 0.0], range: -1000.0..1000.0,
                slider: -2.0..2.0,
                help: "How far each stands from the one before."
              number :step_strength, "Strength apart", unit: "times", default: 1.0, range: 0.0..10.0, slider: 0.5..1.5,
                help: "Each is this much stronger than the one before."
              number :step_middle, "Middle against ends", unit: "times", default: 1.0, range: 0.0..10.0,
                slider: 0.5..3.0,
                help: "How much stronger the middle of the row is than its ends; it rises and falls evenly between."
              number :scatter, "Scattered by", unit: "m", default: 0.0, range: 0.0..1000.0, slider: 0.0..0.5,
                help: "How far each may stand off its place at random, the first too."
              number :scatter_frames, "Scattered in time by", unit: "frames", time: :length, default: 0.0,
                range: 0.0..1000.0, slider: 0.0..12.0,
                help: "How many frames each may go off earlier or later at random, the first too."
              number :vary, "Varies by", default: 0.0, range: 0.0..1.0,
                help: "How different their strengths are at random: 0.3 makes each up to a third stronger or weaker."
              variations :varied, "Dials that vary", default: [], of: copied, over: @name,
                help: "Further dials that are up to so much larger or smaller in each copy, at random."
              overrides :overrides, "Copies set by hand", default: [], of: copied + %i[strength step_frames step_place],
                over: :source,
                help: "What one copy has instead; its strength, its place and its frames as counted from the first."
            end
          end
        end
      end
    end
  end
end
