# frozen_string_literal: true

module Vumbral
  RSpec.describe Flow::Forces do
    def pushed(n = 12, steps = 1, dt: 0.1, **force)
      state = Gas::State.still([n, n, n])
      force = {
        "what" => "push", "strength" => 2.0, "direction" => [1.0, 0.0, 0.0], "grip" => 2.0, "falloff" => "everywhere",
        "position" => [0.6, 0.6, 0.6], "line_end" => [0.6, 1.0, 0.6], "extent" => [0.5, 0.5, 0.5], "reach" => 0.3,
        "soft" => 0.5, "size" => 0.4, "speed" => 1.0, "octaves" => 2, "mask" => "everywhere"
      }.merge(force.transform_keys(&:to_s))
      solver = Gas::Solver.new(size: [n, n, n], voxel: 0.1, open: sides(true))
      around = Gas::Surroundings.plain(calm).tap { |all| all.forces = [force] }
      steps.times { solver.send(:accelerate, state, dt, around) }
      state
    end

    it "pushes, and draws to a wind's speed" do
      expect(pushed.u[6, 6, 6]).to be_within(1e-5).of(0.2)
      expect(pushed(12, 80, what: "wind", strength: 3.0).u[6, 6, 6]).to be_within(0.01).of(3.0)
      expect(pushed(12, 1, direction: [0.0, 0.0, -5.0]).w[6, 6, 6]).to be_within(1e-5).of(-0.2)
    end

    it "comes as far however a time is divided, and never past where it draws to, by whatever rate" do
      [4.0, 40.0, 400.0].each do |grip|
        one, many =
          [[1, 0.08], [8, 0.01]].map do |steps, dt|
            pushed(12, steps, dt: dt, what: "wind", strength: 3.0, grip: grip).u[6, 6, 6]
          end
        expect([one, many]).to all(be_within(1e-3).of(3.0 * (1.0 - Math.exp(-grip * 0.08))))
      end
    end

    it "pulls to a place, swirls about an axis, slows down" do
      pull = pushed(12, 1, what: "pull")
      expect([pull.u[6, 6, 2], pull.u[6, 6, 10]]).to match([be > 0.1, be < -0.1])
      swirl = pushed(12, 1, what: "swirl", direction: [0.0, 1.0, 0.0])
      expect([swirl.u[10, 6, 6], swirl.u[1, 6, 6]]).to match([be > 0.05, be < -0.05])
      expect(pushed(12, 2, what: "swirl").v[6, 6, 6].abs).to be < 0.1
      expect(pushed(12, 1, what: "drag").u[6, 6, 6]).to eq(0.0)
    end

    it "draws gas along with spray that flies, where it flies" do
      row = ->(place, kind) { [place, [0.0, 3.0, 0.0], kind] }
      rows = [
        row[[0.65, 0.65, 0.65], 1], row[[0.65, 0.65, 0.65], 1], row[[0.25, 0.25, 0.25], 2], row[[5.0, 0.0, 0.0], 1]
      ]
      buffer = ->(type, values, *shape) { Kernel::Buffer.of(type, values.flatten, *shape) }
      drops =
        Liquid::Kept.new(
          places: buffer[:f32, rows.map(&:first), 4, 3], speeds: buffer[:f32, rows.map { |one| one[1] }, 4, 3],
          kinds: buffer[:u8, rows.map(&:last), 4]
        )
      along = pushed(12, 1, what: "spray", strength: 2.0, spray: "key", drops: drops)
      # As far in one step of 0.1 s as in many small ones; a face lies half in a cell with nothing.
      expect([along.v[6, 6, 6], along.v[6, 7, 6]]).to all(be_within(1e-4).of(0.5 * 3.0 * (1.0 - Math.exp(-2.0 * 0.1))))
      expect([along.v[2, 2, 2], along.v[6, 9, 6], along.u[6, 6, 6]]).to eq([0.0] * 3)
      expect(pushed(12, 80, what: "spray", strength: 2.0, spray: "key", drops: drops).v[6, 6, 6]).to be_within(0.01).of(
        3.0
      )
      expect(pushed(12, 1, what: "spray", strength: 2.0).v.to_a.uniq).to eq([0.0])
    end

    it "acts in its shape only, softly" do
      sphere = pushed(12, 1, falloff: "sphere")
      expect([sphere.u[6, 6, 6], sphere.u[1, 1, 1],
        sphere.u[6, 6, 8]]).to match([be_within(0.01).of(0.2), 0.0, be_between(0.0, 0.19)])
      box = pushed(12, 1, falloff: "box", soft: 0.01)
      expect([box.u[6, 6, 6], box.u[6, 6, 10]]).to match([be_within(1e-3).of(0.2), 0.0])
      line = pushed(12, 1, falloff: "line")
      expect([line.u[6, 8, 6], line.u[6, 1, 6]]).to match([be > 0.15, 0.0])
    end

    it "is as strong as a texture says: none at 0, all at 1" do
      texture = {
        "do" => "add",
        "kind" => "texture",
        "id" => "half",
        "name" => "Half",
        "dials" => {
          "what" => "formula", "formula" => "(x > 0) / 2", "size" => 4.0, "offset" => [0.6, 0.6, 0.6]
        }
      }
      row = Geometry::Textures.row(small_shot(edits: [texture]), small_shot(edits: [texture]).node("half"), 1)
      found = pushed(pattern: Maps::Patterns.buffer([row], nil))
      expect([found.u[6, 6, 2], found.u[6, 6, 10]]).to match([be_within(1e-4).of(0.0), be_within(1e-3).of(0.1)])
    end

    it "acts where a sculpt is dense, by a texture that reads it, and its run's frames have other keys for that" do
      add = ->(kind, id, **dials) do
        {"do" => "add", "kind" => kind, "id" => id, "name" => id, "dials" => dials.transform_keys(&:to_s)}
      end
      shot = ->(*more) do
        small_shot(
          edits: [
            add["prop", "ball", radius: 0.25, position: [0.0, 0.9, 0.0], shown: false],
            add["sculpt", "cloud", prop: "ball", voxel: 0.05, shown: false],
            add["step", "soft", sculpt: "cloud", inside: 0.05],
            add["texture", "where", what: "sculpt", sculpt: "cloud"],
            add["force", "wipe", what: "wipe", strength: 50.0, texture: "where"], *more
          ]
        )
      end
      with_workshop do |workshop|
        plan = Gas::Plan.new(shot.call, :full)
        stage = Gas::Stage.new(plan, workshop.assets)
        state = stage.still.tap { |still| still.smoke.fill(1.0) }
        state, = stage.advance(state, 2)
        at = ->(y) do
          state.smoke[state.size[0] / 2, ((y - plan.corner[1]) / plan.voxel - state.origin[1]).floor, state.size[2] / 2]
        end
        expect([at[0.9], at[0.5]]).to match([be < 0.4, be > 0.8])
        expect(plan.keys).not_to eq(Gas::Plan.new(shot.call(set("soft", :inside, 0.2)), :full).keys)
      end
    end

    it "differs from place to place where it is uneven" do
      even, uneven = [0.0, 1.0].map { |amount| pushed(uneven: amount, uneven_size: 0.4).u.to_a.reject(&:zero?) }
      expect(even.max).to be_within(1e-4).of(even.min)
      expect(uneven.max).to be > 2.0 * uneven.sum / uneven.size.to_f - uneven.min
    end

    it "stirs, clings and wipes" do
      expect(pushed(12, 1, what: "turbulence", falloff: "sphere", strength: 20.0).then { |s|
        [s.speed, s.u[0, 0, 0]]
      }).to match([be > 0.05, 0.0])
      state = Gas::State.still([12, 12, 12])
      state.smoke.fill(1.0)
      described_class.new([12, 12, 12], 0.1).wipe(
        state,
        {
          "what" => "wipe", "strength" => 50.0, "falloff" => "sphere", "position" => [0.6, 0.6, 0.6],
          "line_end" => [0, 0, 0], "extent" => [1, 1, 1], "reach" => 0.4, "soft" => 0.3
        },
        [0.0, 0.0, 0.0],
        0.2
      )
      expect([state.smoke[6, 6, 6], state.smoke[0, 0, 0]]).to match([be < 0.01, 1.0])
      distance = field(12, 12, 12) { |_, j, _| 0.1 * (j - 4) }
      push = Grid::VectorField.still([12, 12, 12])
      Flow::ForceKernels.cling(push, distance, field(12, 12, 12) { 1.0 }, 5.0, 0.6)
      expect([push[1][6, 7, 6], push[1][6, 2, 6]]).to match([be < -0.5, be > 0.5])
    end
  end
end
