# frozen_string_literal: true

module Vumbral
  RSpec.describe "Bringing in" do
    let(:id) { shelve(workshop, small_shot("Yard #{rand(1 << 30)}")) }

    # Two parts, of which one moves.
    def cart
      ring = Geometry::Builders.torus(0.3, 0.08, sides: 12, around: 8)
      poses = Array.new(6) { |n| Geometry::Pose.new([0.1 * n, 0.0, 0.0], [20.0 * n, 0.0, 0.0], [1.0, 1.0, 1.0]) }
      Formats::GLTF::Writer
        .new(24.0)
        .add("wheel", ring, colour: [0.8, 0.1, 0.05], poses: poses)
        .add("axle", Geometry::Builders.cylinder(0.05, 0.6), colour: [0.1, 0.2, 0.7])
        .bytes
    end

    def prop(n = 2) = workshop.shots.document(id).nodes["prop-#{n}"]

    it "takes a moving mesh that is dropped on the view: looked at first, then in the shot, moving, and undone" do
      open_desk(id)
      drop("[data-view]", "cart.glb": cart)
      expect(page).to have_css("[data-bring]", wait: 60)
      expect(find("[data-found]")).to have_text(/triangles in 2 parts.*6 frames of motion.*colours of its own/m)
      expect(find("[data-size]")).to have_text(/\A1\.26 × /)
      expect(page).to have_css("[data-mesh-shown='true']")
      find("[aria-label='Unit of the file']").click
      find(".n-base-select-option", text: "centimetres").click
      expect(find("[data-size]")).to have_text(/\A0\.0126 × /)
      expect(page).to have_text("That is smaller than a thumb")
      find("[aria-label='Unit of the file']").click
      find(".n-base-select-option", text: /\Ametres/).click
      find("[data-put]").click
      expect(page).to have_no_css("[data-bring]")
      eventually { expect(prop&.name).to eq("cart") }
      expect(prop[:plays]).to be(true)
      # It stands where it fell, which is on something.
      expect(page).to have_css("[data-dial='prop-2.plays']")
      page.send_keys(:escape)
      page.execute_script("document.activeElement?.blur()")
      page.send_keys([:control, "z"])
      eventually { expect(prop).to be_nil }
    end

    it "takes its parts as props of their own, and bakes one that moves" do
      open_desk(id)
      drop("[data-view]", "cart.glb": cart)
      find("input[name='apart']", wait: 60).click
      find("[data-put]").click
      eventually { expect([prop(2)&.name, prop(3)&.name]).to eq(%w[wheel axle]) }
      find("[data-chapter='props']").click
      find("[data-node='prop-2'] [data-bake]").click
      eventually { expect(workshop.shots.steps(id)[:undo]).to eq("wheel baked to a mesh for each frame") }
    end

    it "says in a sentence what it cannot take, and changes nothing" do
      open_desk(id)
      drop("[data-view]", "cart.glb": cart[0, 400])
      expect(page).to have_text("cart.glb is cut off: it should have", wait: 60)
      expect(page).to have_no_css("[data-bring]")
      drop("[data-view]", "a.obj": "v 0 0 0", "pot.obj": "v 0 0 0")
      expect(page).to have_text("a.obj has no number before its ending", wait: 60)
      expect(workshop.shots.steps(id)[:undo]).to be_nil
    end

    it "begins a shot with a mesh that is dropped on the shelf" do
      visit house.url
      expect(page).to have_css("[data-new-shot]")
      drop("main.shelf", "cart.glb": cart)
      expect(page).to have_css("[data-brought]", text: "It moves: 6 frames", wait: 60)
      find("input[name='name']").set("Wheel #{rand(1 << 30)}")
      find("[data-make]").click
      expect(page).to have_css("[data-desk]", wait: 30)
      expect(workshop.shots.document(workshop.shots.list[0][:id]).node("prop-1")[:plays]).to be(true)
    end
  end
end
