# frozen_string_literal: true

module Vumbral
  module Studio
    # Shots and their revisions: nothing that is changed is lost.
    class Shots
      KEPT_REVISIONS = 1000

      def initialize(workshop)
        @workshop = workshop
      end

      # What was taken away is let go after so many seconds.
      KEPT_AWAY = 30 * 24 * 3600

      # @return [Array<Hash>] newest change first, without those taken away
      def list = table.where(away_at: nil).reverse(:changed_at).all

      # @return [Array<Hash>] those taken away, the last one first
      def away = table.exclude(away_at: nil).reverse(:away_at).all

      # @param name [String]
      # @param starter [String] one of {Starters}
      # @param prop [String, nil] digest of a mesh that becomes the source
      # @return [Hash] the new shot's row
      def create(name, starter: "plume", prop: nil)
        document = Starters.build(starter, checked_name(name),
          prop && [prop, *@workshop.assets.fetch(prop).values_at(:facts, :name)])
        keep(document)
      end

      # @param text [String] a saved shot as JSON
      def import(text, from: "The shot file") = keep(Shot::Document.load(text, from: from))

      # @raise [Refused]
      def fetch(id)
        table[id: id.to_s] ||
          raise(
            Refused.new(
              "There is no shot #{id.to_s[0, 60].inspect}; there are: " \
                "#{list.map { |row| row[:id] }.first(20).join(", ")}.",
              code: "unknown_shot"
            )
          )
      end

      # @return [Shot::Document] as it stands
      def document(id)
        row = fetch(id)
        @documents ||= {}
        kept = @documents[row[:id]]
        return kept[1] if kept && kept[0] == stamp(row)

        document = read(revision(row[:id], row[:head])[:document], from: "the shot #{row[:name]}")
        @documents[row[:id]] = [stamp(row), document]
        document
      end

      # @param text [String] a shot that was kept
      # @return [Shot::Document] that sees what was simulated of it
      def read(text, **how) = Shot::Document.load(text, **how).made_by(@workshop.liquids)

      # What changes whenever the shot does; another shot never has it, even under the same name.
      def stamp(row) = row.values_at(:created_at, :head)

      # @return [Hash] a revision's row
      def revision(id, number) = @workshop.db[:revisions].first(shot_id: id, number: number)

      # @return [Array<String, nil>] who made the revisions since one
      def authors_since(id,
        number) = @workshop.db[:revisions].where(shot_id: id).where { |r| r.number > number }.select_map(:by)

      # Changes a shot by edits, all or none.
      # @param head [Integer, nil] the revision that the edits were made on
      # @param by [String, nil] who makes them
      # @return [Hash] {head:, label:, document:}
      # @raise [Refused] "conflict" where somebody else changed the same dials since `head`
      def edit(id, edits, head: nil, by: nil)
        change(id, by) do |document, row|
          changed, label = Shot::Edits.apply(document, edits)
          Conflicts.new(self, row, head: head, by: by).check(edits) if head
          @workshop.machine.check(Gas::Plan.new(changed, :full)) if edits.any? { |edit| chamber?(changed, edit) }
          @workshop.machine.check_liquid(Liquid::Plan.of(changed, :full)) if edits.any? { |edit| edit["node"] && changed.nodes[edit["node"]]&.kind&.name == :liquid }
          [changed, label]
        end
      end

      # Edits that belong together, under words of their own in the undo list.
      def step(id, edits, label, by: nil) =
        change(id, by) { |document, _| [Shot::Edits.apply(document, edits)[0], label] }

      # Takes a whole document's place, as a step that can be undone.
      def replace(id, document, label, by: nil) = change(id, by) { [document, label] }

      # Takes all or some of another state's settings, as a step that can be undone.
      # @param there [Shot::Document]; @param whose [String] what it is called: "print 3"
      # @param rows [Array<Hash>, nil] "node" and perhaps "dial" of each that is wanted, as {Differences} tells them
      # @raise [Refused]
      def take_from(id, there, whose, rows: nil, by: nil)
        return replace(id, there, "Settings of #{whose} brought back", by: by) unless rows

        raise Refused.new("Choose what of #{whose} shall be brought back: a list of rows with a node, and a dial.", code: "bad_value") unless rows.is_a?(Array) && rows.any? && rows.all? { |row| row.is_a?(Hash) && row["node"].is_a?(String) }

        some = Shot::Taking.take(document(id), there, rows.map { |row| [row["node"], row["dial"]&.to_s] })
        replace(id, some, "#{rows.size} #{(rows.size == 1) ? "setting" : "settings"} of #{whose} brought back", by: by)
      end

      # @param by [String, nil] who asks; a step of somebody else's is taken back only if `others` says so
      # @raise [Refused] "others_step" with what that step was
      def undo(id, by: nil, others: true) = walk(id, :parent, "There is nothing to undo.", by, others)

      def redo(id, by: nil) = walk(id, :redo, "There is nothing to redo.", by, true)

      # Goes to any point of the shot's history; what is undone and done again from there on goes by its branch.
      # @raise [Refused]
      def go_to(id, number, by: nil)
        row = nil
        @workshop.db.transaction(mode: :immediate) do
          row = fetch(id)
          there = stood(row[:id], number)
          raise Refused.new("The shot stands there already.", code: "nothing_to_do") if row[:head] == number

          along(row[:id], there)
          row = moved(row, there, "Gone to: #{there[:label]}", by)
        end
        {head: row[:head], label: "Gone to: #{stood(row[:id], number)[:label]}", document: document(row[:id])}
      end

      # @return [Shot::Document] as it stood at a point of its history
      # @raise [Refused]
      def at(id, number) = read(stood(fetch(id)[:id], number)[:document])

      # @return [Hash] what undo and redo would do: labels, or nil
      def steps(id)
        row = fetch(id)
        here = revision(row[:id], row[:head])
        {undo: here[:parent] && here[:label], redo: here[:redo] && revision(row[:id], here[:redo])[:label]}
      end

      def rename(id, name) = edit(id, [{"do" => "rename", "name" => name}])

      def duplicate(id) = keep(document(id).renamed("#{document(id).name} copy"))

      # Takes a shot off the shelf. It keeps all it has until it is put back or let go.
      def take_away(id)
        row = fetch(id)
        @workshop.jobs.cancel_of(row[:id])
        shelve(row, @workshop.now)
      end

      # @raise [Refused] where it was not taken away
      def put_back(id)
        row = fetch(id)
        raise Refused.new("#{row[:name]} stands on the shelf already.", code: "nothing_to_do") unless row[:away_at]

        shelve(row, nil)
      end

      # Ends a shot that was taken away, with its frames, prints and exports. There is no way back.
      # @raise [Refused] while it stands on the shelf
      def let_go(id)
        row = fetch(id)
        unless row[:away_at]
          raise Refused.new("#{row[:name]} stands on the shelf; take it away first.", code: "on_the_shelf")
        end

        @workshop.holdings.clear(row[:id])
        @workshop.db.transaction(mode: :immediate) do
          %i[revisions prints runs strips].each { |name| @workshop.db[name].where(shot_id: row[:id]).delete }
          table.where(id: row[:id]).delete
          @workshop.events.tell("shots", row[:id])
        end
      end

      # Lets go of what was taken away long ago.
      def tidy
        long = @workshop.now - KEPT_AWAY
        away.each { |row| let_go(row[:id]) if row[:away_at] < long }
      end

      private

      def table = @workshop.db[:shots]

      def shelve(row, away_at)
        @workshop.db.transaction(mode: :immediate) do
          table.where(id: row[:id]).update(away_at: away_at)
          @workshop.events.tell("shots", row[:id])
        end
        fetch(row[:id])
      end

      # Whether an edit changes how much there is to compute.
      def chamber?(document, edit)
        edit["kind"] == "annex" || %i[chamber annex].include?(document.nodes[edit["node"]]&.kind&.name)
      end

      def change(id, by)
        row = label = changed = nil
        @workshop.db.transaction(mode: :immediate) do
          row = fetch(id)
          changed, label = yield(document(row[:id]), row)
          row = row.merge(head: advance(row, changed, label, by), name: changed.name)
          @workshop.events.tell("revision", row[:id], head: row[:head], label: label, by: by)
        end
        {head: row[:head], label: label, document: changed}
      end

      def advance(row, document, label, by)
        revisions = @workshop.db[:revisions].where(shot_id: row[:id])
        number = (revisions.max(:number) || 0) + 1
        revisions.insert(shot_id: row[:id], number: number, parent: row[:head], label: label,
          document: document.to_json,
          at: @workshop.now, by: by)
        revisions.where(number: row[:head]).update(redo: number)
        table.where(id: row[:id]).update(head: number, name: document.name, changed_at: @workshop.now,
          moved_by: by)
        prune(row, number) if (number % 100).zero?
        number
      end

      # Lets go of old revisions, but never of one that a run was made of.
      def prune(row, number)
        @workshop.db[:revisions].where(shot_id: row[:id]).where { |r| r.number < number - KEPT_REVISIONS }
          .exclude(number: @workshop.db[:runs].where(shot_id: row[:id]).select(:revision)).delete
      end

      def walk(id, way, otherwise, by, others)
        row = label = nil
        @workshop.db.transaction(mode: :immediate) do
          row = fetch(id)
          here = revision(row[:id], row[:head])
          there = here[way] && revision(row[:id], here[way])
          raise Refused.new(otherwise, code: "nothing_to_do") unless there

          foreign = way == :parent && here[:by] && here[:by] != by
          refuse_others(here) if foreign && !others
          label =
            ((way == :parent) ? "Undone: #{here[:label]}" : "Done again: #{there[:label]}") +
            (foreign ? " (made elsewhere)" : "")
          if way == :parent
            @workshop.db[:revisions].where(shot_id: row[:id], number: there[:number]).update(redo: here[:number])
          end
          row = moved(row, there, label, by)
        end
        {head: row[:head], label: label, document: document(row[:id])}
      end

      # Moves the head to another revision. @return [Hash] the shot's row as it is then
      def moved(row, there, label, by)
        table.where(id: row[:id]).update(
          head: there[:number], name: Shot::Document.load(there[:document]).name, changed_at: @workshop.now,
          moved_by: by
        )
        @workshop.events.tell("revision", row[:id], head: there[:number], label: label, by: by)
        row.merge(head: there[:number])
      end

      # What is done again leads along the branch of a revision.
      def along(id, there)
        below = there
        while below[:parent]
          @workshop.db[:revisions].where(shot_id: id, number: below[:parent]).update(redo: below[:number])
          below = revision(id, below[:parent]) || break
        end
      end

      def stood(id, number)
        revision(id, number) ||
          raise(Refused.new("The shot has no point #{number} in its history any more.", code: "unknown_point"))
      end

      def refuse_others(step)
        ago = [(@workshop.now - step[:at]).round, 0].max
        when_ = (ago < 90) ? "#{ago} seconds" : "#{ago / 60} minutes"
        raise Refused.new(
          "The last step (#{step[:label]}) was made in another window #{when_} ago; undo once more to take it " \
            "back.",
          code: "others_step",
          details: {
            label: step[:label], number: step[:number]
          }
        )
      end

      def keep(document)
        @workshop.machine.check(Gas::Plan.new(document, :full))
        id = nil
        now = @workshop.now
        @workshop.db.transaction(mode: :immediate) do
          id = free_id(document.name)
          @workshop.db[:used_ids].insert(id: id)
          table.insert(id: id, name: document.name, head: 1, created_at: now, changed_at: now)
          @workshop.db[:revisions].insert(shot_id: id, number: 1, label: "New shot", document: document.to_json,
            at: now)
          @workshop.events.tell("shots", id)
        end
        fetch(id)
      end

      # A name that no shot has or ever had.
      def free_id(name)
        base = name.downcase.gsub(/[^a-z0-9]+/, "-").gsub(/\A-+|-+\z/, "")[0, 40]
        base = "shot" if base.empty?
        taken = @workshop.db[:used_ids].select_map(:id).to_set
        ([base] + (2..).lazy.map { |n| "#{base}-#{n}" }.first(taken.size + 1)).find { |id| !taken.include?(id) }
      end

      def checked_name(name)
        name = name.to_s.strip
        return name if name.match?(Shot::Edits::NAME)

        raise Refused.new("A shot needs a name of 1 to 80 characters.", code: "bad_name")
      end
    end
  end
end
