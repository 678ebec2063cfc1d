# frozen_string_literal: true

module Vumbral
  module Demo
    # Short words for the edits that make a shot.
    module Scene
      module_function

      def add(kind, id, name, dials = {})
        {"do" => "add", "kind" => kind, "id" => id, "name" => name, "dials" => dials}
      end

      def set(node, dials)
        dials.map { |dial, value| {"do" => "set", "node" => node, "dial" => dial, "value" => value} }
      end

      def key(node, dial, frame, value)
        {"do" => "key", "node" => node, "dial" => dial, "frame" => frame, "value" => value}
      end

      # Rolls finer than the voxels, in drafts and full runs.
      def finer(strength, scale) = set("detail", "on" => true, "strength" => strength, "scale" => scale)

      # One prop for each mesh. @param mesh [Hash{Symbol => String}] digests
      # @param props [Hash{Symbol => Array(String, Hash)}] name and dials
      def props(mesh, **props)
        props.map { |id, (name, dials)|
          add("prop", id.to_s, name, {"shape" => "mesh",
                                      "mesh" => mesh[id]}.merge(dials))
        }
      end

      def ground
        add(
          "prop", "ground", "Yard", "shape" => "plane", "size" => [4000.0, 1.0, 4000.0],
          "colour" => [0.16, 0.142, 0.12], "uneven" => 0.75, "uneven_size" => 0.8, "stones" => 0.3, "stone_size" => 0.05
        ).merge("locked" => true)
      end
    end
  end
end
