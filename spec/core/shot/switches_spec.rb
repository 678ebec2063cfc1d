# frozen_string_literal: true

module Vumbral
  RSpec.describe "Switches" do
    def switch(node, **what) = {"do" => "switch", "node" => node}.merge(what.transform_keys(&:to_s))

    def shot(*edits) =
      small_shot(
        edits:
          [add("source", "second"), add("force", "gust", "what" => "wind"), add("force", "pull", "what" => "pull")] +
            edits
      )

    def add(kind, id, dials = {})
      {"do" => "add", "kind" => kind, "id" => id, "name" => id.capitalize,
       "dials" => ((kind == "source") ? {"prop" => "prop-1"} : {}).merge(dials)}
    end

    def ids(document, kind) = document.of(kind).map(&:id)

    it "take a thing out of the shot and leave its dials as they are" do
      off = shot(set("second", :smoke, 7.0), switch("second", off: true))
      expect(ids(off, :source)).to eq(%w[source-1])
      expect(off.all_of(:source).map(&:id)).to eq(%w[source-1 second])
      expect(off.on?(off.node("second"))).to be(false)
      on = Shot::Edits.apply(off, [switch("second", off: false)])[0]
      expect([ids(on, :source), on.node("second")[:smoke]]).to eq([%w[source-1 second], 7.0])
    end

    it "leave one of a kind alone, whichever are off, until it is with the others again" do
      alone = shot(switch("gust", off: true), switch("pull", only: true))
      expect([ids(alone, :force), ids(alone, :source)]).to eq([%w[pull], %w[source-1 second]])
      expect(ids(Shot::Edits.apply(alone, [switch("gust", only: true)])[0], :force)).to eq(%w[pull])
      expect(ids(Shot::Edits.apply(alone, [switch("pull", only: false), switch("gust", off: false)])[0], :force)).to eq(
        %w[gust pull]
      )
    end

    it "are saved and read, and said in words" do
      document, words = Shot::Edits.apply(shot, [switch("second", off: true), switch("gust", only: true)])
      expect(words).to eq("Second switched off; Gust alone")
      expect(Shot::Document.load(document.to_json)).to eq(document)
      expect(Studio::Differences.line(shot, document)).to eq("Second switched off, Gust alone")
    end

    it "lock a thing, which changes nothing that is computed or printed" do
      locked, words = Shot::Edits.apply(shot, [switch("gust", locked: true)])
      expect([words, locked.node("gust").locked?]).to eq(["Gust locked", true])
      expect(Gas::Plan.new(locked, :draft).keys).to eq(Gas::Plan.new(shot, :draft).keys)
      expect(Studio::Differences.line(shot, locked)).to eq("Same settings")
      expect(Studio::Starters.build("fire", "Try").node("ground")).to be_locked
    end

    it "and keys come along where a thing is added with them" do
      keys = [{"frame" => 3, "value" => 2.0, "ease" => "held"}, {"frame" => 1, "value" => 1.0}]
      edit = add("source", "third").merge("keys" => {"smoke" => keys}, "off" => true)
      third = shot(edit).node("third")
      expect(third.curves[:smoke].to_a.map(&:values)).to eq([[1, 1.0, "smooth"], [3, 2.0, "held"]])
      expect(third).to be_off
      expect(refusal { shot(edit.merge("keys" => [])) }).to match(["bad_edit", /keys of Third come as an object/])
      expect(refusal { shot(edit.merge("keys" => {"smoke" => 3})) }).to match(
        ["bad_edit", /keys of Third are not a list/]
      )
    end

    it "are refused where a thing belongs to every shot, or where they say nothing" do
      expect(refusal { shot(switch("camera", off: true)) }).to match(["needed", /Camera belongs to every shot/])
      expect(refusal { shot(switch("second")) }).to match(["bad_edit", /off, only, locked, true or false/])
      expect(refusal { shot(switch("second", off: "yes")) }[0]).to eq("bad_edit")
    end

    it "are followed by the run: what is off feeds, pushes and stands in the way of nothing" do
      plan = ->(*edits) { Gas::Plan.new(shot(*edits), :draft).at(3) }
      expect(plan.call["sources"].size).to eq(2)
      expect(plan.call(switch("second", off: true))["sources"].size).to eq(1)
      expect(plan.call(switch("pull", only: true))["forces"].map { |force| force["what"] }).to eq(%w[pull])
      wall = {"do" => "add", "kind" => "prop", "id" => "wall", "name" => "Wall", "dials" => {"collider" => true}}
      expect([plan.call(wall), plan.call(wall, switch("wall", off: true))].map { |at| at["solids"].size }).to eq([1, 0])
      # Sources of a prop that is off have nothing to come from.
      expect(plan.call(switch("prop-1", off: true))["sources"]).to eq([])
      keys = ->(*edits) { Gas::Plan.new(shot(*edits), :draft).keys }
      expect(keys.call(switch("second", off: true))).to eq(
        Gas::Plan.new(
          small_shot(edits: [add("force", "gust", "what" => "wind"), add("force", "pull", "what" => "pull")]), :draft
        ).keys
      )
    end

    it "are followed by the picture and told by the timeline" do
      settings = ->(*edits) { Picture::Renderer.settings(shot(*edits), 1) }
      expect([settings.call, settings.call(switch("ground", off: true))].map { |at| at["props"].size }).to eq([2, 1])
      expect(settings.call(switch("sun-1", off: true))["rig"]["lamps"]).to eq([])
      rows = Shot::Timeline.new(shot(switch("second", off: true))).rows
      expect(rows.to_h { |row| [row[:node], row[:off]] }).to include("second" => true, "source-1" => false)
    end

    it "are found by preflight where nothing is left to feed" do
      found = ->(*edits) do
        Preflight::Survey
          .new(small_shot(edits: edits), nil)
          .findings
          .map { |one| [one.code, one.remedy&.fetch(:label)] }
      end
      expect(found.call(switch("source-1", off: true))).to eq([["all_off", "Switch Plume on"]])
      expect(found.call(switch("prop-1", off: true))).to eq([["origin_off", "Switch Ember bowl on"]])
    end
  end
end
