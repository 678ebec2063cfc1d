# frozen_string_literal: true

module Vumbral
  RSpec.describe "Placing by hand" do
    let(:id) { shelve(workshop, small_shot("Placing #{rand(1 << 30)}")) }

    def prop = workshop.shots.document(id).node("prop-1")

    def pick
      open_desk(id)
      find("[data-chapter='props']").click
      # The first card is open already, and picks when it is opened by hand.
      find("[data-node='prop-1'] .head").click
      find("[data-node='prop-1'] .head").click unless page.has_css?("[data-grip]", wait: 1)
      expect(page).to have_css("[data-grip='move'][aria-pressed='true']")
      page.execute_script("document.activeElement?.blur()")
      # It comes to the middle of the view, and the handles with it.
      page.send_keys("c")
      sleep 0.5
    end

    # Drags from the middle of the view, a step at a time, as a hand does.
    def drag(dx, dy, from: [0, 0])
      canvas = find("canvas[tabindex]", visible: :all).native
      mouse = page.driver.browser.action
      mouse
        .move_to(canvas, from[0] + 1, from[1] + 1)
        .move_to(canvas, *from)
        .pause(duration: 0.3)
        .click_and_hold
        .move_by(dx / 2, dy / 2)
        .move_by(dx - dx / 2, dy - dy / 2)
        .pause(duration: 0.3)
        .perform
      yield if block_given?
      page.driver.browser.action.release.perform
    end

    it "moves, turns and sizes with handles, and takes it all back" do
      pick
      # Seen from the front, the handle along x lies to the right of the middle.
      find("[data-sides]").click
      pick_option("From the front")
      sleep 0.5
      start = prop[:position]
      drag(60, 0, from: [38, 0]) { expect(page).to have_css("[data-dragged]", text: / m\z/) }
      eventually { expect(prop[:position][0]).to be > start[0] }
      expect(prop[:position].drop(1)).to eq(start.drop(1))
      find("[data-grip='size']").click
      page.execute_script("document.activeElement?.blur()")
      page.send_keys("c")
      sleep 0.5
      # Sizes go by how far from the middle the hand is.
      drag(14, -14, from: [7, -7])
      eventually { expect(prop[:scale]).not_to eq([1.0, 1.0, 1.0]) }
      page.execute_script("document.activeElement?.blur()")
      undo(id, 2)
      eventually { expect([prop[:position], prop[:scale]]).to eq([start, [1.0, 1.0, 1.0]]) }
    end

    it "fits the chamber to a prop that is chosen from its card" do
      open_desk(id)
      find("[data-chapter='chamber']").click
      find("[data-fit]").click
      pick_option("Ember bowl")
      eventually { expect(workshop.shots.steps(id)[:undo]).to eq("Chamber fitted to Ember bowl") }
    end

    it "has no handles on what is locked, and keys that change them" do
      pick
      page.send_keys("t")
      expect(page).to have_css("[data-grip='turn'][aria-pressed='true']")
      find("[data-node='prop-1']").hover
      workshop.shots.edit(id, [{"do" => "switch", "node" => "prop-1", "locked" => true}])
      expect(page).to have_no_css("[data-grip]")
    end

    it "looks from six sides, with and without perspective" do
      pick
      seen = Array.new(2) do |n|
        find("[data-sides]").click
        pick_option(["From above", "From the left"][n])
        sleep 1
        page.evaluate_async_script(
          "const done = arguments[0], c = document.querySelector('canvas[tabindex]'); requestAnimationFrame(() => " \
            "done(c.toDataURL().length))"
        )
      end
      expect(seen).to all(be > 1000)
      find("[data-sides]").click
      pick_option("Without perspective")
      find("[data-sides]").click
      expect(page).to have_css(".n-dropdown-option", text: "With perspective")
      pick_option("As lines")
      find("[data-sides]").click
      pick_option("Only what is picked")
      find("[data-sides]").click
      expect(page).to have_css(".n-dropdown-option", text: "● As lines")
      pick_option("All props again")
      # Through the camera, what lies outside its frame is darkened.
      page.send_keys("v")
      expect(page).to have_css("[data-bar]")
    end

    it "copies what is picked with what is done to it, into another shot too" do
      workshop.shots.edit(
        id,
        [
          {
            "do" => "add",
            "kind" => "operation",
            "name" => "Pierced",
            "dials" => {
              "prop" => "prop-1", "what" => "pierce"
            }
          }
        ]
      )
      pick
      page.send_keys([:control, "c"])
      expect(page).to have_text("is copied")
      page.send_keys([:control, "v"])
      twin = -> do
        workshop.shots.document(id).of(:prop).find { |node| node.name == "Ember bowl" && node.id != "prop-1" }
      end
      eventually do
        expect(
          twin.call&.then { |node| workshop.shots.document(id).operations(node.id).map { |one| one[:what] } }
        ).to eq(%w[pierce])
      end
      expect(twin.call[:position][0]).to be_within(1e-6).of(prop[:position][0] + 0.4)
      other = shelve(workshop, small_shot("Other #{rand(1 << 30)}"))
      open_desk(other)
      page.execute_script("document.activeElement?.blur()")
      page.send_keys([:control, "v"])
      eventually do
        expect(workshop.shots.document(other).of(:prop).count { |node| node.name == "Ember bowl" }).to eq(2)
      end
    end
  end
end
