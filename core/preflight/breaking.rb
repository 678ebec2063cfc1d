# frozen_string_literal: true

module Vumbral
  module Preflight
    # Whether what breaks can break, and into pieces that are there.
    class Breaking
      def initialize(survey)
        @survey = survey
        @document = survey.document
      end

      # @return [Array<Finding>]
      def findings =
        @document
          .of(:prop)
          .select { |prop| Geometry::Breaking.breaks?(prop) }
          .flat_map { |prop| [unclosed(prop), many(prop), taken(prop)].compact }

      private

      def unclosed(prop)
        mesh =
          Geometry::Shapes.build(
            Geometry::Shapes.outline(prop, document: @document, frame: prop[:break_frame]), @survey.meshes
          )
        return if mesh.closed?

        finding(
          prop, "not_closed", :breaks,
          "#{prop.name} is to break, but has #{mesh.open_edges} open edges; close it, or let it stay whole.",
          Finding.remedy("Let it stay whole", prop.id, breaks: false)
        )
      rescue Refused
        # What is wrong with its shape is said there.
        nil
      end

      def many(prop)
        most, limit = Geometry::Breaking.most(prop), Geometry::Breaking::MOST
        return if most <= limit

        fewer = [(prop[:pieces] * limit / most.to_f).floor, 2].max
        finding(
          prop, "many_pieces", :pieces,
          "#{prop.name} would come to #{most} pieces, and #{limit} is the most; let there be fewer, or let each " \
            "break again into fewer.",
          Finding.remedy("Take #{fewer} pieces", prop.id, pieces: fewer)
        )
      end

      def taken(prop)
        most = Geometry::Breaking.most(prop)
        gone = prop[:taken].select { |number| number >= most }
        return if gone.empty?

        finding(
          prop, "no_such_piece", :taken,
          "#{prop.name} has #{most} pieces at most, but piece #{gone.first + 1} was taken away; pick again.",
          Finding.remedy("Take those out of the list", prop.id, taken: prop[:taken] - gone)
        )
      end

      def finding(prop, code, dial, text, remedy) =
        Finding.new(code: code, node: prop.id, dial: dial, text: text, remedy: remedy)
    end
  end
end
