# frozen_string_literal: true

module Vumbral
  module Preflight
    # Whether layers show something, and whether what changes them has what it needs.
    class Finishing
      # Effects that act on what lies below their layer, and those that go by what is known of the shot's own pixels.
      BELOW = %w[flash shimmer wrap].freeze
      OWN = {"defocus" => "how far things are", "motion" => "how things move"}.freeze
      # What was found of a spot with less than this is worth a look.
      UNSURE = 0.65

      def initialize(survey)
        @document = survey.document
        @layers = @document.of(:layer).sort_by.with_index { |node, n| [node[:order], n] }
      end

      # @return [Array<Finding>]
      def findings
        [
          nothing, curve, *@layers.flat_map { |layer| [plateless(layer), shotless(layer)] },
          *@document.of(:effect).flat_map { |effect| effect(effect) }, *@document.of(:mask).map { |mask| mask(mask) },
          *tracks
        ].compact
      end

      private

      def nothing
        return if @layers.empty? || @layers.any? { |layer| layer[:what] != "change" }

        Finding.new(
          code: "finish_empty",
          node: @layers[0].id,
          text: "No layer shows anything: all of them change what lies below, and nothing does.",
          remedy: {
            label: "Show the shot",
            edits: [
              {
                "do" => "add",
                "kind" => "layer",
                "name" => "The shot",
                "dials" => {
                  "order" => @layers[0][:order] - 1
                }
              }
            ]
          }
        )
      end

      # A plate went through a curve when it was taken.
      def curve
        plate = @layers.find { |layer| layer[:what] == "plate" && layer[:plate] } or return
        picture = @document.the(:picture)
        # Soft leaves all but the brightest as it is.
        return if picture[:tone] != "film" && (picture[:contrast] - 1.0).abs < 1e-6

        Finding.new(
          code: "plate_toned",
          node: plate.id,
          text:
            "#{plate.name} looks other than it is: the picture's tone curve and contrast bend its brightness once " \
              "more.",
          remedy: Finding.remedy("Show it as it is", "picture", tone: "plain", contrast: 1.0)
        )
      end

      def plateless(layer)
        if layer[:what] == "plate" && layer[:plate].nil?
          Finding.new(
            code: "no_plate", node: layer.id, dial: :plate,
            text: "#{layer.name} shows nothing yet; bring the files of its plate."
          )
        end
      end

      def shotless(layer)
        if layer[:what] == "other" && layer[:shot].nil?
          Finding.new(
            code: "no_shot", node: layer.id, dial: :shot,
            text: "#{layer.name} shows nothing yet; choose the shot that it shows."
          )
        end
      end

      def effect(effect)
        layer = @document.nodes[effect[:layer]]
        unless layer
          return [
            Finding.new(
              code: "no_layer", node: effect.id, dial: :layer,
              text: "#{effect.name} changes nothing until you choose its layer."
            )
          ]
        end
        return [] unless @document.on?(layer)

        [lowest(effect, layer), unknown(effect, layer), without(effect)]
      end

      def lowest(effect, layer)
        return if !BELOW.include?(effect[:what]) || layer[:what] == "change" || layer != @layers[0]

        Finding.new(
          code: "nothing_below",
          node: effect.id,
          text:
            "#{effect.name} acts on what lies below #{layer.name}, but that is the lowest layer; put it over " \
              "another one."
        )
      end

      def unknown(effect, layer)
        what = OWN[effect[:what]]
        if what && !%w[shot other change].include?(layer[:what])
          Finding.new(
            code: "no_pass",
            node: effect.id,
            text:
              "#{effect.name} goes by #{what}, which is known of the shot's own picture and not of #{layer.name}; " \
                "put it on a layer that shows the shot."
          )
        end
      end

      def without(effect)
        case [effect[:what], effect[:source]]
        in ["table", _]
          unless effect[:table]
            Finding.new(
              code: "no_table", node: effect.id, dial: :table,
              text: "#{effect.name} does nothing until you bring its table, a .cube file."
            )
          end
        in ["flare", "lamp"]
          unless effect[:lamp]
            Finding.new(
              code: "no_lamp", node: effect.id, dial: :lamp, text: "#{effect.name} comes from nothing; choose its lamp."
            )
          end
        else
          nil
        end
      end

      def mask(mask)
        unless mask[:to]
          return (
            Finding.new(
              code: "no_owner", node: mask.id, dial: :to,
              text: "#{mask.name} limits nothing until you choose what it is of."
            )
          )
        end

        if mask[:what] == "outline" && mask[:points].size < 3
          Finding.new(
            code: "no_outline",
            node: mask.id,
            dial: :points,
            text:
              "#{mask.name} has no outline yet, so nothing counts; double-click three places or more in the " \
                "finished frame."
          )
        end
      end

      def tracks = @document.of(:track).flat_map { |track| [unfollowed(track), unsure(track)] }

      def unfollowed(track)
        users =
          (@layers + @document.of(:mask) + @document.of(:effect)).select do |node|
            %i[follows steadied lamp].any? { |dial| node.kind.dials.key?(dial) && node[dial] == track.id }
          end
        return if users.empty? || track.curves.key?(:x)

        Finding.new(
          code: "not_followed", node: track.id,
          text: "#{users[0].name} goes with #{track.name}, which has not been followed and stays where it is."
        )
      end

      def unsure(track)
        keys = (track.keyed(:sure)&.to_a || []).select { |key| key[:value] < UNSURE }.map { |key| key[:frame] }
        if keys.any?
          Finding.new(
            code: "unsure",
            node: track.id,
            text:
              "#{track.name} was not surely found at frame " \
                "#{keys.first}#{" and #{keys.size - 1} more" if keys.size > 1}; look there, and move it by hand " \
                "where it slipped."
          )
        end
      end
    end
  end
end
