# frozen_string_literal: true

module Vumbral
  module Studio
    # Puts what a file holds into a shot, as one step.
    class Arrivals
      def initialize(workshop)
        @workshop = workshop
      end

      # @param digest [String] of a mesh that was brought
      # @param unit [String]; @param up [String] as the dials of a prop have them
      # @param apart [Boolean] each part of it as a prop of its own
      # @param others [Boolean] its cameras and lamps too
      # @param place [Array<Float>, nil] where the middle of its underside comes to stand, metres; as in the file
      #   otherwise
      # @return [Hash] the step, see {Shots#edit}, with the ids of the new props as :props
      def call(shot_id, digest, unit: "m", up: "y", apart: false, others: false, place: nil, by: nil)
        asset = @workshop.assets.fetch(digest)
        pieces = apart ? @workshop.assets.apart(digest) : [asset]
        document = @workshop.shots.document(shot_id)
        shift = place ? shift(asset[:facts], unit, up, place) : [0.0, 0.0, 0.0]
        frame = document.first_frame
        edits =
          pieces.map { |piece| prop(piece, unit, up, shift, frame) } +
          (others ? @workshop.assets.others(digest).flat_map { |other| beside(other, document) } : [])
        words = (pieces.size == 1) ? "#{asset[:name]} brought in" : "#{pieces.size} parts of #{asset[:name]} brought in"
        step = @workshop.shots.step(shot_id, edits, words, by: by)
        step.merge(props: step[:document].nodes.keys - document.nodes.keys)
      end

      # A volume that was brought as a sculpt that begins with it, as it stands in its file.
      # @return [Hash] the step, with the id of the new sculpt as :sculpt
      def volume(shot_id, asset, by: nil)
        before = @workshop.shots.document(shot_id).nodes.keys
        dials = {"from" => "file", "volume" => asset[:digest], "voxel" => asset[:facts]["voxel"], "room" => 0.0}
        step =
          @workshop.shots.step(
            shot_id,
            [{"do" => "add", "kind" => "sculpt", "name" => File.basename(asset[:name], ".*"), "dials" => dials}],
            "#{asset[:name]} brought in", by: by
          )
        step.merge(sculpt: (step[:document].nodes.keys - before)[0])
      end

      # Swaps a prop that moves or deforms for the same as a mesh of its own for each frame.
      # @return [Hash] the step
      def bake(shot_id, node_id, by: nil)
        document = @workshop.shots.document(shot_id)
        node = document.node(node_id)
        unless node.kind.name == :prop
          raise Refused.new("#{node.name} is no prop; only props can be baked.", code: "bad_edit")
        end

        frames = (document.first_frame..document.last_frame).to_a
        standing =
          Geometry::Standing.new(
            document.put(node.set(:shown, true).with(curves: node.curves.except(:shown))), @workshop.assets,
            only: [node.id], coloured: false
          )
        meshes =
          frames.map do |frame|
            standing.at(frame) ||
              raise(
                Refused.new(
                  "#{node.name} is gone at frame #{frame}; let what leaves the chamber stay, then bake it.",
                  code: "bad_edit"
                )
              )
          end
        asset = @workshop.assets.take(Formats::Model.new(meshes), "#{node.name} baked")
        # What was done to its shape and whatever it went with is in the mesh.
        bare =
          document.operations(node.id).map { |operation| {"do" => "remove", "node" => operation.id} } +
          [{"do" => "set", "node" => node.id, "dial" => "leader", "value" => nil}]
        @workshop.shots.step(
          shot_id, bare + baked(node, asset, frames[0]), "#{node.name} baked to a mesh for each frame", by: by
        )
      end

      private

      def prop(asset, unit, up, shift, frame)
        dials = {"shape" => "mesh", "mesh" => asset[:digest], "unit" => unit, "up" => up, "position" => shift}
        dials = dials.merge("plays" => true, "plays_from" => frame) if asset[:facts]["frames"].to_i > 1
        {
          "do" => "add",
          "kind" => "prop",
          "name" =>
            asset[:name]
              .sub(/[._-]*#+(?=\.)/, "")
              .sub(/\.[a-z]+\z/i, "")
              .tr("_", " ")
              .strip
              .then { |name| name.empty? ? "Mesh" : name[0, 80] },
          "dials" => dials
        }
      end

      def baked(node, asset, first)
        dials = {
          "shape" => "mesh", "mesh" => asset[:digest], "plays" => asset[:facts]["frames"].to_i > 1,
          "plays_from" => first, "plays_speed" => 1.0, "plays_after" => "hold", "unit" => "m", "up" => "y",
          "position" => [0.0] * 3, "turn" => [0.0] * 3, "scale" => [1.0] * 3, "breaks" => false
        }
        dials.map { |dial, value| {"do" => "set", "node" => node.id, "dial" => dial, "value" => value} }
      end

      # From where it stands in the file to where it is wanted.
      def shift(facts, unit, up, place)
        low, high =
          facts.values_at("low", "high").map { |corner| (up == "z") ? [corner[0], corner[2], -corner[1]] : corner }
        low, high =
          low
            .zip(high)
            .map(&:minmax)
            .transpose
            .map { |corner| corner.map { |c| c * Geometry::Shapes::UNITS.fetch(unit) } }
        place.zip([0.5 * (low[0] + high[0]), low[1], 0.5 * (low[2] + high[2])]).map { |to, from| (to - from).round(5) }
      end

      DIALS = {"camera" => %w[position target focal], "lamp" => %w[position colour]}.freeze
      private_constant :DIALS

      # A camera takes the shot's own place; a lamp is a new one. Keys only where it moves.
      def beside(other, document)
        dials = DIALS[other["kind"]] or return []
        rows = dials.to_h { |dial| [dial, other["poses"].map { |pose| pose[dial] }] }
        return camera(rows, document) if other["kind"] == "camera"

        still = rows.transform_values(&:first)
        keys = rows.select { |dial, values| dial == "position" && values.uniq.size > 1 }
        [
          {
            "do" => "add", "kind" => "lamp", "name" => other["name"].to_s[0, 80], "dials" => still,
            "keys" => keys.transform_values { |values| keyed(values, document) }
          }
        ]
      end

      def camera(rows, document)
        rows.flat_map do |dial, values|
          values = values.map { |focal| (focal * lens(document)).round(4).clamp(4.0, 1000.0) } if dial == "focal"
          next [{"do" => "set", "node" => "camera", "dial" => dial, "value" => values[0]}] if values.uniq.size == 1

          [{"do" => "set", "node" => "camera", "dial" => dial, "value" => values[0]}] +
            keyed(values, document).map { |key| key.merge("do" => "key", "node" => "camera", "dial" => dial) }
        end
      end

      # Files say how high a camera sees on a frame 24 mm high; here the film is as wide as the shot's says, and as high
      # as its picture lets it be.
      def lens(document)
        picture = document.the(:picture)
        document.the(:camera)[:film] / 24.0 * picture[:height] / picture[:width]
      end

      def keyed(values, document)
        values
          .first(document.last_frame - document.first_frame + 1)
          .each_with_index
          .map { |value, n| {"frame" => document.first_frame + n, "value" => value, "ease" => "linear"} }
      end
    end
  end
end
