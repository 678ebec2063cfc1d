# frozen_string_literal: true

require "digest"
require "fileutils"
require "json"

module Vumbral
  module Studio
    # Frames of sculpts: made when they are first asked for, kept like those of runs, each under the key of what made
    # it.
    class Sculpts
      # Part of every key: raise it when what a recipe comes to changes.
      VERSION = 3
      # Recipes that were not asked for so long are let go with their frames, seconds.
      UNWANTED = 14 * 24 * 3600
      # Moments so near a frame are that, frames.
      SAME = 1e-3
      # What a frame's file is told of the lattice that it lies on.
      Place = Struct.new(:voxel, :corner)

      def initialize(workshop)
        @workshop = workshop
      end

      # @return [Boolean] whether a shot has sculpts to be seen
      def shown?(document)
        kept = @shown
        unless kept && kept[0].equal?(document)
          kept =
            @shown = [
              document,
              @workshop.liquids.spray?(document) ||
                document.of(:sculpt).any? && Geometry::Recipes.of(document, document.first_frame).any?
            ]
        end
        kept[1]
      end

      # @return [Hash{Integer => String}] the key of each frame of a shot that shows sculpts and has no run; none of
      #   others
      def keys_of(document, quality = "full") =
        (document.of(:source).empty? && shown?(document)) ? keys(document, quality) : {}

      # @param quality [String] draft or full
      # @return [Hash{Integer => String}] the key of each frame of the shot as it stands
      def keys(document, quality = "full")
        kept = @keys
        # What the liquid throws off comes as that is run.
        kept = @keys = [document, {}] unless kept && kept[0].equal?(document) && !@workshop.liquids.spray?(document)
        kept[1][quality] ||= (document.first_frame..document.last_frame).to_h do |frame|
          [frame, key(document, frame, quality)]
        end
      end

      # @param run [String, nil] the key of the run's frame, where a run is seen too
      # @param runs [Hash{Integer => String}] the keys of all its frames
      # @return [String, nil] nothing where nothing is seen
      def key(document, frame, quality = "full", run: nil, runs: {})
        recipes, seen = recipes(document, frame, quality, run: run, runs: runs)
        return if recipes.empty? && seen.nil?

        recipe = JSON.generate([VERSION, recipes, seen])
        key = Digest::SHA256.hexdigest(recipe)[0, 32]
        # When it was last wanted is told by its age.
        File.exist?(path(key)) ? FileUtils.touch(path(key)) : @workshop.home.write(path(key), recipe)
        key
      end

      # @param run [String, nil]; @param runs [Hash{Integer => String}] as for {#key}
      # @return [Array(Array<Hash>, String)] the recipes of a frame, and the key of the run's that is seen with them, if
      #   one is
      def recipes(document, frame, quality, run: nil, runs: {})
        recipes =
          with_run(Geometry::Recipes.at(Geometry::Recipes.of(document, frame), draft: quality == "draft"), runs) +
          sprayed(document, frame, quality)
        [recipes, (recipes.any? { |recipe| recipe["instead"] }) ? nil : run]
      end

      # @return [Sculpt::Frame, nil] what recipes come to, with a run's frame
      def carve(recipes, run)
        carved = recipes.map { |recipe| Sculpt::Carving.new(recipe, @workshop.assets).channels }
        return if carved.empty? && run.nil?

        Sculpt::Frame.of(
          carved,
          run: run && taken(run),
          going:
            recipes.map { |recipe| Sculpt::Beginning.new(recipe, @workshop.assets, 0.0).drift } +
              (run ? [flowing(run)] : [])
        )
      end

      # A frame of a run with the sculpts of its shot.
      # @param run [String] its key; @param runs [Hash{Integer => String}] those of all its frames
      # @return [String] the key of both together; the run's own where there are none
      def beside(document, frame, quality, run, runs)
        return run unless shown?(document)

        key(document, frame, quality, run: run, runs: runs.merge(frame => run))
      end

      # @return [Array(Array<Float>, Array<Float>), nil] lowest and highest corner of what a sculpt may fill on the
      #   first frame
      def reach(document, node)
        recipe = resolved(Geometry::Recipes.one(document, node, document.first_frame)) or return

        low, high = Sculpt::Beginning.new(recipe, @workshop.assets, 0.0).box
        [low.map { |c| c - recipe["room"] }, high.map { |c| c + recipe["room"] }]
      end

      # @return [Hash] size (cells along x, y, z), voxel and boxes of those that are seen, as a plan tells its chambers;
      #   of the first frame
      def room(document, quality)
        recipes =
          Geometry::Recipes
            .at(Geometry::Recipes.of(document, document.first_frame), draft: quality == "draft")
            .then { |all| with_run(all, {}) }
        return {} if recipes.empty?

        voxel = recipes.map { |recipe| recipe["voxel"] }.min
        boxes = recipes.map do |recipe|
          low, high = Sculpt::Beginning.new(recipe, @workshop.assets, 0.0).box
          {
            corner: low.map { |c| c - recipe["room"] },
            size: low.zip(high).map { |a, b| ((b - a + 2.0 * recipe["room"]) / voxel).ceil }
          }
        end
        {size: boxes.map { |box| box[:size] }.transpose.map(&:max), voxel: voxel, boxes: boxes}
      rescue Refused
        # What it begins with is gone, which preflight says.
        {}
      end

      # @param recipe [Hash, nil] @return [Hash, nil] with the frames of kept runs that it begins with; nil where it
      #   begins with a run of the shot
      def resolved(recipe) = recipe && with_run([recipe], {})[0]

      # @return [Float] how many voxels its box has
      def cells(recipe)
        low, high = Sculpt::Beginning.new(recipe, @workshop.assets, 0.0).box
        low.zip(high).reduce(1.0) { |all, (a, b)| all * ((b - a + 2.0 * recipe["room"]) / recipe["voxel"]).ceil }
      end

      # Lets go what nobody has wanted for long; it is made again when somebody does.
      def tidy
        old =
          Dir[@workshop.home.within("sculpts", "*", "*.json")].select { |file| Time.now - File.mtime(file) > UNWANTED }
        @workshop.holdings.let_go(old.map { |file| File.basename(file, ".json") })
        # Pictures of steps and surfaces are made again when they are asked for.
        [%w[sketches * *.png], %w[surfaces * *.corners]].each do |parts|
          Dir[@workshop.home.within(*parts)].each do |file|
            FileUtils.rm_f(file) if Time.now - File.mtime(file) > UNWANTED
          end
        end
      end

      # @return [String] where the recipe of a key stands, if it is one of a sculpt's
      def path(key) = @workshop.home.within("sculpts", key[0, 2], "#{key}.json")

      # Makes the frame of a key, if it is one of a sculpt's.
      # @return [Boolean] whether it is there now
      def make(key)
        return false unless key.to_s.match?(/\A[0-9a-f]{32}\z/) && File.exist?(path(key))

        began = @workshop.now
        _, recipes, run = JSON.parse(File.read(path(key)))
        frame = carve(recipes, run) or return false
        @workshop.frames.write(
          key, 0, frame.bricks, Place.new(frame.lattice.voxel, frame.corner),
          {seconds: @workshop.now - began, size: frame.size.reverse, voxel: frame.lattice.voxel, **frame.facts}
        )
        true
      end

      private

      # What the liquid throws off is a volume like others.
      def sprayed(document, frame, quality)
        return [] unless @workshop.liquids.spray?(document)

        own = @workshop.liquids.keys(document, quality)[Shot::Playing.poured(document, frame)[0]]
        # Since a change it may not be there, and nobody knows yet what is thrown off.
        key = [own, document.made(frame)].find { |one| one && @workshop.frames.frame?(one) } or return []

        plan = @workshop.liquids.plan(document, (key == own) ? quality : "draft")
        [
          {
            "voxel" => plan.voxel / plan.surface["spray_fine"], "room" => 0.0, "from" => "run", "run" => key,
            "steps" => []
          }
        ]
      end

      # Sculpts that begin with a frame of the run get it, and so do steps that go along with one; where it is not made
      # they have nothing to begin with, or to go along.
      def with_run(recipes, runs)
        recipes.filter_map do |recipe|
          steps = recipe["steps"].filter_map { |step| step.key?("run") ? made(step, runs) : step }
          recipe = recipe.merge("steps" => steps) unless steps == recipe["steps"]
          case recipe["from"]
          when "run" then made(recipe, runs)
          when "sculpt" then with_run([recipe["other"]], runs)[0]&.then { |other| recipe.merge("other" => other) }
          else recipe
          end
        end
      end

      # @return [Hash, nil] with the key of the frame that it names, or of the two between which it lies
      def made(part, runs)
        at, held, led, cache = part.values_at("run", "held", "led", "cache")
        # A key is there already where one sculpt begins with another that was asked for before.
        return part if at.is_a?(String)

        runs = @workshop.caches.frames(cache) if cache
        return if runs.empty?

        if cache && part.key?("from")
          part =
            part.merge(
              "flows" => part.fetch("flows", 1.0) * lasts(cache, at.floor.clamp(runs.keys.min, runs.keys.max), nil)
            )
        end
        # What is held at its end rests.
        part = part.merge("flows" => 0.0) if held && part.key?("from") && !at.between?(runs.keys.min, runs.keys.max)
        at = at.clamp(runs.keys.min, runs.keys.max) if held
        part = part.except("held", "led", "cache", "lasts")
        keys =
          [at.floor, at.floor + 1].map { |frame| runs[frame] }.map { |key| key if key && @workshop.frames.frame?(key) }
        between = at - at.floor
        if !led || between < SAME || keys[1].nil?
          return keys[led ? 0 : between.round]&.then { |key| part.merge("run" => key) }
        end

        keys[0] &&
          part.merge(
            "run" => keys[0], "next" => keys[1], "part" => between.round(4), "lasts" => lasts(cache, at.floor, led)
          )
      end

      # How long it is from a frame to the next, in the seconds of what was run.
      def lasts(cache, frame, led) = cache ? Shot::Playing.lasts(@workshop.caches.document(cache), frame) : led

      # How a frame of a run flows.
      def flowing(run)
        found = @workshop.assets.frame(run)
        found.flow && Sculpt::Drift::Source.new(found.flow, found.lattice, nil, 1.0)
      end

      def taken(run)
        bricks, head = @workshop.frames.read(run)
        voxel = head["voxel"]
        Sculpt::Frame.taken(bricks, Grid::Lattice.new(*head["corner"].map { |c| c + 0.5 * voxel }, voxel))
      end
    end
  end
end
