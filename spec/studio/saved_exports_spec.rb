# frozen_string_literal: true

module Vumbral
  # Exports whose settings are kept with the shot.
  RSpec.describe Studio::ExportSettings do
    include FinishHelp

    around do |example|
      with_workshop { |workshop| (@workshop = workshop) && Dir.mktmpdir { |out| (@out = out) && example.run } }
    end

    def saved(name, **dials) =
      {
        "do" => "add", "kind" => "export", "id" => name, "name" => name.capitalize,
        "dials" => dials.transform_keys(&:to_s)
      }

    def shot(*edits) = shelve(@workshop, small_shot(edits: [set("general", :last, 4), *edits]))

    def export(id, node)
      row = work(@workshop, @workshop.exports.start_saved(id, node, out: File.join(@out, node)))
      raise row[:error] unless row[:state] == "done"

      Dir.children(File.join(@out, node)).sort
    end

    it "writes the frames that it names, at its size, under its names, with a log, the shot and a sheet" do
      id =
        shot(
          saved("dailies", as: "jpg", which: "part", from: 2, to: 4, size: 50.0, name: "{export} {shot}_{frame}"),
          layer("one"), effect("one", "exposure", stops: 0.5)
        )
      run_now(@workshop, id)
      expect(export(id, "dailies")).to eq(
        [
          "Dailies #{id}.log.txt", "Dailies #{id}.sheet.jpg", "Dailies #{id}.shot.json",
          *(2..4).map { |n| "Dailies #{id}_000#{n}.jpg" }
        ]
      )
      at = ->(name) { File.join(@out, "dailies", name) }
      picture = @workshop.shots.document(id).the(:picture)
      expect(Vips::Image.new_from_file(at["Dailies #{id}_0003.jpg"]).size).to eq(
        [picture[:width] / 2, picture[:height] / 2]
      )
      log = File.read(at["Dailies #{id}.log.txt"])
      expect(log).to include("2-4 as JPEG pictures").and include("one (Layer)").and include("Exposure: 0.5 stops")
      expect(Vips::Image.new_from_file(at["Dailies #{id}.sheet.jpg"]).width).to be > 320
      expect(Shot::Document.load(File.read(at["Dailies #{id}.shot.json"])).node("dailies")[:which]).to eq("part")
    end

    it "hands light on in a log, by density or for video, without the film's curve, and a plate reads it back" do
      id =
        shot(
          saved("log", as: "tif", which: "part", from: 1, to: 1, beside: false, space: "log"),
          saved("film", as: "dpx", which: "part", from: 1, to: 1, beside: false, space: "film"),
          saved("video", as: "png16", which: "part", from: 1, to: 1, beside: false, space: "video"),
          layer("grey", what: "colour", colour: [0.18, 0.5, 0.05]), set("picture", :tone, "soft")
        )
      run_now(@workshop, id)
      {"log" => "log", "film" => "film", "video" => "video"}.each do |name, space|
        file = File.join(@out, name, export(id, name)[0])
        plate = @workshop.plates.bring({File.basename(file) => file})
        light = @workshop.plates.picture(plate[:digest], 0, space)
        expect((0..2).map { |c| light[10, 10, c] }).to all_be_near([0.18, 0.5, 0.05], 0.004)
      end
    end

    it "hands on chosen grids, in half precision, within the box of a prop" do
      box = {
        "do" => "add",
        "kind" => "prop",
        "id" => "crate",
        "name" => "Crate",
        "dials" => {
          "shape" => "box", "size" => [9.0, 9.0, 9.0], "position" => [4.5, 0.0, 0.0], "shown" => false
        }
      }
      id =
        shot(
          box,
          saved("all", as: "vdb", which: "part", from: 4, to: 4, beside: false),
          saved(
            "some", as: "vdb", which: "part", from: 4, to: 4, beside: false, grid_v: false, grid_fuel: false,
            half: true, clip: "crate"
          )
        )
      run_now(@workshop, id)
      whole, part = %w[all some].map { |name| read(File.join(@out, name, export(id, name)[0])) }
      expect(part.keys).to contain_exactly("density", "temperature")
      expect(part["density"]["half"]).to be(true)
      rows = part["density"]["cells"].to_h
      expect(rows.size).to be_between(1, whole["density"]["cells"].size - 1)
      voxel, origin = part["density"].values_at("voxel", "origin")
      expect(rows.keys.map { |cell| origin[0] + voxel * cell[0] }.min).to be >= -1e-6
      expect(rows.map { |cell, value| (value - whole["density"]["cells"].to_h[cell]).abs }.max).to be < 1e-3
    end

    # As the format's own library finds it.
    def read(path)
      script = <<~PYTHON
        import sys, json, pyopenvdb as vdb
        grids, meta = vdb.readAll(sys.argv[1])
        print(json.dumps({g.name: {"half": g.saveFloatAsHalf, "voxel": g.transform.voxelSize()[0], "origin": list(g.transform.indexToWorld((0, 0, 0))),
          "cells": [[list(i.min), i.value if not isinstance(i.value, tuple) else list(i.value)] for i in g.iterOnValues() if i.count == 1]} for g in grids}))
      PYTHON
      output, status = Open3.capture2("/usr/bin/python3", "-c", script, path)
      raise output unless status.success?

      JSON.parse(output)
    end

    it "makes a movie with its sheet, and says what it cannot" do
      id =
        shot(
          saved("film", as: "mp4"), saved("odd", name: "../{frame}"), saved("still", name: "{shot}"),
          saved("none", as: "vdb", grid_density: false, grid_temperature: false, grid_v: false, grid_fuel: false),
          saved("strange", name: "{frame} {when}")
        )
      run_now(@workshop, id)
      expect(export(id, "film")).to eq(["#{id}.log.txt", "#{id}.mp4", "#{id}.sheet.jpg", "#{id}.shot.json"])
      {
        "odd" => %r{"\.\./\{frame\}" is no name for files}, "still" => /\{frame\}, which has to be in it/,
        "none" => /No grid of the volume is chosen/, "strange" => /\{when\} is not known/
      }.each { |node, words| expect(refusal { @workshop.exports.start_saved(id, node) }[1]).to match(words) }
      expect(refusal { @workshop.exports.start_saved(id, "camera") }[1]).to match(/is no saved export/)
    end

    it "writes frames while others are made, and says what went wrong with the writing" do
      order = []
      Studio::Meanwhile.run(2, ->(n) { order << n }) { |queue| 5.times { |n| queue << n } }
      expect(order).to eq([0, 1, 2, 3, 4])
      expect {
        Studio::Meanwhile.run(1, ->(n) { raise Refused.new("full", code: "full") if n == 1 }) do |queue|
          9.times { |n| queue << n }
        end
      }.to raise_error(Refused, "full")
      expect {
        Studio::Meanwhile.run(1, ->(n) { order << n }) { |queue| queue << 7 && raise("stopped") }
      }.to raise_error("stopped")
      expect(order.last).to eq(7)
    end
  end
end
