# frozen_string_literal: true

module Vumbral
  RSpec.describe Preflight::Finishing do
    include FinishHelp

    def document(*edits) = edits.empty? ? small_shot : Shot::Edits.apply(small_shot, edits)[0]

    def findings(document) = Preflight::Survey.new(document, nil).findings

    def found(*edits) = findings(document(*edits)).map(&:code)

    def mended(code, *edits)
      document = document(*edits)
      findings(Shot::Edits.apply(document, findings(document).find { |one| one.code == code }.remedy[:edits])[0]).map(
        &:code
      )
    end

    it "finds nothing wrong with the shot, a change of it, and a plate that is shown as it is" do
      expect(
        found(
          layer("low", -1, what: "plate", plate: "ab"), layer("one"), effect("one", "flash"),
          effect("one", "defocus", 1), layer("two", 1, what: "change"), effect("two", "glow"), mask("two", "oval"),
          set("picture", :tone, "plain"), set("picture", :contrast, 1.0)
        )
      ).to eq(found)
    end

    it "says that no layer shows anything, and shows the shot" do
      expect(found(layer("two", what: "change"))).to include("finish_empty")
      expect(mended("finish_empty", layer("two", what: "change"))).not_to include("finish_empty")
    end

    it "says that a plate goes through the tone curve, or is not there yet" do
      plate = layer("low", -1, what: "plate", plate: "ab")
      expect(mended("plate_toned", plate, layer("one"))).not_to include("plate_toned")
      expect(found(layer("low", -1, what: "plate"), layer("one"))).to include("no_plate")
      expect(found(layer("low", -1, what: "other"), layer("one"))).to include("no_shot")
    end

    it "says what an effect lacks: a layer, something below, what it goes by, a table, a lamp" do
      expect(
        found(layer("one"), {"do" => "add", "kind" => "effect", "name" => "Glow", "dials" => {"what" => "glow"}})
      ).to include("no_layer")
      expect(found(layer("one"), effect("one", "shimmer"))).to include("nothing_below")
      expect(found(layer("one"), layer("two", 1, what: "colour"), effect("two", "motion"))).to include("no_pass")
      expect(found(layer("one"), effect("one", "table"), effect("one", "flare", 1, source: "lamp"))).to include(
        "no_table", "no_lamp"
      )
    end

    it "says that a mask limits nothing or has no outline" do
      expect(found(layer("one"), {"do" => "add", "kind" => "mask", "name" => "Mask"})).to include("no_owner")
      expect(found(layer("one"), mask("one", "outline"))).to include("no_outline")
      expect(
        found(layer("one"), mask("one", "outline", points: [[0.0, 0.0, 0.0], [50.0, 0.0, 0.0], [50.0, 50.0, 0.0]]))
      ).not_to include("no_outline")
    end

    it "says that a spot was not followed, or not surely found" do
      spot = {"do" => "add", "kind" => "track", "id" => "spot", "name" => "Spot"}
      expect(found(spot, layer("one", follows: "spot"))).to include("not_followed")
      keys = ->(*values) do
        spot.merge(
          "keys" =>
            %w[x sure].to_h do |dial|
              [dial, values.each_with_index.map { |value, n| {"frame" => n + 1, "value" => value} }]
            end
        )
      end
      expect(found(keys[1.0, 0.62], layer("one", follows: "spot"))).to include("unsure")
      expect(found(keys[1.0, 0.9], layer("one", follows: "spot")) & %w[unsure not_followed]).to eq([])
    end
  end
end
