# frozen_string_literal: true

module Vumbral
  module Shot
    # The small commands that change a shot. Each is checked whole before anything is made of
    # it; a refused one leaves the shot as it was.
    #
    #   {"do": "set", "node": ID, "dial": NAME, "value": V}
    #   {"do": "key", "node": ID, "dial": NAME, "frame": F, "value": V, "ease": "smooth"}
    #   {"do": "move_key", "node": ID, "dial": NAME, "frame": F, "to": F2, "value": V}
    #   {"do": "drop_key", "node": ID, "dial": NAME, "frame": F}
    #   {"do": "switch", "node": ID, "off": true, "only": false, "locked": false}, what is not said stays
    #   {"do": "add", "kind": KIND, "name": NAME, "dials": {…}, "keys": {DIAL: [{"frame", "value", "ease"}]}},
    #     with its switches where some shall be on
    #   {"do": "place", "node": ID, "frame": F, "position": […], "turn": […], "scale": […]}: where a prop stands in the
    #     world, whatever it goes with; what is not said stays, and what has keys gets one
    #   {"do": "remove", "node": ID}
    #   {"do": "take_look", "node": ID, "look": NAME}, all dials of a look as one of {Looks} has them
    #   {"do": "rename", "node": ID, "name": NAME}, without node: the shot itself
    module Edits
      NAME = /\A(?=.*\S)[^\x00-\x1f]{1,80}\z/
      MOST_FRAMES = 20_000
      COMMANDS = %w[set key move_key drop_key switch add remove rename take_look place].freeze
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
          words = []
          changed = edits.reduce(document) do |at, edit|
            command = OLD.fetch(edit["do"], edit["do"])
            unless COMMANDS.include?(command)
              raise Refused.new("#{command.inspect[0, 40]} is no edit; there are: #{COMMANDS.join(", ")}.",
                code: "bad_edit")
            end

            after, word = send(command, at, edit)
            words << word
            after
          end
          [changed, (words.size > 3) ? "#{words.first(2).join("; ")} and #{words.size - 2} more" : words.join("; ")]
        end

        # A reference must lead to a node of the right kind.
        def check_references(document, node)
          node.kind.dials.each_value do |dial|
            next unless dial.reference?

            Array(node[dial.name]).each do |id|
              next if document.nodes[id]&.kind&.name == dial.of

              raise Refused.new("#{dial.label} of #{node.name} is #{id.inspect}, which is no #{dial.of} of this shot.",
                code: "unknown_node")
            end
          end
          Placement.check_circles(document, node)
        end

        # @api private
        # @param before [String, nil] how the course went on so far
        # @return [Curve::Key] of what came in
        def checked_key(dial, row, place, before: nil)
          raise Refused.new("#{dial.label} of #{place} cannot change over time.", code: "not_keyed") unless dial.keyed

          ease = row["ease"] || before || "smooth"
          unless Curve::EASES.include?(ease)
            raise Refused.new("A key goes on #{Curve::EASES.join(", ")}, not #{ease.inspect[0, 40]}.",
              code: "bad_value")
          end
          Curve::Key.new(checked_frame(dial, row["frame"], place), dial.check(row["value"], place), ease)
        end

        # @api private
        def check_room(dial, count, place)
          return if count <= Curve::MOST_KEYS

          raise Refused.new("#{dial.label} of #{place} would have #{count} keys; #{Curve::MOST_KEYS} is the most.",
            code: "too_many")
        end

        # @api private
        # @return [Curve] of what came in as a list
        def checked_curve(dial, rows, place)
          raise Refused.new("The keys of #{place} are not a list.", code: "bad_edit") unless rows.is_a?(Array)

          keys = rows.map { |row| checked_key(dial, row.is_a?(Hash) ? row : {}, place) }
          check_room(dial, keys.size, place)
          Curve.new(keys.to_h { |key| [key.frame, key] }.values)
        end

        # @api private
        def check_frames(document)
          first, last = document.first_frame, document.last_frame
          return if last >= first && last - first < MOST_FRAMES

          raise Refused.new("The last frame (#{last}) must come after the first (#{first}), " \
            "at most #{MOST_FRAMES} later.", code: "out_of_range")
        end

        private

        def set(document, edit)
          node, dial = target(document, edit)
          value = dial.check(edit["value"], node.name)
          before = node[dial.name]
          # A plain value takes the place of a course over time.
          changed = node.set(dial.name, value).with(curves: node.curves.except(dial.name))
          changed = Placement.left_standing(document, node, changed) if dial.name == :leader
          document = document.put(changed)
          check_references(document, changed) if dial.reference?
          check_frames(document) if node.kind.name == :general
          [document, "#{dial.label} #{dial.show(before)} → #{dial.show(value)}"]
        end

        def place(document, edit)
          rows = Placement.rows(document, edit)
          rows.reduce([document, ""]) { |(at, _), row| document.node(row["node"]).curves.key?(row["dial"].to_sym) ? key(at, row) : set(at, row) }
        end

        def key(document, edit)
          node, dial = target(document, edit)
          frame = checked_frame(dial, edit["frame"], node.name)
          edit = edit.merge("value" => node[dial.name, frame]) unless edit.key?("value")
          curve = with_key(dial, node.curves[dial.name] || Curve.new([]), edit, node.name)
          [put_curve(document, node, dial, curve), "Key of #{dial.label} at #{edit["frame"]}"]
        end

        # @return [Curve] with a checked key in it
        def with_key(dial, curve, row, place)
          key = checked_key(dial, row, place, before: row["frame"].is_a?(Integer) && curve.ease_at(row["frame"]))
          check_room(dial, curve.keys.size + 1, place)
          curve.put(key.frame, key.value, key.ease)
        end

        def checked_frame(dial, frame, place)
          return frame if frame.is_a?(Integer) && frame.between?(-100_000, 1_000_000)

          raise Refused.new("A key of #{dial.label} of #{place} needs a whole frame number, " \
            "not #{frame.inspect[0, 40]}.", code: "bad_value")
        end

        def move_key(document, edit)
          node, dial = target(document, edit)
          key = find_key(node, dial, edit["frame"])
          free(node, dial, key, edit["to"])
          row = {"frame" => edit["to"] || key.frame, "value" => edit.fetch("value", key.value),
                 "ease" => edit["ease"] || key.ease}
          curve = with_key(dial, node.curves[dial.name].drop(key.frame), row, node.name)
          [put_curve(document, node, dial, curve), "Key of #{dial.label} moved to #{row["frame"]}"]
        end

        # One key never takes another's place unasked.
        def free(node, dial, key, to)
          return if to.nil? || to == key.frame || node.curves[dial.name].keys.none? { |other| other.frame == to }

          raise Refused.new("#{dial.label} of #{node.name} has a key at frame #{to} already; take that one away first.",
            code: "taken")
        end

        def drop_key(document, edit)
          node, dial = target(document, edit)
          key = find_key(node, dial, edit["frame"])
          curve = node.curves[dial.name].drop(key.frame)
          document = put_curve(document, node, dial, curve)
          document = document.put(document.node(node.id).set(dial.name, key.value)) if curve.empty?
          [document, "Key of #{dial.label} at #{key.frame} taken away"]
        end

        def find_key(node, dial, frame)
          key = node.curves[dial.name]&.keys&.find { |candidate| candidate.frame == frame }
          key || raise(Refused.new("#{dial.label} of #{node.name} has no key at frame #{frame.inspect[0, 20]}.",
            code: "unknown_key"))
        end

        def put_curve(document, node, dial, curve)
          curves = curve.empty? ? node.curves.except(dial.name) : node.curves.merge(dial.name => curve)
          document.put(node.with(curves: curves))
        end

        def switch(document, edit)
          node = document.node(edit["node"])
          asked = edit.slice(*Node::SWITCHES.map(&:to_s))
          unless node.kind.switched?
            raise Refused.new("#{node.name} belongs to every shot and cannot be switched off.", code: "needed")
          end
          unless asked.any? && asked.values.all? { |value| [true, false].include?(value) }
            raise Refused.new("A switch of #{node.name} is #{Node::SWITCHES.join(", ")}, true or false.", code: "bad_edit")
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
          if document.nodes.size >= Document::MOST_NODES
            raise Refused.new("A shot holds at most #{Document::MOST_NODES} things.",
              code: "too_many")
          end

          name = checked_name(edit["name"] || kind.label)
          id = edit["id"] || free_id(document, kind)
          unless id.is_a?(String) && id.match?(/\A[a-z0-9][a-z0-9-]{0,60}\z/) && !document.nodes.key?(id)
            raise Refused.new("#{id.inspect[0, 60]} cannot be the id of a new #{kind.label.downcase}; take small letters, digits and hyphens that are not in use.", code: "bad_id")
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
          node = node.with(curves: added_curves(kind, edit["keys"] || {}, name),
            switches: kind.switched? ? Node::SWITCHES.select { |switch| edit[switch.to_s] == true } : [])
          document = document.put(node)
          check_references(document, node)
          [document, "#{kind.label} #{name} added"]
        end

        def added_curves(kind, given, name)
          raise Refused.new("The keys of #{name} come as an object.", code: "bad_edit") unless given.is_a?(Hash)

          given.to_h { |dial, rows| [dial.to_sym, checked_curve(kind.dial(dial, name), rows, name)] }
            .reject { |_, curve| curve.empty? }
        end

        def remove(document, edit)
          node = document.node(edit["node"])
          if node.kind.needed? && node.id == node.kind.name.to_s
            raise Refused.new("#{node.name} belongs to every shot and cannot be taken away.",
              code: "needed")
          end

          document = document.without(node.id)
          # What was done to its shape goes with it.
          document.all_of(:operation).each { |other| document = document.without(other.id) if other[:prop] == node.id }
          # What fed from it feeds from nothing now, which preflight will say.
          document.nodes.each_value do |other|
            other.kind.dials.each_value do |dial|
              if dial.reference? && Array(other[dial.name]).include?(node.id)
                document = document.put(document.node(other.id).set(dial.name,
                  dial.without(other[dial.name], node.id)))
              end
            end
          end
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

        def target(document, edit)
          node = document.node(edit["node"])
          [node, node.kind.dial(edit["dial"].to_s, node.name)]
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
