# frozen_string_literal: true

module Vumbral
  module Studio
    # What a new shot begins with.
    module Starters
      ALL = {
        "plume" => "Smoke that rises and rolls from an object",
        "empty" => "A chamber and a sun, and nothing in it"
      }.freeze
      # A mesh that is brought along is made this tall, metres.
      FIT = 0.9

      module_function

      # @param mesh [Array(String, Geometry::Mesh, String), nil] digest, mesh and file name of what becomes the source
      # @return [Shot::Document]
      def build(starter, name, mesh = nil)
        raise Refused.new("There is no starter #{starter.to_s[0, 40].inspect}; there are: #{ALL.keys.join(", ")}.", code: "unknown_starter") unless ALL.key?(starter)

        edits = common + (if starter == "plume"
                            plume(mesh)
                          else
                            (mesh ? [fitted(*mesh)] : [])
                end)
        Shot::Edits.apply(Shot::Document.blank(name), edits)[0]
      end

      def common = [{"do" => "add", "kind" => "sun", "name" => "Sun"}]

      def plume(mesh)
        prop = mesh ? fitted(*mesh) : {"do" => "add", "kind" => "prop", "id" => "prop-1", "name" => "Ember bowl",
                                       "dials" => {"shape" => "sphere", "radius" => 0.22, "position" => [0.0, 0.22, 0.0]}}
        [prop,
          {"do" => "add", "kind" => "prop", "id" => "ground", "name" => "Ground",
           "dials" => {"shape" => "plane", "size" => [14.0, 1.0, 14.0], "colour" => [0.075, 0.07, 0.066]}},
          {"do" => "add", "kind" => "source", "id" => "source-1", "name" => "Plume",
           "dials" => {"prop" => "prop-1", "from" => mesh ? "surface" : "inside"}},
          {"do" => "add", "kind" => "lamp", "name" => "Warm side", "dials" => {"position" => [-1.8, 0.7, 1.3]}}]
      end

      # The mesh scaled to fit and standing on the ground in the middle.
      def fitted(digest, mesh, file)
        low, high = mesh.bounds
        span = low.zip(high).map { |a, b| b - a }.max
        scale = FIT / span
        middle = low.zip(high).map { |a, b| 0.5 * (a + b) }
        {"do" => "add", "kind" => "prop", "id" => "prop-1", "name" => File.basename(file, ".*").tr("_", " ").capitalize[0, 80],
         "dials" => {"shape" => "mesh", "mesh" => digest, "scale" => [scale] * 3, "position" => [-middle[0] * scale, -low[1] * scale, -middle[2] * scale]}}
      end
      private_class_method :common, :plume, :fitted
    end
  end
end
