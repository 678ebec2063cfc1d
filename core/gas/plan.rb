# frozen_string_literal: true

module Vumbral
  module Gas
    # What a run of a shot will do, as plain numbers: the grid, and the settings at each frame.
    # From these come the keys under which frames are stored.
    class Plan
      include Flow::Planning

      LEAST_CELLS = 8
      # Working memory of a step, measured: fields, displacements, spare and scratch arrays.
      BYTES_PER_CELL = 288
      # What looking at a cell takes, counted where chambers lie apart and the grid around them is large.
      BYTES_SEEN = 40
      GAS = %i[ambient gravity lift weight fuel_weight outward smoke_spread heat_spread curl_boost curl_mask stir
        stir_size stir_speed stir_octaves stir_mask viscosity ignite burn_rate flame burn_heat burn_smoke burn_swell front front_size air
        cooling shield smoke_fade heat_fade fuel_fade transport accuracy cells substeps_least substeps_most].freeze
      FEED = %i[from skin point_size as smoke fuel heats warm_as temperature push coloured colour along velocity
        carried speed_as rough breakup breakup_size breakup_octaves breakup_speed fade map picture formula].freeze

      attr_reader :document, :quality, :size, :voxel, :corner, :open

      # @param document [Shot::Document]
      # @param quality [Symbol] :draft or :full
      def initialize(document, quality)
        @document = document
        @quality = quality
        chamber = document.the(:chamber)
        @voxel = chamber[:voxel] * ((quality == :draft) ? chamber[:draft] : 1.0)
        width, height, depth = chamber[:size]
        @size = [depth, height, width].map { |length| [(length / @voxel).round, LEAST_CELLS].max }
        x, y, z = Geometry::Hanging.stood(document, chamber)
        @corner = [x - 0.5 * @size[2] * @voxel, y, z - 0.5 * @size[0] * @voxel]
        @open = open_of(chamber)
      end

      # @return [Integer] that a run computes at most
      def cells = domains.sum(&:cells)

      # @return [Boolean] whether the chamber goes past its box with its content
      def grows? = domains[0].rooms.size == 1 && !most.nil?

      # @return [Array<Room>] the chamber and the further ones
      def rooms
        @rooms ||= [Room.new(@document.the(:chamber), [0, 0, 0], @size, @open)] +
          @document.of(:annex).map { |node| Room.new(node, *cells_of(node), open_of(node)) }
      end

      # @return [Array<Domain>] the chambers, those that gas passes between together
      def domains =
        @domains ||=
          Domain.joined(rooms).each_with_index.map { |group, n| Domain.new(group, most: n.zero? ? most : nil) }

      # @return [Array<Integer>] cells along z, y, x of the grid that holds all that may be seen
      def span
        return @size if rooms.size == 1

        rooms.map(&:high).transpose.map(&:max).zip(rooms.map(&:low).transpose.map(&:min)).map { |high, low| high - low }
      end

      # @return [Integer] bytes that a run will take at most
      def memory = cells * BYTES_PER_CELL + ((rooms.size > 1) ? span.reduce(:*) * BYTES_SEEN : 0) + Detail.memory(self)

      # @return [Array<Hash>] the boxes as one looks at them: :node, :corner (metres), :size (cells along x, y, z)
      def boxes
        rooms.map do |room|
          {
            node: room.node.id, corner: room.low.reverse.zip(@corner).map { |c, o| o + c * @voxel },
            size: room.size.reverse
          }
        end
      end

      # @return [Boolean] whether the gas carries fuel; whether it carries colour
      def fuel? = sources_ever.any? { |node| node[:fuel].positive? || node.curves.key?(:fuel) }

      def colour? = sources_ever.any? { |node| node[:coloured] } || (fuel? && @document.the(:chamber)[:sooty])

      # @return [Boolean] whether fuel needs air to burn
      def air?
        chamber = @document.the(:chamber)
        fuel? && (chamber[:air].positive? || chamber.curves.key?(:air))
      end

      # @return [Array<Symbol>] what each frame tells besides, see {State}
      def tells
        chamber = @document.the(:chamber)
        [(:aged if chamber[:tells_age]), (:burning if chamber[:tells_burning] && fuel?)].compact
      end

      # What holds for the whole run.
      # @return [Hash] plain data
      def ground
        @ground ||= begin
          chamber = @document.the(:chamber)
          {
            "solver" => Solver::VERSION, "size" => @size, "voxel" => @voxel, "corner" => @corner,
            "open" => @open.transform_keys(&:to_s), "fuel" => fuel?, "colour" => colour?, "air" => air?,
            "seed" => @document.the(:general)[:seed], "follow" => chamber[:follow] && [margin, chamber[:follow_speed]],
            "grow" => grows? && cells, "padding" => chamber[:padding]
          }.merge(
            tells.any? ? {"tells" => tells.map(&:to_s)} : {},
            (rooms.size > 1) ? {"rooms" => rooms.map { |room| [room.low, room.high, room.open.values] }} : {}
          )
        end
      end

      # Settings evaluated at a frame.
      # @return [Hash] plain data
      def at(frame)
        chamber = @document.the(:chamber)
        {
          "seconds" => chamber[:time_scale, frame] / @document.rate,
          "gas" =>
            GAS
              .to_h { |dial| [dial.to_s, chamber[dial, frame]] }
              .merge("soot" => chamber[:sooty] ? chamber[:soot, frame] : nil),
          "sources" => Flow::Sources.new(self, frame, FEED).to_a,
          "solids" => solids(frame),
          "forces" => forces(frame),
          "emitters" => emitters(frame)
        }
      end

      # The kind of node that feeds it.
      def feeding = :source

      # Which forces push it.
      def acts_on = "gas"

      private

      # Cells of clean air around the content.
      def margin = [(@document.the(:chamber)[:margin] / @voxel).round, 2].max

      # How many cells the chamber may grow to, nil where it does not.
      def most
        chamber = @document.the(:chamber)
        (chamber[:most] * 1e6).round if chamber[:follow] && chamber[:grow]
      end

      # A further chamber on the lattice of the first. @return [Array(Array<Integer>, Array<Integer>)]
      def cells_of(node)
        (x, y, z), (width, height, depth) = Geometry::Hanging.stood(document, node), node[:size]
        edges = [[x - 0.5 * width, x + 0.5 * width], [y, y + height], [z - 0.5 * depth, z + 0.5 * depth]]
        # A little, so that two that share an edge round it alike.
        low, high =
          edges.zip(@corner).map { |pair, c| pair.map { |edge| ((edge - c) / @voxel + 1e-6).round } }.reverse.transpose
        [low, high.zip(low).map { |b, a| [b, a + LEAST_CELLS].max }]
      end

      def sources_ever = @document.of(:source)
    end
  end
end
