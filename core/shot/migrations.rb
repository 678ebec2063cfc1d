# frozen_string_literal: true

module Vumbral
  module Shot
    # Turns the data of an older version of the format into the next one's. What does not look as it
    # should is left for the reader to refuse.
    module Migrations
      FADES = {"smoke_half" => "smoke_fade", "heat_half" => "heat_fade", "fuel_half" => "fuel_fade"}.freeze

      module_function

      # @param data [Hash] of a version; @return [Hash] of the one after it
      def next(data, version) = send({1 => :to_two, 2 => :to_three, 3 => :to_four, 4 => :to_five}.fetch(version), data)

      # Turbulence became a power, curl boost a share of what is lost, half-lives rates; a skin is metres.
      def to_two(data)
        nodes = data["nodes"]
        return data.merge("version" => 2) unless nodes.is_a?(Array)

        voxel = nodes.find { |node| node.is_a?(Hash) && node["kind"] == "chamber" }&.dig("dials", "voxel")
        voxel = 0.04 unless voxel.is_a?(Numeric)
        data.merge("version" => 2, "nodes" => nodes.map { |node| node.is_a?(Hash) ? node_to_two(node, voxel) : node })
      end

      # The margin around the content became a length.
      def to_three(data)
        nodes = data["nodes"]
        return data.merge("version" => 3) unless nodes.is_a?(Array)

        data.merge(
          "version" => 3,
          "nodes" => nodes.map { |node| (node.is_a?(Hash) && node["kind"] == "chamber") ? wide(node) : node }
        )
      end

      # Courses over time were called notches.
      def to_four(data)
        nodes = data["nodes"]
        return data.merge("version" => 4) unless nodes.is_a?(Array)

        data.merge("version" => 4, "nodes" => nodes.map { |node|
          (node.is_a?(Hash) && node.key?("notches")) ? node.except("notches").merge("keys" => node["notches"]) : node
        })
      end

      # Courses may go on beyond their keys, and dials by formulas.
      def to_five(data) = data.merge("version" => 5)

      def wide(chamber)
        dials = chamber["dials"] || {}
        return chamber unless dials.is_a?(Hash)

        voxel, cells = dials.fetch("voxel", 0.04), dials.fetch("margin", 6)
        return chamber unless voxel.is_a?(Numeric) && cells.is_a?(Numeric)

        chamber.merge("dials" => dials.merge("margin" => (cells * voxel).clamp(0.0, 1000.0)))
      end

      def node_to_two(node, voxel)
        case node["kind"]
        when "chamber"
          node = change(node, "curl_boost") { |boost| [0.25 * boost, 10.0].min }
          node = change(node, "stir") { |push| power(push) }
          FADES.reduce(node) { |row, (old, new)|
            change(row, old, new) { |half|
              (half > 0) ? Math.log(2.0) / half : 0.0
            }
          }
        when "source" then change(node, "skin") { |voxels| voxels * voxel }
        when "force"
          return node unless node["dials"].is_a?(Hash) && node["dials"]["what"] == "turbulence"

          change(node.merge("dials" => {"strength" => 2.0}.merge(node["dials"])), "strength") { |push| power(push) }
        else node
        end
      end

      # What a push of so many m/s² used to put in, about: m²/s³.
      def power(push) = 0.3 * (push.abs / 1.5)**1.5 * (push <=> 0)

      # A number of a node's, at rest and at its notches.
      def change(node, old, new = old, &change)
        dials, notches = node.values_at("dials", "notches")
        if dials.is_a?(Hash) && dials.key?(old)
          value = dials[old]
          node =
            node.merge("dials" => dials.except(old).merge(new => value.is_a?(Numeric) ? change.call(value) : value))
        end
        return node unless notches.is_a?(Hash) && notches[old].is_a?(Array)

        moved = notches[old].map do |notch|
          if notch.is_a?(Hash) && notch["value"].is_a?(Numeric)
            notch.merge("value" => change.call(notch["value"]))
          else
            notch
          end
        end
        node.merge("notches" => notches.except(old).merge(new => moved))
      end
    end
  end
end
