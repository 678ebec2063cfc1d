# frozen_string_literal: true

module Vumbral
  RSpec.describe "Several things at once" do
    def prop(id, **dials) =
      {"do" => "add", "kind" => "prop", "id" => id, "name" => id.capitalize, "dials" => dials.transform_keys(&:to_s)}

    let(:id) do
      shelve(
        workshop,
        small_shot(
          "Several #{rand(1 << 30)}",
          edits: [
            prop("pot", shape: "box", size: [0.4, 0.4, 0.4], position: [-1.0, 0.3, 0.0]),
            prop("jug", shape: "box", size: [0.2, 0.8, 0.2], position: [1.0, 0.9, 0.5]),
            {
              "do" => "add",
              "kind" => "lamp",
              "id" => "bulb",
              "name" => "Bulb",
              "dials" => {
                "as" => "spot", "position" => [0.0, 3.0, 0.0], "target" => [0.0, 0.0, 0.5], "cone" => 60.0
              }
            }
          ]
        )
      )
    end
    let(:document) { workshop.shots.document(id) }

    def document = workshop.shots.document(id)

    def place(node, frame = 1) = Geometry::Hanging.pose(document, document.node(node), frame).position

    def choose_both
      open_desk(id)
      find("[data-chapter='props']").click
      open_card("pot")
      # Picked from its card it has handles.
      find("[data-node='pot'] .head").click unless page.has_css?("[data-node='pot'].selected", wait: 1)
      find("[data-node='pot'] .head").click if page.has_no_css?("[data-node='pot'].selected", wait: 1)
      find("[data-node='jug'] .head").click(:shift)
      expect(find("[data-chosen]")).to have_text("2 things")
    end

    def align(way, axis)
      find("[data-align='#{axis}']").click
      pick_option(way)
    end

    it "aligns, locks, switches off and takes away what is chosen, each in one step" do
      choose_both
      align("Their lower ends", "y")
      eventually { expect(place("jug")[1]).to be_within(1e-4).of(0.5) }
      align("Their middles", "x")
      eventually { expect(place("jug")[0]).to be_within(1e-4).of(-1.0) }
      find("[data-all-locked]").click
      eventually { expect(%w[pot jug].map { |node| document.node(node).locked? }).to eq([true, true]) }
      find("[data-all-off]").click
      eventually { expect(document.of(:prop).map(&:id) & %w[pot jug]).to be_empty }
      page.execute_script("document.activeElement?.blur()")
      page.send_keys(:delete)
      eventually { expect(document.nodes.keys & %w[pot jug]).to be_empty }
      expect(page).to have_no_css("[data-chosen]")
      undo(id, 5)
      eventually do
        expect([place("pot"), place("jug"), document.node("pot").locked?]).to match(
          [[-1.0, 0.3, 0.0], [1.0, 0.9, 0.5], false]
        )
      end
    end

    it "moves all that is chosen with the handles of one" do
      choose_both
      page.execute_script("document.activeElement?.blur()")
      find("[data-sides]").click
      pick_option("From the front")
      # The handles are on the pot, left of the middle; the view may still be on its way there.
      canvas = find("canvas[tabindex]", visible: :all).native
      width, height =
        page.evaluate_script(
          "(() => { const c = document.querySelector('canvas[tabindex]').getBoundingClientRect(); return [c.width, " \
            "c.height]; })()"
        )
      taken = lambda do |x, y|
        page.driver.browser.action.move_to(canvas, x, y).perform
        page.evaluate_script("document.querySelector('canvas[tabindex]').style.cursor") == "move"
      end
      # Some handles go up, or towards the eye: the first that goes sideways is taken.
      sideways = lambda do |spot|
        page
          .driver
          .browser
          .action
          .move_to(canvas, *spot)
          .pause(duration: 0.2)
          .click_and_hold
          .move_by(30, 0)
          .move_by(30, 0)
          .pause(duration: 0.2)
          .release
          .perform
        20.times.any? { place("pot")[0] > -0.95 || (sleep(0.1) && false) }
      end
      spots = (-8..0).to_a.product((-3..6).to_a).map { |n, m| [(n * width / 20).round, (m * height / 20).round] }
      eventually(60) { expect(@at = spots.find { |spot| taken.call(*spot) && sideways.call(spot) }).to be_truthy }
      by = place("pot").zip([-1.0, 0.3, 0.0]).map { |a, b| a - b }
      expect(place("jug")).to match([1.0, 0.9, 0.5].zip(by).map { |a, b| be_within(1e-3).of(a + b) })
      undo(id, 1)
      eventually { expect([place("pot"), place("jug")]).to eq([[-1.0, 0.3, 0.0], [1.0, 0.9, 0.5]]) }
      # Along a grid, if that is wanted; the other way round with Shift.
      ["25 cm", "Always"].each do |words|
        find("[data-grid]").click
        pick_option(words)
      end
      # The view may take the step back a little later than the shot.
      sleep 0.5
      eventually { expect(taken.call(*@at)).to be(true) }
      page
        .driver
        .browser
        .action
        .move_to(canvas, *@at)
        .pause(duration: 0.2)
        .click_and_hold
        .move_by(90, 0)
        .move_by(90, 0)
        .pause(duration: 0.2)
        .release
        .perform
      eventually { expect(place("pot")[0]).to be > -0.95 }
      expect(place("pot")).to match(
        [
          be_within(1e-4).of((place("pot")[0] * 4).round / 4.0), be_within(1e-4).of(0.3),
          be_within(1e-4).of((place("pot")[2] * 4).round / 4.0)
        ]
      )
    end

    it "groups them under a mark, which hides them, and makes more of the group in a row" do
      choose_both
      find("[data-group]").click
      eventually { expect(document.nodes["group-1"]&.then { |mark| mark[:shape] }).to eq("mark") }
      expect(page).to have_css("[data-node='group-1'].open")
      expect(place("pot")).to match([be_within(1e-4).of(-1.0), be_within(1e-4).of(0.3), be_within(1e-4).of(0.0)])
      # A mark has no body, so no dials of one.
      expect(page).to have_no_css("[data-node='group-1'] [data-dial='group-1.collider']")
      find("[data-dial='group-1.shown'] [role='switch']").click
      eventually { expect(document.shown?(document.node("jug"), 1)).to be(false) }
      undo(id, 1)
      eventually { expect(document.shown?(document.node("jug"), 1)).to be(true) }
      find("[data-node='group-1'] [data-in-a-row]").click
      expect(page).to have_css("[data-duplicate]")
      find("[data-duplicate] [aria-label='How many more']").click
      find("[data-duplicate] input.field").send_keys([:control, "a"], "2", :enter)
      find("[data-duplicate] [aria-label='Each further by z']").click
      find("[data-duplicate] input.field").send_keys([:control, "a"], "-1.5", :enter)
      expect(find("[data-make]")).to have_text("Make 2 more")
      find("[data-make]").click
      eventually { expect(document.of(:prop).map(&:name)).to include("Pot 2", "Pot 3", "Jug 3", "Group 2") }
      third = document.of(:prop).find { |node| node.name == "Jug 3" }
      expect(place(third.id)).to match([be_within(1e-3).of(2.2), be_within(1e-3).of(0.9), be_within(1e-3).of(-2.5)])
      undo(id, 1)
      eventually { expect(document.of(:prop).map(&:name)).not_to include("Pot 2") }
    end

    it "copies several, which lead to each other as before" do
      choose_both
      workshop.shots.edit(id, [set("jug", :leader, "pot")])
      page.execute_script("document.activeElement?.blur()")
      page.send_keys([:control, "c"])
      expect(page).to have_text("2 things are copied")
      page.send_keys([:control, "v"])
      twins = -> do
        document.of(:prop).select { |node| %w[Pot Jug].include?(node.name) && !%w[pot jug].include?(node.id) }
      end
      eventually { expect(twins.call.size).to eq(2) }
      pot, jug = twins.call.sort_by(&:name).reverse
      expect(jug[:leader]).to eq(pot.id)
      undo(id, 1)
      eventually { expect(twins.call).to be_empty }
    end

    it "looks from a lamp, and hangs one where one looks from" do
      open_desk(id)
      find("[data-chapter='light']").click
      open_card("bulb")
      find("[data-node='bulb'] [data-look-from-lamp]").click
      find("[data-node='bulb'] [data-hang-here]").click
      eventually do
        expect(document.node("bulb")[:position]).to match(
          [be_within(0.01).of(0.0), be_within(0.01).of(3.0), be_within(0.01).of(0.0)]
        )
      end
      canvas = find("canvas[tabindex]", visible: :all).native
      page.driver.browser.action.move_to(canvas, 0, 0).click_and_hold.move_by(60, 20).move_by(20, 10).release.perform
      find("[data-node='bulb'] [data-hang-here]").click
      eventually do
        expect(document.node("bulb")[:position][0].abs + document.node("bulb")[:position][2].abs).to be > 0.2
      end
      expect(document.node("bulb")[:target]).to match(
        [be_within(0.01).of(0.0), be_within(0.01).of(0.0), be_within(0.01).of(0.5)]
      )
    end

    it "lets a prop stand on what is below for good, and has copies of it along a way that is drawn" do
      choose_both
      find("[data-node='jug'] .head").click
      find("[data-dial='jug.rests'] [role='switch']").click
      eventually { expect(place("jug")[1]).to be_within(1e-3).of(0.4) }
      expect(page).to have_css("[data-dial='jug.rests_reach']")
      find("[data-add='operation']").click
      pick_option("makes many of it")
      eventually { expect(document.of(:operation).size).to eq(1) }
      operation = document.of(:operation)[0].id
      choose("#{operation}.spread", "along a way")
      eventually { expect(document.node(operation)[:spread]).to eq("stroke") }
      find("[data-dial='#{operation}.way'] [data-pick-places]").click
      canvas = find("canvas[tabindex]", visible: :all).native
      page
        .driver
        .browser
        .action
        .move_to(canvas, -120, 130)
        .click_and_hold
        .move_by(60, 4)
        .pause(duration: 0.1)
        .move_by(60, -4)
        .pause(duration: 0.1)
        .move_by(60, 6)
        .pause(duration: 0.1)
        .perform
      expect(page).to have_css("[data-trail]")
      page.driver.browser.action.release.perform
      eventually { expect(document.node(operation)[:way].size).to be > 2 }
      rows = Geometry::Operations.rows(document, document.node("jug"), 1)
      expect(
        Geometry::Shapes.build(Geometry::Bodies.of(document, document.node("jug"), 1)["outline"], workshop.assets).count
      ).to eq(12 * rows[0]["number"])
    end
  end
end
