# frozen_string_literal: true

module Vumbral
  # Runs real work on a small scale with built kernels, keeps what the first calls of each were
  # given and gave, and lets plain Ruby do the same again.
  RSpec.describe Kernel::Library do
    Call = Struct.new(:library, :name, :given, :after, :result) # rubocop:disable Lint/ConstantDefinitionInBlock

    # Gas kernels are called once for each axis.
    def kept(library) = library.name.include?("::Gas::") ? 3 : 1

    def copied(values)
      values.map do |value|
        next value.copy if value.is_a?(Kernel::Buffer)

        value.class.is_a?(Kernel::Record) ? value.class.new(*copied(value.to_a)) : value
      end
    end

    # The arguments with records taken apart.
    def flat(values) = values.flat_map { |value| value.class.is_a?(Kernel::Record) ? value.to_a : [value] }

    def libraries
      LOADER.eager_load_dir(File.join(ROOT, "core"))
      Kernel.libraries.select { |library|
        library.name&.start_with?("Vumbral::") &&
          !%w[Vumbral::SubsetKernels Vumbral::RecordKernels].include?(library.name)
      }
    end

    def recorded
      calls = []
      counts = Hash.new(0)
      libraries.each do |library|
        allow(library.native).to receive(:call).and_wrap_original do |original, name, values|
          next original.call(name, values) if (counts[[library, name]] += 1) > kept(library)

          given = copied(values)
          result = original.call(name, values)
          calls << Call.new(library, name, given, copied(values), result)
          result
        end
      end
      yield
      calls
    end

    def force(what, **dials)
      {"do" => "add", "kind" => "force", "name" => what,
       "dials" => {"what" => what, "strength" => 1.0}.merge(dials.transform_keys(&:to_s))}
    end

    # A mesh with a picture's places and one with paint.
    Shelf = Struct.new(:meshes) do # rubocop:disable Lint/ConstantDefinitionInBlock
      def mesh(digest, *at) =
        if at.empty?
          meshes.fetch(digest)
        else
          Geometry::Clip.new(%w[moving moved], step: 2).mesh(0.5 * at[0]) { |frame| meshes.fetch(frame) }
        end

      def picture(_) = Kernel::Buffer.of(:f32, [0.0, 1.0, 0.5, 1.0], 2, 2)
    end

    def tile(colours)
      Formats::OBJ.read("#{colours.each_with_index.map { |c, n|
        " \
" + "v #{(n % 2) * 0.4 - 0.2} 0.3 #{(n / 2) * 0.4 - 0.2} #{([c] * 3).join(" ")}"
      }.join("\n")}\nvt 0 0\nvt 1 0\nvt 0 " \
"1\nvt 1 1\nf 1/1 3/3 4/4 2/2\n")
    end

    # Everything that computes, in a small way: meshes, sources, forces, colliders that stand and
    # move, a gas that burns, its detail, files, a picture.
    def small_world
      edits = [
        set("chamber", :size, [0.9, 1.0, 0.8]),
        set("chamber", :voxel, 0.1),
        set("chamber", :viscosity, 0.01),
        set("prop-1", :radius, 0.3),
        set("source-1", :temperature, 1400.0),
        set("source-1", :fuel, 9.0),
        set("source-1", :along, 1.0),
        set("source-1", :rough, 1.0),
        set("source-1", :coloured, true),
        set("chamber", :air, 2.0),
        set("chamber", :front, 20.0),
        set("chamber", :outward, 0.01),
        set("source-1", :map, "formula"),
        set("source-1", :formula, "0.5 + noise(9 * x, y, z) ^ 2"),
        set("general", :last, 4),
        set("detail", :on, true),
        set("look", :formula, "value * (0.5 + x)"),
        set("look", :edge, 0.5),
        {"do" => "add", "kind" => "texture", "id" => "woven"},
        set("look", :texture, "woven"),
        set("look", :density_ramp, [0.0, 2.0].map { |at| {"at" => at, "value" => at} }),
        set("look", :coloured_by, "heat"),
        set("camera", :shutter, 180.0),
        set("camera", :aperture, 2.0),
        set("camera", :samples, 2),
        set("sun-1", :size, 3.0),
        {
          "do" => "add",
          "kind" => "prop",
          "id" => "block",
          "name" => "Block",
          "dials" => {
            "shape" => "box", "size" => [0.3, 0.2, 0.25], "position" => [0.1, 0.75, 0.0], "collider" => true,
            "friction" => 0.5
          }
        },
        {"do" => "key", "node" => "block", "dial" => "position", "frame" => 1, "value" => [0.1, 0.75, 0.0]},
        {"do" => "key", "node" => "block", "dial" => "position", "frame" => 4, "value" => [0.0, 0.7, 0.0]},
        {
          "do" => "add",
          "kind" => "prop",
          "id" => "post",
          "name" => "Post",
          "dials" => {
            "shape" => "cylinder", "radius" => 0.12, "tall" => 0.4, "position" => [-0.3, 0.2, 0.2], "collider" => true,
            "body" => "shell"
          }
        },
        {
          "do" => "add",
          "kind" => "emitter",
          "id" => "sparks",
          "name" => "Sparks",
          "dials" => {
            "rate" => 200.0, "glow" => 2.0
          }
        },
        {
          "do" => "add",
          "kind" => "source",
          "name" => "Trails",
          "dials" => {
            "from" => "particles", "emitter" => "sparks", "as" => "hold"
          }
        },
        *%w[tile paint].map do |id|
          {
            "do" => "add",
            "kind" => "prop",
            "id" => id,
            "name" => id,
            "dials" => {
              "shape" => "mesh", "mesh" => id, "shown" => false
            }
          }
        end,
        *[%w[tile picture], %w[paint paint]].map do |prop, map|
          {
            "do" => "add",
            "kind" => "source",
            "name" => map,
            "dials" => {
              "prop" => prop, "from" => "surface", "map" => map, "picture" => "x", "heats" => false
            }
          }
        end,
        force("turbulence", mask: "speed", falloff: "sphere"),
        force("cling", prop: "post"),
        force("wipe", falloff: "box"),
        force("wind", uneven: 0.5),
        {
          "do" => "add",
          "kind" => "texture",
          "id" => "patches",
          "name" => "Patches",
          "dials" => {
            "what" => "noise"
          }
        },
        force("drag", texture: "patches"),
        set("detail", :texture, "patches")
      ]
      document = small_shot(edits: edits)
      shelf = Shelf.new({"tile" => tile([0, 1, 0, 1]), "paint" => tile([0, 1, 0.5, 1])})
      plan = Gas::Plan.new(document, :full)
      stage, detail = Gas::Stage.new(plan, shelf), Gas::Detail.new(plan, shelf)
      state = stage.still
      (1..4).each do |frame|
        state, = stage.advance(state, frame)
        detail.call(Grid::Bricks.pack(state), frame, wanted: frame == 4)
      end
      Gas::Solver.new(size: state.size, voxel: 0.1, open: sides(true)).step(state.copy, seconds: 0.02,
        gas: calm(lift: 1.0, sharp: false), feeds: [])
      Flow::CarryKernels.scale(random_field(2, 3, 4), 1.1)
      Flow::MatterKernels.extent(Kernel::Buffer.new(:i32, 6), random_field(3, 2, 4), 0.4)
      bricks = Grid::Bricks.pack(state)
      head = {"voxel" => 0.1, "corner" => plan.corner}
      Formats::VDB.frame(bricks, voxel: 0.1, corner: plan.corner, ambient: 293.0)
      Formats::VDB.frame(
        bricks, voxel: 0.1, corner: plan.corner, ambient: 293.0, half: true,
        inside: [plan.corner, plan.corner.map { |c| c + 0.5 }]
      )
      medium = Light::Medium.of(bricks, head, moving: true)
      renderer = Picture::Renderer.new(Picture::Renderer.settings(document, 4), shelf)
      image = renderer.image(medium, 20, 12, sparks: Picture::Sparks.new(document, shelf).at(4))
      renderer.develop(image)
      renderer.cut_out(image)
      Picture::Reference.new(Picture::Renderer.settings(document, 4)).image(medium, 6, 4, paths: 2)
      Light::Histogram.of(bricks, "smoke", 293.0)
      rig = Light::Rig.new(Light::Rig.settings(document, 4))
      scene = Picture::PropScene.new(Picture::PropScene.settings(document, 4), shelf)
      Light::ViewVolume.encode(medium, medium.light(rig, scene, medium.fire(rig)), medium.fire(rig))
      %w[speed divergence temperature velocity].each { |name| Light::ViewVolume.channel(bricks, head, name, 293.0) }
      Grid::Coarsening.half(state.smoke)
      Geometry::Builders.torus(0.4, 0.1, sides: 6, around: 5).then { |mesh|
        [mesh.corners, mesh.area, mesh.volume]
      }
      further_chambers
      moving_mesh
      read_files
      sculpts
      sculpts
      closed = Kernel::Buffer.new(:u8, 8, 8, 8)
      Flow::ShapeKernels.mark(closed, field(8, 8, 8) { |k, j, i|
        ([k, j,
          i].any? { |n| n == 2 || n == 5 }) ? -1.0 : 1.0
      }, 0.0, 1, Grid::Region.new(0, 8, 0, 8, 0, 8))
      Gas::Solver.new(size: [8, 8, 8], voxel: 0.1, open: sides(true), solid: closed)
        .step(Gas::State.still([8, 8, 8]).tap { |s| s.v.replace(random_field(8, 9, 8)) }, seconds: 0.02, gas: calm,
          feeds: [])
    end

    def further_chambers
      boxes = {position: [0.8, 0.0, 0.0], open_y1: false}, {position: [3.0, 0.0, 0.0]}
      document = small_shot(edits: [set("chamber", :size, [0.8] * 3), set("chamber", :voxel, 0.1),
        *boxes.map { |dials|
          {"do" => "add", "kind" => "annex", "name" => "Annex", "dials" => {"size" => [0.8] *
                3}.merge(dials.transform_keys(&:to_s))}
        }])
      chambers = Gas::Chambers.new(Gas::Plan.new(document, :full), nil)
      Grid::Bricks.pack_all(chambers.advance(chambers.still, 1)[0])
    end

    # A ring that swells by its file, feeds what it carries and stands in the way; and what a file's motion is made of.
    def moving_mesh
      ring = Geometry::Builders.torus(0.25, 0.12, sides: 5, around: 4)
      dyed =
        Geometry::Mesh.new(
          ring.points, ring.triangles, nil, places: Kernel::Buffer.new(:f32, ring.count, 6),
          colours: Geometry::Colours.runs([[0, [0.2, 0.5, 0.7]]], ring.count)
        )
      shelf =
        Shelf.new(
          {
            "moving" => dyed,
            "moved" => dyed.with(ring.transformed(Geometry::Transform.place(scale: [1.3, 1.0, 1.3])).points)
          }
        )
      document =
        small_shot(
          edits: [
            set("chamber", :voxel, 0.17), set("general", :last, 2), set("prop-1", :shape, "mesh"),
            set("prop-1", :mesh, "moving"), set("prop-1", :plays, true), set("prop-1", :position, [0.0, 0.6, 0.0]),
            set("prop-1", :collider, true), set("source-1", :from, "surface"), set("source-1", :carried, 100.0)
          ]
        )
      [
        dyed.with(ring.transformed(Geometry::Transform.place(scale: [1.2, 1.0, 1.0])).points),
        Geometry::Builders.sphere(0.3, divisions: 0)
      ].each { |later| Geometry::SurfaceSpeed.of(dyed, later, 0.1) }
      chambers = Gas::Chambers.new(Gas::Plan.new(document, :full), shelf)
      chambers.advance(chambers.still, 2)
      Picture::PropScene.new(Picture::PropScene.settings(document, 2), shelf)
      dyed.flipped.corners
      shape_operations(ring)
      maps_and_fronts
      fogs_and_lamps
      deltas = Kernel::Buffer.of(:f32, Array.new(3 * ring.points.size) { |n| 0.01 * n }, 3, ring.points.size)
      Geometry::DeformKernels.morph(
        Kernel::Buffer.new(:f32, *ring.points.shape), ring.points, deltas, Kernel::Buffer.of(:f32, [0.2, 0.5, -0.1])
      )
      joints = Kernel::Buffer.of(:i32, Array.new(2 * ring.points.dim(0)) { |n| n % 2 }, ring.points.dim(0), 2)
      weights = Kernel::Buffer.of(:f32, [0.25, 0.75] * ring.points.dim(0), ring.points.dim(0), 2)
      matrices = Kernel::Buffer.of(:f32, Array.new(24) { |n| 0.1 * n }, 2, 12)
      Geometry::DeformKernels.skin(Kernel::Buffer.new(:f32, *ring.points.shape), ring.points, joints, weights, matrices)
      Formats::OBJ.read("v 0 0 0 1 0 0\nv 1 0 0 0 1 0\nv 0 1 0 0 0 1\nusemtl red\nf 1 2 3\n")
    end

    def shape_operations(ring)
      Geometry::Extrusion.new(Geometry::Lettering.contours("Bi"), depth: 0.1).mesh
      bent = {"axis" => "y", "angle" => 70.0, "towards" => 20.0, "bend_from" => 0.2, "bend_to" => 0.9}
      rows = [
        {"what" => "displace", "strength" => 0.1, "size" => 0.2, "octaves" => 2, "seed" => 3},
        {
          "what" => "displace",
          "bumps" => "texture",
          "strength" => 0.1,
          "row" =>
            small_shot(
              edits: [{"do" => "add", "kind" => "texture", "id" => "t", "name" => "T", "dials" => {}}]
            ).then { |shot| Geometry::Textures.row(shot, shot.node("t"), 1) },
          "world" => Geometry::Transform.identity.rows
        },
        {
          "what" => "displace", "strength" => 0.1, "size" => 0.2, "octaves" => 2, "seed" => 3, "bumps" => "waves",
          "along" => [1.0, 1.0, 0.0], "time" => 0.4
        },
        {"what" => "bend", **bent},
        {"what" => "twist", **bent},
        {"what" => "cage", **8.times.to_h { |n| ["corner_#{n}", [0.01 * n, 0.0, -0.02 * n]] }},
        {"what" => "smooth", "rounds" => 2},
        {"what" => "lay", "lay_as" => "ball", "lay_size" => 0.5, "lay_turn" => 20.0, "lay_aside" => 0.1},
        {
          "what" => "combine",
          "how" => "cut",
          "edge" => 0.09,
          "other" => {
            "outline" => {
              "shape" => "box", "size" => [0.3, 1.0, 1.0]
            },
            "rows" => Geometry::Transform.identity.rows
          }
        }
      ]
      rows.each { |row| Geometry::Operations.apply(ring, [row.merge("name" => row["what"])], nil) }
      laid = [
        {"what" => "lay", "name" => "Lay", "lay_as" => "flat", "lay_size" => 1.0, "lay_turn" => 0.0},
        rows[0].merge("name" => "Displace", "space" => "surface")
      ]
      Geometry::Operations.apply(ring, laid, nil)
    end

    def maps_and_fronts
      map = ->(what, **dials) do
        {
          "do" => "add",
          "kind" => "map",
          "id" => "map-#{what}",
          "dials" => {
            "to" => "prop-1", "what" => what, **dials.transform_keys(&:to_s)
          }
        }
      end
      front = {
        "do" => "add",
        "kind" => "front",
        "id" => "front",
        "dials" => {
          "prop" => "prop-1", "places" => [[0.0, 0.3, 0.1]], "speed" => 2.0, "reversed" => true
        }
      }
      faces = {
        "do" => "add",
        "kind" => "front",
        "id" => "faced",
        "dials" => {
          "prop" => "prop-1", "starts" => "faces", "faces" => [[0.0, 0.3, 0.1]]
        }
      }
      box = {
        "do" => "add",
        "kind" => "front",
        "id" => "boxed",
        "dials" => {
          "prop" => "prop-1", "starts" => "box", "box_position" => [0.0, 0.2, 0.0], "box_size" => [1.0, 0.2, 1.0]
        }
      }
      sweep = {
        "do" => "add",
        "kind" => "front",
        "id" => "swept",
        "dials" => {
          "prop" => "prop-1", "starts" => "sweep", "paced_by" => "pattern"
        }
      }
      pattern = {"do" => "add", "kind" => "texture", "id" => "pattern", "dials" => {"octaves" => 1}}
      document =
        small_shot(
          edits: [
            set("prop-1", :divisions, 2), pattern, front, box, sweep, faces,
            *%w[front boxed swept faced].map { |id| map.call("front", front: id).merge("id" => "by-#{id}") },
            map.call("box"), map.call("ball"), map.call("near", near: "ground", heats: true), map.call("noise"),
            map.call("formula", formula: "value * x"), set("prop-1", :breaks, true), set("prop-1", :break_frame, 4),
            set("prop-1", :pieces, 2)
          ]
        )
      settings = [3, 5].map { |frame| Picture::PropScene.settings(document, frame) }
      settings.each { |props| Picture::PropScene.new(props, nil) }
      mesh =
        Geometry::Mesh.from(
          [0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 0.0, 1.0], [0, 1, 2], places: [0.0, 0.0, 1.0, 0.0, 0.0, 1.0],
          paint: [0.1, 0.5, 0.9]
        )
      shelf =
        Struct
          .new(:picture) do
            undef_method(:picture) &&
              define_method(:picture) { |_| Kernel::Buffer.of(:f32, [0.1, 0.7, 0.4, 0.9], 2, 2) }
          end
          .new
      rows =
        [{"what" => "picture", "picture" => "p"}, {"what" => "paint"}].map do |row|
          {"name" => "Map", "how" => "plus", "opacity" => 0.5, "inverted" => true}.merge(row)
        end
      values = Maps::Layers.new(rows, shelf).at(mesh, {}, Geometry::Transform.identity)
      Maps::LayerKernels.bytes(Kernel::Buffer.new(:u8, *values.shape), values)
    end

    # A spot with a beam, a sheet of light and fogs of all kinds, with all textures.
    def fogs_and_lamps
      add = ->(kind, id, **dials) do
        {"do" => "add", "kind" => kind, "id" => id, "dials" => dials.transform_keys(&:to_s)}
      end
      textures =
        %w[noise cells bands stripes fall picture formula].map do |what|
          add.call(
            "texture", what.sub("picture", "pictured"), what: what, octaves: 2, size: 0.4,
            change: (what == "bands") ? 1.0 : 0.0, picture: (what == "picture") ? "both ways" : nil,
            ramp: [{"at" => 0.0, "value" => 0.2}, {"at" => 1.0, "value" => 1.0}]
          )
        end
      fogs = [
        add.call("fog", "all", course: "low", texture: "noise", reach: 5.0),
        add.call("fog", "ball", fills: "prop", prop: "prop-1", texture: "cells", soft: 0.1),
        add.call("fog", "box", fills: "prop", prop: "crate", texture: "bands"),
        *%w[stripes fall pictured formula].map do |id|
          add.call("fog", "fog-#{id}", fills: "prop", prop: "crate", texture: id)
        end
      ]
      document =
        small_shot(
          edits: [
            set("prop-1", :shown, true),
            set("prop-1", :divisions, 1),
            set("prop-1", :position, [0.0, 0.4, 0.0]),
            add.call("prop", "crate", shape: "box", size: [0.8, 0.5, 0.7], position: [0.2, 0.5, 0.1]),
            *textures,
            *fogs,
            add.call("lamp", "spot", as: "spot", position: [0.0, 1.0, 1.0], beam: 0.2),
            add.call("lamp", "sheet", as: "area", position: [0.7, 0.9, 1.0]),
            add.call("lamp", "point", position: [0.1, 0.45, 0.55], radius: 0.05),
            add.call(
              "prop", "card", shape: "card", size: [0.4, 0.4, 1.0], position: [0.3, 0.6, 0.6], picture: "both ways",
              opacity: 0.7
            ),
            add.call("prop", "glass", radius: 0.15, divisions: 1, position: [-0.4, 0.3, 0.7], clear: 1.0)
          ]
        )
      shelf = Class.new {
        def picture(_digest) = Vumbral::Kernel::Buffer.of(:f32, [0.2, 0.9, 0.4, 0.7], 2, 2)

        def coloured(_digest) =
          Vumbral::Kernel::Buffer.of(:f32, [[0.9, 0.1, 0.1, 1.0], [0.1, 0.9, 0.2, 0.4]].flatten * 4, 2, 4, 4)
      }.new
      renderer = Picture::Renderer.new(Picture::Renderer.settings(document, 2), shelf)
      image = renderer.image(nil, 12, 8)
      around = Shot::Edits.apply(document, [set("sky", :model, "picture"), set("sky", :picture, "both ways")])[0]
      Picture::Renderer.new(Picture::Renderer.settings(around, 2), shelf).image(nil, 4, 3)
      renderer.cut_out(image, deep: true)
      settings = Picture::Renderer.settings(document, 2)
      hot =
        Light::Medium.new(
          Kernel::Buffer.new(:f32, 2, 2, 2).fill(0.5), 1.0, [0.0] * 3,
          heat: Kernel::Buffer.new(:f32, 2, 2, 2).fill(100.0)
        )
      passes = Picture::Passes.new(settings, Picture::Camera.settings(document, 1), shelf, 12, 8, medium: hot)
      passes.masks({"crate" => 0.5, "prop-1" => 2.0}, gas: 3.0)
      passes.motion
      passes.heat
      wide = {"aperture" => 2.8, "samples" => 2, "noise" => 0.4, "denoise" => true, "fireflies" => true}
      [wide, {"crop" => [0.5, 0.5, 1.0, 1.0]}].each do |camera|
        Picture::Renderer.new(settings.merge("camera" => settings["camera"].merge(camera)), shelf).image(nil, 4, 3)
      end
      sampler = Picture::Sampler.new(8, 12, wide.merge("samples" => 4))
      4.times { sampler.add(image) }
      sampler.picture
      stub_const("Vumbral::Picture::HazeView::CELLS", 30)
      Picture::HazeView.encode(settings, shelf)
      Picture::PaneKernels.sum(image.copy, image, Kernel::Buffer.of(:f32, [0.5, 1.0, 2.0]), false)
      Formats::EXR.write({"R" => [image, 0], "Z" => [image, 1]}, whole: ["Z"])
      Grid::ShrinkKernels.mean(
        Kernel::Buffer.new(:f32, 2, 2, 1), Kernel::Buffer.of(:f32, Array.new(12) { |n| n * 0.1 }, 3, 4, 1)
      )
      Maps::PatternKernels.nearest(
        Kernel::Buffer.new(:f32, 2, 2, 2), Kernel::Buffer.of(:f32, [0.1, 0.2, 0.3, 0.8, 0.9, 0.7], 2, 3),
        Kernel::Buffer.of(:f32, [0.3, 0.6]), Kernel::Buffer.of(:f32, [0.0, 0.0, 0.0, 0.5])
      )
      row =
        Kernel::Buffer.of(
          :f32, Geometry::Textures.row(document, document.node("cells"), 1), 1, Geometry::Textures::WIDTH
        )
      Geometry::TextureKernels.look(
        Kernel::Buffer.new(:f32, 3, 4), row, 0, Kernel::Buffer.of(:f32, [0.0, 0.1, 0.2, 1.0, 0.0, 0.0, 0.0, 1.0, 0.0])
      )
    end

    def sculpts
      add = ->(kind, name, **dials) do
        {"do" => "add", "kind" => kind, "id" => name, "name" => name, "dials" => dials.transform_keys(&:to_s)}
      end
      steps = [
        {what: "combine", other: "ball", how: "union", blend: 0.1},
        {what: "shell", wall: 0.1},
        {what: "relax", radius: 0.2},
        {what: "distance"},
        {what: "density", inside: 0.05},
        {what: "grow", by: 0.05, strength: 0.5},
        {what: "texture", texture: "cells", sum: "subtract"},
        {what: "ripples", points: "corners", points_of: "ball", sum: "add"},
        {what: "ripples", together: false, drift: 0.1},
        {what: "warp", far: 0.05},
        {what: "flow", far: 0.05},
        {what: "mirror"},
        {what: "erode", amount: 0.3},
        {
          what: "brush",
          strokes: [
            {
              "way" => "smooth", "radius" => 0.2, "strength" => 0.7, "hard" => 0.3, "frame" => 1,
              "places" => [[0.0, 0.4, 0.0, 1.0], [0.2, 0.5, 0.1, 0.4]]
            }
          ]
        },
        {what: "remap"},
        {what: "formula", formula: "value * (0.5 + noise(x, y, z))"},
        {what: "median"},
        {what: "sharpen", radius: 0.2},
        {what: "limit", mask: "prop", mask_prop: "ball", mask_inverted: true}
      ]
      document =
        small_shot(
          edits: [
            add.call("prop", "ball", shape: "sphere", radius: 0.2, divisions: 1, position: [0.3, 0.4, 0.0]),
            add.call("texture", "cells", what: "cells"), add.call("sculpt", "cloud", prop: "prop-1", voxel: 0.15),
            add.call("sculpt", "dots", from: "points", prop: "ball", voxel: 0.1),
            add.call("sculpt", "block", from: "region", voxel: 0.2),
            add.call("step", "other", sculpt: "block", what: "sculpt", volume_of: "dots"),
            *steps.each_with_index.map { |dials, n| add.call("step", "step-#{n}", sculpt: "cloud", order: n, **dials) }
          ]
        )
      Geometry::Resting.rise(document, document.node("ball"), 1, nil)
      made = Geometry::Recipes.of(document, 1).map { |recipe| Sculpt::Carving.new(recipe, nil).channels }
      frame = Sculpt::Frame.of(made + [made[1].merge(heat: made[1][:density])])
      Sculpt::SkinKernels.parts(
        Kernel::Buffer.of(:i32, (0...4).to_a), Kernel::Buffer.new(:f32, 4),
        Kernel::Buffer.of(:f32, (0...12).map { |n| Math.sin(n) }, 4, 3), Kernel::Buffer.of(:i32, [1, 2, 3], 1, 3)
      )
      made[1][:density].dense
      made[1][:density].tally(0.0, 1.0, 4)
      like = made[1][:density]
      values = Kernel::Buffer.new(:f32, 16, 16, 16)
      Geometry::DistanceKernels.lay(
        Kernel::Buffer.new(:f32, 3, 18, 4), Kernel::Buffer.of(:f32, (0...8192).to_a, 32, 16, 16),
        Kernel::Buffer.of(:i32, [0, 0, 0, 0, 1, 0], 2, 3)
      )
      Sculpt::FieldKernels.placed(
        values, Kernel::Buffer.new(:i32, 1, 3), like.lattice, like.cells, like.lattice,
        Kernel::Buffer.of(:f32, [0.8, 0.6, 0.0, 0.1, -0.6, 0.8, 0.0, 0.2, 0.0, 0.0, 1.0, 0.0]), 0.5
      )
      wind = Grid::VectorField.still([3, 3, 3]).tap { |flow| flow.each { |part| part.fill(0.4) } }
      Sculpt::MoveKernels.carried(
        values, Kernel::Buffer.new(:i32, 1, 3), like.cells, like.lattice, wind, Grid::Lattice.new(0.0, 0.0, 0.0, 0.5),
        0.3, 2
      )
      puff = Kernel::Buffer.of(:f32, (0...27).map { |n| Math.sin(n).abs }, 3, 3, 3)
      Sculpt::BetweenKernels.led(
        Kernel::Buffer.new(:f32, 4, 3, 3), Grid::Lattice.new(0.1, 0.0, 0.0, 0.5), puff, Grid::Spline.of(puff), wind,
        Grid::Lattice.new(0.0, 0.0, 0.0, 0.5), Kernel::Buffer.of(:f32, [0.3, 2.0, 0.6])
      )
      Sculpt::Drift.new(
        [[like, Sculpt::Drift::Source.new(wind, Grid::Lattice.new(0.0, 0.0, 0.0, 0.5), nil, 0.5, nil)]]
      ).write(Kernel::Buffer.new(:f16, 1, 3, 4096), Kernel::Buffer.new(:i32, 1, 3), 0)
      marks = Kernel::Buffer.new(:u8, *like.counts).tap { |all| all[0, 0, 0] = 1 }
      boxes = Kernel::Buffer.new(:i32, like.index.size, 6)
      Sculpt::AgainKernels.unlike(
        boxes, like.cells, like.each_value { |out, before| Sculpt::StepKernels.limit(out, before, 0.2, 0.9) }.cells
      )
      Sculpt::AgainKernels.reached(Kernel::Buffer.new(:u8, *like.counts), boxes, 3)
      Sculpt::AgainKernels.wider(Kernel::Buffer.new(:u8, *like.counts), marks, 1)
      like.joined(like.within(marks), marks)
      Sculpt::Sketch.of(like, 5, 4)
      frame.facts
      Sculpt::Frame.of(made, run: Sculpt::Frame.taken(frame.bricks, frame.lattice))
      Sculpt::Frame.cube(made[0][:density], 3)
      Sculpt::Skin.without_crumbs(Sculpt::Skin.of(made[0][:density], 0.5), 0.1)
      Sculpt::StepKernels.shifted(
        Kernel::Buffer.new(:f32, 3, 4, 5), Kernel::Buffer.of(:f32, (0...24).to_a, 2, 3, 4),
        Kernel::Buffer.of(:i32, [1, 0, 1]), 2.0
      )
      volume_files
    end

    # Packed as volumes are.
    def volume_files
      bytes = Kernel::Buffer.of(:u8, [0x32, 1, 2, 3, 2, 0, 0x10, 9])
      Formats::VDBReadKernels.lz4(Kernel::Buffer.new(:u8, 10), bytes)
      Formats::VDBReadKernels.ordered(Kernel::Buffer.new(:u8, 8), bytes, 4)
      Formats::VDBReadKernels.spread(
        Kernel::Buffer.new(:f32, 8), Kernel::Buffer.of(:f32, [1.5, 2.5]), Kernel::Buffer.of(:u8, [0x21]),
        Kernel::Buffer.of(:u8, [0x0f]), -1.0, 3.0
      )
      Formats::VDBReadKernels.widen(Kernel::Buffer.new(:f32, 2), Kernel::Buffer.of(:f16, [0.5, -2.0]))
      Formats::VDBReadKernels.lay(
        Kernel::Buffer.new(:f32, 8, 8, 8), Kernel::Buffer.new(:i32, 1, 3),
        Kernel::Buffer.of(:f32, (0...512).to_a, 1, 512)
      )
      Formats::VDBReadKernels.fill(Kernel::Buffer.new(:f32, 8, 8, 8), Kernel::Buffer.of(:i32, [0, 1, 2]), 4, 0.5)
    end

    def read_files
      text = "solid Töpf\n facet normal 0 0 1\n outer loop\n  vertex 0 0 0\n  VERTEX 1.5e0 -0 0\n vertex 0 1 " \
