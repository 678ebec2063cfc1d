# frozen_string_literal: true

require_relative "spec_helper"

# The pictures of the interface in docs/screenshots, taken by bin/screenshots. They are no specs of their own.
module Vumbral
  RSpec.describe "docs/screenshots:", browser: true do
    # Of the window, so that the page has 1280x800.
    before { page.driver.browser.manage.window.resize_to(1280, 943) }

    def self.picture(name, &block)
      it("the picture #{name}.") do
        instance_exec(&block)
        page.save_screenshot(File.join(ROOT, "docs", "screenshots", "#{name}.png")) # rubocop:disable Lint/Debugger
      end
    end

    # A demo shot with its draft. @return [String] its id
    def demo(shot, run: true)
      @demos ||= Demo::Maker.new(workshop)
      id = @demos.send(:make, shot)
      drafted(id) if run
      id
    end

    def drafted(id)
      job = workshop.runs.start(id, "draft")[:job_id]
      eventually(1200) { expect(workshop.jobs.fetch(job)[:state]).to eq("done") }
    end

    # A starter under a name, with its draft.
    def begun(starter, name, *edits)
      id = workshop.shots.import(Studio::Starters.build(starter, name).to_json)[:id]
      workshop.shots.edit(id, edits) unless edits.empty?
      drafted(id)
      id
    end

    def taken(id, frame)
      job = workshop.prints.take(id, frame, size: [640, 360])
      eventually(120) { expect(workshop.jobs.fetch(job)[:state]).to eq("done") }
    end

    def added(kind, id, dials) =
      {"do" => "add", "kind" => kind, "id" => id, "name" => id.tr("-", " ").capitalize, "dials" => dials}

    def keyed(node, dial, values) =
      values.map { |frame, value| {"do" => "key", "node" => node, "dial" => dial, "frame" => frame, "value" => value} }

    # A bowl that swings, under a plume that comes and goes, in air that lifts now more, now less.
    def swinging
      keyed("prop-1", "position", {1 => [-0.1, 0.22, 0.0], 30 => [0.3, 0.34, -0.15]}) +
        keyed("source-1", "strength", {4 => 0.0, 18 => 1.3, 36 => 0.5, 58 => 0.0}) +
        keyed("chamber", "lift", {1 => 0.8, 22 => 1.4, 44 => 0.9, 66 => 1.3}) +
        [{"do" => "beyond", "node" => "prop-1", "dial" => "position", "before" => "hold", "after" => "back"}]
    end

    def spy_holes
      (2..4).map do |n|
        added("source", "spy-hole-#{n}", "prop" => "prop-1", "smoke" => 0.6, "first" => 9 * n, "last" => 9 * n + 7)
      end
    end

    # A second stream beside the starter's, and a colour for each.
    def two_glazes
      [added("prop", "other-spout", "shape" => "sphere", "radius" => 0.06, "position" => [0.2, 1.12, -0.03],
        "shown" => false),
        added("inflow", "other-stream", "prop" => "other-spout", "velocity" => [-0.35, -0.8, 0.0], "rough" => 0.25,
          "breakup" => 0.2, "breakup_size" => 0.05, "dye" => [0.05, 0.2, 0.62]),
        set("inflow", :dye, [0.85, 0.55, 0.05]), set("liquid", :dyed, true), set("liquid", :dye, [0.75, 0.85, 0.9]),
        set("general", :last, 48)]
    end

    # Opens a desk at a frame, with a chapter and a card.
    def look(id, frame, chapter, card = nil)
      open_desk(id)
      find("[data-chapter='#{chapter}']").click
      open_card(card) if card
      go_to(frame)
    end

    def through_the_camera
      page.execute_script("document.activeElement?.blur()")
      page.send_keys("v")
    end

    # Waits until the view has its finest picture. Props that are still being made come in after it.
    def at_rest
      page.execute_script("document.activeElement?.blur()")
      # No help of a dial that the pointer has come to lie over.
      page.driver.browser.action.move_to_location(900, 750).perform
      2.times do
        sleep 15
        expect(page).to have_css("[data-view][data-scale='1']", wait: 180)
      end
    end

    # All demo shots on the shelf, of which none has been run.
    def shelf
      Demo::Maker::SHOTS.reverse_each { |shot| demo(shot, run: false) }
      visit house.url
      expect(page).to have_css("[data-shot='kiln-draw'] img")
      expect(page).to have_text("96 frames, not run")
      pictured("[data-shot] img", 9)
    end

    # The first pictures of some are there.
    def pictured(css, count)
      there = "[...document.querySelectorAll(#{css.to_json})].slice(0, #{count})" \
        ".every((one) => one.complete && one.naturalWidth > 0)"
      eventually { expect(page.evaluate_script(there)).to be(true) }
    end

    picture("shelf") { shelf }

    picture("new-shot") do
      shelf
      find("[data-new-shot]").click
      expect(page).to have_css("[data-starter='beam']")
      pictured(".starter img", 9)
    end

    picture("desk") do
      id = begun("plume", "Chimney plume")
      taken(id, 20)
      taken(id, 30)
      look(id, 30, "sources", "source-1")
      at_rest
    end

    picture("building") do
      look(demo(Demo::FairSign), 44, "props", "f")
      at_rest
    end

    picture("front") do
      look(demo(Demo::PaperLeaf), 52, "props", "flames")
      at_rest
    end

    picture("sculpt") do
      look(demo(Demo::ClayCloud, run: false), 20, "sculpt")
      at_rest
    end

    picture("slice") do
      look(demo(Demo::LidBurst), 20, "chamber")
      find("[data-chip='slice']").click
      at_rest
    end

    picture("fog") do
      look(demo(Demo::MorningYard), 88, "light", "look")
      find("[data-chip='develop']").click
      at_rest
    end

    picture("compare") do
      id = begun("fire", "Kiln mouth", set("source-1", :fuel, 6.0))
      workshop.shots.edit(id, [set("source-1", :fuel, 14.0)])
      drafted(id)
      look(id, 40, "sources", "source-1")
      find("[data-side='runs']").click
      find("[data-run='1']").click
      find("[data-lay-against]").click
      expect(page).to have_css("[data-compare][data-painted='40 2']", wait: 120)
      sleep 3
    end

    picture("history") do
      id = begun("fire", "Kiln breath")
      [[:fuel, 8.0], [:fuel, 18.0], [:temperature, 1300.0]].each do |dial, value|
        workshop.shots.edit(id, [set("source-1", dial, value)])
        drafted(id)
      end
      look(id, 40, "sources", "source-1")
      at_rest
      page.send_keys("h")
      expect(page).to have_css("[data-point] img")
      all("[data-point]")[1].click
      sleep 2
    end

    picture("strip") do
      id = workshop.shots.import(Studio::Starters.build("burst", "Kiln burst").to_json)[:id]
      workshop.shots.edit(id, [set("general", :last, 40)])
      open_desk(id)
      find("[data-test-strip]").click
      varied = {"Burn rate · Chamber" => "1, 3, 9, 16", "Curl boost · Chamber" => "0, 0.5, 2"}
      varied.each_with_index do |(dial, values), n|
        find("[data-vary] .n-base-selection").click
        find("[data-vary] input").send_keys(dial)
        find(".n-base-select-option", text: dial, match: :first).click
        all("[data-axis] input", minimum: n + 1)[n].send_keys([:control, "a"], values)
      end
      expect(page).to have_css("[data-strip-forecast]", text: "12 variations", wait: 30)
      find("[data-run-strip]").click
      eventually(1500) { expect(find("[data-strip-state]").text).to include("12 done") }
      page.execute_script(
        "const range = document.querySelector('[data-strip-frame]'); range.value = 18; range.dispatchEvent(new " \
          "Event('input', {bubbles: true}))"
      )
      all("[data-tile]")[6].click
      find("[data-mark-cell]").click
      sleep 60
    end

    picture("timing") do
      id = begun("plume", "Kiln breath", *spy_holes, *swinging, set("camera", :position, [0.1, 1.0, 4.4]),
        set("camera", :target, [0.1, 0.9, 0.0]))
      visit house.url
      page.execute_script("localStorage.setItem('vumbral-timeline-height', '390')")
      look(id, 40, "chamber", "chamber")
      %w[prop-1.position source-1.strength].each { |row| find("[data-open-row='#{row}']").click }
      all("[data-curve='source-1.strength'] [data-curve-key]")[2].click
      through_the_camera
      at_rest
    end

    picture("several") do
      id = workshop.shots.import(Studio::Starters.build("empty", "Yard").to_json)[:id]
      pots = {"pot" => ["cylinder", [-0.3, 0.21, -0.15]], "jug" => ["capsule", [0.1, 0.21, 0.3]],
              "bowl" => ["torus", [0.4, 0.06, -0.2]]}
      made = pots.map do |name, (shape, place)|
        added("prop", name, "shape" => shape, "position" => place, "radius" => (shape == "torus") ? 0.2 : 0.13,
          "tall" => 0.42)
      end
      made += [set("camera", :position, [0.5, 1.15, 3.3]), set("camera", :target, [0.95, 0.3, -0.3])]
      made += pots.keys.zip(%w[raw-clay glazed-clay plaster]).map { |name, material|
        {"do" => "take_material", "node" => name, "material" => material}
      }
      workshop.shots.edit(id, made)
      workshop.shots.edit(id, [{"do" => "group", "nodes" => pots.keys, "frame" => 1}])
      mark = workshop.shots.document(id).nodes.values.find { |node| Shot::Groups.mark?(node) }.id
      workshop.shots.edit(id,
        [{"do" => "duplicate", "nodes" => [mark], "times" => 2, "by" => [1.05, 0.0, -0.4], "turn" => [0.0, 18.0, 0.0]}])
      marks = workshop.shots.document(id).nodes.values.select { |node| Shot::Groups.mark?(node) }.map(&:id)
      look(id, 1, "props", marks[0])
      find("[data-node='#{marks[0]}'] .head").click if page.has_no_css?("[data-node='#{marks[0]}'].selected", wait: 1)
      marks.drop(1).each { |other| find("[data-node='#{other}'] .head").click(:shift) }
      page.execute_script("arguments[0].scrollIntoView({block: 'center'})", find("[data-node='#{marks[0]}'] .head"))
      through_the_camera
      at_rest
    end

    picture("liquid") do
      look(begun("pour", "Two glazes", *two_glazes), 26, "chamber", "liquid")
      at_rest
    end

    picture("balance") do
      id = demo(Demo::MorningYard)
      taken(id, 88)
      look(id, 88, "light")
      first("[data-print]", wait: 60).click
      find("[data-balance]").click
      expect(page).to have_css("[data-balanced='Sun']", wait: 120)
      {"Sun" => :left, "Lantern" => :right}.each do |light, way|
        find("[data-balanced='#{light}'] [role='slider']").send_keys(*[way] * 24)
      end
      sleep 5
    end

    picture("prints") do
      id = demo(Demo::CarriedTorch)
      taken(id, 34)
      workshop.shots.edit(id, [set("torch-flash", :amount, 0.25), set("torch-glow", :amount, 0.9)])
      taken(id, 34)
      look(id, 34, "sources", "torch")
      all("[data-print]", minimum: 2)[0].click
      sleep 3
      page.send_keys(:escape)
      all("[data-print]", minimum: 2)[1].click(:shift)
      page.send_keys("b")
      expect(page).to have_css("[data-print-viewer] [data-wipe-line]", wait: 30)
      sleep 5
    end
  end
end
