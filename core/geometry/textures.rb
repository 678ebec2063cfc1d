# frozen_string_literal: true

module Vumbral
  module Geometry
    # The textures of a shot as rows of numbers, as {TextureKernels} reads them.
    module Textures
      # Numbers of a row; from {RAMP} on {STOPS} values of its ramp.
      WIDTH, RAMP, STOPS = 64, 32, 32
      KINDS = %w[noise cells bands stripes fall picture formula front sculpt].freeze
      # Those that are read from something besides their dials, which {Maps::Patterns} lays behind the rows.
      READ = %w[picture formula front sculpt].freeze
      BASES = %w[soft billows ridges].freeze
      MEASURES = %w[nearest second edges].freeze
      SHAPES = %w[plane point line].freeze
      COURSES = %w[straight square soft].freeze

      module_function

      # @param document [Shot::Document]; @param frame [Numeric]
      # @return [Hash{String => Array<Float>}] rows by the textures' ids
      def rows(document, frame) = document.of(:texture).to_h { |node| [node.id, row(document, node, frame)] }

      # @return [Array<Float>] and behind these, of some, a Hash of what they are read from
      def row(document, node, frame)
        seconds = (frame - document.first_frame) / document.rate
        cycle = Cycle.new(document, node[:loops])
        time, loop = cycle.of(node[:change], frame)
        space, periods =
          cycle.loops? ? round_trip(document, node, frame, cycle) : [space(document, node, frame, seconds), [0.0] * 3]
        numbers = [
          KINDS.index(node[:what]).to_f, *space, node[:seed].to_f, time, node[:octaves].to_f, which(node), *shape(node),
          node[:brightness, frame], node[:gamma, frame], node[:contrast, frame], node[:inverted] ? 1.0 : 0.0,
          node[:factor, frame], node[:cell_value], node[:gap_value], node[:ramp].empty? ? 0.0 : 1.0, *periods, loop.to_f
        ]
        numbers.fill(0.0, numbers.size...RAMP) + ramp(node) + [read(document, node, frame, seconds)].compact
      end

      # What it is read from, as plain data; without that it is even.
      def read(document, node, frame, seconds)
        case node[:what]
        when "picture"
          node[:picture] && {"as" => "picture", "picture" => node[:picture]}
        when "formula"
          {
            "as" => "formula", "formula" => node[:formula], "frame" => frame, "time" => seconds,
            "seed" => document.the(:general)[:seed]
          }
        when "front"
          young(document, node, frame)
        when "sculpt"
          sculpt = document.nodes[node[:sculpt]]
          recipe = sculpt && document.on?(sculpt) && Recipes.one(document, sculpt, frame)
          recipe && {"as" => "sculpt", "recipe" => recipe}
        end
      end

      def young(document, node, frame)
        front = document.nodes[node[:front]]
        row = front && document.on?(front) && Front.row(document, front, frame)
        prop = row && document.nodes[Front.prop(document, front)]
        prop &&
          {
            "as" => "front", "front" => row, "body" => Bodies.of(document, prop, frame),
            **%i[rise lasts fall].to_h { |dial| [dial.to_s, node[dial]] }
          }
      end

      # Without its place and size: what of it is one wide lies about the origin. For what holds it before itself.
      # @return [Array<Float>] as {.row}
      def flat(document, node, frame)
        row = row(document, node, frame)
        seconds = (frame - document.first_frame) / document.rate
        turn =
          Transform.place(
            position: node[:drift].map { |speed| speed * seconds },
            turn: node[:turn, frame],
            scale:
              node[:stretch, frame].map do |factor|
                factor * ((node[:what] == "picture" || node[:what] == "formula") ? 1.0 : 0.25)
              end
          )
        row[1, 12] = turn.inverse.rows.flatten.first(12)
        row
      end

      # As it lies on a prop on a frame, by places of the prop itself, scaled but neither turned nor moved.
      # @return [Array<Float>] as {.row}
      def on(document, node, prop, frame)
        row = row(document, node, frame)
        own = Transform.new(row[1, 12].each_slice(4).to_a) * Hanging.pose(document, prop, frame).rigid
        row[1, 12] = own.rows.flatten.first(12)
        row
      end

      # From the world to where its features are one wide: three rows of four.
      def space(document, node, frame, seconds)
        place = node[:offset, frame].zip(node[:drift]).map { |from, speed| from + seconds * speed }
        scale = node[:stretch, frame].map { |factor| factor * node[:size, frame] }
        own = Transform.place(position: place, turn: node[:turn, frame], scale: scale)
        prop = document.nodes[node[:follows]]
        whole = prop ? Hanging.pose(document, prop, frame).rigid * own : own
        whole.inverse.rows.flatten.first(12)
      end

      # Along a drift that leads it over a whole number of its features while it loops, so that it lies as before in the
      # end. @return [Array(Array<Float>, Array<Float>)] as {.space}, and after how many features it is the same again
      def round_trip(document, node, frame, cycle)
        rows = space(document, node, frame, 0.0).each_slice(4).to_a
        # What is behind it is of its own space, as it is where it follows nothing.
        own =
          Transform
            .place(turn: node[:turn, frame], scale: node[:stretch, frame].map { |factor| factor * node[:size, frame] })
            .inverse
            .rows
        turns =
          3.times.map do |n|
            cycle.turns(
              3
                .times
                .sum { |c| own[n][c] * node[:drift][c] * cycle.seconds }
                .then { |much| (much.abs < 0.02) ? 0.0 : much }
            )
          end
        moved = rows.each_with_index.map { |row, n| [*row.first(3), row[3] - turns[n] * cycle.part(frame)] }
        [moved.flatten, turns.map { |n| n.abs.to_f }]
      end

      def which(node)
        case node[:what]
        when "cells" then MEASURES.index(node[:measure]).to_f
        when "stripes" then node[:round] ? 1.0 : 0.0
        when "picture" then node[:repeats] ? 1.0 : 0.0
        when "fall" then SHAPES.index(node[:shape]).to_f
        else BASES.index(node[:basis]).to_f
        end
      end

      def shape(node)
        case node[:what]
        when "cells" then [node[:gap], 0.0, 0.0]
        when "bands" then [node[:folds], node[:band], node[:edge]]
        when "stripes" then [node[:bend], node[:band], node[:edge]]
        when "fall" then [COURSES.index(node[:course]).to_f, 0.0, 0.0]
        else [0.0, 0.0, 0.0]
        end
      end

      def ramp(node)
        return [0.0] * STOPS if node[:ramp].empty?

        ramp = node.ramp(:ramp)
        Array.new(STOPS) { |n| ramp.at(n / (STOPS - 1.0))[0] }
      end
      private_class_method :read, :young, :space, :round_trip, :which, :shape, :ramp
    end
  end
end
