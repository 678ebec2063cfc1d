# frozen_string_literal: true

require "digest"
require "json"

module Vumbral
  module Studio
    # Dials of a thing kept under a name, for others of its kind in any shot, and as files for others.
    class Presets
      FORMAT = "vumbral-preset"
      MOST = 500
      # A picture is a small JPEG in base64.
      PICTURE = (1..80_000)

      def initialize(workshop)
        @workshop = workshop
      end

      # @param kind [String, nil] only those of a kind
      # @return [Array<Hash>] :id, :kind, :name, :dials (how many)
      def list(kind = nil)
        Dir[@workshop.home.within("presets", "*.json")]
          .filter_map { |path| row(path) }
          .select { |row| kind.nil? || row[:kind] == kind }
          .sort_by { |row| [row[:kind], row[:name].downcase] }
      end

      # Keeps what a node's dials are set to, with their keys and formulas; what it refers to in its shot is left out.
      # @param picture [String, nil] what it looks like, see {PICTURE}
      # @return [Hash] as in {#list}
      # @raise [Refused]
      def keep(shot_id, node_id, name, picture: nil)
        node = @workshop.shots.document(shot_id).node(node_id)
        named(name)
        if node.kind.name == :general
          raise Refused.new("#{node.name} is the shot itself; save the shot as a file instead.", code: "bad_edit")
        end

        data = node.to_h.transform_keys(&:to_s)
        own = own(node.kind).keys.map(&:to_s)
        put(
          {
            "format" => FORMAT, "kind" => node.kind.name.to_s, "name" => name,
            "dials" => plain(data["dials"]).slice(*own), "keys" => plain(data["keys"]).slice(*own),
            "formulas" => plain(data["formulas"]).slice(*own), "picture" => pictured(picture)
          }.compact
        )
      end

      # @param text [String] a preset file
      # @return [Hash] as in {#list}
      # @raise [Refused] for what is none
      def bring(text, from)
        data = Formats::JsonText.parse(Formats::Text.utf8(text), from, remedy: "Choose a preset that was saved here.")
        whole =
          data.is_a?(Hash) && data["format"] == FORMAT &&
          %w[dials keys formulas].all? { |part| data.fetch(part, {}).is_a?(Hash) }
        unless whole
          raise Refused.new(
            "#{from} is no preset; choose a file that was saved from a thing's presets.", code: "bad_preset"
          )
        end

        named(data["name"])
        # What does not read in a blank shot would not read in any.
        document, node = blank(data["kind"])
        Shot::Edits.apply(
          document, edits(data, node).then { |all| all.empty? ? [{"do" => "rename", "name" => "Preset"}] : all }
        )
        put(
          data.slice("format", "kind", "name", "dials", "keys", "formulas").merge(
            {"picture" => pictured(data["picture"])}.compact
          )
        )
      end

      # @return [String] the picture of one, a JPEG
      # @raise [Refused] where it has none
      def picture(id) =
        JSON.parse(text(id))["picture"]&.unpack1("m") ||
          raise(Refused.new("This preset has no picture.", code: "no_frame"))

      # @return [String] the file of one
      # @raise [Refused]
      def text(id) = File.read(path(id), encoding: "UTF-8")

      def let_go(id) = FileUtils.rm(path(id))

      # Gives a node of any shot the dials of a preset; its other dials become as they come.
      # @param by [String, nil] who asks, whose step it becomes
      # @raise [Refused] for one of another kind
      def apply(shot_id, node_id, id, by: nil)
        node = @workshop.shots.document(shot_id).node(node_id)
        data = JSON.parse(text(id))
        unless node.kind.name.to_s == data["kind"]
          raise Refused.new("#{data["name"]} is of another kind than #{node.name}.", code: "bad_edit")
        end

        @workshop.shots.step(shot_id, edits(data, node), "#{node.name} as #{data["name"]}", by: by)
      end

      private

      def path(id)
        file = @workshop.home.within("presets", "#{id.to_s[/\A[0-9a-f]{16}\z/] || "none"}.json")
        raise Refused.new("There is no such preset.", code: "unknown_preset") unless File.file?(file)

        file
      end

      def put(data)
        if list.size >= MOST
          raise Refused.new("There are #{MOST} presets already; let some go first.", code: "too_many")
        end

        id = Digest::SHA256.hexdigest("#{data["kind"]} #{data["name"]}")[0, 16]
        row(@workshop.home.write(@workshop.home.within("presets", "#{id}.json"), JSON.pretty_generate(data)))
      end

      def row(path)
        data = JSON.parse(File.read(path, encoding: "UTF-8"))
        {
          id: File.basename(path, ".json"), kind: data["kind"], name: data["name"],
          dials: (data["dials"].keys | data["keys"].keys | data["formulas"].keys).size, picture: data.key?("picture")
        }
      rescue JSON::ParserError, NoMethodError
        # Not written by us, or damaged.
        nil
      end

      # @raise [Refused] for what is no picture
      def pictured(text)
        return if text.nil?
        if text.is_a?(String) && PICTURE.cover?(text.size) && text.match?(%r{\A[A-Za-z0-9+/=\n]+\z}) &&
            Pixels.jpeg?(text.unpack1("m"))
          return text
        end

        raise Refused.new("The picture of a preset is a small JPEG in base64.", code: "bad_picture")
      end

      def plain(hash) = JSON.parse(JSON.generate(hash || {}))

      def named(name)
        unless name.is_a?(String) && name.strip.size.between?(1, 60) && !name.match?(/[\x00-\x1f]/)
          raise Refused.new("A preset needs a name of 1 to 60 letters.", code: "bad_name")
        end
      end

      # An empty shot with a thing of the kind. @return [Array(Shot::Document, Shot::Node)]
      def blank(kind)
        document = Shot::Document.blank("Preset")
        there = document.all_of(kind.to_s.to_sym)[0] and return [document, there]

        document, = Shot::Edits.apply(document, [{"do" => "add", "kind" => kind.to_s, "id" => "it", "name" => "It"}])
        [document, document.node("it")]
      end

      # Dials that mean the same in any shot.
      def own(kind) = kind.dials.reject { |name, dial| dial.reference? || kind.owner == name || name == :order }

      # @param node [Shot::Node] what gets them
      def edits(data, node)
        own(node.kind).flat_map do |name, dial|
          told = {"node" => node.id, "dial" => name.to_s}
          value, keys, texts =
            data["dials"].fetch(name.to_s, dial.default),
            *%w[keys formulas].map { |part| data.fetch(part, {})[name.to_s] }
          next [] if keys.nil? && texts.nil? && !node.curves.key?(name) && node[name] == value

          # What it goes by so far goes first.
          [dial.default, value].uniq.map { |given| told.merge("do" => "set", "value" => given) } +
            Array(keys).map { |key| told.merge("do" => "key").merge(key) } + formulas(told, dial, texts)
        end
      end

      def formulas(told, dial, texts)
        parts = Shot::Rule::PARTS[dial.type] || [nil]
        Array(texts)
          .zip(parts)
          .filter_map do |text, part|
            text && told.merge("do" => "formula", "text" => text).merge(part ? {"part" => part} : {})
          end
      end
    end
  end
end
