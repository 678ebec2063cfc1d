# frozen_string_literal: true

module Vumbral
  module Geometry
    # What sculpts are made by, as plain data: what each begins with, and its steps at a frame.
    module Recipes
      # Numbers of the steps that need nothing besides their own dials.
      PLAIN = {"density" => %i[inside outside whole], "grow" => %i[by], "open" => %i[thin], "close" => %i[thin],
               "shell" => %i[wall], "distance" => %i[level], "blur" => %i[radius], "sharpen" => %i[radius amount],
               "relax" => %i[radius], "limit" => %i[low high], "mirror" => %i[at], "repeat" => %i[at period],
               "erode" => %i[amount soft size], "number" => %i[amount], "remap" => %i[low high],
               "warp" => %i[size far], "fray" => %i[size far curl], "flow" => %i[size far]}.freeze
      # Those that noise makes, which may go on in time.
      NOISY = %w[warp fray flow erode].freeze
      # Rows of what stands as it was.
      STILL = Transform.identity.rows.flatten.freeze
      # So many sculpts may be made of each other.
      DEEPEST = 8

      module_function

      # @param document [Shot::Document]; @param frame [Numeric]
      # @return [Array<Hash>] one for each sculpt that is seen by itself and has something to begin with
      def of(document, frame) =
        document.of(:sculpt).select { |node| node[:shown] }.filter_map { |node| one(document, node, frame) }

      # @param upto [String, nil] a step after which nothing is done
      # @return [Hash, nil] nil where it begins with nothing, or with itself
      def one(document, node, frame, upto: nil)
        return if circle?(document, node)

        start = start(document, node, frame)
        return unless start

        steps = steps(document, node)
        last = upto ? steps.index { |step| step.id == upto } : steps.index { |step| step[:upto] && document.on?(step) }
        steps = steps.first(last + 1) if last
        {"voxel" => node[:voxel], "draft" => node[:draft], "room" => node[:room], **start,
         "steps" => steps.select { |step| document.on?(step) }.filter_map { |step| step(document, step, frame) }}
      end

      # @param recipe [Object] plain data in which there are recipes
      # @param draft [Boolean] whether voxels are as large as in drafts
      # @return [Object] the same for one quality
      def at(recipe, draft:)
        case recipe
        when Array then recipe.map { |part| at(part, draft: draft) }
        when Hash
          own = recipe.transform_values { |part| at(part, draft: draft) }
          if own.key?("draft") && own.key?("voxel")
            own.except("draft").merge("voxel" => draft ? own["voxel"] * own["draft"] : own["voxel"])
          else
            own
          end
        else recipe
        end
      end

      # @param recipe [Object] plain data in which there are recipes of one quality
      # @return [Object] the same with voxels so many times larger
      def enlarged(recipe, by)
        case recipe
        when Array then recipe.map { |part| enlarged(part, by) }
        when Hash
          own = recipe.transform_values { |part| enlarged(part, by) }
          own.key?("voxel") ? own.merge("voxel" => own["voxel"] * by) : own
        else recipe
        end
      end

      # @return [Array<Shot::Node>] of a sculpt, in their order
      def steps(document, node) =
        all_steps(document).select { |step| step[:sculpt] == node.id }
          .sort_by.with_index { |step, n| [step[:order], n] }

      # @return [Boolean] whether a sculpt is made of itself, over others or over props that are its surfaces
      def circle?(document, node, seen = [])
        return true if seen.include?(node.id) || seen.size > DEEPEST

        parts(document, node).any? { |other| circle?(document, other, seen + [node.id]) }
      end

      # What a sculpt, or a prop that is the surface of one, is made of.
      def parts(document, node)
        if node.kind.name == :prop
          return [document.nodes[node[:surface_of]]].compact.select { node[:shape] == "sculpt" }
        end
        return [document.nodes[node[:sculpt]]].compact.select { node[:what] == "sculpt" } if node.kind.name == :texture

        named = [*((node[:from] == "sculpt") ? [node[:other]] : [node[:prop], *node[:also]])]
        named += steps(document, node).flat_map { |step| [*Needs.of(step), *Needs.mask_of(step)] }
        named.compact.filter_map { |id| document.nodes[id] }
          .select { |other| %i[sculpt prop texture].include?(other.kind.name) }
      end

      def all_steps(document) = document.nodes.values.select { |node| node.kind.name == :step }

      def start(document, node, frame)
        from = {"from" => node[:from]}
        case node[:from]
        when "region"
          from.merge("form" => node[:form], "middle" => node[:middle, frame], "extent" => node[:extent, frame])
        when "sculpt"
          other = document.nodes[node[:other]]
          recipe = other && document.on?(other) && one(document, other, document.moment(node, frame))
          recipe && from.merge("other" => recipe, **flows(document.pace(node, frame)))
        when "particles"
          drops = thrown(document, node[:emitter], frame)
          drops && from.merge("thrown" => drops, "radius" => node[:radius, frame])
        when "file" then node[:volume] && from.merge("file" => node[:volume], **stand(document, node, frame))
        when "run"
          from.merge(document.playing(node, frame), "instead" => node[:instead], **stand(document, node, frame),
            **flows(document.flow_pace(node, frame)))
        when "cache"
          node[:cache] && {"from" => "run", "cache" => node[:cache], **document.playing(node, frame),
                           **stand(document, node, frame), **flows(document.flow_pace(node, frame))}
        else
          bodies = bodies(document, [node[:prop], *node[:also]], frame)
          return if bodies.empty?

          from = from.merge("bodies" => bodies)
          from["radius"] = node[:radius, frame] if node[:from] == "points"
          from["skin"] = node[:skin, frame] if node[:from] == "skin"
          from
        end
      end

      # All that particles fly by, and when. @return [Hash, nil]
      def thrown(document, id, frame)
        emitter = document.nodes[id]
        {"at" => frame, "throws" => Throws.new(document, id).to_h(frame)} if emitter && document.on?(emitter)
      end

      # How a volume stands that is not as it was, and how fast its places go by that, m/s.
      def stand(document, node, frame)
        now, before = [frame, frame - 1].map { |at| standing(node, at) }
        seconds = document.lasts(frame)
        still = now == before || seconds.zero?
        goes = now.zip(before).map { |one, other| ((one - other) / seconds).round(9) } unless still
        {"stands" => ((now == STILL && goes.nil?) ? nil : now), "goes" => goes}.compact
      end

      def standing(node, frame)
        scale = [node[:scaled, frame]] * 3
        scale[0] = -scale[0] if node[:mirrored]
        Transform.place(position: node[:moved, frame], turn: node[:turned, frame], scale: scale).rows.first(3).flatten
      end

      # How many times as fast it flows as it was made, where that is not once.
      def flows(pace) = ((pace - 1.0).abs < 1e-9) ? {} : {"flows" => pace.round(6)}

      def bodies(document, ids, frame) =
        ids.compact.uniq.filter_map { |id| document.nodes[id] }.select { |prop| document.on?(prop) }
          .map { |prop| body(document, prop, frame) }

      # One that goes about as it is says so, for its distances are told once for all frames.
      def body(document, prop, frame)
        found = Bodies.of(document, prop, frame)
        rigid = Bodies.goes?(document, prop) && !found["outline"].key?("was") && !found.key?("broken") &&
          !Bodies.changes?(prop.with(curves: prop.curves.except(:position, :turn)))
        rigid ? found.merge("goes" => true) : found
      end

      # Those that do nothing are left out.
      def step(document, node, frame)
        row = {"what" => node[:what], "strength" => node[:strength, frame]}
        return if row["strength"].zero?

        row["channel"] = node[:channel] unless node[:channel] == "density" || node[:what] == "colour"
        mask = mask(document, node, frame)
        row["mask"] = mask if mask
        return if node[:mask] != "none" && mask.nil?

        more = more(document, node, frame)
        more && row.merge(more)
      end

      def more(document, node, frame)
        what = node[:what]
        seconds = (frame - document.first_frame) / document.rate
        row = numbers(node, frame, *PLAIN.fetch(what, []))
        if NOISY.include?(what)
          row.merge!("seed" => node[:seed], "octaves" => node[:octaves], **changing(document, node, frame))
        end
        case what
        when "combine"
          operand(document, node, frame)&.then { |other|
            row.merge(numbers(node, frame, :blend), "how" => node[:how], **other)
          }
        when "texture"
          texture = document.nodes[node[:texture]]
          texture && row.merge(scaled(node, frame), "row" => Textures.row(document, texture, frame))
        when "sculpt"
          other = operand(document, node, frame)&.slice("sculpt")
          other&.any? ? row.merge(scaled(node, frame), other) : nil
        when "number" then row.merge("sum" => node[:sum])
        when "ripples" then row.merge(scaled(node, frame), waves(document, node, frame))
        when "formula"
          row.merge("formula" => node[:formula], "given" => given(node, frame), "frame" => frame, "time" => seconds,
            "seed" => document.the(:general)[:seed])
        when "median" then row.merge("cells" => node[:cells])
        when "flow"
          running = {"run" => frame, "seconds" => node[:seconds, frame]}
          (node[:along] == "run") ? row.except("time", "loop").merge(running) : row
        when "mirror", "repeat" then row.merge("axis" => node[:axis])
        when "remap" then row.merge("table" => table(node))
        when "brush"
          node[:strokes].any? ? row.merge("strokes" => strokes(document, node, node[:strokes], frame)) : nil
        when "colour" then row.merge("colour" => node[:colour, frame])
        when "resample" then row.merge("voxel" => node[:finer], "draft" => document.nodes[node[:sculpt]][:draft])
        else row
        end
      end

      # How far noise has gone on, and after how much it begins again.
      def changing(document, node, frame)
        time, loop = Cycle.new(document, node[:loops]).of(node[:change], frame)
        {"time" => time, "loop" => loop}
      end

      # What a formula's own names stand for.
      def given(node, frame) =
        node.kind.dial(:formula).own_names(node[:formula]).to_h { |name, dial| [name, node[dial, frame]] }

      def scaled(node, frame) = numbers(node, frame, :factor, :offset).merge("sum" => node[:sum])

      # @return [Hash, nil] "body" or "sculpt"
      def operand(document, node, frame)
        other = document.nodes[Needs.of(node)[0]]
        return unless other && document.on?(other)
        return {"body" => Bodies.of(document, other, frame)} if other.kind.name == :prop

        recipe = one(document, other, frame)
        recipe && {"sculpt" => recipe}
      end

      def waves(document, node, frame)
        row = numbers(node, frame, :waves, :reach, :decay, :spacing, :loose, :drift)
        cycle = Cycle.new(document, node[:loops])
        row["phase"], = cycle.of(node[:waves, frame] * node[:wave_speed], frame)
        time, loop = row["drift"].zero? ? [0.0, 0] : cycle.of(node[:drift_rate], frame)
        row.merge!("together" => node[:together], "scattered" => node[:points] == "scattered", "seed" => node[:seed],
          "time" => time, "loop" => loop)
        row["bodies"] = bodies(document, [node[:points_of]], frame) if node[:points] == "corners"
        row["thrown"] = thrown(document, node[:flying], frame) if node[:points] == "particles"
        row.compact
      end

      # Strokes where they are now, if they go with a prop from where that stood when they were painted.
      def strokes(document, node, strokes, frame)
        prop = document.nodes[node[:follows]]
        plain = strokes.map { |stroke| stroke.except("frame") }
        return plain unless prop

        now = Hanging.pose(document, prop, frame).transform
        strokes.zip(plain).map do |stroke, row|
          way = now * Hanging.pose(document, prop, stroke["frame"]).transform.inverse
          row.merge("places" => row["places"].map { |x, y, z, pressed| [*way.apply([x, y, z]), pressed] })
        end
      end

      # @return [Hash, nil]
      def mask(document, node, frame)
        by = node[:mask]
        return (node[:mask_strokes].any? ? {"by" => by, "inverted" => node[:mask_inverted], "strokes" => strokes(document, node, node[:mask_strokes], frame)} : nil) if by == "painted"

        other = document.nodes[Needs.mask_of(node)[0]]
        return unless other && document.on?(other)

        more = case by
        when "prop" then {"body" => Bodies.of(document, other, frame), "soft" => node[:mask_soft, frame]}
        when "sculpt" then one(document, other, frame)&.then { |recipe| {"other" => recipe} }
        else {"row" => Textures.row(document, other, frame)}
        end
        more && {"by" => by, "inverted" => node[:mask_inverted], **more}
      end

      # A curve as numbers in even steps.
      def table(node)
        return [] if node[:curve].empty?

        ramp = node.ramp(:curve)
        Array.new(65) { |n| ramp.at(n / 64.0)[0] }
      end

      def numbers(node, frame, *dials) = dials.to_h { |dial| [dial.to_s, node[dial, frame]] }
      private_class_method :parts, :all_steps, :start, :thrown, :stand, :bodies, :body, :step, :more, :changing, :given,
        :scaled, :operand, :waves, :strokes, :mask, :table, :numbers

      # The other things that steps need.
      module Needs
        # By what a step does: the dial and a word for what it names.
        STEPS = {"combine" => {"prop" => :other, "sculpt" => :other_sculpt}, "texture" => :texture,
                 "sculpt" => :volume_of, "ripples" => {"corners" => :points_of, "particles" => :flying}}.freeze
        MASKS = {"prop" => :mask_prop, "sculpt" => :mask_sculpt, "texture" => :mask_texture}.freeze

        module_function

        # @return [Symbol, nil] the dial that names what a step does nothing without
        def dial(step)
          found = STEPS[step[:what]]
          if found.is_a?(Hash)
            found[step[(step[:what] == "combine") ? :with : :points]]
          else
            found
          end
        end

        # @return [Array<String>] ids
        def of(step) = [dial(step)&.then { |name| step[name] }].compact

        # @return [Array<String>]
        def mask_of(step) = [MASKS[step[:mask]]&.then { |name| step[name] }].compact
      end
    end
  end
end
