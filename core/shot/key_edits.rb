# frozen_string_literal: true

module Vumbral
  module Shot
    # The commands of {Edits} that have to do with what changes over time.
    module KeyEdits
      class << self
        # Whether keys that edits set lie within the shot, as it is or was on the way.
        # @param documents [Array<Document>] before, between and after the edits
        # @raise [Refused]
        def check_inside(edits, documents)
          from, to = documents.map(&:first_frame).min, documents.map(&:last_frame).max
          edits.each do |edit|
            moved = %w[move_key move_notch].include?(edit["do"])
            frame = moved ? edit["to"] : edit["frame"]
            next if !moved && !%w[key notch].include?(edit["do"])
            # The frame before the first counts too: what moves there has a speed on the first.
            next if !frame.is_a?(Integer) || frame.between?(from - 1, to)
            # What lies outside already may be changed there.
            next if moved && frame == edit["frame"]

            node = documents.last.nodes[edit["node"].to_s] or next
            inside(documents.last, node.kind.dial(edit["dial"].to_s, node.name), frame, node.name)
          end
        end

        # @return [Array(Document, String)]
        def key(document, edit)
          node, dial = Edits.target(document, edit)
          frame = checked_frame(dial, edit["frame"], node.name)
          edit = edit.merge("value" => node[dial.name, frame]) unless edit.key?("value")
          [
            put(document, node, dial, with_key(dial, keyed(node, dial), edit, node.name)),
            "Key of #{dial.label} at #{edit["frame"]}"
          ]
        end

        # @return [Array(Document, String)]
        def move_key(document, edit)
          node, dial = Edits.target(document, edit)
          key = find_key(node, dial, edit["frame"])
          to = edit["to"]
          free(node, dial, key, to)
          row =
            key
              .to_h
              .transform_keys(&:to_s)
              .merge(edit.slice("value", "ease", "arrive", "leave"))
              .merge("frame" => to || key.frame)
          curve = with_key(dial, keyed(node, dial).drop(key.frame), row, node.name)
          [put(document, node, dial, curve), "Key of #{dial.label} moved to #{row["frame"]}"]
        end

        # @return [Array(Document, String)]
        def drop_key(document, edit)
          node, dial = Edits.target(document, edit)
          key = find_key(node, dial, edit["frame"])
          curve = keyed(node, dial).drop(key.frame)
          document = put(document, node, dial, curve)
          document = document.put(document.node(node.id).set(dial.name, key.value)) if curve.empty?
          [document, "Key of #{dial.label} at #{key.frame} taken away"]
        end

        # How a course goes on before its first key and after its last.
        # @return [Array(Document, String)]
        def beyond(document, edit)
          node, dial = Edits.target(document, edit)
          curve = keyed(node, dial)
          if curve.empty?
            raise Refused.new(
              "#{dial.label} of #{node.name} has no keys yet; set two of them first.", code: "unknown_key"
            )
          end

          before, after = %w[before after].map { |side| edit.key?(side) ? way(edit[side]) : curve.public_send(side) }
          [
            put(document, node, dial, curve.with(before: before, after: after)),
            "#{dial.label} #{Curve::BEYOND[edit.key?("after") ? after : before]}"
          ]
        end

        # A formula for a number, or for one part of a vector or colour; none takes it away.
        # @return [Array(Document, String)]
        def formula(document, edit)
          node, dial = Edits.target(document, edit)
          check_rule(node.kind, dial, node.name)
          parts = Rule::PARTS[dial.type]
          part = edit["part"]
          unless parts ? parts.include?(part) : part.nil?
            raise Refused.new(
              "A formula of #{dial.label} needs a part (#{(parts || []).join(", ")}), not " \
                "#{part.inspect[0, 20]}.",
              code: "bad_edit"
            )
          end
          texts = node.rule(dial.name)&.texts&.dup || Array.new(parts ? parts.size : 1)
          texts[parts ? parts.index(part) : 0] = edit["text"]
          [
            put_rule(document, node, dial, texts),
            edit["text"] ? "#{dial.label} by a formula" : "#{dial.label} without its formula"
          ]
        end

        # Gives a dial formulas, checked with all that they ask for.
        # @param texts [Array<String, nil>] one for each part
        # @return [Document]
        def put_rule(document, node, dial, texts)
          texts = texts.map { |text| text && written(document, text) }
          curve = keyed(node, dial)
          under = curve.empty? ? nil : curve
          curves = node.curves.except(dial.name)
          curves = curves.merge(dial.name => under) if under
          curves = curves.merge(dial.name => Rule.new(dial, texts, under: under)) if texts.any?
          document.put(node.with(curves: curves)).tap { |after| check_formulas(after, after.node(node.id)) }
        end

        # @raise [Refused] where a formula leads back to itself, or asks for what is not there
        def check_formulas(document, node)
          node.curves.each do |name, rule|
            next unless rule.is_a?(Rule)

            dial = node.kind.dials[name]
            if !dial.keyed &&
                (rule.moves? || rule.sources.any? { |source| document.node(source.node).curves.key?(source.dial) })
              raise Refused.new(
                "#{dial.label} of #{node.name} cannot change over time, so its formula must do without frame, " \
                  "t and dials that change.",
                code: "not_keyed"
              )
            end
            circle = Circle.new(document).find(node.id, name)
            next unless circle

            raise Refused.new(
              "The formula of #{dial.label} of #{node.name} asks for itself (#{circle.join(" → ")}); take one " \
                "of them out.",
              code: "circle"
            )
          end
        end

        # What is read goes the way of what is set.
        # @param kind [Kind] @raise [Refused] for what has no formula
        def check_rule(kind, dial, place)
          return if Rule::TYPES.include?(dial.type) && kind.chapter != :timeline

          raise Refused.new(
            "#{dial.label} of #{place} cannot go by a formula; a number, a switch or a part of a vector can.",
            code: "not_keyed"
          )
        end

        # @param before [String, nil] how the course went on so far
        # @return [Curve::Key] of what came in
        def checked_key(dial, row, place, before: nil)
          raise Refused.new("#{dial.label} of #{place} cannot change over time.", code: "not_keyed") unless dial.keyed

          ease = row["ease"] || before || "smooth"
          unless Curve::EASES.key?(ease)
            raise Refused.new(
              "A key goes on #{Curve::EASES.keys.join(", ")}, not #{ease.inspect[0, 40]}.", code: "bad_value"
            )
          end
          frame, value = checked_frame(dial, row["frame"], place), dial.check(row["value"], place)
          Curve::Key.new(frame, value, ease, *%w[arrive leave].map { |side| slope(dial, row[side], value, place) })
        end

        # @return [Curve] of what came in as a list
        # @param beyond [Array(String, String), nil] before and after
        def checked_curve(dial, rows, place, beyond = nil)
          raise Refused.new("The keys of #{place} are not a list.", code: "bad_edit") unless rows.is_a?(Array)

          keys = rows.map { |row| checked_key(dial, row.is_a?(Hash) ? row : {}, place) }
          check_room(dial, keys.size, place)
          twice = keys.map(&:frame).tally.find { |_, count| count > 1 }
          if twice
            raise Refused.new(
              "#{dial.label} of #{place} has two keys at frame #{twice[0]}; only one can count.", code: "taken"
            )
          end

          before, after = beyond.is_a?(Array) ? beyond.map { |name| way(name) } : %w[hold hold]
          Curve.new(keys, before: before || "hold", after: after || "hold")
        end

        # @return [Document] with a course in a dial's place, under its formula where it has one
        def put(document, node, dial, curve)
          rule = node.rule(dial.name)
          curve = nil if curve.empty?
          kept = rule ? Rule.new(dial, rule.texts, under: curve) : curve
          document.put(node.with(curves: kept ? node.curves.merge(dial.name => kept) : node.curves.except(dial.name)))
        end

        # @return [Curve] of a dial's keys, empty where it has none
        def keyed(node, dial) = node.keyed(dial.name) || Curve.new([])

        # @raise [Refused] for a frame that lies outside the shot
        def inside(document, dial, frame, place)
          return if frame.between?(document.first_frame, document.last_frame)

          raise Refused.new("Frame #{frame}, where #{dial.label} of #{place} would have a key, lies outside the shot " \
            "(#{document.first_frame} to #{document.last_frame}); make the shot longer first.", code: "outside_shot")
        end

        private

        def written(document, text)
          unless text.is_a?(String)
            raise Refused.new("A formula is a line of text, not #{text.inspect[0, 40]}.", code: "bad_formula")
          end

          text.gsub(Formula::REFERENCE) { "[#{Reference.find(document, Regexp.last_match(1))}]" }
        end

        def way(name)
          return name if Curve::BEYOND.key?(name)

          raise Refused.new(
            "Beyond its keys a course goes on #{Curve::BEYOND.keys.join(", ")}, not #{name.inspect[0, 40]}.",
            code: "bad_value"
          )
        end

        def slope(dial, given, value, place)
          if value.is_a?(Array) && (given.nil? || (given.is_a?(Array) && given.size == value.size))
            return given&.map { |part| slope(dial, part, 0.0, place) }
          end
          return given&.to_f if given.nil? || (given.is_a?(Numeric) && given.to_f.finite? && given.abs <= 1e9)

          raise Refused.new(
            "How steeply #{dial.label} of #{place} goes is a number a frame, not #{given.inspect[0, 40]}.",
            code: "bad_value"
          )
        end

        def check_room(dial, count, place)
          return if count <= Curve::MOST_KEYS

          raise Refused.new(
            "#{dial.label} of #{place} would have #{count} keys; #{Curve::MOST_KEYS} is the most.",
            code: "too_many"
          )
        end

        def with_key(dial, curve, row, place)
          key = checked_key(dial, row, place, before: row["frame"].is_a?(Integer) && curve.ease_at(row["frame"]))
          check_room(dial, curve.keys.size + 1, place)
          check_alike(dial, curve, key, place)
          curve.put(key)
        end

        # Places go from one key to the next each by itself.
        def check_alike(dial, curve, key, place)
          other = curve.keys.find { |one| one.frame != key.frame }
          return if dial.type != :places || other.nil? || other.value.size == key.value.size

          raise Refused.new(
            "#{dial.label} of #{place} has #{other.value.size} places at frame #{other.frame}, and " \
              "#{key.value.size} are given for frame #{key.frame}; keys have as many each.",
            code: "bad_value"
          )
        end

        def checked_frame(dial, frame, place)
          return frame if frame.is_a?(Integer) && frame.between?(-100_000, 1_000_000)

          raise Refused.new(
            "A key of #{dial.label} of #{place} needs a whole frame number, not #{frame.inspect[0, 40]}.",
            code: "bad_value"
          )
        end

        # One key never takes another's place unasked.
        def free(node, dial, key, to)
          return if to.nil? || to == key.frame || keyed(node, dial).keys.none? { |other| other.frame == to }

          raise Refused.new(
            "#{dial.label} of #{node.name} has a key at frame #{to} already; take that one away first.",
            code: "taken"
          )
        end

        def find_key(node, dial, frame)
          key = keyed(node, dial).keys.find { |candidate| candidate.frame == frame }
          key ||
            raise(
              Refused.new(
                "#{dial.label} of #{node.name} has no key at frame #{frame.inspect[0, 20]}.", code: "unknown_key"
              )
            )
        end
      end

      # Finds formulas that lead back to themselves.
      class Circle
        def initialize(document)
          @document = document
          @done = {}
        end

        # @return [Array<String>, nil] the way round, as dials
        def find(node, dial, path = [])
          here = [node, dial]
          return (path.drop_while { |step| step != here } + [here]).map { |step| step.join(".") } if path.include?(here)
          return if @done[here]

          rule = @document.node(node).rule(dial)
          found = rule&.sources&.filter_map { |source| find(source.node, source.dial, path + [here]) }&.first
          @done[here] = true unless found
          found
        end
      end
    end
  end
end
