# frozen_string_literal: true

module Vumbral
  module Finish
    # Follows spots from picture to picture.
    class Tracker
      # How many frames a spot may be hidden behind what is ignored before it is given up.
      HIDDEN = 24

      # Places evened by a bell; at the ends as far as there are neighbours on both sides, so that nothing is drawn
      # inwards.
      # @param places [Array<Float>]; @param sigma [Float] frames
      # @return [Array<Float>]
      def self.even(places, sigma)
        return places if sigma <= 0.0

        places.each_index.map do |n|
          reach = [(3.0 * sigma).ceil, n, places.size - 1 - n].min
          weights = (-reach..reach).map { |by| Math.exp(-0.5 * (by / sigma)**2) }
          (-reach..reach).zip(weights).sum { |by, weight| weight * places[n + by] } / weights.sum
        end
      end

      # @param size [Integer] of the pattern, pixels; @param search [Integer] how far it may be from where it was going
      # @param adapts [Float] how much of the pattern is taken anew at each frame
      # @param least [Float] what is less like it than this is not it
      def initialize(size:, search:, adapts: 0.0, least: 0.6)
        @how = {size: [size | 1, 7].max, search: [search, 1].max, adapts: adapts, least: least}
      end

      # @param frames [Array<Integer>] in the order in which it is followed; it is known on the first
      # @param x [Float] and y where it is on the first one, pixels
      # @yield [frame] gives the picture, f32 [h, w, 4], and perhaps what of it to pass over, f32 [h, w], 1 where
      #   nothing counts
      # @return [Array<Trail::Found>] as far as it was found, the first one included
      def follow(frames, x, y, &pictures) = follow_all(frames, [[x, y]], &pictures)[0]

      # Several at once, so that each picture is made once. @param places [Array<Array(Float, Float)>]
      # @return [Array<Array<Trail::Found>>]
      def follow_all(frames, places)
        picture, ignored = seen(yield(frames[0]))
        trails = places.map { |place| Trail.new(picture, ignored, frames[0], place, @how) }
        frames.drop(1).each do |frame|
          going = trails.select(&:going?)
          break if going.empty?

          picture, ignored = seen(yield(frame))
          going.each { |trail| trail.on(picture, ignored, frame) }
        end
        trails.map(&:found)
      end

      private

      def seen(given)
        image, ignored = given
        [
          Kernel::Buffer.new(:f32, *image.shape.first(2)).tap { |out| TrackKernels.grey(out, image) },
          ignored || Masks::EVERYWHERE
        ]
      end
    end
  end
end
