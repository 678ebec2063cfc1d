# frozen_string_literal: true

module Vumbral
  module Shot
    # Makes a document of saved data, and refuses what does not belong in one.
    class Reader
      # For each old version, what turns its data into the next one's.
      MIGRATIONS = {}.freeze

      def initialize(data, from)
        @data = data
        @from = from
      end

      # @return [Document]
      def document
        refuse("is not a shot; a shot file begins with \"format\": \"#{Document::FORMAT}\"", "not_a_shot") unless @data.is_a?(Hash) && @data["format"] == Document::FORMAT
        data = migrated
        name = data["name"]
        refuse("has no name", "bad_shot") unless name.is_a?(String) && !name.strip.empty?
        rows = data["nodes"]
        refuse("has no list of nodes", "bad_shot") unless rows.is_a?(Array) && rows.size <= Document::MOST_NODES
        document = rows.reduce(Document.blank(name)) { |at, row| at.put(node(row)) }
        document.nodes.each_value { |node| Edits.check_references(document, node) }
        document
      end

      private

      def migrated
        version = @data["version"]
        refuse("has no version number", "bad_shot") unless version.is_a?(Integer) && version >= 1
        if version > Document::VERSION
          refuse("was saved by a newer Vumbral (version #{version} of the format; this one reads up to #{Document::VERSION}); update Vumbral to open it", "newer_version")
        end
        (version...Document::VERSION).reduce(@data) { |data, at| MIGRATIONS.fetch(at).call(data) }
      end

      def node(row)
        refuse("has a node that is not an object", "bad_shot") unless row.is_a?(Hash)
        id = row["id"]
        refuse("has a node without a proper id (#{id.inspect[0, 40]})", "bad_shot") unless id.is_a?(String) && id.match?(/\A[a-z0-9][a-z0-9-]{0,60}\z/)
        kind = Kinds.fetch(row["kind"])
        refuse("has a node #{id}, but there can be only one #{kind.label.downcase}, called #{kind.name}", "bad_shot") if kind.single? && id != kind.name.to_s
        name = row["name"].is_a?(String) ? row["name"] : kind.label
        values = (row["dials"] || {}).to_h { |dial, value| [dial.to_sym, kind.dial(dial, name).check(value, name)] }
        notches = (row["notches"] || {}).to_h { |dial, list| [dial.to_sym, curve(kind.dial(dial, name), list, name)] }
        Node.new(id, kind, name, values, notches.reject { |_, curve| curve.empty? })
      end

      def curve(dial, list, name)
        refuse("has notches of #{name} that are not a list", "bad_shot") unless list.is_a?(Array)
        list.reduce(Curve.new([])) { |curve, row| Edits.notched(dial, curve, row.is_a?(Hash) ? row : {}, name) }
      end

      def refuse(reason, code)
        raise Refused.new("#{@from} #{reason}.", code: code)
      end
    end
  end
end
