# frozen_string_literal: true

module Vumbral
  module Finish
    # Where the camera of a plate stood and how it looked, from spots that were followed: free from places of the shot
    # that are known (resection), or turning where it stands, from the directions of any spots (a tripod).
    class Sighting
      # What a camera on a tripod and one that is free need at a frame.
      LEAST = {tripod: 2, free: 3}.freeze
      # A spot that lies so many times as far off as the middle one is wrong at that frame, if it is off by this share
      # of the frame's height at all.
      WRONG = 4.0
      OFF = 0.002
      # How often directions and cameras are sought in turn.
      ROUNDS = 3

      # A camera: a rigid transform into the world (it looks along its own -z), and its focal length, mm.
      Eye = Struct.new(:rigid, :place, :focal) do
        # @return [Eye] from {Picture::Camera.settings}
        def self.of(camera)
          view = Picture::Camera.new(camera).view(2, 2).to_a
          ahead, right, up =
            [view[3, 3], view[6, 3], view[9, 3]].map do |axis|
              Math.sqrt(axis.sum { |c| c * c }).then { |length| axis.map { |c| c / length } }
            end
          new(
            Geometry::Transform.new([right, up, ahead.map { |c| -c }].transpose.map { |row| row + [0.0] }),
            camera["position"], camera["focal"]
          )
        end

        # @return [Array(Array<Float>, Float)] a place so far ahead, and how far it leans to the right, degrees
        def look(distance)
          right, up, back = rigid.rows.map { |row| row.first(3) }.transpose
          level = Math.hypot(back[0], back[2])
          # Straight up or down nothing leans.
          along = (level < 1e-9) ? right : [back[2] / level, 0.0, -back[0] / level]
          roll = Math.atan2(up.zip(along).sum { |a, b| a * b }, right.zip(along).sum { |a, b| a * b })
          [place.zip(back).map { |a, b| a - distance * b }, roll * 180.0 / Math::PI]
        end
      end

      # @!attribute eyes [Hash{Integer => Eye}] by frame
      # @!attribute off [Float] how far spots lie off in the mean (root of the mean square), parts of the frame's height
      # @!attribute wrong [Hash{Object => Array<Integer>}] frames on which a spot was left out, by its name
      Found = Struct.new(:eyes, :off, :wrong)

      # @param shape [Float] width of the frame over its height
      # @param free [Boolean] whether it goes about; otherwise it turns where it stands
      # @param zooms [Boolean] whether its focal length is sought too
      def initialize(shape, free:, zooms: false)
        @shape, @free, @zooms = shape, free, zooms
      end

      # @param spots [Hash{Object => Hash{Integer => Array(Float, Float)}}] where each is seen at frames, 0 to 1 across
      #   and down
      # @param known [Hash{Object => Array<Float>}] places of the shot, metres
      # @param from [Integer] a frame, and `eye` the camera there: what a tripod begins with, and near what a free one
      #   is
      # @param frames [Array<Integer>]
      # @yield [n, count] after each frame
      # @return [Found]
      # @raise [Refused] where no frame has spots enough
      def solve(spots, known, from, eye, frames, &progress)
        @spots, @known, @ways, @wrong = spots, known, {}, Hash.new { |all, name| all[name] = [] }
        learn(from, eye) unless @free
        rounds = @free ? 1 : ROUNDS
        eyes = {}
        rounds.times do |round|
          eyes = around(frames, from, eye, eyes) { |n| progress&.call(round * frames.size + n, rounds * frames.size) }
          average(eyes) if round < rounds - 1
        end
        offs = eyes.flat_map { |frame, one| used(frame).flat_map { |name| off(one, name, frame) } }
        Found.new(
          eyes.sort.to_h, Math.sqrt(offs.sum { |c| c * c } / [offs.size / 2, 1].max),
          @wrong.reject { |_, at| at.empty? }.transform_values(&:sort)
        )
      end

      private

      # From the known frame on, then from it back, each from the one before it.
      def around(frames, from, eye, before)
        done = 0
        wide = frames.sort.partition { |frame| frame >= from }
        [wide[0], wide[1].reverse].each_with_object({}) do |way, eyes|
          last = before[from] || eye
          way.each do |frame|
            last = eyes[frame] = found(frame, before[frame] || last, (frame == from) ? eye : nil) if enough?(frame)
            learn(frame, last) if eyes[frame] && !@free
            yield done += 1
          end
        end
      end

      def enough?(frame) = names(frame).size >= LEAST[@free ? :free : :tripod] + (@zooms ? 1 : 0)

      # Spots at a frame of which something is known.
      def names(frame) =
        @spots.select { |name, seen| seen.key?(frame) && (@known.key?(name) || (!@free && @ways.key?(name))) }.keys

      def used(frame) = names(frame).reject { |name| @wrong[name].include?(frame) }

      def found(frame, eye, given)
        # What a tripod begins with is taken as it is.
        return given if given && !@free

        @wrong.each_value { |at| at.delete(frame) }
        eye = nearest(eye, frame)
        offs = used(frame).to_h { |name| [name, Math.hypot(*off(eye, name, frame))] }
        limit = [WRONG * offs.values.sort[offs.size / 2], OFF].max
        wrong = offs.select { |_, off| off > limit }.keys
        return eye if wrong.empty? || offs.size - wrong.size < LEAST[@free ? :free : :tripod] + 1

        wrong.each { |name| @wrong[name] << frame }
        nearest(eye, frame)
      end

      def nearest(eye, frame)
        names = used(frame)
        unknowns = 3 + (@free ? 3 : 0) + (@zooms ? 1 : 0)
        LeastSquares.new(
          unknowns, offs: ->(one) { names.flat_map { |name| off(one, name, frame) } },
          moved: ->(one, by) { moved(one, by) }
        ).from(eye)[
          0
        ]
      end

      def moved(eye, by)
        Eye.new(
          eye.rigid.turned(by.first(3)), @free ? eye.place.zip(by[3, 3]).map(&:sum) : eye.place,
          @zooms ? eye.focal * Math.exp(by.last) : eye.focal
        )
      end

      # How far a spot is seen beside where it was found, parts of the frame's height.
      def off(eye, name, frame)
        way = @known.key?(name) ? @known[name].zip(eye.place).map { |a, b| a - b } : @ways[name]
        u, v = @spots[name][frame]
        seen = seen(eye, way) or return [9.0, 9.0]
        [(seen[0] - u) * @shape, seen[1] - v]
      end

      def seen(eye, way)
        x, y, z = eye.rigid.rows.map { |row| row.first(3) }.transpose.map { |axis| axis.zip(way).sum { |a, b| a * b } }
        return if z > -1e-9

        half = 0.5 * Picture::Camera::SENSOR / eye.focal
        [0.5 - 0.5 * x / z / half, 0.5 + 0.5 * y / z / half * @shape]
      end

      # Towards where a camera sees a place of the frame, of length 1.
      def way(eye, place)
        half = 0.5 * Picture::Camera::SENSOR / eye.focal
        x, y = (2.0 * place[0] - 1.0) * half, (1.0 - 2.0 * place[1]) * half / @shape
        eye.rigid.apply([x, y, -1.0].map { |c| c / Math.sqrt(x * x + y * y + 1.0) })
      end

      # Directions of spots that come into sight here.
      def learn(frame, eye)
        @spots.each { |name, seen| @ways[name] ||= way(eye, seen[frame]) if seen.key?(frame) && !@known.key?(name) }
      end

      # Directions as all frames see them in the mean.
      def average(eyes)
        @ways.each_key do |name|
          ways =
            @spots[name].filter_map do |frame, place|
              way(eyes[frame], place) if eyes[frame] && !@wrong[name].include?(frame)
            end
          next if ways.empty?

          sum = ways.transpose.map(&:sum)
          length = Math.sqrt(sum.sum { |c| c * c })
          @ways[name] = sum.map { |c| c / length }
        end
      end
    end
  end
end
