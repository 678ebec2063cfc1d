# frozen_string_literal: true

module Vumbral
  module Geometry
    # How the pieces of a broken prop fly: blown from a place, turning, falling, bouncing off a
    # floor. They do not meet each other. A pure function of its settings.
    class Flight
      include Vectors

      GRAVITY = 9.81
      STEPS = 8

      Motion = Struct.new(:place, :speed, :turned, :axis, :spin, :gone)

      # @param settings [Hash] from {Breaking.settings}
      # @param pieces [Array<Breaking::Piece>]
      def initialize(settings, pieces)
        @settings = settings
        @pieces = pieces
        @start = Pose.of(settings["start"])
        @turn = @start.rigid
        @motions = begin_with
        @frames = {settings["break_frame"] => poses}
        @last = settings["break_frame"]
      end

      # @return [Array<Hash, nil>] where each piece stands at a frame; nil once it was let go
      def at(frame)
        frame = [frame, @settings["break_frame"]].max
        (@last + 1..frame).each do |f|
          STEPS.times { @motions.each { |motion| step(motion, 1.0 / (@settings["rate"] * STEPS)) unless motion.gone } }
          @frames[f] = poses
          @last = f
        end
        @frames.fetch(frame)
      end

      private

      def begin_with
        random = Random.new(@settings["piece_seed"] * 104_729)
        placed = @start.transform
        carried = Transform.motion(Pose.of(@settings["before"]).transform, placed, placed, 1.0 / @settings["rate"])
        @pieces.map do |piece|
          place = placed.apply(piece.middle)
          blown = blast(place, random)
          axis = unit(Array.new(3) { random.rand(-1.0..1.0) })
          strength = @settings["blast_strength"].positive? ? Math.sqrt(blown.sum { |c| c * c }) / @settings["blast_strength"] : 0.3
          Motion.new(place, blown.zip(carried.apply(place)).map(&:sum), 0.0, axis, @settings["spin"] * random.rand(0.4..1.3) * [strength, 1.0].min, false)
        end
      end

      # Fades to nothing at its reach.
      def blast(place, random)
        way = place.zip(@settings["blast"]).map { |a, b| a - b }
        far = Math.sqrt(way.sum { |c| c * c })
        strength = @settings["blast_strength"] * (1.0 - far / @settings["blast_reach"]).clamp(0.0,
          1.0)**2 * random.rand(0.75..1.25)
        jitter = Array.new(3) { random.rand(-0.18..0.18) }
        unit(way).zip(jitter).map { |c, j| (c + j) * strength }
      end

      def step(motion, dt)
        motion.speed[1] -= GRAVITY * @settings["falls"] * dt
        motion.place = motion.place.zip(motion.speed).map { |p, v| p + v * dt }
        motion.turned += motion.spin * dt
        land(motion)
        motion.gone = outside?(motion.place)
      end

      def land(motion)
        low = @settings["floor"] + @pieces[@motions.index(motion)].radius * @start.scale.min
        return if motion.place[1] >= low || motion.speed[1] >= 0.0

        motion.place[1] = low
        motion.speed[1] *= -@settings["bounce"]
        motion.speed[1] = 0.0 if motion.speed[1] < 0.25
        kept = 1.0 - @settings["scrape"]
        motion.speed[0] *= kept
        motion.speed[2] *= kept
        motion.spin *= kept
      end

      def outside?(place)
        low, high = @settings["box"]
        return false unless low

        place.zip(low, high).any? { |c, a, b| c < a - 0.5 || c > b + 0.5 }
      end

      def poses
        @motions.map do |motion|
          next if motion.gone

          Pose.new(motion.place, rotation(motion.axis, motion.turned).angles, @start.scale).to_data
        end
      end

      # About an axis by degrees, after the prop's own turn (Rodrigues 1840).
      def rotation(axis, degrees)
        c, s = Math.cos(degrees * Math::PI / 180), Math.sin(degrees * Math::PI / 180)
        x, y, z = axis
        spun = Transform.new([
          [c + x * x * (1 - c), x * y * (1 - c) - z * s, x * z * (1 - c) + y * s, 0.0],
          [y * x * (1 - c) + z * s, c + y * y * (1 - c), y * z * (1 - c) - x * s, 0.0],
          [z * x * (1 - c) - y * s, z * y * (1 - c) + x * s, c + z * z * (1 - c), 0.0]
        ])
        spun * Transform.place(turn: @start.turn)
      end
    end
  end
end
