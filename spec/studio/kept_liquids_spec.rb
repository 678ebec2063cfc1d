# frozen_string_literal: true

module Vumbral
  # Liquids that were kept under a name, placed in other shots and handed on.
  RSpec.describe Studio::Caches::Water do
    around { |example| with_workshop { |workshop| (@workshop = workshop) && example.run } }

    let(:caches) { @workshop.caches }
    let(:pool) { shelve(@workshop, small_water(edits: [kick], time_scale: 0.5)) }
    let(:kept) { caches.keep_run(pool, 1, "The splash") }
    let(:other) { shelve(@workshop, small_shot("Elsewhere")) }

    def kick =
      {
        "do" => "add",
        "kind" => "kick",
        "name" => "Kick",
        "id" => "kick",
        "dials" => {
          "position" => [0.0, 0.1, 0.0], "extent" => [0.2, 0.2, 0.2], "first" => 2, "last" => 4
        }
      }

    def placed(**dials)
      @workshop.shots.edit(
        other,
        caches
          .placing(kept[:digest])
          .map { |edit| edit.merge("id" => "splash", "dials" => edit["dials"].merge(dials.transform_keys(&:to_s))) }
      )
      document.node("splash")
    end

    def document = @workshop.shots.document(other)

    def keys = @workshop.liquids.keys(@workshop.shots.document(pool), "draft")

    # Lowest and highest corner of what is seen of it at a frame.
    def bounds(frame) =
      Geometry::Shapes.build(
        Geometry::Shapes.outline(document.node("splash"), document: document, frame: frame), @workshop.assets
      ).bounds

    def printed =
      Vips::Image.new_from_file(
        @workshop.prints.path(other, JSON.parse(work(@workshop, @workshop.prints.take(other, 4))[:result])["number"])
      )

    before { run_now(@workshop, pool) }

    it "is kept with what it holds, whatever becomes of its shot" do
      expect(kept).to include(name: "The splash", first: 1, last: 6, there: 6, holds: ["liquid"])
      @workshop.shots.take_away(pool)
      @workshop.shots.let_go(pool)
      expect(caches.list[0]).to include(there: 6)
    end

    it "is placed in another shot as a prop that looks as it did, later and at its own pace" do
      expect(placed(kept_from: 3, kept_speed: 0.5)).to satisfy { |prop|
        prop[:shape] == "liquid" && prop.name == "The splash"
      }
      prop = document.node("splash")
      # Before it begins it stands still; then two frames of the shot are one of its own.
      expect((1..5).map { |frame| document.made(frame, prop) }).to eq([1, 1, 1, 2, 2].map { |frame| keys[frame] })
      expect([3, 4, 5].map { |frame| document.led(frame, prop) }).to match [
        0.0, be_within(1e-6).of(-0.5 * 0.5 / 24), 0.0
      ]
      expect(document.flown(5, prop)).to be_within(1e-9).of(0.5 * 0.5 / 24)
      rows = @workshop.bodies.make(document).find { |body| body["prop"] == "splash" }
      expect(rows["waters"].first(5)).to eq [keys[1], keys[1], keys[1], "#{keys[2]}+#{document.led(4, prop)}", keys[2]]
    end

    it "goes backwards and holds by its keys" do
      placed
      @workshop.shots.edit(
        other,
        [[1, 1.0], [4, -1.0]].map do |frame, value|
          {
            "do" => "key", "node" => "splash", "dial" => "kept_speed", "frame" => frame, "value" => value,
            "ease" => "held"
          }
        end
      )
      prop = document.node("splash")
      expect((1..7).map { |frame| document.made(frame, prop) }).to eq([1, 2, 3, 4, 3, 2, 1].map { |frame| keys[frame] })
      expect(document.flown(6, prop)).to be_negative
    end

    it "is seen where it stands, printed, and met by gas" do
      was = placed && bounds(4)
      @workshop.shots.edit(other, [set("splash", :position, [0.0, 0.2, 0.0]), set("splash", :collider, true)])
      expect(bounds(4)).to eq was
      run_now(@workshop, other)
      with = printed
      @workshop.shots.edit(other, [set("splash", :shown, false)])
      expect((with - printed).abs.avg).to be > 0.1
      # What it stood in the way of flows otherwise without it.
      @workshop.shots.edit(other, [set("splash", :collider, false)])
      expect(@workshop.runs.state(other, "draft")[:rows].map { |row| row[:state] }).not_to include("fresh")
    end

    it "tells how fast it goes as the shot sees it: slower, and turned with its prop" do
      placed(kept_speed: 0.5)
      speeds = ->(frame) do
        Geometry::Standing.new(document, @workshop.assets, only: ["splash"]).speeds(frame).to_a.each_slice(3)
      end
      # Its time goes by half as fast, and it is played at half of that.
      expect(speeds[5].map { |v| v[1] }.max).to be_within(1e-4).of(
        0.25 * @workshop.liquids.speeds(keys[3]).to_a.each_slice(3).map { |v| v[1] }.max
      )
      up = speeds[5].map { |v| v[1] }
      @workshop.shots.edit(other, [set("splash", :turn, [0.0, 0.0, 90.0])])
      expect(speeds[5].map { |v| -v[0] }).to all_be_near(up, 1e-5)
    end

    it "is handed on as meshes, particles and distances" do
      files = ->(as) do
        JSON
          .parse(work(@workshop, caches.export([kept[:digest]], as)[0])[:result])
          .then { |result| Dir[File.join(result["folder"], "*")].sort }
      end
      meshes = files["ply"]
      expect(meshes.size).to eq 6
      mesh = Formats::PLY.read(File.binread(meshes[3]))
      expect(mesh.count).to eq @workshop.liquids.surface(keys[4]).count
      expect(files["drops"].size).to eq 6
      expect(files["vdb-surface"].size).to eq 6
      expect(files["png"].size).to eq 6
      expect(refusal { caches.export([kept[:digest]], "vdb") }[1]).to include "nothing that could be handed on as"
    end

    it "tells that it was let go, and shows the shot's own instead if one likes" do
      placed
      finding = -> { @workshop.preflights.of(other).find { |one| one[:code] == "kept_gone" } }
      expect(finding[]).to be_nil
      @workshop.shots.take_away(pool)
      @workshop.shots.let_go(pool)
      expect(caches.let_go(kept[:digest])).to be_positive
      expect(document.made(3, document.node("splash"))).to be_nil
      expect(finding[]).to include(node: "splash", text: a_string_including("was let go"))
      @workshop.shots.edit(other, finding[][:remedy][:edits])
      expect(finding[]).to be_nil
    end
  end
end
