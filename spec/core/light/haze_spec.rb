# frozen_string_literal: true

module Vumbral
  RSpec.describe Light::Haze do
    def add(kind, id, **dials) = {"do" => "add", "kind" => kind, "id" => id, "dials" => dials.transform_keys(&:to_s)}

    # Black all around, no sun, and whatever is said.
    def shot(*edits)
      small_shot(
        edits: [
          {"do" => "remove", "node" => "sun-1"}, set("sky", :strength, 0.0), set("sky", :fade, 0.0),
          set("ground", :shown, false), set("prop-1", :shown, false), set("picture", :background, [0.0, 0.0, 0.0]),
          set("camera", :position, [0.0, 1.0, 6.0]), set("camera", :target, [0.0, 1.0, 0.0]), *edits
        ]
      )
    end

    def renderer(document) = Picture::Renderer.new(Picture::Renderer.settings(document, 1), nil)

    # @return [Array] image, and a picture before the background
    def image(*edits, width: 48, height: 27)
      made = renderer(shot(*edits))
      found = made.image(nil, width, height)
      [found, made.light(found)]
    end

    def room(**dials) =
      add("prop", "room", shape: "box", size: [2.0, 2.0, 2.0], position: [0.0, 1.0, 0.0], shown: false, **dials)

    it "lets through what its thickness says, in a box, a ball and the whole shot" do
      through = ->(*edits) { 1.0 - image(*edits)[0][13, 24, 3] }
      expect(
        through.call(room, add("fog", "fog", fills: "prop", prop: "room", thickness: 0.7, soft: 0.0))
      ).to be_within(0.003).of(Math.exp(-1.4))
      expect(through.call(add("fog", "fog", thickness: 0.05, reach: 20.0))).to be_within(0.003).of(Math.exp(-1.0))
      ball = add("prop", "room", shape: "sphere", radius: 1.0, divisions: 5, position: [0.0, 1.0, 0.0], shown: false)
      expect(
        through.call(ball, add("fog", "fog", fills: "prop", prop: "room", thickness: 0.7, soft: 0.0))
      ).to be_within(0.01).of(Math.exp(-1.4))
      # Six metres below its level, and over it as its height says.
      low = add("fog", "fog", thickness: 0.2, reach: 10.0, course: "low", level: 0.5, thins: 1.0)
      expect(through.call(low)).to be_within(0.01).of(Math.exp(-0.2 * 10.0 * Math.exp(-0.5)))
    end

    it "shows a point in thin fog as its closed form does, near and far" do
      lamp = add("lamp", "lamp", position: [0.0, 1.2, 0.0], strength: 5.0, colour: [1.0, 1.0, 1.0])
      thin = add("fog", "fog", thickness: 0.002, reach: 12.0, forward: 0.0, colour: [1.0, 1.0, 1.0], around: 0.0)
      found = image(lamp, thin, width: 48, height: 27)[0]
      # The mean of a fog's light over angles: strength × thickness / 4π × the angle under which the ray is seen, over
      # how far it passes.
      [[40, 13], [44, 22], [6, 20]].each do |x, y|
        camera = Picture::Camera.new(Picture::Camera.settings(shot, 1)).view(48, 27)
        way = Picture::EyeKernels.direction(camera, x + 0.5, y + 0.5)
        to = [0.0, 1.2, 0.0].zip([0.0, 1.0, 6.0]).map { |a, b| a - b }
        along = to.zip(way).sum { |a, b| a * b }
        aside = Math.sqrt(to.sum { |c| c * c } - along * along)
        exact = 5.0 * 0.002 / (4 * Math::PI) * (Math.atan((12.0 - along) / aside) + Math.atan(along / aside)) / aside
        expect(found[y, x, 0]).to be_within(0.03 * exact).of(exact)
      end
    end

    it "shows a spot's cone as the closed form of what crosses it, within 3 %" do
      spot =
        add(
          "lamp", "lamp", as: "spot", position: [0.0, 3.0, 0.0], target: [0.0, 0.0, 0.0], cone: 50.0, soft: 0.0,
          strength: 5.0, colour: [1.0, 1.0, 1.0], beam: 0.002, beam_soft: 0.0
        )
      found = image(spot)[0]
      camera = Picture::Camera.new(Picture::Camera.settings(shot, 1)).view(48, 27)
      [[24, 13], [24, 7], [22, 18]].each do |x, y|
        way = Picture::EyeKernels.direction(camera, x + 0.5, y + 0.5)
        # In steps of a millimetre.
        exact = (3000..9000).sum do |n|
          at = 3.times.map { |c| [0.0, 1.0, 6.0][c] + n * 0.001 * way[c] }
          far = Math.sqrt(at[0]**2 + (3.0 - at[1])**2 + at[2]**2)
          ((3.0 - at[1]) / far > Math.cos(25.0 * Math::PI / 180)) ? 0.001 * 5.0 * 0.002 / (4 * Math::PI) / far**2 : 0.0
        end
        expect(found[y, x, 0]).to be_within(0.03 * exact).of(exact)
      end
      expect(found[13, 2, 0]).to eq(0.0)
    end

    it "has no edge under any light from around: white fog in a white room is not seen" do
      [0.01, 0.1, 1.0].each do |light|
        white = [
          set("sky", :hills, 0.0), set("sky", :model, "even"), set("sky", :strength, light),
          set("sky", :colour, [1.0] * 3), set("sky", :below, [1.0] * 3),
          set("picture", :background, [light / Math::PI] * 3)
        ]
        fog = [room, add("fog", "fog", fills: "prop", prop: "room", thickness: 1.5, soft: 0.0, colour: [1.0, 1.0, 1.0])]
        _, seen = image(*white, *fog)
        values = seen.to_a
        expect(values.max - values.min).to be < 0.002 * light / Math::PI + 1e-6
      end
      # Where it is not white, its soft border changes by no more than that from pixel to pixel.
      _, seen =
        image(
          set("sky", :hills, 0.0), set("sky", :strength, 2.0), room,
          add("fog", "fog", fills: "prop", prop: "room", thickness: 0.05, soft: 1.0), width: 320, height: 180
        )
      row = (0...320).map { |x| seen[90, x, 1] }
      expect(row.max).to be > 0.05
      expect(row.each_cons(3).map { |a, b, c| (a - 2 * b + c).abs }.max).to be < 0.002
    end

    it "is shaded by props as rays say, and dims what is behind it" do
      lamp = add("lamp", "lamp", position: [0.0, 3.0, 0.0], strength: 8.0)
      lid = add("prop", "lid", shape: "box", size: [1.0, 0.05, 1.0], position: [0.0, 2.0, 0.0])
      fog = add("fog", "fog", thickness: 0.05, reach: 12.0, around: 0.0)
      made = renderer(shot(lamp, lid, fog))
      ready = made.prepare(nil)
      scene = Picture::PropScene.new(Picture::PropScene.settings(shot(lamp, lid, fog), 1), nil)
      random = Random.new(4)
      places = Array.new(400) { [random.rand(-2.0..2.0), random.rand(0.0..2.9), random.rand(-2.0..2.0)] }
      lamps = Light::Rig.new(Light::Rig.settings(shot(lamp, lid, fog), 1)).lamps
      agree = places.count do |x, y, z|
        dx, dy, dz, far, _ = Light::LampKernels.towards(lamps, 0, x, y, z)
        blocked = Geometry::RayKernels.blocked(scene.corners, scene.boxes, Geometry::Ray.new(x, y, z, dx, dy, dz), far)
        (Light::ShadowKernels.lit(ready.haze, lamps, 0, x, y, z) > 0.5) != blocked
      end
      expect(agree).to be >= 396
      # A white card behind a fog of two optical depths, lit by a lamp on this side of it.
      card = [
        add("prop", "card", shape: "box", size: [6.0, 6.0, 0.1], position: [0.0, 1.0, -4.0], colour: [1.0] * 3),
        add("lamp", "near", position: [0.0, 1.0, -1.0], strength: 10.0, shadows: false)
      ]
      clear, dim =
        [[], [add("fog", "fog", thickness: 0.2, colour: [0.0] * 3, reach: 30.0)]].map do |fogs|
          image(*card, *fogs)[0][13, 24, 0]
        end
      expect(dim / clear).to be_within(0.02).of(Math.exp(-0.2 * 9.95))
    end

    it "lets light through what casts no shadows, and leaves out of the picture what is not to be in it" do
      lamp = add("lamp", "lamp", position: [0.0, 3.0, 0.0], strength: 8.0, colour: [1.0] * 3)
      floor = add("prop", "floor", shape: "plane", size: [8.0, 1.0, 8.0], colour: [1.0] * 3)
      lid = ->(**dials) do
        add("prop", "lid", shape: "box", size: [1.0, 0.05, 1.0], position: [0.0, 2.0, 0.0], colour: [0.0] * 3, **dials)
      end
      below = [set("camera", :position, [0.0, 1.0, 3.0]), set("camera", :target, [0.0, 0.0, 0.0])]
      lit = ->(**dials) { image(lamp, floor, lid.call(**dials), *below)[0][13, 25, 0] }
      open = image(lamp, floor, *below)[0][13, 25, 0]
      expect([lit.call, lit.call(pictured: false)]).to all(be < 0.01 * open)
      expect(lit.call(casts: false)).to be_within(0.01 * open).of(open)
      above = [set("camera", :position, [0.0, 2.0, 4.0]), set("camera", :target, [0.0, 2.0, 0.0])]
      there = ->(**dials) { image(lid.call(**dials), *above)[0].to_a.each_slice(4).sum { |row| row[3] } }
      expect([there.call, there.call(casts: false)]).to all(be > 1.0)
      expect(there.call(pictured: false)).to eq(0.0)
    end

    it "takes its thickness from a texture, in the world and with a prop" do
      bands = add("texture", "bands", what: "stripes", size: 0.5, bend: 0.0, edge: 0.001, band: 0.5)
      fog = add("fog", "fog", fills: "prop", prop: "room", thickness: 3.0, soft: 0.0, texture: "bands")
      alpha = ->(*edits) { image(room, *edits)[0].then { |found| (16..31).map { |x| found[13, x, 3] } } }
      even, striped = alpha.call(fog.merge("dials" => fog["dials"].except("texture"))), alpha.call(bands, fog)
      expect(even.max - even.min).to be < 0.01
      expect(striped.max - striped.min).to be > 0.5
    end
  end
end
