# frozen_string_literal: true

module Vumbral
  RSpec.describe "Building" do
    let(:id) {
      shelve(workshop, small_shot("Building #{rand(1 << 30)}",
        edits: [{"do" => "add", "kind" => "prop", "name" => "Pale",
                 "dials" => {"shape" => "box", "size" => [0.02, 0.2, 0.02], "position" => [0.0, 0.6, 0.0]}}]))
    }

    def document = workshop.shots.document(id)

    def whats(prop) = document.operations(prop).map { |node| node[:what] }

    # Picks a prop and does something more to its shape, from the menu.
    def operate(prop, what)
      find("[data-node='#{prop}'] .head").click
      find("[data-node='#{prop}'] .head").click unless page.has_css?("[data-node='#{prop}'].selected", wait: 1)
      find("[data-add='operation']").click
      pick_option(what)
    end

    def shape(prop) =
      workshop
        .bodies
        .known(document)
        &.find { |row| row["prop"] == prop }
        &.then { |row| workshop.assets.mesh(row["outline"]["mesh"]) if row["outline"]["mesh"] }

    it "leads a tube along places that are clicked one after the other, on the ground and on things" do
      open_desk(id)
      page.execute_script("document.activeElement?.blur()")
      page.send_keys("1")
      add("prop", /tube along a curve/)
      find("[data-dial='prop-3.path'] [data-pick-places]").click
      canvas = find("canvas[aria-label^='View']")
      [[-180, 80], [-40, 110], [110, 70]].each_with_index do |(x, y), n|
        page.driver.browser.action.move_to(canvas.native, x, y).click.perform
        eventually { expect(document.node("prop-3")[:path].size).to eq(n + 1) }
      end
      # On the ground, and not all in one place.
      expect(
        document.node("prop-3")[:path].map { |place| place[1] + document.node("prop-3")[:position][1] }.map(&:abs).max
      ).to be < 0.4
      expect(
        document.node("prop-3")[:path]
          .each_cons(2)
          .map { |a, b| Geometry::Vectors.length(Geometry::Vectors.minus(a, b)) }
          .min
      ).to be > 0.1
      find("[data-dial='prop-3.path'] [data-pick-places]").click
      eventually { expect(shape_of("prop-3")).to be_closed }
      first("[data-dial='prop-3.path'] .one button").click
      eventually { expect(document.node("prop-3")[:path].size).to eq(2) }
    end

    def shape_of(prop) =
      Geometry::Shapes.build(
        Geometry::Shapes.outline(document.node(prop), document: document, frame: 1), workshop.assets
      )

    it "makes a pierced and smoothed lantern, changes the order, scatters copies, and takes it all back" do
      open_desk(id)
      find("[data-chapter='props']").click
      operate("prop-1", "takes faces away")
      eventually { expect(whats("prop-1")).to eq(%w[pierce]) }
      operate("prop-1", "gives it thickness")
      eventually { expect(whats("prop-1")).to eq(%w[pierce thicken]) }
      operate("prop-1", /\Asmooths/)
      eventually { expect(whats("prop-1")).to eq(%w[pierce thicken smooth]) }
      # The worker has built it, and the view shows it.
      eventually { expect(shape("prop-1")&.then { |mesh| [mesh.count > 5120, mesh.open_edges] }).to eq([true, 0]) }
      find("[data-earlier]").click
      eventually { expect(whats("prop-1")).to eq(%w[pierce smooth thicken]) }

      operate("prop-2", "makes many of it")
      eventually { expect(whats("prop-2")).to eq(%w[copies]) }
      # Nothing to stand on yet: it says so, and the shot still stands.
      expect(page).to have_text("changes nothing yet: choose the other prop", wait: 30)
      copies = document.operations("prop-2")[0].id
      find("[data-dial='#{copies}.with'] .n-base-selection").click
      find(".n-base-select-option", text: "Ember bowl").click
      eventually { expect(shape("prop-2")&.count).to eq(24 * 12) }

      page.send_keys(:escape)
      undo(id, 6)
      eventually { expect(document.all_of(:operation)).to eq([]) }
      expect(page).to have_no_css("[data-node^='operation']")
    end

    it "raises letters, and keeps what the font cannot write in its field with the sentence beside it" do
      open_desk(id)
      find("[data-chapter='props']").click
      find("[data-add='prop']").click
      pick_option("letters")
      eventually { expect(document.nodes["prop-3"]&.then { |node| node[:shape] }).to eq("words") }
      field = find("[data-dial='prop-3.words'] input")
      field.set("日")
      field.send_keys(:enter)
      expect(page).to have_text("The font has no \"日\"")
      field.set("Kiln")
      field.send_keys(:enter)
      eventually { expect(document.node("prop-3")[:words]).to eq("Kiln") }
    end
  end
end
