# frozen_string_literal: true

module Vumbral
  RSpec.describe Gas::Moment do
    def advanced(frames, *edits)
      document =
        small_shot(
          edits: [
            set("chamber", :size, [1.6, 1.6, 1.6]), set("chamber", :follow, false), set("chamber", :lift, 0.0),
            set("chamber", :stir, 0.0), set("chamber", :curl_boost, 0.0), set("source-1", :heats, false),
            set("source-1", :breakup, 0.0), *edits
          ]
        )
      plan = Gas::Plan.new(document, :full)
      stage = Gas::Stage.new(plan, nil)
      state = stage.still
      frames.times { |n| state, @report = stage.advance(state, n + 1) }
      [state, plan]
    end

    def key(node, dial, frame, value)
      {"do" => "key", "node" => node, "dial" => dial.to_s, "frame" => frame, "value" => value, "ease" => "linear"}
    end

    it "gives off an even trail from a fast source, without beads" do
      state, =
        advanced(
          3, set("prop-1", :radius, 0.12), key("prop-1", :position, 0, [-0.7, 0.8, 0.0]),
          key("prop-1", :position, 4, [0.9, 0.8, 0.0]), set("source-1", :carried, 0.0),
          set("chamber", :substeps_most, 12)
        )
      middle = state.size[0] / 2
      trail = (5..14).map { |i| state.smoke[middle, (0.8 / 0.07).floor, i] }
      expect(trail.min).to be > 0.4 * trail.max
    end

    it "takes the prop's speed along, as much as is asked" do
      speeds = [0.0, 100.0].map { |share|
        advanced(2, key("prop-1", :position, 1, [-0.3, 0.8, 0.0]), key("prop-1", :position, 3, [0.1, 0.8, 0.0]),
          set("source-1", :carried, share))[0].u.to_a.max
      }
      expect(speeds).to match([be < 0.5, be > 2.0])
    end

    it "blows out along the normal, along a direction, and roughly" do
      out, =
        advanced(
          1, set("source-1", :along, 3.0), set("source-1", :from, "surface"), set("source-1", :skin, 0.105),
          set("prop-1", :radius, 0.3), set("prop-1", :position, [0.0, 0.8, 0.0]), set("source-1", :push, 5.0)
        )
      middle, row = out.size[2] / 2, (0.8 / 0.07).floor
      expect([out.u[middle, row, middle + 5], out.u[middle, row, middle - 5]]).to match([be > 0.1, be < -0.1])
      jet, = advanced(1, set("source-1", :velocity, [0.0, 6.0, 0.0]))
      expect(jet.v.to_a.max).to be > 1.0
      rough, = advanced(1, set("source-1", :rough, 4.0))
      expect(rough.speed).to be > 0.3
    end

    it "feeds beyond the surface, weaker and weaker, and breaks up in as many octaves as asked" do
      near, far = [0.0, 0.3].map { |fade|
        advanced(1, set("source-1", :fade, fade), set("prop-1", :position, [0.0, 0.8, 0.0]))[0].smoke.to_a
      }
      expect(far.count { |value| value > 1e-3 }).to be > 3 * near.count { |value| value > 1e-3 }
      expect(far.max).to be_within(1e-3).of(near.max)
      rough = [1, 4].map { |octaves|
        advanced(1, set("source-1", :breakup, 1.0), set("source-1", :breakup_octaves, octaves))[0].smoke.bytes
      }
      expect(rough[0] == rough[1]).to be(false)
    end

    it "is pushed by a collider that moves, and shielded by a thin shell" do
      plate = {"do" => "add", "kind" => "prop", "id" => "plate", "name" => "Plate",
               "dials" => {"shape" => "box", "size" => [0.8, 0.15, 0.8], "collider" => true}}
      moved, = advanced(3, plate, key("plate", :position, 1, [0.0, 0.9, 0.0]),
        key("plate", :position, 5, [0.0, 1.2, 0.0]), set("source-1", :smoke, 0.0))
      expect(moved.v.to_a.max).to be_within(0.6).of(0.3 / 4 * 24)
      shell = {
        "do" => "add",
        "kind" => "prop",
        "id" => "shell",
        "name" => "Shell",
        "dials" => {
          "shape" => "sphere", "radius" => 0.55, "position" => [0.0, 0.7, 0.0], "collider" => true, "body" => "shell",
          "shell" => 2.5
        }
      }
      state, = advanced(6, shell, set("prop-1", :position, [0.0, 0.7, 0.0]), set("prop-1", :radius, 0.2),
        set("source-1", :push, 0.0), set("source-1", :heats, true), set("chamber", :lift, 1.0))
      outside = indices(state.size).select { |k, j, i|
        [(i + 0.5) * 0.07 - 0.8, (j + 0.5) * 0.07 - 0.7,
          (k + 0.5) * 0.07 - 0.8].sum { |c|
          c * c
        } > 0.68**2
      }
      expect(Flow::MatterKernels.total(state.smoke)).to be > 1.0
      expect(outside.sum { |index| state.smoke[*index] }).to be < 1e-3
    end

    it "drags along what rubs on it" do
      n = 16
      solid = ->(mark) { field(n, n, n, type: :u8) { |_, j, _| (j < 4) ? mark : 0 } }
      speeds = [1, 255].map do |mark|
        state = Gas::State.still([n, n, n])
        state.u.fill(1.0)
        solver = Gas::Solver.new(size: [n, n, n], voxel: 0.1, open: sides(%i[x0 x1]), solid: solid.call(mark))
        3.times { state, = solver.step(state, seconds: 0.02, gas: calm, feeds: []) }
        state.u[8, 4, 8]
      end
      expect(speeds[1]).to be < 0.5 * speeds[0]
    end

    it "stands still while time does, and goes slower in slow motion" do
      still, = advanced(2, set("chamber", :time_scale, 0.0))
      expect(still.smoke.to_a.sum).to eq(0.0)
      half, = advanced(2, set("chamber", :time_scale, 0.5))
      whole, = advanced(2)
      expect(half.smoke.to_a.sum).to be_within(0.05 * whole.smoke.to_a.sum).of(0.5 * whole.smoke.to_a.sum)
    end

    it "sets a row of charges off one after the other, each elsewhere" do
      row = [
        set("source-1", :copies, 3), set("source-1", :step_frames, 2.0), set("source-1", :step_place, [0.4, 0.0, 0.0]),
        set("source-1", :step_strength, 0.5), set("source-1", :last, 2), set("prop-1", :radius, 0.12),
        set("prop-1", :position, [-0.4, 0.5, 0.0])
      ]
      plan = advanced(1, *row)[1]
      fed = (1..7).map { |frame| plan.at(frame)["sources"].map { |source| [source["copy"], source["strength"]] } }
      expect(fed).to eq([[[0, 1.0]], [[0, 1.0]], [[1, 0.5]], [[1, 0.5]], [[2, 0.25]], [[2, 0.25]], []])
      state, = advanced(6, *row)
      places = [-0.4, 0.0, 0.4].map { |x| state.smoke[state.size[0] / 2, (0.5 / 0.07).floor, ((x + 0.8) / 0.07).floor] }
      expect(places).to all(be > 0.01)
      expect(places[0]).to be > 1.5 * places[2]
    end

    it "feeds as a formula says, and no stronger anywhere else" do
      state, = advanced(2, set("prop-1", :radius, 0.4), set("prop-1", :position, [0.0, 0.8, 0.0]),
        set("source-1", :map, "formula"), set("source-1", :formula, "if(x > 0, 1, 0)"))
      middle, row = state.size[2] / 2, (0.8 / 0.07).floor
      expect([state.smoke[middle, row, middle + 3],
        state.smoke[middle, row, middle - 3]]).to match([be > 0.1, be < 1e-3])
    end

    it "feeds from particles along their way, and from the points of a mesh" do
      emitter = {"do" => "add", "kind" => "emitter", "id" => "sparks", "name" => "Sparks",
                 "dials" => {"position" => [0.0, 0.4, 0.0], "rate" => 200.0, "speed" => 5.0, "spread" => 30.0}}
      state, = advanced(5, emitter, set("source-1", :from, "particles"), set("source-1", :emitter, "sparks"))
      expect(state.smoke.to_a.count { |s| s > 0.02 }).to be > 30
      expect(state.speed).to be > 1.0
      points, = advanced(1, set("prop-1", :shape, "box"), set("prop-1", :size, [0.8, 0.8, 0.8]),
        set("prop-1", :position, [0.0, 0.8, 0.0]), set("source-1", :from, "points"), set("source-1", :point_size, 0.08))
      expect(points.smoke[points.size[0] / 2, (0.8 / 0.07).floor, points.size[2] / 2]).to eq(0.0)
      corner = ((0.8 - 0.4) / 0.07).floor
      expect(points.smoke[corner, ((0.8 - 0.4) / 0.07).floor, corner]).to be > 0.05
    end
  end
end
