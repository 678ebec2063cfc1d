# frozen_string_literal: true

module Vumbral
  # A whole shot as one file, taken to another machine.
  RSpec.describe Studio::Bundles do
    include FinishHelp

    around do |example|
      with_workshop { |workshop| (@workshop = workshop) && Dir.mktmpdir { |out| (@out = out) && example.run } }
    end

    def png(level) =
      Vips::Image
        .black(24, 16, bands: 3)
        .linear(1, level)
        .cast(:uchar)
        .copy(interpretation: :srgb)
        .write_to_buffer(".png")

    # One with a mesh, a mesh that moves, a picture, a plate and a table.
    def full_shot
      jar = @workshop.assets.bring(Formats::OBJ.write(Demo::Models.vase), "Jar.obj")[:digest]
      lid = [Demo::Models.lid, Demo::Models.bowl].map { |mesh| Formats::OBJ.write(mesh) }
      moving =
        @workshop.assets.bring_sequence(lid.each_with_index.to_h { |text, n| ["lid.#{n}.obj", -> { text }] })[:digest]
      sign = @workshop.assets.bring_picture(png(77), "Sign.png")[:digest]
      wall =
        [1, 2].to_h do |n|
          ["wall.#{n}.png", File.join(@out, "wall.#{n}.png").tap { |path| File.binwrite(path, png(60 * n)) }]
        end
      plate = @workshop.plates.bring(wall)[:digest]
      table =
        @workshop.plates.bring_table(
          Formats::Cube.new(Kernel::Buffer.of(:f32, [0.0, 0.0, 0.0, 1.0, 1.0, 0.9], 2, 1, 1, 3)).write, "Dusk.cube"
        )[
          :digest
        ]
      edits =
        {"jar" => jar, "lid" => moving}.map do |id, mesh|
          {
            "do" => "add",
            "kind" => "prop",
            "id" => id,
            "name" => id,
            "dials" => {
              "shape" => "mesh", "mesh" => mesh
            }
          }
        end
      edits << {
        "do" => "add",
        "kind" => "prop",
        "id" => "sign",
        "name" => "Sign",
        "dials" => {
          "shape" => "card", "picture" => sign
        }
      }
      shelve(
        @workshop,
        small_shot(
          "Packed",
          edits:
            edits + [layer("low", -1, what: "plate", plate: plate), layer("one"), effect("one", "table", table: table)]
        )
      )
    end

    def packed(id)
      row = work(@workshop, @workshop.exports.start(id, "zip", out: @out))
      raise row[:error] unless row[:state] == "done"

      File.join(@out, "#{id}.zip")
    end

    it "comes in again elsewhere with everything that it uses, byte for byte" do
      path = packed(id = full_shot)
      with_workshop do |other|
        row = other.bundles.unpack(path, "packed.zip")
        there, here = other.shots.document(row[:id]), @workshop.shots.document(id)
        expect(there.to_h).to eq(here.to_h)
        jar, lid = %w[jar lid].map { |node| here.node(node)[:mesh] }
        expect(other.assets.mesh(jar).points.bytes).to eq(@workshop.assets.mesh(jar).points.bytes)
        expect(other.assets.mesh_at(lid, 1.0).points.bytes).to eq(@workshop.assets.mesh_at(lid, 1.0).points.bytes)
        expect(other.assets.coloured(here.node("sign")[:picture]).bytes).to eq(
          @workshop.assets.coloured(here.node("sign")[:picture]).bytes
        )
        expect(other.plates.picture(here.node("low")[:plate], 1).bytes).to eq(
          @workshop.plates.picture(here.node("low")[:plate], 1).bytes
        )
        expect(other.plates.table(here.node("one-table")[:table]).colours.to_a.last).to be_within(1e-6).of(0.9)
        expect(other.assets.list("plate").map { |one| one[:name] }).to eq(
          @workshop.assets.list("plate").map { |one| one[:name] }
        )
      end
    end

    it "says in it what is in it, and has meshes in an open format too" do
      path = packed(id = full_shot)
      Zip::File.open(path) do |zip|
        expect(zip.read("README.txt")).to include("A shot of Vumbral", "plates/")
        mesh =
          Formats::PLY.read(zip.read("meshes/#{@workshop.shots.document(id).node("jar")[:mesh]}.ply"), name: "jar.ply")
        expect(mesh.count).to eq(@workshop.assets.mesh(@workshop.shots.document(id).node("jar")[:mesh]).count)
        expect(JSON.parse(zip.read("files.json")).map { |row| row["kind"] }.tally).to eq(
          "mesh" => 4, "picture" => 1, "plate" => 1, "table" => 1
        )
      end
    end

    {
      "no ZIP" => [->(path) { File.binwrite(path, "hello") }, /cannot be read as a ZIP file/],
      "a ZIP of something else" => [
        ->(path) do
          Zip::File.open(path, create: true) { |zip| zip.get_output_stream("a.txt") { |out| out.write("x") } }
        end,
        /is no shot of Vumbral/
      ],
      "names that lead elsewhere" => [
        ->(path) do
          Zip::File.open(path, create: true) do |zip|
            {"shot.json" => "{}", "files.json" => "[]", "../../evil.txt" => "x"}.each do |name, text|
              zip.get_output_stream(name) { |out| out.write(text) }
            end
          end
        end,
        %r{does not belong into a shot: "../../evil.txt"}
      ],
      "no shot in it" => [
        ->(path) do
          Zip::File.open(path, create: true) do |zip|
            {"shot.json" => "{}", "files.json" => "[]"}.each do |name, text|
              zip.get_output_stream(name) { |out| out.write(text) }
            end
          end
        end,
        /packed.zip/
      ]
    }.each do |what, (make, words)|
      it "refuses #{what} in a sentence and keeps nothing of it" do
        make.call(path = File.join(@out, "packed.zip"))
        expect(refusal { @workshop.bundles.unpack(path, "packed.zip") }[1]).to match(words)
        expect([@workshop.shots.list, @workshop.assets.list]).to eq([[], []])
      end
    end

    it "refuses one that was cut off" do
      whole = File.binread(packed(full_shot))
      File.binwrite(path = File.join(@out, "cut.zip"), whole[0, whole.size / 2])
      with_workshop do |other|
        expect(refusal { other.bundles.unpack(path, "cut.zip") }[1]).to match(/cannot be read as a ZIP file/)
      end
    end
  end
end
