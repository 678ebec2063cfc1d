# frozen_string_literal: true

module Vumbral
  module Studio
    # Shots and their revisions: nothing that is changed is lost.
    class Shots
      KEPT_REVISIONS = 1000

      def initialize(workshop)
        @workshop = workshop
      end

      # @return [Array<Hash>] newest change first
      def list = @workshop.db[:shots].reverse(:changed_at).all

      # @param name [String]
      # @param starter [String] one of {Starters}
      # @param prop [String, nil] digest of a mesh that becomes the source
      # @return [Hash] the new shot's row
      def create(name, starter: "plume", prop: nil)
        document = Starters.build(starter, checked_name(name), prop && [prop, @workshop.assets.mesh(prop), @workshop.assets.fetch(prop)[:name]])
        keep(document)
      end

      # @param text [String] a saved shot as JSON
      def import(text, from: "the shot file") = keep(Shot::Document.load(text, from: from))

      # @raise [Refused]
      def fetch(id)
        @workshop.db[:shots][id: id.to_s] || raise(Refused.new("There is no shot #{id.to_s[0, 60].inspect}; there are: #{list.map { |row| row[:id] }.first(20).join(", ")}.", code: "unknown_shot"))
      end

      # @return [Shot::Document] as it stands
      def document(id)
        row = fetch(id)
        @documents ||= {}
        kept = @documents[row[:id]]
        return kept[1] if kept && kept[0] == row[:head]

        document = Shot::Document.load(revision(row[:id], row[:head])[:document], from: "the shot #{row[:name]}")
        @documents[row[:id]] = [row[:head], document]
        document
      end

      # @return [Hash] a revision's row
      def revision(id, number) = @workshop.db[:revisions].first(shot_id: id, number: number)

      # Changes a shot by edits, all or none.
      # @return [Hash] {head:, label:, document:}
      def edit(id, edits)
        change(id) do |document|
          changed, label = Shot::Edits.apply(document, edits)
          @workshop.machine.check(Gas::Plan.new(changed, :full)) if edits.any? { |edit| edit["node"] == "chamber" }
          [changed, label]
        end
      end

      # Takes a whole document's place, as a step that can be undone.
      def replace(id, document, label) = change(id) { [document, label] }

      def undo(id) = walk(id, :parent, "There is nothing to undo.")

      def redo(id) = walk(id, :redo, "There is nothing to redo.")

      # @return [Hash] what undo and redo would do: labels, or nil
      def steps(id)
        row = fetch(id)
        here = revision(row[:id], row[:head])
        {undo: here[:parent] && here[:label], redo: here[:redo] && revision(row[:id], here[:redo])[:label]}
      end

      def rename(id, name) = edit(id, [{"do" => "rename", "name" => name}])

      def duplicate(id) = keep(document(id).renamed("#{document(id).name} copy"))

      def delete(id)
        row = fetch(id)
        @workshop.jobs.cancel_of(row[:id])
        @workshop.db.transaction do
          @workshop.db[:revisions].where(shot_id: row[:id]).delete
          @workshop.db[:prints].where(shot_id: row[:id]).delete
          @workshop.db[:runs].where(shot_id: row[:id]).delete
          @workshop.db[:shots].where(id: row[:id]).delete
        end
        @workshop.events.tell("shots", nil)
      end

      private

      def change(id)
        row = nil
        label = nil
        changed = nil
        @workshop.db.transaction(mode: :immediate) do
          row = fetch(id)
          changed, label = yield document(row[:id])
          head = advance(row, changed, label)
          row = row.merge(head: head, name: changed.name)
        end
        @workshop.events.tell("revision", row[:id], head: row[:head], label: label)
        {head: row[:head], label: label, document: changed}
      end

      def advance(row, document, label)
        db = @workshop.db
        number = (db[:revisions].where(shot_id: row[:id]).max(:number) || 0) + 1
        db[:revisions].insert(shot_id: row[:id], number: number, parent: row[:head], label: label, document: document.to_json, at: @workshop.now)
        db[:revisions].where(shot_id: row[:id], number: row[:head]).update(redo: number)
        db[:shots].where(id: row[:id]).update(head: number, name: document.name, changed_at: @workshop.now)
        old = db[:revisions].where(shot_id: row[:id]).where { |r| r.number < number - KEPT_REVISIONS }
        old.delete if (number % 100).zero?
        number
      end

      def walk(id, way, otherwise)
        row = fetch(id)
        label = nil
        @workshop.db.transaction(mode: :immediate) do
          row = fetch(id)
          here = revision(row[:id], row[:head])
          there = here[way] && revision(row[:id], here[way])
          raise Refused.new(otherwise, code: "nothing_to_do") unless there

          label = (way == :parent) ? "Undone: #{here[:label]}" : "Done again: #{there[:label]}"
          @workshop.db[:revisions].where(shot_id: row[:id], number: there[:number]).update(redo: here[:number]) if way == :parent
          name = Shot::Document.load(there[:document]).name
          @workshop.db[:shots].where(id: row[:id]).update(head: there[:number], name: name, changed_at: @workshop.now)
          row = row.merge(head: there[:number])
        end
        @workshop.events.tell("revision", row[:id], head: row[:head], label: label)
        {head: row[:head], label: label, document: document(row[:id])}
      end

      def keep(document)
        @workshop.machine.check(Gas::Plan.new(document, :full))
        id = free_id(document.name)
        now = @workshop.now
        @workshop.db.transaction(mode: :immediate) do
          @workshop.db[:shots].insert(id: id, name: document.name, head: 1, created_at: now, changed_at: now)
          @workshop.db[:revisions].insert(shot_id: id, number: 1, label: "New shot", document: document.to_json, at: now)
        end
        @workshop.events.tell("shots", id)
        fetch(id)
      end

      def free_id(name)
        base = name.downcase.gsub(/[^a-z0-9]+/, "-").gsub(/\A-+|-+\z/, "")[0, 40]
        base = "shot" if base.empty?
        taken = @workshop.db[:shots].select_map(:id)
        ([base] + (2..).lazy.map { |n| "#{base}-#{n}" }.first(taken.size + 1)).find { |id| !taken.include?(id) }
      end

      def checked_name(name)
        name = name.to_s.strip
        return name if name.match?(/\A[^\x00-\x1f]{1,80}\z/)

        raise Refused.new("A shot needs a name of 1 to 80 characters.", code: "bad_name")
      end
    end
  end
end
