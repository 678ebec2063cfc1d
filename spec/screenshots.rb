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

    # Opens a desk at a frame, with a chapter and a card.
    def look(id, frame, chapter, card = nil)
      open_desk(id)
      find("[data-chapter='#{chapter}']").click
      open_card(card) if card
      go_to(frame)
    end

    # Waits until the view has its finest picture. Props that are still being made come in after it.
    def at_rest
      page.execute_script("document.activeElement?.blur()")
      2.times do
        sleep 15
        expect(page).to have_css("[data-view][data-scale='1']", wait: 180)
      end
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
  end
end
