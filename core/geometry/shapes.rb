# frozen_string_literal: true

module Vumbral
  module Geometry
    # A prop's shape as plain numbers, and the mesh that these describe.
    module Shapes
      # The dials that make up each shape.
      DIALS = {"mark" => [], "sphere" => %i[radius], "box" => %i[size], "plane" => %i[size], "card" => %i[size],
               "cylinder" => %i[radius tall], "cone" => %i[radius tall], "torus" => %i[radius tube], "mesh" => %i[mesh],
               "capsule" => %i[radius tall sides], "backdrop" => %i[size fold cells],
               "words" => %i[words font letter apart depth bevel bevel_steps pieces_deep],
               "drawing" => %i[drawing wide depth bevel bevel_steps pieces_deep], "sculpt" => %i[least_part],
               "liquid" => %i[least_part],
               "coil" => %i[radius top_radius tall turns tube uneven], "tube" => %i[path tube]}.freeze
      # And those that count where they are not as usual.
      MORE = {"sphere" => %i[divisions], "box" => %i[cells], "plane" => %i[cells], "cylinder" => %i[sides],
              "cone" => %i[sides], "torus" => %i[sides around], "coil" => %i[sides around], "tube" => %i[around],
              "mesh" => %i[unit up]}.freeze

      # So many shapes are kept ready.
      KEPT = 32

      module_function

      # @param node [Shot::Node] a prop
      # @param document [Shot::Document, nil] with it what is done to the shape counts too
      # @return [Hash] what its own geometry depends on: "shape", its dials and "operations"
      def outline(node, document: nil, frame: nil, path: [])
        shape = node[:shape]
        outline = {"shape" => shape}.merge(DIALS.fetch(shape).to_h { |dial| [dial.to_s, node[dial]] })
        # What is as usual is not said, so that what was made before still counts.
        more = MORE.fetch(shape, []).reject { |dial| node[dial] == node.kind.dial(dial).default }
        outline.merge!(more.to_h { |dial| [dial.to_s, node[dial]] })
        outline.merge!(volume(node, document, frame)) if shape == "sculpt"
        outline.merge!(liquid(node, document, frame)) if shape == "liquid"
        outline["plays"] = [document&.rate || 24.0, node[:plays_after]] if plays?(node)
        rows = document ? Operations.rows(document, node, frame, path) : []
        rows.empty? ? outline : outline.merge("operations" => rows)
      end

      # Which frame of the liquid it is, and how far its surface is led from there, seconds.
      def liquid(node, document, frame)
        return {"frame" => nil} unless document

        frame ||= document.first_frame
        led = document.led(frame, node)
        {"frame" => document.made(frame, node)}.merge(led.zero? ? {} : {"led" => led})
      end

      # What the surface of a sculpt depends on.
      def volume(node, document, frame)
        sculpt = document&.nodes&.fetch(node[:surface_of], nil)
        frame ||= document&.first_frame
        {
          "threshold" => node[:threshold, frame],
          "recipe" => (sculpt && document.on?(sculpt)) ? Recipes.one(document, sculpt, frame) : nil
        }
      end

      # @return [Boolean] whether a prop moves by its file
      def plays?(node) = node[:shape] == "mesh" && node[:plays]

      # @param outline [Hash]
      # @param meshes [#mesh] gives the mesh of a digest
      # @param at [Float, nil] frames that it has moved by itself
      # @return [Mesh] about its own origin
      def build(outline, meshes, at = nil)
        return from_file(outline, meshes, at) if outline["shape"] == "mesh" && !outline["operations"]

        outline = outline.merge("at" => at) if at
        @built ||= {}
        found = @built.delete(outline)
        @built.delete(@built.keys.first) if @built.size >= KEPT
        @built[outline] = found || make(outline, meshes)
      end

      def make(outline, meshes)
        return between(outline, meshes) if outline["was"]

        if outline["operations"]
          # One after the other, for what the first ones make is kept while later ones change.
          *before, last = outline["operations"]
          plain = outline.except("operations", "at")
          plain = plain.merge("operations" => before) unless before.empty?
          return Operations.apply(build(plain, meshes, outline["at"]), [last], meshes)
        end

        simple(outline, meshes)
      end

      # A shape that changes within a frame: part of the way from how it was, where its triangles are the same.
      def between(outline, meshes)
        part, (from, to) = outline.fetch("at", 1.0), outline["ends"]
        plain = outline.except("was", "ends", "at")
        now = build(plain, meshes, to)
        return now if (part - 1.0).abs < 1e-9

        was = build(plain.merge("operations" => outline["was"]), meshes, from)
        return now unless Clip.alike?(was, now)

        now.with(
          Kernel::Buffer
            .new(:f32, *now.points.shape)
            .tap { |out| DeformKernels.between(out, was.points, now.points, part) }
        )
      end

      def simple(outline, meshes)
        radius, tall, size, cells = outline.values_at("radius", "tall", "size", "cells")
        sides = {sides: outline["sides"]}.compact
        case outline["shape"]
        when "piece"
          Breaking.cut(outline["of"], outline["cut"], meshes)[outline["n"]].mesh
        when "sphere"
          Builders.sphere(radius, **{divisions: outline["divisions"]}.compact)
        when "box"
          cells ? Panels.box(size, cells) : Builders.box(size)
        when "plane"
          cells ? Panels.plane(size, cells) : Builders.plane(size)
        when "card"
          Panels.card(size)
        when "cylinder"
          Builders.cylinder(radius, tall, **sides)
        when "cone"
          Builders.cone(radius, tall, **sides)
        when "capsule"
          Builders.capsule(radius, tall, **sides)
        when "torus"
          Builders.torus(radius, outline["tube"], **sides, **{around: outline["around"]}.compact)
        when "coil"
          Tubes.coil(
            [radius, outline["top_radius"]], tall, outline["turns"], outline["tube"], uneven: outline["uneven"],
            **sides, **{around: outline["around"]}.compact
          )
        when "tube"
          Tubes.through(outline["path"], outline["tube"], **{around: outline["around"]}.compact)
        when "backdrop"
          Panels.backdrop(size, outline["fold"], cells)
        when "words", "drawing"
          raised(outline, meshes)
          # A point without a face.
        when "mark"
          Mesh.from([0.0] * 3, [])
        when "liquid"
          poured(outline, meshes)
        when "sculpt"
          outline["recipe"] ? meshes.surface(outline) : Mesh.from([], [])
        end
      end

      # The surface of a liquid; where it drifts, "at" 1 is its own frame and 0 the one before, by how fast its points
      # go.
      def poured(outline, meshes)
        return Mesh.from([], []) unless outline["frame"]

        mesh = meshes.liquid(outline)
        gone = (outline.fetch("at", 1.0) - 1.0) * outline["drifts"].to_f + outline["led"].to_f
        return mesh if gone.zero? || mesh.empty?

        speeds = meshes.liquid_speeds(outline["frame"])
        # Without its crumbs it has other points.
        return mesh unless speeds.dim(0) == mesh.points.dim(0)

        mesh.with(
          Kernel::Buffer.new(:f32, *mesh.points.shape).tap { |out| DeformKernels.drift(out, mesh.points, speeds, gone) }
        )
      end

      # Letters or a drawing, raised.
      def raised(outline, meshes)
        contours =
          if outline["shape"] == "words"
            Lettering.contours(
              outline["words"], font: outline["font"], tall: outline["letter"], apart: outline["apart"]
            )
          else
            unless outline["drawing"]
              raise Refused.new(
                "A prop is set to a drawing from a file, but no file was brought for it.", code: "no_drawing"
              )
            end

            meshes.drawing(outline["drawing"]).sized(outline["wide"])
          end
        Extrusion.new(
          contours, depth: outline["depth"], bevel: outline["bevel"], bevel_steps: outline["bevel_steps"],
          pieces: outline["pieces_deep"]
        ).mesh
      end

      # Metres in a unit.
      UNITS = {"m" => 1.0, "cm" => 0.01, "mm" => 0.001, "inch" => 0.0254, "foot" => 0.3048}.freeze

      def from_file(outline, meshes, at)
        unless outline["mesh"]
          raise Refused.new("A prop is set to a mesh from a file, but no file was brought for it.", code: "no_mesh")
        end

        standing(
          outline["plays"] ? meshes.mesh(outline["mesh"], at || 0.0, *outline["plays"]) : meshes.mesh(outline["mesh"]),
          outline
        )
      end

      # @return [Mesh] one from a file in metres, with Y up
      def standing(mesh, outline)
        return mesh unless outline["unit"] || outline["up"]

        size = UNITS.fetch(outline["unit"] || "m")
        rows = (outline["up"] == "z") ? [[size, 0.0, 0.0, 0.0], [0.0, 0.0, size, 0.0], [0.0, -size, 0.0, 0.0]] : Transform.place(scale: [size] * 3).rows
        mesh.transformed(Transform.new(rows))
      end
      private_class_method :volume, :liquid, :make, :between, :simple, :poured, :raised, :from_file

      # @return [Transform]
      def transform(placed)
        Transform.place(position: placed["position"], turn: placed["turn"], scale: placed["scale"])
      end

      # @return [Mesh] where the prop stands in the world
      def world(placed, meshes) = build(placed, meshes, placed["at"]).transformed(transform(placed))
    end
  end
end
