# frozen_string_literal: true

module Vumbral
  RSpec.describe Preflight::Pouring do
    def found(document) = Preflight::Survey.new(document, nil).findings.map(&:code)

    def finding(document, code) = Preflight::Survey.new(document, nil).findings.find { |one| one.code == code }

    def prop(id, **dials) =
      {"do" => "add", "kind" => "prop", "name" => id.capitalize, "id" => id, "dials" => dials.transform_keys(&:to_s)}

    def add(kind, **dials) =
      {
        "do" => "add", "kind" => kind, "name" => kind.capitalize, "id" => kind, "dials" => dials.transform_keys(&:to_s)
      }

    # What is wrong goes with its remedy.
    def mended(document, code)
      document = Shot::Edits.apply(document, finding(document, code).remedy[:edits])[0]
      found(document)
    end

    it "finds nothing wrong with a pool that is seen" do
      expect(found(small_water)).to eq([])
    end

    it "misses a liquid for what would act on one, and a surface for one that is not seen" do
      lonely = Shot::Edits.apply(Studio::Starters.bare("Dry"), [add("kick")])[0]
      expect(found(lonely)).to include("no_liquid")
      expect(mended(lonely, "no_liquid")).not_to include("no_liquid")
      hidden = Shot::Edits.apply(small_water, [{"do" => "remove", "node" => "water"}])[0]
      expect(mended(hidden, "liquid_unseen")).to eq([])
    end

    it "finds a colour of an inflow that does not count" do
      jet = ->(**dials) do
        [
          prop("spout", shape: "sphere", radius: 0.05, position: [0.0, 0.3, 0.0], shown: false),
          add("inflow", prop: "spout", **dials)
        ]
      end
      expect(mended(small_water(edits: jet[dye: [1.0, 0.0, 0.0]]), "colour_idle")).not_to include("colour_idle")
      expect(found(small_water(edits: jet[]))).not_to include("colour_idle")
      expect(found(small_water(dyed: true, edits: jet[dye: [1.0, 0.0, 0.0]]))).not_to include("colour_idle")
    end

    it "misses spray for a force that goes along with it" do
      along = add("force", what: "spray")
      expect(mended(small_water(edits: [along]), "no_spray")).not_to include("no_spray")
      expect(found(small_water(spray: true, edits: [along]))).not_to include("no_spray")
      dry = Shot::Edits.apply(Studio::Starters.bare("Dry"), [along])[0]
      expect(finding(dry, "no_spray").remedy).to be_nil
    end

    it "says that nothing fills it, or too much does" do
      expect(mended(small_water(pool: false), "liquid_empty")).to eq([])
      expect(mended(small_water(line: 0.39), "liquid_full")).to eq([])
    end

    it "proposes a band where most of a pool lies deep, and only there" do
      pool = ->(**dials) { small_water(size: [2.0, 1.2, 2.0], voxel: 0.02, line: 0.8, **dials) }
      expect(finding(pool[], "pool_deep").text).to eq(
        "Water is 40 voxels deep and takes some 3 million particles, most of them where nothing is seen."
      )
      expect(mended(pool[], "pool_deep")).not_to include("pool_deep")
      [{line: 0.5}, {dyed: true}, {voxel: 0.05}, {pool: false}].each do |dials|
        expect(found(pool[**dials])).not_to include("pool_deep")
      end
    end

    it "takes a tank for closed that operations close, and finds a box that is much larger than its tank" do
      sheet = prop("sheet", shape: "plane", size: [0.3, 1.0, 0.3], position: [0.0, 0.2, 0.0])
      done = ->(name, what) do
        {
          "do" => "add",
          "kind" => "operation",
          "id" => name,
          "name" => name,
          "dials" => {
            "prop" => "sheet", "what" => what
          }
        }
      end
      expect(found(small_water(tank: "sheet", edits: [sheet, done["shut", "remesh"]]))).not_to include("tank_open")
      expect(
        found(small_water(tank: "sheet", edits: [sheet, done["shut", "close"], done["torn", "pierce"]]))
      ).to include("tank_open")
      ball = prop("ball", shape: "sphere", radius: 0.15, position: [0.0, 0.4, 0.0])
      expect(found(small_water(tank: "ball", size: [1.5, 1.5, 1.5], edits: [ball]))).to include("tank_roomy")
      expect(
        mended(small_water(tank: "ball", size: [1.5, 1.5, 1.5], edits: [ball]), "tank_roomy") &
          %w[tank_roomy tank_outside]
      ).to eq([])
      moving =
        small_water(
          tank: "ball",
          size: [1.5, 1.5, 1.5],
          edits:
            [ball] +
              [1, 6].map do |frame|
                {
                  "do" => "key", "node" => "ball", "dial" => "position", "frame" => frame,
                  "value" => [0.1 * frame, 0.4, 0.0]
                }
              end
        )
      expect(found(moving)).not_to include("tank_roomy")
    end

    it "takes the liquid for somewhere in its box, for what gas comes from it" do
      steam = ->(size) do
        [
          {
            "do" => "add",
            "kind" => "source",
            "name" => "Steam",
            "dials" => {
              "prop" => "water", "from" => "surface"
            }
          },
          {"do" => "set", "node" => "chamber", "dial" => "size", "value" => [size] * 3}
        ]
      end
      document = ->(at) do
        Shot::Edits.apply(
          small_water, steam[0.5] + [{"do" => "set", "node" => "chamber", "dial" => "position", "value" => at}]
        )[
          0
        ]
      end
      expect(found(document[[0.0, 0.1, 0.0]])).not_to include("outside")
      expect(found(document[[5.0, 0.1, 0.0]])).to include("outside")
    end

    it "finds tanks that are open or stand out of the box" do
      open =
        small_water(
          tank: "sheet", edits: [prop("sheet", shape: "plane", size: [0.3, 1.0, 0.3], position: [0.0, 0.2, 0.0])]
        )
      expect(found(open)).to include("tank_open")
      wide = small_water(tank: "ball", edits: [prop("ball", shape: "sphere", radius: 0.3, position: [0.0, 0.2, 0.0])])
      expect(mended(wide, "tank_outside")).to eq([])
      expect(
        found(
          small_water(tank: "ball", edits: [prop("ball", shape: "sphere", radius: 0.15, position: [0.0, 0.2, 0.0])])
        )
      ).to eq([])
    end

    it "finds inflows that come from nothing, never, or from outside" do
      expect(found(small_water(edits: [add("inflow")]))).to include("inflow_nowhere")
      spout = prop("spout", shape: "sphere", radius: 0.05, position: [0.0, 0.3, 0.0])
      expect(mended(small_water(edits: [spout, add("inflow", prop: "spout", first: 90)]), "inflow_never")).to eq([])
      expect(
        found(
          small_water(
            edits: [
              prop("spout", shape: "sphere", radius: 0.05, position: [2.0, 0.3, 0.0]), add("inflow", prop: "spout")
            ]
          )
        )
      ).to include("inflow_outside")
      expect(found(small_water(edits: [spout, add("inflow", prop: "spout")]))).to eq([])
    end

    it "finds kicks that touch nothing, or throw too far for the substeps" do
      high = small_water(edits: [add("kick", position: [0.0, 0.3, 0.0], extent: [0.1, 0.1, 0.1])])
      expect(mended(high, "kick_misses")).not_to include("kick_misses")
      expect(found(small_water(edits: [add("kick", position: [0.0, 0.1, 0.0], extent: [0.1, 0.1, 0.1])]))).to eq([])
      fast = small_water(edits: [add("kick", position: [0.0, 0.1, 0.0], velocity: [0.0, 60.0, 0.0])])
      expect(mended(fast, "kick_fast")).to eq([])
    end

    it "finds walls that are thinner than a voxel" do
      thin =
        small_water(
          edits: [prop("plate", shape: "box", size: [0.2, 0.2, 0.01], position: [0.0, 0.1, 0.0], collider: true)]
        )
      expect(mended(thin, "wall_thin")).to eq([])
    end
  end
end
