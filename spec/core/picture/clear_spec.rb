# frozen_string_literal: true

module Vumbral
  RSpec.describe Picture::ClearKernels do
    def add(kind, id, **dials) =
      {"do" => "add", "kind" => kind, "id" => id, "name" => id.capitalize, "dials" => dials.transform_keys(&:to_s)}

    # A picture seen from +z, under no sky.
    def picture(medium, *edits)
      document = Shot::Edits.apply(
        Shot::Document.blank("Clear"),
        [set("camera", :position, [0.0, 0.0, 12.0]), set("camera", :target, [0.0, 0.0, 0.0]),
          set("camera", :focal, 90.0), set("sky", :strength, 0.0), set("look", :colour, [1.0, 1.0, 1.0]),
          set("look", :forward, 0.0), set("look", :thickness, 20.0), *edits]
      )[0]
      Picture::Renderer.new(Picture::Renderer.settings(document, 1), nil).image(medium, 32, 18)
    end

    # A ball of smoke, half a metre wide, in the middle.
    def puff
      cells = field(16, 16, 16) { |k, j, i| ((k - 7.5)**2 + (j - 7.5)**2 + (i - 7.5)**2 < 25.0) ? 1.0 : 0.0 }
      Light::Medium.new(cells, 0.05, [-0.4] * 3)
    end

    def sun(**dials) =
      add("sun", "sun", colour: [1.0, 1.0, 1.0], strength: Math::PI, height: 0.0, around: 0.0, **dials)

    def pane(**dials) =
      add("prop", "pane", shape: "box", size: [3.0, 3.0, 0.1], position: [0.0, 0.0, 2.0], clear: 1.0, bends: 1.0,
        shine: 0.0, casts: false, **dials)

    def middle(image) = image[9, 16, 1]

    it "shows smoke that stands behind glass, and what stands before it as well" do
      bare = middle(picture(puff, sun))
      expect(bare).to be > 0.05
      expect(middle(picture(puff, sun, pane))).to be_within(0.02 * bare).of(bare)
      expect(middle(picture(puff, sun, pane(position: [0.0, 0.0, -2.0])))).to be_within(0.02 * bare).of(bare)
      # Glass has ends: nothing is behind what is not clear.
      wall = add("prop", "wall", shape: "box", size: [3.0, 3.0, 0.1], position: [0.0, 0.0, 1.0], colour: [0.0] * 3)
      expect(middle(picture(puff, sun, pane, wall))).to be < 0.01 * bare
    end

    it "shows smoke as far within as it lets most of its light through" do
      within = ->(deep) do
        middle(picture(puff, sun, pane(size: [3.0, 3.0, 3.0], position: [0.0, 0.0, 0.0], clear_colour: [0.1, 0.1, 0.1],
          clear_depth: deep)))
      end
      # The puff begins 1.25 m within: all but a tenth is taken in four times that, or long before.
      expect(within.call(5.0)).to be > 0.05
      expect(within.call(0.5)).to be < 0.01
    end

    # How bright the floor is where a lid hides the sun, and beside it, seen straight and by way of something else.
    def floors(*edits, of: 9)
      image = picture(
        nil, set("camera", :position, [0.0, 6.0, 8.0]), set("camera", :target, [0.0, 0.0, 0.0]), sun(height: 90.0),
        add("prop", "floor", shape: "box", size: [8.0, 0.1, 8.0], position: [0.0, -0.05, 0.0]),
        add("prop", "lid", shape: "box", size: [1.0, 0.02, 1.0], position: [0.0, 4.0, 0.0]), *edits
      )
      [image[of, 16, 1], image[of, 6, 1]]
    end

    it "sees the floor of a pool shaded as it is without water" do
      dry = floors
      expect(dry[0]).to be < 0.05 * dry[1]
      wet = floors(
        add("prop", "pool", shape: "box", size: [6.0, 0.4, 6.0], position: [0.0, 0.21, 0.0], clear: 1.0, bends: 1.05, clear_colour: [1.0] * 3,
          shine: 0.0, casts: false)
      )
      expect(wet[0]).to be < 0.1 * wet[1]
      expect(wet[1]).to be_within(0.1 * dry[1]).of(dry[1])
    end

    it "sees shadows in a mirror" do
      mirror = ->(*edits) do
        middle(
          picture(
            nil, sun(height: 90.0),
            add("prop", "mirror", shape: "card", size: [2.0, 2.0, 0.01], position: [0.0, 0.0, 0.0], metal: 1.0,
              rough: 0.0, turn: [20.0, 0.0, 0.0], colour: [1.0, 1.0, 1.0]),
            add("prop", "floor", shape: "box", size: [20.0, 0.1, 20.0], position: [0.0, -2.05, 0.0]), *edits
          )
        )
      end
      # Light at the place that is mirrored comes from above.
      lid = add("prop", "lid", shape: "box", size: [6.0, 0.1, 4.0], position: [0.0, 3.0, 3.0])
      expect(mirror.call).to be > 0.05
      expect(mirror.call(lid)).to be < 0.1 * mirror.call
    end
  end
end
