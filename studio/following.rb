# frozen_string_literal: true

module Vumbral
  module Studio
    # What a frame looks like while a dial is under the hand: lit and ready for the view, coarser where it would come
    # too late, and kept nowhere. Dials of sculpts, of light and of a liquid's surface can be followed; those of runs
    # have to be run.
    class Following
      # So many voxels are made and lit in time.
      MOST = 600_000
      FOLLOWED = %i[sculpt light].freeze

      def initialize(workshop)
        @workshop = workshop
        @one = Mutex.new
      end

      # @param edits [Array<Hash>] as {Shot::Edits} takes them; the shot stays as it is
      # @param key [String, nil] of the frame that the view shows
      # @return [String, nil] bytes of {Light::ViewVolume.encode}; nil where there is nothing to follow, or one comes
      #   already
      # @raise [Refused] for edits that are refused
      def volume(shot_id, frame, quality, key, edits)
        before = @workshop.shots.document(shot_id)
        touched = touches(before, edits)
        return unless touched && before.first_frame <= frame && frame <= before.last_frame && @one.try_lock

        begin
          after, = Shot::Edits.apply(before, edits)
          bricks, head = seen(after, shot_id, frame, quality, key, touched)
          # What a sculpt does leaves the lamps and what stands before them.
          bricks && encoded(bricks, head, @workshop.views.painter((touched == :sculpt) ? before : after, frame))
        ensure
          @one.unlock
        end
      end

      # The surface of a liquid as edits would make it.
      # @param name [String] of the liquid's frame that the view shows, see {Liquids#seen}
      # @return [Geometry::Mesh, nil] nil where there is nothing to follow, or one comes already
      # @raise [Refused] for edits that are refused, and where what the frame keeps is gone
      def surface(shot_id, frame, quality, name, edits)
        before = @workshop.shots.document(shot_id)
        unless @workshop.liquids.any?(before) && Array(edits).any? &&
            Array(edits).all? { |edit| dial(before, edit)&.touches == :surface } && @one.try_lock
          return
        end

        begin
          after, = Shot::Edits.apply(before, edits)
          mesh = @workshop.liquids.otherwise(name, @workshop.liquids.plan(after, quality).surface)
          shown = after.of(:prop).find { |node| node[:shape] == "liquid" && !node[:kept] }
          shown ? worked_on(mesh, after, shown, frame) : mesh
        ensure
          @one.unlock
        end
      end

      private

      # As the prop that shows it has it.
      def worked_on(mesh, document, node, frame)
        whole = Sculpt::Skin.without_crumbs(mesh, node[:least_part])
        rows = Geometry::Operations.rows(document, node, frame)
        rows.empty? ? whole : Geometry::Operations.apply(whole, rows, @workshop.assets)
      end

      # What all of the edits have to do with, if they can be followed.
      def touches(document, edits)
        kinds = Array(edits).map { |edit| touch(document, edit) }
        return unless kinds.all?

        kinds.include?(:sculpt) ? :sculpt : kinds[0]
      end

      def dial(document, edit)
        node = edit.is_a?(Hash) && document.nodes[edit["node"]]
        (node && %w[set key].include?(edit["do"])) ? node.kind.dials[edit["dial"].to_s.to_sym] : nil
      end

      def touch(document, edit)
        dial = dial(document, edit)
        return unless dial && FOLLOWED.include?(dial.touches)

        node = document.nodes[edit["node"]]
        (node.kind.name == :texture && carves?(document, node)) ? :sculpt : dial.touches
      end

      # Whether a texture shapes a sculpt.
      def carves?(document, texture) =
        document.of(:step).any? { |step| [step[:texture], step[:mask_texture]].include?(texture.id) }

      # @return [Array(Grid::Bricks, Hash), nil]
      def seen(document, shot_id, frame, quality, key, touched)
        return kept(key) unless touched == :sculpt

        run, runs = @workshop.runs.still?(document) ? [nil, {}] : @workshop.runs.own(shot_id, frame)
        recipes, with = @workshop.sculpts.recipes(document, frame, quality, run: run, runs: runs)
        carved = @workshop.sculpts.carve(Geometry::Recipes.enlarged(recipes, larger(recipes)), with)
        carved && [carved.bricks, {"voxel" => carved.lattice.voxel, "corner" => carved.corner}]
      end

      # By how much voxels have to be larger.
      def larger(recipes)
        by = (recipes.sum { |recipe| @workshop.sculpts.cells(recipe) } / MOST)**(1.0 / 3.0)
        # In steps, so that what was carved before is found again.
        [1.0, 1.25, 1.5, 2.0, 2.5, 3.0, 4.0].find { |step| by <= step } || by.ceil.to_f
      end

      # The frame that is looked at is asked for again and again.
      def kept(key)
        return unless key && @workshop.frames.frame?(key)

        @kept = [key, *@workshop.frames.read(key)] unless @kept && @kept[0] == key
        @kept[1..]
      end

      def encoded(bricks, head, painter)
        medium = painter.rig.shaping.call(Light::Medium.of(bricks, head))
        medium = medium.halved while medium.smoke.size > MOST
        fire = medium.fire(painter.rig)
        Light::ViewVolume.encode(medium, medium.quick_light(painter.rig, painter.scene, fire), fire)
      end
    end
  end
end
