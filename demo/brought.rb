# frozen_string_literal: true

module Vumbral
  module Demo
    # What demo shots need from outside: meshes, drawings, pictures, plates and tables, brought to a workshop.
    class Brought
      # How each kind comes in, by the method that a shot has for it.
      WAYS = {
        meshes: ->(workshop, name, mesh) { workshop.assets.bring(Formats::OBJ.write(mesh), "#{name}.obj") },
        drawings: ->(workshop, name, svg) { workshop.assets.bring_drawing(svg, "#{name}.svg") },
        pictures: ->(workshop, name, png) { workshop.assets.bring_picture(png, "#{name}.png") },
        plates: ->(workshop, _, path) { workshop.plates.bring({File.basename(path) => path}) },
        tables: ->(workshop, name, text) { workshop.plates.bring_table(text, "#{name}.cube") }
      }.freeze

      # @param workshop [Studio::Workshop]
      def initialize(workshop)
        @workshop = workshop
      end

      # @param shot [Module] a demo shot
      # @return [Array<Hash>] edits that make a bare shot into it
      def edits(shot)
        digests =
          WAYS.select { |kind, _| shot.respond_to?(kind) }.flat_map do |kind, way|
            shot.public_send(kind).map { |name, what| [name, way.call(@workshop, name.to_s.capitalize, what)[:digest]] }
          end
        shot.edits(digests.to_h)
      end
    end
  end
end
