# frozen_string_literal: true

module Vumbral
  module Liquid
    # What the liquid of a shot will do, as plain numbers: the grid, and the settings at each frame. From these come the
    # keys under which frames are stored.
    class Plan
      include Flow::Planning

      LEAST_CELLS = 8
      # Working memory of a cell: faces of six speeds, their sums, marks, equations on all grids, walls, fullness; and
      # what a band takes besides.
      BYTES_PER_CELL, BYTES_OF_A_BAND = 236, 46
      # And of a particle: what it is, twice with room to spare, for they are sorted.
      BYTES_PER_DROP = 181
      # How far the surface ends within a vessel, and how far it goes into other walls, cells.
      WITHIN_A_TANK, INTO_WALLS = 0.05, 0.3
      # Particles in a full cell.
      DROPS_PER_CELL = 8
      LIQUID = %i[gravity viscosity own swirl even accuracy cells substeps_least substeps_most].freeze
      FEED = %i[from skin point_size along velocity carried rough breakup breakup_size breakup_octaves breakup_speed
        fade map picture formula].freeze
      KICK = %i[position extent soft how velocity along uneven uneven_size strength].freeze
      SPRAY = %i[trapped trapped_from trapped_to crest crest_from crest_to energy_from energy_to foam_life spray_drag
        bubble_rise bubble_drag most].freeze
      SURFACE = %i[grain round smooth sheets spray_dense spray_fine].freeze

      # So many cells of it spray may be told in, if that is finer than two along a voxel.
      MOST_FINE = 24_000_000

      attr_reader :document, :quality, :size, :voxel, :corner, :open

      # @param document [Shot::Document]; @param quality [Symbol] :draft or :full
      # @return [Plan, nil] nil where the shot has no liquid that counts
      def self.of(document, quality) = document.of(:liquid).any? ? new(document, quality) : nil

      def initialize(document, quality)
        @document = document
        @quality = quality
        @node = document.of(:liquid)[0]
        @voxel = @node[:voxel] * ((quality == :draft) ? @node[:draft] : 1.0)
        width, height, depth = @node[:size]
        @size = [depth, height, width].map { |length| [(length / @voxel).round, LEAST_CELLS].max }
        x, y, z = Geometry::Hanging.stood(document, @node)
        @corner = [x - 0.5 * @size[2] * @voxel, y, z - 0.5 * @size[0] * @voxel]
        @open = open_of(@node)
      end

      # @return [Shot::Node] the chamber
      attr_reader :node

      def feeding = :inflow

      def acts_on = "liquid"

      # @return [Integer]
      def cells = @size.reduce(:*)

      # @return [Integer] particles, as far as the water line tells; inflows come on top
      def drops
        return 0 unless @node[:pool]

        deep = band.positive? ? [@node[:line], ([band, Band::LEAST].max + 1) * @voxel].min : @node[:line]
        (cells * DROPS_PER_CELL * (deep / (@size[1] * @voxel)).clamp(0.0, 1.0)).round
      end

      # @return [Integer] voxels below the surface down to which there are particles; 0 everywhere. Colours go with
      #   these.
      def band = dyed? ? 0 : @node[:band]

      # @return [Integer] bytes that a run will take at most, when a third of the box is filled or it begins fuller; in
      #   a band, as it begins
      def memory =
        cells * (BYTES_PER_CELL + (band.positive? ? BYTES_OF_A_BAND : 0)) +
          [drops, band.positive? ? 0 : cells * DROPS_PER_CELL / 3].max * BYTES_PER_DROP

      # @param unit [Float] metres that are counted as one
      # @return [Hash] the box as one looks at it: :node, :corner (metres), :size along x, y, z
      def box(unit) = {node: @node.id, corner: @corner, size: @size.reverse.map { |n| n * @voxel / unit }}

      # What holds for the whole run.
      # @return [Hash] plain data
      def ground
        @ground ||= {
          "solver" => Solver::VERSION, "size" => @size, "voxel" => @voxel, "corner" => @corner,
          "open" => @open.transform_keys(&:to_s), "seed" => @document.the(:general)[:seed],
          "pool" => @node[:pool] ? @node[:line] : nil, "first" => frames.first, "kept" => @node[:kept],
          "spray" => @node[:spray], **(kinds.all? ? {} : {"kinds" => kinds}),
          **(dyed? ? {"dye" => @node[:dye]} : {}), **(band.positive? ? {"band" => band} : {})
        }
      end

      # @return [Boolean] whether each particle has a colour
      def dyed? = @node[:dyed]

      # @return [Array<Boolean>] whether spray is kept that flies, that lies on the liquid, and that rises within it
      def kinds = %i[flies foams bubbles].map { |dial| @node[dial] }

      # How its surface is made of its particles, which needs no run.
      # @return [Hash] plain data
      def surface = @surface ||= SURFACE.to_h { |dial| [dial.to_s, @node[dial]] }.merge("spray_fine" => spray_fine)

      # What flows at each frame, whatever surface is made of it: a hash of what was before it and of the settings at
      # it.
      # @return [Hash{Integer => String}]
      def flows = @flows ||= chain

      # @return [Hash{Integer => String}] the key of each frame: of what flows and of how its surface is made
      def keys = @keys ||= flows.transform_values { |flow| digest([flow, surface]) }

      # @return [Float] that a frame lasts for the liquid
      def seconds(frame) = @node[:time_scale, frame] / @document.rate

      # How far off walls the liquid's surface ends, cells: a hair within a vessel, through whose glass it is seen, and
      # within what it lies on, where a gap would be a mirror.
      # @return [Float]
      def clear = @node[:tank] ? WITHIN_A_TANK : -INTO_WALLS

      # Settings evaluated at a frame.
      # @return [Hash] plain data
      def at(frame)
        {
          "seconds" => seconds(frame), "liquid" => liquid(frame), "tank" => bodies(@node[:tank], frame),
          "solids" => solids(frame).reject { |body| mine?(body) }, "inflows" => inflows(frame), "kicks" => kicks(frame),
          "spray" => @node[:spray] ? SPRAY.to_h { |dial| [dial.to_s, @node[dial, frame]] } : nil,
          "forces" => forces(frame), "emitters" => emitters(frame), **waves(frame)
        }
      end

      # @return [Hash] what a kick is at a frame
      def kick(node, frame)
        last = node[:last].zero? ? frames.last : node[:last]
        row = KICK.to_h { |dial| [dial.to_s, (dial == :position) ? led(node, dial, frame) : node[dial, frame]] }
        row["formulas"] = %i[x y z].map { |axis| node[:"formula_#{axis}"] } if node[:by_formula]
        row.merge(
          "bodies" => bodies(node[:prop], frame), "boxed" => node[:prop].nil?, "lasts" => last - node[:first] + 1,
          "frame" => frame, "time" => (frame - frames.first) / @document.rate
        )
      end

      private

      # Cells along a voxel in which spray is seen: as many as are wished, and fit.
      def spray_fine
        return 1 unless @node[:spray]

        @node[:spray_fine].downto(3).find { |fine| cells * fine**3 <= MOST_FINE } || [@node[:spray_fine], 2].min
      end

      # Which sides send waves or let them go; nothing where none does.
      def waves(frame)
        from, calms = @node[:waves_from], (@node[:calms] == "others") ? Waves::SIDES - [@node[:waves_from]] : []
        return {} if from == "none" && calms.empty?

        {
          "waves" => {
            "from" => from, "height" => @node[:wave_height, frame], "length" => @node[:wave_length], "calms" => calms,
            "wide" => @node[:wave_zone], "line" => @node[:line]
          }
        }
      end

      # Without tension it is not told of, so that what was run before still counts.
      def liquid(frame)
        tension = @node[:tension, frame]
        LIQUID
          .to_h { |dial| [dial.to_s, @node[dial, frame]] }
          .merge("true_size" => @node[:true_size], **(tension.zero? ? {} : {"tension" => tension}))
      end

      # What is made of the liquid does not stand in its way.
      def mine?(body) = body["outline"]["shape"] == "liquid"

      # The tank holds it, and is no wall besides.
      def solids(frame) =
        super.reject do |body|
          bodies(@node[:tank], frame).any? { |tank| tank["outline"] == body["outline"] && tank["to"] == body["to"] }
        end

      # Where spray is thrown it may be more or less near some; without that it is not told of.
      def standing(node, frame) =
        super.merge((@node[:spray] && node[:throws, frame] != 1) ? {"throws" => node[:throws, frame]} : {})

      # One that fills once does so on its first frame.
      def inflows(frame)
        Flow::Sources
          .new(self, frame, FEED)
          .to_a do |node, at|
            {"does" => node[:does], "begins" => at == node[:first], **(dyed? ? {"dye" => node[:dye, at]} : {})}
          end
          .reject { |row| row["does"] == "fill" && !row["begins"] }
      end

      def kicks(frame)
        @document
          .of(:kick)
          .select { |node| Shot::Timing.on?(node, frame) && node[:strength, frame] != 0.0 }
          .map { |node| kick(node, frame) }
      end
    end
  end
end
