# frozen_string_literal: true

module Vumbral
  # What one sees through, pictures on props, and clear things.
  RSpec.describe Picture::PaneKernels do
    # A picture of two columns: red whole, green half clear.
    let(:shelf) do
      Class.new do
        def coloured(_digest) =
          Kernel::Buffer.of(:f32, [[1.0, 0.0, 0.0, 1.0], [0.0, 1.0, 0.0, 0.5]].flatten * 2, 2, 2, 4)
      end.new
    end

    def prop(id, **dials) =
      {"do" => "add", "kind" => "prop", "id" => id, "name" => id, "dials" => dials.transform_keys(&:to_s)}

    # Looks along -z at what stands before a sky of light 1, by nothing else.
    def shot(*props)
      edits = [
        {"do" => "remove", "node" => "prop-1"}, {"do" => "remove", "node" => "source-1"},
        set("ground", :shown, false), set("camera", :position, [0.0, 1.0, 4.0]),
        set("camera", :target, [0.0, 1.0, 0.0]), set("sky", :model, "even"), set("sky", :strength, Math::PI),
        set("sky", :colour, [1.0] * 3), set("sky", :below, [1.0] * 3), set("sky", :fade, 0.0),
        set("picture", :background, [0.0] * 3), *props
      ]
      document = small_shot(edits: edits)
      Shot::Edits.apply(document, document.of(:sun).map { |sun| set(sun.id, :strength, 0.0) })[0]
    end

    def middle(document, width: 33, height: 33)
      image = Picture::Renderer.new(Picture::Renderer.settings(document, 1), shelf).image(nil, width, height)
      4.times.map { |c| image[height / 2, width / 2, c] }
    end

    def card(id = "card", z: 0.0, **dials) =
      prop(id, shape: "card", size: [2.0, 2.0, 1.0], position: [0.0, 1.0, z], even_lit: true, **dials)

    it "shines itself as a texture says, and as much of it as is asked for" do
      half = {
        "do" => "add",
        "kind" => "texture",
        "id" => "half",
        "name" => "Half",
        "dials" => {
          "what" => "formula", "formula" => "0.25", "size" => 10.0
        }
      }
      shining = {light: 2.0, light_colour: [1.0, 0.5, 0.0], colour: [0.0] * 3}
      expect(middle(shot(half, card(**shining)))[0]).to be_within(1e-3).of(2.0)
      expect(middle(shot(half, card(**shining, lit_by: "half")))[0, 2]).to match(
        [be_within(1e-3).of(0.5), be_within(1e-3).of(0.25)]
      )
      expect(middle(shot(half, card(**shining, lit_by: "half", lit_much: 0.5)))[0]).to be_within(1e-3).of(2.0 * 0.625)
    end

    it "covers as much as its opacity says, of what is behind it and over nothing" do
      behind = prop("wall", shape: "card", size: [8.0, 8.0, 1.0], position: [0.0, 1.0, -1.0], colour: [1.0, 1.0, 1.0])
      expect(middle(shot(behind))).to match([be_within(0.01).of(1.0)] * 4)
      expect(middle(shot(card(opacity: 0.25, colour: [0.0, 0.0, 0.0])))[3]).to be_within(1e-4).of(0.25)
      expect(middle(shot(behind, card(opacity: 0.25, colour: [0.0, 0.0, 0.0])))).to match(
        [be_within(0.01).of(0.75)] * 3 + [be_within(1e-4).of(1.0)]
      )
      several = [0.2, 0.4, 0.6].map { |z| card("card-#{(10 * z).to_i}", z: z, opacity: 0.5, colour: [0.0, 0.0, 0.0]) }
      expect(middle(shot(behind, *several))[0]).to be_within(0.01).of(0.125)
    end

    it "shows its picture by its places, open where that is clear; what shines itself shines as the picture" do
      left, right = [-0.5, 0.5].map { |x| middle(shot(card(picture: "two columns", position: [x, 1.0, 0.0]))) }
      # The card to the right shows its left column in the middle.
      expect(right).to match(
        [be_within(0.04).of(1.0), be_within(0.04).of(0.0), be_within(0.02).of(0.0), be_within(0.02).of(1.0)]
      )
      expect(left).to match(
        [be_within(0.04).of(0.0), be_within(0.04).of(0.5), be_within(0.02).of(0.0), be_within(0.02).of(0.5)]
      )
      expect(middle(shot(card(picture: "two columns", position: [-0.5, 1.0, 0.0], cut: false)))[3]).to eq(1.0)
      lit =
        middle(shot(card(picture: "two columns", position: [0.5, 1.0, 0.0], light: 3.0, light_colour: [1.0, 1.0, 1.0])))
      expect(lit[0, 2]).to match([be_within(0.15).of(4.0), be_within(0.15).of(0.0)])
    end

    it "shows what is behind something clear, or in a mirror, with its picture, its second colour and its light by a " \
      "texture" do
      half = {
        "do" => "add",
        "kind" => "texture",
        "id" => "half",
        "name" => "Half",
        "dials" => {
          "what" => "formula", "formula" => "0.25", "size" => 10.0
        }
      }
      looks = [
        {light: 2.0, light_colour: [1.0, 0.5, 0.0], colour: [0.0] * 3, lit_by: "half"},
        {colour: [0.9, 0.1, 0.1], second: [0.1, 0.1, 0.9], mixed_by: "half"},
        {picture: "two columns", position: [0.5, 1.0, 0.0], cut: false}
      ]
      glass =
        prop(
          "glass", shape: "box", size: [1.5, 1.5, 0.2], position: [0.0, 1.0, 1.0], clear: 1.0, bends: 1.0,
          clear_colour: [1.0] * 3
        )
      mirror =
        prop(
          "mirror", shape: "card", size: [8.0, 8.0, 1.0], position: [0.0, 1.0, 5.0], metal: 1.0, rough: 0.0,
          colour: [1.0] * 3
        )
      looks.each do |look|
        plain = middle(shot(half, card(**look)))
        expect(middle(shot(half, card(**look), glass)).zip(plain)).to all(
          satisfy { |seen, own| (seen - own).abs < 0.05 }
        )
        # Over the shoulder, in a mirror behind the camera's place.
        seen = middle(shot(half, card(**look), mirror, set("camera", :target, [0.0, 1.0, 9.0])))
        expect(seen.zip(plain)).to all(satisfy { |there, own| (there - own).abs < 0.05 })
      end
    end

    it "lets fog before it and behind it be where they are" do
      fog = {"do" => "add", "kind" => "fog", "id" => "fog", "dials" => {"thickness" => 0.5}}
      bare, covered = [[fog], [fog, card(opacity: 0.5, colour: [0.0, 0.0, 0.0])]].map { |nodes| middle(shot(*nodes)) }
      # Half of what fog behind the card sends is gone, of what is before it nothing.
      expect(covered[0]).to be_between(0.5 * bare[0], 0.999 * bare[0])
    end

    it "turns to the camera, and stays upright to it as that moves" do
      document = shot(card(to_camera: true), set("camera", :position, [3.0, 1.0, 3.0]))
      pose = Geometry::Hanging.pose(document, document.node("card"), 1)
      expect(pose.turn[1] % 360).to be_within(0.01).of(45.0)
    end

    describe "for laying a picture over another" do
      # A level ground under a lamp, and a card of wood between them, seen from aside.
      def lit(**ground)
        lamp = {
          "do" => "add",
          "kind" => "lamp",
          "id" => "lamp",
          "dials" => {
            "position" => [0.0, 3.0, 0.0], "strength" => 20.0
          }
        }
        shot(
          prop(
            "floor", shape: "plane", size: [8.0, 1.0, 8.0], position: [0.0, 0.0, 0.0], colour: [0.5, 0.5, 0.5], **ground
          ),
          prop("lid", shape: "box", size: [1.0, 0.1, 1.0], position: [0.0, 1.2, 0.0]),
          lamp,
          set("sky", :strength, 0.2),
          set("camera", :position, [0.0, 1.0, 4.0]),
          set("camera", :target, [0.0, 0.0, 0.0])
        )
      end

      it "keeps only the shadow of a catcher: dark where it falls, nothing elsewhere" do
        image = Picture::Renderer.new(Picture::Renderer.settings(lit(shown_as: "catcher"), 1), shelf).image(nil, 65, 65)
        expect(4.times.map { |c| image[32, 32, c] }).to match([0.0, 0.0, 0.0, be > 0.8])
        expect(image[60, 5, 3]).to be < 0.02
      end

      it "hides what is behind a hole and leaves nothing of it, and lights what takes no shadows" do
        image = Picture::Renderer.new(Picture::Renderer.settings(lit(shown_as: "hole"), 1), shelf).image(nil, 65, 65)
        expect(4.times.map { |c| image[32, 32, c] }).to eq([0.0] * 4)
        dark, bright = [true, false].map { |receives| middle(lit(receives: receives), width: 65, height: 65)[1] }
        expect(bright).to be > 5.0 * dark
      end
    end

    describe Picture::ClearKernels do
      it "bends light as its index says, and leaves it straight at 1" do
        way = ->(ratio) do
          described_class.bent(
            Geometry::Ray.new(0.0, 0.0, 0.0, Math.sin(0.7), -Math.cos(0.7), 0.0), 0.0, 1.0, 0.0, ratio
          )
        end
        expect(Math.asin(way.call(1.0 / 1.5)[0])).to be_within(1e-4).of(Math.asin(Math.sin(0.7) / 1.5))
        expect(way.call(1.0)[0]).to be_within(1e-6).of(Math.sin(0.7))
        expect(way.call(1.6)).to eq([0.0, 0.0, 0.0])
      end

      it "shows what is behind, less what its depth takes: a ball of a metre" do
        wall = prop("wall", shape: "card", size: [80.0, 80.0, 1.0], position: [0.0, 1.0, -3.0], colour: [1.0, 1.0, 1.0])
        ball =
          prop(
            "ball", shape: "sphere", divisions: 6, radius: 0.5, position: [0.0, 1.0, 0.0], clear: 1.0, bends: 1.0,
            clear_depth: 1.0, clear_colour: [0.5, 0.25, 1.0], rough: 0.02
          )
        light = middle(shot(wall, ball))
        expect(light).to match(
          [be_within(0.02).of(0.5), be_within(0.02).of(0.25), be_within(0.02).of(1.0), be_within(1e-3).of(1.0)]
        )
      end

      it "takes as much of what stands in it as there is before that, and nothing behind a sheet" do
        card = ->(z) do
          prop(
            "card#{(10 * z).abs.to_i}", shape: "card", size: [4.0, 4.0, 1.0], position: [0.0, 1.0, z],
            colour: [1.0, 1.0, 1.0]
          )
        end
        dials = {clear: 1.0, bends: 1.0, clear_depth: 1.0, clear_colour: [0.5, 0.25, 1.0], rough: 0.02}
        block = prop("block", shape: "box", size: [6.0, 6.0, 2.0], position: [0.0, 1.0, 0.0], **dials)
        expect(middle(shot(block, card[0.5]))[0, 2]).to match(
          [be_within(0.02).of(0.5**0.5), be_within(0.02).of(0.25**0.5)]
        )
        expect(middle(shot(block, card[-0.5], card[-0.8]))[0, 2]).to match(
          [be_within(0.02).of(0.5**1.5), be_within(0.02).of(0.25**1.5)]
        )
        sheet = prop("sheet", shape: "card", size: [6.0, 6.0, 1.0], position: [0.0, 1.0, 1.0], **dials)
        expect(middle(shot(sheet, card[-0.5]))[0, 2]).to all(be_within(0.02).of(1.0))
      end

      it "takes light by the colours of a liquid that has some, in place of the colour within" do
        ball =
          Geometry::Builders.sphere(0.5, divisions: 6).transformed(Geometry::Transform.place(position: [0.0, 1.0, 0.0]))
        # The near half of one colour and the far half of another: as far through each.
        dyes =
          Kernel::Buffer.of(
            :f32, ball.points.to_a.each_slice(3).flat_map { |_, _, z| (z > 0.0) ? [0.5, 0.25, 1.0] : [0.25, 1.0, 1.0] },
            ball.points.dim(0), 3
          )
        @liquid =
          Geometry::Mesh.new(ball.points, ball.triangles, colours: Geometry::Colours.corners(ball.triangles, dyes))
        allow(shelf).to receive_messages(
          liquid: @liquid, liquid_speeds: Kernel::Buffer.new(:f32, ball.points.dim(0), 3)
        )
        wall = prop("wall", shape: "card", size: [80.0, 80.0, 1.0], position: [0.0, 1.0, -3.0], colour: [1.0, 1.0, 1.0])
        water =
          prop(
            "water", shape: "liquid", clear: 1.0, bends: 1.0, clear_depth: 1.0, clear_colour: [0.9, 0.9, 0.9],
            rough: 0.02
          )
        document = shot(wall, water).then { |one| one.made_by(Class.new { def key(*) = "f" * 32 }.new) }
        expect(middle(document)[0, 3]).to match(
          [be_within(0.02).of(Math.sqrt(0.5 * 0.25)), be_within(0.02).of(0.5), be_within(0.02).of(1.0)]
        )
        # What is not clear has them on its surface.
        expect(
          middle(
            Shot::Edits.apply(document, [set("water", :clear, 0.0), set("water", :shine, 0.0)])[0].made_by(
              document.instance_variable_get(:@maker)
            )
          )[
            0, 3
          ]
        ).to match([be_within(0.05).of(0.5), be_within(0.05).of(0.25), be_within(0.05).of(1.0)])
      end
    end
  end
end
