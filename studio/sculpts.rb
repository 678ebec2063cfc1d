# frozen_string_literal: true

require "digest"
require "fileutils"
require "json"

module Vumbral
  module Studio
    # Frames of sculpts: made when they are first asked for, kept like those of runs, each under the key of what made it.
    class Sculpts
      # Part of every key: raise it when what a recipe comes to changes.
      VERSION = 1
      # Recipes that were not asked for so long are let go with their frames, seconds.
      UNWANTED = 14 * 24 * 3600
      # What a frame's file is told of the lattice that it lies on.
      Place = Struct.new(:voxel, :corner)

      def initialize(workshop)
        @workshop = workshop
      end

      # @return [Boolean] whether a shot shows sculpts: it has some, and no run takes their place
      def shown?(document) = document.of(:source).empty? && Geometry::Recipes.of(document, document.first_frame).any?

      # @return [Hash{Integer => String}] the key of each frame of a shot that shows sculpts; none of others
      def keys_of(document) = shown?(document) ? keys(document) : {}

      # @return [Hash{Integer => String}] the key of each frame of the shot as it stands
      def keys(document)
        return @keys[1] if @keys && @keys[0].equal?(document)

        made = (document.first_frame..document.last_frame).to_h { |frame| [frame, key(document, frame)] }
        @keys = [document, made]
        made
      end

      # @return [String]
      def key(document, frame)
        recipe = JSON.generate([VERSION, Geometry::Recipes.of(document, frame)])
        key = Digest::SHA256.hexdigest(recipe)[0, 32]
        # When it was last wanted is told by its age.
        File.exist?(path(key)) ? FileUtils.touch(path(key)) : @workshop.home.write(path(key), recipe)
        key
      end

      # Lets go what nobody has wanted for long; it is made again when somebody does.
      def tidy
        old = Dir[@workshop.home.within("sculpts", "*", "*.json")].select { |file| Time.now - File.mtime(file) > UNWANTED }
        @workshop.holdings.let_go(old.map { |file| File.basename(file, ".json") })
      end

      # @return [String] where the recipe of a key stands, if it is one of a sculpt's
      def path(key) = @workshop.home.within("sculpts", key[0, 2], "#{key}.json")

      # Makes the frame of a key, if it is one of a sculpt's.
      # @return [Boolean] whether it is there now
      def make(key)
        return false unless key.to_s.match?(/\A[0-9a-f]{32}\z/) && File.exist?(path(key))

        began = @workshop.now
        frame = Sculpt::Frame.of(JSON.parse(File.read(path(key)))[1].map { |recipe| Sculpt::Carving.new(recipe, @workshop.assets).channels })
        @workshop.frames.write(key, 0, frame.bricks, Place.new(frame.lattice.voxel, frame.corner), {seconds: @workshop.now - began, size: frame.size.reverse, voxel: frame.lattice.voxel})
        true
      end
    end
  end
end
