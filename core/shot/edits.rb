# frozen_string_literal: true

module Vumbral
  module Shot
    # The small commands that change a shot. Each is checked whole before anything is made of
    # it; a refused one leaves the shot as it was.
    #
    #   {"do": "set", "node": ID, "dial": NAME, "value": V}
    #   {"do": "key", "node": ID, "dial": NAME, "frame": F, "value": V, "ease": "smooth"}
    #   {"do": "move_key", "node": ID, "dial": NAME, "frame": F, "to": F2, "value": V}
    #     also with "ease", and "arrive" and "leave" for how steeply it goes there, a frame (nil: evenly)
    #   {"do": "drop_key", "node": ID, "dial": NAME, "frame": F}
    #   {"do": "beyond", "node": ID, "dial": NAME, "before": WAY, "after": WAY}, of {Curve::BEYOND}
    #   {"do": "formula", "node": ID, "dial": NAME, "text": TEXT or nil}, with "part" for a vector's or colour's
    #   {"do": "retime", …}, see {Retiming}
    #   {"do": "pace", "rate": R, "last": F, "stretch": true}, the shot's rate and length, and whether all that is timed
    #     keeps its place among the rest
    #   {"do": "switch", "node": ID, "off": true, "only": false, "locked": false}, what is not said stays
    #   {"do": "add", "kind": KIND, "name": NAME, "dials": {…}, "keys": {DIAL: [{"frame", "value", "ease"}]}},
    #     with its switches where some shall be on
    #   {"do": "place", "node": ID, "frame": F, "position": […], "turn": […], "scale": […]}: where a prop stands in the
    #     world, whatever it goes with; what is not said stays, and what has keys gets one
    #   {"do": "shift", …}, {"do": "group", …}, {"do": "duplicate", …} of several things, see {Arranging}
    #   {"do": "remove", "node": ID}
    #   {"do": "take_look", "node": ID, "look": NAME}, all dials of a look as one of {Looks} has them
    #   {"do": "take_material", "node": ID, "material": NAME}, a prop made of one of {Materials}
    #   {"do": "rename", "node": ID, "name": NAME}, without node: the shot itself
    module Edits
      NAME = /\A(?=.*\S)[^\x00-\x1f]{1,80}\z/
      MOST_FRAMES = 20_000
      COMMANDS = %w[set key move_key drop_key beyond formula retime pace switch add remove rename take_look
        take_material place shift group duplicate].freeze
      KEYED = %w[key move_key drop_key beyond formula].freeze
      # What some of them were called before.
      OLD = {"notch" => "key", "move_notch" => "move_key", "drop_notch" => "drop_key"}.freeze

      class << self
        # @param document [Document]
        # @param edits [Array<Hash>] carried out in order, all or none
        # @return [Array(Document, String)] the changed shot and what was done, for the undo list
        # @raise [Refused]
        def apply(document, edits)
          unless edits.is_a?(Array) && edits.any? && edits.all?(Hash)
            raise Refused.new("Edits come as a list of objects, each with \"do\".", code: "bad_edit")
          end
          words, on_the_way = [], [document]
          changed = edits.reduce(document) do |at, edit|
            command = OLD.fetch(edit["do"], edit["do"])
            unless COMMANDS.include?(command)
              raise Refused.new("#{command.inspect[0, 40]} is no edit; there are: #{COMMANDS.join(", ")}.",
                code: "bad_edit")
            end

            after, word = KEYED.include?(command) ? KeyEdits.public_send(command, at, edit) : send(command, at, edit)
            words << word
            on_the_way << after
            after
          end
          KeyEdits.check_inside(edits, on_the_way)
          [changed, (words.size > 3) ? "#{words.first(2).join("; ")} and #{words.size - 2} more" : words.join("; ")]
        end

        # A reference must lead to a node of the right kind.
        def check_references(document, node)
          node.kind.dials.each_value do |dial|
            next unless dial.reference?

            Array(node[dial.name]).each do |id|
              next if Array(dial.of).include?(document.nodes[id]&.kind&.name)

              raise Refused.new(
                "#{dial.label} of #{node.name} is #{id.inspect}, which is no #{Array(dial.of).join(" or ")} " \
                  "of this shot.",
                code: "unknown_node"
              )
            end
          end
          Placement.check_circles(document, node)
        end

        # @api private
        def check_frames(document)
          first, last = document.first_frame, document.last_frame
          return if last >= first && last - first < MOST_FRAMES

          raise Refused.new("The last frame (#{last}) must come after the first (#{first}), " \
            "at most #{MOST_FRAMES} later.", code: "out_of_range")
        end

        # @api private
        # @return [Array(Node, Dial)] what an edit is about
        def target(document, edit)
          node = document.node(edit["node"])
          [node, node.kind.dial(edit["dial"].to_s, node.name)]
        end

        private

        def set(document, edit)
          node, dial = target(document, edit)
          value = dial.check(edit["value"], node.name)
          before = node[dial.name]
          # A plain value takes the place of a course over time, but of formulas only where it is one number.
          rule = node.rule(dial.name) if value != dial.default && Rule::PARTS.key?(dial.type)
          changed =
            node.set(dial.name, value).with(
              curves: node.curves.except(dial.name).merge(rule ? {dial.name => Rule.new(dial, rule.texts)} : {})
            )
          changed = Placement.left_standing(document, node, changed) if dial.name == :leader
          document = document.put(changed)
          check_references(document, changed) if dial.reference?
          check_frames(document) if node.kind.name == :general
          [document, "#{dial.label} #{dial.show(before)} → #{dial.show(value)}"]
        end

        def place(document, edit)
          rows = Placement.rows(document, edit)
          rows.reduce([document, ""]) do |(at, _), row|
            document.node(row["node"]).keyed(row["dial"].to_sym) ? KeyEdits.key(at, row) : set(at, row)
          end
        end

        def shift(document, edit) = Arranging.shift(document, edit)

        def group(document, edit) = Arranging.group(document, edit)

        def duplicate(document, edit) = Duplicating.new(document, edit).call

        def switch(document, edit)
          node = document.node(edit["node"])
          asked = edit.slice(*Node::SWITCHES.map(&:to_s))
          unless node.kind.switched?
            raise Refused.new("#{node.name} belongs to every shot and cannot be switched off.", code: "needed")
          end
          unless asked.any? && asked.values.all? { |value| [true, false].include?(value) }
            raise Refused.new(
              "A switch of #{node.name} is #{Node::SWITCHES.join(", ")}, true or false.", code: "bad_edit"
            )
          end

          switches = Node::SWITCHES.select { |name| asked.fetch(name.to_s, node.switches.include?(name)) }
          [document.put(node.with(switches: switches)), "#{node.name} #{switched(asked)}"]
        end

        def switched(asked)
          {"off" => ["switched off", "switched on"], "only" => ["alone", "with the others again"],
           "locked" => %w[locked unlocked]}
            .filter_map { |name, words| words[asked[name] ? 0 : 1] if asked.key?(name) }.join(" and ")
        end

        def add(document, edit)
          kind = Kinds.fetch(edit["kind"])
          if kind.single?
            raise Refused.new("A shot has one #{kind.label.downcase}, and this one has it already.",
              code: "only_one")
          end
          if kind.most && document.all_of(kind.name).size >= kind.most
            raise Refused.new(
              "A shot holds #{kind.most} #{kind.plural.downcase} chamber at most, and this one has it already.",
              code: "only_one"
            )
          end
          if document.nodes.size >= Document::MOST_NODES
            raise Refused.new("A shot holds at most #{Document::MOST_NODES} things.",
              code: "too_many")
          end

          name = checked_name(edit["name"] || kind.label)
          id = edit["id"] || free_id(document, kind)
          unless id.is_a?(String) && id.match?(/\A[a-z0-9][a-z0-9-]{0,60}\z/) && !document.nodes.key?(id)
            raise Refused.new(
              "#{id.inspect[0, 60]} cannot be the id of a new #{kind.label.downcase}; take small letters, " \
                "digits and hyphens that are not in use.",
              code: "bad_id"
            )
          end
          dials = edit["dials"] || {}
          unless dials.is_a?(Hash)
            raise Refused.new("The dials of a new #{kind.label.downcase} come as an object.",
              code: "bad_edit")
          end

          node = dials.reduce(Node.new(id, kind, name)) { |at, (dial, value)|
            at.set(dial.to_sym, kind.dial(dial,
              name).check(value, name))
          }
          node = node.with(curves: added_curves(kind, edit, name),
            switches: kind.switched? ? Node::SWITCHES.select { |switch| edit[switch.to_s] == true } : [])
          document = ruled(document.put(node), node.id, edit)
          check_references(document, document.node(node.id))
          [document, "#{kind.label} #{name} added"]
        end

        def added_curves(kind, edit, name)
          given, beyond = table(edit, "keys", name), table(edit, "beyond", name)
          given
            .to_h do |dial, rows|
              [dial.to_sym, KeyEdits.checked_curve(kind.dial(dial, name), rows, name, beyond[dial])]
            end
            .reject { |_, curve| curve.empty? }
        end

        def ruled(document, id, edit)
          table(edit, "formulas", document.node(id).name).reduce(document) do |at, (name, texts)|
            node = at.node(id)
            dial = node.kind.dial(name, node.name)
            KeyEdits.check_rule(node.kind, dial, node.name)
            KeyEdits.put_rule(at, node, dial, Array(texts))
          end
        end

        def table(edit, what, name)
          given = edit[what] || {}
          given.is_a?(Hash) ? given : raise(Refused.new("The #{what} of #{name} come as an object.", code: "bad_edit"))
        end

        def retime(document, edit) = [Retiming.new(document, edit).document, "Moved in time"]

        # The shot's rate and length.
        def pace(document, edit)
          general = document.the(:general)
          was, now =
            general,
            edit
              .slice("rate", "last")
              .reduce(general) { |at, (dial, value)| at.set(dial.to_sym, at.kind.dial(dial).check(value, at.name)) }
          words =
            %i[rate last].filter_map do |dial|
              "#{general.kind.dials[dial].label} #{was[dial]} → #{now[dial]}" if was[dial] != now[dial]
            end
          if edit["stretch"] == true
            times = edit.key?("last") ? (now[:last] - now[:first]).fdiv([was[:last] - was[:first], 1].max) : now[:rate] / was[:rate].to_f
            now = now.set(:last, now[:first] + ((was[:last] - was[:first]) * times).round) unless edit.key?("last")
            if now[:last] <= now[:first]
              raise Refused.new(
                "At #{format("%g", now[:rate])} frames a second the shot would have no second frame; take a " \
                  "higher rate, or do not stretch it.",
                code: "out_of_range"
              )
            end
            rows = document.nodes.each_key.map { |id| {"node" => id} }
            document =
              Retiming.new(
                document, {"rows" => rows, "stretch" => times, "about" => was[:first], "beyond_shot" => true}
              ).document
          end
          document = document.put(now)
          check_frames(document)
          [document, words.empty? ? "The shot's pace kept" : words.join("; ")]
        end

        def remove(document, edit)
          node = document.node(edit["node"])
          if node.kind.needed? && node.id == node.kind.name.to_s
            raise Refused.new("#{node.name} belongs to every shot and cannot be taken away.",
              code: "needed")
          end

          document = Letting.go(document, node)
          [document, "#{node.name} taken away"]
        end

        def rename(document, edit)
          name = checked_name(edit["name"])
          return [document.renamed(name), "Shot called #{name}"] unless edit["node"]

          node = document.node(edit["node"])
          [document.put(node.with(name: name)), "#{node.name} called #{name}"]
        end

        def take_look(document, edit)
          node = document.node(edit["node"])
          unless node.kind.name == :look
            raise Refused.new("#{node.name} is no look, so it cannot take one.", code: "bad_edit")
          end

          ready = Looks.fetch(edit["look"])
          bare = node.with(values: {}, curves: {})
          taken = ready.dials.reduce(bare) { |at, (dial, value)|
            at.set(dial.to_sym, node.kind.dial(dial,
              node.name).check(value, node.name))
          }
          [document.put(taken), "#{node.name} looks like #{ready.label.downcase}"]
        end

        def take_material(document, edit)
          node = document.node(edit["node"])
          unless node.kind.name == :prop
            raise Refused.new("#{node.name} is no prop, so it is made of nothing.", code: "bad_edit")
          end

          ready = Materials.fetch(edit["material"])
          [
            apply(document, Materials.edits(document, node, edit["material"]))[0],
            "#{node.name} is made of #{ready.label.downcase}"
          ]
        end

        def checked_name(name)
          name = name.to_s.strip
          return name if name.match?(NAME)

          raise Refused.new("A name has 1 to 80 characters.", code: "bad_name")
        end

        def free_id(document, kind)
          (1..).each do |n|
            id = "#{kind.name}-#{n}"
            return id unless document.nodes.key?(id)
          end
        end
      end
    end
  end
end
