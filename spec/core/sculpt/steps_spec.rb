# frozen_string_literal: true

module Vumbral
  RSpec.describe Sculpt::Carving do
    def add(kind, id, **dials) =
      {"do" => "add", "kind" => kind, "id" => id, "name" => id.capitalize, "dials" => dials.transform_keys(&:to_s)}

    def ball(id, at, radius = 0.5) = add("prop", id, shape: "sphere", radius: radius, divisions: 5, position: at)

    def shot(*steps, more: [], **dials)
      small_shot(
        edits: [
          ball("ball", [0.0, 1.0, 0.0]), *more, add("sculpt", "cloud", prop: "ball", voxel: 0.05, room: 0.3, **dials),
          *steps.each_with_index.map { |step, n| add("step", "step-#{n}", sculpt: "cloud", order: n, **step) }
        ]
      )
    end

    def recipe(*steps, frame: 1, **more) = Geometry::Recipes.of(shot(*steps, **more), frame)[0]

    def channels(...) = described_class.new(recipe(...), nil).channels

    def volume(...) = channels(...)[:density]

    def mass(field) = field.dense.to_a.sum * field.voxel**3

    # What it is at a place.
    def at(field, *place) =
      Sculpt::FieldKernels.linear(
        field.cells,
        *place.zip([field.lattice.x, field.lattice.y, field.lattice.z]).map { |c, o| (c - o) / field.voxel }
      )

    it "keeps bricks only where something happens, and every step gives what it gives on full ones" do
      steps = [
        {what: "density", inside: 0.05}, {what: "texture", texture: "cells"},
        {what: "formula", formula: "value * (0.5 + noise(6 * x, 6 * y, 6 * z))"}, {what: "blur", radius: 0.1},
        {what: "warp", far: 0.08}, {what: "median"}, {what: "fray"}, {what: "flow"},
        {what: "erode", amount: 0.3}, {what: "number", sum: "add", amount: 0.1}, {what: "limit", high: 0.8}
      ]
      made = recipe(*steps, more: [add("texture", "cells", what: "cells", size: 0.3)], room: 1.6)
      carving = described_class.new(made, nil)
      sparse = carving.begun
      expect(sparse.count).to be_between(8, 0.5 * sparse.index.size)
      full = sparse.activated(sparse.everywhere)
      made["steps"].each do |step|
        sparse, full = [sparse, full].map { |field| carving.send(step["what"], field, step) }
        full = full.activated(full.everywhere)
        expect([step["what"], sparse.dense.to_a == full.dense.to_a]).to eq([step["what"], true])
      end
    end

    it "works in a wide room with little in it for what little that costs" do
      field = volume({what: "density"}, {what: "blur", radius: 0.05}, voxel: 0.02, room: 4.0)
      expect(field.index.size).to be > 20_000
      expect(field.bytesize).to be < 0.03 * 4 * field.index.size * 4096
    end

    it "keeps what the first steps came to, so that only those after a change are done anew" do
      Sculpt::Kept.clear
      steps = [{what: "density"}, {what: "blur"}, {what: "number", amount: 2.0}]
      done = []
      allow_any_instance_of(described_class).to receive(:taken).and_wrap_original { |original, *given|
        original.call(*given).tap { done << given[1]["what"] }
      }
      volume(*steps)
      expect(done).to eq(%w[density blur number])
      volume(*steps[0..1], {what: "number", amount: 3.0})
      expect(done.drop(3)).to eq(%w[number])
    end

    it "begins with the skin, the corners, a box or a ball, and another sculpt" do
      skin = volume({what: "density", inside: 0.01, outside: 0.01}, from: "skin", skin: 0.2)
      expect(mass(skin)).to be_within(0.04).of(4.0 / 3 * Math::PI * (0.6**3 - 0.4**3))
      dots =
        volume(
          {what: "density", inside: 0.02}, from: "points", radius: 0.12,
          more: [add("prop", "box", shape: "box", size: [1.0, 1.0, 1.0])], prop: "box", voxel: 0.03
        )
      expect(mass(dots)).to be_within(0.012).of(8 * 4.0 / 3 * Math::PI * 0.11**3)
      box =
        volume(
          {what: "density", inside: 0.005, outside: 0.005}, from: "region", middle: [1.0, 2.0, 3.0],
          extent: [0.6, 0.4, 0.8]
        )
      expect(mass(box)).to be_within(0.01).of(0.6 * 0.4 * 0.8)
      round =
        volume(
          {what: "density", inside: 0.005, outside: 0.005}, from: "region", form: "ball", extent: [1.0, 0.6, 0.8]
        )
      expect(mass(round)).to be_within(0.01).of(Math::PI / 6 * 1.0 * 0.6 * 0.8)
      twice =
        volume(
          {what: "number", amount: 2.0}, from: "sculpt", other: "first",
          more: [add("sculpt", "first", prop: "ball", shown: false), add("step", "soft", sculpt: "first")]
        )
      expect(at(twice, 0.0, 1.0, 0.0)).to be_within(1e-3).of(2.0)
    end

    it "cuts and joins with another sculpt, multiplies by it, and is empty where it would be made of itself" do
      more = [ball("far", [0.5, 1.0, 0.0]), add("sculpt", "hole", prop: "far", voxel: 0.04, shown: false)]
      cut =
        volume(
          {what: "density", inside: 0.05, outside: 0.05}, {what: "combine", with: "sculpt", other_sculpt: "hole"},
          more: more
        )
      expect([at(cut, -0.2, 1.0, 0.0), at(cut, 0.25, 1.0, 0.0)]).to match([be > 0.9, be_within(0.02).of(0.0)])
      both = volume({what: "density"}, {what: "sculpt", volume_of: "hole", sum: "multiply", factor: 3.0}, more: more)
      expect([at(both, -0.3, 1.0, 0.0), at(both, 0.25, 1.0, 0.0)]).to match(
        [be_within(1e-3).of(0.0), be_within(0.05).of(3.0)]
      )
      round =
        Shot::Edits.apply(
          shot({what: "sculpt", volume_of: "hole"}, more: more),
          [add("step", "back", sculpt: "hole", what: "sculpt", volume_of: "cloud")]
        )[
          0
        ]
      expect(Geometry::Recipes.of(round, 1)).to eq([])
      expect(Geometry::Recipes.circle?(round, round.node("hole"))).to be(true)
    end

    it "makes distances anew, of which each metre is one" do
      field =
        described_class.new(
          recipe({what: "density", inside: 0.2}, {what: "distance", level: 0.5}, {what: "grow", by: 0.1}), nil
        ).send(:upto, 2)[
          :density
        ]
      expect(field.as).to eq(:distance)
      # Half of it lies a tenth of a metre within.
      [0.2, 0.4, 0.5].each { |d| expect(at(field, d, 1.0, 0.0)).to be_within(0.01).of(d - 0.4) }
    end

    it "lets waves run out from points, as far as they reach, all together or of the nearest" do
      more = [add("prop", "corner", shape: "box", size: [0.02, 0.02, 0.02], position: [0.0, 1.0, 0.0])]
      step = {
        what: "ripples", points: "corners", points_of: "corner", waves: 5.0, reach: 0.4, decay: 2.0, together: false,
        sum: "mix", wave_speed: 0.0
      }
      field = volume({what: "density"}, step, more: more, voxel: 0.02)
      wave = ->(d) do
        (1.0 - d / 0.4).then do |s|
          (s > 0) ? s * s * (3 - 2 * s) * Math.exp(-2 * d) * Math.cos(2 * Math::PI * 5 * d) : 0.0
        end
      end
      # The nearest of the eight corners is so much nearer.
      [0.1, 0.2, 0.3, 0.45].each do |x|
        expect(at(field, x, 1.0, 0.0)).to be_within(0.06).of(wave.call(Math.sqrt((x - 0.01)**2 + 2e-4)))
      end
      whole = volume({what: "density"}, step.merge(together: true), more: more, voxel: 0.02)
      expect(at(whole, 0.2, 1.0, 0.0)).to be_within(0.4).of(8 * wave.call(0.2))
    end

    it "puts points in even rows, loosens and scatters them, and lets them drift and come back" do
      step = {
        "spacing" => 0.25, "loose" => 0.0, "drift" => 0.0, "seed" => 1, "scattered" => false, "time" => 0.0, "loop" => 0
      }
      places = ->(**dials) do
        Sculpt::Points.within([0.0, 0.0, 0.0], [1.0, 0.5, 0.5], step.merge(dials.transform_keys(&:to_s)))
      end
      expect(places.call.size).to eq(16)
      expect(places.call.map { |x, *| x }.uniq.sort.each_cons(2).map { |a, b| b - a }).to all(be_within(1e-9).of(0.25))
      expect(
        places.call(loose: 0.5).zip(places.call).flat_map { |a, b| a.zip(b).map { |p, q| (p - q).abs } }.max
      ).to be_between(0.01, 0.0626)
      expect(places.call(scattered: true).flatten.minmax).to match([be >= 0, be <= 1.0])
      away = places.call(drift: 0.1, time: 1.3, loop: 4)
      expect(away.zip(places.call).flat_map { |a, b| a.zip(b).map { |p, q| (p - q).abs } }.max).to be_between(
        0.03, 0.1001
      )
      expect(places.call(drift: 0.1, time: 4.0, loop: 4)).to eq(places.call(drift: 0.1, time: 0.0, loop: 4))
      expect(refusal { places.call(spacing: 0.001) }).to match(
        ["too_many", /Waves would run out from 2\d+ points; 50000 is the most/]
      )
    end

    it "goes through a curve, is eaten thin places first, sharpens, and relaxes without losing" do
      curve = [{"at" => 0.0, "value" => 1.0, "pass" => "linear"}, {"at" => 1.0, "value" => 0.0, "pass" => "linear"}]
      expect(at(volume({what: "density"}, {what: "remap", curve: curve}), 0.0, 1.0, 0.0)).to be_within(1e-3).of(0.0)
      eaten =
        [0.0, 0.3, 0.6, 1.0].map do |amount|
          mass(volume({what: "density", inside: 0.4}, {what: "erode", amount: amount, size: 0.2}))
        end
      expect(eaten).to eq(eaten.sort.reverse)
      expect([eaten[3], eaten[1]]).to match([0.0, be < 0.95 * eaten[0]])
      soft = {what: "density", inside: 0.1, outside: 0.1}
      slope = ->(field) { at(field, 0.45, 1.0, 0.0) - at(field, 0.55, 1.0, 0.0) }
      expect(slope.call(volume(soft, {what: "sharpen", radius: 0.2, amount: 1.0}))).to be >
        1.15 * slope.call(volume(soft))
      rough = [{what: "texture", texture: "bumps", sum: "subtract", factor: 0.15}]
      bumps = [add("texture", "bumps", what: "noise", size: 0.2)]
      before, after =
        [rough, [*rough, {what: "relax", radius: 0.15}]].map do |steps|
          Sculpt::Skin.of(described_class.new(recipe(*steps, more: bumps), nil).send(:upto, steps.size)[:density], 0.0)
        end
      expect(after.volume).to be_within(0.02 * before.volume).of(before.volume)
      expect(after.area).to be < 0.98 * before.area
    end

    it "mirrors and repeats" do
      field = volume({what: "density"}, {what: "mirror", axis: "x", at: 0.2}, room: 1.0)
      expect([at(field, -0.3, 1.0, 0.0), at(field, 0.7, 1.0, 0.0), at(field, 0.85, 1.0, 0.0)]).to match(
        [be > 0.9, be > 0.9, be < 0.9]
      )
      again = volume({what: "density"}, {what: "repeat", axis: "y", at: 0.5, period: 1.0}, room: 1.0)
      expect([0.9, 1.9].map { |y| at(again, 0.1, y, 0.0).round(3) }.uniq.size).to eq(1)
    end

    it "does a step as far as its mask lets it: inside a prop, by a texture, where another is dense, or elsewhere" do
      gone = {what: "number", amount: 0.0}
      more = [
        ball("part", [0.4, 1.0, 0.0], 0.3), add("texture", "half", what: "formula", formula: "x < 0", size: 4.0),
        add("sculpt", "shade", prop: "part", shown: false)
      ]
      bored = volume({what: "density"}, {**gone, mask: "prop", mask_prop: "part", mask_soft: 0.02}, more: more)
      expect([at(bored, 0.3, 1.0, 0.0), at(bored, -0.3, 1.0, 0.0)]).to match([be_within(1e-3).of(0.0), be > 0.9])
      kept =
        volume(
          {what: "density"}, {**gone, mask: "prop", mask_prop: "part", mask_soft: 0.02, mask_inverted: true},
          more: more
        )
      expect([at(kept, 0.3, 1.0, 0.0), at(kept, -0.3, 1.0, 0.0)]).to match([be > 0.9, be_within(1e-3).of(0.0)])
      by = volume({what: "density"}, {**gone, mask: "texture", mask_texture: "half"}, more: more)
      expect([at(by, 0.3, 1.0, 0.0), at(by, -0.3, 1.0, 0.0)]).to match([be > 0.9, be_within(0.01).of(0.0)])
      dense = volume({what: "density"}, {**gone, mask: "sculpt", mask_sculpt: "shade"}, more: more)
      expect([at(dense, 0.3, 1.0, 0.0), at(dense, -0.3, 1.0, 0.0)]).to match([be_within(0.01).of(0.0), be > 0.9])
    end

    it "makes heat, fuel and colours beside the density, and a frame of them" do
      found =
        channels(
          {what: "density"}, {what: "number", channel: "heat", amount: 1500.0},
          {what: "colour", colour: [0.8, 0.4, 0.2], mask: "prop", mask_prop: "ball"}, {what: "number", amount: 0.5}
        )
      expect(found.transform_values { |field| at(field, 0.0, 1.0, 0.0).round(2) }).to eq(
        density: 0.5, heat: 1500.0, red: 0.8, green: 0.4, blue: 0.2
      )
      bricks = Sculpt::Frame.of([found]).bricks
      expect(bricks.channels).to eq(%i[smoke heat red green blue])
      expect(bricks.field(:red).to_a.max).to be_within(1e-3).of(0.4)
      white = channels({what: "density"})
      expect(Sculpt::Frame.of([found, white]).bricks.field(:blue).to_a.max).to be_within(0.01).of(1.1)
    end

    it "loops exactly: the frame after the last is the first, byte for byte, and those between are others" do
      steps = [
        {what: "density", inside: 0.3}, {what: "texture", texture: "drifting"},
        {what: "fray", change: 0.7, loops: 12}, {what: "ripples", drift: 0.1, loops: 12, sum: "add"}
      ]
      more = [add("texture", "drifting", what: "noise", size: 0.3, drift: [0.4, 0.1, 0.0], change: 1.1, loops: 12)]
      bytes = [1, 13, 5].map { |frame| volume(*steps, more: more, frame: frame).dense.bytes }
      expect([bytes[0] == bytes[1], bytes[0] == bytes[2]]).to eq([true, false])
      # It steps on as evenly over the seam as elsewhere.
      rows =
        [11, 12, 13, 14].map do |frame|
          Geometry::Textures.row(shot(more: more), shot(more: more).node("drifting"), frame)
        end
      spot = ->(row) { Geometry::TextureKernels.value(Kernel::Buffer.of(:f32, row, 1, 64), 0, 0.31, 0.17, 0.05, 0.0) }
      values = rows.map(&spot)
      expect(values.each_cons(2).map { |a, b| (a - b).abs }.max).to be < 0.3
    end

    it "lets a formula ask for its other channels by their names, and knows them nowhere else" do
      steps = [
        {what: "density", inside: 0.2}, {what: "number", channel: "heat", sum: "multiply", amount: 500.0},
        {what: "number", channel: "glow", sum: "multiply", amount: 0.25}
      ]
      made = channels(*steps, {what: "formula", formula: "value + 0.001 * heat - fuel + 0 * density"})
      # What was whole is 1 + 0.5 - 0.25 now.
      expect([at(made[:density], 0.0, 1.0, 0.0), at(made[:density], 0.0, 1.75, 0.0)]).to match(
        [be_within(1e-3).of(1.25), 0.0]
      )
      expect(
        at(channels(*steps, {what: "formula", channel: "heat", formula: "density * 100"})[:heat], 0.0, 1.0, 0.0)
      ).to be_within(1e-3).of(100.0)
      expect(
        refusal { small_shot(edits: [set("source-1", :map, "formula"), set("source-1", :formula, "heat + 1")]) }[0]
      ).to eq("bad_formula")
    end

    it "takes other voxels from a step on, finer or larger ones, and keeps its shape" do
      plain = volume({what: "density", inside: 0.2})
      fine, rough = [0.03, 0.1].map { |voxel| volume({what: "density", inside: 0.2}, {what: "resample", finer: voxel}) }
      expect([fine, rough].map(&:voxel)).to eq([0.03, 0.1])
      expect([fine, rough].map { |field| mass(field) }).to all(be_within(1).percent_of(mass(plain)))
      bent = volume({what: "resample", finer: 0.025}, {what: "density", inside: 0.2})
      expect([bent.voxel, mass(bent)]).to match(
        [0.025, be_within(1).percent_of(mass(volume({what: "density", inside: 0.2}, voxel: 0.025)))]
      )
      expect(refusal { volume({what: "resample", finer: 0.001}) }[1]).to match(
        /which is beyond what fits; make them larger/
      )
    end

    it "begins with an emitter's particles as they fly, and lets waves run out from them" do
      sparks =
        add(
          "emitter", "sparks", rate: 60.0, life: 2.0, start_size: 0.02, speed: 1.0, direction: [0.0, 1.0, 0.0],
          spread: 20.0, fall: 0.0, position: [0.0, 0.0, 0.0]
        )
      counts, heights = [2, 8].map { |frame|
        made =
          recipe(
            {what: "density", inside: 0.02}, more: [sparks], frame: frame, from: "particles", emitter: "sparks",
            radius: 0.06, voxel: 0.03
          )
        alive = Sculpt::Points.flying(made["thrown"], nil)
        field = described_class.new(made, nil).call
        expect(alive.map { |place| at(field, *place) }).to all(be > 0.9)
        [alive.size, alive.map { |place| place[1] }.max]
      }.transpose
      expect(counts).to match([be_between(2, 6), be_between(15, 21)])
      expect(heights[1]).to be > 3.0 * heights[0]
      waved =
        volume(
          {what: "density", inside: 0.2},
          {what: "ripples", points: "particles", flying: "sparks", sum: "add", reach: 2.0}, more: [sparks], frame: 8
        )
      expect(mass(waved)).not_to be_within(1).percent_of(mass(volume({what: "density", inside: 0.2})))
      expect(
        mass(
          volume(
            {what: "density"}, more: [{**sparks, "dials" => sparks["dials"].merge("rate" => 0.0)}],
            from: "particles", emitter: "sparks"
          )
        )
      ).to eq(0.0)
    end

    it "loses thin parts and fills narrow gaps, and leaves all else where it was" do
      fin = add("prop", "fin", shape: "box", size: [0.1, 0.6, 1.6], position: [0.0, 1.0, 0.0])
      plain = {what: "combine", other: "fin", how: "union"}
      edge = {what: "density", inside: 0.03, outside: 0.03}
      with, opened =
        [[plain, edge], [plain, {what: "open", thin: 0.25}, edge]].map do |steps|
          volume(*steps, more: [fin], voxel: 0.04)
        end
      expect([with, opened].map { |field| at(field, 0.0, 1.0, 0.68) }).to match([be > 0.5, 0.0])
      expect([with, opened].map { |field| at(field, 0.0, 1.0, 0.42) }).to all(be > 0.9)
      slot = {what: "combine", other: "fin", how: "cut"}
      cut, closed =
        [[slot, edge], [slot, {what: "close", thin: 0.25}, edge]].map do |steps|
          volume(*steps, more: [fin], voxel: 0.04)
        end
      expect([cut, closed].map { |field| at(field, 0.0, 1.0, 0.2) }).to match([0.0, be > 0.9])
      expect(mass(volume({what: "open", thin: 3.0}, edge))).to eq(0.0)
    end

    it "tells a prop that goes about only once, turned and moved as exactly as anew, and one that changes each time" do
      key = ->(dial, frame, value) do
        {"do" => "key", "node" => "block", "dial" => dial, "frame" => frame, "value" => value, "ease" => "linear"}
      end
      block = [add("prop", "block", shape: "box", size: [0.5, 0.3, 0.4], position: [0.0, 1.0, 0.0]),
        key["turn", 1, [0.0, 0.0, 0.0]], key["turn", 8, [40.0, 70.0, 0.0]], key["position", 1, [0.0, 1.0, 0.0]],
        key["position", 8, [0.31, 1.1, 0.0]]]
      made = ->(frame, edits = block) do
        Geometry::Recipes.of(
          small_shot(
            edits: [
              *edits, add("sculpt", "cloud", prop: "block", voxel: 0.03, room: 0.2),
              add("step", "soft", sculpt: "cloud", inside: 0.1, outside: 0.05)
            ]
          ),
          frame
        )[
          0
        ]
      end
      count = 0
      allow(Geometry::DistanceField).to receive(:new).and_wrap_original { |make, *given|
        (count += 1) && make.call(*given)
      }
      fields = [1, 4, 8].map { |frame| described_class.new(made[frame], nil).call }
      expect(count).to eq(1)
      anew =
        described_class.new(
          made[8].then { |recipe| recipe.merge("bodies" => recipe["bodies"].map { |body| body.except("goes") }) }, nil
        ).call
      differ = fields[2].dense.to_a.zip(anew.laid(fields[2]).dense.to_a).map { |a, b| (a - b).abs }
      expect([differ.max, differ.sum / differ.count(&:positive?)]).to match([be < 0.2, be < 0.01])
      # Its edges are ten voxels apart here, and as round as one.
      expect(mass(fields[2])).to be_within(1.5).percent_of(mass(anew))
      # What is bent is another body at every frame.
      bent = [
        *block,
        {
          "do" => "add",
          "kind" => "operation",
          "id" => "bend",
          "name" => "Bend",
          "dials" => {
            "prop" => "block", "what" => "twist"
          }
        },
        {"do" => "key", "node" => "bend", "dial" => "angle", "frame" => 1, "value" => 0.0},
        {"do" => "key", "node" => "bend", "dial" => "angle", "frame" => 8, "value" => 90.0}
      ]
      expect(made[4, bent]["bodies"][0]).not_to have_key("goes")
    end

    it "counts what one alone has" do
      half = [{what: "density", inside: 0.05}, {what: "number", amount: 0.5}]
      expect(at(volume(*half, {what: "number", sum: "exclude", amount: 1.0}), 0.0, 1.0, 0.0)).to be_within(1e-4).of(
        0.5 + 1.0 - 2.0 * 0.5
      )
    end

    it "counts the values that a step's curve goes over" do
      carving = described_class.new(recipe({what: "density", inside: 0.5}, {what: "remap"}), nil)
      counts = carving.entering.tally(0.0, 1.0, 10)
      # Of a ball's shells the outer ones are larger; what is alike all around counts nothing.
      expect(counts.sum).to be > 1000
      expect(counts[1]).to be > counts[8]
    end

    it "lets a formula name numbers of its own, which are dials" do
      step = {what: "formula", formula: "value * rate + min(reach, rate) - rate"}
      document =
        Shot::Edits.apply(
          shot({what: "density"}, step),
          [
            {"do" => "set", "node" => "step-1", "dial" => "named_a", "value" => 0.5},
            {"do" => "key", "node" => "step-1", "dial" => "named_b", "frame" => 1, "value" => 0.2, "ease" => "linear"}
          ]
        )[
          0
        ]
      made = Geometry::Recipes.of(document, 1)[0]
      expect(made["steps"][1]["given"]).to eq("rate" => 0.5, "reach" => 0.2)
      expect(at(described_class.new(made, nil).call, 0.0, 1.0, 0.0)).to be_within(1e-4).of(0.5 + 0.2 - 0.5)
      expect(refusal { shot({what: "formula", formula: "aa + bb + cc + dd + ee + ff + gg"}) }).to match(
        ["bad_formula", /uses gg at character 31, but there are only/]
      )
    end

    it "looks up to a step where that is asked for" do
      made = recipe({what: "density"}, {what: "blur", upto: true}, {what: "number", amount: 0.0})
      expect(made["steps"].map { |step| step["what"] }).to eq(%w[density blur])
    end
  end
end
