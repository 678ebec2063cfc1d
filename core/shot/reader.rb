# frozen_string_literal: true

module Vumbral
  module Shot
    # Makes a document of saved data, and refuses what does not belong in one.
    class Reader
      def initialize(data, from)
        @data = data
        @from = from
      end

      # @return [Document]
      def document
        unless @data.is_a?(Hash) && @data["format"] == Document::FORMAT
          refuse("is not a shot; a shot file begins with \"format\": \"#{Document::FORMAT}\"",
            "not_a_shot")
        end
        data = migrated
        refuse("has no name of 1 to 80 characters", "bad_shot") unless name?(data["name"])
        rows = data["nodes"]
        refuse("has no list of nodes", "bad_shot") unless rows.is_a?(Array) && rows.size <= Document::MOST_NODES
        nodes = rows.map { |row| node(row) }
        twice = nodes.map(&:id).tally.find { |_, count| count > 1 }
        refuse("has two nodes called #{twice[0]}", "bad_shot") if twice
        document =
          ruled(Document.new(data["name"], Document.blank("").nodes.merge(nodes.to_h { |node| [node.id, node] })), rows)
        document.nodes.each_value { |node| Edits.check_references(document, node) }
        Edits.check_frames(document)
        document
      end

      private

      def migrated
        version = @data["version"]
        refuse("has no version number", "bad_shot") unless version.is_a?(Integer) && version >= 1
        if version > Document::VERSION
          refuse(
            "was saved by a newer Vumbral (version #{version} of the format; this one reads up to " \
              "#{Document::VERSION}); update Vumbral to open it",
            "newer_version"
          )
        end
        (version...Document::VERSION).reduce(@data) { |data, at| Migrations.next(data, at) }
      end

      def node(row)
        refuse("has a node that is not an object", "bad_shot") unless row.is_a?(Hash)
        id = row["id"]
        unless id.is_a?(String) && id.match?(/\A[a-z0-9][a-z0-9-]{0,60}\z/)
          refuse("has a node without a proper id (#{id.inspect[0, 40]})", "bad_shot")
        end
        kind = kind_of(id, row["kind"])
        name = name?(row["name"]) ? row["name"] : kind.label
        values = table(row, "dials", name).to_h { |dial, value|
          [dial.to_sym, kind.dial(dial, name).check(value,
            name)]
        }
        # What stands at its default is not kept.
        values = values.reject { |dial, value| value == kind.dials[dial].default }
        beyond = table(row, "beyond", name)
        curves =
          table(row, "keys", name).to_h do |dial, list|
            [dial.to_sym, KeyEdits.checked_curve(kind.dial(dial, name), list, name, beyond[dial])]
          end
        Node.new(id, kind, name, values, curves.reject { |_, curve| curve.empty? }, switches(kind, row))
      end

      # With formulas, once all that they may ask for is there.
      def ruled(document, rows)
        rows.reduce(document) do |at, row|
          table(row, "formulas", row["id"]).reduce(at) do |after, (name, texts)|
            node = after.node(row["id"])
            dial = node.kind.dial(name, node.name)
            KeyEdits.check_rule(node.kind, dial, node.name)
            KeyEdits.put_rule(after, node, dial, Array(texts))
          end
        end
      end

      def switches(kind, row) = kind.switched? ? Node::SWITCHES.select { |name| row[name.to_s] == true } : []

      # What every shot has one of is found by its id, so that id is for this kind alone.
      def kind_of(id, given)
        kind = Kinds.fetch(given)
        owner = Kinds.all[id.to_sym]
        if kind.single? && id != kind.name.to_s
          refuse("has a node #{id}, but there can be only one #{kind.label.downcase}, called #{kind.name}", "bad_shot")
        elsif owner&.needed? && !owner.equal?(kind)
          refuse(
            "has a #{kind.label.downcase} called #{id}, which is the name of the shot's #{owner.label.downcase}",
            "bad_shot"
          )
        end
        kind
      end

      def table(row, key, name)
        given = row[key] || {}
        given.is_a?(Hash) ? given : refuse("has #{key} of #{name} that are not an object", "bad_shot")
      end

      def name?(given) = given.is_a?(String) && given.match?(Edits::NAME)

      def refuse(reason, code)
        raise Refused.new("#{@from} #{reason}.", code: code)
      end
    end
  end
end
