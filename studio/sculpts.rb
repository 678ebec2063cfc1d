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

      # @return [Boolean] whether a shot has sculpts to be seen
      def shown?(document) = document.of(:sculpt).any? && Geometry::Recipes.of(document, document.first_frame).any?

      # @return [Hash{Integer => String}] the key of each frame of a shot that shows sculpts and has no run; none of others
      def keys_of(document) = (document.of(:source).empty? && shown?(document)) ? keys(document) : {}

      # @return [Hash{Integer => String}] the key of each frame of the shot as it stands
      def keys(document)
        return @keys[1] if @keys && @keys[0].equal?(document)

        made = (document.first_frame..document.last_frame).to_h { |frame| [frame, key(document, frame)] }
        @keys = [document, made]
        made
      end

      # @param run [String, nil] the key of the run's frame, where a run is seen too
      # @return [String]
      def key(document, frame, run: nil)
        recipe = JSON.generate([VERSION, with_run(Geometry::Recipes.of(document, frame), run), run])
        key = Digest::SHA256.hexdigest(recipe)[0, 32]
        # When it was last wanted is told by its age.
        File.exist?(path(key)) ? FileUtils.touch(path(key)) : @workshop.home.write(path(key), recipe)
        key
      end

      # A frame of a run with the sculpts of its shot.
      # @param run [String] its key @return [String] the key of both together; the run's own where there are none
      def beside(document, frame, run)
        return run if document.of(:sculpt).empty? || Geometry::Recipes.of(document, frame).empty?

        key(document, frame, run: run)
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
        _, recipes, run = JSON.parse(File.read(path(key)))
        carved = recipes.map { |recipe| Sculpt::Carving.new(recipe, @workshop.assets).channels }
        frame = Sculpt::Frame.of(carved, run: (run && recipes.none? { |recipe| recipe["from"] == "run" }) ? taken(run) : nil)
        @workshop.frames.write(key, 0, frame.bricks, Place.new(frame.lattice.voxel, frame.corner), {seconds: @workshop.now - began, size: frame.size.reverse, voxel: frame.lattice.voxel})
        true
      end

      private

      # Sculpts that begin with the run get its frame; without one they have nothing to begin with.
      def with_run(recipes, run)
        recipes.filter_map do |recipe|
          next recipe unless recipe["from"] == "run" || recipe["from"] == "sculpt"
          next run && recipe.merge("run" => run) if recipe["from"] == "run"

          other = with_run([recipe["other"]], run)[0]
          other && recipe.merge("other" => other)
        end
      end

      def taken(run)
        bricks, head = @workshop.frames.read(run)
        voxel = head["voxel"]
        Sculpt::Frame.taken(bricks, Grid::Lattice.new(*head["corner"].map { |c| c + 0.5 * voxel }, voxel))
      end
    end
  end
end