"-2.5E-1\nendsolid\n"
      mesh = Formats::STL.read(text)
      Formats::STL.read(Formats::STL.write(mesh)).open_edges
      setting = Shot::Formula.setting(frame: 2, time: 0.1, seed: 1, first: [0.0, 0.1, 0.2], voxel: 0.1, low: [0.0] * 3,
        size: [1.0] * 3)
      Shot::FormulaKernels.divisions_by_nothing(Shot::Formula.new("1 / x + noise(x, y, z)").program, setting,
        Kernel::Buffer.of(:i32, [2, 3, 4]))
    end

    # A pool that is stirred by all that may stir one.
    # Every effect, mask and way of being laid, on a picture of a few pixels.
    def finishes
      stub_const("Vumbral::Finish::Masks::COARSE", 2)
      stub_const("Vumbral::Finish::Between::STEPS", 1)
      extend FinishHelp

      image = painted(18, 14) { |x, y| [0.2 + 0.3 * x, 2.9 - 0.05 * y, (x > 9) ? 2.0 : 0.1, 1.0] }
      passes =
        {"heat" => [40.0], "depth" => [3.0], "motion" => [3.0, 1.0]}.transform_values do |row|
          Kernel::Buffer.of(:f32, row * (18 * 14), 14, 18, row.size)
        end
      solid = Formats::Cube.new(Kernel::Buffer.of(:f32, Array.new(24) { |n| (n * 7 % 10) / 10.0 }, 2, 2, 2, 3))
      flat = Formats::Cube.new(Kernel::Buffer.of(:f32, [0.0, 0.1, 0.0, 1.0, 0.8, 0.9], 2, 1, 1, 3))
      effects =
        Shot::Kinds.fetch(:effect).dials[:what].choices.keys.map do |what|
          effect("all", what.to_s, table: "any", space: "log", size: 12.0, coloured: 0.3, count: 5, from: 0.02)
        end
      masks =
        (Shot::Kinds.fetch(:mask).dials[:what].choices.keys - %i[prop differs texture]).map do |what|
          mask("one", what.to_s, points: [[10.0, 10.0, 5.0], [80.0, 20.0, 0.0], [50.0, 90.0, 0.0]])
        end
      edits = [
        layer("ground", -2, what: "gradient", angle: 30.0), layer("one", 0, blend: "soft", x: 3.0, turn: 10.0), *masks,
        layer("two", 1, blend: "inside"), effect("one", "wrap"), effect("one", "shimmer", 1, by: "cover"),
        layer("all", 2, what: "change"), *effects
      ]
      stand = FinishHelp::Stand.new(shots: image, passes: passes, table: solid)
      whole = composite(edits, stand, width: 18, height: 14)
      %w[screen video film].each do |space|
        composite(
          [layer("one"), effect("one", "table", table: "any", space: space)],
          FinishHelp::Stand.new(shots: image, table: flat), width: 18, height: 14
        )
      end
      Finish::BlendKernels.back(whole, Kernel::Buffer.new(:f32, 14, 18, 3))
      Finish::GradeKernels.take(whole.copy, 2, true)
      Finish::WarpKernels.inset(whole.copy, Kernel::Buffer.new(:f32, 3, 4, 4), 2, 5)
      Picture::FilmKernels.develop_deep(
        Kernel::Buffer.new(:u16, 3, 4, 3), Kernel::Buffer.of(:f32, Array.new(36) { |n| 0.03 * n }, 3, 4, 3),
        Kernel::Buffer.of(:f32, [1.0, 1.0, 1.0, 2.0, 1.1, 0.2, 0.0, 0.0])
      )
      packed = Kernel::Buffer.new(:f16, *whole.shape)
      Finish::PackKernels.deep(Kernel::Buffer.new(:u16, 14, 18, 3), whole, Kernel::Buffer.of(:f32, [0.9, 1.0, 1.1]), 4)
      Finish::PackKernels.screen(Kernel::Buffer.new(:u8, 14, 18, 3), whole)
      Finish::PackKernels.pack(packed, whole)
      Finish::PackKernels.unpack(Kernel::Buffer.new(:f32, *whole.shape), packed)
      Finish::Tracker.new(size: 7, search: 2, adapts: 0.5, least: -1.0).follow([1, 2], 9.3, 7.2) { image }
      Finish::Baked.cube(stack([layer("l"), effect("l", "exposure")])[0], stand, edge: 3)
      Finish::MaskKernels.differs(flat_mask = Kernel::Buffer.new(:f32, 14, 18), image, whole, 0.1, 0.2)
      Finish::MaskKernels.between(flat_mask, flat_mask.copy, 0.2, 0.7)
      Finish::MaskKernels.beyond(flat_mask, passes["depth"], 3.5)
      Finish::MaskKernels.everywhere(ground = Kernel::Buffer.new(:f32, 14, 18))
      Finish::MaskKernels.nearer(ground, passes["depth"], Kernel::Buffer.new(:f32, 14, 18, 1))
      Finish::Between.new(image, image.copy).at(0.4)
      Finish::GrainKernels.squares(Kernel::Buffer.new(:f32, 2, 3, 7), image, 6)
      curves =
        %i[by_hue hue_by_hue bright_by_hue by_bright].to_h do |name|
          [name, [{"at" => 0.0, "value" => 0.5, "pass" => "linear"}]]
        end
      bent = [
        set("camera", :bend, -0.2), layer("word", what: "words"), effect("word", "bent"), effect("word", "straight", 1),
        effect("word", "saturation", 2, **curves)
      ]
      composite(bent, stand, width: 18, height: 14)
      Finish::Corners.new(image, Kernel::Buffer.new(:f32, 14, 18)).best(3)
      Picture::PassKernels.nearest(
        Kernel::Buffer.new(:f32, 2, 2, 1), Kernel::Buffer.of(:f32, (1..16).map(&:to_f), 2, 2, 4)
      )
    end

    def clear_things
      document = Shot::Edits.apply(Studio::Starters.bare("Clear"), [{"do" => "add", "kind" => "prop", "name" => "Clear", "id" => "clear", "dials" => {"shape" => "box", "size" => [0.6, 0.4, 0.6], "position" => [0.0, 0.3, 0.0], "clear" => 1.0}}])[0]
      settings = Picture::Renderer.settings(document, 1)
      scene = Picture::PropScene.new(Picture::PropScene.those(settings["props"], "seen"), nil)
      map, lens = Picture::Caustics.of(scene.record, Light::Rig.new(settings["rig"], nil).prop_lamps, 6)
      Picture::CausticKernels.factor(map, lens, lens[0].to_i, 0.0, 0.0, 0.0)
    end

    def liquids
      add = ->(kind, id, dials) { {"do" => "add", "kind" => kind, "name" => id, "id" => id, "dials" => dials} }
      key = ->(frame, y) do
        {
          "do" => "key", "node" => "dip", "dial" => "position", "frame" => frame, "value" => [0.05, y, 0.0],
          "ease" => "linear"
        }
      end
      edits = [add["prop", "dip", {"shape" => "sphere", "radius" => 0.08, "collider" => true, "friction" => 0.5,
        "throws" => 2.0}], key[1, 0.3], key[3, 0.1],
        add["prop", "cask", {"shape" => "box", "size" => [0.36, 0.38, 0.36], "position" => [0.0, 0.2, 0.0]}],
        add["inflow", "jet", {"prop" => "dip", "from" => "surface", "velocity" => [0.3, -0.5, 0.0], "breakup" => 0.4,
          "strength" => 0.7}], add["inflow", "sink", {"prop" => "dip", "does" => "drain", "first" => 3}],
        add["kick", "box", {"position" => [0.0, 0.1, 0.0], "extent" => [0.3, 0.2, 0.3], "first" => 1,
          "by_formula" => true, "formula_x" => "x", "soft" => 0.05, "how" => "add"}],
        add["force", "wind", {"what" => "push", "strength" => 0.5}]]
      plan =
        Liquid::Plan.new(
          small_water(
            dyed: true, tank: "cask", viscosity: 0.01, tension: 0.5, waves_from: "x1", wave_height: 0.03,
            wave_length: 0.4, calms: "others", wave_zone: 0.1, spray: true, trapped: 900.0, trapped_from: 0.0,
            crest: 900.0, crest_from: 0.0, energy_from: 0.0, own: 0.3, edits: edits
          ),
          :full
        )
      stub_const("Vumbral::Liquid::Multigrid::SMALL", 100)
      stage = Liquid::Stage.new(plan, nil)
      state = stage.still
      (1..3).each { |frame| state, = stage.advance(state, frame) }
      deep = Liquid::Plan.new(small_water(band: 4, line: 0.35, edits: edits), :full)
      bed = Liquid::Stage.new(deep, nil)
      bed.still.then do |pool|
        (1..2).each { |frame| bed.advance(pool, frame) } && bed.caught(pool, deep.kick(deep.document.node("box"), 1))
      end
      stir = Liquid::Solver.new(size: [12, 14, 12], voxel: 0.05, band: 4)
      stirred = Liquid::State.empty([12, 14, 12])
      stirred.deep.fill(1)
      stirred.faces.v.fill(0.6)
      stir.sort(stirred)
      2.times do
        stir.renew(stirred, Kernel::Buffer.new(:u8, 12, 14, 12).tap { |marks| marks[5, 5, 5] = 1 }) &&
          stir.substep(stirred, 0.05, Liquid::Settings.still)
      end
      sheet =
        Array
          .new(36) { |n| [2.0 + 0.9 * (n % 6), 5.0, 1.0 + 0.95 * (n / 6)] }
          .each_with_index
          .map { |place, n| (n % 4 == 1) ? place : [place[0], place[1] + 0.01 * n, place[2]] }
      thin = Liquid::Drops.of(36).tap { |drops| drops.at.replace(Kernel::Buffer.of(:f32, sheet.flatten, 36, 3)) }
      sorted = Liquid::Solver.new(size: plan.size, voxel: plan.voxel)
      other = Liquid::State.empty(plan.size).tap { |empty| empty.pour(thin) && sorted.sort(empty) }
      [[state, stage.first], [other, sorted.first]].each do |one, first|
        Liquid::Surface
          .new(plan.voxel, plan.corner, plan.surface)
          .mesh(Liquid::Skin.of(one, first, dyed: true, walls: stage.walls, clear: plan.clear))
          .then do |found, _, dyes|
            if dyes
              Geometry::Colours.points(
                Geometry::Mesh.new(
                  found.points, found.triangles, colours: Geometry::Colours.corners(found.triangles, dyes)
                )
              )
            end
          end
      end
      Liquid::Moment.new(plan, Flow::Props.new(plan, nil)).caught(state, plan.at(1)["kicks"][0])
      Sculpt::Field.sparse(
        Liquid::Spraying.density(state.spray, plan.size, 1, 1.0), Grid::Lattice.new(0.0, 0.0, 0.0, 0.5)
      )
      kept = [
        Liquid::Kept.of(state, plan, 0.01),
        Liquid::Kept.spray(Liquid::Spraying.only(state.spray, [true, false, true]), plan)
      ]
      Liquid::FullKernels.rows(
        Kernel::Buffer.new(:f32, kept[0].count, 10), *kept[0].to_a.first(5), kept[0].pressures, 0
      )
      Geometry::DeformKernels.drift(
        Kernel::Buffer.new(:f32, 2, 3), Kernel::Buffer.of(:f32, (1..6).to_a, 2, 3),
        Kernel::Buffer.of(:f32, (3..8).to_a, 2, 3), -0.1
      )
      Formats::VDB.surface(field(6, 6, 6) { |k, j, i| 0.1 * (k + j - i) }, voxel: 0.1, first: [0.0] * 3, band: 0.25)
      Liquid::FullKernels.cells(
        Kernel::Buffer.new(:f32, 2, 3), Kernel::Buffer.of(:f32, (1..6).to_a, 2, 3),
        Kernel::Buffer.of(:f32, [0.1, 0.2, 0.3, 0.05])
      )
      walls = Liquid::Walls.none([2, 2, 2])
      region = Grid::Region.new(0, 3, 0, 3, 0, 3)
      Liquid::WallKernels.stir(
        walls, field(3, 3, 3) { |k, _, _| 0.1 * k }, 0.0, false,
        Grid::VectorField.new(*Array.new(3) { |a| field(3, 3, 3) { |k, j, i| a + k * j - i } }), region, 0.1
      )
      flown = Kernel::Buffer.new(:f32, 4, 4, 4, 4)
      ground = Grid::Lattice.new(0.0, 0.0, 0.0, 0.1)
      Flow::ForceKernels.gather(
        flown, Kernel::Buffer.of(:f32, [0.13, 0.21, 0.05, 0.2, 0.12, 0.14], 2, 3),
        Kernel::Buffer.of(:f32, [1.0, 2.0, -1.0, 0.5, 0.0, 3.0], 2, 3), Kernel::Buffer.of(:u8, [1, 1]), ground
      )
      Flow::ForceKernels.along(
        Grid::VectorField.still([4, 4, 4]), Flow::Faces.still([4, 4, 4]), Kernel::Buffer.new(:f32, 4, 4, 4).fill(0.5),
        flown, 2.0, 0.05
      )
      told =
        Gas::State
          .still([5, 5, 5], tells: %i[aged])
          .tap { |gas| gas.smoke.replace(field(5, 5, 5) { |k, j, i| (i > 2) ? 0.3 * (k + j) : 0.0 }) }
      2.times { Flow::MatterKernels.grow_older(told.aged, told.smoke, 0.5) }
      told.time = 1.0
      Light::FireKernels.held_age(Kernel::Buffer.new(:f32, 5, 5, 5), Grid::Bricks.pack(told).field(:age), told.smoke)
      spray = Liquid::Spray.of(3)
      spray.life.replace(Kernel::Buffer.of(:f32, [0.0, 1.0, 0.0, -1.0, 0.0, 2.0], 3, 2))
      chosen = Kernel::Buffer.new(:i32, 3)
      Liquid::SprayKernels.take(Liquid::Spray.of(Liquid::SprayKernels.living(chosen, spray)), spray, chosen)
    end

    # Ruby computes in doubles: values may differ by rounding, and in a few places by a decision
    # that rounding tips.
    def expect_alike(built, ruby, where)
      scale = [built.map(&:abs).select(&:finite?).max || 0.0, 1e-3].max
      off = built.zip(ruby).count { |a, b| !(a == b || (a.nan? && b.nan?) || (a - b).abs <= 2e-3 * scale) }
      expect(off).to be <= built.size / 100, "#{where}: #{off} of #{built.size} differ"
    end

    it "gives the same built and as plain Ruby, for every kernel" do
      # A sky that is made here, of few places, and not kept for others.
      skies = [Light::Atmosphere, Light::Sky].map { |keeper| keeper.instance_variable_get(:@kept) }
      before = skies.map { |kept| kept.dup.tap { kept.clear } }
      stub_const("Vumbral::Picture::Caustics::SIDES", 6..6)
      stub_const("Vumbral::Light::Atmosphere::ROWS", 4)
      stub_const("Vumbral::Light::Atmosphere::COLUMNS", 3)
      stub_const("Vumbral::Light::Atmosphere::GLOW", [2, 3])
      %i[SUN SPOT SIDE].each { |name| stub_const("Vumbral::Light::Shadows::#{name}", 12) }
      stub_const("Vumbral::Light::Haze::FIELD_CELLS", 6)
      stub_const("Vumbral::Light::Haze::LIGHT_CELLS", 40)
      calls = recorded { small_world.then { liquids }.then { clear_things }.then { finishes } }
      skies.zip(before) { |kept, old| kept.replace(old) }
      names = calls.map { |call| [call.library, call.name] }.uniq
      inner = names.flat_map { |library, name| reached(library.kernels.fetch(name)) }
      all = libraries.flat_map { |library| library.kernels.keys.map { |name| [library, name] } }
      expect(all - names - inner).to eq([])

      calls.each do |call|
        values = copied(call.given)
        result = Kernel.reference { call.library.public_send(call.name, *values) }
        where = "#{call.library}.#{call.name}"
        after = flat(call.after)
        flat(values).each_with_index do |value, n|
          # Of triangles that share an edge either may be the nearest.
          if value.is_a?(Kernel::Buffer) && !(call.name == :signed_distance && n == 1)
            expect_alike(after[n].to_a.map(&:to_f), value.to_a.map(&:to_f),
              "#{where}, argument #{n}")
          end
        end
        next unless call.library.kernels[call.name].returns

        numbers = [call.result, result].map { |given|
          [given].flatten.compact.map { |x|
            {true => 1.0,
             false => 0.0}.fetch(x) { x.to_f }
          }
        }
        expect_alike(*numbers, "#{where}, result")
      end
    end

    def reached(signature, seen = {})
      key = [signature.owner, signature.name]
      return [] if seen[key]

      seen[key] = true
      translator = Kernel::Translator.new(signature)
      translator.translate
      [key] + translator.calls.uniq.flat_map { |callee| reached(callee, seen) }
    end
  end
end
